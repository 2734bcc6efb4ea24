package sheet

import (
	"bytes"
	"html/template"
	"strings"

	"ornamen/core/lick"
	"ornamen/core/music"
)

// Style is the page's style sheet. Its fonts are there while Ornamen serves the page; a page
// that was saved takes what the machine has.
const Style = `
@font-face { font-family: Fraunces; font-weight: 100 900; src: url(/assets/vendor/fraunces.woff2) format("woff2"); }
@font-face { font-family: Figtree; font-weight: 300 900; src: url(/assets/vendor/figtree.woff2) format("woff2"); }
@font-face { font-family: Accidentals; src: url(/assets/vendor/accidentals.woff2) format("woff2");
unicode-range: U+266D-266F; }
@page { margin: 14mm; }
body { font: 12pt/1.4 Accidentals, Figtree, Helvetica, Arial, sans-serif;
color: #1d2329; margin: 0 auto; max-width: 186mm;
padding: 6mm 0; break-after: page; }
h1 { font: 600 24pt Accidentals, Fraunces, Georgia, serif; margin: 0 0 2mm; }
p { margin: 0 0 3mm; } .quiet { color: #5f656d; font-size: 10pt; }
.line svg { width: 100%; height: auto; margin: 4mm 0 1mm; } .shape svg { max-width: 100%; height: auto; }
.box { border: 0.4mm solid #8d897f; border-radius: 2mm; padding: 2mm 4mm; display: inline-block; margin-right: 4mm; }
#print { float: right; font: 600 12pt Figtree, Helvetica, Arial, sans-serif; color: #fff; background: #0f5c4b;
border: 0; border-radius: 2mm; padding: 2mm 5mm; } @media print { #print { display: none; } }
`

// page is the page for the music stand: one lick, readable from a step away, on A4 or letter.
var page = template.Must(template.New("").Parse(`<!doctype html>
<html lang="en"><head><meta charset="utf-8"><title>{{.Title}}</title>
<style>{{.Style}}</style><script src="/assets/print.js" defer></script></head><body>
<button type="button" id="print" hidden>Print</button>
<h1>{{.Title}}</h1>
<p>{{.Tones}}. {{.Degrees}}</p>
<p><span class="box">{{.Tempo}} quarters a minute</span>
<span class="box">{{.Meter}}{{if .Shuffle}}, shuffle{{end}}{{if .Loop}}, a loop{{end}}</span>
{{if .Pickup}}<span class="box">pick-up of {{.Pickup}}</span>{{end}}</p>
<div class="line">{{.Line}}</div>
{{if .Shape}}<div class="shape">{{.Shape}}</div>{{end}}
<p class="quiet">Finger 1 is the index. ⊓ is a downstroke, V an upstroke,
a dot is played by the left hand alone. Start at half of the tempo. Pain or burning: stop and rest; lasting pain,
numbness or weakness is for a doctor or a qualified therapist. Keep the sound at a safe level.</p>
</body></html>
`))

// Page is a lick as a page to print: tones, line with both hands, count, note values, cautions. The button
// that prints it is shown where Ornamen serves the page. All words are escaped by the template; the
// drawings are ours.
func Page(l lick.Lick) []byte {
	v := struct {
		Title, Tones, Degrees, Meter, Pickup string
		Tempo                                float64
		Shuffle, Loop                        bool
		Line, Shape                          template.HTML
		Style                                template.CSS
	}{Title: l.Title, Tones: l.TonesText(), Meter: l.Meter.String(), Tempo: l.Tempo, Shuffle: l.Feel == lick.Shuffle,
		Loop: l.Loop, // Our own drawings, their words escaped.
		Line: template.HTML(Drawing(l)), Shape: template.HTML(Shape(l)), Style: Style}
	if v.Title == "" {
		v.Title = "A lick"
	}
	if !l.Pickup.IsZero() {
		v.Pickup = l.Pickup.String()
	}
	if p, ok := l.Palette(); ok {
		v.Degrees = degreesOf(p)
	}
	var b bytes.Buffer
	// A buffer takes all that is written, and the template reads fields that are there.
	_ = page.Execute(&b, v)
	return b.Bytes()
}

// degreesOf lists the tones with their degrees: "1 A, ♭3 C".
func degreesOf(p music.Palette) string {
	var out []string
	for _, t := range p.Tones {
		out = append(out, t.Degree.Pretty()+" "+t.Name.Pretty())
	}
	return strings.Join(out, ", ") + "."
}
