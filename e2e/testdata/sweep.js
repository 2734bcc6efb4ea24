// What the sweep sees of a page: its controls, and whether anything on it has changed.
(() => {
  const pressable =
    'a[href], button, input, select, textarea, summary, label[role=button], [role=button], [data-place]';
  const typed =
    'input:not([type=checkbox]):not([type=radio]):not([type=file]):not([type=submit]):not([type=button]), textarea';

  // A control's path is the way to it through the page, which is the same each time the page is opened.
  const pathOf = e => {
    const steps = [];
    for (let x = e; x && x !== document.body; x = x.parentElement) {
      const id = x.getAttribute('id'); // a form's own id may be hidden by a field of that name
      if (id && !/\d/.test(id)) {
        steps.unshift('#' + id);
        return steps.join(' > ');
      }
      steps.unshift(`${x.localName}:nth-child(${[...x.parentElement.children].indexOf(x) + 1})`);
    }
    return 'body > ' + steps.join(' > ');
  };

  const seen = e => {
    if (!e.checkVisibility({visibilityProperty: true})) return false;
    const b = e.getBoundingClientRect();
    const waits = b.bottom <= 0 && getComputedStyle(e).position === 'fixed'; // as the way past the head does
    return b.width > 1 && b.height > 1 && !waits;
  };

  const wordsOf = e => {
    const text = e.getAttribute('aria-label') || e.innerText || e.textContent || e.getAttribute('name') || '';
    return text.replace(/\s+/g, ' ').trim().slice(0, 60);
  };

  const nameOf = e => {
    const own =
      [
        'data-run',
        'data-edit',
        'data-word',
        'data-go',
        'data-post',
        'data-setting',
        'data-digit',
        'name',
        'href',
        'data-place',
      ]
        .map(a => (e.getAttribute(a) ? `${a}=${e.getAttribute(a)}` : ''))
        .filter(x => x)[0] || '';
    return `${e.localName}${e.type && e.localName === 'input' ? '.' + e.type : ''} “${wordsOf(e)}” ${own}`.trim();
  };

  // What a page prints cannot be seen; that it prints can.
  window.print = () => {
    document.documentElement.dataset.printed = 'yes';
  };

  window.sweep = {
    // The visible controls that can be used, each choice of a select on its own.
    list() {
      const out = [];
      for (const e of document.querySelectorAll(pressable)) {
        if (!seen(e) || e.disabled || e.closest('[inert]') || e.readOnly) continue;
        const one = {
          path: pathOf(e),
          sort: pathOf(e.parentElement) + ' ' + e.localName + '.' + (e.classList[0] || ''),
          name: nameOf(e),
          kind: 'press',
          menu: e.matches('[data-bs-toggle], [aria-expanded], summary'),
          frame: !!e.closest('header.top'),
          late: !!e.closest('.whom'),
          place: e.matches('[data-place]'),
          chosen: e.matches(
            '.on, .active, [aria-current], [aria-pressed=true], [aria-checked=true], :checked[type=radio]',
          ),
          word: e.matches('.term'),
        };
        if (e.localName === 'select') {
          for (const [i, o] of [...e.options].entries()) {
            if (!o.selected && !o.disabled)
              out.push({...one, kind: 'choose', option: i, name: `${one.name} → ${o.label}`});
          }
          continue;
        }
        if (e.matches(typed)) one.kind = 'type';
        out.push(one);
      }
      return out;
    },

    // Where a control can be pressed: its middle, or the first point of it that nothing else covers. What covers it is
    // named where there is none.
    place(path) {
      const e = document.querySelector(path);
      if (!e) return {gone: true};
      // A menu scrolls as little as it must: in a bar that sticks to the edge it would move with the page.
      const block = e.closest('.dropdown-menu.show') ? 'nearest' : 'center';
      e.scrollIntoView({block, inline: block, behavior: 'instant'});
      const boxes = [...e.getClientRects()].filter(b => b.width && b.height);
      let over = '';
      for (const b of boxes) {
        for (const [fx, fy] of [
          [0.5, 0.5],
          [0.25, 0.5],
          [0.75, 0.5],
          [0.5, 0.25],
          [0.5, 0.75],
          [0.1, 0.5],
          [0.9, 0.5],
        ]) {
          const x = b.x + b.width * fx,
            y = b.y + b.height * fy;
          const top = document.elementFromPoint(x, y);
          const label = top?.closest('label');
          if (top && (e.contains(top) || (top.contains(e) && top.localName === 'g') || label?.control === e))
            return {x, y};
          over ||= top ? `${top.localName}.${top.getAttribute('class') || ''}` : 'the edge of the window';
        }
      }
      return {over: over || 'nothing to be seen'};
    },

    // Something sensible in every empty field of the form that a control sends.
    fill(path) {
      const sender = document.querySelector(path);
      const form = sender?.type === 'submit' && sender.form;
      for (const i of form ? form.querySelectorAll(typed) : []) {
        if (!i.value && i.type !== 'hidden' && seen(i)) i.value = sweep.sensible(i);
      }
    },

    // What a player might type into a field, by what it is for.
    sensible(i) {
      const numeric =
        i.inputMode === 'numeric' || i.inputMode === 'decimal' || i.type === 'number' || i.type === 'range';
      const key =
        i.dataset.run?.replace(/^\d+\./, '') ||
        i.dataset.edit ||
        i.dataset.do ||
        i.dataset.sound ||
        Object.keys(i.dataset).find(k => sweepWords[k]) ||
        i.name ||
        i.id;
      const word = sweepWords[key];
      if (word !== undefined && !(numeric && isNaN(word))) return word;
      if (i.type === 'date') return '2026-12-12';
      if (numeric) {
        const step = +i.step || 1,
          now = +i.value || +i.min || 1;
        return String(i.max && now + step > +i.max ? now - step : now + step);
      }
      return i.value ? i.value + ' two' : 'Lantern';
    },

    word(path) {
      return sweep.sensible(document.querySelector(path));
    },

    setDate(path, value) {
      const i = document.querySelector(path);
      i.value = value;
      for (const kind of ['input', 'change']) i.dispatchEvent(new Event(kind, {bubbles: true}));
    },

    choose(path, option) {
      const s = document.querySelector(path);
      s.selectedIndex = option;
      for (const kind of ['input', 'change']) s.dispatchEvent(new Event(kind, {bubbles: true}));
    },

    // All that a player could notice: the address, the page, what its fields hold, how far it is scrolled.
    print() {
      const fields = [...document.querySelectorAll('input, select, textarea')].map(
        i => `${i.value}${i.checked}`,
      );
      const boxes = [...document.querySelectorAll('[tabindex], main, body, ul, ol, div')]
        .filter(b => b.scrollLeft || b.scrollTop)
        .map(b => `${b.scrollLeft}/${b.scrollTop}`);
      const dark = document.documentElement.outerHTML.length;
      const text = [
        location.href,
        performance.timeOrigin,
        document.documentElement.outerHTML,
        fields,
        boxes,
        scrollX,
        scrollY,
        dark,
        document.title,
      ].join('\n');
      let h = 0;
      for (let i = 0; i < text.length; i++) h = (h * 31 + text.charCodeAt(i)) | 0;
      return h + '/' + text.length;
    },

    // A refusal or another trouble that the page shows; empty where there is none.
    trouble() {
      const said =
        document.querySelector('.notice[data-status]') || document.querySelector('main.message h1');
      return said ? said.innerText.replace(/\s+/g, ' ').trim() : '';
    },

    // The page has come to rest: its scripts are there and nothing is asked for.
    rest() {
      const plain = !document.querySelector('script[src$="app.js"]'); // a sheet that is handed over
      return (
        document.readyState === 'complete' &&
        (plain || !!document.body.dataset.heard) &&
        (!document.querySelector('#bench') || !!document.querySelector('#bench').dataset.ready) &&
        !document.querySelector('#bench')?.dataset.busy
      );
    },

    // Which page is open, since when.
    address: () => location.pathname + location.search + performance.timeOrigin,
  };
})();
