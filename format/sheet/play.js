'use strict';
// The page plays by itself: each line's sound is in it, in four bits a sample, at three speeds. Nothing is fetched.
const steps = [
  7, 8, 9, 10, 11, 12, 13, 14, 16, 17, 19, 21, 23, 25, 28, 31, 34, 37, 41, 45, 50, 55, 60, 66, 73, 80, 88, 97,
  107, 118, 130, 143, 157, 173, 190, 209, 230, 253, 279, 307, 337, 371, 408, 449, 494, 544, 598, 658, 724,
  796, 876, 963, 1060, 1166, 1282, 1411, 1552, 1707, 1878, 2066, 2272, 2499, 2749, 3024, 3327, 3660, 4026,
  4428, 4871, 5358, 5894, 6484, 7132, 7845, 8630, 9493, 10442, 11487, 12635, 13899, 15289, 16818, 18500,
  20350, 22385, 24623, 27086, 29794, 32767,
];
const index = [-1, -1, -1, -1, 2, 4, 6, 8];
let ctx = null,
  source = null,
  playing = null,
  begun = 0;

function unpacked(text, rate) {
  const bytes = Uint8Array.from(atob(text), c => c.charCodeAt(0)),
    out = ctx.createBuffer(1, bytes.length * 2, rate),
    x = out.getChannelData(0);
  let last = 0,
    at = 0;
  for (let i = 0; i < x.length; i++) {
    const code = (bytes[i >> 1] >> (4 * (i & 1))) & 15,
      step = steps[at];
    let by = step >> 3;
    if (code & 4) by += step;
    if (code & 2) by += step >> 1;
    if (code & 1) by += step >> 2;
    last = Math.max(-32768, Math.min(32767, code & 8 ? last - by : last + by));
    at = Math.max(0, Math.min(88, at + index[code & 7]));
    x[i] = last / 32768;
  }
  return out;
}

function stop() {
  if (source) {
    source.onended = null;
    source.stop();
    source = null;
  }
  if (playing) {
    playing.querySelector('[data-play]').textContent = 'Play';
    for (const g of playing.querySelectorAll('.now')) g.classList.remove('now');
  }
  playing = null;
}

async function play(section) {
  stop();
  ctx ||= new AudioContext();
  await ctx.resume();
  const data = JSON.parse(section.querySelector('script').textContent),
    speed = section.querySelector('[data-speed].on').dataset.speed;
  const take = data.takes.find(t => t.speed === +speed),
    loop = section.querySelector('[data-loop]').classList.contains('on');
  source = ctx.createBufferSource();
  source.buffer = take.buffer || unpacked(take.sound, data.rate);
  source.loop = loop;
  source.loopEnd = take.round;
  source.connect(ctx.destination);
  source.onended = stop;
  source.start();
  playing = section;
  begun = ctx.currentTime;
  section.querySelector('[data-play]').textContent = 'Stop';
  const columns = section.querySelectorAll('[data-col]');
  const tick = () => {
    if (playing !== section) return;
    let t = ctx.currentTime - begun;
    if (loop) t %= take.round;
    let now = -1;
    for (let k = 0; k < take.at.length; k++) if (take.at[k] <= t) now = k;
    columns.forEach((g, k) => g.classList.toggle('now', k === now));
    requestAnimationFrame(tick);
  };
  tick();
}

document.addEventListener('click', e => {
  const b = e.target.closest('button'),
    section = e.target.closest('section');
  if (!b) return;
  if (b.id === 'print') print();
  else if ('play' in b.dataset) playing === section ? stop() : play(section);
  else if ('loop' in b.dataset) {
    b.setAttribute('aria-pressed', b.classList.toggle('on'));
    if (playing === section) play(section);
  } else if ('speed' in b.dataset) {
    for (const o of section.querySelectorAll('[data-speed]')) {
      o.classList.toggle('on', o === b);
      o.setAttribute('aria-pressed', o === b);
    }
    if (playing === section) play(section);
  }
});
