package hear

import (
	"strings"
	"testing"

	"ornamen/core/lick"
	"ornamen/core/neck"
	"ornamen/core/sound"
	"ornamen/core/testline"
)

// rendered is a line as samples.
func rendered(l lick.Lick) []float32 {
	p := sound.NewRenderer(neck.Standard(), l, sound.Options{Dry: true})
	out := make([]float32, p.Len())
	return out[:p.Read(out)]
}

// A line that is played as written is heard note for note; a note left out, one that comes late
// and one that is another tone are named.
func TestHearLine(t *testing.T) {
	l := testline.Build(t, 60, "4:7*1/8 9*1/8 3:6*1/8 7*1/8 2:5*1/8 8*1/8 5*1/8 3:7*1/4")
	words := func(played lick.Lick) (out []string) {
		heard, err := Line(t.Context(), rendered(played), sound.Rate, l)
		if err != nil {
			t.Fatal(err)
		}
		for _, h := range heard {
			out = append(out, h.Word)
		}
		return out
	}
	for i, w := range words(l) {
		if w != OnTime {
			t.Errorf("note %d of the line as it is: %s", i+1, w)
		}
	}
	late := l.Clone()
	late.Notes[3].At, late.Notes[3].Len = late.Notes[3].At.Add(lick.NewTime(1, 48)), lick.NewTime(1, 8).
		Sub(lick.NewTime(1, 48))
	gone := l.Clone()
	gone.Notes = append(gone.Notes[:5:5], gone.Notes[6:]...)
	wrong := l.Clone()
	wrong.Notes[4].Fret++
	for _, c := range []struct {
		name   string
		played lick.Lick
		note   int
		want   string
	}{
		{name: "late", played: late, note: 3, want: Late},
		{name: "left out", played: gone, note: 5, want: Missing},
		{name: "a fret too high", played: wrong, note: 4, want: AnotherTone},
	} {
		for i, w := range words(c.played) {
			if i == c.note && w != c.want || i != c.note && w != OnTime {
				t.Errorf("%s: note %d is %s", c.name, i+1, w)
			}
		}
	}
	if got := Words([]Note{{1, OnTime, 0}, {2, Late, 60}}); got != "1 of 2 on time; 1 late." {
		t.Error(got)
	}
	if _, err := Line(t.Context(), make([]float32, sound.Rate), sound.Rate, l); err == nil {
		t.Error("silence is a line")
	}
}

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
