import {$, $$, showNotice} from './page.js';
import {proposals} from './sheet.js';

// Changes: a line over its chords; what is done comes back as the whole screen.
const overChanges = $('#changes');
if (overChanges) {
  const state = () => $('#changes-state').dataset;
  const at = () => `/licks/${state().lick}`;
  const chord = () => $('.barchord.on', overChanges)?.dataset.chord ?? 0;
  // What was typed gives way to how the changes are written; what was refused stays to be mended.
  const written = () => {
    if (!$('#notice').innerText.trim()) $('#chords').value = $('#chords').defaultValue;
  };
  // Chords alone live in the address: what is changed there is another address.
  const backing = more => {
    const s = state(),
      q = new URLSearchParams({over: s.over, key: s.key, tempo: s.tempo, ...more});
    visit('/backing?' + q).then(written);
  };
  const send = (what, value = '') =>
    'alone' in state()
      ? what === 'chords' && backing({over: value})
      : htmx
          .ajax('POST', `${at()}/changes`, {
            source: overChanges,
            target: '#notice',
            swap: 'none',
            values: {
              rev: state().rev,
              do: what,
              value,
              chord: +chord() + 1,
              by: state().by,
              fret: state().fret,
            },
          })
          .then(written);
  const visit = href => htmx.ajax('GET', href, {source: overChanges, target: '#notice', swap: 'none'});
  overChanges.addEventListener('click', e => {
    const b = e.target.closest('[data-cdo]'),
      a = e.target.closest('a[data-tones]');
    if (b) {
      bootstrap.Dropdown.getInstance(b.closest('.dropdown')?.querySelector('[data-bs-toggle]'))?.hide();
      send(b.dataset.cdo, b.dataset.cvalue);
    }
    if (a && !e.ctrlKey && !e.metaKey && !e.shiftKey) {
      e.preventDefault();
      visit(a.getAttribute('href'));
    }
  });
  // Ways over the chords stand in the sheet of the bench, without its other tabs.
  proposals({
    note: () => 1,
    chosen: () => null,
    flush: () => {},
    kind: 'chords',
    leave: () => {},
    send: (verb, path, values) =>
      htmx.ajax(verb, at() + path, {
        source: overChanges,
        target: '#notice',
        swap: 'none',
        values: {...values, rev: state().rev},
      }),
    edit: (_, value) => send('move', value.replace(/^over:/, '')),
  });
  document.addEventListener('click', e => {
    const b = e.target.closest('[data-hear]');
    if (b) {
      listening.stop();
      strip.begin({once: true, fields: b.dataset.hear ? {turn: b.dataset.hear, note: 1} : {}});
    }
  });
  document.addEventListener('change', e => {
    const i = e.target,
      {addover, backing: field} = i.dataset;
    if (i.matches('[data-chords]')) send('chords', i.value);
    if (addover) send('move', `add:${addover}: ${i.value}`);
    if (field) backing({[field]: i.value});
    for (const word of ['only', 'grip', 'fill'])
      if (i.matches(`[data-${word}]`)) {
        bootstrap.Modal.getInstance('#hands').hide();
        send('move', `${word}:${i.value}`);
        i.value = '';
      }
  });
  const strip = soundStrip($('#transport'), {
    get base() {
      return 'alone' in state() ? '/backing' : at();
    },
    get prefix() {
      return 'alone' in state() ? 'sound-' : '';
    },
    fields: () =>
      'alone' in state() ? {over: state().over, key: state().key, tempo: state().tempo} : {rev: state().rev},
    wanted: () => +state().tempo,
    lit: notes => {
      const over = new Set();
      for (const g of $$('.over[data-note]', overChanges)) {
        const on = notes.includes(+g.dataset.note);
        g.classList.toggle('lit', on);
        if (on) over.add(g.dataset.over);
      }
      // In a rest the chord that sounded last stays lit.
      if (over.size || (!notes.length && !listening.on))
        for (const a of $$('.barchord', overChanges)) a.classList.toggle('lit', over.has(a.dataset.chord));
    },
    failed: showNotice,
  });
  document.addEventListener('keydown', e => {
    const mod = e.ctrlKey || e.metaKey,
      writing = e.target.matches('input, select, textarea');
    if (mod && !e.altKey && !writing && 'zy'.includes(e.key.toLowerCase())) {
      e.preventDefault();
      send(e.key.toLowerCase() === 'y' || e.shiftKey ? 'redo' : 'undo');
      return;
    }
    if (writing || mod || e.altKey || $('.dropdown-menu.show, .modal.show')) return;
    const acts = {
      ArrowLeft: () => $('[data-step="-1"]')?.click(),
      ArrowRight: () => $('[data-step="1"]')?.click(),
      ' ': () => strip.toggle(),
      k: () => {
        $('#chords').focus();
        $('#chords').select();
      },
      m: () => $('#movemenu')?.click(),
      h: () => $('#movemenu')?.click(),
      g: () => strip.press('band'),
      f: () => strip.press('chords'),
      l: () => strip.press('loop'),
      '[': () => strip.faster(1 / 1.05),
      ']': () => strip.faster(1.05),
      '.': () => $('.fix', overChanges)?.click(),
    };
    if (acts[e.key] && !(e.target.matches('button, a') && e.key === ' ')) {
      e.preventDefault();
      acts[e.key]();
    }
  });
}
