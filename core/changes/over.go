package changes

import (
	"cmp"
	"slices"

	"ornamen/core/music"
	"ornamen/core/text"
)

// Fit is a palette over one chord.
type Fit struct {
	Chord  music.Chord
	Tones  []Over
	Shared []music.Tone   // tones of the palette that this chord and the next have in common
	Lacks  []music.Degree // of the chord, that the palette has not
	Scales []string       // that this chord would take by itself, the nearest to the palette first
}

// Over is a tone of the palette over a chord.
type Over struct {
	Tone   music.Tone
	Degree music.Degree // over the chord
	Role   Role
}

// FitOver judges a palette over a chord; next is the chord that follows, or nil.
func FitOver(p music.Palette, c music.Chord, next *music.Chord) Fit {
	f := Fit{Chord: c, Scales: ScalesFor(c, p)}
	has := map[int]bool{}
	for _, t := range p.Tones {
		has[t.Name.Class()] = true
		d, role := Of(c, &p, music.Pitch(t.Name.Class()+60))
		f.Tones = append(f.Tones, Over{t, d, role})
		if next != nil {
			_, here := c.Over(t.Name)
			if _, there := next.Over(t.Name); here && there {
				f.Shared = append(f.Shared, t)
			}
		}
	}
	for _, d := range c.Degrees {
		if !has[d.Over(c.Root).Class()] {
			f.Lacks = append(f.Lacks, d)
		}
	}
	return f
}

// mostScales is how many scales a chord is given.
const mostScales = 3

// ScalesFor lists the scales on a chord's root that hold all of its tones: what a player who thinks chord by chord
// would choose from (common practice). Those come first that say nothing against the chord, as a plain fifth does
// against an altered one and a major third against a minor chord; then those that share the most tones with a palette;
// then the plainer ones. So locrian stands before the blues scale over m7♭5, which has both fifths.
func ScalesFor(c music.Chord, p music.Palette) []string {
	type candidate struct {
		name                   string
		shared, count, against int
	}
	have := classes(p)
	var out []candidate
	for _, name := range holding(c) {
		s, err := music.NewPalette(c.Root.String(), name, nil, nil)
		if err != nil {
			continue
		}
		x := candidate{name: name, count: len(s.Tones)}
		for _, t := range s.Tones {
			if slices.Contains(have, t.Name.Class()) {
				x.shared++
			}
			if against(c, t.Name.Class()) {
				x.against++
			}
		}
		out = append(out, x)
	}
	slices.SortStableFunc(out, func(a, b candidate) int {
		// Tones that the palette has not count against a scale.
		return cmp.Or(cmp.Compare(a.against, b.against), (b.shared*2-b.count)-(a.shared*2-a.count))
	})
	return text.Map(out[:min(mostScales, len(out))], func(x candidate) string { return x.name })
}

// against says whether a tone contradicts a chord: the plain fifth of one whose fifth is altered,
// the major third of a minor one.
func against(c music.Chord, class int) bool {
	over := (class - c.Root.Class() + 12) % 12
	has := func(number, semitones int) bool {
		return slices.ContainsFunc(c.Degrees, func(d music.Degree) bool {
			return d.Number == number && d.Semitones() == semitones
		})
	}
	return over == 7 && (has(5, 6) || has(5, 8)) && !has(5, 7) || over == 4 && has(3, 3)
}

// holding lists the scales on a chord's root that hold all of its tones.
func holding(c music.Chord) (out []string) {
	for _, name := range music.ScaleNames() {
		if music.IsArpeggio(name) {
			break
		}
		s, err := music.NewPalette(c.Root.String(), name, nil, nil)
		if err != nil {
			continue
		}
		in := classes(s)
		lacks := func(d music.Degree) bool { return !slices.Contains(in, d.Over(c.Root).Class()) }
		if !slices.ContainsFunc(c.Degrees, lacks) {
			out = append(out, name)
		}
	}
	return out
}

// vamps are the accompaniments that show each scale's character (common practice): the first chord with the tone that
// only this scale has among its like, or two chords that move through it. Degrees are the scale's.
var vamps = map[string]struct{ text, tone string }{
	"minor pentatonic":  {"1m7 | 4m7", "b7"},
	"major pentatonic":  {"1 | 6m", "6"},
	"blues":             {"17 | 47", "b5"},
	"major blues":       {"17 | 47", "b3"},
	"major":             {"1maj7 | 4maj7", "4"},
	"dorian":            {"1m7 | 47", "6"},
	"phrygian":          {"1m | b2", "b2"},
	"lydian":            {"1maj7 | 2", "#4"},
	"mixolydian":        {"1 | b7", "b7"},
	"natural minor":     {"1m | b6", "b6"},
	"locrian":           {"1m7b5 | b5", "b5"},
	"harmonic minor":    {"1m | 57", "7"},
	"melodic minor":     {"1mmaj7 | 47", "7"},
	"phrygian dominant": {"1 | b2", "3"},
	"lydian dominant":   {"17 | 2", "#4"},
	"half-whole":        {"17b9 | 17b9", "b2"},
	"whole-half":        {"1dim7 | 1dim7", "7"},
	"whole tone":        {"17#5 | 17#5", "#5"},
	"lydian augmented":  {"1maj7#5 | 2", "#5"},
	"altered":           {"17alt | 17alt", "b2"},
}

// Vamp is an accompaniment that shows a scale's character, in degrees, and the tone that makes
// it audible; ok is false for a scale of a player's own.
func Vamp(scale string) (text string, tone music.Degree, ok bool) {
	v, ok := vamps[scale]
	if !ok {
		return "", tone, false
	}
	tone, err := music.ParseDegree(v.tone)
	return v.text, tone, err == nil
}
