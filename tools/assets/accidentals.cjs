// Makes the font of accidentals: the flat, natural and sharp of Noto Music,
// which hang around the baseline as on a stave and are small and thin, made
// larger, wider and lifted to stand beside letters and digits. Called by
// refresh.sh.
const fs = require('fs');
const opentype = require('opentype.js');
const woff2 = require('wawoff2');

const [, , source, target] = process.argv;
const noto = opentype.loadSync(source);
// Where each sign should reach, in parts of the em: its foot and its head.
const reach = {'♭': [-0.01, 0.78], '♮': [-0.1, 0.8], '♯': [-0.06, 0.78]};
const widen = 1.35;
const glyphs = [new opentype.Glyph({name: '.notdef', unicode: 0, advanceWidth: 500, path: new opentype.Path()})];
for (const [sign, [foot, head]] of Object.entries(reach)) {
  const glyph = noto.charToGlyph(sign);
  const box = glyph.getBoundingBox();
  const em = noto.unitsPerEm, scale = (head - foot) * em / (box.y2 - box.y1), lift = foot * em - box.y1 * scale;
  const path = new opentype.Path();
  path.commands = glyph.path.commands.map(c => {
    const d = {type: c.type};
    for (const k of ['x', 'x1', 'x2']) if (k in c) d[k] = Math.round((c[k] - box.x1) * scale * widen + 0.03 * em);
    for (const k of ['y', 'y1', 'y2']) if (k in c) d[k] = Math.round(c[k] * scale + lift);
    return d;
  });
  glyphs.push(new opentype.Glyph({name: 'uni' + sign.codePointAt(0).toString(16), unicode: sign.codePointAt(0), advanceWidth: Math.round((box.x2 - box.x1) * scale * widen + 0.06 * em), path}));
}
const font = new opentype.Font({familyName: 'Ornamen Accidentals', styleName: 'Regular', unitsPerEm: noto.unitsPerEm, ascender: noto.ascender, descender: noto.descender, glyphs});
woff2.compress(Buffer.from(font.toArrayBuffer())).then(b => fs.writeFileSync(target, b));
