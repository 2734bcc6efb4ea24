package propose

import (
	"math/rand/v2"
	"slices"
	"strings"
	"testing"

	"ornamen/core/judge"
	"ornamen/core/lick"
	"ornamen/core/pick"
	"ornamen/core/testline"
)

// What most players and teachers would write (common practice): fingers of single
// notes and of notes together, one word a column.
func TestTeachersFingers(t *testing.T) {
	for _, c := range []struct{ name, line, want string }{
		{"a lone note", "2:5", "1"},
		{"four times the same", "2:5 5 5 5", "1 1 1 1"},
		{"one fret over four strings", "1:5 2:5 3:5 4:5", "1 1 1 1"},
		{"a minor arpeggio", "3:7 2:6 1:5 10 5 2:6 3:7", "3 2 1 4 1 2 3"},
		{"power chords", "6:3+5:5 6:5+5:7 6:8+5:10", "13 13 13"},
		{"one finger flat", "4:5+3:5+2:5+1:5", "1111"},
		{"close grip", "4:2+3:2+2:2", "123|111"},
		{"two and two", "4:11+3:11+2:12+1:12", "1122|1134"},
		{"a bar of two", "2:5+1:5", "11"},
		{"octaves", "6:5 4:7 6:7 4:9", "1 3 1 3"},
		{"octaves along the neck", "6:3*1/8 4:5*1/8 6:5*1/8 4:7*1/8 6:7*1/8 4:9*1/8", "1 3 1 3 1 3"},
		{"octaves over three frets", "4:5 2:8 4:7 2:10", "1 4 1 4"},
		{"thirds on strings 2 and 1", "2:5+1:3 2:6+1:5 2:8+1:7 2:10+1:8", "31 21 21 31"},
		{"thirds on strings 3 and 2", "3:5+2:5 3:7+2:6 3:9+2:8", "11 21 21"},
		{"sixths over a string", "4:5+2:5 4:7+2:7 4:9+2:8", "23 23 21"},
		{"a lone full bend", "3:7/b2", "3"},
		{"a full bend at the first fret", "3:1/b2", "2"},
		{"along one string", "1:2 4 5 7 9 11 12 14", "1 3 4 1 3 1 2 4|1 3 4 1 3 4 1 3|1 3 4 1 2 4 1 3"},
		{"down one string", "3:14 12 11 9 7 5 4 2", "4 2 1 3 1 4 3 1|4 2 1 4 2 1 3 1|4 2 1 4 3 1 3 1"},
		{"a pentatonic along one string", "2:5 8 10 12 15 17", "1 4 1 3 1 3|1 3 1 3 1 3"},
		{"the index does not hop to the next string", "3:2 5 2:5 6 3 1:2 2:2", "1 3 3 4 2 1 1"},
		{"two fingers for two notes, not one laid flat", "2:8 9 2:10+1:10", "1 2 34"},
		{"after a stretch the index is back on the lowest fret", "5:8+4:7 5:11 5:8+4:9", "21 4 12"},
		{"a bend between two tones is the ring finger's", "3:11 9/b2*1/8 7", "4 3 1"},
		{"a half step by the finger that lies there", "2:6/b1*1/8 5 3:7", "2 1 3"},
		{"and by the index", "3:5/b1 7 5", "1 3 1"},
		{"legato up", "3:5 6/h 7/h 8/h", "1 2 3 4"},
		{"legato down", "3:8 7/p 6/p 5/p", "4 3 2 1"},
	} {
		l := testline.Build(t, 80, c.line)
		got := propose(usual, l, Request{})[0]
		var words []string
		for _, col := range got.Lick.Columns() {
			w := ""
			for i := col[0]; i < col[1]; i++ {
				w += got.Lick.Notes[i].Finger.String()
			}
			words = append(words, w)
		}
		s := strings.Join(words, " ")
		ok := false
		for _, want := range strings.Split(c.want, "|") {
			ok = ok || s == want
		}
		if !ok {
			t.Errorf("%s, %s: %s, want %s", c.name, c.line, s, c.want)
		}
	}
}

// With a bass voice on the thumb the line above is the fingers', in turn, never the pick's
// (common practice): i m on one string, i m a over the strings.
func TestThumbBass(t *testing.T) {
	for _, c := range []struct{ line, want string }{
		{"6:3*1/8 2:5 5 8 5 8", "p i m i m i"},
		{"6:3 4:5 3:4 2:3 6:3 2:3 3:4 4:5", "p i m a p a m i"},
		{"6:3+2:8 2:8 5 3:7 5", "p+i m i m i|p+m i m i m|p+i m i m i|p+m i m m i"},
	} {
		l := testline.Build(t, 80, c.line)
		for i := range l.Notes {
			if l.Notes[i].String == 6 {
				l.Notes[i].Voice = lick.VoiceBass
			}
		}
		got := propose(usual, l, Request{})[0]
		var words []string
		for _, col := range got.Lick.Columns() {
			var w []string
			for _, n := range got.Lick.Notes[col[0]:col[1]] {
				w = append(w, string(n.Stroke))
			}
			words = append(words, strings.Join(w, "+"))
		}
		if s := strings.Join(words, " "); !slices.Contains(strings.Split(c.want, "|"), s) {
			t.Errorf("%s: %s, want %s", c.line, s, c.want)
		}
	}
}

// Nothing is tight by a finger that merely hovers (common practice).
func TestNoHoveringStrain(t *testing.T) {
	for _, c := range []struct {
		line  string
		tempo float64
	}{{"3:5/f1*1/1 8/f1*1/1 5/f1*1/1", 30}, {"3:12/f3*1/8 9/f1*1/8 2:10/f4*1/8", 40}} {
		if r := check(usual, testline.Build(t, c.tempo, c.line)); r.Verdict != judge.Flows {
			t.Errorf("%s at %g: %s, %v", c.line, c.tempo, r.Verdict, codes(r))
		}
	}
}

// Restringing moves the fewest notes, begins with a downstroke and sweeps every
// change: a pentatonic line for economy picking.
func TestRestringMovesTheFewest(t *testing.T) {
	l := testline.Build(t, 100, "5:7 10 4:7 9 3:7 9 2:8 10 1:7 12")
	r, err := restring(usual, l, pick.Economy)
	if err != nil {
		t.Fatal(err)
	}
	moved := 0
	for i, n := range r.After.Lick.Notes {
		if n.Place() != l.Notes[i].Place() {
			moved++
		}
	}
	if moved != 2 {
		t.Errorf("%d notes moved, two are enough", moved)
	}
	if first := r.After.Lick.Notes[0].Stroke; first != lick.Down {
		t.Errorf("begins with %s", first)
	}
	if r.Clean[1] != 0 {
		t.Errorf("%d changes do not sweep", r.Clean[1])
	}
	if r.After.Why != "Note 3 on 5:12, note 7 on 3:12." {
		t.Error(r.After.Why)
	}
	if _, strokes := hands(r.After.Lick); strokes != "DUDDDUDDDU" {
		t.Error(strokes)
	}
	if len(r.Others) == 0 {
		t.Error("no other restringing stands beside it")
	}
}

// Alternate is alternate: a stroke comes twice only where a loop of an odd number of them
// turns, and then that is named (common practice).
func TestAlternateIsAlternate(t *testing.T) {
	rng := rand.New(rand.NewPCG(4, 4))
	seams := 0
	for k := range testline.Nightly(40) {
		l := lick.New()
		l.Tempo, l.Loop = 80, k%2 == 0
		for i := range 5 + rng.IntN(8) {
			l.Notes = append(l.Notes, lick.Note{
				At: lick.NewTime(int64(i), 8), Len: lick.NewTime(1, 8), String: 1 + rng.IntN(6), Fret: 5 + rng.IntN(5),
			})
		}
		for _, p := range propose(usual, l, Request{Way: pick.Alternate, Best: 2}) {
			n := p.Lick.Notes
			for i := 1; i < len(n); i++ {
				if n[i].Stroke == n[i-1].Stroke {
					t.Fatalf("line %d: notes %d and %d both take %s", k, i, i+1, n[i].Stroke)
				}
			}
			if l.Loop && n[0].Stroke == n[len(n)-1].Stroke {
				seams++
				if !slices.ContainsFunc(p.Report.Findings, func(f judge.Finding) bool {
					return slices.Equal(f.Notes, []int{len(n), 1})
				}) {
					t.Errorf("line %d: the turn repeats a stroke and nothing says so", k)
				}
			}
		}
	}
	if seams == 0 {
		t.Error("no loop of an odd number of strokes was tried")
	}
}

// Four tones on several strings take one slide, the same on each: F# natural minor, 4 3 4 3
// 4 a string, by the little finger's, and by the index's as the alternative (common
// practice).
func TestOneSlideForAll(t *testing.T) {
	l := testline.Build(t, 60, "5:5 7 9 11 4:7 9 11 3:7 9 11 13 2:10 12 14 1:10 12 14 16")
	var got []string
	for _, p := range propose(usual, l, Request{Way: pick.Legato, Best: 4}) {
		fingers, _ := hands(p.Lick)
		got = append(got, fingers[:4]+" "+fingers[7:11]+" "+fingers[14:])
		if p.Ceiling <= 0 {
			t.Errorf("%s has no ceiling", fingers)
		}
	}
	if len(got) == 0 || got[0] != "1244 1244 1244" || !slices.Contains(got, "1124 1124 1124") {
		t.Errorf("%q", got)
	}
}
