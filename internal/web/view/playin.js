import {showNotice} from './page.js';
import {record} from './record.js';

// Playing a line in: while the button or its key is held the microphone listens; what it heard goes to the page that
// shows the line before it is taken. The simulated guitar plays the lick at hand.
let held = null,
  since = 0;
const tooShort = 400; // ms: a tap is no line

async function send(wav) {
  const form = new FormData();
  form.append('file', new File([wav], 'played.wav', {type: 'audio/wav'}));
  try {
    const r = await fetch('/licks/import', {method: 'POST', body: form});
    location.href = r.url;
  } catch {
    showNotice('Ornamen does not answer; start it again and go on.');
  }
}

function begin() {
  if (held) return;
  document.body.classList.add('playing-in');
  since = performance.now();
  let tapped = false;
  const recording = record(
    wav => {
      if (!tapped) send(wav);
    },
    text => {
      held = null;
      document.body.classList.remove('playing-in');
      showNotice(text);
    },
  );
  held = {
    stop() {
      tapped = performance.now() - since < tooShort;
      if (tapped) showNotice('Hold the button down while you play, and let go when the line is over.');
      recording.stop();
    },
  };
}

function end() {
  if (!held) return;
  const h = held;
  held = null;
  document.body.classList.remove('playing-in');
  h.stop();
}

document.addEventListener('pointerdown', e => {
  if (e.target.closest('[data-playin]')) begin();
});
for (const up of ['pointerup', 'pointercancel', 'blur']) addEventListener(up, end);
document.addEventListener(
  'keydown',
  e => {
    if (!e.target.closest?.('[data-playin]') || e.repeat || (e.key !== ' ' && e.key !== 'Enter')) return;
    e.preventDefault();
    e.stopPropagation();
    begin();
  },
  true,
);
document.addEventListener('keyup', e => {
  if (e.key === ' ' || e.key === 'Enter') end();
});
document.addEventListener('click', e => {
  const b = e.target.closest('[data-playsim]');
  if (!b) return;
  const f = document.createElement('form');
  Object.assign(f, {method: 'post', action: '/licks/import'});
  const i = document.createElement('input');
  Object.assign(i, {type: 'hidden', name: 'simulate', value: b.dataset.playsim});
  f.append(i);
  document.body.append(f);
  f.submit();
});
