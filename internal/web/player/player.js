import {$} from './page.js';

// Player: every change is saved when it is made; tapping the beat fills a tempo.
const player = $('#player');
if (player) {
  const post = (path, values) =>
    htmx.ajax('POST', path, {
      source: player,
      target: '#notice',
      swap: 'none',
      values,
    });

  // Of the habits several may be kept: they go as one text.
  const save = () => {
    const form = new FormData($('#player-form'));
    post('/player', {...Object.fromEntries(form), own: form.getAll('own').join('; ')});
  };

  // Only the settings are saved here. The people above them have forms of their own, which the browser sends.
  player.addEventListener('change', e => {
    if (e.target.closest('#player-form')) save();
  });
  player.addEventListener('submit', e => {
    if (e.target.id !== 'player-form') return;
    e.preventDefault();
    save();
  });

  // The middle one of the last eight gaps is the beat; a pause of two seconds ends the measurement.
  let taps = [],
    done;
  const tap = b => {
    const now = performance.now();
    if (taps.length && now - taps.at(-1) > 2000) taps = [];
    taps.push(now);
    b.classList.add('live');
    const field = $(`[name=${b.dataset.tap}]`);
    const gaps = taps
      .slice(-9)
      .map((t, i, all) => t - all[i - 1])
      .slice(1)
      .sort((x, y) => x - y);
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
  player.addEventListener('pointerdown', e => {
    const b = e.target.closest('[data-tap]');
    if (b) tap(b);
  });
  player.addEventListener('keydown', e => {
    if (!e.target.matches('[data-tap]') || e.repeat || (e.key !== ' ' && e.key !== 'Enter')) return;
    e.preventDefault();
    tap(e.target);
  });

  // The body of every page bears data-player, so that these buttons have a name of their own.
  player.addEventListener('click', e => {
    const b = e.target.closest('[data-setting]');
    if (!b) return;
    const base = $('#player-form').elements.base.value;
    post(b.dataset.setting, {do: b.dataset.do ?? '', device: b.dataset.device ?? 0, base});
  });
}
