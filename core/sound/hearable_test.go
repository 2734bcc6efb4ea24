package sound

import (
	"strings"
	"testing"

	"ornamen/core/lick"
)

// A line that cannot be told apart by ear is refused before anyone plays it.
func TestHearable(t *testing.T) {
	line := func(tempo float64, step lick.Time, notes int) lick.Lick {
		l := lick.New()
		l.Tempo = tempo
		for i := range notes {
			l.Notes = append(l.Notes, lick.Note{At: step.Times(int64(i)), Len: step, String: 2, Fret: 5 + i%3})
		}
		return l
	}
	sixteenth, quarter := lick.NewTime(1, 16), lick.NewTime(1, 4)
	double := line(60, quarter, 2)
	double.Notes[1].At, double.Notes[1].String = double.Notes[0].At, 3
	for _, c := range []struct {
		l    lick.Lick
		want string // of the sentence; empty: it can be heard
	}{
		{line(120, sixteenth, 8), ""}, {line(121, sixteenth, 8), "too fast"}, {line(60, quarter, 50), ""},
		{line(60, quarter, 51), "shorter part"}, {double, "sound together"}, {lick.New(), ""},
	} {
		err := Hearable(c.l)
		if (err == nil) != (c.want == "") || err != nil && !strings.Contains(err.Error(), c.want) {
			t.Errorf("%d notes at %g: %v, want %q", len(c.l.Notes), c.l.Tempo, err, c.want)
		}
	}
}
