import {$, $$} from './page.js';

// The sheet of other ways to play the line, side by side: hands, strings, places, turns, bends, endings, the
// line over its chords. The screen lends the note of the caret, what is chosen, how a request is sent and a
// way taken (edit: turn or take), and where the writing goes afterwards.
export function proposals({note, chosen, flush, send, edit, leave, kind = 'hands'}) {
  const ask = {way: '', free: ''};
  const asked = () => ({...ask, ...(chosen() || {})});
  const offer = () => {
    const modal = bootstrap.Modal.getOrCreateInstance('#hands');
    if (!$('#offers').children.length) {
      const p = document.createElement('p');
      p.className = 'trying';
      p.textContent = 'Trying other ways…';
      $('#offers').replaceChildren(p);
    } else $('#offers').classList.add('waiting');
    modal.show();
    const [path, values] =
      kind === 'hands' ? ['/hands', asked()] : ['/ways', {value: kind, note: note(), ...(chosen() || {})}];
    return send('GET', path, values).then(() => {
      $('#offers').classList.remove('waiting');
      if ($('#offers .trying')) modal.hide();
      for (const box of $$('#offers .handsbox')) {
        const first = $('.differs', box)?.getBBox();
        if (first && first.x > box.clientWidth - 40) box.scrollLeft = first.x - 60;
      }
      if (document.activeElement === document.body) $('#offers .kinds .on')?.focus();
    });
  };
  // What suits another player, in the same sheet.
  document.addEventListener('click', e => {
    const b = e.target.closest('[data-whom]');
    if (!b) return;
    flush();
    const p = document.createElement('p');
    p.className = 'trying';
    p.textContent = 'Trying other hands, strings and keys…';
    $('#offers').replaceChildren(p);
    const modal = bootstrap.Modal.getOrCreateInstance('#hands');
    modal.show();
    send('GET', '/suits', {who: b.dataset.whom}).then(() => {
      if ($('#offers .trying')) modal.hide();
    });
  });
  const otherPart = what => {
    flush();
    kind = what;
    offer();
  };
  function hands() {
    ask.way = ask.free = '';
    otherPart('hands');
  }
  document.addEventListener('click', e => {
    const b = e.target.closest(
      '[data-hands], [data-kind], [data-ask-way], [data-ask-free], [data-take], [data-useturn], [data-findrecipe]',
    );
    if (!b) return;
    if ('hands' in b.dataset) hands();
    else if ('kind' in b.dataset) {
      kind = b.dataset.kind;
      offer();
    } else if ('findrecipe' in b.dataset) {
      bootstrap.Modal.getInstance('#hands').hide();
      flush();
      send('GET', '/recipe', {});
    } else if ('useturn' in b.dataset) {
      edit('turn', b.dataset.useturn, chosen() || {});
      bootstrap.Modal.getInstance('#hands').hide();
    } else if ('take' in b.dataset) {
      edit('take', b.dataset.take, asked());
      bootstrap.Modal.getInstance('#hands').hide();
    } else {
      if ('askWay' in b.dataset) ask.way = b.dataset.askWay;
      else ask.free = b.dataset.askFree;
      offer();
    }
  });
  $('#hands').addEventListener('keydown', e => {
    const by = {ArrowLeft: -1, ArrowRight: 1}[e.key],
      tabs = $$('#offers .kinds [data-kind]');
    if (!by || !tabs.length || e.target.closest('.handsbox')) return;
    e.preventDefault();
    const to = tabs[(tabs.findIndex(t => t.dataset.kind === kind) + by + tabs.length) % tabs.length];
    kind = to.dataset.kind;
    offer().then(() => $(`#offers [data-kind="${kind}"]`)?.focus());
  });
  // A digit takes the offer that stands at that place; with Shift it is heard.
  document.addEventListener('keydown', e => {
    if (
      !$('#hands.show') ||
      e.target.matches('input, select, textarea') ||
      e.ctrlKey ||
      e.metaKey ||
      e.altKey ||
      !/^(Digit|Numpad)[1-9]$/.test(e.code)
    )
      return;
    const take = $$('#hands .offer')[e.code.slice(-1) - 1]?.querySelector(
      e.shiftKey ? '[data-hear]' : '[data-take], [data-useturn], [data-suit]',
    );
    if (take) {
      e.preventDefault();
      take.click();
    }
  });
  $('#hands').addEventListener('hidden.bs.modal', () => {
    $('#offers').replaceChildren();
    leave();
  });
  return {hands, otherPart, ask};
}
