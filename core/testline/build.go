package testline

import (
	"math/rand/v2"
	"strings"
	"testing"

	"ornamen/core/lick"
)

// Build reads a line in a short form for tests: string:fret, the string kept; + joins notes that sound together; marks
// after a slash: h p s S slur, f1 finger, D U p i m a stroke, b2 r2 bend, v vibrato, B bar. Notes are sixteenths; *1/4
// makes one longer.
func Build(t testing.TB, tempo float64, text string) lick.Lick {
	t.Helper()
	l := Read(t, "", text)
	l.Tempo = tempo
	out, err := lick.Parse(l.Encode())
	if err != nil {
		t.Fatalf("%s: %v", text, err)
	}
	return out
}

// mark sets one mark of a note; what it does not know fails the test.
func mark(t testing.TB, n *lick.Note, m string) {
	t.Helper()
	slurs := map[string]lick.Slur{"h": lick.Hammer, "p": lick.Pull, "s": lick.Slide, "S": lick.Shift}
	strokes := map[string]lick.Stroke{"D": lick.Down, "U": lick.Up, "i": lick.PIndex, "m": lick.PMid, "a": lick.PRing}
	switch {
	case slurs[m] != "":
		n.Slur = slurs[m]
	case strokes[m] != "":
		n.Stroke = strokes[m]
	case m == "B":
		n.Barre = true
	case m == "v":
		n.Vibrato = &lick.Vibrato{Width: lick.Wide, Speed: lick.Slow}
	case m[0] == 'f':
		f, err := lick.ParseFinger(m[1:])
		if err != nil {
			t.Fatal(err)
		}
		n.Finger, n.Lock = f, lick.LockSet{lick.FieldFinger}
	case m[0] == 'b' || m[0] == 'r':
		b := &lick.Bend{Shape: map[byte]lick.BendShape{'b': lick.BendUp, 'r': lick.BendRelease}[m[0]],
			Semitones: float64(m[1] - '0')}
		if m[1] == 'c' {
			b.Semitones = 0.5
		}
		if strings.HasSuffix(m, "thin") {
			b.Push = lick.ToThin
		}
		n.Bend = b
	default:
		t.Fatalf("mark %q", m)
	}
}

// InKey is the line with chosen tones.
func InKey(l lick.Lick, tonic, scale string) lick.Lick {
	l.Key = lick.Key{Tonic: tonic, Scale: scale}
	return l
}

// Wild is a line of random places within a few frets, in sixteenths at 200: most
// of its moves are tight or break, the worst a check can meet.
func Wild(n int) lick.Lick {
	rng := rand.New(rand.NewPCG(8, 15))
	l := lick.New()
	l.Tempo = 200
	step := lick.NewTime(1, 16)
	for i := range n {
		l.Notes = append(l.Notes,
			lick.Note{At: step.Times(int64(i)), Len: step, String: 1 + rng.IntN(6), Fret: 3 + rng.IntN(8)})
	}
	return l
}
