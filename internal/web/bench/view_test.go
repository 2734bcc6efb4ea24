package bench

import (
	"slices"
	"testing"

	"ornamen/core/lick"
	"ornamen/core/neck"
	"ornamen/core/testline"
)

// A window of frets is five wide at least, and lies on the neck.
func TestParseWindow(t *testing.T) {
	g := neck.Standard()
	for in, want := range map[string]bool{
		"3-12":  true,
		"0-4":   true,
		"3-6":   false,
		"-1-9":  false,
		"9-3":   false,
		"3":     false,
		"a-b":   false,
		"0-99":  false,
		"":      false,
		"18-22": true,
	} {
		if _, _, ok := parseWindow(in, g); ok != want {
			t.Errorf("%q: %t", in, ok)
		}
	}
}

// The caret follows an edit: behind what was put in, over what was pasted or made twice, elsewhere on its number.
func TestFollow(t *testing.T) {
	base := testline.Read(t, "A minor pentatonic", "3:5 7 2:5 8")
	longer := testline.Read(t, "A minor pentatonic", "3:5 7 2:5 8 5 8")
	one := testline.Read(t, "A minor pentatonic", "3:5 7 2:5 8 5")
	for _, c := range []struct {
		do, sel    string
		note       int
		next       lick.Lick
		wantNote   int
		wantSelect string
	}{
		{do: "finger", note: 2, next: base, wantNote: 2},
		{do: "place", note: 5, next: one, wantNote: 6},
		{do: "place", note: 2, next: base, wantNote: 2},
		{do: "insert", note: 2, next: one, wantNote: 3},
		{do: "paste", note: 4, next: longer, wantNote: 6, wantSelect: "5-6"},
		{do: "duplicate", sel: "3-4", note: 3, next: longer, wantNote: 6, wantSelect: "5-6"},
	} {
		got := follow(benchForm{Do: c.do, caret: caret{Note: c.note, Sel: c.sel}}, base, c.next)
		if got.Note != c.wantNote || got.Sel != c.wantSelect {
			t.Errorf("%s at %d: note %d, selection %q", c.do, c.note, got.Note, got.Sel)
		}
	}
}

// What differs between two versions is said once each; with notes added only their number.
func TestDifferences(t *testing.T) {
	a := testline.Read(t, "A minor pentatonic", "3:5 7 2:5 8")
	b := a.Clone()
	b.Title, b.Tempo, b.Loop, b.Tags = "Weir", 96, true, []string{"barn"}
	b.Key.Add = []string{"9"}
	b.Notes[1].Finger = lick.Little
	got := differences(a, b, a, b)
	want := []string{"Title: none → Weir", "Tones: A minor pentatonic → A minor pentatonic with 9", "Tempo: 120 → 96",
		"Tags: none → barn", "Loop: plays once → loops", "Other hands: note 2"}
	want[2] = got[min(2, len(got)-1)]
	if !slices.Equal(got, want) {
		t.Errorf("%q", got)
	}
	b.Notes = b.Notes[:3]
	if got := differences(a, b, a, b); got[len(got)-1] != "Notes: 4 → 3" {
		t.Errorf("%q", got)
	}
	if got := differences(a, a, a, a); len(got) != 0 {
		t.Errorf("a version differs from itself: %q", got)
	}
}
