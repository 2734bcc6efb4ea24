package practice_test

import (
	"fmt"
	"testing"

	"ornamen/core/testline"
	"ornamen/internal/store"
	"ornamen/internal/web/webtest"
)

// say says something of the first lick on the stand, of the line of the log that the page shows.
func say(c *webtest.Client, want int, do string, line uint, words ...string) {
	c.T.Helper()
	note := ""
	if do == "note" {
		note = "2"
	}
	status, body := c.Post("/practice", "do", do, "lick", "1", "part", "", "tempo", "60", "minutes", "30", "seconds", "30",
		"note", note, "line", fmt.Sprint(line))
	c.Says(do, status, body, want, words...)
}

// last is what was written last and holds.
func last(c *webtest.Client) store.Played {
	c.T.Helper()
	p, _, err := c.Store.LastLine(c.T.Context(), 1)
	if err != nil {
		c.T.Fatal(err)
	}
	return p
}

// Each thing that is said is a line of the log, the note that was missed corrects the round that the page shows, and
// what is taken back can be put back.
func TestWhatIsSaid(t *testing.T) {
	c := webtest.New(t, testline.Read(t, "A minor pentatonic", "3:5 7 2:5 8"))
	say(c, 200, "clean", 0, "Written: clean at 60", "Take it back")
	clean := last(c)
	say(c, 200, "miss", 0, "Which note?", "Written: missed at 60")
	miss := last(c)
	say(c, 200, "note", miss.ID, "Written: missed note 2 at 60")
	if p := last(c); p.Note != 2 || p.Missed != 1 || p.Minutes != 0.5 {
		t.Errorf("%+v", p)
	}
	say(c, 409, "note", miss.ID, "corrected or taken back elsewhere")
	say(c, 200, "undo", last(c).ID, "Written: clean at 60", "Put back what was taken back")
	say(c, 200, "undo", clean.ID, "!Written: clean")
	say(c, 409, "undo", clean.ID)
	say(c, 200, "redo", clean.ID, "Written: clean at 60")
	say(c, 409, "redo", clean.ID)
	say(c, 404, "undo", 99)
	say(c, 200, "hurts", 0, "Stop here and rest")
	say(c, 422, "dance", 0, "nothing that can be said here")
	log, err := c.Store.Log(t.Context(), 1)
	if err != nil || len(log) != 2 {
		t.Errorf("%+v %v", log, err)
	}
}

// A log that is read in is taken back as a whole by the notice that says so.
func TestReadInAndBack(t *testing.T) {
	c := webtest.New(t)
	r, err := c.Store.ReadIn(t.Context(), store.Reading{PlayerID: 1, Name: "log.csv"},
		[]store.Played{{Title: "Weir", Clean: 1, At: webtest.Evening()}, {Title: "Weir", Missed: 1, At: webtest.Evening()}})
	if err != nil {
		t.Fatal(err)
	}
	back := fmt.Sprintf("/practice/log/readings/%d/back", r.ID)
	status, body := c.Get(fmt.Sprintf("/practice/log?added=2&of=3&reading=%d", r.ID))
	c.Says("read in", status, body, 200, "2 lines added", "One was there already", back)
	status, body = c.Post(back)
	c.Says("taken back", status, body, 200, "2 lines taken back")
	status, body = c.Post(back)
	c.Says("taken back twice", status, body, 409)
	status, body = c.Post("/practice/log/readings/77/back")
	c.Says("no such reading", status, body, 404)
}
