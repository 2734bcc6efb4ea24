import {$} from './page.js';
import {visits} from './visits.js';

// Tones: every control is an address.
const tones = $('#tones');
if (tones) {
  const {visit} = visits(tones);
  tones.addEventListener('click', e => {
    const hit = e.target.closest('[data-place]');
    if (hit) visit(location.pathname + (location.search || '?') + '&touch=' + hit.dataset.place);
  });
  const ask = f => visit(f.getAttribute('action') + '?' + new URLSearchParams(new FormData(f)));
  tones.addEventListener('change', e => {
    const f = e.target.closest('[data-tones-form]');
    if (f) ask(f);
  });
  tones.addEventListener('submit', e => {
    if (!e.target.matches('[data-tones-form]')) return;
    e.preventDefault();
    ask(e.target);
  });
}
