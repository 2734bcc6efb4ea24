import {$, $$, showNotice, whose} from './page.js';
import {closeMenu, visits} from './visits.js';

// Runs: the recipe is a sentence. A word's menu lists what it can be, filters while one types, and takes what is typed.
const runs = $('#runs');
if (runs) {
  const {visit, settled} = visits(runs);

  // The run that is shown, as an address has it.
  const now = () => {
    const q = new URLSearchParams();
    for (const i of $$('.runactions form[action="/runs/lick"] [name]')) q.set(i.name, i.value);
    for (const gone of ['use', 'show']) q.delete(gone);
    return q;
  };
  const say = (field, to) => {
    const q = now();
    q.set('said', field);
    q.set('to', to);
    return visit('/runs?' + q);
  };
  const offer = field => {
    const q = now();
    q.set('offer', field);
    return visit('/runs?' + q);
  };

  // What a word can be is asked for when its menu opens, and again for what is typed there.
  let asked = 0;
  const list = async (menu, typed = '') => {
    const mine = ++asked;
    const q = now();
    q.set('word', menu.dataset.menu);
    if (typed) q.set('typed', typed);
    const r = await fetch('/runs/words?' + q, {headers: {...whose(), 'HX-Request': 'true'}});
    if (mine !== asked || !r.ok) return;
    $('[data-choices]', menu).innerHTML = await r.text();
    menu.dataset.listed = 'yes';
  };
  const menuOf = e => e.target.closest('.dropdown')?.querySelector('[data-menu]');
  runs.addEventListener('show.bs.dropdown', e => {
    const menu = menuOf(e);
    if (menu) list(menu);
  });
  runs.addEventListener('shown.bs.dropdown', e => {
    const field = menuOf(e)?.querySelector('.wordfield');
    field?.focus();
    field?.select();
  });
  runs.addEventListener('hidden.bs.dropdown', e => {
    const menu = menuOf(e);
    if (!menu) return;
    delete menu.dataset.listed;
    const field = $('.wordfield', menu);
    if (field) field.value = field.defaultValue; // what was typed and not said is forgotten
  });
  let soon;
  runs.addEventListener('input', e => {
    if (!e.target.matches('.wordfield')) return;
    clearTimeout(soon);
    soon = setTimeout(() => list(e.target.closest('[data-menu]'), e.target.value.trim()), 90);
  });
  runs.addEventListener('keydown', e => {
    if (!e.target.matches('[data-run]')) return;
    if (e.key === 'Enter') {
      e.preventDefault();
      clearTimeout(soon);
      const {run} = e.target.dataset,
        {value} = e.target;
      closeMenu(e.target);
      say(run, value.trim());
    }
    if (e.key === 'ArrowDown') {
      e.preventDefault();
      $('.dropdown-item', e.target.closest('[data-menu]'))?.focus();
    }
  });

  // Another word is said as it is usual, and its menu opens for what is meant instead.
  const sayMore = async (field, visited) => {
    await visited;
    const word = $(`[data-word="${field}"]`);
    if (word) bootstrap.Dropdown.getOrCreateInstance(word).show();
  };
  runs.addEventListener('click', e => {
    const more = e.target.closest('[data-offer]');
    if (!more) return;
    e.preventDefault();
    closeMenu(more);
    sayMore(more.dataset.offer, visit(more.getAttribute('href')));
  });

  // A digit takes the way to play it that stands in that row; a letter opens its word of the sentence.
  document.addEventListener('keydown', async e => {
    if (
      e.target.matches('input, select, textarea') ||
      e.ctrlKey ||
      e.metaKey ||
      e.altKey ||
      $('.dropdown-menu.show')
    )
      return;
    const way = /^[1-9]$/.test(e.key) && $(`.useit[data-digit="${e.key}"]`);
    if (way) {
      e.preventDefault();
      way.click();
      return;
    }
    const said = $(`[data-letters] [data-letter="${e.key.toLowerCase()}"]`);
    if (!said) return;
    e.preventDefault();
    await settled();
    const {field} = said.dataset;
    if (field === 'then') return $('[data-then]').click();
    if (field === 'bench') return $('.runactions form .btn').click();
    const word = $(`[data-word="${field}"]`);
    if (word) bootstrap.Dropdown.getOrCreateInstance(word).show();
    else sayMore(field, offer(field));
  });

  // The run is heard as it is said now; another one stops it.
  const strip = soundStrip($('#transport'), {
    base: '/runs',
    prefix: 'sound-',
    fields: () => {
      const q = {};
      for (const i of $$('.runactions form[action="/runs/lick"] [name]')) q[i.name] = i.value;
      return q;
    },
    wanted: () => +$('[data-word="tempo"]').innerText,
    lit: notes => {
      for (const g of $$('.runnote')) g.classList.toggle('lit', notes.includes(+g.dataset.note));
    },
    failed: showNotice,
  });
  document.addEventListener('keydown', e => {
    const busy = e.target.matches('input, select, textarea, button, a, summary') || $('.dropdown-menu.show');
    if (busy || e.ctrlKey || e.metaKey || e.altKey || e.key !== ' ') return;
    e.preventDefault();
    strip.toggle();
  });
}
