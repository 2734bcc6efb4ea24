// Hearing a line: the server computes the samples, the browser plays them as they come. The
// audio clock says when: a round follows the one before it to the sample, and what is lit
// is read from the same clock.
'use strict';

const listening = (() => {
  const rate = 44100,
    ahead = 0.9,
    first = 2205,
    piece = 11025;
  let ctx,
    session = null;
  const log = []; // notes that were lit: when they were due and when it was done, in s

  // start plays what = {base, params(round), loop(), lit(notes), state(words), failed(text)}.
  async function start(what) {
    stop();
    const AudioContext = window.AudioContext || window.webkitAudioContext;
    if (!AudioContext) return what.failed('This browser makes no sound.');
    ctx ||= new AudioContext({sampleRate: rate});
    const s = (session = {
      what,
      sources: new Set(),
      rounds: [],
      next: null,
      end: Infinity,
      busy: false,
      number: 0,
      gone: new AbortController(),
    });
    what.state('playing');
    // A phone that lies on the stand keeps its screen on meanwhile, where it can.
    navigator.wakeLock
      ?.request('screen')
      .then(l => {
        if (session === s) s.awake = l;
        else l.release();
      })
      .catch(() => {});
    await Promise.race([ctx.resume(), new Promise(r => setTimeout(r, 1500))]);
    if (session !== s) return;
    if (ctx.state !== 'running') {
      stop();
      return what.failed(
        'There is no sound on this machine, or the browser does not allow it yet. Press play again.',
      );
    }
    tick(s);
    await round(s, 0);
  }

  // round fetches and plays a round; it begins where the one before it ends.
  async function round(s, number) {
    if (s.busy) return;
    s.busy = true;
    try {
      const q = s.what.params(number),
        loop = s.what.loop();
      const asked = {signal: s.gone.signal, headers: {'HX-Request': 'true'}};
      const [times, wav] = await Promise.all([
        fetch(`${s.what.base}/sounding?${q}`, asked),
        fetch(`${s.what.base}/sound.wav?${q}`, asked),
      ]);
      if (!times.ok || !wav.ok) {
        const text = new DOMParser()
          .parseFromString(await (times.ok ? wav : times).text(), 'text/html')
          .querySelector('p')?.textContent;
        stop();
        return s.what.failed(text || 'That cannot be heard.');
      }
      const t = await times.json();
      // A loop's round ends where the next begins; at the end of a line the strings ring on.
      const most = loop ? Math.round((t.begins + t.round) * rate) : Infinity;
      await stream(s, wav.body.getReader(), t, most);
      if (!loop) s.end = s.next;
    } catch (e) {
      if (session === s) {
        stop();
        if (e.name !== 'AbortError') s.what.failed('Ornamen does not answer; start it again and go on.');
      }
    } finally {
      s.busy = false;
    }
  }

  async function stream(s, reader, t, most) {
    let bytes = new Uint8Array(0),
      skip = 44,
      sent = 0,
      start = null;
    const send = n => {
      n = Math.min(n, most - sent);
      if (n <= 0 || session !== s) return;
      const buffer = ctx.createBuffer(1, n, rate),
        out = buffer.getChannelData(0);
      const view = new DataView(bytes.buffer, bytes.byteOffset);
      for (let i = 0; i < n; i++) out[i] = view.getInt16(2 * i, true) / 32768;
      bytes = bytes.subarray(2 * n);
      if (start === null) {
        // On a sample of the clock, so that pieces join without a gap.
        start = Math.max(s.next ?? 0, Math.ceil((ctx.currentTime + 0.025) * rate) / rate);
        s.rounds.push({
          from: start + t.begins,
          upto: start + t.begins + t.round,
          notes: t.notes,
          logged: new Set(),
        });
        if (s.rounds.length > 4) s.rounds.shift();
      }
      const source = ctx.createBufferSource();
      source.buffer = buffer;
      source.connect(ctx.destination);
      source.start(start + sent / rate);
      source.onended = () => s.sources.delete(source);
      s.sources.add(source);
      sent += n;
      s.next = start + sent / rate;
    };
    for (;;) {
      const {done, value} = await reader.read();
      if (session !== s) {
        reader.cancel();
        return;
      }
      if (value) {
        const all = new Uint8Array(bytes.length + value.length);
        all.set(bytes);
        all.set(value, bytes.length);
        bytes = all;
        if (skip) {
          const k = Math.min(skip, bytes.length);
          bytes = bytes.slice(k);
          skip -= k;
        }
        // The first piece is short, so that it sounds at once.
        while (bytes.length >= 2 * (sent ? piece : first) && sent < most) send(sent ? piece : first);
      }
      if (done) {
        send(bytes.length >> 1);
        return;
      }
    }
  }

  // tick lights what sounds, and fetches the next round in time.
  function tick(s) {
    if (session !== s) return;
    const now = ctx.currentTime - (ctx.outputLatency || 0);
    const lit = [];
    for (const r of s.rounds)
      for (const n of r.notes) {
        const at = r.from + n.at;
        if (now < at || now >= Math.min(r.upto, at + n.len)) continue;
        lit.push(n.note);
        if (!r.logged.has(n.note)) {
          r.logged.add(n.note);
          log.push({note: n.note, due: at, lit: now});
          if (log.length > 256) log.shift();
        }
      }
    if (String(lit) !== s.shown) {
      s.shown = String(lit);
      s.what.lit(lit);
    }
    if (now > s.end) {
      stop();
      return;
    }
    if (s.what.loop() && s.next !== null && s.end === Infinity && s.next - ctx.currentTime < ahead && !s.busy)
      round(s, ++s.number);
    requestAnimationFrame(() => tick(s));
  }

  function stop() {
    const s = session;
    session = null;
    if (!s) return;
    s.gone.abort();
    s.awake?.release().catch(() => {});
    for (const source of s.sources) {
      source.onended = null;
      try {
        source.stop();
      } catch {
        /* not begun */
      }
    }
    s.what.lit([]);
    s.what.state('');
  }

  // taste sounds a note or a grip for once, beside nothing else: what cannot be heard is not missed.
  let tasting = null;
  async function taste(base, fields) {
    if (session || document.hidden || !window.AudioContext) return;
    tasting?.abort();
    const gone = (tasting = new AbortController());
    try {
      ctx ||= new AudioContext({sampleRate: rate});
      const wav = await fetch(`${base}/sound.wav?${new URLSearchParams(fields)}`, {
        signal: gone.signal,
        headers: {'HX-Request': 'true'},
      });
      if (!wav.ok) return;
      const view = new DataView(await wav.arrayBuffer(), 44),
        n = Math.min(view.byteLength >> 1, 2 * rate);
      if (!n || session || gone.signal.aborted) return;
      const buffer = ctx.createBuffer(1, n, rate),
        out = buffer.getChannelData(0);
      for (let i = 0; i < n; i++) out[i] = view.getInt16(2 * i, true) / 32768;
      const source = ctx.createBufferSource();
      source.buffer = buffer;
      source.connect(ctx.destination);
      await ctx.resume();
      source.start();
      gone.signal.addEventListener('abort', () => {
        try {
          source.stop();
        } catch {
          /* not begun */
        }
      });
      tasted++;
    } catch {
      /* given up for the next one, or no sound here */
    }
  }
  let tasted = 0;

  addEventListener('pagehide', stop);
  return {
    start,
    stop,
    log,
    taste,
    get tasted() {
      return tasted;
    },
    get on() {
      return session !== null;
    },
    get rounds() {
      return session ? session.rounds.map(r => [r.from, r.upto]) : [];
    },
  };
})();

// The strip of controls: tempo, loop, click, band, loudness; kept for the next page.
function soundStrip(strip, what) {
  // What is heard is kept for the next page; what a line sounds like is kept with that line.
  const own = ['drive', 'pickup', 'style', 'busy', 'band', 'chords', 'comp'];
  const read = (store, key) => {
    try {
      return JSON.parse(store.getItem(key) || '{}');
    } catch {
      return {};
    }
  };
  const fields = [...strip.querySelectorAll('[data-sound]')];
  let of = what.base;
  const keep = () => {
    const v = {},
      lines = {};
    for (const f of fields) v[f.dataset.sound] = value(f);
    delete v.tempo;
    for (const name of own) lines[name] = v[name];
    try {
      sessionStorage.setItem('sound', JSON.stringify(v));
      localStorage.setItem(`sound of ${what.base}`, JSON.stringify(lines));
    } catch {
      /* private */
    }
  };
  const value = f => (f.matches('button') ? f.getAttribute('aria-pressed') === 'true' : f.value);
  const press = (f, on) => {
    f.setAttribute('aria-pressed', on);
    f.classList.toggle('on', on);
  };
  const load = () => {
    const kept = {...read(sessionStorage, 'sound'), ...read(localStorage, `sound of ${what.base}`)};
    for (const f of fields) {
      const v = kept[f.dataset.sound];
      if (v === undefined || f.dataset.sound === 'tempo') continue;
      if (f.matches('button')) press(f, v);
      else f.value = v;
    }
    of = what.base;
  };
  load();
  const get = name => {
    const f = fields.find(f => f.dataset.sound === name);
    return f ? value(f) : '';
  };
  const tempo = strip.querySelector('[data-sound=tempo]');
  const play = strip.querySelector('[data-play]');
  const params = round => {
    const q = new URLSearchParams(),
      p = what.prefix || '';
    for (const [name, v] of Object.entries(what.fields?.() ?? {})) q.append(name, v);
    if (tempo.value) q.set(p + 'tempo', tempo.value);
    for (const name of ['click', 'band', 'chords', 'comp', 'alone', 'target', 'count'])
      if (get(name) === true && !(round && (name === 'count' || name === 'target'))) q.set(p + name, 'true');
    if (get('clicks')) {
      q.set(p + 'clicks', get('clicks'));
      if (round) q.set(p + 'before', round);
    }
    for (const name of ['drive', 'line', 'beat', 'tick', 'pickup', 'style', 'busy'])
      if (get(name) !== '') q.set(p + name, get(name));
    if (round) q.set(p + 'lead', 'true');
    if (get('loop') === true && what.fill) q.set(p + 'fill', what.fill);
    return q;
  };
  const toggle = more => {
    if (listening.on) {
      listening.stop();
      return;
    }
    begin(more);
  };
  const begin = more => {
    if (of !== what.base) load();
    return listening.start({
      base: what.base,
      loop: () => !more?.once && get('loop') === true,
      lit: what.lit,
      params: round => {
        const q = params(round);
        for (const [k, v] of Object.entries(more?.fields ?? {})) q.set(k, v);
        return q;
      },
      state: s => {
        play.textContent = s ? 'Stop' : 'Play';
        play.classList.toggle('on', !!s);
        what.state?.(s);
      },
      failed: what.failed,
    });
  };
  const setTempo = t => {
    t = Math.max(10, Math.min(400, Math.round(t)));
    if (what.set) what.set(t);
    else tempo.value = t;
  };
  // The share of the wanted tempo that is in force is marked.
  const markPace = () => {
    const now = +tempo.value || (what.now ?? what.wanted)();
    for (const b of strip.querySelectorAll('[data-pace]')) {
      const on = Math.round((what.wanted() * b.dataset.pace) / 100) === Math.round(now);
      b.classList.toggle('on', on);
      b.setAttribute('aria-pressed', on);
    }
  };
  markPace();
  for (const kind of ['click', 'input', 'change']) strip.addEventListener(kind, () => setTimeout(markPace));
  document.addEventListener('htmx:after:swap', () => setTimeout(markPace));
  // Where the page has one tempo, what is typed here is that.
  if (what.set)
    tempo.addEventListener('change', () => {
      const t = +tempo.value;
      tempo.value = '';
      if (t) setTempo(t);
    });
  strip.addEventListener('click', e => {
    const b = e.target.closest('button');
    if (!b) return;
    if (b === play) toggle();
    else if (b.dataset.sound) {
      press(b, b.getAttribute('aria-pressed') !== 'true');
      keep();
    } else if (b.dataset.pace) setTempo((what.wanted() * b.dataset.pace) / 100);
  });
  strip.addEventListener('change', keep);
  const save = strip.querySelector('[data-savewav]');
  save?.addEventListener('click', () => {
    const q = params(0);
    q.set((what.prefix || '') + 'save', 'true');
    save.href = `${what.base}/sound.wav?${q}`;
  });
  return {
    toggle,
    begin,
    faster: by => setTempo((+tempo.value || (what.now ?? what.wanted)()) * by),
    press: name => fields.find(f => f.dataset.sound === name)?.click(),
  };
}
