package run_test

import (
	"strings"
	"testing"

	"ornamen/core/neck"
	"ornamen/core/run"
)

// A landing is read from its short form and from words, and written in both.
func TestParseLanding(t *testing.T) {
	for _, c := range []struct{ text, short, said string }{
		{"1", "1", "the root"},
		{"1@1", "1@1", "the root on beat 1"},
		{"b3@2", "b3@2", "the ♭3 on beat 2"},
		{"5@3:1", "5@3:1", "the 5 in bar 3 on beat 1"},
		{"chord:3@3:1", "chord:3@3:1", "the 3 of the chord in bar 3 on beat 1"},
		{"the third of the chord in bar 3 on beat 1", "chord:third@3:1", "the third of the chord in bar 3 on beat 1"},
		{"The third of the chord, in bar 3", "chord:third@3:1", "the third of the chord in bar 3 on beat 1"},
		{"fifth on 2", "fifth@2", "the fifth on beat 2"},
		{"root on beat 4", "root@4", "the root on beat 4"},
		{"♭7 over the chord", "chord:b7", "the ♭7 of the chord"},
	} {
		l, err := run.ParseLanding(c.text)
		if err != nil || l.String() != c.short || l.Say() != c.said {
			t.Errorf("%s: %v, %q, %q", c.text, err, l.String(), l.Say())
		}
		if again, err := run.ParseLanding(l.String()); err != nil || again != l {
			t.Errorf("%s comes back as %+v, %v", l, again, err)
		}
		if again, err := run.ParseLanding(l.Say()); err != nil || again.Bar != l.Bar || again.Beat != l.Beat {
			t.Errorf("%q is read as %+v, %v", l.Say(), again, err)
		}
	}
	for _, bad := range []string{"8th", "1@5", "1@0", "1@0:1", "1@999:1", "chord:", "the third of the moon", "1@x", ""} {
		if l, err := run.ParseLanding(bad); err == nil {
			t.Errorf("%q is read as %+v", bad, l)
		}
	}
}

// A run that lands in a bar plays as many cells as fit and begins so that it ends there; the tone counts over the chord
// that sounds then.
func TestLandsInABar(t *testing.T) {
	for _, c := range []struct {
		recipe string
		cells  int
		bar    int64
		beat   int64
		tone   string
	}{
		// Threes in sixteenths to bar 2: five cells in 15 of the 16 sixteenths.
		{recipe: `--key "A minor pentatonic" --at 6:5 --cell "1 2 3" --land 1@2:1`, cells: 5, bar: 2, beat: 1, tone: "A"},
		{
			recipe: `--key "C major" --at 6:8 --cell "1 2 3 4" --dir updown --count 8 --land 3@4:3`,
			cells:  7,
			bar:    4,
			beat:   3,
			tone:   "E",
		},
		{
			recipe: `--key "G major" --at 6:3 --cell "1 2 3 4" --dir updown --chords "G7 | Cm7" ` +
				`--land "the third of the chord in bar 2 on beat 1"`,
			cells: 4,
			bar:   2,
			beat:  1,
			tone:  "D#",
		},
		{
			recipe: `--key "Ab minor pentatonic" --cell "1 2 3" --count 8 --chords "Bbm7b5 | Eb7 | Abm6" --dir updown ` +
				`--land chord:fifth@3:1`,
			cells: 5,
			bar:   3,
			beat:  1,
			tone:  "D#",
		},
		{
			recipe: `--key "A minor pentatonic" --at 6:5 --cell "1 2 3" --land 5@2:1 --tail "3 2 1"`,
			cells:  5,
			bar:    2,
			beat:   1,
			tone:   "E",
		},
		{
			recipe: `--key "A minor pentatonic" --at 6:5 --cell "1 2 3" --times 3 --then --cell "3 2 1" --dir down --land 1@3:1`,
			cells:  10,
			bar:    3,
			beat:   1,
			tone:   "A",
		},
		{
			recipe: `--key "A minor pentatonic" --at 6:5 --cell "1 2 3" --from 3 --land 1@2:1`,
			cells:  8,
			bar:    2,
			beat:   1,
			tone:   "A",
		},
	} {
		r := grow(t, c.recipe)
		l := r.Lick
		if r.Landing == 0 {
			t.Errorf("%s lands nowhere", c.recipe)
			continue
		}
		n := l.Notes[r.Landing-1]
		at := l.Position(n.At)
		if at.Bar != c.bar || at.Beat != c.beat || !at.Off.IsZero() {
			t.Errorf("%s lands on %d of bar %d (%v off)", c.recipe, at.Beat, at.Bar, at.Off)
		}
		if got := neck.Standard().Pitch(n.Place()).String(); !strings.HasPrefix(got, c.tone) {
			t.Errorf("%s lands on %s, not %s", c.recipe, got, c.tone)
		}
		if len(r.Cells) != c.cells {
			t.Errorf("%s has %d cells, want %d", c.recipe, len(r.Cells), c.cells)
		}
		if before := l.Notes[r.Landing-2]; before.End().Cmp(n.At) > 0 {
			t.Errorf("%s: the note before lasts to %v, past the landing at %v", c.recipe, before.End(), n.At)
		}
	}
	for recipe, want := range map[string]string{
		`--key "A minor pentatonic" --at 6:5 --cell "1 2 3" --land 1@9:1`:           "too early",
		`--key "A minor pentatonic" --at 6:5 --cell "1 2 3" --land chord:3@2:1`:     "name the chords",
		`--key "A minor pentatonic" --at 6:5 --cell "1 2 3" --bars 2 --land 1@2:1`:  "name one",
		`--key "A minor pentatonic" --at 6:5 --cell "1 2 3" --times 9 --land 1@2:1`: "longer",
	} {
		r, err := run.Parse(recipe)
		if err == nil {
			_, err = run.Grow(r, neck.Standard())
		}
		if err == nil || !strings.Contains(err.Error(), want) {
			t.Errorf("%s: %v, want %q", recipe, err, want)
		}
	}
}
