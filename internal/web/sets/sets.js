import {$, $$, showNotice} from './page.js';

// A set: what is changed is sent at once, with the version that the page shows. Rows are moved by dragging their
// number, by their arrows, or by Shift and the arrow keys.
const set = $('#set');
if (set) {
  const state = () => $('#set-state').dataset;
  let queue = Promise.resolve();
  const send = (what, n, value = '') =>
    (queue = queue
      .then(() =>
        htmx.ajax('POST', `/sets/${state().set}`, {
          source: set,
          target: '#notice',
          swap: 'none',
          values: {do: what, n: n || 0, value, base: state().base},
        }),
      )
      .catch(() => {}));
  const row = el => +el.closest('.setrow')?.dataset.n || 0;
  set.addEventListener('click', e => {
    const b = e.target.closest('button[data-do]');
    if (!b) return;
    const n = row(b),
      what = b.dataset.do;
    send(what, n, b.dataset.value).then(() => {
      const at = what === 'up' ? n - 1 : what === 'down' ? n + 1 : 0;
      if (at) $(`#item-${at} [data-do=${what}]`)?.focus();
    });
  });
  set.addEventListener('change', e => {
    const i = e.target.closest('input[data-do], select[data-do]');
    if (i) send(i.dataset.do, row(i), i.value);
  });
  set.addEventListener('submit', e => {
    const f = e.target.closest('form[data-do]');
    if (!f) return;
    e.preventDefault();
    const field = f.elements.value;
    if (!field.value.trim()) {
      field.focus();
      return;
    }
    const before = $$('.setrow').length;
    send('add', 0, field.value).then(() => {
      if ($$('.setrow').length > before) {
        $('.addline input').value = '';
        $('.addline input').focus();
      }
    });
  });
  set.addEventListener('keydown', e => {
    const r = e.target.closest('.setrow');
    if (e.key === 'Enter' && e.target.matches('.setrow input')) {
      e.target.blur();
      r.focus();
      return;
    }
    if (!r || e.target !== r) return;
    const n = +r.dataset.n,
      by = {ArrowUp: -1, ArrowDown: 1}[e.key];
    if (by && e.shiftKey) {
      e.preventDefault();
      send(by < 0 ? 'up' : 'down', n).then(() => ($(`#item-${n + by}`) || $(`#item-${n}`))?.focus());
    } else if (by) {
      e.preventDefault();
      $(`#item-${n + by}`)?.focus();
    } else if (e.key === 'Delete') {
      e.preventDefault();
      send('remove', n).then(() => ($(`#item-${n}`) || $(`#item-${n - 1}`))?.focus());
    } else if (e.key === 'Enter') $('a', r)?.click();
  });
  document.addEventListener('keydown', e => {
    if (!(e.ctrlKey || e.metaKey) || e.target.matches('input, textarea')) return;
    const key = e.key.toLowerCase();
    const what = key === 'y' || (key === 'z' && e.shiftKey) ? 'redo' : key === 'z' ? 'undo' : '';
    if (!what) return;
    e.preventDefault();
    send(what);
  });
  let dragged = 0;
  set.addEventListener('dragstart', e => {
    dragged = row(e.target);
    e.dataTransfer.effectAllowed = 'move';
    e.dataTransfer.setData('text/plain', String(dragged));
  });
  set.addEventListener('dragover', e => {
    const r = e.target.closest('.setrow');
    if (!dragged || !r) return;
    e.preventDefault();
    $$('.setrow.over').forEach(x => x.classList.toggle('over', x === r));
    r.classList.add('over');
  });
  set.addEventListener('drop', e => {
    const to = row(e.target);
    $$('.setrow.over').forEach(x => x.classList.remove('over'));
    if (!dragged || !to) return;
    e.preventDefault();
    if (to !== dragged) send('to', dragged, to);
    dragged = 0;
  });
  set.addEventListener('dragend', () => {
    dragged = 0;
    $$('.setrow.over').forEach(x => x.classList.remove('over'));
  });
}

// Playing through: one lick after the other, by keys or by ear.
const through = $('#through');
if (through) {
  const state = () => $('#through-state').dataset;
  let all = false,
    stopped = true;
  const go = n =>
    +n
      ? htmx.ajax('GET', `/sets/${state().set}/through?n=${n}`, {
          source: through,
          target: '#notice',
          swap: 'none',
        })
      : Promise.resolve();
  const words = on =>
    $$('[data-through]').forEach(b => {
      b.textContent = on ? 'Stop' : b.dataset.through === 'all' ? 'Hear all' : 'Hear it';
    });
  const hear = () => {
    stopped = false;
    const s = state();
    listening.start({
      base: `/licks/${s.lick}`,
      params: () => new URLSearchParams({tempo: s.tempo, count: 'true'}),
      loop: () => false,
      lit: () => {},
      state: w => {
        words(w);
        if (w || stopped) return;
        // It has ended by itself: on to the next one, or it was the last.
        if (all && +state().next) go(state().next).then(hear);
        else {
          all = false;
          stopped = true;
        }
      },
      failed: text => {
        all = false;
        stopped = true;
        showNotice(text);
      },
    });
  };
  const halt = () => {
    all = false;
    stopped = true;
    listening.stop();
    words('');
  };
  const step = n => {
    const on = all;
    halt();
    go(n).then(() => {
      if (on) {
        all = true;
        hear();
      }
    });
  };
  through.addEventListener('click', e => {
    const b = e.target.closest('[data-step], [data-through]');
    if (!b) return;
    if ('step' in b.dataset) step(b.dataset.step);
    else if (!stopped) halt();
    else {
      all = b.dataset.through === 'all';
      hear();
    }
  });
  document.addEventListener('keydown', e => {
    if (e.ctrlKey || e.metaKey || e.altKey || e.target.matches('input, select, textarea')) return;
    if (e.key === 'ArrowRight' || e.key === 'PageDown') {
      e.preventDefault();
      if (+state().next) step(state().next);
    } else if (e.key === 'ArrowLeft' || e.key === 'PageUp') {
      e.preventDefault();
      if (+state().prev) step(state().prev);
    } else if (e.key === ' ' && !e.target.matches('button')) {
      e.preventDefault();
      if (!stopped) halt();
      else {
        all = false;
        hear();
      }
    }
  });
}
