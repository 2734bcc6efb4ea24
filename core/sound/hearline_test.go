package sound

import (
	"testing"

	"ornamen/core/lick"
	"ornamen/core/neck"
	"ornamen/core/testline"
)

// rendered is a line as samples.
func rendered(l lick.Lick) []float32 {
	p := NewPlayer(neck.Standard(), l, Options{Dry: true})
	out := make([]float32, p.Len())
	return out[:p.Read(out)]
}

// A line that is played as written is heard note for note; a note left out, one that comes late
// and one that is another tone are named.
func TestHearLine(t *testing.T) {
	l := testline.Build(t, 60, "4:7*1/8 9*1/8 3:6*1/8 7*1/8 2:5*1/8 8*1/8 5*1/8 3:7*1/4")
	words := func(played lick.Lick) (out []string) {
		heard, err := HearLine(t.Context(), rendered(played), Rate, l)
		if err != nil {
			t.Fatal(err)
		}
		for _, h := range heard {
			out = append(out, h.Word)
		}
		return out
	}
	for i, w := range words(l) {
		if w != HeardOnTime {
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
	}{{"late", late, 3, HeardLate}, {"left out", gone, 5, HeardMissing}, {"a fret too high", wrong, 4, HeardOther}} {
		for i, w := range words(c.played) {
			if i == c.note && w != c.want || i != c.note && w != HeardOnTime {
				t.Errorf("%s: note %d is %s", c.name, i+1, w)
			}
		}
	}
	if got := LineWords([]HeardNote{{1, HeardOnTime, 0}, {2, HeardLate, 60}}); got != "1 of 2 on time; 1 late." {
		t.Error(got)
	}
	if _, err := HearLine(t.Context(), make([]float32, Rate), Rate, l); err == nil {
		t.Error("silence is a line")
	}
}
