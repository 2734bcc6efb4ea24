package run

import (
	"strings"
	"testing"

	"ornamen/core/lick"
	"ornamen/core/neck"
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
		r, err := Parse(line)
		if err != nil {
			t.Fatal(err)
		}
		if run, err := Grow(r, neck.Standard()); err != nil || len(run.Lick.Notes) == 0 {
			t.Errorf("%s: %v", line, err)
		}
	}
}

// A chord cell that no place holds is refused, not grown into nothing.
func TestChordCellWithoutRoom(t *testing.T) {
	_, err := Grow(Recipe{Key: "A minor", Cell: "chord@1,1: 1 5,,,", At: "1:5"}, neck.Standard())
	if err == nil {
		t.Error("a cell that fits nowhere gives an empty lick")
	}
}

// Bars may hold as many notes as a run may have; what lies beyond them is cut before
// it counts.
func TestBarsCutBeforeTheyCount(t *testing.T) {
	run, err := Grow(Recipe{Key: "A natural minor", Cell: "1 2 3", Bars: 128, Dir: "updown"}, neck.Standard())
	if err != nil || len(run.Lick.Notes) != MaxNotes {
		t.Errorf("%v", err)
	}
}

// The strings of a chord cell turn with its steps: begun on its second step, the cell
// sounds the same tones on the same strings.
func TestRotatedChordStrings(t *testing.T) {
	places := func(rotate int) (out []string) {
		run, err := Grow(Recipe{Key: "C major", At: "5:3", Cell: "chord@5,4,3: 1 5 1'", Move: "stay", Times: 3, Rotate: rotate}, neck.Standard())
		if err != nil {
			t.Fatal(err)
		}
		for _, n := range run.Lick.Notes {
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
	run, err := Grow(Recipe{Key: "A minor", At: "4:7", Cell: "chord@4,3,2: 1 b3 4^5", Move: "stay"}, neck.Standard())
	if err != nil {
		t.Fatal(err)
	}
	if b := run.Lick.Notes[2].Bend; b == nil || b.Semitones != 2 {
		t.Errorf("from 4 to 5 it bends %+v", b)
	}
}

// One amount stands after a bend, never two.
func TestOneBendAmount(t *testing.T) {
	for range 20 {
		if p, err := ParsePhrase("3^fullhalf"); err == nil {
			t.Fatalf("3^fullhalf reads as %s", p)
		}
	}
}

// A recipe found in another tuning names it and gives the same frets back.
func TestRecipeKnowsTheTuning(t *testing.T) {
	dadgad, err := neck.ParseTuning("D4 A3 G3 D3 A2 D2")
	if err != nil {
		t.Fatal(err)
	}
	g := neck.Standard().WithTuning(dadgad)
	grown, err := Grow(Recipe{Key: "D minor pentatonic", At: "6:12", Cell: "1 2 3", Times: 6}, g)
	if err != nil {
		t.Fatal(err)
	}
	l := grown.Lick
	l.Recipe = ""
	found, ok, err := Find(t.Context(), neck.Standard(), l)
	if err != nil || !ok || found.To != len(l.Notes) || !strings.Contains(found.Recipe.String(), "--tuning") {
		t.Fatalf("%v %v %s", ok, err, found.Recipe)
	}
	again, err := Parse(found.Recipe.String())
	if err != nil {
		t.Fatal(err)
	}
	back, err := Grow(again, neck.Standard())
	if err != nil {
		t.Fatal(err)
	}
	for i, n := range back.Lick.Notes {
		if n.Place() != l.Notes[i].Place() {
			t.Fatalf("note %d lies at %s, not at %s", i+1, n.Place().Notation(), l.Notes[i].Place().Notation())
		}
	}
}

// Two notes that lie hours apart have no recipe, and that is known at once.
func TestSilenceHasNoRecipe(t *testing.T) {
	l := lick.New()
	l.Key = lick.Key{Tonic: "A", Scale: "minor pentatonic"}
	for _, at := range []int64{0, 5000} {
		l.Notes = append(l.Notes, lick.Note{At: lick.NewTime(at, 1), Len: lick.NewTime(1, 16), String: 1, Fret: 5})
	}
	allocated := testing.Benchmark(func(b *testing.B) {
		for b.Loop() {
			if _, ok, err := Find(b.Context(), neck.Standard(), l); ok || err != nil {
				b.Fatal(ok, err)
			}
		}
	}).AllocedBytesPerOp()
	if allocated > 20<<20 {
		t.Errorf("it takes %d MB", allocated>>20)
	}
}
