import {$, $$, showNotice, whose} from './page.js';

// What is lit on ledger and neck: the notes that a finding is about, that sound, that are chosen.
export function lights(bench) {
  function light(notes, cls) {
    for (const el of $$('.' + cls, bench)) el.classList.remove(cls);
    if (cls === 'lit')
      for (const el of $$('svg.ledger g.col'))
        if (el.dataset.notes.split(' ').some(n => notes.includes(+n))) el.classList.add(cls);
    if (cls === 'lit')
      for (const el of $$('svg.neck g.played'))
        if ((el.dataset.notes || '').split(' ').some(n => notes.includes(+n))) el.classList.add(cls);
  }
  const lightFinding = e => {
    const f = e.target.closest?.('.finding');
    if (f) light(f.dataset.notes.split(' ').map(Number), 'lit');
  };
  bench.addEventListener('pointerover', lightFinding);
  bench.addEventListener('focusin', lightFinding);
  bench.addEventListener('pointerout', e => {
    if (e.target.closest?.('.finding')) light([], 'lit');
  });
  return light;
}

// What a screen reader says: where the caret is, what the lane holds there, and a verdict that changed, which stays
// said until the caret is elsewhere.
export function teller() {
  let verdict,
    at,
    news = '';
  return (keys, lane) => {
    const value = $$(`.lanekeys[data-lane="${keys}"] .on`)
      .map(b => b.getAttribute('aria-label') || $('span', b)?.textContent || b.textContent)
      .join(', ');
    const now = [$('.verdict h2'), $('.verdict p')]
      .map(e => e?.textContent.replace(/\s+/g, ' ').trim())
      .join('. ');
    const row = lane.name === 'place' ? 'string ' + lane.string : lane.name;
    const here = `${$('.foot h3')?.textContent ?? ''}. ${row}${value ? ': ' + value : ''}.`;
    if (verdict !== undefined && now !== verdict) news = ' ' + now;
    else if (here !== at) news = '';
    [verdict, at] = [now, here];
    const text = here + news;
    if ($('#says').textContent !== text) $('#says').textContent = text;
  };
}

// Listening on the bench: the strip of controls, and what is heard for once.
export function listen({base, ledger, caret, state, svg, chosen, columnOf, light, ask}) {
  const strip = soundStrip($('#transport'), {
    base,
    fields: () => {
      const c = chosen();
      return {rev: state().rev, ...(c ? {from: c.from, upto: c.upto} : {})};
    },
    wanted: () => +state().tempo,
    state: s => {
      ledger.closest('#bench').dataset.playing = s;
    },
    lit: notes => {
      light(notes, 'lit');
      const k = notes.length ? columnOf(notes[0]) : -1;
      if (k >= 0) show(k);
    },
    failed: showNotice,
  });
  // show brings the column that sounds into sight.
  function show(k) {
    const scroll = $('.ledger-scroll', ledger),
      w = +svg().dataset.width,
      x = k * w;
    if (x < scroll.scrollLeft || x + 2 * w > scroll.scrollLeft + scroll.clientWidth)
      scroll.scrollLeft = x - w;
  }
  document.addEventListener('click', e => {
    const b = e.target.closest('[data-hear]');
    if (!b) return;
    listening.stop();
    if (b.dataset.heartake) {
      strip.begin({once: true, fields: {take: b.dataset.heartake, way: ask.way, free: ask.free}});
      return;
    }
    strip.begin({once: true, fields: b.dataset.hear ? {turn: b.dataset.hear, note: caret.note} : {}});
  });
  // A note that was entered is heard at once; that can be turned off, and stays so.
  const entry = $('[data-entry]'),
    kept = 'ornamen-entry';
  const heard = on => {
    entry.setAttribute('aria-pressed', on);
    entry.classList.toggle('on', on);
  };
  try {
    heard(localStorage.getItem(kept) !== 'off');
  } catch {
    heard(true);
  }
  entry.addEventListener('click', () => {
    const on = entry.getAttribute('aria-pressed') !== 'true';
    heard(on);
    try {
      localStorage.setItem(kept, on ? 'on' : 'off');
    } catch {
      /* private */
    }
  });
  let timer;
  strip.taste = column => {
    clearTimeout(timer);
    if (entry.getAttribute('aria-pressed') !== 'true') return;
    const notes = (column || []).map(n => n.note).filter(n => n <= +state().total);
    if (notes.length)
      timer = setTimeout(
        () => listening.taste(base, {rev: state().rev, from: Math.min(...notes), upto: Math.max(...notes)}),
        60,
      );
  };
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
  const leave = () => {
    field.hidden = true;
    ledger.focus({preventScroll: true});
  };
  field.addEventListener('keydown', e => {
    e.stopPropagation();
    if (e.key === 'Enter') {
      e.preventDefault();
      edit(
        'chord',
        field.value.replace(/^[a-g]/, c => c.toUpperCase()),
      );
      leave();
    } else if (e.key === 'Escape') leave();
  });
  field.addEventListener('blur', () => {
    field.hidden = true;
  });
  return () => {
    field.hidden = false;
    field.style.transform = $('.caret-cell', ledger).style.transform;
    field.value = '';
    field.focus();
  };
}

// For whom the line flows is asked when the judgement has been still for a moment; a page that is left asks no more.
const judgement = $('#judgement');
if (judgement) {
  let asking;
  const ask = () => {
    clearTimeout(asking);
    if ($('.whom[data-ask]'))
      asking = setTimeout(async () => {
        const at = $('.whom[data-ask]');
        const r =
          at &&
          (await fetch(at.dataset.ask, {headers: {...whose(), 'HX-Request': 'true'}}).catch(() => null));
        const row = r?.ok && (await r.text().catch(() => ''));
        if (row && at.isConnected) at.outerHTML = row;
      }, 500);
  };
  new MutationObserver(ask).observe(judgement, {childList: true, subtree: true});
  ask();
}
