// What every screen needs: finding elements, a sentence for the player, forms that submit themselves,
// small things that are heard where they stand.
export const $ = (sel, root = document) => root.querySelector(sel);
export const $$ = (sel, root = document) => [...root.querySelectorAll(sel)];

// Whose page this is: a request is answered for that player, whoever is chosen in another tab meanwhile.
export const whose = () => ({'Ornamen-Player': document.body.dataset.player});
document.addEventListener('htmx:config:request', e => {
  Object.assign(e.detail.ctx.request.headers, whose());
});

// Forms outside the bench: a button that posts, a file that submits itself.
document.addEventListener('click', e => {
  const close = e.target.closest('[data-close]');
  if (close) close.closest('.notice-place').replaceChildren();
  const b = e.target.closest('[data-post]');
  if (!b) return;
  const form = document.createElement('form');
  form.method = 'post';
  form.action = b.dataset.post;
  const fields = {};
  for (const a of b.attributes) if (a.name.startsWith('data-v-')) fields[a.name.slice(7)] = a.value;
  for (const [name, value] of Object.entries(fields)) {
    const input = document.createElement('input');
    Object.assign(input, {type: 'hidden', name, value});
    form.append(input);
  }
  document.body.append(form);
  form.submit();
});
document.addEventListener('change', e => {
  if (e.target.matches('[data-autosubmit]')) e.target.form.submit();
});
document.addEventListener('keydown', e => {
  if ((e.key === 'Enter' || e.key === ' ') && e.target.matches('label[role=button]')) {
    e.preventDefault();
    e.target.click();
  }
});

export function showNotice(text) {
  const box = document.createElement('div'),
    p = document.createElement('p');
  box.className = 'notice';
  p.textContent = text;
  box.append(p);
  $('#notice').replaceChildren(box);
}

// A small thing is heard where it stands: a shape, a bend, a file before it is taken in.
document.addEventListener('click', e => {
  const b = e.target.closest('[data-hearat]');
  if (!b) return;
  if (listening.on) {
    listening.stop();
    return;
  }
  const word = b.textContent;
  listening.start({
    base: b.dataset.hearat,
    params: () => new URLSearchParams(b.dataset.hearq),
    loop: () => false,
    lit: () => {},
    state: s => {
      b.textContent = s ? 'stop' : word;
    },
    failed: showNotice,
  });
});

// A word that explains itself: by pointer, by focus, by a tap. Escape puts it away.
if (window.bootstrap)
  new bootstrap.Tooltip(document.body, {
    selector: '.term',
    trigger: 'hover focus',
    placement: 'bottom',
    customClass: 'explained',
    animation: false,
  });
document.addEventListener('keydown', e => {
  if (e.key === 'Escape' && document.activeElement?.matches('.term')) document.activeElement.blur();
});
