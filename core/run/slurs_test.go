package run_test

import (
	"strings"
	"testing"

	"ornamen/core/lick"
)

// slursOf writes a run's slurs, a letter a note: picked, hammered, pulled, slid.
func slursOf(l lick.Lick) string {
	letters := map[lick.Slur]string{"": ".", lick.Hammer: "h", lick.Pull: "p", lick.Slide: "s", lick.Shift: "S"}
	var b strings.Builder
	for _, n := range l.Notes {
		b.WriteString(letters[n.Slur])
	}
	return b.String()
}

// Slurs follow a rule besides those that the cell sets: what is picked is the first of a string, what no hand spans
// is slid, a stroke that is set stays.
func TestSlursByRule(t *testing.T) {
	const pentatonic = `--key "A minor pentatonic" --at 6:5 --cell "1 2 3 4" --move stay --times 1 `
	for _, c := range []struct{ recipe, want string }{
		{pentatonic, "...."},
		{pentatonic + `--slurs string`, ".h.h"},
		{pentatonic + `--slurs "the first of a string picked"`, ".h.h"},
		{pentatonic + `--slurs "slurred where the string changes not"`, ".h.h"},
		{`--key "A minor pentatonic" --at 6:5 --cell "2 1 4 3" --move stay --times 1 --slurs up`, "...."},
		{`--key "A minor pentatonic" --at 6:5 --cell "2 1 4 3" --move stay --times 1 --slurs down`, ".p.p"},
		{`--key "A minor pentatonic" --at 6:5 --cell "1 2" --move 2 --dir updown --times 4 --down-cell "2 1" --slurs way`,
			".h.h.h.p"},
		{`--key "A minor pentatonic" --at 6:5 --cell "2 1" --move 2 --times 2 --slurs way`, "...."},
		{`--key "A minor pentatonic" --at 6:5 --cell "1 D2 3 4" --move stay --times 1 --slurs string`, "...h"},
		// Four tones on a string low on the neck: the fourth is out of the hand's reach from the first.
		{`--key "A natural minor" --layout counts:4,3,4 --at 6:3 --cell "strings: a1 a2 a3 a4" --move stay --times 1 ` +
			`--slurs string`, ".hhs"},
		{`--key "A natural minor" --layout counts:4,3,4 --at 6:3 --cell "strings: a4 a3 a2 a1" --move stay --times 1 ` +
			`--slurs string`, ".pps"},
	} {
		if got := slursOf(grow(t, c.recipe).Lick); got != c.want {
			t.Errorf("%s: %s, want %s", c.recipe, got, c.want)
		}
	}
}
