// Only what must move in the browser: the caret, the keys, what is lit. Every
// change is made by the server, which sends back the fragments that changed.
'use strict';

const $ = (sel, root = document) => root.querySelector(sel);
const $$ = (sel, root = document) => [...root.querySelectorAll(sel)];

// Forms outside the bench: a button that posts, a file that submits itself.
document.addEventListener('click', e => {
  const close = e.target.closest('[data-close]');
  if (close) close.closest('.notice-place').replaceChildren();
  const b = e.target.closest('[data-post]');
  if (!b) return;
  const form = document.createElement('form');
  form.method = 'post';
  form.action = b.dataset.post;
  const fields = {};
  for (const a of b.attributes) if (a.name.startsWith('data-v-')) fields[a.name.slice(7)] = a.value;
  for (const [name, value] of Object.entries(fields)) {
    const input = document.createElement('input');
    Object.assign(input, {type: 'hidden', name, value});
    form.append(input);
  }
  document.body.append(form);
  form.submit();
});
document.addEventListener('change', e => { if (e.target.matches('[data-autosubmit]')) e.target.form.submit(); });
document.addEventListener('keydown', e => {
  if ((e.key === 'Enter' || e.key === ' ') && e.target.matches('label[role=button]')) { e.preventDefault(); e.target.click(); }
});

function showNotice(text) {
  const box = document.createElement('div'), p = document.createElement('p');
  box.className = 'notice';
  p.textContent = text;
  box.append(p);
  $('#notice').replaceChildren(box);
}

// A small thing is heard where it stands: a shape, a bend, a file before it is taken in.
document.addEventListener('click', e => {
  const b = e.target.closest('[data-hearat]');
  if (!b) return;
  if (listening.on) { listening.stop(); return; }
  const word = b.textContent;
  listening.start({
    base: b.dataset.hearat, params: () => new URLSearchParams(b.dataset.hearq), loop: () => false, lit: () => {},
    state: s => { b.textContent = s ? 'stop' : word; }, failed: showNotice,
  });
});

// Tones and Runs: every control is an address; the server sends the screen back.
const tones = $('#tones, #runs');
if (tones) {
  const visit = href => htmx.ajax('GET', href, {source: tones, target: '#notice', swap: 'none'});
  tones.addEventListener('click', e => {
    const a = e.target.closest('a[data-tones]');
    if (a && !e.ctrlKey && !e.metaKey && !e.shiftKey) { e.preventDefault(); visit(a.getAttribute('href')); }
    const hit = e.target.closest('[data-place]');
    if (hit) visit(location.pathname + (location.search || '?') + '&touch=' + hit.dataset.place);
  });
  const ask = f => visit(f.getAttribute('action') + '?' + new URLSearchParams(new FormData(f)));
  tones.addEventListener('change', e => { const f = e.target.closest('[data-tones-form]'); if (f) ask(f); });
  // A digit takes the way to play it that stands in that row.
  document.addEventListener('keydown', e => {
    if (e.target.matches('input, select, textarea') || e.ctrlKey || e.metaKey || e.altKey || $('.dropdown-menu.show')) return;
    const b = /^[1-9]$/.test(e.key) && $(`.useit[data-digit="${e.key}"]`);
    if (b) { e.preventDefault(); b.click(); }
    // A letter opens its word of the sentence, or the field where it can be said.
    const said = $(`[data-letters] [data-letter="${e.key.toLowerCase()}"]`);
    if (!said) return;
    e.preventDefault();
    if (said.dataset.field === 'bench') { $('.runactions form .btn').click(); return; }
    const word = $(`[data-word="${said.dataset.field}"]`);
    bootstrap.Dropdown.getOrCreateInstance(word || $('.runword.more')).show();
    const field = $(`[data-run="${said.dataset.field}"]`);
    field?.focus();
    field?.select();
  });
  // A word of the recipe, typed.
  tones.addEventListener('change', e => {
    if (!e.target.matches('[data-run]')) return;
    const toggle = e.target.closest('.dropdown').querySelector('[data-bs-toggle]');
    bootstrap.Dropdown.getInstance(toggle)?.hide();
    const q = new URLSearchParams(location.search);
    if (![...q.keys()].some(k => k === 'cell')) for (const i of $$('.runactions [name]')) q.set(i.name, i.value);
    for (const gone of ['use', 'show']) q.delete(gone);
    if (e.target.value.trim()) q.set(e.target.dataset.run, e.target.value);
    else q.delete(e.target.dataset.run);
    visit('/runs?' + q);
  });
  tones.addEventListener('keydown', e => { if (e.key === 'Enter' && e.target.matches('[data-run]')) { e.preventDefault(); e.target.blur(); } });
  tones.addEventListener('shown.bs.dropdown', e => { const i = $('.word-menu.show [data-run]'); if (i && !$('.word-menu.show .more-menu')) { i.focus(); i.select(); } });
  // The run is heard as it is said now; another one stops it.
  if (tones.id === 'runs') {
    const strip = soundStrip($('#transport'), {
      base: '/runs', prefix: 'sound-',
      fields: () => { const q = {}; for (const i of $$('.runactions form[action="/runs/lick"] [name]')) q[i.name] = i.value; return q; },
      pace: p => { const t = +$('[data-word="tempo"]').innerText, c = +($('.waystable tr.on .big')?.innerText || t); return p === '80' ? 0.8 * c : p === 'third' ? t / 3 : t; },
      lit: notes => { for (const g of $$('.runnote')) g.classList.toggle('lit', notes.includes(+g.dataset.note)); }, failed: showNotice,
    });
    document.addEventListener('keydown', e => {
      if (e.target.matches('input, select, textarea, button, a, summary') || e.ctrlKey || e.metaKey || e.altKey || $('.dropdown-menu.show')) return;
      if (e.key === ' ') { e.preventDefault(); strip.toggle(); }
    });
  }
  tones.addEventListener('submit', e => { if (e.target.matches('[data-tones-form]')) { e.preventDefault(); ask(e.target); } });
}

// Changes: a line over its chords; what is done comes back as the whole screen.
const overChanges = $('#changes');
if (overChanges) {
  const state = () => $('#changes-state').dataset;
  const at = () => `/licks/${state().lick}`;
  const chord = () => $('.barchord.on', overChanges)?.dataset.chord ?? 0;
  // What was typed gives way to how the changes are written; what was refused stays to be mended.
  const written = () => { if (!$('#notice').innerText.trim()) $('#chords').value = $('#chords').defaultValue; };
  const send = (what, value = '') => htmx.ajax('POST', `${at()}/changes`, {source: overChanges, target: '#notice', swap: 'none', values: {rev: state().rev, do: what, value, chord: +chord() + 1, by: state().by}}).then(written);
  const visit = href => htmx.ajax('GET', href, {source: overChanges, target: '#notice', swap: 'none'});
  overChanges.addEventListener('click', e => {
    const b = e.target.closest('[data-cdo]'), a = e.target.closest('a[data-tones]');
    if (b) { bootstrap.Dropdown.getInstance(b.closest('.dropdown')?.querySelector('[data-bs-toggle]'))?.hide(); send(b.dataset.cdo, b.dataset.cvalue); }
    if (a && !e.ctrlKey && !e.metaKey && !e.shiftKey) { e.preventDefault(); visit(a.getAttribute('href')); }
  });
  overChanges.addEventListener('change', e => { if (e.target.matches('[data-chords]')) send('chords', e.target.value); if (e.target.matches('[data-only]')) send('move', `only:${e.target.value}`); });
  const strip = soundStrip($('#transport'), {
    get base() { return at(); },
    fields: () => ({rev: state().rev}),
    pace: p => p === '80' ? 0.8 * (+state().clean || +state().tempo) : p === 'third' ? +state().tempo / 3 : +state().tempo,
    lit: notes => {
      const over = new Set();
      for (const g of $$('.over[data-note]', overChanges)) {
        const on = notes.includes(+g.dataset.note);
        g.classList.toggle('lit', on);
        if (on) over.add(g.dataset.over);
      }
      // In a rest the chord that sounded last stays lit.
      if (over.size || !notes.length && !listening.on) for (const a of $$('.barchord', overChanges)) a.classList.toggle('lit', over.has(a.dataset.chord));
    },
    failed: showNotice,
  });
  document.addEventListener('keydown', e => {
    const mod = e.ctrlKey || e.metaKey, writing = e.target.matches('input, select, textarea');
    if (mod && !e.altKey && !writing && 'zy'.includes(e.key.toLowerCase())) { e.preventDefault(); send(e.key.toLowerCase() === 'y' || e.shiftKey ? 'redo' : 'undo'); return; }
    if (writing || mod || e.altKey || $('.dropdown-menu.show')) return;
    const acts = {
      ArrowLeft: () => $('[data-step="-1"]')?.click(), ArrowRight: () => $('[data-step="1"]')?.click(),
      ' ': () => strip.toggle(), k: () => { $('#chords').focus(); $('#chords').select(); }, m: () => { const d = $('#movemenu'); d.disabled || (bootstrap.Dropdown.getOrCreateInstance(d).show(), d.focus()); },
      g: () => strip.press('band'), f: () => strip.press('chords'), l: () => strip.press('loop'), '[': () => strip.faster(1 / 1.05), ']': () => strip.faster(1.05),
      '.': () => $('.fix', overChanges)?.click(),
    };
    if (acts[e.key] && !(e.target.matches('button, a') && e.key === ' ')) { e.preventDefault(); acts[e.key](); }
  });
}

// Practice: the stand. Two keys, a foot switch that turns pages, or a finger.
const practice = $('#practice');
if (practice) {
  const state = () => $('#practice-state').dataset;
  let since = performance.now(), tell = Promise.resolve();
  const say = (what, more = {}) => {
    listening.stop();
    const seconds = (performance.now() - since) / 1000;
    since = performance.now();
    const s = state();
    // One at a time, so that no round is written at a tempo that has passed.
    tell = tell.then(() => htmx.ajax('POST', '/practice', {source: practice, target: '#notice', swap: 'none', values: {do: what, minutes: s.minutes, lick: s.lick || 0, part: s.part || '', tempo: state().tempo || 0, seconds: seconds.toFixed(1), ...more}}));
  };
  // The clock of the part on the stand: what the log has of today, and the round under way.
  setInterval(() => {
    const clock = $('[data-clock]');
    if (!clock) return;
    const s = +clock.dataset.clock + Math.min(300, (performance.now() - since) / 1000), planned = +clock.dataset.planned;
    clock.textContent = `${Math.floor(s / 60)}:${String(Math.floor(s % 60)).padStart(2, '0')} ${planned ? `of ${planned} minutes` : 'today'}${planned && s >= 60 * planned ? ': enough for today, go on with the next' : ''}`;
  }, 1000);
  practice.addEventListener('click', e => {
    const b = e.target.closest('[data-say]'), a = e.target.closest('a[data-tones]');
    if (b) say(b.dataset.say, b.dataset.note ? {note: b.dataset.note} : {});
    if (a && !e.ctrlKey && !e.metaKey && !e.shiftKey) { e.preventDefault(); listening.stop(); since = performance.now(); htmx.ajax('GET', a.getAttribute('href'), {source: practice, target: '#notice', swap: 'none'}); }
  });
  // A bend is sent to the own machine when the key is let go; what comes back is its course.
  const sendBend = async (note, query, body) => {
    const s = state(), line = note === 'line';
    const to = line ? `/practice/line?lick=${s.lick}&part=${encodeURIComponent(s.part)}&tempo=${s.tempo}` : `/practice/bend?lick=${s.lick}&note=${encodeURIComponent(note)}`;
    const r = await fetch(to + query, {method: 'POST', body, headers: {'HX-Request': 'true', 'Content-Type': body ? 'audio/wav' : 'text/plain'}});
    const text = await r.text(), doc = new DOMParser().parseFromString(text, 'text/html');
    if (!r.ok) return showNotice(doc.querySelector('p')?.textContent || 'That could not be listened to.');
    $(line ? '#line-heard' : '#bend-heard').replaceChildren(...doc.body.childNodes);
  };
  let recording = null;
  async function record(note) {
    if (recording) return;
    recording = {note, parts: [], stop: null, done: false};
    const mine = recording;
    try {
      const stream = await navigator.mediaDevices.getUserMedia({audio: {echoCancellation: false, noiseSuppression: false, autoGainControl: false}});
      const ctx = new AudioContext();
      await ctx.audioWorklet.addModule('/assets/recorder.js');
      const node = new AudioWorkletNode(ctx, 'recorder');
      node.port.onmessage = e => mine.parts.push(e.data);
      ctx.createMediaStreamSource(stream).connect(node);
      mine.stop = () => { for (const t of stream.getTracks()) t.stop(); ctx.close(); return ctx.sampleRate; };
      if (mine.done) finish(mine);
    } catch { recording = null; showNotice('There is no microphone here, or the browser may not use it. The simulated guitar stands in for it.'); }
  }
  function finish(mine) {
    if (!mine.stop) { mine.done = true; return; }
    const rate = mine.stop(), n = mine.parts.reduce((k, p) => k + p.length, 0), b = new DataView(new ArrayBuffer(44 + 2 * n));
    recording = null;
    const word = (at, s) => { for (let i = 0; i < s.length; i++) b.setUint8(at + i, s.charCodeAt(i)); };
    word(0, 'RIFF'); b.setUint32(4, 36 + 2 * n, true); word(8, 'WAVEfmt '); b.setUint32(16, 16, true); b.setUint16(20, 1, true); b.setUint16(22, 1, true);
    b.setUint32(24, rate, true); b.setUint32(28, 2 * rate, true); b.setUint16(32, 2, true); b.setUint16(34, 16, true); word(36, 'data'); b.setUint32(40, 2 * n, true);
    let at = 44;
    for (const p of mine.parts) for (const x of p) { b.setInt16(at, Math.max(-1, Math.min(1, x)) * 32767, true); at += 2; }
    sendBend(mine.note, '', new Blob([b.buffer], {type: 'audio/wav'}));
  }
  practice.addEventListener('pointerdown', e => { const b = e.target.closest('[data-record]'); if (b) record(b.dataset.record); });
  for (const up of ['pointerup', 'pointercancel', 'blur']) addEventListener(up, () => { if (recording) finish(recording); });
  practice.addEventListener('keydown', e => { const b = e.target.closest('[data-record]'); if (b && (e.key === ' ' || e.key === 'Enter') && !e.repeat) { e.preventDefault(); e.stopPropagation(); record(b.dataset.record); } });
  practice.addEventListener('keyup', e => { if (recording && (e.key === ' ' || e.key === 'Enter')) finish(recording); });
  practice.addEventListener('click', e => { const b = e.target.closest('[data-simulate]'); if (b) sendBend(b.dataset.simulate, `&simulate=${encodeURIComponent(b.dataset.simulate === 'line' ? state().upto : $('#simulate-cents').value || 0)}`); });
  const strip = soundStrip($('#transport'), {
    get base() { return `/licks/${state().lick}`; },
    fields: () => { const s = state(); return {tempo: s.tempo, from: s.from, upto: s.upto, ...(s.back ? {back: true} : {})}; },
    pace: p => p === '80' ? 0.8 * +state().clean : p === 'third' ? +state().wanted / 3 : +state().tempo,
    lit: () => {}, failed: showNotice,
  });
  document.addEventListener('keydown', e => {
    if (e.target.matches('input, select, textarea') || e.ctrlKey || e.metaKey || e.altKey || $('.dropdown-menu.show')) return;
    const note = /^[1-9]$/.test(e.key) && $$('.asknote [data-note]')[e.key - 1];
    if (note) { e.preventDefault(); note.click(); return; }
    const acts = {PageDown: () => $('[data-say=clean]') && say('clean'), PageUp: () => $('[data-say=miss]') && say('miss'), h: () => $('[data-say=hurts]') && say('hurts'), u: () => $('[data-say=undo]') && say('undo'),
      ' ': () => state().lick && strip.toggle(), m: () => strip.press('click'), g: () => strip.press('band'), l: () => strip.press('loop'), '[': () => strip.faster(1 / 1.05), ']': () => strip.faster(1.05)};
    const act = acts[e.key] || acts[e.key.toLowerCase()];
    if (act && !(e.target.matches('button, a, summary') && e.key === ' ')) { e.preventDefault(); act(); }
  });
}

// "It hurts" is the same key on the log.
const hurts = $('.practice-screen form .hurts');
if (hurts) document.addEventListener('keydown', e => { if (e.key.toLowerCase() === 'h' && !e.target.matches('input, select, textarea') && !e.ctrlKey && !e.metaKey && !e.altKey) { e.preventDefault(); hurts.click(); } });

// Player: every change is saved when it is made; tapping the beat fills a tempo.
const player = $('#player');
if (player) {
  const post = (path, values) => htmx.ajax('POST', path, {source: player, target: '#notice', swap: 'none', values});
  const save = () => post('/player', Object.fromEntries(new FormData($('#player-form'))));
  player.addEventListener('change', e => { if (e.target.closest('#player-form')) save(); });
  player.addEventListener('submit', e => { e.preventDefault(); save(); });
  let taps = [], done;
  const tap = b => {
    const now = performance.now();
    if (taps.length && now - taps.at(-1) > 2000) taps = [];
    taps.push(now);
    b.classList.add('live');
    const field = $(`[name=${b.dataset.tap}]`), gaps = taps.slice(-9).map((t, i, all) => t - all[i - 1]).slice(1).sort((x, y) => x - y);
    if (gaps.length >= 3) field.value = Math.round(60000 / gaps[gaps.length >> 1]);
    b.textContent = gaps.length >= 3 ? `${field.value}, go on` : 'and again';
    clearTimeout(done);
    done = setTimeout(() => {
      b.classList.remove('live');
      b.textContent = 'Tap the beat';
      if (taps.length > 3) save();
      taps = [];
    }, 2000);
  };
  player.addEventListener('pointerdown', e => { const b = e.target.closest('[data-tap]'); if (b) tap(b); });
  player.addEventListener('keydown', e => { if (e.target.matches('[data-tap]') && (e.key === ' ' || e.key === 'Enter') && !e.repeat) { e.preventDefault(); tap(e.target); } });
  player.addEventListener('click', e => { const b = e.target.closest('[data-player]'); if (b) post(b.dataset.player, {}); });
}

const bench = $('#bench');
if (bench) startBench();

function startBench() {
  const base = `/licks/${bench.dataset.lick}`;
  const ledger = $('#ledger');
  const caret = {};         // note, lane, string, whole
  let typed = '', typedTogether = false, typedTimer;
  let lookTimer;

  const state = () => $('#state').dataset;
  const svg = () => $('svg.ledger', ledger);
  const lanes = () => svg().dataset.lanes.split(' ').map(s => {
    const [name, string, y, h] = s.split(':');
    return {name, string: +string, y: +y, h: +h};
  });
  // columns as lists of {note, string}, the empty one last.
  const columns = () => {
    const text = svg().dataset.columns;
    const cols = text ? text.split(' ').map(c => c.split('+').map(n => { const [note, string] = n.split('.'); return {note: +note, string: +string}; })) : [];
    cols.push([{note: +state().total + 1, string: 0}]);
    return cols;
  };
  const columnOf = note => columns().findIndex(c => c.some(n => n.note === note));
  const laneIndex = () => lanes().findIndex(l => l.name === caret.lane && (l.name !== 'place' || l.string === caret.string));

  // ---- requests ----
  // One at a time and in order; the revision is read when a request is sent.
  const form = () => ({note: caret.note, lane: caret.lane, string: caret.string, whole: caret.whole, win: caret.win, next: caret.next});
  const hashes = () => $$('[data-part]').map(p => `${p.dataset.part}:${p.dataset.hash}`).join(' ');
  let queue = Promise.resolve(), moves = 0;
  // Keys typed ahead: a key means what it means once the answer to the edit before it
  // has come, so while one is on its way the keys wait in order.
  let edits = 0;
  const ahead = [];
  const key = act => { if (edits) ahead.push(act); else act(); };
  const settled = () => { while (ahead.length && !edits) ahead.shift()(); };
  const send = (verb, path, values) => {
    const asked = moves;
    if (verb === 'POST') { edits++; bench.dataset.busy = 'yes'; }
    queue = queue.then(() => htmx.ajax(verb, base + path, {
      source: bench, target: '#notice', swap: 'none',
      values: {...values, rev: state().rev, have: hashes()},
    })).catch(() => {}).then(() => {
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
    });
    return queue;
  };
  // A look that waits goes before an edit: its answer would take the edit's sentence away.
  const edit = (what, value = '', more = {}) => { if (lookTimer) lookNow(); return send('POST', '/edit', {...form(), do: what, value, ...more}); };
  const lookNow = () => { clearTimeout(lookTimer); lookTimer = 0; send('GET', '/at', form()); };
  const look = () => { clearTimeout(lookTimer); lookTimer = setTimeout(lookNow, 40); };

  document.body.addEventListener('htmx:error', () => { ahead.length = 0; showNotice('Ornamen does not answer. Nothing was saved by this change; start it again and go on.'); });
  function follow() {
    const s = state();
    Object.assign(caret, {note: +s.note, lane: s.lane, string: +s.string, whole: s.whole === 'true', win: s.window, next: s.next});
    into();
  }

  // ---- the caret ----
  function draw() {
    const cols = columns(), k = Math.max(0, columnOf(caret.note)), ls = lanes(), l = ls[Math.max(0, laneIndex())];
    const w = +svg().dataset.width, scroll = $('.ledger-scroll', ledger);
    const left = $('.ledger-names', ledger).offsetWidth + k * w - scroll.scrollLeft;
    const place = (el, x, y, width, height, on) => {
      el.hidden = !on;
      el.style.transform = `translate(${x}px, ${y}px)`;
      el.style.width = width + 'px';
      el.style.height = height + 'px';
    };
    const range = chosen(), names = $('.ledger-names', ledger).offsetWidth;
    if (range) {
      const a = columnOf(range.from), b = columnOf(range.upto), x = Math.max(names, names + a * w - scroll.scrollLeft);
      place($('.chosen-range', ledger), x, 0, Math.max(0, names + (b + 1) * w - scroll.scrollLeft - x), svg().height.baseVal.value, true);
    } else place($('.chosen-range', ledger), 0, 0, 0, 0, false);
    const seen = left > 40 && left < ledger.clientWidth - 8;
    place($('.caret-column', ledger), left, 0, w, svg().height.baseVal.value, seen);
    place($('.caret-cell', ledger), left, l.y, w, l.h, seen);
    $('.typed', ledger).textContent = typed;
    for (const g of $$('.lanekeys')) g.hidden = g.dataset.lane !== l.name;
    light(cols[k] ? cols[k].map(n => n.note) : [], 'chosen');
    $('#says').textContent = `${$('.foot h3')?.textContent ?? ''}. ${l.name === 'place' ? 'string ' + l.string : l.name}.`;
  }
  // into brings the caret's column into sight; only walking does, so that
  // nothing moves under the pointer.
  function into() {
    const scroll = $('.ledger-scroll', ledger), w = +svg().dataset.width, x = columnOf(caret.note) * w;
    if (x < scroll.scrollLeft + w) scroll.scrollLeft = x - w;
    else if (x + 2 * w > scroll.scrollLeft + scroll.clientWidth) scroll.scrollLeft = x + 2 * w - scroll.clientWidth;
  }
  // chosen is the selection: the notes from its anchor to the caret.
  function chosen() {
    if (!caret.anchor) return null;
    const last = +state().total, a = Math.min(caret.anchor, caret.note), b = Math.min(last, Math.max(caret.anchor, caret.note));
    return a > last || a === b ? null : {from: a, upto: b};
  }
  function go(note, lane, string, selecting) {
    flush();
    moves++;
    caret.anchor = selecting ? caret.anchor || caret.note : 0;
    const moved = note !== caret.note;
    Object.assign(caret, {note, lane, string: string || caret.string});
    into();
    draw();
    if (moved) look();
  }
  function walk(by, selecting) {
    const notes = columns().flat();
    const i = notes.findIndex(n => n.note === caret.note) + by;
    if (i >= 0 && i < notes.length) onto(notes[i], selecting);
  }
  // onto keeps the lane; in the place lanes the caret follows the note's string.
  function onto(n, selecting) { go(n.note, caret.lane, caret.lane === 'place' && n.string ? n.string : caret.string, selecting); }
  function climb(by) {
    const ls = lanes(), i = Math.max(0, laneIndex()) + by;
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
    const box = svg().getBoundingClientRect();
    const x = e.clientX - box.left, y = e.clientY - box.top;
    if (e.clientX < $('.ledger-scroll', ledger).getBoundingClientRect().left) return;
    const cols = columns(), col = cols[Math.min(cols.length - 1, Math.floor(x / +svg().dataset.width))];
    if (!col) return;
    const ls = lanes(), l = ls.find(l => y < l.y + l.h) || ls[ls.length - 1];
    const n = col.find(n => n.string === l.string) || col[0];
    go(n.note, l.name, l.string, e.shiftKey);
    ledger.focus({preventScroll: true});
  });

  // ---- what a finding is about ----
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

  // ---- pointer ----
  bench.addEventListener('click', e => {
    const hit = e.target.closest('[data-place]');
    if (hit) {
      flush();
      edit(e.shiftKey ? 'add' : 'place', '', {to: hit.dataset.place});
      ledger.focus({preventScroll: true});
      return;
    }
    const b = e.target.closest('[data-do], [data-go], [data-note], [data-whole]');
    if (!b || b.disabled) return;
    if (b.dataset.whole) { caret.whole = b.dataset.whole === 'yes'; caret.win = ''; look(); return; }
    if (b.dataset.note && b.matches('button')) { go(+b.dataset.note, caret.lane); ledger.focus({preventScroll: true}); return; }
    if (b.dataset.go) { send('POST', '/' + b.dataset.go, form()); return; }
    apply(b);
    if (b.closest('.judgement')) ledger.focus({preventScroll: true});
  });
  bench.addEventListener('change', e => {
    const field = e.target;
    if (!field.dataset.edit) return;
    if (field.dataset.edit !== 'append') { edit(field.dataset.edit, field.value); return; }
    if (!field.value.trim()) return;
    edit('append', field.value, {seam: $('[data-seam]').value});
    field.value = '';
    bootstrap.Dropdown.getOrCreateInstance('#goon').hide();
    ledger.focus({preventScroll: true});
  });
  bench.addEventListener('keydown', e => {
    if (e.target.matches('input.title') && (e.key === 'Enter' || e.key === 'Escape')) { e.preventDefault(); e.target.blur(); ledger.focus(); }
  });

  // ---- proposals side by side ----
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

  // A chord is typed where the caret stands; it holds from there on.
  const chordField = document.createElement('input');
  chordField.className = 'chord-field form-control';
  chordField.hidden = true;
  chordField.setAttribute('aria-label', 'Chord from this note on');
  ledger.append(chordField);
  // The key that opens the field is its first letter.
  function typeChord() {
    const cell = $('.caret-cell', ledger);
    chordField.hidden = false;
    chordField.style.transform = cell.style.transform;
    chordField.value = '';
    chordField.focus();
  }
  const leaveChord = () => { chordField.hidden = true; ledger.focus({preventScroll: true}); };
  chordField.addEventListener('keydown', e => {
    e.stopPropagation();
    if (e.key === 'Enter') { e.preventDefault(); edit('chord', chordField.value.replace(/^[a-g]/, c => c.toUpperCase())); leaveChord(); }
    else if (e.key === 'Escape') leaveChord();
  });
  chordField.addEventListener('blur', () => { chordField.hidden = true; });

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
  // apply does what a button says; the length of the next note is the browser's alone.
  function apply(b) {
    if (b.dataset.do !== 'next') return edit(b.dataset.do, b.dataset.value);
    caret.next = b.dataset.value;
    look();
  }
  function value(digit) {
    const b = $(`.lanekeys[data-lane="${caret.lane}"] [data-digit="${digit}"]`);
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
    if (caret.lane === 'place' || caret.lane === 'count') return edit('remove');
    if (caret.lane === 'chord') return edit('chord');
    value('0');
  }
  const digitOf = e => /^(Digit|Numpad)\d$/.test(e.code) ? e.code.slice(-1) : /^\d$/.test(e.key) ? e.key : '';

  document.addEventListener('keydown', e => {
    const mod = e.ctrlKey || e.metaKey;
    const writing = e.target.matches('input, select, textarea');
    if (mod && !writing && (e.key === 'z' || e.key === 'Z' || e.key === 'y')) {
      e.preventDefault();
      const way = e.key === 'y' || e.shiftKey ? '/redo' : '/undo';
      key(() => { flush(); send('POST', way, form()); });
      return;
    }
    // In the hands' dialog a digit takes the offer that stands at that place.
    const take = $('#hands.show') && !writing && !mod && /^[1-9]$/.test(e.key) && $$('#hands .offer')[e.key - 1]?.querySelector('[data-take], [data-useturn]');
    if (take) { e.preventDefault(); take.click(); return; }
    if (writing || e.altKey || $('.modal.show') || $('.dropdown-menu.show')) return;
    if (e.key === '?') { e.preventDefault(); bootstrap.Modal.getOrCreateInstance('#keys').show(); return; }
    if (document.activeElement !== ledger && document.activeElement !== document.body) return;
    if (caret.lane === 'chord' && !mod && /^([a-gA-G1-7#♭♯]|Enter)$/.test(e.key)) { if (e.key === 'Enter') e.preventDefault(); typeChord(); return; }
    const digit = digitOf(e);
    const acts = {
      ArrowLeft: () => mod ? edit('earlier') : walk(-1, e.shiftKey), ArrowRight: () => mod ? edit('later') : walk(1, e.shiftKey),
      ' ': () => strip.toggle(), '[': () => strip.faster(1 / 1.05), ']': () => strip.faster(1.05),
      l: () => strip.press('loop'), m: () => strip.press('click'), g: () => strip.press('band'), f: () => strip.press('chords'),
      h: hands, H: hands, e: () => otherPart('tail'), b: () => otherPart('bend'), a: () => open('#goon', '[data-edit=append]'), k: () => open('#tones-pill', '[data-edit=tonic]'), t: () => open('#count-pill', '[data-edit=tempo]'), c: () => go(caret.note, 'count'), w: () => value('W'), W: () => value('W'), Escape: () => { caret.anchor = 0; draw(); },
      ArrowUp: () => mod ? edit('otherstring', 'thinner') : climb(-1), ArrowDown: () => mod ? edit('otherstring', 'thicker') : climb(1),
      Home: () => onto(columns()[0][0]), End: () => onto(columns().at(-1)[0]),
      Enter: () => { flush(); edit('insert'); }, '+': () => { flush(); edit('insert'); },
      '-': () => edit('remove'), '.': () => $('.fix')?.click(), Delete: clear, Backspace: clear,
    };
    const together = e.shiftKey;
    if (e.key === 'Enter') { e.preventDefault(); key(() => typed ? flush() : acts.Enter()); return; }
    if (digit && !mod) { e.preventDefault(); key(() => caret.lane === 'place' ? type(digit, together) : value(digit)); return; }
    if (acts[e.key]) { e.preventDefault(); key(acts[e.key]); }
  });

  // ---- sound ----
  const strip = soundStrip($('#transport'), {
    base,
    fields: () => { const c = chosen(); return {rev: state().rev, ...(c ? {from: c.from, upto: c.upto} : {})}; },
    pace: p => p === '80' ? 0.8 * (+state().clean || +state().tempo) : p === 'third' ? +state().tempo / 3 : +state().tempo,
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

  follow();
  draw();
  // On a narrow screen the neck scrolls: begin where the selected note lies.
  const here = $('svg.neck .here'), box = $('.part-neck');
  if (here && box.scrollWidth > box.clientWidth) box.scrollLeft += here.getBoundingClientRect().x - box.getBoundingClientRect().x - box.clientWidth / 2;
  bench.dataset.ready = 'yes';
  if (document.activeElement === document.body) ledger.focus({preventScroll: true});
}
