package turn

import (
	"strings"
	"testing"

	"ornamen/core/lick"
	"ornamen/core/neck"
	"ornamen/core/run"
)

func grown(t *testing.T, recipe string) lick.Lick {
	t.Helper()
	r, err := run.Parse(recipe)
	if err != nil {
		t.Fatal(err)
	}
	g, err := run.Grow(r, neck.Standard())
	if err != nil {
		t.Fatal(err)
	}
	return g.Lick
}

func places(l lick.Lick) string {
	var w []string
	for _, n := range l.Notes {
		w = append(w, n.Place().Notation())
	}
	return strings.Join(w, " ")
}

// Two runs joined: the rhythm goes on, tones, chords and recipes keep their place, and each
// part can be grown again by itself.
func TestJoin(t *testing.T) {
	a := grown(t, `--key "A minor pentatonic" --at 6:5 --cell "1 2 3" --times 4`)
	a.Chords = []lick.Chord{{Len: lick.NewTime(1, 1), Name: "Am7"}}
	b := grown(t, `--key "A natural minor" --layout 3nps --at 6:5 --start 4 --cell "1 2 3 4" --times 3 --count 8`)
	b.Chords = []lick.Chord{{Len: lick.NewTime(1, 1), Name: "Dm7"}}
	l, err := Join(a, b, 0, AtOnce)
	if err != nil {
		t.Fatal(err)
	}
	if len(l.Notes) != 24 || places(l) != places(a)+" "+places(b) {
		t.Fatalf("%s", places(l))
	}
	if at := l.Notes[12].At; at.Cmp(lick.NewTime(12, 16)) != 0 || l.Notes[12].Len.Cmp(lick.NewTime(1, 8)) != 0 {
		t.Errorf("the second part begins at %s", at)
	}
	if len(l.Keys) != 1 || l.Keys[0].At.Cmp(lick.NewTime(12, 16)) != 0 || l.Keys[0].Key.Scale != "natural minor" {
		t.Errorf("tones by span: %+v", l.Keys)
	}
	if len(l.Chords) != 2 || l.Chords[0].Len.Cmp(lick.NewTime(3, 4)) != 0 ||
		l.Chords[1].At.Cmp(lick.NewTime(3, 4)) != 0 {
		t.Errorf("chords: %+v", l.Chords)
	}
	if len(l.Parts) != 2 || l.Parts[0].To != 12 || l.Parts[1].To != 24 || l.Parts[1].Recipe != b.Recipe {
		t.Fatalf("parts: %+v", l.Parts)
	}
	// The first part grown longer: the second one moves along and stays as it is.
	r, _ := run.Parse(a.Recipe)
	r.Times = 5
	longer, err := RegrowPart(l, 0, r, neck.Standard())
	if err != nil {
		t.Fatal(err)
	}
	if len(longer.Notes) != 27 || !strings.HasSuffix(places(longer), places(b)) || longer.Parts[1].From != 15 ||
		longer.Notes[15].At.Cmp(lick.NewTime(15, 16)) != 0 || len(longer.Keys) != 1 ||
		longer.Keys[0].At.Cmp(lick.NewTime(15, 16)) != 0 {
		t.Errorf("longer: %s, %+v, %+v", places(longer), longer.Parts, longer.Keys)
	}
	// The second part changed alone.
	r, _ = run.Parse(b.Recipe)
	r.Cell = "4 3 2 1"
	turned, err := RegrowPart(l, 1, r, neck.Standard())
	if err != nil || !strings.HasPrefix(places(turned), places(a)) || len(turned.Notes) != 24 ||
		turned.Parts[0].Recipe != a.Recipe || !strings.Contains(turned.Parts[1].Recipe, "4 3 2 1") {
		t.Errorf("turned: %v %s %+v", err, places(turned), turned.Parts)
	}
	// In place of note 7: what followed there is left out, the part before keeps its recipe.
	cut, err := Join(a, b, 7, AtOnce)
	if err != nil || len(cut.Notes) != 18 || cut.Parts[0].To != 6 || cut.Parts[0].Recipe != a.Recipe {
		t.Errorf("cut: %v %+v", err, cut.Parts)
	}
	again, err := RegrowPart(cut, 1, r, neck.Standard())
	if err != nil || len(again.Notes) != 18 || len(again.Parts) != 2 || again.Parts[0].To != 6 {
		t.Errorf("cut and grown: %v %+v", err, again.Parts)
	}
	for _, bad := range []struct {
		a, b lick.Lick
		at   int
		says string
	}{
		{a: a, b: b, at: 13, says: "no note 13"},
		{a: a, b: lick.New(), at: 0, says: "no notes"},
		{a: a, b: b, at: -1, says: "no note -1"},
	} {
		if _, err := Join(bad.a, bad.b, bad.at, AtOnce); err == nil || !strings.Contains(err.Error(), bad.says) {
			t.Errorf("%v, want %q", err, bad.says)
		}
	}
	low := b.Clone()
	low.Tuning[5]--
	if _, err := Join(a, low, 0, AtOnce); err == nil {
		t.Error("licks in two tunings are joined")
	}
}

// A part grown again keeps what lies around it: the chords over it and after it, which move
// along with their notes, and that the line goes round as a loop.
func TestRegrowPartKeepsTheSetting(t *testing.T) {
	a := grown(t, `--key "A minor pentatonic" --at 6:5 --cell "1 2 3 4" --times 4`) // a bar
	b := grown(t, `--key "A minor pentatonic" --at 6:5 --cell "4 3 2 1" --times 4`)
	l, err := Join(a, b, 0, AtOnce)
	if err != nil {
		t.Fatal(err)
	}
	half, bar := lick.NewTime(1, 2), lick.NewTime(1, 1)
	l.Loop = true
	l.Chords = []lick.Chord{{Len: half, Name: "Am7"}, {At: half, Len: bar, Name: "Dm7"},
		{At: half.Add(bar), Len: half, Name: "E7"}}
	chords := func(l lick.Lick) string {
		var w []string
		for _, c := range l.Chords {
			w = append(w, c.Name+"@"+c.At.String()+"+"+c.Len.String())
		}
		return strings.Join(w, " ")
	}
	for _, k := range []struct {
		part, times int
		want        string
	}{
		{0, 4, "Am7@0+1/2 Dm7@1/2+1 E7@3/2+1/2"},
		{0, 6, "Am7@0+1/2 Dm7@1/2+3/2 E7@2+1/2"},   // half a bar longer under the second chord
		{0, 3, "Am7@0+1/2 Dm7@1/2+3/4 E7@5/4+1/2"}, // a beat shorter
		{0, 1, "Am7@0+1/4 Dm7@1/4+1/2 E7@3/4+1/2"}, // most of the first chord is gone
		{1, 6, "Am7@0+1/2 Dm7@1/2+1 E7@3/2+1/2"},   // longer at its end: nothing is written there
	} {
		r, err := run.Parse(l.Parts[k.part].Recipe)
		if err != nil {
			t.Fatal(err)
		}
		r.Times = k.times
		got, err := RegrowPart(l, k.part, r, neck.Standard())
		if err != nil || !got.Loop || chords(got) != k.want {
			t.Errorf("part %d in %d cells: loop %v, %s, want %s (%v)", k.part+1, k.times, got.Loop, chords(got),
				k.want, err)
		}
	}
}

// The next part begins on the next beat: the last note sounds until then, or there is a rest.
func TestJoinOnTheBeat(t *testing.T) {
	line := func(frets ...int) lick.Lick {
		l := lick.New()
		for i, f := range frets {
			l.Notes = append(l.Notes,
				lick.Note{At: lick.NewTime(int64(i), 16), Len: lick.NewTime(1, 16), String: 2, Fret: f})
		}
		return l
	}
	a, b := line(5, 7, 8), line(10, 8)
	for _, c := range []struct {
		when   Seam
		at     int
		length lick.Time // of the note before the seam
		begins lick.Time
	}{
		{when: AtOnce, at: 0, length: lick.NewTime(1, 16), begins: lick.NewTime(3, 16)},
		{when: Held, at: 0, length: lick.NewTime(1, 8), begins: lick.NewTime(1, 4)},
		{when: Rested, at: 0, length: lick.NewTime(1, 16), begins: lick.NewTime(1, 4)},
		{when: Held, at: 3, length: lick.NewTime(3, 16), begins: lick.NewTime(1, 4)}, // in place of the third note
	} {
		l, err := Join(a, b, c.at, c.when)
		if err != nil {
			t.Fatal(err)
		}
		last := len(l.Notes) - len(b.Notes) - 1
		if n, m := l.Notes[last], l.Notes[last+1]; n.Len.Cmp(c.length) != 0 || m.At.Cmp(c.begins) != 0 {
			t.Errorf("%q at %d: the note before it lasts %v, it begins at %v", c.when, c.at, n.Len, m.At)
		}
	}
	four := line(5, 7, 8, 7)
	if l, _ := Join(four, b, 0, Held); l.Notes[4].At.Cmp(lick.NewTime(1, 4)) != 0 ||
		l.Notes[3].Len.Cmp(lick.NewTime(1, 16)) != 0 {
		t.Error("a line that ends on the beat is held longer")
	}
	if _, err := ParseSeam("later"); err == nil {
		t.Error("a seam that is none is read")
	}
}
