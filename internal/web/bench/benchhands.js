import {$, $$, showNotice} from './page.js';

// What is lit on ledger and neck: the notes that a finding is about, that sound, that are chosen.
export function lights(bench) {
  function light(notes, cls) {
    for (const el of $$('.' + cls, bench)) el.classList.remove(cls);
    if (cls === 'lit') for (const el of $$('svg.ledger g.col')) if (el.dataset.notes.split(' ').some(n => notes.includes(+n))) el.classList.add(cls);
    if (cls === 'lit') for (const el of $$('svg.neck g.played')) if ((el.dataset.notes || '').split(' ').some(n => notes.includes(+n))) el.classList.add(cls);
  }
  const lightFinding = e => {
    const f = e.target.closest?.('.finding');
    if (f) light(f.dataset.notes.split(' ').map(Number), 'lit');
  };
  bench.addEventListener('pointerover', lightFinding);
  bench.addEventListener('focusin', lightFinding);
  bench.addEventListener('pointerout', e => { if (e.target.closest?.('.finding')) light([], 'lit'); });
  return light;
}

// Proposals side by side: other hands, other tails and bends, turns. The bench lends where
// the caret stands, what is chosen, and how a request is sent.
export function proposals({ledger, caret, state, chosen, flush, send, edit}) {
  const ask = {way: '', free: ''};
  const asked = () => ({...ask, ...(chosen() || {})});
  const offer = (path = '/hands', values = asked()) => {
    const modal = bootstrap.Modal.getOrCreateInstance('#hands');
    if (!$('#offers').children.length) {
      const p = document.createElement('p');
      p.className = 'trying';
      p.textContent = 'Trying hands…';
      $('#offers').replaceChildren(p);
    } else $('#offers').classList.add('waiting');
    modal.show();
    return send('GET', path, values).then(() => {
      $('#offers').classList.remove('waiting');
      if ($('#offers .trying')) modal.hide();
      for (const box of $$('#offers .handsbox')) {
        const first = $('.differs', box)?.getBBox();
        if (first && first.x > box.clientWidth - 40) box.scrollLeft = first.x - 60;
      }
    });
  };
  const otherPart = what => { flush(); offer('/turned', {value: what, note: caret.note}); };
  function hands() { flush(); ask.way = ask.free = ''; offer(); }
  document.addEventListener('click', e => {
    const b = e.target.closest('[data-hands], [data-ask-way], [data-ask-free], [data-take], [data-turn], [data-useturn], [data-findrecipe]');
    if (!b) return;
    if ('hands' in b.dataset) hands();
    else if ('findrecipe' in b.dataset) { flush(); send('GET', '/recipe', {}); }
    else if ('turn' in b.dataset) {
      flush();
      const first = chosen()?.from || 1;
      offer('/turned', {value: b.dataset.turn === 'rotate' ? `rotate:${Math.min(caret.note, +state().total) - first + 1}` : b.dataset.turn, note: caret.note, ...(chosen() || {})});
    } else if ('useturn' in b.dataset) {
      edit('turn', b.dataset.useturn, chosen() || {});
      bootstrap.Modal.getInstance('#hands').hide();
    }
    else if ('take' in b.dataset) {
      edit('take', b.dataset.take, asked());
      bootstrap.Modal.getInstance('#hands').hide();
    } else {
      if ('askWay' in b.dataset) ask.way = b.dataset.askWay;
      else ask.free = b.dataset.askFree;
      offer();
    }
  });
  $('#hands').addEventListener('hidden.bs.modal', () => { $('#offers').replaceChildren(); ledger.focus({preventScroll: true}); });
  return {hands, otherPart, ask};
}

// Listening on the bench: the strip of controls, and what is heard for once.
export function listen({base, ledger, caret, state, svg, chosen, columnOf, light, ask}) {
  const strip = soundStrip($('#transport'), {
    base,
    fields: () => { const c = chosen(); return {rev: state().rev, ...(c ? {from: c.from, upto: c.upto} : {})}; },
    wanted: () => +state().tempo,
    state: s => { ledger.closest('#bench').dataset.playing = s; },
    lit: notes => { light(notes, 'lit'); const k = notes.length ? columnOf(notes[0]) : -1; if (k >= 0) show(k); },
    failed: showNotice,
  });
  // show brings the column that sounds into sight.
  function show(k) {
    const scroll = $('.ledger-scroll', ledger), w = +svg().dataset.width, x = k * w;
    if (x < scroll.scrollLeft || x + 2 * w > scroll.scrollLeft + scroll.clientWidth) scroll.scrollLeft = x - w;
  }
  document.addEventListener('click', e => {
    const b = e.target.closest('[data-hear]');
    if (!b) return;
    listening.stop();
    if (b.dataset.heartake) { strip.begin({once: true, fields: {take: b.dataset.heartake, way: ask.way, free: ask.free}}); return; }
    strip.begin({once: true, fields: b.dataset.hear ? {turn: b.dataset.hear, note: caret.note} : {}});
  });
  return strip;
}

// chordField is where a chord is typed that holds from the caret on; it gives what opens it. The key that
// opens it is its first letter.
export function chordField({ledger, edit}) {
  const field = document.createElement('input');
  field.className = 'chord-field form-control';
  field.hidden = true;
  field.setAttribute('aria-label', 'Chord from this note on');
  ledger.append(field);
  const leave = () => { field.hidden = true; ledger.focus({preventScroll: true}); };
  field.addEventListener('keydown', e => {
    e.stopPropagation();
    if (e.key === 'Enter') { e.preventDefault(); edit('chord', field.value.replace(/^[a-g]/, c => c.toUpperCase())); leave(); }
    else if (e.key === 'Escape') leave();
  });
  field.addEventListener('blur', () => { field.hidden = true; });
  return () => {
    field.hidden = false;
    field.style.transform = $('.caret-cell', ledger).style.transform;
    field.value = '';
    field.focus();
  };
}
