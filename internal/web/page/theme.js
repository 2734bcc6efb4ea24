// Day or stage light, before anything is drawn: as the system has it, or as it was chosen in this browser.
'use strict';

(() => {
  const system = matchMedia('(prefers-color-scheme: dark)'),
    root = document.documentElement;
  const chosen = () => {
    try {
      return localStorage.getItem('ornamen-light') || 'system';
    } catch {
      return 'system';
    }
  };
  const put = () => {
    const light = chosen();
    root.dataset.light = light;
    root.dataset.bsTheme = light === 'stage' || (light === 'system' && system.matches) ? 'dark' : 'light';
    const words = {system: 'as the system', day: 'daylight', stage: 'stage light'};
    for (const b of document.querySelectorAll('[data-setlight]')) {
      const on = b.dataset.setlight === light;
      b.setAttribute('aria-pressed', on);
      b.classList.toggle('on', on);
    }
    for (const b of document.querySelectorAll('[data-nextlight]')) {
      b.title = `Light: ${words[light]}`;
      b.setAttribute('aria-label', b.title);
    }
  };
  const set = light => {
    try {
      localStorage.setItem('ornamen-light', light);
    } catch {
      /* private */
    }
    put();
  };
  put();
  system.addEventListener('change', put);
  addEventListener('storage', put);
  document.addEventListener('DOMContentLoaded', put);
  document.addEventListener('click', e => {
    const b = e.target.closest('[data-setlight], [data-nextlight]');
    if (!b) return;
    // One press gives the other light than what is seen now; a second one goes back to the system's.
    set(b.dataset.setlight || (chosen() !== 'system' ? 'system' : system.matches ? 'day' : 'stage'));
  });
})();
