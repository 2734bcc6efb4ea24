package web

import (
	"context"
	"fmt"
	"net/url"
	"strings"
	"testing"

	"ornamen/core/lick"
	"ornamen/core/neck"
)

// Everything that the bench can do to a note does it, as one edit that can be
// undone, and answers with the fragments that changed.
func TestEveryBenchEdit(t *testing.T) {
	for _, x := range []struct {
		do, value string
		more      []string
		want      func(l lick.Lick) bool
	}{
		{"place", "", []string{"to", "3:9"}, func(l lick.Lick) bool { return l.Notes[0].Place().Notation() == "3:9" }},
		{"add", "", []string{"to", "2:5"}, func(l lick.Lick) bool {
			return len(l.Notes) == 9 &&
				l.Notes[1].At.IsZero()
		}},
		{"place", "", []string{"to", "1:5", "note", "9"}, func(l lick.Lick) bool {
			return len(l.Notes) == 9 &&
				l.Notes[8].Fret == 5
		}},
		{"insert", "", nil, func(l lick.Lick) bool { return len(l.Notes) == 9 }},
		{"remove", "", nil, func(l lick.Lick) bool { return len(l.Notes) == 7 }},
		{"later", "", nil, func(l lick.Lick) bool { return l.Notes[1].Fret == 8 }},
		{"rest", "", []string{"note", "2"}, func(l lick.Lick) bool { return l.Notes[1].At.Cmp(l.Notes[0].End()) > 0 }},
		{"length", "1/4", nil, func(l lick.Lick) bool { return l.Notes[0].Len.String() == "1/4" }},
		{"finger", "3", nil, func(l lick.Lick) bool { return l.Notes[0].Finger == lick.Ring }},
		{"finger", "T", nil, func(l lick.Lick) bool { return l.Notes[0].Finger == lick.Thumb }},
		{"stroke", "up", nil, func(l lick.Lick) bool { return l.Notes[0].Stroke == lick.Up }},
		{"stroke", "m", nil, func(l lick.Lick) bool { return l.Notes[0].Stroke == lick.PMid }},
		{"slur", "hammer", []string{"note", "2"}, func(l lick.Lick) bool { return l.Notes[1].Slur == lick.Hammer }},
		{"slidein", "below", nil, func(l lick.Lick) bool { return l.Notes[0].SlideIn != nil }},
		{"mark", "accent", nil, func(l lick.Lick) bool { return l.Notes[0].Accent }},
		{"mark", "bar", nil, func(l lick.Lick) bool { return l.Notes[0].Barre }},
		{"meant", "note-outside", nil, func(l lick.Lick) bool { return l.Notes[0].Means("note-outside") }},
		{"bend", "2", nil, func(l lick.Lick) bool { return l.Notes[0].Bend != nil && l.Notes[0].Bend.Semitones == 2 }},
		{"vibrato", "", nil, func(l lick.Lick) bool { return l.Notes[0].Vibrato != nil }},
		{"otherstring", "thicker", nil, func(l lick.Lick) bool { return l.Notes[0].String == 2 }},
		{"title", "Weir", nil, func(l lick.Lick) bool { return l.Title == "Weir" }},
		{"tempo", "77", nil, func(l lick.Lick) bool { return l.Tempo == 77 }},
		{"meter", "3/4", nil, func(l lick.Lick) bool { return l.Meter == lick.Meter{Beats: 3, Unit: 4} }},
		{"feel", "shuffle", nil, func(l lick.Lick) bool { return l.Feel == lick.Shuffle }},
		{"pickup", "1/8", nil, func(l lick.Lick) bool { return l.Pickup.String() == "1/8" }},
		{"loop", "yes", nil, func(l lick.Lick) bool { return l.Loop }},
		{"tags", "warm-up, barn", nil, func(l lick.Lick) bool { return len(l.Tags) == 2 }},
		{"scale", "dorian", nil, func(l lick.Lick) bool { return l.Key.Scale == "dorian" }},
		{"tonic", "C#", nil, func(l lick.Lick) bool { return l.Key.Tonic == "C#" }},
		{"propose", "", nil, func(l lick.Lick) bool { return l.Notes[0].Finger == lick.NoFinger }},
	} {
		c := newClient(t, boxLine(t, 8))
		before, _ := c.store.Get(context.Background(), c.id)
		res, body := c.edit(x.do, x.value, x.more...)
		if res.StatusCode != 200 || !strings.Contains(body, "hx-partial") {
			t.Errorf("%s %q: %d\n%s", x.do, x.value, res.StatusCode, body[:min(400, len(body))])
			continue
		}
		e, _ := c.store.Get(context.Background(), c.id)
		if !x.want(e.Lick) {
			t.Errorf("%s %q gives\n%s", x.do, x.value, e.Lick.Encode())
		}
		if e.Revision == before.Revision || !e.CanUndo {
			t.Errorf("%s is no edit that can be undone", x.do)
		}
		c.post(fmt.Sprintf("/licks/%d/undo", c.id), url.Values{"rev": {fmt.Sprint(e.Revision)}, "note": {"1"}})
		back, _ := c.store.Get(context.Background(), c.id)
		if string(back.Lick.Encode()) != string(before.Lick.Encode()) || !back.CanRedo {
			t.Errorf("%s does not come undone", x.do)
		}
	}
}

// What cannot be done is refused in words, and the lick stays as it is.
func TestBenchRefuses(t *testing.T) {
	c := newClient(t, boxLine(t, 8))
	before, _ := c.store.Get(context.Background(), c.id)
	for _, x := range [][]string{
		{"place", "", "to", "9:9"}, {"place", "", "to", "here"}, {"finger", "7"}, {"stroke", "sideways"}, {"slur",
			"glue"}, {"bend", "9"}, {"length", "0"}, {"length", "x"},
		{"tempo", "fast"}, {"tempo", "4000"}, {"meter", "7"}, {"scale", "dorain"}, {"tonic", "H"}, {"mark", "glitter"},
		{"dance", ""}, {"finger", "1", "note", "99"}, {"fix", "9.9"}, {"tone", "x"}, {"turn", "over"},
	} {
		res, body := c.edit(x[0], x[1], x[2:]...)
		if res.StatusCode != 422 || !strings.Contains(body, "notice") {
			t.Errorf("%v: %d", x, res.StatusCode)
		}
	}
	after, _ := c.store.Get(context.Background(), c.id)
	if after.Revision != before.Revision {
		t.Error("a refusal made a revision")
	}
}

// The fingers that help a bend are named one by one and left open again.
func TestHelpers(t *testing.T) {
	l := boxLine(t, 2)
	l.Notes[0].Fret, l.Notes[0].String = 9, 3
	l.Notes[0].Finger, l.Notes[0].Lock = lick.Ring, lick.LockSet{lick.FieldFinger}
	c := newClient(t, l)
	if res, body := c.edit("helpers", "2"); res.StatusCode != 422 || !strings.Contains(body, "Bend the note first") {
		t.Errorf("a note that is not bent: %d %s", res.StatusCode, body)
	}
	for _, k := range []struct{ do, value, shown string }{
		{"bend", "2", "helped by any free: 2 and 1"}, {"helpers", "2", "helped by 2"}, {"helpers", "2 1",
			"helped by 2 and 1"},
		{"helpers", "", "helped by any free: 2 and 1"},
	} {
		if res, body := c.edit(k.do, k.value); res.StatusCode != 200 || !strings.Contains(body, k.shown) {
			t.Errorf("%s %q: %d, not %q", k.do, k.value, res.StatusCode, k.shown)
		}
		e, err := c.store.Get(t.Context(), c.id)
		if err != nil {
			t.Fatal(err)
		}
		if k.do == "helpers" && len(e.Lick.Notes[0].Bend.With) != len(strings.Fields(k.value)) {
			t.Errorf("%q gives %v", k.value, e.Lick.Notes[0].Bend.With)
		}
	}
}

// Of several restringings side by side each is taken as it was shown.
func TestRestringings(t *testing.T) {
	l := lick.New()
	for i, at := range []neck.Place{{String: 5, Fret: 7}, {String: 5, Fret: 10}, {String: 4, Fret: 7}, {String: 4,
		Fret: 9},
		{String: 3, Fret: 7}, {String: 3, Fret: 9}, {String: 2, Fret: 8}, {String: 2, Fret: 10}, {String: 1,
			Fret: 7}, {String: 1, Fret: 12}} {
		l.Notes = append(l.Notes, lick.Note{At: lick.NewTime(int64(i), 16), Len: lick.NewTime(1, 16), String: at.String,
			Fret: at.Fret})
	}
	c := newClient(t, l)
	_, body := c.get(fmt.Sprintf("/licks/%d/ways?value=strings", c.id))
	if !strings.Contains(body, "Note 3 on 5:12, note 7 on 3:12.") || !strings.Contains(body,
		`data-useturn="restring:economy:1"`) {
		t.Fatal(body)
	}
	if res, _ := c.edit("turn", "restring:economy:9"); res.StatusCode != 422 {
		t.Errorf("one that was not shown: %d", res.StatusCode)
	}
	if res, body := c.edit("turn", "restring:economy:1"); res.StatusCode != 200 {
		t.Fatalf("%d %s", res.StatusCode, body)
	}
	e, err := c.store.Get(t.Context(), c.id)
	if err != nil {
		t.Fatal(err)
	}
	if at := e.Lick.Notes[1].Place(); at != (neck.Place{String: 4, Fret: 5}) {
		t.Errorf("note 2 lies on %s", at.Notation())
	}
}
