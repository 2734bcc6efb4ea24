import {$} from './page.js';

// Screens whose every control is an address: the server sends the screen back.
//
// visits(screen) follows the links of a screen that bear data-tones, and gives the way to go on: visit(address), and
// settled(), which keys wait for, since the links that they follow come with what is asked for now.
export function visits(screen) {
  let underway = Promise.resolve();
  const visit = href => {
    underway = htmx.ajax('GET', href, {source: screen, target: '#notice', swap: 'none'});
    return underway;
  };
  screen.addEventListener('click', e => {
    const a = e.target.closest('a[data-tones]');
    if (!a || e.ctrlKey || e.metaKey || e.shiftKey) return;
    e.preventDefault();
    closeMenu(a);
    visit(a.getAttribute('href'));
  });
  return {visit, settled: () => underway};
}

// A word's menu closes when its word is said.
export function closeMenu(inside) {
  const toggle = $('[data-bs-toggle]', inside.closest('.dropdown') ?? document.createElement('span'));
  if (toggle) bootstrap.Dropdown.getInstance(toggle)?.hide();
}
