import {$, showNotice} from './page.js';
import {record} from './record.js';

// Playing a line in: while the button or its key is held the microphone listens; what it heard goes to the page that
// shows the line before it is taken. The simulated guitar plays the lick at hand.
let held = null;
const begin = () => {
  if (held) return;
  document.body.classList.add('playing-in');
  held = record(wav => {
    const form = new FormData();
    form.append('file', new File([wav], 'played.wav', {type: 'audio/wav'}));
    fetch('/licks/import', {method: 'POST', body: form}).then(r => { location.href = r.url; }).catch(() => showNotice('Ornamen does not answer; start it again and go on.'));
  }, text => { held = null; document.body.classList.remove('playing-in'); showNotice(text); });
};
const end = () => {
  if (!held) return;
  const h = held;
  held = null;
  document.body.classList.remove('playing-in');
  h.stop();
};
document.addEventListener('pointerdown', e => { if (e.target.closest('[data-playin]')) begin(); });
for (const up of ['pointerup', 'pointercancel', 'blur']) addEventListener(up, end);
document.addEventListener('keydown', e => { if (e.target.closest?.('[data-playin]') && (e.key === ' ' || e.key === 'Enter') && !e.repeat) { e.preventDefault(); e.stopPropagation(); begin(); } }, true);
document.addEventListener('keyup', e => { if (e.key === ' ' || e.key === 'Enter') end(); });
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
