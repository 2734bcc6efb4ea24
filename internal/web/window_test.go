package web

import (
	"fmt"
	"net/url"
	"strings"
	"testing"

	"ornamen/core/lick"
)

// A long lick is shown by a window of bars; what is edited there is edited in its place, undo
// takes it back, and a file holds the whole.
func TestLongLick(t *testing.T) {
	l := boxLine(t, 1600) // a hundred bars of sixteenths
	l.Chords = []lick.Chord{{Len: lick.NewTime(100, 1), Name: "Am7"}}
	c := newClient(t, l)
	_, body := c.get(fmt.Sprintf("/licks/%d", c.id))
	if !strings.Contains(body, "Bars 1 to 32 of 100, notes 1 to 512 of 1600") ||
		!strings.Contains(body, "/licks/1.33") {
		t.Errorf("the window is not said: %.300s", body[strings.Index(body, "<main"):])
	}
	_, body = c.get("/licks/1.65/changes")
	if !strings.Contains(body, "Bars 65 to 82 of 100, notes 1025 to 1312 of 1600") ||
		!strings.Contains(body, `href="/licks/1.47/changes"`) {
		t.Error("the changes show another window")
	}
	e, err := c.store.Get(t.Context(), c.id)
	if err != nil {
		t.Fatal(err)
	}
	form := url.Values{"rev": {fmt.Sprint(e.Revision)}, "do": {"finger"}, "value": {"4"}, "note": {"3"},
		"lane": {"finger"}}
	res, body := c.post("/licks/1.65/edit", form)
	if res.StatusCode != 200 {
		t.Fatalf("%s %.200s", res.Status, body)
	}
	now, err := c.store.Get(t.Context(), c.id)
	if err != nil || len(now.Lick.Notes) != 1600 || now.Lick.Notes[1026].Finger != 4 || now.Lick.Notes[2].Finger != 0 {
		t.Fatalf("note 1027 has finger %v, note 3 %v, of %d (%v)", now.Lick.Notes[1026].Finger,
			now.Lick.Notes[2].Finger, len(now.Lick.Notes), err)
	}
	if len(now.Lick.Chords) != 1 || now.Lick.Chords[0].Len.String() != "100" {
		t.Errorf("the chords are %+v", now.Lick.Chords)
	}
	res, _ = c.post("/licks/1.65/undo", url.Values{"rev": {fmt.Sprint(now.Revision)}, "note": {"3"}})
	if now, err = c.store.Get(t.Context(), c.id); res.StatusCode != 200 || err != nil ||
		now.Lick.Notes[1026].Finger != 0 {
		t.Errorf("%s, and the finger is still there (%v)", res.Status, err)
	}
	_, file := c.get("/licks/1.65/export/json")
	if whole, err := lick.Parse([]byte(file)); err != nil || len(whole.Notes) != 1600 {
		t.Errorf("the file holds %d notes (%v)", len(whole.Notes), err)
	}
	for _, path := range []string{"/licks/1.65/hands", "/licks/1.65/mend", "/licks/1.99999", "/licks/1.0", "/licks/1.x",
		"/licks/1.65/sounding", "/practice?lick=1"} {
		if res, body := c.get(path); res.StatusCode != 200 || len(body) > 1_500_000 {
			t.Errorf("%s: %s, %d bytes", path, res.Status, len(body))
		}
	}
}
