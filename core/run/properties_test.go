package run_test

import (
	"fmt"
	"math/rand/v2"
	"strings"
	"testing"

	"ornamen/core/find"
	"ornamen/core/judge"
	"ornamen/core/lick"
	"ornamen/core/music"
	"ornamen/core/neck"
	"ornamen/core/player"
	"ornamen/core/propose"
	"ornamen/core/run"
	"ornamen/core/testline"
	"ornamen/core/turn"
)

// randomRecipe makes a recipe that may or may not fit the neck.
func randomRecipe(rng *rand.Rand) run.Recipe {
	pick := func(words ...string) string { return words[rng.IntN(len(words))] }
	r := run.Recipe{
		Key: pick("A", "C#", "Eb", "F#", "Bb",
			"G") + " " + pick("minor pentatonic", "major pentatonic", "natural minor", "major", "dorian", "blues",
			"harmonic minor"),
	}
	r.Layout = pick("", "", "box", "3nps", "string:2", "counts:3,1,3,1,2", "frets:5-9", "joined", "strings:3,2")
	if rng.IntN(3) == 0 {
		r.Add = pick("9", "b5", "b5@down", "7@up")
	}
	word := func() string {
		w := fmt.Sprint(1 + rng.IntN(4))
		switch rng.IntN(8) {
		case 0:
			w = "h" + w
		case 1:
			w += ">"
		case 2:
			w = "D" + w
		case 3:
			w = "."
		}
		return w
	}
	words := []string{"1"}
	for range rng.IntN(5) {
		words = append(words, word())
	}
	r.Cell = strings.Join(words, " ")
	if rng.IntN(4) == 0 {
		r.Cell = "strings: " + pick("a1 a2 b1", "Da2 pa1 Ub1 hb2 Da1", "a1 b1", "b1 a2 | a1 b2")
	}
	r.Move = pick("", "", "2", "string", "octave", "position", "stay")
	r.Dir = pick("", "down", "updown", "downup")
	r.Turn = pick("", "twice")
	r.Repeat = rng.IntN(3)
	r.Count = pick("", "8", "8t", "16t", "16q", "16s", "8,16")
	r.Land = pick("", "1", "1@1", "5@3")
	r.Accent = rng.IntN(4)
	switch rng.IntN(5) {
	case 0, 1:
		r.Times = 1 + rng.IntN(6)
	case 2:
		r.Bars = 1 + rng.IntN(4)
	}
	return r
}

// Grown runs lie on the neck, in the chosen tones, with the promised count of
// cells, landing and strokes; what is printed reads back to the same run.
func TestRunProperties(t *testing.T) {
	rng := rand.New(rand.NewPCG(4, 14))
	g := neck.Standard()
	fitted := 0
	for range testline.Nightly(400) {
		r := randomRecipe(rng)
		grown, err := run.Grow(r, g)
		if err != nil {
			continue
		}
		fitted++
		l := grown.Lick
		if err := l.Validate(); err != nil {
			t.Fatalf("%s: %v", r, err)
		}
		p, _ := l.Palette()
		for i, n := range l.Notes {
			if !g.Has(n.Place()) || p.At(l.Pitch(i)).Role == music.Outside {
				t.Fatalf("%s: note %d at %v is not there or outside", r, i+1, n.Place())
			}
			if n.Stroke != "" && n.Slur.Slurred() {
				t.Fatalf("%s: note %d is slurred and picked", r, i+1)
			}
		}
		if r.Times > 0 && len(grown.Cells) != r.Times {
			t.Fatalf("%s: %d cells", r, len(grown.Cells))
		}
		if r.Land != "" {
			word, beat, at := strings.Cut(r.Land, "@")
			n := l.Notes[grown.Landing-1]
			if p.At(l.Pitch(grown.Landing-1)).Degree.String() != word {
				t.Fatalf("%s: it lands on %s", r, p.At(l.Pitch(grown.Landing-1)).Degree)
			}
			if pos := l.Position(n.At); at && (fmt.Sprint(pos.Beat) != beat || !pos.Off.IsZero()) {
				t.Fatalf("%s: it lands on beat %d and %v", r, pos.Beat, pos.Off)
			}
		}
		again, err := run.Parse(l.Recipe)
		if err != nil {
			t.Fatalf("%s: %v", l.Recipe, err)
		}
		same, err := run.Grow(again, g)
		if err != nil || string(same.Lick.Encode()) != string(l.Encode()) {
			t.Fatalf("%s comes back as another run (%v)", l.Recipe, err)
		}
	}
	if fitted < testline.Nightly(100) {
		t.Errorf("only %d of the recipes fit: they prove little", fitted)
	}
}

// The recipe that is found for a grown run grows the same run again.
func TestFindGivesRunsBack(t *testing.T) {
	rng := rand.New(rand.NewPCG(9, 2))
	g := neck.Standard()
	whole, tried := 0, 0
	for tried < testline.Nightly(25) {
		r := randomRecipe(rng)
		r.Displace, r.Accent = "", 0
		grown, err := run.Grow(r, g)
		if err != nil || len(grown.Lick.Notes) < 6 || len(grown.Lick.Notes) > 64 || len(grown.Cells) < 3 {
			continue
		}
		tried++
		l := grown.Lick
		l.Recipe = ""
		f, ok, _ := find.Find(t.Context(), g, l)
		if !ok {
			continue
		}
		back, err := run.Grow(f.Recipe, g)
		if err != nil {
			t.Fatalf("%s: %v", f.Recipe, err)
		}
		for i, n := range back.Lick.Notes {
			if w := l.Notes[f.From-1+i]; n.Place() != w.Place() {
				t.Fatalf("%s, found %s: note %d differs", r, f.Recipe, f.From+i)
			}
		}
		if f.To-f.From+1 == len(l.Notes) {
			whole++
		}
	}
	if whole*100 < tried*75 {
		t.Errorf("only %d of %d runs come back whole", whole, tried)
	}
}

// What was locked survives another recipe where the note is still there.
func TestRegrowKeepsLocks(t *testing.T) {
	g := neck.Standard()
	r := run.Recipe{Key: "A minor pentatonic", At: "6:5", Cell: "1 2 3", Times: 4}
	grown, err := run.Grow(r, g)
	if err != nil {
		t.Fatal(err)
	}
	l := grown.Lick
	l.Title, l.Tempo = "Mine", 77
	l.Notes[1].Finger, l.Notes[1].Lock = lick.Ring, lick.LockSet{lick.FieldFinger}
	r.Times, r.Land = 6, "1"
	again, err := turn.Regrow(l, r, g)
	if err != nil {
		t.Fatal(err)
	}
	n := again.Lick.Notes[1]
	if n.Finger != lick.Ring || !n.Locked(lick.FieldFinger) || again.Lick.Title != "Mine" || again.Lick.Tempo != 77 ||
		len(again.Lick.Notes) != 19 {
		t.Errorf("%+v, %q at %v, %d notes", n, again.Lick.Title, again.Lick.Tempo, len(again.Lick.Notes))
	}
}

// Recipes have no words that can make them panic.
func FuzzRecipe(f *testing.F) {
	f.Add(`--key "A minor pentatonic" --at 6:5 --cell "1 2 3" --dir updown --land 1@1`)
	f.Add(`--key "C major" --cell "chord@5,4,3: 1 3 5" --chords "1 4 5"`)
	// Every option together, in its ways.
	f.Add(
		`--key "A minor pentatonic" --add b5@down,9 --drop 4 --layout box --at 6:5 --cell "2 h3 | <1^half_~ (1 3)> ` +
			`. -" --move string:2 --bars 3 --dir downup --turn twice --repeat 2 --start 2 --rotate 2 --count 8,16t ` +
			`--accent 3 --feel shuffle --displace 1/8 --tail "1 2" --land 1@3 --pick economy --tempo 90 ` +
			`--tuning "D4 A3 G3 D3 A2 D2"`,
	)
	f.Add(
		`--key "C natural minor" --layout 3nps --at 6:8 --cell "chord@5,4,3: 1 Db3^full 5'~~" --move octave --times ` +
			`9 --dir updown --chords "1 4 5" --rotate 3 --tail "chord: 3 2 1" --pivot 3 --land 5 --count 16q`,
	)
	f.Add(
		`--key "E phrygian" --layout counts:3,2,3 --cell "strings: Da2 pa1 Ub1 \\b2" --move scale --scales ` +
			`"phrygian, dorian" --times 4 --add 7@up --count 16s`,
	)
	f.Fuzz(func(t *testing.T, s string) {
		r, err := run.Parse(s)
		if err != nil {
			return
		}
		if grown, err := run.Grow(r, neck.Standard()); err == nil &&
			len(grown.Lick.Notes) > run.MaxNotes+neck.MaxStrings {
			t.Errorf("%s grows %d notes", s, len(grown.Lick.Notes))
		}
	})
}

// A run of 1,024 notes with all ways to play it.
func BenchmarkRun1024(b *testing.B) {
	e := judge.NewEngine(player.Default())
	r := run.Recipe{Key: "C natural minor", At: "6:8", Cell: "1 2 3 4", Dir: "updown", Bars: 64}
	for b.Loop() {
		grown, err := run.Grow(r, neck.Standard())
		if err != nil {
			b.Fatal(err)
		}
		if len(grown.Lick.Notes) != 1024 {
			b.Fatal(len(grown.Lick.Notes))
		}
		if _, err := propose.Ways(b.Context(), e, grown.Lick); err != nil {
			b.Fatal(err)
		}
	}
}
