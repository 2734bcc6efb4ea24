package sets_test

import (
	"fmt"
	"testing"

	"ornamen/core/lick"
	"ornamen/core/testline"
	"ornamen/internal/store"
	"ornamen/internal/web/webtest"
)

func line(t *testing.T, title string) lick.Lick {
	t.Helper()
	l := testline.Read(t, "A minor pentatonic", "3:5 7 2:5 8")
	l.Title = title
	return l
}

// week is the set, as it is kept.
func week(c *webtest.Client) store.Set {
	c.T.Helper()
	x, ok, err := c.Store.SetNamed(c.T.Context(), "Week")
	if err != nil || !ok {
		c.T.Fatalf("%t %v", ok, err)
	}
	return x
}

// order is the licks of the set, by their numbers.
func order(x store.Set) (s string) {
	for _, it := range x.Items {
		s += fmt.Sprint(it.Lick)
	}
	return s
}

// Each change of a set does what it says; one on an older version changes nothing, and undo and redo go both ways.
func TestChanges(t *testing.T) {
	c := webtest.New(t, line(t, "Weir"), line(t, "Mill"), line(t, "Ferry"))
	c.Post("/sets", "name", "Week", "lick", "1")
	x := week(c)
	at := fmt.Sprintf("/sets/%d", x.ID)
	do := func(want int, what, n, value string, words ...string) store.Set {
		t.Helper()
		status, body := c.Post(at, "do", what, "n", n, "value", value, "base", fmt.Sprint(week(c).Revision))
		c.Says(what+" "+value, status, body, want, words...)
		return week(c)
	}
	do(200, "add", "0", "Mill")
	if x = do(200, "add", "0", "#3"); order(x) != "123" {
		t.Errorf("added: %s", order(x))
	}
	old := x.Revision
	for _, s := range []struct{ what, n, value, want string }{
		{
			what: "down",
			n:    "1",
			want: "213",
		}, {
			what: "up",
			n:    "3",
			want: "231",
		}, {what: "to", n: "1", value: "3", want: "312"}, {what: "up", n: "1", want: "312"},
		{what: "down", n: "3", want: "312"}, {what: "remove", n: "2", want: "32"},
	} {
		if x = do(200, s.what, s.n, s.value); order(x) != s.want {
			t.Errorf("%s %s: %s, not %s", s.what, s.n, order(x), s.want)
		}
	}
	x = do(200, "tempo", "1", "66,5")
	x = do(200, "day", "1", "We")
	x = do(200, "note", "2", "sing it")
	x = do(200, "kind", "0", "homework")
	x = do(200, "target", "0", "2026-12-04")
	if it := x.Items[0]; it.Tempo != 66.5 || it.Days.String() != "Mo Tu Th Fr Sa Su" || x.Items[1].Remark != "sing it" ||
		x.Kind != store.Homework || x.Target != "2026-12-04" {
		t.Errorf("%+v", x)
	}
	for _, bad := range []struct{ what, n, value, words string }{
		{
			what:  "tempo",
			n:     "1",
			value: "fast",
			words: "is no tempo",
		}, {
			what:  "tempo",
			n:     "1",
			value: "4000",
			words: "a tempo is",
		}, {what: "days", n: "1", value: "Xx", words: "is no day"},
		{
			what:  "target",
			n:     "0",
			value: "soon",
			words: "is no day",
		}, {
			what:  "remove",
			n:     "9",
			words: "no longer in the set",
		}, {what: "to", n: "1", value: "9", words: "no such place"},
		{
			what:  "name",
			n:     "0",
			words: "name is missing",
		}, {what: "kind", n: "0", value: "party", words: "homework or concert"},
		{what: "dance", n: "1", words: "nothing that can be done"},
	} {
		if now := do(422, bad.what, bad.n, bad.value, bad.words); now.Revision != x.Revision {
			t.Errorf("%v changed the set", bad)
		}
	}
	status, body := c.Post(at, "do", "remove", "n", "1", "base", fmt.Sprint(old))
	c.Says("an older page", status, body, 409, "changed elsewhere")
	for range 5 {
		x = do(200, "undo", "0", "")
	}
	if x.Items[0].Tempo != 0 || x.Kind != "" {
		t.Errorf("after undo: %+v", x)
	}
	if x = do(200, "redo", "0", ""); x.Items[0].Tempo != 66.5 {
		t.Errorf("after redo: %+v", x)
	}
}

// A set that is put aside comes back, unless another has its name by then.
func TestAside(t *testing.T) {
	c := webtest.New(t, line(t, "Weir"))
	c.Post("/sets", "name", "Week")
	status, body := c.Post("/sets/1/delete")
	c.Says("put aside", status, body, 200, "/sets/1/restore")
	c.Post("/sets", "name", "Week")
	status, body = c.Post("/sets/1/restore")
	c.Says("another has the name", status, body, 422, "rename that one first")
	c.Post("/sets/2/delete")
	status, body = c.Post("/sets/1/restore")
	c.Says("brought back", status, body, 200, "Week")
	status, body = c.Get("/sets/1/sheet")
	c.Says("an empty sheet", status, body, 422, "no lick to print yet")
	status, body = c.Get("/sets/7")
	c.Says("no such set", status, body, 404)
}
