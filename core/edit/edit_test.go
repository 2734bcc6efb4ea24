package edit_test

import (
	"strings"
	"testing"

	"ornamen/core/edit"
	"ornamen/core/lick"
	"ornamen/core/neck"
	"ornamen/core/testline"
)

// One line per thing that can be done, what it makes of note 2 of a line or of the line.
func TestEveryDo(t *testing.T) {
	g := neck.Standard()
	bent := testline.Read(t, "A minor pentatonic", "3:5 7 2:5 8")
	bent.Notes[1].Bend = &lick.Bend{Semitones: 2, Shape: lick.BendUp}
	for do, c := range map[string]struct {
		value string
		want  func(l lick.Lick) bool
	}{
		"place": {"4:7", func(l lick.Lick) bool { return l.Notes[1].Place().Notation() == "4:7" }},
		"add": {"2:8", func(l lick.Lick) bool {
			return len(l.Notes) == 5 &&
				l.Notes[1].At.Cmp(l.Notes[2].At) == 0
		}},
		"insert":      {"", func(l lick.Lick) bool { return len(l.Notes) == 5 && l.Notes[2].Fret == 7 }},
		"remove":      {"", func(l lick.Lick) bool { return len(l.Notes) == 3 && l.Notes[1].Fret == 5 }},
		"earlier":     {"", func(l lick.Lick) bool { return l.Notes[0].Fret == 7 }},
		"later":       {"", func(l lick.Lick) bool { return l.Notes[2].Fret == 7 }},
		"rest":        {"", func(l lick.Lick) bool { return l.Notes[1].At.String() == "1/8" }},
		"unrest":      {"", nil}, // there is none to close
		"length":      {"1/4", func(l lick.Lick) bool { return l.Notes[1].Len.String() == "1/4" }},
		"degree":      {"b7", func(l lick.Lick) bool { return l.Pitch(1).Class() == 7 }},
		"otherstring": {"thicker", func(l lick.Lick) bool { return l.Notes[1].Place().Notation() == "4:12" }},
		"finger": {"4", func(l lick.Lick) bool {
			return l.Notes[1].Finger == 4 &&
				l.Notes[1].Locked(lick.FieldFinger)
		}},
		"stroke":    {"up", func(l lick.Lick) bool { return l.Notes[1].Stroke == lick.Up }},
		"slur":      {"hammer", func(l lick.Lick) bool { return l.Notes[1].Slur == lick.Hammer }},
		"slidein":   {"below", func(l lick.Lick) bool { return l.Notes[1].SlideIn != nil }},
		"bend":      {"1", func(l lick.Lick) bool { return l.Notes[1].Bend.Semitones == 1 }},
		"bendshape": {"pre", func(l lick.Lick) bool { return l.Notes[1].Bend.Pre() }},
		"push":      {"", func(l lick.Lick) bool { return l.Notes[1].Bend.Push != "" }},
		"helpers":   {"1 2", func(l lick.Lick) bool { return len(l.Notes[1].Bend.With) == 2 }},
		"vibrato":   {"", func(l lick.Lick) bool { return l.Notes[1].Vibrato != nil }},
		"mark":      {"accent", func(l lick.Lick) bool { return l.Notes[1].Accent }},
		"chord": {"4m7", func(l lick.Lick) bool {
			return len(l.Chords) == 1 &&
				l.Chords[0].At.Cmp(l.Notes[1].At) == 0
		}},
		"meant":   {"bend-heavy", func(l lick.Lick) bool { return l.Notes[1].Means("bend-heavy") }},
		"title":   {"Hill road", func(l lick.Lick) bool { return l.Title == "Hill road" }},
		"tags":    {"a, b, a", func(l lick.Lick) bool { return strings.Join(l.Tags, "+") == "a+b" }},
		"tempo":   {"112", func(l lick.Lick) bool { return l.Tempo == 112 }},
		"meter":   {"6/8", func(l lick.Lick) bool { return l.Meter.String() == "6/8" }},
		"pickup":  {"1/8", func(l lick.Lick) bool { return l.Pickup.String() == "1/8" }},
		"feel":    {"shuffle", func(l lick.Lick) bool { return l.Feel == lick.Shuffle }},
		"loop":    {"yes", func(l lick.Lick) bool { return l.Loop }},
		"tonic":   {"C#", func(l lick.Lick) bool { return l.Key.Tonic == "C#" }},
		"scale":   {"dorian", func(l lick.Lick) bool { return l.Key.Scale == "dorian" }},
		"tone":    {"b5", func(l lick.Lick) bool { return len(l.Key.Add) == 1 }},
		"chords":  {"Am7 | D7", func(l lick.Lick) bool { return len(l.Chords) == 2 && l.Chords[1].Name == "D7" }},
		"propose": {"", func(l lick.Lick) bool { return l.Notes[1].Finger == lick.NoFinger }},
	} {
		e, err := edit.Read(g, bent, edit.Words{Note: 2, Do: do, Value: c.value})
		var got lick.Lick
		if err == nil {
			got, err = e.Apply(bent)
		}
		switch {
		case c.want == nil:
			if err == nil {
				t.Errorf("%s is done", do)
			}
		case err != nil:
			t.Errorf("%s %q: %v", do, c.value, err)
		case !c.want(got):
			t.Errorf("%s %q does not do it: %s", do, c.value, got.Encode())
		case e.What() == "":
			t.Errorf("%s says nothing", do)
		}
	}
}

// Every row of the table is read from a line, and what is none is refused in a sentence.
func TestParse(t *testing.T) {
	for _, d := range edit.Dos {
		if w, err := edit.Parse("3 " + d.Name + " x y"); err != nil || w.Note != 3 || w.Do != d.Name ||
			w.Value != "x y" {
			t.Errorf("%s: %+v %v", d.Name, w, err)
		}
	}
	l := testline.Read(t, "A minor pentatonic", "3:5 7")
	for _, line := range []string{"", "jump", "0 finger 1", "-1 remove", "3 remove", "finger 1", "1 finger 9",
		"1 bend up", "1 bendshape pre", "1 push", "1 helpers 2", "1 degree z", "tempo fast", "tempo 9000", "meter 4",
		"pickup x", "scale hills", "1 place 9:1", "add 3:99", "1 length 0", "chords Hm"} {
		w, err := edit.Parse(line)
		if err == nil {
			var e lick.Edit
			if e, err = edit.Read(neck.Standard(), l, w); err == nil {
				_, err = e.Apply(l)
			}
		}
		if err == nil {
			t.Errorf("%q is done", line)
		}
	}
}
