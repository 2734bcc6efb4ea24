import {$, $$, showNotice} from './page.js';
import {chordField, lights, listen, teller} from './benchhands.js';
import {selection} from './benchselect.js';
import {proposals} from './sheet.js';

// The bench: the caret, the keys, what is lit. Every change is made by the server, which sends back the
// fragments that changed.
const bench = $('#bench');
if (bench) startBench();

function startBench() {
  const light = lights(bench),
    say = teller();
  const base = `/licks/${bench.dataset.lick}`;
  const ledger = $('#ledger');
  const caret = {}; // note, lane, string, whole
  let typed = '',
    typedTogether = false,
    typedTimer;
  let lookTimer;

  const state = () => $('#state').dataset;
  const svg = () => $('svg.ledger', ledger);
  const lanes = () =>
    svg()
      .dataset.lanes.split(' ')
      .map(s => {
        const [name, string, y, h] = s.split(':');
        return {name, string: +string, y: +y, h: +h};
      });
  // columns as lists of {note, string}, the empty one last.
  const columns = () => {
    const text = svg().dataset.columns;
    const cols = text
      ? text.split(' ').map(c =>
          c.split('+').map(n => {
            const [note, string] = n.split('.');
            return {note: +note, string: +string};
          }),
        )
      : [];
    cols.push([{note: +state().total + 1, string: 0}]);
    return cols;
  };
  const columnOf = note => columns().findIndex(c => c.some(n => n.note === note));
  const laneIndex = () =>
    lanes().findIndex(l => l.name === caret.lane && (l.name !== 'place' || l.string === caret.string));

  // ---- requests ----
  // One at a time and in order; the revision is read when a request is sent.
  const form = () => ({
    note: caret.note,
    lane: caret.lane,
    string: caret.string,
    whole: caret.whole,
    win: caret.win,
    next: caret.next,
    sel: caret.sel || '',
  });
  const hashes = () =>
    $$('[data-part]')
      .map(p => `${p.dataset.part}:${p.dataset.hash}`)
      .join(' ');
  let queue = Promise.resolve(),
    moves = 0;
  const after = act => {
    queue = queue.then(act).catch(() => {});
    return queue;
  };
  // Keys typed ahead: a key means what it means once the answer to the edit before it
  // has come, so while one is on its way the keys wait in order.
  let edits = 0;
  const ahead = [];
  const key = act => {
    if (edits) ahead.push(act);
    else act();
  };
  const settled = () => {
    while (ahead.length && !edits) ahead.shift()();
  };
  const send = (verb, path, values) => {
    const asked = moves;
    if (verb === 'POST') {
      edits++;
      bench.dataset.busy = 'yes';
    }
    queue = queue
      .then(() =>
        htmx.ajax(verb, base + path, {
          source: bench,
          target: '#notice',
          swap: 'none',
          values: {...values, rev: state().rev, have: hashes()},
        }),
      )
      .catch(() => {})
      .then(() => {
        // The server may have moved the caret along with an edit; a player who
        // has walked on meanwhile stays where he is.
        if (verb === 'POST') {
          edits--;
          if (asked === moves) follow();
          if ($('#notice [data-status="409"]')) ahead.length = 0;
        }
        draw();
        settled();
        if (!edits) delete bench.dataset.busy;
        if (!edits && entries.has(values.do)) strip.taste(columns()[columnOf(values.note)]);
      });
    return queue;
  };
  // entries are the edits after which a note is heard as it came to stand.
  const entries = new Set(['place', 'fret', 'add', 'degree', 'otherstring', 'bend', 'bendshape']);
  // A look that waits goes before an edit: its answer would take the edit's sentence away.
  const edit = (what, value = '', more = {}) => {
    if (lookTimer) lookNow();
    return send('POST', '/edit', {...form(), do: what, value, ...more});
  };
  const lookNow = () => {
    clearTimeout(lookTimer);
    lookTimer = 0;
    send('GET', '/at', form());
  };
  const look = () => {
    clearTimeout(lookTimer);
    lookTimer = setTimeout(lookNow, 40);
  };

  document.body.addEventListener('htmx:error', () => {
    ahead.length = 0;
    showNotice('Ornamen does not answer. Nothing was saved by this change; start it again and go on.');
  });
  function follow() {
    const s = state();
    Object.assign(caret, {
      note: +s.note,
      lane: s.lane,
      string: +s.string,
      whole: s.whole === 'true',
      win: s.window,
      next: s.next,
      sel: s.sel,
      anchor: 0,
    });
    into();
  }

  // ---- the caret ----
  function draw() {
    const cols = columns(),
      k = Math.max(0, columnOf(caret.note)),
      ls = lanes(),
      l = ls[Math.max(0, laneIndex())];
    const w = +svg().dataset.width,
      scroll = $('.ledger-scroll', ledger);
    const left = $('.ledger-names', ledger).offsetWidth + k * w - scroll.scrollLeft;
    const place = (el, x, y, width, height, on) => {
      el.hidden = !on;
      el.style.transform = `translate(${x}px, ${y}px)`;
      el.style.width = width + 'px';
      el.style.height = height + 'px';
    };
    picked.paint();
    scroll.tabIndex = scroll.scrollWidth > scroll.clientWidth ? 0 : -1; // what scrolls can be reached by keys
    const seen = left > 40 && left < ledger.clientWidth - 8;
    place($('.caret-column', ledger), left, 0, w, svg().height.baseVal.value, seen);
    place($('.caret-cell', ledger), left, l.y, w, l.h, seen);
    $('.typed', ledger).textContent = typed;
    const keys = caret.sel ? 'selection' : l.name;
    for (const g of $$('.lanekeys')) g.hidden = g.dataset.lane !== keys;
    for (const b of $$('.lanetab')) {
      b.setAttribute('aria-pressed', b.dataset.lanetab === keys);
      b.classList.toggle('on', b.dataset.lanetab === keys);
    }
    inSight($('.lanetab.on'), $('.lanetabs'));
    inSight($('.lanekeys:not([hidden]) .kbd.on'), $('.lanekeys:not([hidden])'));
    light(cols[k] ? cols[k].map(n => n.note) : [], 'chosen');
    say(keys, l);
  }
  // inSight scrolls a row of keys, which only a narrow screen has, to the one that is on.
  function inSight(b, row) {
    if (!b || row.scrollWidth <= row.clientWidth) return;
    const x = b.offsetLeft - row.offsetLeft,
      end = x + b.offsetWidth - row.clientWidth;
    if (row.scrollLeft > x || row.scrollLeft < end)
      row.scrollLeft = x - (row.clientWidth - b.offsetWidth) / 2;
  }
  // into brings the caret's column into sight; only walking does, so that
  // nothing moves under the pointer.
  function into() {
    const scroll = $('.ledger-scroll', ledger),
      w = +svg().dataset.width,
      x = columnOf(caret.note) * w;
    if (x < scroll.scrollLeft + w) scroll.scrollLeft = x - w;
    else if (x + 2 * w > scroll.scrollLeft + scroll.clientWidth)
      scroll.scrollLeft = x + 2 * w - scroll.clientWidth;
  }
  const picked = selection({
    bench,
    ledger,
    caret,
    base,
    form,
    columns,
    columnOf,
    lanes,
    svg,
    state,
    draw: () => draw(),
    look: () => look(),
    go: (...a) => go(...a),
    edit,
    flush: () => flush(),
    after,
  });
  const chosen = picked.whole;
  function go(note, lane, string, selecting) {
    flush();
    moves++;
    const moved = note !== caret.note || !!caret.sel !== !!selecting;
    if (selecting) {
      caret.anchor = caret.anchor || Math.min(caret.note, +state().total);
      picked.between(caret.anchor, note);
    } else {
      caret.anchor = 0;
      caret.sel = '';
    }
    Object.assign(caret, {note, lane, string: string || caret.string});
    into();
    draw();
    if (moved || selecting) look();
  }
  function walk(by, selecting) {
    const notes = columns().flat();
    const i = notes.findIndex(n => n.note === caret.note) + by;
    if (i >= 0 && i < notes.length) onto(notes[i], selecting);
  }
  // onto keeps the lane; in the place lanes the caret follows the note's string.
  function onto(n, selecting) {
    go(n.note, caret.lane, caret.lane === 'place' && n.string ? n.string : caret.string, selecting);
  }
  function climb(by) {
    const ls = lanes(),
      i = Math.max(0, laneIndex()) + by;
    if (i >= 0 && i < ls.length) {
      let note = caret.note;
      const col = columns()[columnOf(note)] || [];
      if (ls[i].name === 'place') note = (col.find(n => n.string === ls[i].string) || {note}).note;
      go(note, ls[i].name, ls[i].string);
    }
  }
  ledger.addEventListener('scroll', draw, true);
  addEventListener('resize', draw);

  ledger.addEventListener('click', e => {
    if (picked.wasDragged() || e.target.closest('.handle')) {
      ledger.focus({preventScroll: true});
      return;
    }
    const box = svg().getBoundingClientRect();
    const x = e.clientX - box.left,
      y = e.clientY - box.top;
    if (e.clientX < $('.ledger-scroll', ledger).getBoundingClientRect().left) return;
    const cols = columns(),
      col = cols[Math.min(cols.length - 1, Math.floor(x / +svg().dataset.width))];
    if (!col) return;
    const ls = lanes(),
      l = ls.find(l => y < l.y + l.h) || ls[ls.length - 1];
    const n = col.find(n => n.string === l.string) || col[0];
    go(n.note, l.name, l.string, e.shiftKey);
    ledger.focus({preventScroll: true});
  });

  // ---- pointer ----
  bench.addEventListener('click', e => {
    const hit = e.target.closest('[data-place]');
    if (hit && picked.wasPulled()) return;
    if (hit) {
      flush();
      edit(e.shiftKey ? 'add' : 'place', '', {to: hit.dataset.place});
      ledger.focus({preventScroll: true});
      return;
    }
    const b = e.target.closest('[data-do], [data-go], [data-note], [data-whole], [data-act], [data-lanetab]');
    if (!b || b.disabled) return;
    if (b.dataset.act) {
      flush();
      verbs[b.dataset.act](b.dataset.value);
      if (b.dataset.act !== 'chord') ledger.focus({preventScroll: true});
      return;
    }
    if (b.dataset.lanetab) {
      go(caret.note, b.dataset.lanetab, caret.string);
      return;
    }
    if (b.dataset.whole) {
      caret.whole = b.dataset.whole === 'yes';
      caret.win = '';
      look();
      return;
    }
    if (b.dataset.note && b.matches('button')) {
      // Pressed again, the notes of a finding are gone through one after the other.
      const notes = (b.closest('[data-notes]')?.dataset.notes ?? b.dataset.note).split(' ').map(Number);
      const to = notes[(notes.indexOf(caret.note) + 1) % notes.length];
      const column = $('.caret-column', ledger);
      column.classList.remove('pointed');
      if (to === caret.note)
        requestAnimationFrame(() => column.classList.add('pointed')); // it is there already
      else go(to, caret.lane);
      ledger.focus({preventScroll: true});
      return;
    }
    if (b.dataset.go) {
      send('POST', '/' + b.dataset.go, form());
      return;
    }
    apply(b);
    if (b.closest('.judgement')) ledger.focus({preventScroll: true});
  });
  bench.addEventListener('change', e => {
    const field = e.target;
    if (!field.dataset.edit) return;
    const moves = field.dataset.edit === 'tonic' && $('[data-along]').value && +state().total;
    if (field.dataset.edit !== 'append') {
      edit(
        moves ? 'transpose' : field.dataset.edit,
        field.dataset.edit === 'title' ? field.value.replace(/\s+/g, ' ') : field.value,
      );
      if (field.dataset.edit === 'paste') {
        field.value = '';
        bootstrap.Dropdown.getOrCreateInstance('#goon').hide();
      }
      return;
    }
    if (!field.value.trim()) return;
    edit('append', field.value, {seam: $('[data-seam]').value});
    field.value = '';
    bootstrap.Dropdown.getOrCreateInstance('#goon').hide();
    ledger.focus({preventScroll: true});
  });
  bench.addEventListener('keydown', e => {
    if (e.target.matches('.title') && (e.key === 'Enter' || e.key === 'Escape')) {
      e.preventDefault();
      e.target.blur();
      ledger.focus();
    }
  });

  const {hands, otherPart, ask} = proposals({
    note: () => caret.note,
    chosen,
    flush,
    send,
    edit,
    leave: () => ledger.focus({preventScroll: true}),
  });

  const typeChord = chordField({ledger, edit});
  $('.morehead').addEventListener('click', e =>
    e.target.setAttribute('aria-expanded', $('.titleline').classList.toggle('open')),
  );

  // ---- keyboard ----
  // A fret may have two digits: 1 to 3 wait a moment for the second.
  function type(digit, together) {
    typed += digit;
    typedTogether = together;
    draw();
    clearTimeout(typedTimer);
    if (typed.length === 2 || typed === '0' || typed > '3') flush();
    else typedTimer = setTimeout(flush, 600);
  }
  function flush() {
    clearTimeout(typedTimer);
    if (typed === '') return;
    const fret = +typed;
    typed = '';
    edit(typedTogether ? 'add' : 'place', '', {to: `${caret.string}:${fret}`});
    draw();
  }
  // verbs are what is done to the note or the selection whatever the lane.
  const verbs = {
    insert: () => edit('insert'),
    remove: rest => edit('remove', rest),
    duplicate: () => edit('duplicate'),
    select: picked.figure,
    unselect: picked.clear,
    copy: () => picked.copy(),
    cut: () => picked.copy(true),
    paste: picked.pasteByButton,
    play: () => strip.toggle(),
    chord: () => typeChord(),
  };
  // apply does what a button says; the length of the next note is the browser's alone.
  function apply(b) {
    if (b.dataset.do === 'fret') {
      flush();
      return edit('place', '', {to: `${caret.string}:${b.dataset.value}`});
    }
    if (b.dataset.do !== 'next') return edit(b.dataset.do, b.dataset.value);
    caret.next = b.dataset.value;
    look();
  }
  function value(digit) {
    const b = $(`.lanekeys[data-lane="${caret.sel ? 'selection' : caret.lane}"] [data-digit="${digit}"]`);
    if (b) apply(b);
  }
  // open shows a menu of the head line and puts the writing into its first field.
  function open(pill, field) {
    flush();
    bootstrap.Dropdown.getOrCreateInstance(pill).show();
    const f = $(field);
    f.focus();
    f.select?.();
  }
  function clear() {
    if (caret.sel) return edit('remove');
    if (caret.lane === 'place' || caret.lane === 'count') return edit('remove');
    if (caret.lane === 'chord') return edit('chord');
    value('0');
  }
  const digitOf = e =>
    /^(Digit|Numpad)\d$/.test(e.code) ? e.code.slice(-1) : /^\d$/.test(e.key) ? e.key : '';

  document.addEventListener('keydown', e => {
    const mod = e.ctrlKey || e.metaKey;
    const writing = e.target.matches('input, select, textarea');
    if (mod && !e.target.matches('input, textarea') && (e.key === 'z' || e.key === 'Z' || e.key === 'y')) {
      e.preventDefault();
      const way = e.key === 'y' || e.shiftKey ? '/redo' : '/undo';
      key(() => {
        flush();
        send('POST', way, form());
      });
      return;
    }
    if (mod && !writing && !$('.modal.show') && (e.key === 'c' || e.key === 'x')) {
      e.preventDefault();
      picked.copy(e.key === 'x');
      return;
    }
    if (writing || e.altKey || $('.modal.show') || $('.dropdown-menu.show')) return;
    if (e.key === '?') {
      e.preventDefault();
      bootstrap.Modal.getOrCreateInstance('#keys').show();
      return;
    }
    if (!ledger.contains(document.activeElement) && document.activeElement !== document.body) return;
    if (caret.lane === 'chord' && !caret.sel && !mod && /^([a-gA-G1-7#♭♯]|Enter)$/.test(e.key)) {
      if (e.key === 'Enter') e.preventDefault();
      typeChord();
      return;
    }
    const digit = digitOf(e);
    const acts = {
      ArrowLeft: () => (mod ? edit('earlier') : walk(-1, e.shiftKey)),
      ArrowRight: () => (mod ? edit('later') : walk(1, e.shiftKey)),
      ' ': () => strip.toggle(),
      '[': () => strip.faster(1 / 1.05),
      ']': () => strip.faster(1.05),
      l: () => strip.press('loop'),
      m: () => strip.press('click'),
      g: () => strip.press('band'),
      f: () => strip.press('chords'),
      h: hands,
      H: hands,
      e: () => otherPart('tail'),
      b: () => otherPart('bend'),
      a: () => open('#goon', '[data-edit=append]'),
      k: () => open('#tones-pill', '[data-edit=tonic]'),
      t: () => open('#count-pill', '[data-edit=tempo]'),
      c: () => go(caret.note, 'count'),
      w: () => value('W'),
      W: () => value('W'),
      x: () => value('X'),
      X: () => value('X'),
      Escape: () => {
        picked.clear();
        draw();
      },
      s: picked.figure,
      S: picked.figure,
      ArrowUp: () => (mod ? edit('otherstring', 'thinner') : climb(-1)),
      ArrowDown: () => (mod ? edit('otherstring', 'thicker') : climb(1)),
      Home: () => onto(columns()[0][0]),
      End: () => onto(columns().at(-1)[0]),
      Enter: () => {
        flush();
        edit(caret.sel ? 'duplicate' : 'insert');
      },
      '+': () => {
        flush();
        edit(caret.sel ? 'duplicate' : 'insert');
      },
      '-': () => edit('remove'),
      _: () => edit('remove', 'rest'),
      '.': () => $('.fix')?.click(),
      Delete: clear,
      Backspace: clear,
    };
    const together = e.shiftKey;
    if (e.key === 'Enter') {
      e.preventDefault();
      key(() => (typed ? flush() : acts.Enter()));
      return;
    }
    if (digit && !mod) {
      e.preventDefault();
      key(() => (caret.lane === 'place' && !caret.sel ? type(digit, together) : value(digit)));
      return;
    }
    if (acts[e.key]) {
      e.preventDefault();
      key(acts[e.key]);
    }
  });

  const strip = listen({base, ledger, caret, state, svg, chosen, columnOf, light, ask});

  follow();
  draw();
  // On a narrow screen the neck scrolls: it begins where the selected note lies, and follows what is played and typed.
  const followNeck = () => {
    const here = $('svg.neck .here'),
      box = $('.part-neck');
    if (!here || box.scrollWidth <= box.clientWidth) return;
    const at = here.getBoundingClientRect(),
      seen = box.getBoundingClientRect();
    if (at.left < seen.left + 24 || at.right > seen.right - 24)
      box.scrollLeft += at.x - seen.x - box.clientWidth / 2;
  };
  followNeck();
  document.addEventListener('htmx:after:swap', () => requestAnimationFrame(followNeck));
  bench.dataset.ready = 'yes';
  if (document.activeElement === document.body) ledger.focus({preventScroll: true});
}
