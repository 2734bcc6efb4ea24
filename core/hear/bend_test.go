package hear

import (
	"math"
	"strings"
	"testing"

	"ornamen/core/lick"
	"ornamen/core/music"
	"ornamen/core/neck"
	"ornamen/core/sound"
)

// The simulated guitar bends with a chosen error, and the ear finds it within 5 cents; a bend
// that is in tune is said to be, with its vibrato.
func TestHearBend(t *testing.T) {
	g := neck.Standard()
	for _, c := range []struct {
		str, fret int
		half      float64
		cents     float64
		word      string
	}{
		{
			str:   2,
			fret:  8,
			half:  2,
			cents: 0,
			word:  "In tune.",
		}, {
			str:   2,
			fret:  8,
			half:  2,
			cents: -30,
			word:  "Flat by",
		}, {
			str:   3,
			fret:  7,
			half:  2,
			cents: 25,
			word:  "Sharp by",
		}, {str: 1, fret: 15, half: 3, cents: -20, word: "Flat by"},
		{str: 4, fret: 7, half: 1, cents: 0, word: "In tune."},
	} {
		n := lick.Note{String: c.str, Fret: c.fret, Bend: &lick.Bend{Semitones: c.half, Shape: lick.BendUp}}
		target := g.Pitch(n.Place()) + music.Pitch(c.half)
		b, err := Bend(t.Context(), sound.SimulatedBend(g, n, g.Tuning, c.cents), sound.Rate, target)
		if err != nil {
			t.Errorf("%+v: %v", c, err)
			continue
		}
		if math.Abs(b.Off-c.cents) > 5 || !strings.HasPrefix(b.Words()[0], c.word) {
			t.Errorf("%+v: heard %.1f cents off: %v", c, b.Off, b.Words())
		}
		if b.Arrives < 0 && math.Abs(c.cents) < near-6 || b.Unsteady > strays {
			t.Errorf("%+v: arrives at %.2f, strays by %.1f", c, b.Arrives, b.Unsteady)
		}
	}
	const fast = 6.5 // Hz, as the simulated guitar shakes
	v := lick.Note{
		String:  2,
		Fret:    8,
		Bend:    &lick.Bend{Semitones: 2, Shape: lick.BendUp},
		Vibrato: &lick.Vibrato{Width: lick.Wide, Speed: lick.Fast},
	}
	b, err := Bend(t.Context(), sound.SimulatedBend(g, v, g.Tuning, 0), sound.Rate, g.Pitch(v.Place())+2)
	if err != nil || b.Width < leastSway || math.Abs(b.Hertz-fast) > 1 {
		t.Errorf("%v: the vibrato is heard as %.0f cents, %.1f a second, of %.1f", err, b.Width, b.Hertz, fast)
	}
	for name, samples := range map[string][]float32{"silence": make([]float32, sound.Rate), "nothing": nil} {
		if _, err := Bend(t.Context(), samples, sound.Rate, 69); err == nil || strings.Contains(err.Error(), "\n") {
			t.Errorf("%s: %v", name, err)
		}
	}
}
