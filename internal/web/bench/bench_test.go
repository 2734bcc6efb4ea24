package bench_test

import (
	"fmt"
	"testing"

	"ornamen/core/testline"
	"ornamen/internal/web/webtest"
)

// edit posts an edit of note on the revision that is shown, and gives what came of it.
func edit(c *webtest.Client, want int, note, do, value string, words ...string) {
	c.T.Helper()
	e, err := c.Store.Get(c.T.Context(), 1)
	if err != nil {
		c.T.Fatal(err)
	}
	status, body := c.Post("/licks/1/edit", "rev", fmt.Sprint(e.Revision), "do", do, "value", value, "note", note,
		"lane", "finger")
	c.Says(do+" "+value, status, body, want, words...)
}

// The notes of the line as they are kept: string and fret, finger, stroke.
func notes(c *webtest.Client) (s string) {
	c.T.Helper()
	e, err := c.Store.Get(c.T.Context(), 1)
	if err != nil {
		c.T.Fatal(err)
	}
	for _, n := range e.Lick.Notes {
		s += fmt.Sprintf("%s%s%s ", n.Place().Notation(), n.Finger, n.Stroke)
	}
	return s
}

// An edit changes one thing of the note that it names and makes one revision; what cannot be is refused in a sentence
// and makes none; undo and redo go both ways, and a write on an older revision keeps both.
func TestEdits(t *testing.T) {
	c := webtest.New(t, testline.Read(t, "A minor pentatonic", "3:5 7 2:5 8"))
	status, body := c.Get("/licks/1")
	c.Says("the bench", status, body, 200, "Flows", `data-rev="1"`, `data-total="4"`)
	was := notes(c)
	edit(c, 200, "2", "finger", "4")
	now := notes(c)
	if now == was {
		t.Error("the finger was not set")
	}
	for _, bad := range [][3]string{{"2", "finger", "9"}, {"9", "finger", "1"}, {"2", "tempo", "fast"},
		{"2", "meter", "4/0"},
		{"2", "dance", ""}, {"1", "bend", "1/3"}} {
		edit(c, 422, bad[0], bad[1], bad[2])
	}
	if notes(c) != now {
		t.Errorf("a refusal changed the line to %s", notes(c))
	}
	status, body = c.Post("/licks/1/edit", "rev", "1", "do", "finger", "value", "1", "note", "1", "lane", "finger")
	c.Says("an edit on an older revision", status, body, 409, "both versions are kept", "Show the newest")
	status, body = c.Post("/licks/1/undo", "rev", "2")
	c.Says("undo", status, body, 200)
	if notes(c) != was {
		t.Errorf("undo: %s", notes(c))
	}
	status, body = c.Post("/licks/1/redo", "rev", "1")
	c.Says("redo", status, body, 200)
	if notes(c) != now {
		t.Errorf("redo: %s", notes(c))
	}
	status, body = c.Get("/licks/1/versions")
	c.Says("versions", status, body, 200, "finger")
	status, body = c.Get("/licks/7")
	c.Says("no such lick", status, body, 404, "not in the notebook")
}

// A line is offered to be played in by the simulated guitar where that can be written down: one note at a time, and
// none as low as a bass's strings. The whole neck is offered where not all of it is shown.
func TestWhatIsOffered(t *testing.T) {
	single := testline.Read(t, "A minor pentatonic", "3:5 7 2:5 8")
	pair := single.Clone()
	pair.Notes[2].At = pair.Notes[1].At
	bass := single.Clone()
	bass.Tuning = bass.Tuning[2:]
	for i := range bass.Tuning {
		bass.Tuning[i] -= 24
	}
	whole := testline.Read(t, "A minor pentatonic", "3:2 5 3:20 22")
	c := webtest.New(t, single, pair, bass, whole)
	for n, words := range [][]string{
		{"data-playsim", `data-whole="yes"`},
		{"!data-playsim", `data-whole="yes"`},
		{"!data-playsim", `data-whole="yes"`},
		{"data-playsim", `!data-whole="yes"`},
	} {
		status, body := c.Get(fmt.Sprintf("/licks/%d", n+1))
		c.Says(fmt.Sprint("lick ", n+1), status, body, 200, words...)
	}
	status, body := c.Get("/licks/4?whole=true")
	c.Says("the whole neck", status, body, 200, `data-whole="no"`)
}

// Where the usual hands would be late and faster ones are proposed, the bench says above which tempo; at a slower tempo
// it says nothing of it.
func TestSaysWhatHandsAreFor(t *testing.T) {
	fast := testline.Build(t, 100, "6:6 5:5 8 4:6 5:8 5 6:11 5:10 13 4:11 5:13 10")
	slow := fast.Clone()
	slow.Tempo = 60
	c := webtest.New(t, fast, slow)
	status, body := c.Get("/licks/1")
	c.Says("too fast for the usual hands", status, body, 200, "These hands are for above 79.")
	status, body = c.Get("/licks/2")
	c.Says("slow", status, body, 200, "!These hands are for above")
}
