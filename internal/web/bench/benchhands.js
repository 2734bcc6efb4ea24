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

// Other ways to play the line, side by side: hands, strings, places, turns, bends, endings. The bench lends
// where the caret stands, what is chosen, and how a request is sent.
export function proposals({ledger, caret, state, chosen, flush, send, edit}) {
  const ask = {way: '', free: ''};
  let kind = 'hands';
  const asked = () => ({...ask, ...(chosen() || {})});
  const offer = () => {
    const modal = bootstrap.Modal.getOrCreateInstance('#hands');
    if (!$('#offers').children.length) {
      const p = document.createElement('p');
      p.className = 'trying';
      p.textContent = 'Trying other ways…';
      $('#offers').replaceChildren(p);
    } else $('#offers').classList.add('waiting');
    modal.show();
    const [path, values] = kind === 'hands' ? ['/hands', asked()] : ['/ways', {value: kind, note: caret.note, ...(chosen() || {})}];
    return send('GET', path, values).then(() => {
      $('#offers').classList.remove('waiting');
      if ($('#offers .trying')) modal.hide();
      for (const box of $$('#offers .handsbox')) {
        const first = $('.differs', box)?.getBBox();
        if (first && first.x > box.clientWidth - 40) box.scrollLeft = first.x - 60;
      }
      if (document.activeElement === document.body) $('#offers .kinds .on')?.focus();
    });
  };
  const otherPart = what => { flush(); kind = what; offer(); };
  function hands() { ask.way = ask.free = ''; otherPart('hands'); }
  document.addEventListener('click', e => {
    const b = e.target.closest('[data-hands], [data-kind], [data-ask-way], [data-ask-free], [data-take], [data-useturn], [data-findrecipe]');
    if (!b) return;
    if ('hands' in b.dataset) hands();
    else if ('kind' in b.dataset) { kind = b.dataset.kind; offer(); }
    else if ('findrecipe' in b.dataset) { bootstrap.Modal.getInstance('#hands').hide(); flush(); send('GET', '/recipe', {}); }
    else if ('useturn' in b.dataset) {
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
  $('#hands').addEventListener('keydown', e => {
    const by = {ArrowLeft: -1, ArrowRight: 1}[e.key], tabs = $$('#offers .kinds [data-kind]');
    if (!by || !tabs.length || e.target.closest('.handsbox')) return;
    e.preventDefault();
    const to = tabs[(tabs.findIndex(t => t.dataset.kind === kind) + by + tabs.length) % tabs.length];
    kind = to.dataset.kind;
    offer().then(() => $(`#offers [data-kind="${kind}"]`)?.focus());
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
