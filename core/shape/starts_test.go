package shape

import (
	"testing"

	"ornamen/core/music"
	"ornamen/core/neck"
)

func TestDefaultsAndStarts(t *testing.T) {
	g := neck.Standard()
	for _, c := range []struct{ key, layout, at string }{
		{"A minor pentatonic", "box", "6:5"}, {"A blues", "box", "6:5"}, {"C# natural minor", "3nps", "6:9"},
		{"E minor", "3nps", "6:0"}, {"D# dorian", "3nps", "6:11"},
	} {
		p, err := music.ParseKey(c.key, nil, nil)
		if err != nil {
			t.Fatal(err)
		}
		l := Default(p.Scale)
		if l.Name() != c.layout {
			t.Errorf("%s is laid out as %s", c.key, l.Name())
		}
		if at := Start(g, p, l); at.Notation() != c.at {
			t.Errorf("%s starts at %s, want %s", c.key, at.Notation(), c.at)
		}
		// A layout of its own strings starts on its thickest.
		one, _ := ParseLayout("string:2")
		if at := Start(g, p, one); at.String != 2 || p.At(g.Pitch(at)).Role != music.Root {
			t.Errorf("%s on string 2 starts at %s", c.key, at.Notation())
		}
		pair, _ := ParseLayout("pairs:3,1:6")
		if at := Start(g, p, pair); at.String != 3 {
			t.Errorf("pairs start at %s", at.Notation())
		}
	}
}

// The nearest place is the one a hand would take: no other place of the tone is
// nearer in pitch, and of those the fret is nearest.
func TestNearest(t *testing.T) {
	g := neck.Standard()
	for str := 1; str <= 6; str++ {
		for fret := 0; fret <= g.Frets; fret += 3 {
			from := neck.Place{String: str, Fret: fret}
			for class := range 12 {
				at, ok := Nearest(g, class, from)
				if !ok || g.Pitch(at).Class() != class {
					t.Fatalf("from %v to %d: %v", from, class, at)
				}
				d := abs(int(g.Pitch(at) - g.Pitch(from)))
				if d > 6 && fret > 6 && fret < 16 {
					t.Errorf("from %v the nearest %d is %d half steps away", from, class, d)
				}
				for _, p := range g.Places(g.Pitch(at)) {
					if abs(p.Fret-fret) < abs(at.Fret-fret) {
						t.Errorf("from %v: %v is nearer than %v", from, p, at)
					}
				}
			}
		}
	}
}

func TestManners(t *testing.T) {
	for _, m := range []string{"nearest", "same", "octave"} {
		if got, err := ParseManner(m); err != nil || string(got) != m {
			t.Errorf("%s: %v", m, err)
		}
	}
	if _, err := ParseManner("far"); err == nil {
		t.Error("far passes")
	}
	if (Spot{}).Words() != "easy" ||
		(Spot{Reasons: []string{"heavy bends", "a stretch"}}).Words() != "heavy bends, a stretch" {
		t.Error("a spot says something else")
	}
}

// Where the usual start cannot be used another can: every usual scale begins somewhere in tunings
// that players use (common practice), with the root where a root will do.
func TestStartsInEveryTuning(t *testing.T) {
	for _, tuning := range []string{"E4 B3 G3 D3 A2 D2", "D4 A3 G3 D3 A2 D2", "D4 A3 F#3 D3 A2 D2",
		"D4 B3 G3 D3 G2 D2", "F4 C4 G3 D3 A2 E2", "C4 G3 C3 G2 C2", "E4 B3 G3 D3 A2 E2 B1"} {
		pitches, err := neck.ParseTuning(tuning)
		if err != nil {
			t.Fatal(err)
		}
		g := neck.Standard().WithTuning(pitches)
		for _, key := range []string{"D minor pentatonic", "A blues", "G major", "F# dorian", "B harmonic minor"} {
			p, err := music.ParseKey(key, nil, nil)
			if err != nil {
				t.Fatal(err)
			}
			at := Start(g, p, Default(p.Scale))
			if _, err := Lay(g, p, Default(p.Scale), at); err != nil {
				t.Errorf("%s, %s: %v", tuning, key, err)
			}
			if p.At(g.Pitch(at)).Role != music.Root {
				t.Logf("%s, %s begins at %s, on no root", tuning, key, at.Notation())
			}
		}
	}
	drop, _ := neck.ParseTuning("E4 B3 G3 D3 A2 D2")
	p, _ := music.ParseKey("D minor pentatonic", nil, nil)
	if at := Start(neck.Standard().WithTuning(drop), p, Default(p.Scale)); at.Notation() != "6:12" {
		t.Errorf("the box of D minor pentatonic begins at %s with a string tuned down to D, want 6:12", at.Notation())
	}
}
