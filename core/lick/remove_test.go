package lick_test

import (
	"testing"

	"ornamen/core/lick"
	"ornamen/core/testline"
)

// A note goes and what follows moves up, or it leaves a rest and all else stays where it is.
func TestRemoveLeavesARest(t *testing.T) {
	l := testline.Read(t, "A minor pentatonic", "1:5 8 2:5 8")
	rs, err := lick.ParseRanges("2-3")
	if err != nil {
		t.Fatal(err)
	}
	for _, c := range []struct {
		edit lick.Edit
		want []string // where the notes that are left begin
	}{
		{lick.Remove{Note: 1}, []string{"0", "1/16", "1/8"}},
		{lick.Remove{Note: 1, Rest: true}, []string{"0", "1/8", "3/16"}},
		{lick.Remove{Note: 0, Rest: true}, []string{"1/16", "1/8", "3/16"}},
		{lick.RemoveNotes{Notes: rs}, []string{"0", "1/16"}},
		{lick.RemoveNotes{Notes: rs, Rest: true}, []string{"0", "3/16"}},
	} {
		out, err := c.edit.Apply(l)
		if err != nil || len(out.Notes) != len(c.want) {
			t.Errorf("%s: %d notes, %v", c.edit.What(), len(out.Notes), err)
			continue
		}
		for i, want := range c.want {
			if got := out.Notes[i].At.String(); got != want {
				t.Errorf("%s: note %d begins at %s, want %s", c.edit.What(), i+1, got, want)
			}
		}
	}
}
