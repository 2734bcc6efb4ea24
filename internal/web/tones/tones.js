import {$, $$, showNotice} from './page.js';

// Tones and Runs: every control is an address; the server sends the screen back.
const tones = $('#tones, #runs');
if (tones) {
  let underway = Promise.resolve(); // what is asked for now; keys wait for it, since the links they follow come with it
  const visit = href => underway = htmx.ajax('GET', href, {source: tones, target: '#notice', swap: 'none'});
  tones.addEventListener('click', e => {
    const a = e.target.closest('a[data-tones]');
    if (a && !e.ctrlKey && !e.metaKey && !e.shiftKey) { e.preventDefault(); done(a); visit(a.getAttribute('href')); }
    const more = e.target.closest('[data-offer]');
    if (more) { e.preventDefault(); sayMore(more); }
    const hit = e.target.closest('[data-place]');
    if (hit) visit(location.pathname + (location.search || '?') + '&touch=' + hit.dataset.place);
  });
  // A word's box closes when its word is done.
  const done = el => { const t = el.closest('.dropdown')?.querySelector('[data-bs-toggle]'); if (t) bootstrap.Dropdown.getInstance(t)?.hide(); };
  // Another word is said as it is usual, and its box opens for what is meant instead.
  async function sayMore(a) {
    const field = a.dataset.offer;
    done(a);
    await visit(a.getAttribute('href'));
    const word = $(`[data-word="${field}"]`);
    if (word && $(`[data-run="${field}"]`)) bootstrap.Dropdown.getOrCreateInstance(word).show();
  }
  const ask = f => visit(f.getAttribute('action') + '?' + new URLSearchParams(new FormData(f)));
  tones.addEventListener('change', e => { const f = e.target.closest('[data-tones-form]'); if (f) ask(f); });
  // A digit takes the way to play it that stands in that row.
  document.addEventListener('keydown', async e => {
    if (e.target.matches('input, select, textarea') || e.ctrlKey || e.metaKey || e.altKey || $('.dropdown-menu.show')) return;
    const b = /^[1-9]$/.test(e.key) && $(`.useit[data-digit="${e.key}"]`);
    if (b) { e.preventDefault(); b.click(); }
    // A letter opens its word of the sentence, or the field where it can be said.
    const said = $(`[data-letters] [data-letter="${e.key.toLowerCase()}"]`);
    if (!said) return;
    e.preventDefault();
    await underway;
    if (said.dataset.field === 'then') { $('[data-then]').click(); return; }
    if (said.dataset.field === 'bench') { $('.runactions form .btn').click(); return; }
    const word = $(`[data-word="${said.dataset.field}"]`), offer = $(`[data-offer="${said.dataset.field}"]`);
    if (!word && offer) { sayMore(offer); return; }
    if (!word) { showNotice('This run has no place for that.'); return; }
    bootstrap.Dropdown.getOrCreateInstance(word).show();
    const field = $(`[data-run="${said.dataset.field}"]`);
    field?.focus();
    field?.select();
  });
  // A word of the recipe, typed.
  tones.addEventListener('change', e => {
    if (!e.target.matches('[data-run]')) return;
    done(e.target);
    const q = new URLSearchParams(location.search);
    if (![...q.keys()].some(k => k === 'cell')) for (const i of $$('.runactions [name]')) q.set(i.name, i.value);
    for (const gone of ['use', 'show', 'rekey']) q.delete(gone);
    if (e.target.dataset.run === 'key' && e.target.value.trim()) q.set('rekey', e.target.value);
    else if (e.target.value.trim() || e.target.dataset.run.includes('.')) q.set(e.target.dataset.run, e.target.value);
    else q.delete(e.target.dataset.run);
    visit('/runs?' + q);
  });
  tones.addEventListener('keydown', e => { if (e.key === 'Enter' && e.target.matches('[data-run]')) { e.preventDefault(); const i = e.target; i.blur(); done(i); } });
  tones.addEventListener('shown.bs.dropdown', e => { const i = $('.word-menu.show [data-run]'); if (i && !$('.word-menu.show .more-menu')) { i.focus(); i.select(); } });
  // The run is heard as it is said now; another one stops it.
  if (tones.id === 'runs') {
    const strip = soundStrip($('#transport'), {
      base: '/runs', prefix: 'sound-',
      fields: () => { const q = {}; for (const i of $$('.runactions form[action="/runs/lick"] [name]')) q[i.name] = i.value; return q; },
      wanted: () => +$('[data-word="tempo"]').innerText,
      lit: notes => { for (const g of $$('.runnote')) g.classList.toggle('lit', notes.includes(+g.dataset.note)); }, failed: showNotice,
    });
    document.addEventListener('keydown', e => {
      if (e.target.matches('input, select, textarea, button, a, summary') || e.ctrlKey || e.metaKey || e.altKey || $('.dropdown-menu.show')) return;
      if (e.key === ' ') { e.preventDefault(); strip.toggle(); }
    });
  }
  tones.addEventListener('submit', e => { if (e.target.matches('[data-tones-form]')) { e.preventDefault(); ask(e.target); } });
}
