import {$} from './page.js';

// The notebook takes files that are dropped on it, and a tab that is pasted anywhere on its page.
const take = $('main.notebook form.import');
if (take) {
  let over = 0;
  const files = e => [...(e.dataTransfer?.types || [])].includes('Files');
  document.addEventListener('dragenter', e => {
    if (files(e)) {
      over++;
      document.body.classList.add('dropping');
    }
  });
  document.addEventListener('dragleave', e => {
    if (files(e) && --over <= 0) {
      over = 0;
      document.body.classList.remove('dropping');
    }
  });
  document.addEventListener('dragover', e => {
    if (files(e)) e.preventDefault();
  });
  document.addEventListener('drop', e => {
    if (!files(e)) return;
    e.preventDefault();
    document.body.classList.remove('dropping');
    $('[type=file]', take).files = e.dataTransfer.files;
    take.submit();
  });
  document.addEventListener('paste', e => {
    const text = e.clipboardData?.getData('text/plain') || '';
    if (e.target.matches('input, textarea') || !text.trim()) return;
    $('[name=text]', take).value = text;
    take.submit();
  });
}

// A row's menu is filled when it is opened: fifty of them would weigh more than the rows.
document.addEventListener('show.bs.dropdown', e => {
  const menu = e.target.parentElement.querySelector('[data-menuof]:empty');
  if (!menu) return;
  menu.innerHTML = document
    .querySelector('#lick-menu')
    .innerHTML.replaceAll('/ID/', `/${menu.dataset.menuof}/`)
    .replaceAll('/ID"', `/${menu.dataset.menuof}"`)
    .replaceAll('=ID"', `=${menu.dataset.menuof}"`);
});
