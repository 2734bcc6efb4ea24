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
		{
			do:   "place",
			more: []string{"to", "3:9"},
			want: func(l lick.Lick) bool { return l.Notes[0].Place().Notation() == "3:9" },
		},
		{do: "add", more: []string{"to", "2:5"}, want: func(l lick.Lick) bool {
			return len(l.Notes) == 9 &&
				l.Notes[1].At.IsZero()
		}},
		{do: "place", more: []string{"to", "1:5", "note", "9"}, want: func(l lick.Lick) bool {
			return len(l.Notes) == 9 &&
				l.Notes[8].Fret == 5
		}},
		{do: "insert", want: func(l lick.Lick) bool { return len(l.Notes) == 9 }},
		{do: "remove", want: func(l lick.Lick) bool { return len(l.Notes) == 7 }},
		{do: "later", want: func(l lick.Lick) bool { return l.Notes[1].Fret == 8 }},
		{
			do:   "rest",
			more: []string{"note", "2"},
			want: func(l lick.Lick) bool { return l.Notes[1].At.Cmp(l.Notes[0].End()) > 0 },
		},
		{do: "length", value: "1/4", want: func(l lick.Lick) bool { return l.Notes[0].Len.String() == "1/4" }},
		{do: "finger", value: "3", want: func(l lick.Lick) bool { return l.Notes[0].Finger == lick.Ring }},
		{do: "finger", value: "T", want: func(l lick.Lick) bool { return l.Notes[0].Finger == lick.Thumb }},
		{do: "stroke", value: "up", want: func(l lick.Lick) bool { return l.Notes[0].Stroke == lick.Up }},
		{do: "stroke", value: "m", want: func(l lick.Lick) bool { return l.Notes[0].Stroke == lick.PMid }},
		{
			do:    "slur",
			value: "hammer",
			more:  []string{"note", "2"},
			want:  func(l lick.Lick) bool { return l.Notes[1].Slur == lick.Hammer },
		},
		{do: "slidein", value: "below", want: func(l lick.Lick) bool { return l.Notes[0].SlideIn != nil }},
		{do: "mark", value: "accent", want: func(l lick.Lick) bool { return l.Notes[0].Accent }},
		{do: "mark", value: "bar", want: func(l lick.Lick) bool { return l.Notes[0].Barre }},
		{do: "meant", value: "note-outside", want: func(l lick.Lick) bool { return l.Notes[0].Means("note-outside") }},
		{
			do:    "bend",
			value: "2",
			want:  func(l lick.Lick) bool { return l.Notes[0].Bend != nil && l.Notes[0].Bend.Semitones == 2 },
		},
		{do: "vibrato", want: func(l lick.Lick) bool { return l.Notes[0].Vibrato != nil }},
		{do: "otherstring", value: "thicker", want: func(l lick.Lick) bool { return l.Notes[0].String == 2 }},
		{do: "title", value: "Weir", want: func(l lick.Lick) bool { return l.Title == "Weir" }},
		{do: "tempo", value: "77", want: func(l lick.Lick) bool { return l.Tempo == 77 }},
		{do: "meter", value: "3/4", want: func(l lick.Lick) bool { return l.Meter == lick.Meter{Beats: 3, Unit: 4} }},
		{do: "feel", value: "shuffle", want: func(l lick.Lick) bool { return l.Feel == lick.Shuffle }},
		{do: "pickup", value: "1/8", want: func(l lick.Lick) bool { return l.Pickup.String() == "1/8" }},
		{do: "loop", value: "yes", want: func(l lick.Lick) bool { return l.Loop }},
		{do: "tags", value: "warm-up, barn", want: func(l lick.Lick) bool { return len(l.Tags) == 2 }},
		{do: "scale", value: "dorian", want: func(l lick.Lick) bool { return l.Key.Scale == "dorian" }},
		{do: "tonic", value: "C#", want: func(l lick.Lick) bool { return l.Key.Tonic == "C#" }},
		{do: "propose", want: func(l lick.Lick) bool { return l.Notes[0].Finger == lick.NoFinger }},
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
	for i, at := range []neck.Place{{String: 5, Fret: 7}, {String: 5, Fret: 10}, {String: 4, Fret: 7}, {
		String: 4,
		Fret:   9,
	},
		{String: 3, Fret: 7}, {String: 3, Fret: 9}, {String: 2, Fret: 8}, {String: 2, Fret: 10}, {
			String: 1,
			Fret:   7,
		}, {String: 1, Fret: 12}} {
		l.Notes = append(l.Notes, lick.Note{
			At:     lick.NewTime(int64(i), 16),
			Len:    lick.NewTime(1, 16),
			String: at.String,
			Fret:   at.Fret,
		})
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
