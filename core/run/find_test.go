package run

import (
	"strings"
	"testing"

	"ornamen/core/lick"
	"ornamen/core/neck"
)

// line reads a line written by hand: string:fret with the string kept, marks h p
// s, + together, . a rest, - a hold, *1/4 a length.
func line(t testing.TB, key, text string) lick.Lick {
	t.Helper()
	l := lick.New()
	if key != "" {
		l.Key.Tonic, l.Key.Scale, _ = strings.Cut(key, " ")
	}
	step := lick.NewTime(1, 16)
	var at lick.Time
	str := 0
	for _, word := range strings.Fields(text) {
		switch word {
		case ".":
			at = at.Add(step)
			continue
		case "-":
			l.Notes[len(l.Notes)-1].Len = l.Notes[len(l.Notes)-1].Len.Add(step)
			at = at.Add(step)
			continue
		}
		length := step
		for _, w := range strings.Split(word, "+") {
			n := lick.Note{At: at, Len: step}
			if head, tail, ok := strings.Cut(w, ":"); ok {
				str, w = int(head[0]-'0'), tail
			}
			if head, tail, ok := strings.Cut(w, "*"); ok {
				n.Len, _ = lick.ParseTime(tail)
				w = head
			}
			length = n.Len
			n.String = str
			for _, c := range w {
				switch {
				case c >= '0' && c <= '9':
					n.Fret = 10*n.Fret + int(c-'0')
				default:
					n.Slur = map[rune]lick.Slur{'h': lick.Hammer, 'p': lick.Pull, 's': lick.Slide, 'S': lick.Shift}[c]
				}
			}
			l.Notes = append(l.Notes, n)
		}
		at = at.Add(length)
	}
	l.Sort()
	if err := l.Validate(); err != nil {
		t.Fatalf("%s: %v", text, err)
	}
	return l
}

// Lines entered by hand, which run never made (common practice and our own): the
// recipe gives them back, or the part that it covers.
var handEntered = []struct {
	key, text string
	covers    int // notes, 0: all
}{
	{"A minor pentatonic", "6:5 8 5:5 6:8 5:5 7 5 7 4:5 5:7 4:5 7 5 7 3:5 4:7 3:5 7", 0},
	{"A minor pentatonic", "1:8 5 2:8 1:5 2:8 5 8 5 3:7 2:5 3:7 5", 0},
	{"A minor pentatonic", "6:5 8 5:5 7 4:5 7 3:5 7 2:5 8 1:5 8 5 2:8 5 3:7 5 4:7 5 5:7 5 6:8 5", 0},
	{"C# natural minor", "6:12 11 9 5:9 9 6:12 11 5:11 11 9 6:12 5:12 12 11 9 4:9", 0},
	{"C# natural minor", "6:9 11 12 5:9 6:11 12 5:9 11 6:12 5:9 11 12", 0},
	{"A natural minor", "6:5 8 7 5:5 6:8 5:7 5 8 5:7 4:5 5:8 4:7 5 9 4:7 3:5", 16},
	{"A minor pentatonic", "6:5 8h 5:5 7h 4:5 7h 3:5 7h 2:5 8h 1:5 8h", 0},
	{"A minor pentatonic", "1:8 5p 2:8 5p 3:7 5p 4:7 5p", 0},
	{"A minor pentatonic", "6:5 8h 5:5 7 5p 6:8 5:5 7h 4:5 7 5p 5:7 4:5 7h 3:5 7 5p 4:7", 0},
	{"A minor pentatonic", "6:5 5:5 6:8 5:7 5 4:5 5:7 4:7 5 3:5 4:7 3:7", 0},
	{"E minor pentatonic", "6:12 15 12 15 12 15 12 15", 0},
	{"E minor pentatonic", "1:15 12p 2:15 1:15 12p 2:15 1:15 12p 2:15", 0},
	{"G major", "6:3 5 7 5:3 5 7 4:4 5 7 3:4 5 7 2:5 7 8 1:5 7 8", 0},
	{"G major", "6:3 5:3 6:5 5:5 6:7 5:7", 0},
	{"D dorian", "5:5 7 8 7 4:5 7 9 7 3:5 7 9 7", 12},
	{"A minor pentatonic", "6:5 8 5:5 4:7 10 3:7 2:10 13 1:10", 0},
	{"A minor pentatonic", "6:5 8 5:5 7 6:8 10 5:7 10 6:10 12 5:10 12", 0},
	{"C major", "5:3 4:5 2:5 5:5 4:7 2:6 5:7 4:9 2:8 5:8 4:10 2:10", 0},
	{"C major", "5:3 4:5 2:5 5:8 4:10 2:10 5:10 4:12 2:12", 0},
	{"Eb mixolydian", "3:6+1:6 3:8+1:8 3:10+1:9 3:12+1:11", 0},
	{"Eb mixolydian", "3:6+1:6 3:8+1:8 3:8+1:8 3:10+1:9 3:10+1:9 3:12+1:11", 0},
	{"B natural minor", "2:0 2 2 3 3 5 5 7 7 8", 0},
	{"B natural minor", "2:12 10 8 10 8 7 8 7 5 7 5 3", 0},
	{"A blues", "6:5 8 5:5 6 6:8 5:5 6 7 5:5 6 7 4:5", 0},
	{"F# minor pentatonic", "1:17 14 2:17 14 1:14 2:17 14 3:16 2:17 14 3:16 14", 0},
	{"C minor", "6:8 - 10 - 11 - 5:8 - 10 - 11 -", 0},
	{"C minor", "6:8 10 11 . 10 11 5:8 . 6:11 5:8 10 .", 0},
	// A broken last cell: it is the tail, or lies outside the part.
	{"A minor pentatonic", "6:5 8 5:5 6:8 5:5 7 5 7 4:5 5:7 4:5 7 5 2:8", 0},
	{"A minor pentatonic", "6:5 8 5:5 6:8 5:5 7 5 7 4:5 1:8*1/4", 9},
	{"A minor pentatonic", "1:5 3:7 6:5 8 5:5 6:8 5:5 7 5 7 4:5 5:7 4:5 7", 12},
	{"", "6:5 8 5:5 6:8 5:5 7 5:5 7 4:5", 0},
	{"A natural minor", "6:5 7h 8h 10s 5:7 8h 10h 7 8h 10h 12s 4:9 10h 12h", 14},
	{"C# minor pentatonic", "6:9 12 5:9 11 4:9 11 3:9 11 2:9 12 1:9 12 9*1/4", 0},
}

func TestFindHandEntered(t *testing.T) {
	if len(handEntered) < 30 {
		t.Fatalf("only %d lines", len(handEntered))
	}
	g := neck.Standard()
	for _, c := range handEntered {
		l := line(t, c.key, c.text)
		f, ok, _ := Find(t.Context(), g, l)
		want := c.covers
		if want == 0 {
			want = len(l.Notes)
		}
		if !ok || f.To-f.From+1 < want {
			t.Errorf("%s %s: found %v (%d to %d) %s", c.key, c.text, ok, f.From, f.To, f.Recipe.String())
			continue
		}
		t.Logf("%-62s %d-%d %s", c.text, f.From, f.To, f.Recipe)
		run, err := Grow(f.Recipe, g)
		if err != nil {
			t.Errorf("%s: %v", f.Recipe, err)
			continue
		}
		for i, n := range run.Lick.Notes {
			if w := l.Notes[f.From-1+i]; n.Place() != w.Place() || n.Slur != w.Slur && i > 0 {
				t.Errorf("%s: note %d is %v, written %v", f.Recipe, i+1, n.Place(), w.Place())
			}
		}
	}
}

func TestFindNothing(t *testing.T) {
	g := neck.Standard()
	for _, text := range []string{"6:5", "6:5 1:17 3:2 5:11 2:9"} {
		if f, ok, _ := Find(t.Context(), g, line(t, "A minor", text)); ok && f.To-f.From+1 > 3 {
			t.Errorf("%s: %s", text, f.Recipe)
		}
	}
	if _, ok, _ := Find(t.Context(), g, lick.New()); ok {
		t.Error("an empty line has a recipe")
	}
}

// A line of 64 notes.
func BenchmarkFind64(b *testing.B) {
	g := neck.Standard()
	r, err := Parse(`--key "C natural minor" --at 6:8 --cell "1 2 3 4"`)
	if err != nil {
		b.Fatal(err)
	}
	run, err := Grow(r, g)
	if err != nil {
		b.Fatal(err)
	}
	l := run.Lick
	l.Notes = l.Notes[:60]
	for i, s := range []int{3, 2, 3, 1} { // a broken end
		n := l.Notes[59]
		n.At, n.Fret = n.At.Add(n.Len.Times(int64(i+1))), n.Fret-s
		l.Notes = append(l.Notes, n)
	}
	for b.Loop() {
		if _, _, err := Find(b.Context(), g, l); err != nil {
			b.Fatal(err)
		}
	}
}
