package lick_test

import (
	"bytes"
	"math/rand/v2"
	"testing"

	"ornamen/core/lick"
	"ornamen/core/testline"
)

// An excerpt that is put back unchanged gives the lick as it was, whatever it holds; it is a valid
// lick by itself.
func TestExcerptComesBack(t *testing.T) {
	rng := rand.New(rand.NewPCG(3, 19))
	tried := 0
	for range 600 {
		l, err := lick.Parse(testline.Random(rng).Encode())
		if err != nil || len(l.Notes) < 4 {
			continue
		}
		from := l.Notes[rng.IntN(len(l.Notes))].At
		if rng.IntN(3) == 0 {
			from = lick.Time{}
		}
		to := from.Add(lick.NewTime(int64(1+rng.IntN(20)), 16))
		x := l.Excerpt(from, to)
		if x.From == x.To {
			continue
		}
		tried++
		if err := x.Lick.Validate(); err != nil {
			t.Fatalf("the excerpt is no lick: %v\n%s", err, x.Lick.Encode())
		}
		back := x.Into(l, x.Lick)
		if len(l.Parts) > 0 && len(x.Lick.Parts) == 0 {
			continue // a part that lies across the border is forgotten
		}
		if !bytes.Equal(merged(l).Encode(), merged(back).Encode()) {
			t.Fatalf("from %s to %s:\n%s\ncame back as\n%s", from, to, l.Encode(), back.Encode())
		}
	}
	if tried < 100 {
		t.Errorf("only %d excerpts were tried", tried)
	}
}

// merged is a lick whose chords of one name that follow each other are one, as they sound.
func merged(l lick.Lick) lick.Lick {
	out := l.Clone()
	out.Chords = nil
	for _, c := range l.Chords {
		if k := len(out.Chords) - 1; k >= 0 && out.Chords[k].Name == c.Name &&
			out.Chords[k].At.Add(out.Chords[k].Len).Cmp(c.At) == 0 {
			out.Chords[k].Len = out.Chords[k].Len.Add(c.Len)
			continue
		}
		out.Chords = append(out.Chords, c)
	}
	return out
}

// What is changed in an excerpt is changed there and nowhere else; what follows moves along where
// it has become longer.
func TestExcerptChanged(t *testing.T) {
	l := testline.Build(t, 100, "3:5 7 5 7 2:5 8 5 8 1:5 8 5 8")
	l.Chords = []lick.Chord{{Len: lick.NewTime(3, 4), Name: "Am7"}}
	x := l.Excerpt(lick.NewTime(1, 4), lick.NewTime(1, 2))
	if x.From != 4 || x.To != 8 || x.Lick.Notes[0].At.String() != "0" || x.Lick.Chords[0].Len.String() != "1/4" {
		t.Fatalf("%d to %d\n%s", x.From, x.To, x.Lick.Encode())
	}
	part := x.Lick.Clone()
	part.Notes[1].Fret = 6
	last := part.Notes[3]
	last.At, last.Fret = last.End(), 10
	part.Notes = append(part.Notes, last)
	got := x.Into(l, part)
	if len(got.Notes) != 13 || got.Notes[5].Fret != 6 || got.Notes[8].Fret != 10 || got.Notes[8].At.String() != "1/2" ||
		got.Notes[9].At.String() != "9/16" || got.Notes[3].Fret != 7 || got.Chords[0].Name != "Am7" {
		t.Errorf("%s", got.Encode())
	}
	if err := got.Validate(); err != nil {
		t.Error(err)
	}
}
