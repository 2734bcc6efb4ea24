package run_test

import (
	"strings"
	"testing"

	"ornamen/core/lick"
	"ornamen/core/neck"
	"ornamen/core/run"
)

// How a run may end: tails of every kind, from where the run has come to, and the
// landing after them (common practice: down to the root, up with a shift, on over a
// chord).
func TestEndings(t *testing.T) {
	for _, c := range []struct{ recipe, want string }{
		// From the last cell's start, whichever way the run went.
		{`--key "A minor pentatonic" --at 6:5 --cell "1 2" --times 3 --tail "2 1 0"`, "6:5 8 | 8 5:5 | 5 7 | 7 5 6:8"},
		{`--key "A minor pentatonic" --at 6:5 --cell "2 1" --dir down --times 2 --tail "1 0 -1"`,
			"1:8 5 | 5 2:8 | 8 5 3:7"},
		// Up with a silent shift on the same string.
		{`--key "A natural minor" --layout string:3 --at 3:2 --cell "1 2" --times 2 --tail "2 S3 4"`,
			"3:2 4 | 4 5 | 5 7s 9"},
		// A tail of strings after a cell of strings.
		{`--key "A minor pentatonic" --at 6:5 --cell "strings: a1 a2" --times 2 --tail "strings: b1 b2"`,
			"6:5 8 | 5:5 7 | 4:5 7"},
		// A tail of another kind begins where the last note is.
		{`--key "A minor pentatonic" --at 6:5 --cell "1 2 3" --times 2 --tail "strings: a2 a1"`,
			"6:5 8 5:5 | 6:8 5:5 7 | 7 5"},
		{`--key "C major" --at 5:3 --cell "1 2 3" --times 1 --tail "chord: 1 3 5"`, "5:3 5 7 | 7 10 4:9"},
		// The landing comes last of all, nearest to the last note.
		{`--key "A minor pentatonic" --at 6:5 --cell "1 2" --times 2 --tail "1 0" --land 1`,
			"6:5 8 | 8 5:5 | 6:8 5 | = 5"},
		{`--key "A minor pentatonic" --at 6:5 --cell "1 2 3" --times 2 --land 5`, "6:5 8 5:5 | 6:8 5:5 7 | = 7"},
	} {
		if got := written(grow(t, c.recipe)); got != c.want {
			t.Errorf("%s:\n  %s, want\n  %s", c.recipe, got, c.want)
		}
	}
}

// What cannot end so is said with its word.
func TestImpossibleEndings(t *testing.T) {
	for _, c := range []struct{ recipe, want string }{
		{`--key "A minor pentatonic" --at 6:5 --cell "1 2" --times 2 --tail "1 40"`, "the tail does not fit"},
		{`--key "A minor pentatonic" --at 6:5 --cell "1 2" --times 2 --tail "1 q"`, `"q"`},
		{`--key "A minor pentatonic" --at 6:5 --cell "1 2" --times 2 --tail "chord: 1 6"`, "has no 6"},
		{`--key "C major" --at 5:3 --cell "1 2" --times 1 --tail "chord: 1 3" --pivot b6`, "b6"},
	} {
		r, err := run.Parse(c.recipe)
		if err == nil {
			_, err = run.Grow(r, neck.Standard())
		}
		if err == nil || !strings.Contains(err.Error(), c.want) {
			t.Errorf("%s: %v, want %q in it", c.recipe, err, c.want)
		}
	}
}

// A start beat gives the number of notes, and the number of notes says how early or late the
// landing is (common practice).
func TestStartBeat(t *testing.T) {
	for _, c := range []struct {
		args   string
		notes  int // before the landing
		remark string
	}{
		{`--count 8 --from "3&" --land 1@1 --bars 1`, 11, "From the & of 3, landing on 1: 11 eighths and the landing."},
		{`--count 8 --from "the & of 3" --land 1@1 --bars 1`, 11, ""},
		{`--count 8 --from 2 --land 1@3 --bars 1`, 18, "From beat 2, landing on 3: 18 eighths"},
		{`--count 8 --from 3& --land 1@1`, 27, "27 eighths"},
		{`--count 8 --from 3& --land 1@1 --times 2`, 6, "From the & of 3 it lands 3 eighths late: on the & of " +
			"2, not on 1."},
		{`--count 16 --from 4a --land 1@2 --times 2`, 6, "it lands a sixteenth late: on the e of 2, not on 2."},
		{`--count 16 --displace 1/4 --land 1@3 --times 1`, 3, "it lands a sixteenth early: on the a of 2, not on 3."},
	} {
		r := grow(t, `--key "A minor pentatonic" --at 6:5 --cell "1 2 3" `+c.args)
		if r.Landing-1 != c.notes {
			t.Errorf("%s: %d notes and the landing, want %d", c.args, r.Landing-1, c.notes)
		}
		if all := strings.Join(r.Remarks, " "); !strings.Contains(all, c.remark) {
			t.Errorf("%s: %q, want %q", c.args, all, c.remark)
		}
	}
	for _, bad := range []string{"5", "0", "x", "3i", "3&&", ""} {
		if _, err := run.Parse(`--key "A minor" --cell "1 2" --displace 1/4 --from "` + bad + `"`); err == nil &&
			bad != "" {
			t.Errorf("from %q is taken", bad)
		}
		if _, err := run.Parse(`--key "A minor" --cell "1 2" --from "` + bad + `"`); err == nil && bad != "" {
			t.Errorf("from %q is taken", bad)
		}
	}
}

// The landing falls on its beat, and what lies before the bar is the pick-up.
func TestLandings(t *testing.T) {
	for _, c := range []struct {
		land, pickup, from string
		count              string
	}{
		{land: "1@1", pickup: "3/8", from: "the & of 3", count: "16"}, // six sixteenths before the bar
		{land: "1@3", pickup: "7/8", from: "the & of 1", count: "16"},
		{land: "1@1", pickup: "3/4", from: "beat 2", count: "8"},
		{land: "1@1", pickup: "1/4", from: "beat 4", count: "16t"},
	} {
		r := grow(t, `--key "A minor pentatonic" --at 6:5 --cell "1 2 3" --times 2 --count `+c.count+` --land `+c.land)
		l := r.Lick
		if got := l.Pickup.String(); got != c.pickup {
			t.Errorf("%s in %s: a pick-up of %s, want %s", c.land, c.count, got, c.pickup)
		}
		if got := r.RhythmOf().PickupFrom; got != c.from {
			t.Errorf("%s in %s: it starts on %s, want %s", c.land, c.count, got, c.from)
		}
		pos := l.Position(l.Notes[r.Landing-1].At)
		if want := int64(c.land[2] - '0'); pos.Beat != want || !pos.Off.IsZero() {
			t.Errorf("%s in %s: it lands on beat %d and %v", c.land, c.count, pos.Beat, pos.Off)
		}
		if n := l.Notes[r.Landing-1]; n.Len.Cmp(lick.NewTime(1, 4)) != 0 {
			t.Errorf("the landing lasts %v", n.Len)
		}
	}
}
