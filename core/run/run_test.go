package run_test

import (
	"strings"
	"testing"

	"ornamen/core/neck"
	"ornamen/core/run"
	"ornamen/core/testline"
)

// written writes a grown line: | between cells, the landing after =.
func written(r *run.Run) string {
	marks := map[int]string{}
	for _, c := range r.Cells {
		if c.To < len(r.Lick.Notes) {
			marks[c.To] = " |"
		}
	}
	if r.Landing > 0 {
		marks[r.Landing-1] += " ="
	}
	return testline.Written(r.Lick, marks)
}

func grow(t *testing.T, line string) *run.Run {
	t.Helper()
	r, err := run.Parse(line)
	if err != nil {
		t.Fatalf("%s: %v", line, err)
	}
	run, err := run.Grow(r, neck.Standard())
	if err != nil {
		t.Fatalf("%s: %v", line, err)
	}
	return run
}

// Every kind of cell and every move against lines written by hand (common
// practice).
func TestRuns(t *testing.T) {
	for _, c := range []struct{ recipe, want string }{
		{`--key "C# natural minor" --at 6:9 --cell "3 2 1 4" --times 3 --land 4`,
			"6:12 11 9 5:9 | 9 6:12 11 5:11 | 11 9 6:12 5:12 | = 9"},
		{`--key "A minor pentatonic" --at 6:5 --cell "1 2 3" --times 3`, "6:5 8 5:5 | 6:8 5:5 7 | 5 7 4:5"},
		{`--key "A minor pentatonic" --at 6:5 --cell "3 2 1" --dir down --times 2`, "1:8 5 2:8 | 1:5 2:8 5"},
		{`--key "A minor pentatonic" --at 6:5 --cell "1" --dir updown`,
			"6:5 | 8 | 5:5 | 7 | 4:5 | 7 | 3:5 | 7 | 2:5 | 8 | 1:5 | 8 | 5 | 2:8 | 5 | 3:7 | 5 | 4:7 | 5 | 5:7 | 5 " +
				"| 6:8 | 5"},
		{`--key "A minor pentatonic" --at 6:5 --cell "1" --dir updown --turn twice --times 6`,
			"6:5 | 8 | 5:5 | 5 | 6:8 | 5"},
		{`--key "A minor pentatonic" --at 6:5 --cell "1" --dir downup --times 4`, "1:8 | 5 | 2:8 | 1:5"},
		{`--key "A minor pentatonic" --at 6:5 --cell "1 2" --move 2 --times 3`, "6:5 8 | 5:5 7 | 4:5 7"},
		{`--key "A minor pentatonic" --at 6:5 --cell "1 2" --repeat 2 --times 4`, "6:5 8 | 5 8 | 8 5:5 | 6:8 5:5"},
		{`--key "A minor pentatonic" --at 6:5 --cell "1 2 | 2 1" --times 4`, "6:5 8 | 5:5 6:8 | 5:5 7 | 4:5 5:7"},
		{`--key "A minor pentatonic" --at 6:5 --cell "1 2 3" --rotate 2 --times 2`, "6:8 5:5 6:5 | 5:5 7 6:8"},
		{`--key "A minor pentatonic" --at 6:5 --cell "1 2" --start 5 --times 2`, "4:5 7 | 7 3:5"},
		{`--key "A minor pentatonic" --at 6:5 --cell "1 2 0" --times 2`, "6:8 5:5 6:5 | 5:5 7 6:8"},
		{`--key "A minor pentatonic" --at 6:5 --cell "1 h2" --move string --times 3`, "6:5 8h | 5:5 7h | 4:5 7h"},
		{`--key "A minor pentatonic" --at 6:5 --cell "1 2" --move stay --times 2`, "6:5 8 | 5 8"},
		{`--key "A minor pentatonic" --at 6:5 --cell "1 2 3" --move octave`, "6:5 8 5:5 | 4:7 10 3:7 | 2:10 13 1:10"},
		{`--key "A minor pentatonic" --at 6:5 --cell "1 2 3" --move position --times 3`,
			"6:5 8 5:5 | 6:8 10 5:7 | 6:10 12 5:10"},
		{`--key "A natural minor" --at 6:5 --cell "1 2 3" --move scale --scales "natural minor, dorian, phrygian"`,
			"6:5 7 8 | 5 7 8 | 5 6 8"},
		{`--key "A minor pentatonic" --at 6:5 --cell "strings: Da2 pa1 Ub1 hb2 Da1" --times 2`,
			"6:8D 5p 5:5U 7h 6:5D | 5:7D 5p 4:5U 7h 5:5D"},
		{`--key "A minor pentatonic" --at 6:5 --cell "strings: a2 b1 b2" --dir down --times 2`, "1:8 2:5 8 | 8 3:5 7"},
		{`--key "A minor pentatonic" --at 6:5 --cell "strings: b2 a1" --move string:2`, "5:7 6:5 | 3:7 4:5 | 1:8 2:5"},
		{`--key "A natural minor" --layout counts:3,4,3 --at 6:5 --cell "strings: a1 ha2 sa3 b1 hb2 | a3 pa2 b3 pb1" ` +
			`--times 2`, "6:5 7h 8s 5:5 7h | 8 7p 4:10 7p"},
		{`--key "D major" --at 5:5 --cell "chord@5,4,3,2,2,3: 1 3 5 1' s2' 7" --times 2`, "5:5 4:4 3:2 2:3 5s 3:6 | " +
			"5:7 4:5 3:4 2:5 7s 3:7"},
		{`--key "C major" --at 5:3 --cell "chord: 3 1' 5" --chords "1 4 5"`, "4:2 3:5 4:5 | 7 3:10 4:10 | " +
			"9 3:12 4:12"},
		{`--key "Eb mixolydian" --layout pairs:3,1:6 --at 1:6 --cell "1 2" --times 2`, "3:6 +1:6 3:8 +1:8 | 3:8 " +
			"+1:8 3:10 +1:9"},
		{`--key "C major" --layout pairs:3,1:6 --at 3:0 --cell "1 2" --move chord --chords "1 4 5"`,
			"3:5 +1:5 3:7 +1:7 | 3:10 +1:10 3:12 +1:12 | 3:12 +1:12 3:14 +1:13"},
		{`--key "C major" --at 5:3 --cell "(1 6) (2 5) (3 4)" --times 1`, "5:3 +4:7 5:5 +4:5 5:7 +4:3"},
		{`--key "C major" --at 5:3 --cell "(1 3 5)" --times 3`, "5:3 +4:2 +3:0 | 5:5 +4:3 +3:2 | 5:7 +4:5 +3:4"},
		{`--key "A minor pentatonic" --at 6:5 --cell "(1 3) ." --times 2`, "6:5 +5:5 | 6:8 +5:7"},
		{`--key "A minor pentatonic" --add b5@down --at 6:5 --cell "1" --dir updown --times 7`, "6:5 | 8 | 5:5 " +
			"| 7 | 6 | 5 | 6:8"},
		{`--key "A minor pentatonic" --at 6:5 --cell "1 2 3 4" --times 2 --tail "4 3 2 1"`, "6:5 8 5:5 7 | 6:8 " +
			"5:5 7 4:5 | 5 5:7 5 6:8"},
		{`--key "C major" --at 5:3 --cell "1 2 3" --times 2 --tail "chord: 1 3 5" --pivot 3`, "5:3 5 7 | 5 7 " +
			"4:3 | 5:5 8 4:7"},
	} {
		got := written(grow(t, c.recipe))
		if c.want != got {
			t.Errorf("%s:\n  %s, want\n  %s", c.recipe, got, c.want)
		}
	}
}

func TestRunRhythm(t *testing.T) {
	r := grow(t, `--key "A minor pentatonic" --at 6:5 --cell "1 2 3" --count 16 --land 1@1`)
	l := r.Lick
	if n := l.Notes[r.Landing-1]; l.Position(n.At).Beat != 1 || !l.Position(n.At).Off.IsZero() {
		t.Errorf("it lands on %+v", l.Position(n.At))
	}
	if p, _ := l.Palette(); p.At(l.Pitch(r.Landing-1)).Degree.Number != 1 {
		t.Error("it does not land on the root")
	}
	if x := r.RhythmOf(); x.MeetCells != 4 || x.MeetBeats != 3 {
		t.Errorf("threes in sixteenths meet the beat after four cells and three beats, not %d and %d", x.MeetCells,
			x.MeetBeats)
	}
	r = grow(t,
		`--key "A natural minor" --layout counts:4,3,4,3,4 --at 6:5 --cell "strings: a1 sa2 ha3 pa2 b3 pb1 hb2"`)
	if got := r.RhythmOf().Aloud; got != "four, three" {
		t.Errorf("sevens on 4 and 3 are counted %q", got)
	}
	r = grow(t, `--key "A minor pentatonic" --at 6:5 --cell "1 - 2 ." --count 8 --accent 2 --times 2`)
	if n := r.Lick.Notes; n[0].Len.String() != "1/4" || n[1].At.String() != "1/4" || n[2].At.String() != "1/2" ||
		!n[0].Accent ||
		n[1].Accent ||
		!n[2].Accent {
		t.Errorf("holds, rests and accents: %+v", n)
	}
	r = grow(t, `--key "A minor pentatonic" --at 6:5 --cell "1 2" --count 8,16 --displace 1/4 --bars 1`)
	if n := r.Lick.Notes; n[0].At.String() != "1/4" || n[1].At.String() != "3/8" || r.Lick.End().String() != "5/4" {
		t.Errorf("displaced by a beat: first at %v, second at %v, end %v", n[0].At, n[1].At, r.Lick.End())
	}
	r = grow(t, `--key "A minor pentatonic" --at 3:7 --layout box --cell "1^full_ 1^2 1^half~~" --times 1`)
	if n := r.Lick.Notes; n[0].Bend.Semitones != 2 || n[0].Bend.Shape != "bend-release" || n[1].Bend.Semitones != 2 ||
		n[2].Vibrato == nil {
		t.Errorf("bends: %+v", n)
	}
}

// What cannot be is said, and points at the word.
func TestImpossibleRecipes(t *testing.T) {
	for _, c := range []struct{ line, want string }{
		{`--cell "1 2"`, "name a key"},
		{`--key "A minor pentatonic"`, "name a cell"},
		{`--key "A minor pentatonik" --cell 1`, "minor pentatonic"},
		{`--key "A minor pentatonic" --cell "1 x"`, `"x"`},
		{`--key "A minor pentatonic" --cell 1 --move sideways`, `"sideways"`},
		{`--key "A minor pentatonic" --cell 1 --move 0`, `"0"`},
		{`--key "A minor pentatonic" --cell 1 --count 3`, "count is"},
		{`--key "A minor pentatonic" --cell 1 --dir sideways`, "dir is"},
		{`--key "A minor pentatonic" --cell 1 --at 9:9`, `"9:9"`},
		{`--key "A minor pentatonic" --cell 1 --layout heap`, "heap"},
		{`--key "A minor pentatonic" --cell 1 --times 99`, "room for 12 cells"},
		{`--key "A minor pentatonic" --cell 1 --times 9999`, "1 to 2048"},
		{`--key "A minor pentatonic" --cell "1 2 3 4 5" --move stay --times 2000`, "more than 2048 notes"},
		{`--key "A minor pentatonic" --cell "1 40"`, "does not hold it"},
		{`--key "A minor pentatonic" --cell 1 --move scale`, "needs scales"},
		{`--key "A minor pentatonic" --cell "chord: 1 3 6"`, "has no"},
		{`--key "A minor pentatonic" --cell 1 --land 4@9`, `"4@9"`},
		{`--key "A minor pentatonic" --cell 1 --rotate 2`, "rotate: cell"},
		{`--key "A minor pentatonic" --cell 1 --times 2 --bars 2`, "name one"},
		{`--key "A minor pentatonic" --cell "1^5"`, "4 half steps"},
		{`--key "A minor pentatonic" --cell "1 2" extra`, `"extra"`},
		{`--key "A minor pentatonic --cell 1`, "quote"},
		{`--key "A minor pentatonic" --cell 1 --pivot 3`, "pivot"},
	} {
		r, err := run.Parse(c.line)
		if err == nil {
			_, err = run.Grow(r, neck.Standard())
		}
		if err == nil || !strings.Contains(err.Error(), c.want) {
			t.Errorf("%s: %v, want %q in it", c.line, err, c.want)
		}
	}
}
