package propose

import (
	"context"
	"testing"

	"ornamen/core/judge"
	"ornamen/core/lick"
	"ornamen/core/player"
	"ornamen/core/testline"
)

// A melody that names no string is laid where it is usually played (common practice: an octave
// of C major from C4 lies under one hand at the fifth fret), what names its place stays, and
// the pitches are those that came.
func TestLay(t *testing.T) {
	e := judge.NewEngine(player.DefaultPlayer())
	scale := testline.Build(t, 90, "2:1 3 5 6 8 10 12 13 3:5*1/4 7")
	laid, err := Lay(context.Background(), e, scale, []int{0, 1, 2, 3, 4, 5, 6, 7})
	if err != nil {
		t.Fatal(err)
	}
	if got, want := testline.Written(laid, nil), "3:5 7 2:5 6 8 1:5 7 8 3:5 7"; got != want {
		t.Errorf("%s, want %s", got, want)
	}
	for i, n := range laid.Notes {
		if laid.Pitch(i) != scale.Pitch(i) || n.Locked(lick.FieldString) {
			t.Errorf("note %d is %v, was %v; locked %v", i+1, laid.Pitch(i), scale.Pitch(i), n.Lock)
		}
	}
}

// BenchmarkLay lays a long melody.
func BenchmarkLay(b *testing.B) {
	e := judge.NewEngine(player.DefaultPlayer())
	l := testline.Wild(512)
	var all []int
	for i := range l.Notes {
		all = append(all, i)
	}
	for b.Loop() {
		if _, err := Lay(context.Background(), e, l, all); err != nil {
			b.Fatal(err)
		}
	}
}
