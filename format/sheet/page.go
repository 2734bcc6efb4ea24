package sheet

import (
	"bytes"
	"html/template"
	"strings"

	"ornamen/core/lick"
	"ornamen/core/music"
)

// page is the page for the music stand: one lick, readable from a step away, on A4 or letter.
var page = template.Must(template.New("").Parse(`<!doctype html>
<html lang="en"><head><meta charset="utf-8"><title>{{.Title}}</title>
<style>
@page { margin: 14mm; }
body { font: 12pt/1.4 Figtree, Helvetica, Arial, sans-serif; color: #1d2329; margin: 0 auto; max-width: 186mm;
padding: 6mm 0; break-after: page; }
h1 { font: 600 24pt Fraunces, Georgia, serif; margin: 0 0 2mm; }
p { margin: 0 0 3mm; } .quiet { color: #5f656d; font-size: 10pt; }
svg { width: 100%; height: auto; margin: 4mm 0; }
.box { border: 0.4mm solid #8d897f; border-radius: 2mm; padding: 2mm 4mm; display: inline-block; margin-right: 4mm; }
</style></head><body>
<h1>{{.Title}}</h1>
<p>{{.Tones}}. {{.Degrees}}</p>
<p><span class="box">{{.Tempo}} quarters a minute</span>
<span class="box">{{.Meter}}{{if .Shuffle}}, shuffle{{end}}{{if .Loop}}, a loop{{end}}</span>
{{if .Pickup}}<span class="box">pick-up of {{.Pickup}}</span>{{end}}</p>
{{.Line}}
{{range .Short}}<p>Short form: <code>{{.}}</code></p>{{end}}
<p class="quiet">Finger 1 is the index. ⊓ is a downstroke, V an upstroke,
a dot is played by the left hand alone. Start at half of the tempo. Pain or burning: stop and rest; lasting pain,
numbness or weakness is for a doctor or a qualified therapist. Keep the sound at a safe level.</p>
</body></html>
`))

// Page is a lick as a page to print: tones, line with both hands, count, short form,
// cautions.
func Page(l lick.Lick) []byte {
	v := struct {
		Title, Tones, Degrees, Meter, Pickup string
		Tempo                                float64
		Shuffle, Loop                        bool
		Line                                 template.HTML
		Short                                []string
	}{Title: l.Title, Tones: l.TonesText(), Meter: l.Meter.String(), Tempo: l.Tempo, Shuffle: l.Feel == lick.Shuffle,
		Loop: l.Loop, Line: template.HTML(Drawing(l))} // our own drawing, its words escaped
	if v.Title == "" {
		v.Title = "A lick"
	}
	if !l.Pickup.IsZero() {
		v.Pickup = l.Pickup.String()
	}
	if p, ok := l.Palette(); ok {
		v.Degrees = degreesOf(p)
	}
	if l.Recipe != "" {
		v.Short = append(v.Short, l.Recipe)
	}
	for _, p := range l.Parts {
		v.Short = append(v.Short, p.Recipe)
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
