package figure

import (
	"fmt"
	"math/rand/v2"
	"slices"
	"strings"
	"testing"

	"ornamen/core/neck"
)

// read is a line as "6:5 8 5:5+4:5"; h behind a fret is a hammer, o one that no finger presses.
func read(line string) (out [][]Note) {
	str := 0
	for _, word := range strings.Fields(line) {
		var column []Note
		for _, w := range strings.Split(word, "+") {
			n := Note{Pressed: true, Plain: true}
			if cut, ok := strings.CutSuffix(w, "h"); ok {
				w, n.Plain = cut, false
			}
			if cut, ok := strings.CutSuffix(w, "o"); ok {
				w, n.Pressed = cut, false
			}
			if s, rest, ok := strings.Cut(w, ":"); ok {
				fmt.Sscan(s, &str)
				w = rest
			}
			fmt.Sscan(w, &n.Place.Fret)
			n.Place.String = str
			column = append(column, n)
		}
		out = append(out, column)
	}
	return out
}

// What each kind of figure says of a line's fingers (common practice).
func TestFingers(t *testing.T) {
	for _, kind := range []struct {
		name  string
		of    func(Usual) int
		cases [][2]string
	}{
		{"by its strings", func(u Usual) int { return u.OnString }, [][2]string{
			{"6:5 7 8 5:5 7 8 4:5 7 9", "1 3 4 1 3 4 1 2 4"},
			{"6:5 8 5:5 7 4:5 7", "0 0 0 0 0 0"},
			{"6:1 2 3", "1 2 3"},
			{"6:5 8 9", "1 3 4"},
			{"6:5 6 9", "1 2 4"},
			{"6:5 6 8 7", "0 0 0 0"},                   // four tones
			{"6:5 7 10", "0 0 0"},                      // no shape of one position
			{"6:5 5:7 6:7 5:9 6:9", "1 0 2 0 4"},       // its tones nearby
			{"6:5 7 5:5+4:5 6:8", "1 3 00 4"},          // a grip takes no part
			{"6:5 7h 8 5:5o 6:5 7 8", "1 3 4 0 1 3 4"}, // slurs are of the string too
		}},
		{"by position", func(u Usual) int { return u.InPosition }, [][2]string{
			{"6:5 7 8 5:5 7 8 4:5 7 9", "1 3 0 0 0 0 0 0 0"},
			{"6:5 8 5:5 7 4:5 7", "1 4 1 3 1 3"},
			{"6:5 6 8 7", "1 2 4 3"},
			{"6:5 7 5:5 5 5 5 5 5 5 5 5 6:8", "1 3 1 1 1 1 1 1 1 1 1 4"},
		}},
		{"along", func(u Usual) int { return u.Along }, [][2]string{
			{"1:2 4 5 7 9 11 12 14", "1 3 4 1 2 4 1 3"},
			{"3:14 12 11 9 7 5 4 2", "4 2 1 4 2 1 3 1"},
			{"2:5 8 10 12 15 17", "1 4 1 3 1 3"},
			{"2:5 8 10 12 15 17h", "1 4 1 3 0 0"},           // not into a slur: 5 8 10 12 15
			{"1:12 10 9 10 9 7 9 7 5", "4 2 1 4 3 1 4 2 1"}, // a cell that walks down
			{"1:5 7 8 7 8 10 8 10 12", "1 3 4 1 2 4 1 2 4"},
			{"1:5 6 7 8 9", "1 2 3 4 0"},
			{"1:5 10 15 20", "0 0 0 0"},
			{"1:5 7 8 10", "0 0 0 0"}, // four are no way along
		}},
		{"by shape", func(u Usual) int { return u.ByShape }, [][2]string{
			{"6:5 4:7 6:7 4:9", "1 3 1 3"},
			{"4:5 2:8 4:7 2:10", "1 4 1 4"},
			{"3:9 5:7 3:7 5:5", "3 1 3 1"},
			{"1:5 6:5 4:7 6:7 4:9 1:5", "0 1 3 1 3 0"},
			{"6:5 4:7", "0 0"}, // one is no run
			{"4:5+2:5 4:7+2:7 4:9+2:8", "23 23 21"},
			{"2:5+1:3 2:6+1:5 2:8+1:7 2:10+1:8", "31 21 21 31"},
			{"4:5+3:5 4:7+3:7 4:5+3:5", "11 33 11"}, // the hand stays
			{"4:5+3:5 4:7+3:7 4:9+3:9", "11 11 11"}, // it goes on
			{"4:5+3:5+2:5 4:7+3:7+2:7", "111 333"},
			{"4:5+3:5 3:5+2:5", "00 00"},  // on other strings
			{"4:5+3:5 4:7h+3:7", "00 00"}, // slurred
			{"4:5+3:9 4:7+3:11", "00 00"}, // no shape
		}},
	} {
		for _, c := range kind.cases {
			var words []string
			for _, column := range Fingers(read(c[0]), Of{}) {
				w := ""
				for _, u := range column {
					w += fmt.Sprint(kind.of(u))
				}
				words = append(words, w)
			}
			if got := strings.Join(words, " "); got != c[1] {
				t.Errorf("%s %s: %s, want %s", c[0], kind.name, got, c[1])
			}
		}
	}
	if Fingers(nil, Of{}) == nil || len(Fingers([][]Note{{{Place: neck.Place{String: 1, Fret: 5}}}}, Of{})) != 1 {
		t.Error("a line of no notes, or of one")
	}
}

// On a bass the first frets are 1 2 4's; higher up, and where four of them are in reach, nothing
// changes or nothing is said (common practice).
func TestLongScale(t *testing.T) {
	for _, c := range [][2]string{
		{"4:1 3 3:1 3", "1 4 1 4"}, {"4:2 3 4 3:2 4", "1 2 4 1 4"}, {"4:1 2 3 4", "0 0 0 0"}, {"4:5 7 3:5 7", "1 3 1 3"},
	} {
		var words []string
		for _, column := range Fingers(read(c[0]), Of{LongScale: true}) {
			words = append(words, fmt.Sprint(column[0].InPosition))
		}
		if got := strings.Join(words, " "); got != c[1] {
			t.Errorf("%s: %s, want %s", c[0], got, c[1])
		}
	}
}

// A cell comes back at other frets, on other strings, and played as before; notes together, open
// strings, and another slur end it.
func TestFindCells(t *testing.T) {
	for _, c := range []struct {
		line string
		want string // size: first columns
	}{
		{"6:5 7 8 5:5 7 8 4:5 7 8", "3: [[0 3 6]]"},                   // over the strings
		{"1:5 8 2:5 1:7 10 2:7 1:9 12 2:9", "3: [[0 3 6]]"},           // along the neck
		{"1:9 6:5 7 8 5:5 7 8 4:5 7 8", "3: [[1 4 7]]"},               // after one that leads in
		{"6:5 7 8 5:5 7 8 4:5 7 9 3:5 7 9", "3: [[0 3] [6 9]]"},       // two shapes
		{"6:5 7h 8 5:5 7h 8 4:5 7h 8", "3: [[0 3 6]]"},                // slurred alike
		{"6:5 7h 8 4:5 7 8", "0: []"},                                 // and not alike
		{"6:5 7 9 5:6 8 11 4:5 9", "0: []"},                           // none
		{"6:5 7 8+5:5 6:5 7 8+5:5", "0: []"},                          // together
		{"6:0o 7 8 6:0o 7 8", "0: []"},                                // open
		{"6:5 8 5:5 6:5 8 5:5 6:5 8 5:5 6:5 8 5:5", "3: [[0 3 6 9]]"}, // the shortest
	} {
		columns := read(c.line)
		for k := range columns {
			for i := range columns[k] {
				if !columns[k][i].Plain {
					columns[k][i].Mark = "slurred"
				}
			}
		}
		found := FindCells(columns)
		if got := fmt.Sprintf("%d: %v", found.Size, found.Groups); got != c.want {
			t.Errorf("%s: %s, want %s", c.line, got, c.want)
		}
	}
}

// Habits are read as they are written, and what no hand has is refused.
func TestHabits(t *testing.T) {
	hs, err := ParseHabits(" tones 2  4: 1 3 4;octave 2: 1 4; fret 3: 3; tones 2 4: 1 2 4 ")
	if err != nil || hs.String() != "fret 3: 3; octave 2: 1 4; tones 2 4: 1 2 4" {
		t.Errorf("%v, %v", hs, err)
	}
	if again, err := ParseHabits(hs.Without("fret 3").String()); err != nil || len(again) != 2 {
		t.Errorf("%v, %v", again, err)
	}
	for _, bad := range []string{"tones 2 4", "tones 2: 1 3", "tones 4 2: 1 2 4", "tones 2 4: 1 3", "tones 2 4: 4 3 1",
		"tones 2 4: 1 3 5", "tones 2 9: 1 3 4", "tones 2 4: 1 1 4", "fret 3: 1", "fret 9: 3", "octave 4: 1 4", "bend: 4",
		"octave 2: 3", "x"} {
		if hs, err := ParseHabits(bad); err == nil {
			t.Errorf("%q is read as %v", bad, hs)
		}
	}
	// What a habit says takes the place of the usual, there alone.
	for _, c := range []struct{ habits, line, want string }{
		{"tones 2 4: 1 3 4", "6:5 7 9 5:5 7 8", "1 3 4 1 3 4"},
		{"fret 3: 3", "6:5 8 5:5 7", "1 3 1 3"},
		{"octave 2: 1 4", "6:5 4:7 6:7 4:9", "1 4 1 4"},
	} {
		hs, err := ParseHabits(c.habits)
		if err != nil {
			t.Fatal(err)
		}
		var got []string
		for _, u := range Fingers(read(c.line), Of{Habits: hs}) {
			got = append(got, fmt.Sprint(max(u[0].ByShape, u[0].OnString, u[0].InPosition)))
		}
		if s := strings.Join(got, " "); s != c.want {
			t.Errorf("with %q %s is %s, want %s", c.habits, c.line, s, c.want)
		}
	}
}

// Corrections are found in any line. The first one has a tone of a string's three, far apart, that is also the place of
// a position: the habit that it may be of is that of the place.
func TestCorrectedAnyLine(t *testing.T) {
	lines := [][][]Note{read("6:14 5:5 6 7 4:5 6 7 6:7 5:5 6 7 6:5")}
	rng := rand.New(rand.NewPCG(3, 7))
	for range 2000 {
		var l [][]Note
		for range 4 + rng.IntN(20) {
			var column []Note
			for _, s := range rng.Perm(3 + rng.IntN(4))[:1+rng.IntN(8)/6] {
				column = append(column, Note{Place: neck.Place{String: s + 1, Fret: rng.IntN(16)}, Pressed: rng.IntN(9) > 0,
					Plain: rng.IntN(5) > 0})
			}
			slices.SortFunc(column, func(a, b Note) int { return b.Place.String - a.Place.String })
			l = append(l, column)
		}
		lines = append(lines, l)
	}
	for _, l := range lines {
		fingers := make([][]int, len(l))
		for k, c := range l {
			for range c {
				fingers[k] = append(fingers[k], 1+rng.IntN(4))
			}
		}
		for _, h := range Corrected(l, Of{LongScale: rng.IntN(2) == 0}, fingers, func(int, int) bool { return true }) {
			if _, ok := h.read(); !ok {
				t.Fatalf("%v is no habit", h)
			}
			Fingers(l, Of{Habits: Habits{h}})
		}
	}
}

// The figures of a line: phrases between rests, in them the cells that come back, runs of octaves and
// of grips, and what lies on one string.
func TestFind(t *testing.T) {
	columns := read("6:5 7 8 5:5 7 8 4:5 3:7 4:7 3:9 4:5+3:5 4:7+3:7 1:5 6 8")
	var got []string
	for _, f := range Find(columns, func(k int) bool { return k == 0 || k == 12 }) {
		got = append(got, fmt.Sprintf("%s %d-%d/%d", f.Kind, f.From, f.To, f.Of))
	}
	want := "phrase 0-12/0 cell 0-3/0 string 0-3/0 cell 3-6/0 string 3-6/0 grips 10-12/0 phrase 12-15/1 string 12-15/1"
	if s := strings.Join(got, " "); s != want {
		t.Errorf("%s, want %s", s, want)
	}
	if got := Find(nil, nil); len(got) != 0 {
		t.Errorf("no line has %v", got)
	}
}
