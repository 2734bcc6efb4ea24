package changes

import (
	"fmt"
	"strings"
	"testing"

	"ornamen/core/lick"
	"ornamen/core/music"
	"ornamen/core/neck"
)

// overEach moves a line in quarters over its chords and writes the places of every bar.
func overEach(t *testing.T, key, chords, line, manner string) (lick.Lick, []string) {
	t.Helper()
	how, ok := ParseManner(manner)
	if !ok {
		t.Fatalf("%q is no manner", manner)
	}
	out, err := EachChord(neck.Standard(), over(t, key, chords, line), how)
	if err != nil {
		t.Fatalf("%s over %s: %v", line, chords, err)
	}
	var bars []string
	for _, n := range out.Notes {
		bar := int(out.Position(n.At).Bar) - 1
		for len(bars) <= bar {
			bars = append(bars, "")
		}
		bars[bar] = strings.TrimSpace(bars[bar] + " " + fmt.Sprintf("%d:%d", n.String, n.Fret))
	}
	return out, bars
}

// A figure moves whole, as players write it out by hand (common practice): the shape keeps its
// strings, the degrees may take the next ones, pairs stay on theirs, and nothing is torn by an octave.
func TestFigureMovesWhole(t *testing.T) {
	for _, c := range []struct {
		key, chords, line, manner string
		want                      []string
	}{
		{
			key:    "A minor pentatonic",
			chords: "Am | Em | Dm | Am",
			line:   "4:5*1/4 7*1/4 3:5*1/4 7*1/4",
			manner: "shape",
			want:   []string{"4:5 4:7 3:5 3:7", "4:12 4:14 3:12 3:14", "4:10 4:12 3:10 3:12", "4:5 4:7 3:5 3:7"},
		},
		{
			key:    "A minor pentatonic",
			chords: "Am | Em | Dm",
			line:   "4:5*1/4 7*1/4 3:5*1/4 7*1/4",
			manner: "degrees",
			want:   []string{"4:5 4:7 3:5 3:7", "5:5 5:7 4:5 4:7", "3:5 3:7 2:6 2:8"},
		},
		// Root, third, octave, fifth on every chord of the key.
		{
			key:    "C major",
			chords: "C | Dm | Em | F",
			line:   "5:3*1/4 4:2*1/4 4:5*1/4 3:5*1/4",
			manner: "key",
			want:   []string{"5:3 4:2 4:5 3:5", "5:5 4:3 4:7 3:7", "5:7 4:5 4:9 3:9", "5:8 4:7 4:10 3:10"},
		},
		// Sixths stay on strings 3 and 1, and a chord that comes again has its figure where it was.
		{
			key:    "C major",
			chords: "C | F | G | C",
			line:   "3:9*1/2+1:8*1/2 3:7*1/2+1:7*1/2",
			manner: "key",
			want:   []string{"3:9 1:8 3:7 1:7", "3:14 1:13 3:12 1:12", "3:16 1:15 3:14 1:13", "3:9 1:8 3:7 1:7"},
		},
	} {
		out, bars := overEach(t, c.key, c.chords, c.line, c.manner)
		if strings.Join(bars, " | ") != strings.Join(c.want, " | ") {
			t.Errorf("%s over %s by %s: %s", c.line, c.chords, c.manner, strings.Join(bars, " | "))
		}
		for _, n := range Read(out).Notes {
			if n.Role == Outside {
				t.Errorf("%s over %s: note %d is outside its own tones %v", c.line, c.chords, n.Note+1, out.Keys)
			}
		}
	}
}

// By every manner, in every key, a figure keeps its rise and fall and its width by octaves: what goes
// up goes up over every chord.
func TestFigureKeepsItsContour(t *testing.T) {
	g := neck.Standard()
	for class := range 12 {
		root := music.NameOf(class).String()
		for _, scale := range []string{"major", "natural minor", "dorian", "mixolydian"} {
			p, err := music.ParseKey(root+" "+scale, nil, nil)
			if err != nil {
				t.Fatal(err)
			}
			l := over(t, root+" "+scale, "I | IV | V | I | IV", "")
			l.Notes = nil
			at := lick.Time{}
			for pitch, n := music.Pitch(52), 0; n < 4; pitch++ {
				if p.At(pitch).Role == music.Outside {
					continue
				}
				place, ok := g.Nearest(pitch, neck.Place{String: 4, Fret: 5})
				if !ok {
					t.Fatal(pitch)
				}
				l.Notes = append(l.Notes,
					lick.Note{At: at, Len: lick.NewTime(1, 4), String: place.String, Fret: place.Fret})
				at, n = at.Add(lick.NewTime(1, 4)), n+1
			}
			for _, how := range []How{SameShape, SameDegrees, InKey} {
				out, err := EachChord(g, l, Manner{How: how})
				if err != nil {
					t.Errorf("%s %s, %s: %v", root, scale, how, err)
					continue
				}
				for i := 1; i < len(out.Notes); i++ {
					if d := out.Pitch(i) - out.Pitch(i-1); i%4 != 0 && (d < 1 || d > 3) {
						t.Errorf("%s %s, %s: note %d goes by %d", root, scale, how, i+1, d)
					}
				}
			}
		}
	}
}

// A triad, then that chord's pentatonic in the same place, for all chords at once.
func TestTriadThenItsBox(t *testing.T) {
	out, _ := overEach(t, "C major", "C | Dm | G7 | C", "5:3*1/8 4:2*1/8 4:5*1/8", "degrees+pentatonic")
	r := Read(out)
	for k, c := range r.Chords {
		scale := "major pentatonic"
		if c.Name == "Dm" {
			scale = "minor pentatonic"
		}
		own, err := music.ParseKey(c.Chord.Root.String()+" "+scale, nil, nil)
		if err != nil {
			t.Fatal(err)
		}
		n := 0
		for i, x := range r.Notes {
			if x.Chord != k {
				continue
			}
			if n++; own.At(out.Pitch(i)).Role == music.Outside {
				t.Errorf("over %s note %d is none of its pentatonic", c.Name, i+1)
			}
		}
		if n != 8 {
			t.Errorf("over %s %d notes, not a bar of eighths", c.Name, n)
		}
	}
}

// A bend goes where its target goes: from the 2 to the major third over C it is a whole tone, to the
// minor third over Dm a half.
func TestBendMovesWithItsTarget(t *testing.T) {
	l := over(t, "C major", "C | Dm", "3:7/b2*1/4 5*1/4")
	out, err := EachChord(neck.Standard(), l, Manner{How: SameDegrees})
	if err != nil || len(out.Notes) != 4 {
		t.Fatalf("%v %v", err, out.Notes)
	}
	if a, b := out.Notes[0].Bend, out.Notes[2].Bend; a.Semitones != 2 || b == nil || b.Semitones != 1 ||
		out.Notes[2].String != 3 {
		t.Errorf("bends of %v and %v on string %d", a, b, out.Notes[2].String)
	}
}

// What cannot be is one sentence and no line.
func TestEachChordRefused(t *testing.T) {
	for _, c := range []struct{ key, chords, line, manner, want string }{
		{key: "C major", chords: "C | Eb", line: "5:3*1/4", manner: "key", want: "has no E♭"},
		{key: "C major", chords: "C", line: "5:3*1/4", manner: "shape", want: "no second chord"},
	} {
		how, _ := ParseManner(c.manner)
		if _, err := EachChord(neck.Standard(), over(t, c.key, c.chords, c.line), how); err == nil ||
			!strings.Contains(err.Error(), c.want) {
			t.Errorf("%s by %s: %v", c.chords, c.manner, err)
		}
	}
	for _, bad := range []string{"", "shape+", "+scale", "degrees+x", "keys"} {
		if _, ok := ParseManner(bad); ok {
			t.Errorf("%q is a manner", bad)
		}
	}
}
