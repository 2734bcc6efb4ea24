package web

import (
	"fmt"
	"net/url"
	"strings"
	"testing"

	"ornamen/core/changes"
	"ornamen/core/lick"
)

// The Changes screen: chords are written, the line moves over them, things are meant, kept by
// name and taken back; what cannot be is refused in a sentence and changes nothing.
func TestChangesScreen(t *testing.T) {
	c := newClient(t, boxLine(t, 8))
	at := fmt.Sprintf("/licks/%d/changes", c.id)
	if _, body := c.get(at); !strings.Contains(body, "No chords yet") ||
		!strings.Contains(body, "Write the chords above") {
		t.Error("a line without chords does not say what to do")
	}
	head := func() (uint, lick.Lick) {
		e, err := c.store.Get(t.Context(), c.id)
		if err != nil {
			t.Fatal(err)
		}
		return e.Revision, e.Lick
	}
	do := func(what, value string) (int, string) {
		rev, _ := head()
		res, body := c.post(at, url.Values{"rev": {fmt.Sprint(rev)}, "do": {what}, "value": {value}})
		return res.StatusCode, body
	}
	if status, body := do("chords", "1m7 | 47 | twelve"); status != 422 || !strings.Contains(body, "twelve") {
		t.Errorf("%d %s", status, body)
	}
	if status, body := do("chords", "1m7 | 47"); status != 200 || !strings.Contains(body, "svg class=\"changes\"") ||
		!strings.Contains(body, "Over Am7") {
		t.Errorf("%d %.300s", status, body)
	}
	if _, l := head(); changes.Text(l) != "Am7 | D7" {
		t.Errorf("the lick stands over %q", changes.Text(l))
	}
	if _, body := c.get(at + "?chord=2"); !strings.Contains(body, "Over D7") ||
		!strings.Contains(body, "by itself: D mixolydian") {
		t.Errorf("the second chord is not judged")
	}
	if status, _ := do("move", "each:shape"); status != 200 {
		t.Errorf("moving it: %d", status)
	}
	if _, l := head(); len(l.Notes) != 16 || l.Notes[8].Fret != 13 {
		t.Errorf("%d notes, the ninth at %v", len(l.Notes), l.Notes[8].Place())
	}
	for _, bad := range [][2]string{{"move", "sideways"}, {"move", "answer:3"}, {"fix", "none"}, {"meant",
		"clash:x"}, {"dance", ""}} {
		before, _ := head()
		if status, body := do(bad[0], bad[1]); status != 422 || strings.Contains(body, "went wrong") {
			t.Errorf("%v: %d %s", bad, status, body)
		}
		if after, _ := head(); after != before {
			t.Errorf("%v made a revision", bad)
		}
	}
	if status, _ := do("meant", "clash:1"); status != 200 {
		t.Errorf("meant: %d", status)
	}
	if _, l := head(); !l.Notes[0].Means("clash") {
		t.Error("the clash is not meant")
	}
	do("undo", "")
	if status, _ := do("undo", ""); status != 200 {
		t.Errorf("undo: %d", status)
	}
	if _, l := head(); len(l.Notes) != 8 {
		t.Errorf("after two steps back there are %d notes", len(l.Notes))
	}
	if status, _ := do("redo", ""); status != 200 {
		t.Errorf("redo: %d", status)
	}
	// By name, and forgotten.
	if res, _ := c.post(at+"/saved", url.Values{"name": {"Two chords"}}); res.StatusCode != 200 {
		t.Errorf("saving: %d", res.StatusCode)
	}
	if _, body := c.get(at); !strings.Contains(body, "Two chords") {
		t.Error("what was saved is not offered")
	}
	if res, _ := c.post(at+"/saved", url.Values{"name": {" "}}); res.StatusCode != 422 {
		t.Errorf("no name: %d", res.StatusCode)
	}
	kept, err := c.store.AllChanges(t.Context())
	if err != nil || len(kept) != 1 || kept[0].Line != "Am7 | D7" {
		t.Fatalf("%v %+v", err, kept)
	}
	c.post(fmt.Sprintf("/changes/saved/%d/forget", kept[0].ID), nil)
	if kept, _ := c.store.AllChanges(t.Context()); len(kept) != 0 {
		t.Error("it is not forgotten")
	}
	if res, _ := c.get("/changes"); res.Request.URL.Path != at {
		t.Errorf("the last lick's changes are at %s", res.Request.URL.Path)
	}
	// An edit on an older revision is refused, with both versions kept.
	if res, _ := c.post(at, url.Values{"rev": {"1"}, "do": {"chords"}, "value": {"1"}}); res.StatusCode != 409 {
		t.Errorf("stale: %d", res.StatusCode)
	}
}
