package lick

import (
	"bytes"
	"strings"
	"testing"

	"ornamen/core/neck"
)

// full holds every field of the format.
const full = `{
  "format": "ornamen-lick", "version": 1,
  "title": "Quarry steps", "tags": ["warm-up"],
  "tuning": ["E4","B3","G3","D3","A2","E2"],
  "key": {"tonic": "C#", "scale": "minor pentatonic", "add": ["9","b5@down"], "drop": []},
  "meter": "4/4", "tempo": 116, "feel": "straight", "pickup": "1/8", "loop": true,
  "chords": [{"at": "0", "len": "1", "name": "C#m7"}],
  "recipe": "--key \"C# minor pentatonic\" --cell \"1 2 3\"",
  "notes": [
    {"at": "0", "len": "1/16", "string": 3, "fret": 11, "finger": 3, "stroke": "down",
     "bend": {"semitones": 2, "shape": "bend-release", "push": "thick", "with": [2]}, "lock": ["finger"]},
    {"at": "1/16", "len": "1/16", "string": 1, "fret": 9, "finger": 1, "stroke": "up", "accent": true,
"meant": ["note-outside"]},
    {"at": "1/8", "len": "1/16", "string": 2, "fret": 12, "finger": 4, "stroke": "down", "slide_in": {"frets": 1,
"from": "below"}, "bar": true},
    {"at": "3/16", "len": "1/16", "string": 2, "fret": 9, "finger": 1, "slur": "pull",
"vibrato": {"width": "wide", "speed": "slow"}},
    {"at": "1/4", "len": "1/4", "string": 6, "fret": 0, "finger": 0, "stroke": "p", "voice": "bass"},
    {"at": "1/4", "len": "1/16", "string": 4, "fret": 7, "finger": "T", "mute": true, "rake": true, "voice": "line"}
  ]
}`

func TestEveryFieldComesBack(t *testing.T) {
	l, err := Parse([]byte(full))
	if err != nil {
		t.Fatal(err)
	}
	first := l.Encode()
	again, err := Parse(first)
	if err != nil {
		t.Fatal(err)
	}
	if !bytes.Equal(first, again.Encode()) {
		t.Errorf("written and read again:\n%s\n%s", first, again.Encode())
	}
	for _, word := range []string{`"bend-release"`, `"with":[2]`, `"meant":["note-outside"]`,
		`"slide_in":{"frets":1,"from":"below"}`, `"bar":true`, `"finger":0`, `"finger":"T"`, `"voice":"bass"`,
		`"mute":true`, `"rake":true`, `"accent":true`, `"pickup": "1/8"`, `"loop": true`, `"b5@down"`,
		`"name":"C#m7"`, `"recipe"`, `"lock":["finger"]`, `"width":"wide"`} {
		if !bytes.Contains(first, []byte(word)) {
			t.Errorf("%s was lost", word)
		}
	}
	if l.Notes[4].String != 6 || l.Notes[5].String != 4 {
		t.Error("notes that sound together do not come thick string first")
	}
}

func TestDefaults(t *testing.T) {
	l, err := Parse([]byte(`{"format":"ornamen-lick","version":1,"notes":[]}`))
	if err != nil {
		t.Fatal(err)
	}
	if l.Tempo != 100 || l.Meter != (Meter{4, 4}) || l.Feel != Straight || len(l.Tuning) != 6 || l.Loop ||
		l.Key.Tonic != "" {
		t.Errorf("%+v", l)
	}
}

// Each mistake gives one sentence that says what and, in a note, which note.
func TestRefusals(t *testing.T) {
	note := func(fields string) string {
		return `{"format":"ornamen-lick","version":1,"notes":[{"at":"0","len":"1/8","string":1,"fret":5},{` + fields +
			`}]}`
	}
	ok := `"at":"1/8","len":"1/8","string":2,"fret":5`
	head := func(fields string) string {
		return `{"format":"ornamen-lick","version":1,"notes":[],` + fields + `}`
	}
	if _, err := Parse([]byte(note(ok))); err != nil {
		t.Fatal(err)
	}
	for _, c := range []struct{ file, says string }{
		{"", "cut off"},
		{full[:len(full)/2], "cut off"},
		{strings.Repeat("[", 10<<20), "not a lick file"},
		{strings.Repeat("x", MaxBytes+1), "larger than 16 MB"},
		{"null", "not a lick file"},
		{"[]", "does not belong"},
		{`{"format":"other","version":1,"notes":[]}`, "not a lick file"},
		{`{"format":"ornamen-lick","version":2,"notes":[],"new":1}`, "version 2"},
		{`{"format":"ornamen-lick","version":0,"notes":[]}`, "version"},
		{`{"format":"ornamen-lick","version":1}`, `"notes" is missing`},
		{full + "{}", "makes sense"},
		{head(`"colour":"red"`), `unknown field "colour"`},
		{head(`"tempo":9`), "tempo must be 10 to 400"},
		{head(`"tempo":401`), "tempo must be"},
		{head(`"tempo":"fast"`), `"tempo" cannot be a string`},
		{head(`"meter":"4/5"`), "not a meter"},
		{head(`"feel":"swing"`), "straight or shuffle"},
		{head(`"pickup":"-1/8"`), "not a time"},
		{head(`"tuning":["E4"]`), "4 to 9 strings"},
		{head(`"tuning":["E4","B3","G3","X","A2","E2"]`), "tuning, string 4"},
		{head(`"key":{"tonic":"C#","scale":"dorain"}`), "nearest are dorian"},
		{head(`"key":{"scale":"dorian"}`), "needs a tonic"},
		{head(`"chords":[{"at":"0","len":"1","name":"H7"}]`), "chord 1"},
		{head(`"title":"` + strings.Repeat("a", 201) + `"`), "longer than 200"},
		{note(`"at":"1/8","len":"1/8","string":2`), `note 2: "fret" is missing`},
		{note(`"at":"1/8","len":"1/8","string":2,"fret":-1`), "note 2: fret -1 is none"},
		{note(`"at":"1/8","len":"1/8","string":2,"fret":99`), "note 2: fret 99 is none"},
		{note(`"at":"1/8","len":"1/8","string":0,"fret":5`), "note 2: string 0 is none"},
		{note(`"at":"1/8","len":"1/8","string":7,"fret":5`), "note 2: string 7 is none"},
		{note(`"at":"1/8","len":"0","string":2,"fret":5`), "more than 0"},
		{note(`"at":"1/0","len":"1/8","string":2,"fret":5`), "not a time"},
		{note(`"at":"1/1000001","len":"1/8","string":2,"fret":5`), "not a time"},
		{note(`"at":0,"len":"1/8","string":2,"fret":5`), "note 2"},
		{note(ok + `,"finger":5`), "note 2: finger 5 is none"},
		{note(ok + `,"finger":"1"`), "finger \"1\" is none"},
		{note(ok + `,"stroke":"sideways"`), "stroke \"sideways\" is none"},
		{note(ok + `,"slur":"tap"`), "slur \"tap\" is none"},
		{note(ok + `,"slur":"hammer","stroke":"up"`), "takes no stroke"},
		{note(ok + `,"bend":{"semitones":2.5,"shape":"bend"}`), "bend of 2.5"},
		{note(ok + `,"bend":{"semitones":2,"shape":"wave"}`), "bend shape"},
		{note(ok + `,"bend":{"semitones":2,"shape":"bend","with":[0]}`), "only fingers 1 to 4"},
		{note(ok + `,"vibrato":{"width":"huge","speed":"slow"}`), "vibrato width"},
		{note(ok + `,"slide_in":{"frets":0,"from":"below"}`), "slide in"},
		{note(ok + `,"voice":"alto"`), "voice"},
		{note(ok + `,"lock":["tempo"]`), "lock"},
		{note(ok + `,"fingr":1`), `note 2: unknown field "fingr"`},
		{note(`"at":"1/16","len":"1/8","string":1,"fret":7`),
			"note 2: it starts on string 1 before note 1 there has ended"},
	} {
		_, err := Parse([]byte(c.file))
		if err == nil ||
			!strings.Contains(err.Error(), c.says) &&
				!(c.says == "makes sense" && strings.Contains(err.Error(), "making sense")) {
			t.Errorf("%.80s…: %v, want %q", c.file, err, c.says)
		}
		if err != nil && strings.Contains(err.Error(), "\n") {
			t.Errorf("%.80s…: more than one line: %v", c.file, err)
		}
	}
}

func TestTime(t *testing.T) {
	third, quarter := NewTime(1, 3), NewTime(2, 8)
	if got := third.Add(quarter).String(); got != "7/12" {
		t.Errorf("1/3 + 1/4 = %s", got)
	}
	if got := quarter.Sub(third).Cmp(Time{}); got != -1 {
		t.Error("1/4 − 1/3 is not below 0")
	}
	a, b := NewTime(1, 999_983), NewTime(1, 999_979)
	if a.Cmp(b) != -1 || b.Cmp(a) != 1 || a.Add(b).Sub(b).Cmp(a) != 0 {
		t.Error("fractions with large numbers are not exact")
	}
	big := NewTime(MaxPart, 1)
	for range 10 {
		big = big.Times(MaxPart).Add(big)
	}
	if big.Valid() {
		t.Error("a time out of range is valid")
	}
	if whole, rest := NewTime(7, 16).Div(NewTime(1, 8)); whole != 3 || rest.String() != "1/16" {
		t.Errorf("7/16 in eighths: %d and %s", whole, rest)
	}
}

func TestPosition(t *testing.T) {
	l := New()
	l.Pickup = NewTime(3, 8)
	for _, c := range []struct {
		at    Time
		bar   int64
		count string
	}{{Time{}, 0, "&"}, {NewTime(1, 8), 0, "4"}, {NewTime(3, 8), 1, "1"}, {NewTime(7, 16), 1, "e"}, {NewTime(11, 8), 2,
		"1"}} {
		p := l.Position(c.at)
		if got := p.Count(l.Meter); p.Bar != c.bar || got != c.count {
			t.Errorf("%s lies in bar %d on %s, want %d on %s", c.at, p.Bar, got, c.bar, c.count)
		}
	}
}

// A shuffled off-beat comes on the last third of its quarter (common practice);
// triplets and sixteenths stay as written.
func TestShuffle(t *testing.T) {
	l := New()
	l.Tempo, l.Feel = 60, Shuffle
	for i, at := range []Time{{}, NewTime(1, 8), NewTime(1, 4), NewTime(5, 16), NewTime(3, 8)} {
		l.Notes = append(l.Notes, Note{At: at, Len: NewTime(1, 16), String: 1, Fret: i})
	}
	if ms := l.Milliseconds(Time{}, NewTime(1, 8)); ms < 666 || ms > 667 {
		t.Errorf("the off-beat comes after %v ms", ms)
	}
	if ms := l.Milliseconds(NewTime(1, 4), NewTime(3, 8)); ms != 500 {
		t.Errorf("an eighth among sixteenths comes after %v ms", ms)
	}
}

func sample(t *testing.T) Lick {
	t.Helper()
	l := New()
	for i, f := range []int{5, 8, 5, 7} {
		var err error
		if l, err = (Insert{After: len(l.Notes) - 1, Place: neck.Place{String: 1 + i/2, Fret: f}, Len: NewTime(1,
			8)}).Apply(l); err != nil {
			t.Fatal(err)
		}
	}
	return l
}

func draw(l Lick) string {
	var b strings.Builder
	for _, n := range l.Notes {
		b.WriteString(n.At.String() + "=" + n.Place().Notation() + " ")
	}
	return strings.TrimSpace(b.String())
}

func TestEdits(t *testing.T) {
	l := sample(t)
	before := string(l.Encode())
	for _, c := range []struct {
		edit Edit
		want string
	}{
		{Move{1, neck.Place{String: 2, Fret: 13}}, "0=1:5 1/8=2:13 1/4=2:5 3/8=2:7"},
		{Insert{-1, neck.Place{String: 3, Fret: 7}, NewTime(1, 16)}, "0=3:7 1/16=1:5 3/16=1:8 5/16=2:5 7/16=2:7"},
		{Insert{1, neck.Place{String: 3, Fret: 7}, NewTime(1, 16)}, "0=1:5 1/8=1:8 1/4=3:7 5/16=2:5 7/16=2:7"},
		{Add{2, neck.Place{String: 4, Fret: 7}}, "0=1:5 1/8=1:8 1/4=4:7 1/4=2:5 3/8=2:7"},
		{Remove{Note: 1}, "0=1:5 1/8=2:5 1/4=2:7"},
		{Remove{Note: 3}, "0=1:5 1/8=1:8 1/4=2:5"},
		{Length{1, NewTime(1, 4)}, "0=1:5 1/8=1:8 3/8=2:5 1/2=2:7"},
		{Rest{1, false}, "0=1:5 1/4=1:8 3/8=2:5 1/2=2:7"},
		{Swap{1, false}, "0=1:5 1/8=2:5 1/4=1:8 3/8=2:7"},
		{Swap{1, true}, "0=1:8 1/8=1:5 1/4=2:5 3/8=2:7"},
	} {
		got, err := c.edit.Apply(l)
		if err != nil || draw(got) != c.want {
			t.Errorf("%s: %s (%v), want %s", c.edit.What(), draw(got), err, c.want)
		}
		if string(l.Encode()) != before {
			t.Fatalf("%s changed its argument", c.edit.What())
		}
	}
	for _, e := range []Edit{Move{9, neck.Place{String: 1, Fret: 1}}, Move{0, neck.Place{String: 9, Fret: 1}}, Add{0,
		neck.Place{String: 1, Fret: 9}}, Swap{0, true}, Swap{3, false},
		Rest{1, true}, Length{0, Time{}}, SetMark{0, "wobble", true}, Insert{7, neck.Place{String: 1, Fret: 1}, NewTime(1,
			8)}, SetStroke{0, "sideways"}} {
		if got, err := e.Apply(l); err == nil || string(got.Encode()) != before {
			t.Errorf("%s: %v, and the lick it gives is not the old one", e.What(), err)
		}
	}
}

func TestLocks(t *testing.T) {
	l := sample(t)
	apply := func(e Edit) {
		t.Helper()
		var err error
		if l, err = e.Apply(l); err != nil {
			t.Fatal(err)
		}
	}
	apply(SetFinger{1, Little})
	apply(SetStroke{1, Up})
	apply(OpenHands{})
	if n := l.Notes[1]; n.Finger != Little || n.Stroke != Up {
		t.Error("a locked field was opened")
	}
	apply(SetSlur{1, Hammer})
	if n := l.Notes[1]; n.Stroke != "" || n.Locked(FieldStroke) || !n.Locked(FieldSlur) {
		t.Error("a hammered note keeps its stroke")
	}
	apply(SetStroke{1, Down})
	if n := l.Notes[1]; n.Slur != "" {
		t.Error("a stroke leaves the slur")
	}
	apply(Move{1, neck.Place{String: 1, Fret: 7}})
	if l.Notes[1].Finger != Little {
		t.Error("moving a note takes its locked finger away")
	}
	apply(Move{1, neck.Place{String: 1, Fret: 0}})
	if l.Notes[1].Finger != NoFinger || l.Notes[1].Locked(FieldFinger) {
		t.Error("an open string keeps a finger")
	}
}

func FuzzParse(f *testing.F) {
	f.Add([]byte(full))
	f.Add([]byte(`{"format":"ornamen-lick","version":1,"notes":[{"at":"0","len":"1/8","string":1,"fret":5}]}`))
	f.Fuzz(func(t *testing.T, data []byte) {
		l, err := Parse(data)
		if err != nil {
			return
		}
		again, err := Parse(l.Encode())
		if err != nil {
			t.Fatalf("what was read cannot be written: %v", err)
		}
		if !bytes.Equal(l.Encode(), again.Encode()) {
			t.Fatal("written and read again it differs")
		}
		if err := again.Validate(); err != nil {
			t.Fatal(err)
		}
	})
}
