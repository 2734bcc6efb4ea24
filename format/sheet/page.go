package sheet

import (
	"bytes"
	"cmp"
	"crypto/sha256"
	_ "embed"
	"encoding/base64"
	"encoding/json"
	"fmt"
	"html/template"

	"ornamen/core/lick"
	"ornamen/core/music"
	"ornamen/core/text"
)

// Style is the page's style sheet; nothing beside the page is needed.
const Style = `
@page { margin: 14mm; }
body { font: 12pt/1.4 Figtree, "Segoe UI", Helvetica, Arial, sans-serif; color: #1d2329; margin: 0 auto; max-width: 190mm; padding: 4mm; }
section { break-after: page; margin-bottom: 10mm; } section:last-of-type { break-after: auto; }
h1 { font: 600 24pt Fraunces, Georgia, serif; margin: 0 0 2mm; }
p { margin: 0 0 3mm; } .quiet { color: #5f656d; font-size: 10pt; }
.line { overflow-x: auto; } .line svg { width: 100%; min-width: 130mm; height: auto; margin: 4mm 0 1mm; }
.shape svg { max-width: 100%; height: auto; }
.box { border: 0.4mm solid #8d897f; border-radius: 2mm; padding: 2mm 4mm; display: inline-block; margin: 0 4mm 2mm 0; }
button { font: 600 12pt Figtree, "Segoe UI", Helvetica, Arial, sans-serif; color: #1d2329; background: #fff; border: 0.4mm solid #8d897f;
border-radius: 6mm; padding: 2mm 5mm; min-height: 44px; }
button.on { background: #1d2329; color: #fff; } [data-play], #print { background: #0f5c4b; color: #fff; border-color: #0f5c4b; border-radius: 2mm; }
#print { float: right; } .player { display: flex; flex-wrap: wrap; gap: 2mm; margin: 2mm 0; }
header { margin-bottom: 6mm; } header h1 { font-size: 28pt; } .note { font-style: italic; }
.dense section { break-after: auto; break-inside: avoid; margin-bottom: 5mm; } .dense section h1 { font-size: 15pt; display: inline; margin-right: 4mm; }
.dense .shape, .dense .tones { display: none; } .dense section p { display: inline; } .dense .box { padding: 0.5mm 2.5mm; font-size: 10pt; margin: 0 2mm 0 0; } .dense .line svg { margin: 1mm 0 0; }
.now { fill: #a8480a; font-weight: 800; }
@media print { #print, .player { display: none; } .line svg { min-width: 0; } }
`

// Script plays the page's lines and prints it. It is the same on every page, so that a server may allow it by its hash.
//
//go:embed play.js
var Script string

// policy lets the page load its own style and script alone.
var policy = func() string {
	hash := func(text string) string {
		sum := sha256.Sum256([]byte(text))
		return "'sha256-" + base64.StdEncoding.EncodeToString(sum[:]) + "'"
	}
	return "default-src 'none'; script-src " + hash(Script) + "; style-src " + hash(Style) + "; base-uri 'none'"
}()

// Policy is the content security policy under which the page is served, which brings its own style and script and
// loads those alone. The page itself names the same one, for when it is opened as a file; what may frame it can only be
// said by who serves it.
var Policy = policy + "; frame-ancestors 'none'"

// Sounding is a lick with what is heard of it.
type Sounding struct {
	Lick  lick.Lick
	Rate  int // samples a second
	Takes []Take
}

// Take is a lick's sound at a speed, in percent of its tempo: the samples, when each of its columns begins and how long
// a round is, in seconds.
type Take struct {
	Speed   int
	Samples []float32
	At      []float64
	Round   float64
}

// page is the page for the music stand: licks, each readable from a step away, on A4 or letter.
var page = template.Must(template.New("").Parse(`<!doctype html>
<html lang="en"><head><meta charset="utf-8"><meta http-equiv="Content-Security-Policy" content="{{.Policy}}"><meta name="viewport" content="width=device-width, initial-scale=1"><title>{{.Title}}</title>
<style>{{.Style}}</style></head><body{{if .Head.OneSheet}} class="dense"{{end}}>
<button type="button" id="print">Print</button>
{{if .Head.Title}}<header><h1>{{.Head.Title}}</h1>{{range .Head.Text}}<p>{{.}}</p>{{end}}</header>
{{end}}{{range .Licks}}<section>
<h1>{{.Title}}</h1>
{{with .Note}}<p class="note">{{.}}</p>{{end}}<p class="tones">{{.Tones}}. {{.Degrees}}</p>
<p><span class="box">{{.Tempo}} quarters a minute</span>
<span class="box">{{.Meter}}{{if .Shuffle}}, shuffle{{end}}{{if .Loop}}, a loop{{end}}</span>
{{if .Pickup}}<span class="box">pick-up of {{.Pickup}}</span>{{end}}</p>
{{if .Takes}}<div class="player"><button type="button" data-play>Play</button>{{range .Speeds}}<button type="button" data-speed="{{.}}" aria-pressed="{{eq . 100}}"{{if eq . 100}} class="on"{{end}}>{{if eq . 100}}as written{{else}}{{.}} %{{end}}</button>{{end}}<button type="button" data-loop aria-pressed="{{.Loop}}"{{if .Loop}} class="on"{{end}}>loop</button></div>
<script type="application/json">{{.Takes}}</script>{{end}}
<div class="line">{{.Line}}</div>
{{if .Shape}}<div class="shape">{{.Shape}}</div>{{end}}
</section>
{{end}}<p class="quiet">Finger 1 is the index. ⊓ is a downstroke, V an upstroke,
a dot is played by the left hand alone. Start at half of the tempo. Pain or burning: stop and rest; lasting pain,
numbness or weakness is for a doctor or a qualified therapist. Keep the sound at a safe level.</p>
<script>{{.Script}}</script>
</body></html>
`))

// pageLick is a lick of the page.
type pageLick struct {
	Note                                 string
	Title, Tones, Degrees, Meter, Pickup string
	Tempo                                float64
	Shuffle, Loop                        bool
	Line, Shape                          template.HTML
	Takes                                any // as JSON
	Speeds                               []int
}

// Head is what stands above a set of licks, and how they are laid out.
type Head struct {
	Title    string
	Text     []string // paragraphs: what it is for, by when, a remark
	Notes    []string // beside the title of each lick
	OneSheet bool     // close together; else each lick has a page of its own
}

// Page is licks as one page to print and to play from, which needs nothing beside it: tones, the line with both hands,
// count and note values, the sound at several speeds, cautions; above them the head, where there is one. All words are
// escaped by the template; the drawings are ours.
func Page(head Head, licks ...Sounding) []byte {
	v := struct {
		Head   Head
		Title  string
		Licks  []pageLick
		Style  template.CSS
		Script template.JS
		Policy string
	}{Policy: policy, Head: head, Title: head.Title, Style: Style, Script: template.JS(Script)}
	for i, x := range licks {
		l := lickOf(x)
		if i < len(head.Notes) {
			l.Note = head.Notes[i]
		}
		if head.Title != "" {
			l.Title = fmt.Sprintf("%d. %s", i+1, l.Title)
		}
		v.Licks = append(v.Licks, l)
	}
	if v.Title == "" && len(v.Licks) > 0 {
		v.Title = v.Licks[0].Title
	}
	var b bytes.Buffer
	// A buffer takes all that is written, and the template reads fields that are there.
	_ = page.Execute(&b, v)
	return b.Bytes()
}

// lickOf is what the page shows of a lick.
func lickOf(x Sounding) pageLick {
	l := x.Lick
	v := pageLick{
		Title:   cmp.Or(l.Title, "A lick"),
		Tones:   l.TonesText(),
		Meter:   l.Meter.String(),
		Tempo:   l.Tempo,
		Shuffle: l.Feel == lick.Shuffle,
		Loop:    l.Loop,
		Line:    template.HTML(Drawing(l)),
		Shape:   template.HTML(Shape(l)),
	}
	if !l.Pickup.IsZero() {
		v.Pickup = l.Pickup.String()
	}
	if p, ok := l.Palette(); ok {
		v.Degrees = degreesOf(p)
	}
	type take struct {
		Speed int       `json:"speed"`
		Sound string    `json:"sound"`
		At    []float64 `json:"at"`
		Round float64   `json:"round"`
	}
	var takes []take
	for _, t := range x.Takes {
		takes = append(takes, take{Speed: t.Speed, Sound: packed(t.Samples), At: t.At, Round: t.Round})
		v.Speeds = append(v.Speeds, t.Speed)
	}
	if len(takes) > 0 {
		data, _ := json.Marshal(map[string]any{"rate": x.Rate, "takes": takes}) // numbers and text
		v.Takes = template.JS(data)
	}
	return v
}

// degreesOf lists the tones with their degrees: "1 A, ♭3 C".
func degreesOf(p music.Palette) string {
	return text.Join(p.Tones, ", ", func(t music.Tone) string { return t.Degree.Pretty() + " " + t.Name.Pretty() }) + "."
}
