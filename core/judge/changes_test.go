package judge

import (
	"context"
	"slices"
	"strings"
	"testing"

	"ornamen/core/changes"
	"ornamen/core/lick"
	"ornamen/core/player"
	"ornamen/core/testline"
)

// What is said of a line over its changes, and that none of it changes the verdict; a fix lands
// on time.
func TestChangesFindings(t *testing.T) {
	for _, c := range []struct{ key, chords, line, code, text string }{
		{"A mixolydian", "E7 | A7", "2:12*1/2 12*1/4 3:14*1/4+1:12*1/4", "landing-early",
			"The root and fifth of A7 sound a beat before it, over E7."},
		{"A mixolydian", "E7 | A7", "2:12*1/2 12*1/2 3:11*1/8 2:14*1/8", "landing-late",
			"A7 begins in bar 2; its third comes half a beat after it."},
		{"A mixolydian", "E7 | A7", "2:12*1/2 12*1/2 2:12*1/4 12*1/4", "chord-missed",
			"Over A7, from bar 2 on, sounds none of its root, third, fifth and seventh."},
		{"C major", "Cmaj7", "1:1*1/2 1:0*1/2", "clash", "The 4 over Cmaj7 lies a half step above its 3"},
		{"C major", "Cmaj7", "2:3*1/2 1:0*1/2", "tension-held", "The 9 over Cmaj7 is held for 2 beats"},
		{"C major", "Cmaj7", "1:1*1/8 1:0*1/8", "", ""}, // the 4 passes by
	} {
		l := testline.InKey(testline.Build(t, 90, c.line), c.key[:1], c.key[2:])
		var err error
		if l.Chords, err = changes.Parse(c.chords, l.Meter, l.Pickup, l.Key.Tonic); err != nil {
			t.Fatal(err)
		}
		e := NewEngine(player.DefaultPlayer())
		r, err := e.Check(context.Background(), l)
		if err != nil {
			t.Fatal(err)
		}
		of := slices.IndexFunc(r.Findings, func(f Finding) bool {
			return strings.HasPrefix(string(f.Code), "landing") || f.Code == ChordMissed || f.Code == ClashCode ||
				f.Code == TensionHeld
		})
		if c.code == "" {
			if of >= 0 {
				t.Errorf("%s: %s", c.line, r.Findings[of].Text)
			}
			continue
		}
		if of < 0 || string(r.Findings[of].Code) != c.code || !strings.HasPrefix(r.Findings[of].Text, c.text) {
			t.Errorf("%s over %s: %+v, want %s", c.line, c.chords, r.Findings, c.text)
			continue
		}
		without := l.Clone()
		without.Chords = nil
		if plain, _ := e.Check(context.Background(), without); plain.Verdict != r.Verdict ||
			plain.Ceiling != r.Ceiling {
			t.Errorf("%s: the chords change the verdict", c.line)
		}
		if err := e.Mend(context.Background(), l, r); err != nil {
			t.Fatal(err)
		}
		for _, f := range r.Findings[of].Fixes {
			mended, err := f.Edit.Apply(l)
			if err != nil {
				t.Fatal(err)
			}
			if x := changes.Read(mended).Landings; len(x) == 0 || x[0].Word != changes.OnTime {
				t.Errorf("“%s” does not land on time: %+v", f.Text, x)
			}
		}
		if c.code == "landing-early" && len(r.Findings[of].Fixes) == 0 {
			t.Errorf("%s: nothing mends it", c.line)
		}
		// On purpose it is shown as such, and an easy player hears no clash.
		note := r.Findings[of].Notes[0] - 1
		meant := l.Clone()
		meant.Notes[note].Meant = []lick.Code{lick.Code(c.code)}
		if r, _ := e.Check(context.Background(), meant); !r.Findings[of].Meant {
			t.Errorf("%s is not marked as meant", c.code)
		}
	}
}
