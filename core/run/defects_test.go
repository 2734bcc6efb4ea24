package run_test

import (
	"testing"

	"ornamen/core/neck"
	"ornamen/core/phrase"
	"ornamen/core/run"
)

// A tail after bars that cut the run, a way back with other tones from below the
// ladder: both were faults of the program once.
func TestRunsThatWereFaults(t *testing.T) {
	for _, line := range []string{
		`--key "A minor pentatonic" --cell "1 2 3" --bars 1 --tail "1 2"`,
		`--key "A minor pentatonic" --cell "2 3" --add b5@down --dir downup`,
		`--key "A minor pentatonic" --cell "2 3" --add b5@down --dir updown --times 9`,
		`--key "A natural minor" --cell "0 -1" --add 7@up --dir downup --turn twice`,
	} {
		r, err := run.Parse(line)
		if err != nil {
			t.Fatal(err)
		}
		if grown, err := run.Grow(r, neck.Standard()); err != nil || len(grown.Lick.Notes) == 0 {
			t.Errorf("%s: %v", line, err)
		}
	}
}

// A chord cell that no place holds is refused, not grown into nothing.
func TestChordCellWithoutRoom(t *testing.T) {
	_, err := run.Grow(run.Recipe{Key: "A minor", Cell: "chord@1,1: 1 5,,,", At: "1:5"}, neck.Standard())
	if err == nil {
		t.Error("a cell that fits nowhere gives an empty lick")
	}
}

// Bars may hold as many notes as a run may have; what lies beyond them is cut before
// it counts.
func TestBarsCutBeforeTheyCount(t *testing.T) {
	grown, err := run.Grow(run.Recipe{Key: "A natural minor", Cell: "1 2 3", Bars: 128, Dir: "updown"}, neck.Standard())
	if err != nil || len(grown.Lick.Notes) != run.MaxNotes {
		t.Errorf("%v", err)
	}
}

// The strings of a chord cell turn with its steps: begun on its second step, the cell
// sounds the same tones on the same strings.
func TestRotatedChordStrings(t *testing.T) {
	places := func(rotate int) (out []string) {
		grown, err := run.Grow(
			run.Recipe{Key: "C major", At: "5:3", Cell: "chord@5,4,3: 1 5 1'", Move: "stay", Times: 3, Rotate: rotate},
			neck.Standard(),
		)
		if err != nil {
			t.Fatal(err)
		}
		for _, n := range grown.Lick.Notes {
			out = append(out, n.Place().Notation())
		}
		return out
	}
	straight, turned := places(0), places(2)
	for i := range 8 {
		if turned[i] != straight[i+1] {
			t.Errorf("%v is not %v begun a step later", turned, straight)
			break
		}
	}
}

// A bend's target is looked for on the string of the note that is bent.
func TestBendTargetString(t *testing.T) {
	grown, err := run.Grow(run.Recipe{Key: "A minor", At: "4:7", Cell: "chord@4,3,2: 1 b3 4^5", Move: "stay"},
		neck.Standard())
	if err != nil {
		t.Fatal(err)
	}
	if b := grown.Lick.Notes[2].Bend; b == nil || b.Semitones != 2 {
		t.Errorf("from 4 to 5 it bends %+v", b)
	}
}

// One amount stands after a bend, never two.
func TestOneBendAmount(t *testing.T) {
	for range 20 {
		if p, err := phrase.ParsePhrase("3^fullhalf"); err == nil {
			t.Fatalf("3^fullhalf reads as %s", p)
		}
	}
}

// A bend to a tone is looked for on the string of its own step: the F over the thin string's E
// lies beyond the neck on the thick one, where the cell begins.
func TestBendOnItsOwnString(t *testing.T) {
	r, err := run.Parse(`--key "A natural minor" --cell "chord@6,1: 1 5''^6''" --chords 1 --at 6:5`)
	if err != nil {
		t.Fatal(err)
	}
	g, err := run.Grow(r, neck.Standard())
	if err != nil {
		t.Fatal(err)
	}
	n := g.Lick.Notes[1]
	if n.String != 1 || n.Fret != 12 || n.Bend == nil || n.Bend.Semitones != 1 {
		t.Errorf("%+v", n)
	}
}
