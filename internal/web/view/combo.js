import {$$, whose} from './page.js';

// A field with a list: input[data-list=scales|keys|chords|titles].
//
// The whole list opens where the field is entered, what it holds now marked; it is filtered while one types. The arrow
// keys walk through it, Enter, a click or a tap takes what stands there, Escape puts the list away, and what is typed
// and stands in no list is taken as it is. The server finds, so that "jazz minor" is melodic minor here as elsewhere;
// the titles of a page stand in the element that data-titles names.
let field = null,
  list = null,
  at = -1,
  asked = 0;

const options = () => [...list.children];

function close() {
  list?.remove();
  field?.setAttribute('aria-expanded', 'false');
  field?.removeAttribute('aria-activedescendant');
  field = list = null;
  at = -1;
  asked++;
}

function mark(i) {
  const all = options();
  if (!all.length) return;
  at = (i + all.length) % all.length;
  all.forEach((o, k) => o.setAttribute('aria-selected', k === at));
  field.setAttribute('aria-activedescendant', all[at].id);
  all[at].scrollIntoView({block: 'nearest'});
}

function take(option) {
  const taken = field;
  taken.value = option.dataset.value;
  close();
  taken.dispatchEvent(new Event('change', {bubbles: true}));
}

async function found(typed) {
  if (field.dataset.titles) {
    const all = $$(`#${field.dataset.titles} option`).map(o => ({value: o.value, name: o.value}));
    return all.filter(o => o.name.toLowerCase().includes(typed.toLowerCase()));
  }
  const q = new URLSearchParams({typed, root: field.dataset.root ?? ''});
  const r = await fetch(`/lists/${field.dataset.list}?${q}`, {headers: whose()});
  return r.ok ? r.json() : [];
}

async function show(typed) {
  const mine = ++asked,
    now = field;
  const rows = await found(typed);
  if (mine !== asked || field !== now) return;
  list ??= open();
  list.replaceChildren(
    ...rows.map((row, i) => {
      const o = document.createElement('li');
      o.id = `combo-${i}`;
      o.role = 'option';
      o.dataset.value = row.value;
      o.textContent = row.name;
      o.setAttribute('aria-selected', 'false');
      return o;
    }),
  );
  list.hidden = !rows.length;
  field.setAttribute('aria-expanded', String(rows.length > 0));
  at = -1;
  const same = rows.findIndex(row => row.value.toLowerCase() === field.value.trim().toLowerCase());
  if (same >= 0) {
    list.children[same].classList.add('now');
    list.children[same].scrollIntoView({block: 'nearest'});
  }
}

function open() {
  const ul = document.createElement('ul');
  ul.className = 'combolist';
  ul.id = 'combolist';
  ul.role = 'listbox';
  ul.setAttribute(
    'aria-label',
    field.getAttribute('aria-label') ?? field.closest('label')?.innerText ?? 'Choices',
  );
  ul.addEventListener('pointerdown', e => {
    e.preventDefault(); // the field keeps the keyboard
    const o = e.target.closest('[role=option]');
    if (o) take(o);
  });
  field.after(ul);
  field.setAttribute('aria-controls', ul.id);
  return ul;
}

// The list of a field that is entered; one that has taken something keeps the keyboard and is entered again by a click
// or by the arrow down.
function enter(input) {
  if (input === field && list && !list.hidden) return;
  close();
  field = input;
  field.role = 'combobox';
  field.setAttribute('aria-autocomplete', 'list');
  show('');
}
for (const kind of ['focusin', 'click']) {
  document.addEventListener(kind, e => {
    if (e.target.matches('input[data-list]') && e.target !== field) enter(e.target);
  });
}
document.addEventListener('keydown', e => {
  if (e.key === 'ArrowDown' && e.target.matches?.('input[data-list]') && e.target !== field) enter(e.target);
});
document.addEventListener('focusout', e => {
  if (e.target === field) close();
});
document.addEventListener('input', e => {
  if (!e.target.matches('input[data-list]')) return;
  field ??= e.target;
  show(e.target.value.trim());
});
document.addEventListener(
  'keydown',
  e => {
    if (!field || e.target !== field) return;
    if (e.key === 'ArrowDown' || e.key === 'ArrowUp') {
      e.preventDefault();
      if (list && !list.hidden) mark(at + (e.key === 'ArrowDown' ? 1 : -1));
      else show('');
    } else if (e.key === 'Enter' && list && at >= 0) {
      e.preventDefault();
      e.stopPropagation();
      take(options()[at]);
    } else if (e.key === 'Enter') {
      list?.remove();
      list = null;
    } else if (e.key === 'Escape' && list && !list.hidden) {
      e.stopPropagation();
      e.preventDefault();
      close();
    }
  },
  true,
);
