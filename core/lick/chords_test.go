package lick

import (
	"math/rand/v2"
	"slices"
	"strings"
	"testing"

	"ornamen/core/neck"
)

func names(chords []Chord) string {
	var out []string
	for _, c := range chords {
		out = append(out, c.Name+"@"+c.At.String()+"+"+c.Len.String())
	}
	return strings.Join(out, " ")
}

// Changes as players write them: bars, their signs sharing the bar, a point that goes
// on, a pick-up before them.
func TestParseChords(t *testing.T) {
	four := Meter{Beats: 4, Unit: 4}
	for _, c := range []struct {
		text, want string
		pickup     Time
	}{
		{"C#m7 | F#7 . G#7 . | C#m7", "C#m7@0+1 F#7@1+1/2 G#7@3/2+1/2 C#m7@2+1", Time{}},
		{"| A7 | . |", "A7@0+2", Time{}},
		{"E7 . . A7", "E7@1/4+3/4 A7@1+1/4", NewTime(1, 4)},
	} {
		got, err := ParseChords(c.text, four, c.pickup)
		if err != nil || names(got) != c.want {
			t.Errorf("%q: %s, want %s (%v)", c.text, names(got), c.want, err)
		}
	}
	for _, bad := range []string{"", "C | | D", ". | .", "Cwonky", "C H7"} {
		if _, err := ParseChords(bad, four, Time{}); err == nil {
			t.Errorf("%q is taken for changes", bad)
		}
	}
}

// Chords go along with the notes: a note put in makes the chord under it longer and
// moves the next ones, taking it out again brings them back.
func TestChordsMoveWithNotes(t *testing.T) {
	l := New()
	for i := range 8 {
		l.Notes = append(l.Notes, Note{At: NewTime(int64(i), 4), Len: NewTime(1, 4), String: 1, Fret: 5})
	}
	chords, err := ParseChords("A7 | D7", l.Meter, Time{})
	if err != nil {
		t.Fatal(err)
	}
	if l, err = (SetChords{chords}).Apply(l); err != nil {
		t.Fatal(err)
	}
	longer, err := Insert{After: 1, Place: neck.Place{String: 1, Fret: 7}, Len: NewTime(1, 4)}.Apply(l)
	if err != nil || names(longer.Chords) != "A7@0+5/4 D7@5/4+1" {
		t.Errorf("after an insert: %s, %v", names(longer.Chords), err)
	}
	back, err := Remove{Note: 2}.Apply(longer)
	if err != nil || names(back.Chords) != names(l.Chords) {
		t.Errorf("taken out again: %s, %v", names(back.Chords), err)
	}
	if c, ok := l.ChordAt(NewTime(5, 4)); !ok || c.Name != "D7" {
		t.Errorf("at 5/4 there is %v", c)
	}
	if _, ok := l.ChordAt(NewTime(9, 4)); ok {
		t.Error("after the last chord there is one")
	}
}

// The timeline is in seconds, the off-beat of a shuffle on the last third of its beat
// (common practice).
func TestTimeline(t *testing.T) {
	l := New()
	l.Tempo, l.Feel = 60, Shuffle
	for i := range 4 {
		l.Notes = append(l.Notes, Note{At: NewTime(int64(i), 8), Len: NewTime(1, 8), String: 1, Fret: 5})
	}
	got := l.Timeline()
	for i, want := range []float64{0, 2.0 / 3, 1, 5.0 / 3} {
		if d := got[i].At - want; d > 1e-9 || d < -1e-9 {
			t.Errorf("note %d sounds at %v, want %v", i+1, got[i].At, want)
		}
	}
	if d := got[0].Len - 2.0/3; d > 1e-9 || d < -1e-9 {
		t.Errorf("the first lasts %v", got[0].Len)
	}
}

// What changed between two licks is said once for every note.
func TestDiff(t *testing.T) {
	a := New()
	for i := range 4 {
		a.Notes = append(a.Notes, Note{At: NewTime(int64(i), 8), Len: NewTime(1, 8), String: 1, Fret: 5, Finger: Index})
	}
	b := a.Clone()
	b.Notes[0].Fret, b.Notes[1].Finger, b.Notes[2].Bend = 7, Ring, &Bend{
		Semitones: 2,
		Shape:     "bend",
		With:      []Finger{Middle},
	}
	d := Diff(a, b)
	if len(d.Places) != 1 || d.Places[0] != 0 || len(d.Hands) != 1 || d.Hands[0] != 1 || len(d.Marks) != 1 ||
		d.Marks[0] != 2 {
		t.Errorf("%+v", d)
	}
	if d := Diff(b, b.Clone()); len(d.Places)+len(d.Hands)+len(d.Marks) > 0 {
		t.Errorf("a copy differs: %+v", d)
	}
}

// Strings that share a letter are told apart, and a tuning of flats has flats.
func TestStringNames(t *testing.T) {
	for _, c := range []struct{ tuning, want string }{
		{"E4 B3 G3 D3 A2 E2", "high E, B, G, D, A, low E"},
		{"D4 A3 G3 D3 A2 D2", "high D, high A, G, mid D, low A, low D"},
		{"Eb4 Bb3 Gb3 Db3 Ab2 Eb2", "high E♭, B♭, G♭, D♭, A♭, low E♭"},
		{"G2 D2 A1 E1 B0", "G, D, A, E, B"},
	} {
		l := New()
		var err error
		if l.Tuning, err = neck.ParseTuning(c.tuning); err != nil {
			t.Fatal(err)
		}
		var got []string
		for s := range l.Tuning {
			got = append(got, l.StringName(s+1))
		}
		if s := strings.Join(got, ", "); s != c.want {
			t.Errorf("%s: %s, want %s", c.tuning, s, c.want)
		}
	}
}

// A byte order mark is no fault; a field twice, or in other letters, is.
func TestStrictFile(t *testing.T) {
	good := `{"format":"ornamen-lick","version":1,"notes":[{"at":"0","len":"1/8","string":1,"fret":5}]}`
	if _, err := Parse([]byte("\xef\xbb\xbf" + good)); err != nil {
		t.Errorf("with a byte order mark: %v", err)
	}
	for _, bad := range []string{strings.Replace(good, `"fret":5`, `"fret":5,"fret":6`, 1), strings.Replace(good,
		`"fret"`, `"Fret"`, 1), strings.Replace(good, `"notes"`, `"version":1,"notes"`, 1)} {
		if _, err := Parse([]byte(bad)); err == nil {
			t.Errorf("read: %s", bad)
		}
	}
}

// Room that is made and taken away again leaves the chords as they were; what is taken out goes
// with what lies in it, and nothing else.
func TestMovedChords(t *testing.T) {
	rng := rand.New(rand.NewPCG(4, 4))
	for range 500 {
		l := New()
		at := Time{}
		for k := range 1 + rng.IntN(6) {
			if rng.IntN(5) == 0 {
				at = at.Add(NewTime(1, 4)) // silence
			}
			c := Chord{At: at, Len: NewTime(int64(1+rng.IntN(8)), 8), Name: string(rune('A' + k))}
			l.Chords, at = append(l.Chords, c), at.Add(c.Len)
		}
		was := slices.Clone(l.Chords)
		where, d := NewTime(int64(rng.IntN(24)), 8), NewTime(int64(1+rng.IntN(8)), 8)
		l.Chords = l.MovedChords(where, d)
		if l.Chords = l.MovedChords(where.Add(d), Time{}.Sub(d)); !slices.Equal(l.Chords, was) {
			t.Fatalf("%v, at %s by %s and back: %v", was, where, d, l.Chords)
		}
		sum := func(cs []Chord) (s Time) {
			for _, c := range cs {
				s = s.Add(c.Len)
			}
			return s
		}
		less := l.MovedChords(where.Add(d), Time{}.Sub(d))
		if lost := sum(was).Sub(sum(less)); d.Before(lost) || lost.Before(Time{}) {
			t.Fatalf("%v loses %s of %s", was, lost, d)
		}
		for i := 1; i < len(less); i++ {
			if less[i].At.Before(less[i-1].At.Add(less[i-1].Len)) {
				t.Fatalf("%v overlap", less)
			}
		}
	}
}
