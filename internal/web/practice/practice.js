import {$, $$, showNotice, whose} from './page.js';
import {record} from './record.js';

// Practice: the stand. Two keys, a foot switch that turns pages, or a finger.
const practice = $('#practice');
if (practice) {
  const state = () => $('#practice-state').dataset;
  let since = performance.now(),
    tell = Promise.resolve();
  const rounds = ['clean', 'miss'];
  const say = (what, more = {}) => {
    // What is said between rounds stops neither the sound nor the clock.
    if (what !== 'set') listening.stop();
    const seconds = (performance.now() - since) / 1000;
    if (rounds.includes(what)) since = performance.now();
    const s = state();
    // One at a time, so that no round is written at a tempo that has passed.
    tell = tell.then(() =>
      htmx.ajax('POST', '/practice', {
        source: practice,
        target: '#notice',
        swap: 'none',
        values: {
          do: what,
          minutes: s.minutes,
          set: s.set || 0,
          lick: s.lick || 0,
          part: s.part || '',
          kind: s.kind || '',
          line: s.line || 0,
          tempo: (what === 'raised' || what === 'keep' ? state().wanted : state().tempo) || 0,
          seconds: seconds.toFixed(1),
          ...more,
        },
      }),
    );
  };
  // The clock of the part on the stand: what the log has of today, and the round under way.
  setInterval(() => {
    const clock = $('[data-clock]');
    if (!clock) return;
    const s = +clock.dataset.clock + Math.min(300, (performance.now() - since) / 1000),
      planned = +clock.dataset.planned;
    const time = `${Math.floor(s / 60)}:${String(Math.floor(s % 60)).padStart(2, '0')}`;
    const enough = planned && s >= 60 * planned ? ': enough for today, go on with the next' : '';
    clock.textContent = `${time} ${planned ? `of ${planned} minutes` : 'today'}${enough}`;
  }, 1000);
  practice.addEventListener('click', e => {
    const b = e.target.closest('[data-say]'),
      a = e.target.closest('a[data-tones]');
    const step = e.target.closest('[data-faster]');
    if (b)
      say(b.dataset.say, {
        ...(b.dataset.note ? {note: b.dataset.note} : {}),
        ...(b.dataset.line ? {line: b.dataset.line} : {}),
      });
    if (step) strip.faster(1.05 ** step.dataset.faster);
    if (a && !e.ctrlKey && !e.metaKey && !e.shiftKey) {
      e.preventDefault();
      listening.stop();
      since = performance.now();
      htmx.ajax('GET', a.getAttribute('href'), {source: practice, target: '#notice', swap: 'none'});
    }
  });
  // A bend is sent to the own machine when the key is let go; what comes back is its course.
  const sendBend = async (note, query, body) => {
    const s = state(),
      line = note === 'line';
    const to = line
      ? `/practice/line?lick=${s.lick}&part=${encodeURIComponent(s.part)}&tempo=${s.tempo}`
      : `/practice/bend?lick=${s.lick}&note=${encodeURIComponent(note)}`;
    const r = await fetch(to + query, {
      method: 'POST',
      body,
      headers: {...whose(), 'HX-Request': 'true', 'Content-Type': body ? 'audio/wav' : 'text/plain'},
    });
    const text = await r.text(),
      doc = new DOMParser().parseFromString(text, 'text/html');
    if (!r.ok) return showNotice(doc.querySelector('p')?.textContent || 'That could not be listened to.');
    $(line ? '#line-heard' : '#bend-heard').replaceChildren(...doc.body.childNodes);
  };
  // The key is held while one plays; a tap is no sound, and is told so.
  let recording = null,
    heldSince = 0,
    tapped = false;
  const tooShort = 400; // ms
  function hold(note) {
    if (recording) return;
    heldSince = performance.now();
    tapped = false;
    recording = record(
      wav => {
        if (!tapped) sendBend(note, '', wav);
      },
      text => {
        recording = null;
        showNotice(text);
      },
    );
  }
  const finish = () => {
    const r = recording;
    recording = null;
    tapped = performance.now() - heldSince < tooShort;
    if (tapped) showNotice('Hold the button down while you play, and let go when it is over.');
    r.stop();
  };
  practice.addEventListener('pointerdown', e => {
    const b = e.target.closest('[data-record]');
    if (b) hold(b.dataset.record);
  });
  for (const up of ['pointerup', 'pointercancel', 'blur'])
    addEventListener(up, () => {
      if (recording) finish();
    });
  practice.addEventListener('keydown', e => {
    const b = e.target.closest('[data-record]');
    if (b && (e.key === ' ' || e.key === 'Enter') && !e.repeat) {
      e.preventDefault();
      e.stopPropagation();
      hold(b.dataset.record);
    }
  });
  practice.addEventListener('keyup', e => {
    if (recording && (e.key === ' ' || e.key === 'Enter')) finish();
  });
  practice.addEventListener('click', e => {
    const b = e.target.closest('[data-simulate]');
    if (!b) return;
    const what = b.dataset.simulate;
    const by = what === 'line' ? state().upto : $('#simulate-cents').value || 0;
    sendBend(what, `&simulate=${encodeURIComponent(by)}`);
  });
  const strip = soundStrip($('#transport'), {
    get base() {
      return `/licks/${state().lick}`;
    },
    fields: () => {
      const s = state();
      return {tempo: s.tempo, from: s.from, upto: s.upto, ...(s.back ? {back: true} : {})};
    },
    fill: 'bar',
    // There is one tempo on the stand: what is set for the ear is what is played and logged.
    set: t => {
      if (Math.round(t) !== +state().tempo) say('set', {tempo: Math.round(t)});
    },
    wanted: () => +state().wanted,
    now: () => +state().tempo,
    lit: notes => {
      const first = +state().from;
      for (const g of $$('.stand-line [data-note]'))
        g.classList.toggle('lit', notes.includes(+g.dataset.note + first - 1));
    },
    failed: showNotice,
  });
  document.addEventListener('keydown', e => {
    if (
      e.target.matches('input, select, textarea') ||
      e.ctrlKey ||
      e.metaKey ||
      e.altKey ||
      $('.dropdown-menu.show')
    )
      return;
    const note = /^[1-9]$/.test(e.key) && $$('.asknote [data-note]')[e.key - 1];
    if (note) {
      e.preventDefault();
      note.click();
      return;
    }
    const acts = {
      PageDown: () => $('[data-say=clean]') && say('clean'),
      PageUp: () => $('[data-say=miss]') && say('miss'),
      h: () => $('[data-say=hurts]') && say('hurts'),
      u: () => $('[data-say=undo]') && say('undo'),
      e: () => $('[data-say=easy]') && say('easy'),
      f: () => $('[data-say=fine]') && say('fine'),
      t: () => $('[data-say=tense]') && say('tense'),
      ' ': () => state().lick && strip.toggle(),
      m: () => strip.press('click'),
      g: () => strip.press('band'),
      l: () => strip.press('loop'),
      c: () => strip.press('count'),
      '[': () => strip.faster(1 / 1.05),
      ']': () => strip.faster(1.05),
    };
    const act = acts[e.key] || acts[e.key.toLowerCase()];
    if (act && !(e.target.matches('button, a, summary') && e.key === ' ')) {
      e.preventDefault();
      act();
    }
  });
}

// "It hurts" is the same key on the log.
const hurts = $('.practice-screen form .hurts');
if (hurts)
  document.addEventListener('keydown', e => {
    if (
      e.key.toLowerCase() === 'h' &&
      !e.target.matches('input, select, textarea') &&
      !e.ctrlKey &&
      !e.metaKey &&
      !e.altKey
    ) {
      e.preventDefault();
      hurts.click();
    }
  });
