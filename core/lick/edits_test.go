package lick

import (
	"bytes"
	"math/rand/v2"
	"reflect"
	"strings"
	"testing"

	"ornamen/core/neck"
)

// four is a line of four eighths.
func four(t *testing.T) Lick {
	t.Helper()
	l := New()
	for i, fret := range []int{5, 7, 8, 5} {
		l.Notes = append(l.Notes, Note{At: NewTime(int64(i), 8), Len: NewTime(1, 8), String: 3, Fret: fret})
	}
	if err := l.Validate(); err != nil {
		t.Fatal(err)
	}
	return l
}

func ptr[T any](v T) *T { return &v }

// Every edit does what it says, says it in a few words, and leaves what it was
// made on as it was.
func TestEveryEdit(t *testing.T) {
	for _, c := range []struct {
		edit Edit
		what string
		want func(l Lick) bool
	}{
		{Move{Note: 1, Place: neck.Place{String: 2, Fret: 3}}, "note 2",
			func(l Lick) bool { return l.Notes[1].String == 2 && l.Notes[1].Fret == 3 }},
		{Insert{After: 1, Place: neck.Place{String: 1, Fret: 9}, Len: NewTime(1, 8)}, "note", func(l Lick) bool {
			return len(l.Notes) == 5 && l.Notes[2].Fret == 9 && l.Notes[3].At.String() == "3/8"
		}},
		{Add{Note: 0, Place: neck.Place{String: 2, Fret: 5}}, "note", func(l Lick) bool {
			return len(l.Notes) == 5 &&
				l.Notes[1].At.IsZero()
		}},
		{Remove{Note: 0}, "note 1", func(l Lick) bool {
			return len(l.Notes) == 3 && l.Notes[0].Fret == 7 &&
				l.Notes[0].At.IsZero()
		}},
		{Length{Note: 0, Len: NewTime(1, 4)}, "note 1", func(l Lick) bool { return l.Notes[1].At.String() == "1/4" }},
		{Rest{Note: 1}, "rest", func(l Lick) bool { return l.Notes[1].At.String() == "1/4" && l.Notes[0].At.IsZero() }},
		{Swap{Note: 0}, "note", func(l Lick) bool { return l.Notes[0].Fret == 7 && l.Notes[1].Fret == 5 }},
		{SetFinger{Note: 0, Finger: Ring}, "finger", func(l Lick) bool {
			return l.Notes[0].Finger == Ring &&
				l.Notes[0].Locked(FieldFinger)
		}},
		{SetStroke{Note: 0, Stroke: Up}, "note 1", func(l Lick) bool {
			return l.Notes[0].Stroke == Up &&
				l.Notes[0].Locked(FieldStroke)
		}},
		{SetSlur{Note: 1, Slur: Hammer}, "hammer to note 2", func(l Lick) bool {
			return l.Notes[1].Slur == Hammer &&
				l.Notes[1].Locked(FieldSlur)
		}},
		{SetSlur{Note: 1}, "note 2 picked", func(l Lick) bool { return l.Notes[1].Slur == "" }},
		{SetBend{Note: 2, Bend: &Bend{Semitones: 2, Shape: "bend"}}, "note 3 bent",
			func(l Lick) bool { return l.Notes[2].Bend.Semitones == 2 && l.Notes[2].Locked(FieldBend) }},
		{SetBend{Note: 2}, "note 3 not bent", func(l Lick) bool { return l.Notes[2].Bend == nil }},
		{SetVibrato{Note: 2, Vibrato: &Vibrato{Width: Wide, Speed: Slow}}, "vibrato on note 3",
			func(l Lick) bool { return l.Notes[2].Vibrato != nil }},
		{SetSlideIn{Note: 2, SlideIn: &SlideIn{Frets: 2, From: FromBelow}}, "slide into note 3",
			func(l Lick) bool { return l.Notes[2].SlideIn.Frets == 2 }},
		{SetMark{Note: 0, Mark: "accent", On: true}, "accent on note 1", func(l Lick) bool { return l.Notes[0].Accent }},
		{SetMark{Note: 0, Mark: "palm", On: true}, "palm on note 1", func(l Lick) bool { return l.Notes[0].Palm }},
		{SetMark{Note: 0, Mark: "ghost", On: true}, "ghost on note 1", func(l Lick) bool {
			return l.Notes[0].Ghost && !l.Notes[0].Accent
		}},
		{SetMark{Note: 0, Mark: "rake", On: true}, "rake on note 1", func(l Lick) bool { return l.Notes[0].Rake }},
		{SetMeant{Note: 0, Code: "note-outside", Meant: true}, "meant",
			func(l Lick) bool { return l.Notes[0].Means("note-outside") }},
		{Setting{Title: ptr("Stile"), Tempo: ptr(72.0), Loop: ptr(true)}, "title, tempo, loop",
			func(l Lick) bool { return l.Title == "Stile" && l.Tempo == 72 && l.Loop }},
		{Setting{Key: &Key{Tonic: "A", Scale: "dorian"}, Meter: &Meter{3, 4}, Feel: ptr(Shuffle), Pickup: ptr(NewTime(1,
			8)), Tags: &[]string{"a"}}, "tones", func(l Lick) bool {
			return l.Key.Scale == "dorian" && l.Meter == Meter{3, 4} && l.Feel == Shuffle &&
				l.Pickup.String() == "1/8" && len(l.Tags) == 1
		}},
		{OpenHands{}, "hands", func(l Lick) bool { return l.Notes[0].Finger == NoFinger }},
		{Replace{Lick: New(), Why: "other hands"}, "other hands", func(l Lick) bool { return len(l.Notes) == 0 }},
	} {
		l := four(t)
		before := l.Encode()
		got, err := c.edit.Apply(l)
		name := reflect.TypeOf(c.edit).Name()
		if err != nil {
			t.Errorf("%s: %v", name, err)
			continue
		}
		if !c.want(got) {
			t.Errorf("%s gives\n%s", name, got.Encode())
		}
		if err := got.Validate(); err != nil {
			t.Errorf("%s gives an invalid lick: %v", name, err)
		}
		if !strings.Contains(c.edit.What(), c.what) {
			t.Errorf("%s says %q, want %q in it", name, c.edit.What(), c.what)
		}
		if !bytes.Equal(before, l.Encode()) {
			t.Errorf("%s changed what it was made on", name)
		}
	}
}

// What an edit cannot do is one sentence, and the lick comes back as it was.
func TestEditsRefuse(t *testing.T) {
	for _, e := range []Edit{
		Move{Note: 9, Place: neck.Place{String: 1, Fret: 1}}, Move{Note: 0, Place: neck.Place{String: 9, Fret: 1}},
		Move{Note: 0, Place: neck.Place{String: 1, Fret: 99}},
		Insert{After: 0, Place: neck.Place{String: 0, Fret: 1}, Len: NewTime(1, 8)}, Insert{After: 0,
			Place: neck.Place{String: 1, Fret: 1}},
		Remove{Note: -1}, Length{Note: 0}, SetFinger{Note: 4}, SetStroke{Note: 0, Stroke: "sideways"}, SetSlur{Note: 0,
			Slur: "glue"},
		SetBend{Note: 0, Bend: &Bend{Semitones: 7, Shape: "bend"}}, SetBend{Note: 0, Bend: &Bend{Semitones: 1,
			Shape: "bow"}}, SetVibrato{Note: 0, Vibrato: &Vibrato{Width: "huge", Speed: Slow}},
		SetSlideIn{Note: 0, SlideIn: &SlideIn{Frets: 40, From: FromBelow}}, SetSlideIn{Note: 0,
			SlideIn: &SlideIn{Frets: 1, From: "beside"}}, SetMark{Note: 0, Mark: "glitter"},
		Setting{Tempo: ptr(1000.0)}, Setting{Meter: &Meter{0, 4}}, Setting{Feel: ptr(Feel("swing"))},
		Setting{Key: &Key{Tonic: "H", Scale: "major"}},
		Swap{Note: 3},
	} {
		l := four(t)
		before := l.Encode()
		got, err := e.Apply(l)
		name := reflect.TypeOf(e).Name()
		if err == nil {
			t.Errorf("%s %+v passes", name, e)
			continue
		}
		if strings.Contains(err.Error(), "\n") || len(err.Error()) < 8 {
			t.Errorf("%s: %q is no sentence", name, err)
		}
		if !bytes.Equal(before, got.Encode()) || !bytes.Equal(before, l.Encode()) {
			t.Errorf("%s: a refusal changed the lick", name)
		}
	}
}

// Whatever edits come in whatever order, the lick stays one that the format
// allows, and comes back from its file.
func TestEditsKeepTheLickValid(t *testing.T) {
	rng := rand.New(rand.NewPCG(31, 9))
	for range 40 {
		l := four(t)
		for range 60 {
			i := rng.IntN(len(l.Notes) + 2)
			place := neck.Place{String: 1 + rng.IntN(7), Fret: rng.IntN(40)}
			e := []Edit{
				Move{Note: i, Place: place}, Insert{After: i, Place: place, Len: NewTime(1, int64(4+rng.IntN(13)))},
				Add{Note: i, Place: place}, Remove{Note: i},
				Length{Note: i, Len: NewTime(int64(1+rng.IntN(3)), 8)}, Rest{Note: i, Close: rng.IntN(2) == 0},
				Swap{Note: i, Earlier: rng.IntN(2) == 0},
				SetFinger{Note: i, Finger: Finger(rng.IntN(7))}, SetStroke{Note: i, Stroke: []Stroke{"", Down, Up,
					PMid}[rng.IntN(4)]}, SetSlur{Note: i, Slur: []Slur{"", Hammer, Pull, Slide, Shift}[rng.IntN(5)]},
				SetBend{Note: i, Bend: &Bend{Semitones: float64(rng.IntN(6)), Shape: "bend"}}, SetMark{Note: i,
					Mark: "bar"}, Setting{Tempo: ptr(float64(rng.IntN(500)))}, OpenHands{},
			}[rng.IntN(14)]
			next, err := e.Apply(l)
			if err != nil {
				continue
			}
			if err := next.Validate(); err != nil {
				t.Fatalf("%#v gives an invalid lick: %v\nfrom %s", e, err, l.Encode())
			}
			back, err := Parse(next.Encode())
			if err != nil || !bytes.Equal(back.Encode(), next.Encode()) {
				t.Fatalf("%#v: it does not come back from its file (%v)\n%s", e, err, next.Encode())
			}
			l = next
			if len(l.Notes) == 0 {
				l = four(t)
			}
		}
	}
}
