package store

import (
	"testing"

	"ornamen/core/lick"
)

// A lick is found by a chord under it, as it is written and with signs.
func TestFoundByChord(t *testing.T) {
	s := open(t, t.TempDir()+"/n.db")
	l := titled("Ferry")
	l.Chords = []lick.Chord{
		{Len: lick.NewTime(1, 1), Name: "C#m7"},
		{At: lick.NewTime(1, 1), Len: lick.NewTime(1, 1), Name: "F#7"},
	}
	for _, x := range []lick.Lick{l, titled("Without")} {
		if _, err := s.Add(t.Context(), x, "made"); err != nil {
			t.Fatal(err)
		}
	}
	for _, words := range []string{"C#m7", "f#7", "C♯m7 ferry"} {
		rows, err := s.List(t.Context(), Query{Find: words, Limit: 5})
		if err != nil || len(rows) != 1 || rows[0].Title != "Ferry" {
			t.Errorf("%q finds %d licks, %v", words, len(rows), err)
		}
	}
}
