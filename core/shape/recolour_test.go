package shape

import (
	"strings"
	"testing"

	"ornamen/core/lick"
	"ornamen/core/music"
	"ornamen/core/neck"
)

func TestRecolour(t *testing.T) {
	l := lick.New()
	l.Key = lick.Key{Tonic: "A", Scale: "natural minor"}
	for _, f := range []neck.Place{{String: 3, Fret: 2}, {String: 3, Fret: 4}, {String: 3, Fret: 5}, {
		String: 2,
		Fret:   6,
	}, {String: 2, Fret: 8}} {
		var err error
		if l, err = (lick.Insert{After: len(l.Notes) - 1, Place: f, Len: lick.NewTime(1, 8)}).Apply(l); err != nil {
			t.Fatal(err)
		}
	}
	l.Notes[2].Slur = lick.Hammer
	l.Notes[4].Bend = &lick.Bend{Semitones: 2, Shape: "bend"}
	degrees := func(r Recoloured) string {
		var out []string
		for _, c := range r.Changes {
			out = append(out, c.After)
		}
		return strings.Join(out, " ")
	}
	places := func(r Recoloured) string {
		var out []string
		for _, n := range r.Lick.Notes {
			out = append(out, n.Place().Notation())
		}
		return strings.Join(out, " ")
	}
	for _, c := range []struct {
		to             string
		manner         Manner
		degree, places string
	}{
		{to: "A dorian", manner: NearestPlace, degree: "1 2 ♭3 6 ♭7", places: "3:2 3:4 3:5 2:7 2:8"},
		{to: "A major", manner: NearestPlace, degree: "1 2 3 6 7", places: "3:2 3:4 3:6 2:7 2:9"},
		{to: "A phrygian", manner: NearestPlace, degree: "1 ♭2 ♭3 ♭6 ♭7", places: "3:2 3:3 3:5 2:6 2:8"},
		{to: "C natural minor", manner: NearestPlace, degree: "1 2 ♭3 ♭6 ♭7", places: "3:5 3:7 3:8 2:9 2:11"},
		{to: "A natural minor", manner: OctaveUp, degree: "1 2 ♭3 ♭6 ♭7", places: "3:14 3:16 3:17 2:18 2:20"},
	} {
		p, err := music.ParseKey(c.to, nil, nil)
		if err != nil {
			t.Fatal(err)
		}
		r, err := Recolour(l, neck.Standard(), p, c.manner)
		if err != nil {
			t.Fatalf("%s: %v", c.to, err)
		}
		if degrees(r) != c.degree || places(r) != c.places {
			t.Errorf("%s %s: %s at %s, want %s at %s", c.to, c.manner, degrees(r), places(r), c.degree, c.places)
		}
		if err := r.Lick.Validate(); err != nil {
			t.Errorf("%s: %v", c.to, err)
		}
		// The bend still goes to the root.
		last := len(r.Lick.Notes) - 1
		if to := r.Lick.Pitch(last) + music.Pitch(r.Lick.Notes[last].Bend.Semitones); p.At(to).Role != music.Root {
			t.Errorf("%s: the bend goes to %s", c.to, to)
		}
	}
	// In the same frets the line stays near where it was.
	far, _ := music.ParseKey("D natural minor", nil, nil)
	if r, err := Recolour(l, neck.Standard(), far, SamePlace); err != nil {
		t.Error(err)
	} else {
		for _, n := range r.Lick.Notes {
			if n.Fret > 10 {
				t.Errorf("kept in frets 2 to 8 a note lies at %s", n.Place().Notation())
			}
		}
	}
	if _, err := Recolour(lick.New(), neck.Standard(), music.Palette{}, NearestPlace); err == nil {
		t.Error("a lick without a key was recoloured")
	}
}

// Recoloured there and back a line in the same number of tones is the same.
func TestRecolourBack(t *testing.T) {
	l := lick.New()
	l.Key = lick.Key{Tonic: "A", Scale: "dorian"}
	for f := range 12 {
		place := neck.Place{String: 1 + f%3, Fret: 5 + (f*5)%7}
		l.Notes = append(l.Notes,
			lick.Note{At: lick.NewTime(int64(f), 8), Len: lick.NewTime(1, 8), String: place.String, Fret: place.Fret})
	}
	there, _ := music.ParseKey("A phrygian", nil, nil)
	back, _ := music.ParseKey("A dorian", nil, nil)
	for i := range l.Notes {
		if back.At(l.Pitch(i)).Role == music.Outside {
			l.Notes[i].Fret++
		}
	}
	a, err := Recolour(l, neck.Standard(), there, NearestPlace)
	if err != nil {
		t.Fatal(err)
	}
	b, err := Recolour(a.Lick, neck.Standard(), back, NearestPlace)
	if err != nil {
		t.Fatal(err)
	}
	for i := range l.Notes {
		if b.Lick.Pitch(i) != l.Pitch(i) {
			t.Errorf("note %d comes back as %s, was %s", i+1, b.Lick.Pitch(i), l.Pitch(i))
		}
	}
}

// Added tones stay, and the chords and the tones by span move along with the key.
func TestRecolourAround(t *testing.T) {
	l := lick.New()
	l.Key = lick.Key{Tonic: "A", Scale: "minor pentatonic", Add: []string{"9", "b5@down"}}
	l.Keys = []lick.KeySpan{{At: lick.NewTime(1, 8), Key: lick.Key{Tonic: "A", Scale: "dorian"}}}
	l.Chords = []lick.Chord{
		{Len: lick.NewTime(1, 1), Name: "Am7"},
		{At: lick.NewTime(1, 1), Len: lick.NewTime(1, 1), Name: "D7/F#"},
	}
	l.Notes = []lick.Note{
		{Len: lick.NewTime(1, 8), String: 3, Fret: 5},
		{At: lick.NewTime(1, 8), Len: lick.NewTime(1, 8), String: 3, Fret: 7},
	}
	for _, c := range []struct{ to, chords, span, add string }{
		{to: "C minor pentatonic", chords: "Cm7 F7/A", span: "C", add: "9 b5@down"},
		{to: "C# dorian", chords: "C#m7 F#7/A#", span: "C#", add: "b5@down"}, // the scale has the 9
		{to: "A dorian", chords: "Am7 D7/F#", span: "A", add: "b5@down"},
	} {
		p, err := ToKey(l, c.to)
		if err != nil {
			t.Fatal(err)
		}
		r, err := Recolour(l, neck.Standard(), p, NearestPlace)
		if err != nil {
			t.Fatal(err)
		}
		got := r.Lick.Chords[0].Name + " " + r.Lick.Chords[1].Name
		if got != c.chords || r.Lick.Keys[0].Key.Tonic != c.span || strings.Join(r.Lick.Key.Add, " ") != c.add {
			t.Errorf("%s: %s, %s, %v", c.to, got, r.Lick.Keys[0].Key.Tonic, r.Lick.Key.Add)
		}
	}
}
