package main

import (
	"context"
	"fmt"
	"math"
	"strconv"
	"strings"

	"ornamen/core/hand"
	"ornamen/core/music"
	"ornamen/core/neck"
	"ornamen/core/shape"
)

// toneJSON is one tone on the neck as --json writes it.
// finger is null where the shape is beyond the hand; bends is never null.
type toneJSON struct {
	String int        `json:"string"`
	Fret   int        `json:"fret"`
	Note   string     `json:"note"`
	Degree string     `json:"degree"`
	Role   string     `json:"role"`
	Finger *int       `json:"finger"`
	Bends  []bendJSON `json:"bends"`
}

// placeJSON is a place to hear a bend's target at.
type placeJSON struct {
	String int `json:"string"`
	Fret   int `json:"fret"`
}

// bendJSON is one bend: lengths in mm, force in newtons.
// hear is where the target can be heard on the neck before it is bent to.
type bendJSON struct {
	To        string      `json:"to"`
	Note      string      `json:"note"`
	Semitones int         `json:"semitones"`
	PushMM    float64     `json:"push_mm"`
	ForceN    float64     `json:"force_n"`
	Fingers   int         `json:"fingers"` // how many
	Finger    *int        `json:"finger"`  // that bends; null where none reaches
	With      []int       `json:"with"`    // behind it
	Rating    string      `json:"rating"`
	Push      string      `json:"push"`
	Hear      []placeJSON `json:"hear"`
}

// tones lays a palette out and lists what each place offers: its tone, its role, the finger that plays the shape, the
// bends to chosen tones with push, force and rating. With --over the palette is judged over each chord instead. As
// JSON: {"tones": [...]}, the lowest first; lengths in mm, forces in N, rounded to a tenth.
func tones(_ context.Context, e env, args []string) error {
	fs := newFlags()
	key := fs.String("key", "", "`KEY` root and scale, as in \"C# minor pentatonic\"; must be given")
	add := fs.String("add", "", "`TONES` colour notes beside the scale, as in 9,b5 or b5@down")
	drop := fs.String("drop", "", "`TONES` tones of the scale left out")
	layout := fs.String("layout", "", "`LAYOUT` box, 3nps, string:N, frets:N-M, arp, joined, counts:…, pairs:…; "+
		"box for five and six tones, else 3nps")
	at := fs.String("at", "", "`STRING:FRET` place of the lowest tone; the lowest root on string 6")
	asJSON := fs.Bool("json", false, "prints JSON")
	beside := fs.String("beside", "", "`SCALE` another scale on the same root that it is compared with, as in dorian")
	over := fs.String("over", "", "`CHORDS` chords that the tones are heard over, as in \"A7 | D7\"")
	o := optionsOf(e, fs, false)
	if _, err := parse(fs, args, 0, ""); err != nil {
		return err
	}
	if *key == "" {
		return fmt.Errorf(`name a key, as in --key "C# minor pentatonic"`)
	}
	p, err := music.ParseKey(*key, list(*add), list(*drop))
	if err != nil {
		return err
	}
	if *over != "" {
		return tonesOver(e, p, *over, *asJSON)
	}
	l := shape.Default(p.Scale)
	if *layout != "" {
		if l, err = shape.ParseLayout(*layout); err != nil {
			return err
		}
	}
	player, err := o.player()
	if err != nil {
		return err
	}
	g := player.Guitar
	place := shape.Begin(g, p, l)
	if *at != "" {
		if place, err = neck.ParsePlace(*at); err != nil {
			return err
		}
	}
	placed, err := shape.Lay(g, p, l, place)
	if err != nil {
		return err
	}
	shape.Finger(hand.NewModel(player.Hand, g), placed)
	shape.AddBends(g, player, p, placed)
	var compared *besideJSON
	if *beside != "" {
		if compared, err = compare(p, *beside); err != nil {
			return err
		}
	}
	if *asJSON {
		return printTonesJSON(e, placed, compared)
	}
	printTones(e, p, placed)
	if compared != nil {
		fmt.Fprintf(e.out, "beside %s: both have %s", compared.Scale, strings.Join(compared.Both, " "))
		for _, x := range []struct {
			where string
			tones []string
		}{{"only here", compared.Here}, {"only there", compared.There}} {
			if len(x.tones) > 0 {
				fmt.Fprintf(e.out, "; %s %s", x.where, strings.Join(x.tones, " "))
			}
		}
		fmt.Fprintln(e.out)
	}
	return nil
}

// besideJSON is how a palette and another scale on its root compare, in degrees.
type besideJSON struct {
	Scale string   `json:"scale"`
	Both  []string `json:"both"`
	Here  []string `json:"only_here"`
	There []string `json:"only_there"`
}

// compare lists what two scales share and what only one of them has.
func compare(p music.Palette, scale string) (*besideJSON, error) {
	other, err := music.NewPalette(p.Tonic.String(), scale, nil, nil)
	if err != nil {
		return nil, err
	}
	out := &besideJSON{
		Scale: other.Tonic.String() + " " + other.Scale.Name,
		Both:  []string{},
		Here:  []string{},
		There: []string{},
	}
	for _, t := range p.Tones {
		if other.At(music.Pitch(t.Name.Class())).Role == music.Outside {
			out.Here = append(out.Here, t.Degree.String())
		} else {
			out.Both = append(out.Both, t.Degree.String())
		}
	}
	for _, t := range other.Tones {
		if p.At(music.Pitch(t.Name.Class())).Role == music.Outside {
			out.There = append(out.There, t.Degree.String())
		}
	}
	return out, nil
}

// list splits "9,b5"; spaces around the commas are allowed.
// Nothing between two commas is an empty word, which the reader of the list refuses by name.
func list(s string) []string {
	if strings.TrimSpace(s) == "" {
		return nil
	}
	out := strings.Split(s, ",")
	for i := range out {
		out[i] = strings.TrimSpace(out[i])
	}
	return out
}

// printTonesJSON writes the layout as JSON, lowest tone first.
// Names are spelled by the palette, with the octave of the pitch: B♯3 sounds like C4.
func printTonesJSON(e env, placed []shape.Placed, beside *besideJSON) error {
	out := struct {
		Tones  []toneJSON  `json:"tones"`
		Beside *besideJSON `json:"beside,omitempty"`
	}{[]toneJSON{}, beside}
	for _, t := range placed {
		j := toneJSON{
			String: t.Place.String,
			Fret:   t.Place.Fret,
			Note:   t.Tone.Name.WithOctave(t.Pitch),
			Degree: t.Tone.Degree.String(),
			Role:   t.Tone.Role.String(),
			Bends:  []bendJSON{},
		}
		if n, err := strconv.Atoi(t.Finger.String()); err == nil {
			j.Finger = &n
		}
		for _, b := range t.Bends {
			j.Bends = append(j.Bends, bendOf(b))
		}
		out.Tones = append(out.Tones, j)
	}
	return printJSON(e, out)
}

// bendOf rounds a bend for printing.
func bendOf(b shape.Bend) bendJSON {
	j := bendJSON{
		To:        b.To.Degree.String(),
		Note:      b.To.Name.WithOctave(b.Pitch),
		Semitones: b.Semitones,
		PushMM:    tenth(float64(b.Push.Way)),
		ForceN:    tenth(float64(b.Push.Force)),
		Fingers:   1 + len(b.With),
		With:      []int{},
		Rating:    string(b.Rating),
		Push:      "thin",
		Hear:      []placeJSON{},
	}
	if b.ToThick {
		j.Push = "thick"
	}
	if b.Finger.Fretting() {
		n := int(b.Finger)
		j.Finger = &n
	}
	for _, f := range b.With {
		j.With = append(j.With, int(f))
	}
	for _, h := range b.Hear {
		j.Hear = append(j.Hear, placeJSON(h))
	}
	return j
}

// tenth rounds to one decimal.
func tenth(x float64) float64 { return math.Round(x*10) / 10 }

// printTones writes the layout as rows of strings, the thin one on top.
// Bends that lead to no chosen tone or cannot be made are left out here and stand in the JSON.
func printTones(e env, p music.Palette, placed []shape.Placed) {
	title := p.Pretty()
	for _, c := range p.Colours() {
		title += ", " + c.Degree.Pretty()
	}
	fmt.Fprintln(e.out, title)
	fmt.Fprintln(e.out, "string fret note  degree role    finger bends")
	for _, t := range placed {
		var bends []string
		for _, b := range t.Bends {
			if b.Rating == shape.Common || b.Rating == shape.Usable || b.Rating == shape.Wide {
				hand := b.Finger.String()
				for _, f := range b.With {
					hand += "+" + f.String()
				}
				bends = append(bends, fmt.Sprintf("%d to %s by %s (%.1f mm, %.1f N, %s)", b.Semitones,
					b.To.Degree.Pretty(), hand, b.Push.Way, b.Push.Force, b.Rating))
			}
		}
		fmt.Fprintf(e.out, "%-6d %-4d %-5s %-6s %-7s %-6s %s\n", t.Place.String, t.Place.Fret,
			t.Tone.Name.PrettyWithOctave(t.Pitch), t.Tone.Degree.Pretty(), t.Tone.Role, t.Finger,
			strings.Join(bends, "; "))
	}
}
