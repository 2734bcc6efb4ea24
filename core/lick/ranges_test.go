package lick_test

import (
	"math/rand/v2"
	"strings"
	"testing"

	"ornamen/core/lick"
	"ornamen/core/testline"
)

// A selection is written as players say it, and comes back.
func TestRanges(t *testing.T) {
	for text, want := range map[string][2]string{
		"3": {"3", "note 3"}, "3-8": {"3-8", "notes 3 to 8"}, "12-17,3-8": {"3-8,12-17", "notes 3 to 8 and 12 to 17"},
		"1-4,3-6": {"1-6", "notes 1 to 6"}, "1-2,3": {"1-3", "notes 1 to 3"}, "1,3,5,7": {"1,3,5,7", "4 notes"},
	} {
		rs, err := lick.ParseRanges(text)
		if err != nil || rs.String() != want[0] || rs.Words() != want[1] {
			t.Errorf("%s: %s, %s, %v", text, rs, rs.Words(), err)
		}
	}
	for _, text := range []string{"", "0", "3-", "-3", "8-3", "x", "1,,2", "1-2-3", strings.Repeat("1,", 9000)} {
		if rs, err := lick.ParseRanges(text); err == nil {
			t.Errorf("%q is read as %s", text, rs)
		}
	}
}

// What is taken out can be put back, what is doubled taken away, what is stretched shortened, and what is
// carried off carried home: the line is the same again, whatever was selected. Random lines with double
// stops, rests, slurs, chords and parts.
func TestSelectionsComeBack(t *testing.T) {
	rng := rand.New(rand.NewPCG(24, 1))
	for range 400 {
		l := randomLine(rng)
		from := rng.IntN(len(l.Notes))
		rs, err := lick.Ranges{{From: from, To: from + 1 + rng.IntN(len(l.Notes)-from)}}.Whole(l)
		if err != nil {
			t.Fatal(err)
		}
		r := rs[0]
		apply := func(l lick.Lick, edits ...lick.Edit) lick.Lick {
			t.Helper()
			for _, e := range edits {
				next, err := e.Apply(l)
				if err != nil {
					t.Fatalf("%s: %v\n%s", e.What(), err, l.Encode())
				}
				l = next
			}
			return l
		}
		clip, err := l.Clipped(rs)
		if err != nil {
			t.Fatal(err)
		}
		double := apply(l, lick.Duplicate{Notes: rs})
		if len(double.Notes) != len(l.Notes)+r.To-r.From || double.End().Cmp(l.End().Add(clip.Len)) != 0 {
			t.Fatalf("%s doubled: %d notes to %s of %d to %s", rs, len(double.Notes), double.End(), len(l.Notes),
				l.End())
		}
		same(t, "doubled and taken away",
			apply(double, lick.RemoveNotes{Notes: lick.Ranges{{From: r.To, To: 2*r.To - r.From}}}), l)
		same(t, "stretched and shortened", apply(l, lick.Stretch{Notes: rs, Times: lick.NewTime(3, 2)},
			lick.Stretch{Notes: rs, Times: lick.NewTime(2, 3)}), l)
		if r.To < len(l.Notes) { // a rest behind the last note is lost with what comes after it
			same(t, "cut and pasted", apply(l, lick.RemoveNotes{Notes: rs}, lick.Paste{After: r.From - 1, Clip: clip}),
				l)
			away := apply(l, lick.Carry{Notes: rs, After: -1})
			same(t, "carried and carried home", apply(away, lick.Carry{
				Notes: lick.Ranges{{From: 0, To: r.To - r.From}}, After: r.To - 1}), l)
			if len(away.Chords) != len(l.Chords) {
				t.Error("chords go along with notes that are carried")
			}
		}
		same(t, "pasted over itself", apply(l, lick.Paste{Over: rs, Clip: clip}), l)
		if only := apply(l, lick.Only{Notes: rs}); len(only.Notes) != r.To-r.From || !only.Notes[0].At.IsZero() {
			t.Errorf("%s alone: %d notes from %s", rs, len(only.Notes), only.Notes[0].At)
		}
	}
}

// same compares the notes of two lines, but for slurs over a seam, which are let go with the note that they
// came from.
func same(t *testing.T, what string, got, want lick.Lick) {
	t.Helper()
	if len(got.Notes) != len(want.Notes) {
		t.Fatalf("%s: %d notes, want %d", what, len(got.Notes), len(want.Notes))
	}
	for i := range got.Notes {
		g, w := got.Notes[i], want.Notes[i]
		if g.At.Cmp(w.At) != 0 || g.Len.Cmp(w.Len) != 0 || g.Place() != w.Place() || g.Finger != w.Finger ||
			g.Slur != "" && g.Slur != w.Slur {
			t.Fatalf("%s: note %d is %+v, want %+v\n%s", what, i+1, g, w, want.Encode())
		}
	}
}

// randomLine is a line of a few figures with rests, double stops, slurs, fingers, chords and parts.
func randomLine(rng *rand.Rand) lick.Lick {
	l := lick.New()
	var at lick.Time
	for k := 0; k < 4+rng.IntN(16); k++ {
		long := lick.NewTime(1, []int64{8, 16, 12, 4}[rng.IntN(4)])
		s := 2 + rng.IntN(5)
		n := lick.Note{At: at, Len: long, String: s, Fret: 3 + rng.IntN(9)}
		if rng.IntN(3) == 0 {
			n.Finger, n.Lock = lick.Finger(1+rng.IntN(4)), lick.LockSet{lick.FieldFinger}
		}
		if j := len(l.Notes) - 1; j >= 0 && rng.IntN(3) == 0 {
			n.String = l.Notes[j].String
			n.Slur = lick.Hammer.Between(l.Notes[j].Fret, n.Fret)
		}
		l.Notes = append(l.Notes, n)
		if n.String > 1 && rng.IntN(5) == 0 {
			l.Notes = append(l.Notes, lick.Note{At: at, Len: long, String: n.String - 1, Fret: n.Fret})
		}
		if at = at.Add(long); rng.IntN(6) == 0 {
			at = at.Add(lick.NewTime(1, 8))
		}
	}
	l.Sort()
	l.FitSlurs()
	l.Chords = []lick.Chord{
		{Len: lick.NewTime(1, 2), Name: "Am7"},
		{At: lick.NewTime(1, 2), Len: lick.NewTime(4, 1), Name: "D7"},
	}
	return l
}

// A clip goes into an empty lick with its tones and tempo, and onto a guitar that has its strings.
func TestPasteElsewhere(t *testing.T) {
	l := testline.Read(t, "C# dorian", "3:5 h7 2:5 8")
	l.Tempo = 132
	clip, err := l.Clipped(lick.Ranges{{From: 1, To: 3}})
	if err != nil {
		t.Fatal(err)
	}
	got, err := lick.Paste{After: -1, Clip: clip}.Apply(lick.New())
	if err != nil || len(got.Notes) != 2 || got.Key.Tonic != "C#" || got.Tempo != 132 || got.Notes[0].Slur != "" {
		t.Errorf("%v %s", err, got.Encode())
	}
	clip.Lick.Notes[0].String = 6
	four := lick.New()
	four.Tuning = four.Tuning[:4]
	if _, err := (lick.Paste{After: -1, Clip: clip}).Apply(four); err == nil ||
		!strings.Contains(err.Error(), "string 6") {
		t.Errorf("a sixth string on four: %v", err)
	}
}
