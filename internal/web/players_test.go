package web

import (
	"fmt"
	"net/url"
	"strings"
	"testing"

	"ornamen/core/lick"
	"ornamen/internal/store"
)

// A second player has hand, log and fingers of their own; nothing that they do reaches those of the first. One who was
// taken out changes nothing any more, and comes back with everything.
func TestTwoPlayers(t *testing.T) {
	c := newClient(t, boxLine(t, 8))
	if res, _ := c.post("/player/people", url.Values{"do": {"add"}, "name": {"Maro"}}); res.StatusCode >= 400 {
		t.Fatal(res.Status)
	}
	players := c.app.site.Players()
	if len(players) != 2 || players[1].Who.Name != "Maro" {
		t.Fatalf("%d players", len(players))
	}
	first, maro := "?player="+players[0].Who.Key, "?player="+players[1].Who.Key
	form := url.Values{
		"tuning": {"E4 B3 G3 D3 A2 E2"},
		"gauges": {"10 13 17 26w 36w 46w"},
		"scale":  {"648"},
		"frets":  {"22"},
		"size":   {"small"},
		"way":    {"alternate"},
		"angle":  {"either"},
		"boxes":  {"minor"},
		"strict": {"usual"},
	}
	c.post("/player"+maro, form)
	if a, b := c.app.site.Players()[0].Profile.Size, c.app.site.Players()[1].Profile.Size; a != "medium" ||
		b != "small" {
		t.Errorf("the hands are %s and %s", a, b)
	}
	if _, body := c.get("/" + first); !strings.Contains(body, "Medium hand") {
		t.Error("the first player’s page has another hand")
	}
	if _, body := c.get("/" + maro); !strings.Contains(body, "Small hand") {
		t.Error("the second player’s page has another hand")
	}
	lick1 := fmt.Sprintf("/licks/%d", c.id)
	rev := func() string {
		e, err := c.store.Get(t.Context(), c.id)
		if err != nil {
			t.Fatal(err)
		}
		return fmt.Sprint(e.Revision)
	}
	finger := func(who, note, value string) {
		res, body := c.post(lick1+"/edit"+who,
			url.Values{"rev": {rev()}, "note": {note}, "do": {"finger"}, "value": {value}})
		if res.StatusCode != 200 {
			t.Fatalf("%s %.300s", res.Status, body)
		}
	}
	finger(first, "2", "4")
	finger(maro, "2", "3")
	own := players[1].Who.Own()
	fingers := func() string {
		e, err := c.store.Get(t.Context(), c.id)
		if err != nil {
			t.Fatal(err)
		}
		return e.Lick.Notes[1].Finger.String() + e.Lick.For(own).Notes[1].Finger.String()
	}
	if got := fingers(); got != "43" {
		t.Errorf("all share and Maro has %s", got)
	}
	for _, step := range []struct{ do, want string }{{"undo", "44"}, {"redo", "43"}} {
		res, body := c.post(lick1+"/"+step.do+maro, url.Values{"rev": {rev()}, "note": {"2"}, "lane": {"finger"}})
		if res.StatusCode != 200 || !strings.Contains(body, "finger "+step.want[1:]+" set by you") {
			t.Errorf("%s: %s, Maro’s page does not show finger %s", step.do, res.Status, step.want[1:])
		}
		if got := fingers(); got != step.want {
			t.Errorf("%s: %s, not %s", step.do, got, step.want)
		}
	}
	// Whatever is edited as Maro, Maro's finger never becomes the one that all share.
	for _, x := range []url.Values{{"do": {"insert"}, "note": {"1"}}, {"do": {"length"}, "value": {"1/4"}, "note": {"1"}},
		{"do": {"remove"}, "note": {"1"}}, {"do": {"transpose"}, "value": {"C"}}, {"do": {"tempo"}, "value": {"92"}},
		{"do": {"move"}, "value": {"1 frets"}, "from": {"1"}, "upto": {"4"}, "note": {"4"}},
		{"do": {"duplicate"}, "from": {"1"}, "upto": {"4"}, "note": {"4"}}, {"do": {"turn"}, "value": {"backwards"}}} {
		x.Set("rev", rev())
		res, body := c.post(lick1+"/edit"+maro, x)
		if res.StatusCode != 200 {
			t.Logf("%v: %s %.200s", x, res.Status, body)
			continue
		}
		e, err := c.store.Get(t.Context(), c.id)
		if err != nil {
			t.Fatal(err)
		}
		for i, n := range e.Lick.Notes {
			if n.Finger == lick.Ring && n.Locked(lick.FieldFinger) {
				t.Errorf("after %v all share Maro’s finger on note %d", x, i+1)
			}
		}
	}
	c.post("/practice"+maro, url.Values{"do": {"clean"}, "lick": {fmt.Sprint(c.id)}, "tempo": {"60"}})
	for i, want := range []int{0, 1} {
		if log, err := c.store.Log(t.Context(), players[i].Who.ID); err != nil || len(log) != want {
			t.Errorf("player %d has %d rounds, %v", i+1, len(log), err)
		}
	}
	id := fmt.Sprint(players[1].Who.ID)
	c.post("/player/people", url.Values{"do": {"remove"}, "id": {id}})
	if res, body := c.post("/practice"+maro, url.Values{"do": {"clean"}, "lick": {fmt.Sprint(c.id)},
		"tempo": {"60"}}); res.StatusCode !=
		409 ||
		!strings.Contains(body, "no longer in the notebook") {
		t.Errorf("%s %.200s", res.Status, body)
	}
	c.post("/player/people", url.Values{"do": {"return"}, "id": {id}})
	if log, err := c.store.Log(t.Context(), players[1].Who.ID); err != nil || len(log) != 1 ||
		len(c.app.site.Players()) != 2 {
		t.Errorf("%d rounds came back, %v", len(log), err)
	}
}

// A lick that a set moves to another key is a lick of its own; moved again or undone it is gone again, unless somebody
// has edited it, and an undo that names it brings it back.
func TestMovedLicksOfASet(t *testing.T) {
	c := newClient(t, boxLine(t, 8))
	c.post("/sets", url.Values{"name": {"Week"}, "lick": {fmt.Sprint(c.id)}})
	change := func(do, value string) {
		t.Helper()
		x, _, err := c.store.SetNamed(t.Context(), "Week")
		if err != nil {
			t.Fatal(err)
		}
		if res, body := c.post(fmt.Sprintf("/sets/%d", x.ID), url.Values{"do": {do}, "n": {"1"}, "value": {value},
			"base": {fmt.Sprint(x.Revision)}}); res.StatusCode >= 400 {
			t.Fatalf("%s %s: %s %.300s", do, value, res.Status, body)
		}
	}
	is := func(licks int, of string) uint {
		t.Helper()
		rows, err := c.store.List(t.Context(), store.Query{Limit: 50})
		if err != nil {
			t.Fatal(err)
		}
		x, _, _ := c.store.SetNamed(t.Context(), "Week")
		e, err := c.store.Get(t.Context(), x.Items[0].Lick)
		if err != nil || len(rows) != licks || e.Lick.Key.Tonic != of {
			t.Fatalf("%v, %d licks, the set's in %s; want %d, in %s", err, len(rows), e.Lick.Key.Tonic, licks, of)
		}
		return e.ID
	}
	start, err := c.store.Get(t.Context(), c.id)
	if err != nil {
		t.Fatal(err)
	}
	change("key", "E")
	is(2, "E")
	change("key", "F")
	is(2, "F")
	change("undo", "")
	id := is(2, "E")
	e, err := c.store.Get(t.Context(), id)
	if err != nil {
		t.Fatal(err)
	}
	e.Lick.Tempo++
	if _, err := c.store.Commit(t.Context(), id, e.Revision, e.Lick, "tempo"); err != nil {
		t.Fatal(err)
	}
	change("undo", "")
	is(2, start.Lick.Key.Tonic)
}
