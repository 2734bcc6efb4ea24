package web

import (
	"context"
	"net/url"
	"strconv"
	"strings"
	"testing"

	"ornamen/core/testline"
)

// A line goes on with a cell, a recipe or another lick, from its end or after a note; its
// parts are offered to change, and a part grows again alone.
func TestGoOn(t *testing.T) {
	ctx := context.Background()
	c := newClient(t, boxLine(t, 8))
	other := c.named("Coda", "weir", 100)
	for _, x := range []struct {
		value, note  string
		notes, parts int
	}{
		{value: "1 2 3", note: "8", notes: 11, parts: 1},
		// After note 8 of eleven: three notes give way, and with them their part.
		{value: `--key "A minor pentatonic" --at 6:5 --cell "1 2" --times 3`, note: "8", notes: 14, parts: 1},
		{value: "1 2", note: "3", notes: 5, parts: 1}, // after note 3: the rest gives way
	} {
		resp, body := c.edit("append", x.value, "note", x.note)
		if resp.StatusCode != 200 {
			t.Fatalf("%s: %d %.200s", x.value, resp.StatusCode, body)
		}
		e, err := c.store.Get(ctx, c.id)
		if err != nil {
			t.Fatal(err)
		}
		if len(e.Lick.Notes) != x.notes || len(e.Lick.Parts) != x.parts {
			t.Errorf("%s after %s: %d notes, parts %v", x.value, x.note, len(e.Lick.Notes), e.Lick.Parts)
		}
	}
	if resp, body := c.edit("append", "coda", "note", "99"); resp.StatusCode != 200 {
		t.Errorf("a lick by its title: %d %.200s", resp.StatusCode, body)
	}
	e, _ := c.store.Get(ctx, c.id)
	coda, _ := c.store.Get(ctx, other)
	if len(e.Lick.Notes) != 5+len(coda.Lick.Notes) {
		t.Errorf("with the coda %d notes", len(e.Lick.Notes))
	}
	_, body := c.get("/licks/" + c.path() + "/recipe")
	if !strings.Contains(body, "Change notes 4 to 5") {
		t.Errorf("the part is not offered: %.300s", body)
	}
	for value, says := range map[string]string{
		"":       "Name a lick",
		"zebra":  "No lick is called",
		"--cell": "Flag needs",
	} {
		if resp, body := c.edit("append", value, "note", "99"); resp.StatusCode != 422 ||
			!strings.Contains(body, says) {
			t.Errorf("%q: %d %.300s", value, resp.StatusCode, body)
		}
	}
	// The part grown again by itself.
	q := url.Values{
		"key":   {"A minor pentatonic"},
		"at":    {"6:5"},
		"cell":  {"1 2 3 4"},
		"times": {"1"},
		"lick":  {c.path()},
		"rev":   {strconv.Itoa(int(e.Revision))},
		"part":  {"1"},
	}
	if resp, body := c.post("/runs/lick", q); resp.StatusCode != 303 && resp.StatusCode != 200 {
		t.Errorf("%d %.300s", resp.StatusCode, body)
	}
	again, _ := c.store.Get(ctx, c.id)
	if len(again.Lick.Notes) < len(e.Lick.Notes) || !strings.Contains(again.Lick.Parts[0].Recipe, "1 2 3 4") {
		t.Errorf("grown again: %d notes, %v", len(again.Lick.Notes), again.Lick.Parts)
	}
}

// path is the lick's number as addresses have it.
func (c *client) path() string { return strconv.Itoa(int(c.id)) }

// A line that was written note by note is joined of two recipes: both are found, kept with the
// lick on demand, and then each is offered to change. A lick that has recipes keeps them.
func TestFoundPartsAreKept(t *testing.T) {
	ctx := context.Background()
	l := testline.Read(t, "A minor pentatonic",
		"6:5 8 5:5 6:8 5:5 7 5 7 4:5 5:7 4:5 7 1:8 5 2:8 1:5 2:8 5 2:8 5 3:7 2:5 3:7 5")
	c := newClient(t, l)
	where := "/licks/" + c.path()
	_, body := c.get(where + "/recipe")
	if !strings.Contains(body, "Notes 1 to 12 of 24 follow") ||
		!strings.Contains(body, "notes 13 to 24 of 24 follow") ||
		!strings.Contains(body, "Open 13 to 24 in Runs") {
		t.Fatalf("%s", body[strings.Index(body, "<h1"):])
	}
	if resp, body := c.post(where+"/parts", nil); resp.StatusCode != 303 && resp.StatusCode != 200 {
		t.Fatalf("%d %.300s", resp.StatusCode, body)
	}
	e, err := c.store.Get(ctx, c.id)
	if err != nil || len(e.Lick.Parts) != 2 || e.Lick.Parts[1].From != 12 {
		t.Fatalf("%v %v", err, e.Lick.Parts)
	}
	if _, body := c.get(where + "/recipe"); !strings.Contains(body, "Change notes 13 to 24") {
		t.Errorf("%.300s", body)
	}
	if resp, _ := c.post(where+"/parts", nil); resp.StatusCode != 422 {
		t.Errorf("kept again: %d", resp.StatusCode)
	}
}
