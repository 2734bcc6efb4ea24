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
		"bendshape": {"prebend", func(l lick.Lick) bool { return l.Notes[1].Bend.Pre() }},
		"push":      {"thin", func(l lick.Lick) bool { return l.Notes[1].Bend.Push != "" }},
		"helpers":   {"1 2", func(l lick.Lick) bool { return len(l.Notes[1].Bend.With) == 2 }},
		"vibrato":   {"", func(l lick.Lick) bool { return l.Notes[1].Vibrato != nil }},
		"mark":      {"accent", func(l lick.Lick) bool { return l.Notes[1].Accent }},
		"chord": {"4m7", func(l lick.Lick) bool {
			return len(l.Chords) == 1 &&
				l.Chords[0].At.Cmp(l.Notes[1].At) == 0
		}},
		"meant":     {"bend-heavy", func(l lick.Lick) bool { return l.Notes[1].Means("bend-heavy") }},
		"title":     {"Hill road", func(l lick.Lick) bool { return l.Title == "Hill road" }},
		"tags":      {"a, b, a", func(l lick.Lick) bool { return strings.Join(l.Tags, "+") == "a+b" }},
		"tempo":     {"112", func(l lick.Lick) bool { return l.Tempo == 112 }},
		"meter":     {"6/8", func(l lick.Lick) bool { return l.Meter.String() == "6/8" }},
		"pickup":    {"1/8", func(l lick.Lick) bool { return l.Pickup.String() == "1/8" }},
		"feel":      {"shuffle", func(l lick.Lick) bool { return l.Feel == lick.Shuffle }},
		"loop":      {"yes", func(l lick.Lick) bool { return l.Loop }},
		"tonic":     {"C#", func(l lick.Lick) bool { return l.Key.Tonic == "C#" }},
		"scale":     {"dorian", func(l lick.Lick) bool { return l.Key.Scale == "dorian" }},
		"tone":      {"b5", func(l lick.Lick) bool { return len(l.Key.Add) == 1 }},
		"chords":    {"Am7 | D7", func(l lick.Lick) bool { return len(l.Chords) == 2 && l.Chords[1].Name == "D7" }},
		"duplicate": {"", func(l lick.Lick) bool { return len(l.Notes) == 5 && l.Notes[2].Fret == 7 && l.Notes[2].Bend != nil }},
		"after":     {"4", func(l lick.Lick) bool { return l.Notes[3].Fret == 7 && l.Notes[3].At.String() == "3/16" }},
		"only":      {"", func(l lick.Lick) bool { return len(l.Notes) == 1 && l.Notes[0].At.IsZero() }},
		"move":      {"2 frets", func(l lick.Lick) bool { return l.Notes[1].Fret == 9 && l.Notes[1].Bend != nil }},
		"transpose": {"C", func(l lick.Lick) bool { return l.Key.Tonic == "C" && l.Notes[0].Fret == 8 }},
		"longer":    {"3/2", func(l lick.Lick) bool { return l.Notes[1].Len.String() == "3/32" && l.Notes[2].At.String() == "5/32" }},
		"shorter":   {"", func(l lick.Lick) bool { return l.Notes[1].Len.String() == "1/32" && l.Notes[2].At.String() == "3/32" }},
		"propose":   {"", func(l lick.Lick) bool { return l.Notes[1].Finger == lick.NoFinger }},
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
			w.Value != "x y" || d.Does == "" {
			t.Errorf("%s: %+v %v", d.Name, w, err)
		}
	}
	l := testline.Read(t, "A minor pentatonic", "3:5 7")
	l.Notes[1].Bend = &lick.Bend{Semitones: 2, Shape: lick.BendUp}
	for _, line := range []string{"", "jump", "0 finger 1", "-1 remove", "3 remove", "finger 1", "1 finger 9",
		"1 bend up", "1 bendshape prebend", "1 push thick", "2 bendshape x", "2 push sideways", "1 helpers 2",
		"1 degree z", "tempo fast", "tempo 9000", "meter 4",
		"pickup x", "scale hills", "1 place 9:1", "add 3:99", "1 length 0", "chords Hm", "loop x", "1 vibrato quick",
		"1 mark glitter", "1-2 chord Am7", "1-9 remove", "2-1 remove", "1-2 move", "1-2 move 3", "1-2 move 3 hills", "1 move 0 frets", "1 move 99 frets", "1 move -9 frets", "1 move 5 strings", "1 longer x", "1 longer 99", "1-2 after 1", "1 after 9", "1 otherstring up", "transpose H", "transpose A", "1-2 earlier", "1-2 later", "1 tempo x"} {
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

// What is done to a selection is done to it as a figure, or to each of its notes, in one edit.
func TestSelections(t *testing.T) {
	const line = "3:5 7 2:5 8 5 3:7 5 4:7"
	for do, want := range map[string]string{
		"1-4 remove":              "2:5 3:7 3:5 4:7",
		"1-2,7-8 remove":          "2:5 2:8 2:5 3:7",
		"1-2 duplicate":           "3:5 3:7 3:5 3:7 2:5 2:8 2:5 3:7 3:5 4:7",
		"1-2,7-8 duplicate":       "3:5 3:7 3:5 3:7 2:5 2:8 2:5 3:7 3:5 4:7 3:5 4:7",
		"1-2 after 4":             "2:5 2:8 3:5 3:7 2:5 3:7 3:5 4:7",
		"5-6 after 0":             "2:5 3:7 3:5 3:7 2:5 2:8 3:5 4:7",
		"3-5 earlier":             "3:5 2:5 2:8 2:5 3:7 3:7 3:5 4:7",
		"3-5 later":               "3:5 3:7 3:7 2:5 2:8 2:5 3:5 4:7",
		"3-5 only":                "2:5 2:8 2:5",
		"3-5,8 only":              "2:5 2:8 2:5 4:7",
		"1-4 move 2 frets":        "3:7 3:9 2:7 2:10 2:5 3:7 3:5 4:7",
		"1-4 move -5 frets":       "3:0 3:2 2:0 2:3 2:5 3:7 3:5 4:7",
		"1-4 move 1 strings":      "4:5 4:7 3:5 3:8 2:5 3:7 3:5 4:7",
		"1-4 move 1 over":         "4:10 4:12 3:9 3:12 2:5 3:7 3:5 4:7",
		"1-4 move 1 degrees":      "3:7 3:9 2:8 2:10 2:5 3:7 3:5 4:7",
		"1-4 move 1 octaves":      "1:8 1:10 1:12 1:15 2:5 3:7 3:5 4:7",
		"1-4 otherstring thicker": "4:10 4:12 3:9 3:12 2:5 3:7 3:5 4:7",
		"1-2,7-8 degree 1":        "4:7 4:7 2:5 2:8 2:5 3:7 4:7 4:7",
		"transpose C":             "3:8 3:10 2:8 2:11 2:8 3:10 3:8 4:10",
		"2 insert":                "3:5 3:7 3:7 2:5 2:8 2:5 3:7 3:5 4:7",
	} {
		got, err := done(testline.Read(t, "A minor pentatonic", line), do)
		if err != nil {
			t.Errorf("%s: %v", do, err)
			continue
		}
		var places []string
		for _, n := range got.Notes {
			places = append(places, n.Place().Notation())
		}
		if s := strings.Join(places, " "); s != want {
			t.Errorf("%s: %s, want %s", do, s, want)
		}
	}
	l := testline.Read(t, "A minor pentatonic", line)
	for do, is := range map[string]func(n lick.Note) bool{
		"3-5 finger 4":    func(n lick.Note) bool { return n.Finger == lick.Little && n.Locked(lick.FieldFinger) },
		"3-5 stroke up":   func(n lick.Note) bool { return n.Stroke == lick.Up },
		"3-5 length 1/8":  func(n lick.Note) bool { return n.Len.String() == "1/8" },
		"3-5 vibrato":     func(n lick.Note) bool { return n.Vibrato != nil },
		"3-5 mark accent": func(n lick.Note) bool { return n.Accent },
		"3-5 longer":      func(n lick.Note) bool { return n.Len.String() == "1/8" },
	} {
		got, err := done(l, do)
		if err != nil {
			t.Errorf("%s: %v", do, err)
			continue
		}
		for i, n := range got.Notes {
			if is(n) != (i >= 2 && i < 5) {
				t.Errorf("%s: note %d is %+v", do, i+1, n)
			}
		}
		if again, err := done(got, do); err != nil ||
			do != "3-5 longer" && string(again.Encode()) != string(got.Encode()) {
			t.Errorf("%s said twice is something else: %v", do, err)
		}
	}
}

// done does what a line of words says.
func done(l lick.Lick, line string) (lick.Lick, error) {
	w, err := edit.Parse(line)
	if err != nil {
		return l, err
	}
	e, err := edit.Read(neck.Standard(), l, w)
	if err != nil {
		return l, err
	}
	return e.Apply(l)
}

// One key steps from the figure under the caret to all that are like it, and on to the larger ones.
func TestAround(t *testing.T) {
	l := testline.Read(t, "A minor pentatonic", "3:5 7 2:5 4:5 7 3:5 5:5 7 4:5 1:12 17 12")
	var got []string
	for _, rs := range edit.Around(l, 4) {
		got = append(got, rs.String())
	}
	if s := strings.Join(got, " / "); s != "4-6 / 1-9 / 1-12" {
		t.Errorf("around note 5: %s", s)
	}
	// Three tones of a string come back elsewhere: several stretches are selected at once. A bar is a
	// selection too.
	apart := testline.Read(t, "A minor pentatonic", "3:5 7 8 2:8 5 3:5 7 8 2:6 1:5 8 5 3:5 7 8 4:7 5 1:5 8 5")
	got = nil
	for _, rs := range edit.Around(apart, 1) {
		got = append(got, rs.String())
	}
	if s := strings.Join(got, " / "); s != "1-3 / 1-3,6-8,13-15 / 1-16 / 1-20" {
		t.Errorf("around note 2: %s", s)
	}
	if edit.Around(l, 12) != nil || edit.Around(lick.New(), 0) != nil {
		t.Error("a note that is none has figures")
	}
}
