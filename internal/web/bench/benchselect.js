import {$, $$, showNotice} from './page.js';

// What is selected on the bench: stretches of notes, by keys, by dragging, by touch; and what is done to
// them as a whole: copied, pasted, carried to another place of the line or of the neck.
//
// caret.sel holds the selection as requests write it, "3-8,12-17"; caret.anchor is the note that it was
// begun at with Shift.
export function selection({
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
  draw,
  look,
  go,
  edit,
  flush,
  after,
}) {
  const stored = 'ornamen-clip';
  const ranges = () =>
    caret.sel
      ? caret.sel.split(',').map(r => {
          const [a, b] = r.split('-').map(Number);
          return [a, b || a];
        })
      : [];
  const has = note => ranges().some(([a, b]) => note >= a && note <= b);
  // whole is the hull of the selection, for what takes one stretch.
  const whole = () => {
    const rs = ranges();
    return rs.length ? {from: rs[0][0], upto: rs.at(-1)[1]} : null;
  };

  // between selects whole columns from one note to another.
  function between(a, b) {
    const cols = columns().slice(0, -1),
      last = cols.length - 1;
    if (last < 0) return;
    const at = n => {
      const k = columnOf(n);
      return k < 0 || k > last ? last : k;
    };
    const [i, j] = [at(a), at(b)].sort((x, y) => x - y);
    const notes = cols
      .slice(i, j + 1)
      .flat()
      .map(n => n.note);
    const from = Math.min(...notes),
      upto = Math.max(...notes);
    caret.sel = from === upto ? `${from}` : `${from}-${upto}`;
  }
  function clear() {
    caret.anchor = 0;
    if (caret.sel) {
      caret.sel = '';
      look();
    }
  }

  // One key steps through the figures around the caret; the first one that is more than is selected.
  let steps = {note: 0, list: [], at: -1};
  async function figure() {
    flush();
    await after(async () => {
      if (
        steps.note !== caret.note ||
        !caret.sel ||
        steps.list[steps.at] !== caret.sel ||
        steps.rev !== state().rev
      ) {
        const list = await fetch(
          `${base}/figures?${new URLSearchParams({note: Math.min(caret.note, +state().total)})}`,
        )
          .then(r => (r.ok ? r.json() : []))
          .catch(() => []);
        steps = {note: caret.note, rev: state().rev, list, at: -1};
      }
      if (!steps.list.length) return;
      steps.at = (steps.at + 1) % steps.list.length;
      caret.sel = steps.list[steps.at];
      caret.anchor = 0;
      draw();
      look();
    });
  }

  // paint draws the selection over the ledger.
  const handles = $$('.handle', ledger);
  function paint() {
    const scroll = $('.ledger-scroll', ledger),
      names = $('.ledger-names', ledger).offsetWidth,
      w = +svg().dataset.width,
      h = svg().height.baseVal.value;
    const x = k => names + k * w - scroll.scrollLeft;
    const boxes = ranges().map(([a, b]) => {
      const from = Math.max(names, x(columnOf(a))),
        upto = x(columnOf(b) + 1);
      const box = document.createElement('div');
      box.className = 'chosen-range';
      Object.assign(box.style, {
        transform: `translateX(${from}px)`,
        width: Math.max(0, upto - from) + 'px',
        height: h + 'px',
      });
      return box;
    });
    $('.ranges', ledger).replaceChildren(...boxes);
    const all = whole();
    for (const el of handles) {
      const at = all && x(el.dataset.end === 'from' ? columnOf(all.from) : columnOf(all.upto) + 1);
      el.hidden = !all || ranges().length > 1 || at < names - 4 || at > ledger.clientWidth + 4;
      if (!el.hidden) el.style.transform = `translate(${at - 22}px, ${h / 2 - 22}px)`;
    }
    ledger.classList.toggle('selecting', !!all);
  }

  // ---- dragging on the ledger ----
  const place = e => {
    const box = svg().getBoundingClientRect(),
      w = +svg().dataset.width,
      cols = columns(),
      ls = lanes();
    const x = e.clientX - box.left,
      y = e.clientY - box.top;
    return {
      col: Math.max(0, Math.min(cols.length - 1, Math.floor(x / w))),
      edge: Math.max(0, Math.min(cols.length - 1, Math.round(x / w))),
      lane: ls.find(l => y < l.y + l.h) || ls.at(-1),
      in: e.clientX >= $('.ledger-scroll', ledger).getBoundingClientRect().left,
    };
  };
  const first = k => columns()[k]?.[0].note,
    lastOf = k => (k < 1 ? 0 : Math.max(...columns()[k - 1].map(n => n.note)));
  let drag = null,
    dragged = false;
  function nudge(e) {
    const scroll = $('.ledger-scroll', ledger),
      box = scroll.getBoundingClientRect();
    if (e.clientX > box.right - 30) scroll.scrollLeft += 20;
    else if (e.clientX < box.left + 30) scroll.scrollLeft -= 20;
  }
  ledger.addEventListener('pointerdown', e => {
    dragged = false;
    if (e.button) return;
    const end = e.target.closest('.handle');
    if (end) {
      const all = whole();
      drag = {how: 'select', anchor: end.dataset.end === 'from' ? all.upto : all.from};
      end.setPointerCapture(e.pointerId);
      e.preventDefault();
      return;
    }
    const p = place(e);
    if (!p.in || !e.target.closest('svg.ledger')) return;
    const note = first(p.col);
    if (e.pointerType === 'touch') {
      // A finger that rests selects; one that moves scrolls.
      const hold = setTimeout(() => {
        caret.anchor = 0;
        between(note, note);
        dragged = true;
        draw();
        look();
      }, 450);
      const gone = () => clearTimeout(hold);
      for (const name of ['pointerup', 'pointercancel', 'pointermove'])
        addEventListener(
          name,
          x => {
            if (name !== 'pointermove' || Math.hypot(x.clientX - e.clientX, x.clientY - e.clientY) > 8)
              gone();
          },
          {signal: AbortSignal.timeout(900)},
        );
      return;
    }
    const carried = has(note) && p.lane.name === 'place';
    drag = {
      how: carried ? 'carry' : 'select',
      anchor: note,
      from: p,
      x: e.clientX,
      y: e.clientY,
      began: false,
    };
    if (carried) e.preventDefault();
  });
  addEventListener('pointermove', e => {
    if (!drag) return;
    if (drag.from && !drag.began && Math.hypot(e.clientX - drag.x, e.clientY - drag.y) < 10) return;
    const p = place(e);
    nudge(e);
    if (drag.how === 'select') {
      if (drag.from && !drag.began && p.col === drag.from.col) return;
      drag.began = dragged = true;
      between(drag.anchor, first(p.col));
      caret.note = Math.min(first(p.col), +state().total);
      draw();
      return;
    }
    drag.began = dragged = true;
    drag.to = p;
    const line = $('.dropline', ledger),
      w = +svg().dataset.width,
      scroll = $('.ledger-scroll', ledger);
    drag.strings =
      p.lane.name === 'place' && Math.abs(e.clientX - drag.x) < w / 2
        ? p.lane.string - drag.from.lane.string
        : 0;
    line.hidden = !!drag.strings;
    line.style.transform = `translateX(${$('.ledger-names', ledger).offsetWidth + p.edge * w - scroll.scrollLeft}px)`;
    line.style.height = svg().height.baseVal.value + 'px';
    ledger.dataset.moving = drag.strings
      ? `${Math.abs(drag.strings)} ${drag.strings > 0 ? 'thicker' : 'thinner'}`
      : '';
  });
  function drop() {
    const d = drag;
    drag = null;
    $('.dropline', ledger).hidden = true;
    delete ledger.dataset.moving;
    if (!d || (!d.began && d.from)) return;
    if (d.how === 'select') {
      look();
      return;
    }
    if (d.strings) {
      edit('move', `${d.strings} strings`);
      return;
    }
    const to = lastOf(d.to.edge);
    if (!has(to) || !has(to + 1)) edit('after', to);
  }
  addEventListener('pointerup', drop);
  addEventListener('pointercancel', () => {
    drag = null;
    $('.dropline', ledger).hidden = true;
    delete ledger.dataset.moving;
  });

  // ---- dragging on the neck: a note, or with it all that is selected, to another place ----
  let pulled = null;
  bench.addEventListener('pointerdown', e => {
    const hit = e.target.closest('svg.neck [data-place]');
    pulled = null;
    if (!hit || e.button) return;
    const notes = (
      hit.closest('.played')?.dataset.notes ||
      $(`svg.neck .played[data-at="${hit.dataset.place}"]`)?.dataset.notes ||
      ''
    )
      .split(' ')
      .filter(Boolean)
      .map(Number);
    if (notes.length)
      pulled = {
        place: hit.dataset.place,
        note: notes.includes(caret.note) ? caret.note : notes.find(has) || notes[0],
        x: e.clientX,
        y: e.clientY,
      };
  });
  let undone = false; // the click that ends a pull is none
  addEventListener('pointerup', e => {
    const p = pulled;
    pulled = null;
    if (!p || Math.hypot(e.clientX - p.x, e.clientY - p.y) < 10) return;
    const to = document.elementFromPoint(e.clientX, e.clientY)?.closest('svg.neck [data-place]')
      ?.dataset.place;
    undone = true;
    setTimeout(() => {
      undone = false;
    }, 0);
    if (!to || to === p.place) return;
    const [s, f] = p.place.split(':').map(Number),
      [t, g] = to.split(':').map(Number);
    const moves = [t - s ? `${t - s} strings` : '', g - f ? `${g - f} frets` : ''].filter(Boolean).join(', ');
    if (has(p.note)) edit('move', moves);
    else edit('place', '', {to, note: p.note, sel: ''});
  });

  // ---- the clipboard ----
  const remembered = () => {
    try {
      return JSON.parse(localStorage.getItem(stored) || 'null');
    } catch {
      return null;
    }
  };
  function copy(cut) {
    flush();
    after(async () => {
      const r = await fetch(`${base}/clip?${new URLSearchParams(form())}`, {
        headers: {'HX-Request': 'true'},
      }).catch(() => null);
      if (!r?.ok) {
        showNotice('There is nothing to copy here: stand on a note, or select some.');
        return;
      }
      const clip = await r.json();
      try {
        localStorage.setItem(stored, JSON.stringify(clip));
      } catch {
        /* private */
      }
      await Promise.race([
        navigator.clipboard?.writeText(clip.text).catch(() => {}),
        new Promise(r => setTimeout(r, 300)),
      ]);
      bench.dataset.copied = clip.len;
      const n = clip.lick.notes.length;
      const copied = `Copied: ${n} ${n === 1 ? 'note' : 'notes'}.`;
      if (!cut) showNotice(copied + ' Paste here, in another lick, or as tablature in a mail.');
    });
    if (cut) edit('remove');
  }
  function paste(text) {
    flush();
    const clip = remembered();
    if (clip && (!text || text.trim().replaceAll('\r', '') === clip.text.trim()))
      edit('paste', JSON.stringify(clip.lick), {span: clip.len});
    else if (text) edit('paste', text);
    else showNotice('There is nothing to paste: copy notes first, or tablature from a mail.');
  }
  async function pasteByButton() {
    let text = '';
    try {
      text = await Promise.race([
        navigator.clipboard.readText(),
        new Promise(r => setTimeout(() => r(''), 5000)),
      ]);
    } catch {
      /* not allowed: what was copied here is there */
    }
    after(async () => paste(text));
  }
  const writing = e => e.target.matches?.('input, select, textarea') || $('.modal.show');
  document.addEventListener('paste', e => {
    if (!writing(e)) {
      e.preventDefault();
      const text = e.clipboardData?.getData('text/plain') || '';
      after(async () => paste(text));
    }
  });

  return {
    ranges,
    whole,
    between,
    clear,
    figure,
    paint,
    copy,
    pasteByButton,
    wasDragged: () => {
      const d = dragged;
      dragged = false;
      return d;
    },
    wasPulled: () => undone,
  };
}
