package web

import (
	"context"
	"fmt"
	"net/url"
	"strings"
	"testing"

	"ornamen/core/lick"
)

// named adds a lick with a title, a tag and a tempo.
func (c *client) named(title, tag string, tempo float64) uint {
	c.t.Helper()
	l := boxLine(c.t, 4)
	l.Title, l.Tags, l.Tempo = title, []string{tag}, tempo
	e, err := c.store.Add(context.Background(), l, "made")
	if err != nil {
		c.t.Fatal(err)
	}
	return e.ID
}

// titles are the rows of the notebook in their order.
func (c *client) titles(query string) string {
	c.t.Helper()
	_, body := c.get("/?" + query)
	var out []string
	for _, part := range strings.Split(body, `class="stretched-link"`)[1:] {
		_, rest, _ := strings.Cut(part, ">")
		title, _, _ := strings.Cut(rest, "<")
		out = append(out, title)
	}
	return strings.Join(out, ", ")
}

// The notebook finds, filters and sorts, and says what does not fit.
func TestNotebookFindsAndSorts(t *testing.T) {
	c := newClient(t, boxLine(t, 4))
	c.named("Alder", "barn", 60)
	c.named("Weir", "warm-up", 300)
	c.named("Mast", "barn", 90)
	for query, want := range map[string]string{
		"":               "Mast, Weir, Alder, Box",
		"sort=title":     "Alder, Box, Mast, Weir",
		"sort=worst":     "Weir",
		"tag=barn":       "Mast, Alder",
		"find=wei":       "Weir",
		"find=minor":     "Mast, Weir, Alder, Box",
		"find=barn+alde": "Alder",
		"find=nothing":   "",
	} {
		got := c.titles(query)
		if query == "sort=worst" && strings.HasPrefix(got, want) {
			continue
		}
		if got != want {
			t.Errorf("%q shows %q, want %q", query, got, want)
		}
	}
	if _, body := c.get("/?find=nothing"); !strings.Contains(body, "No lick fits") {
		t.Error("an empty search says nothing")
	}
}

// A lick is copied, deleted and brought back; the copy is its own.
func TestCopyDeleteRestore(t *testing.T) {
	c := newClient(t, boxLine(t, 4))
	path := fmt.Sprintf("/licks/%d", c.id)
	c.post(path+"/copy", url.Values{})
	if got := c.titles(""); strings.Count(got, "Box") != 2 {
		t.Fatalf("after a copy: %s", got)
	}
	c.edit("title", "Stile")
	if got := c.titles(""); !strings.Contains(got, "Stile") || strings.Count(got, "Box") != 1 {
		t.Errorf("the copy follows its origin: %s", got)
	}
	c.post(path+"/delete", url.Values{})
	if got := c.titles(""); strings.Contains(got, "Stile") {
		t.Errorf("after deleting: %s", got)
	}
	if res, _ := c.get(path); res.StatusCode != 404 {
		t.Errorf("a deleted lick answers %d", res.StatusCode)
	}
	c.post(path+"/restore", url.Values{})
	if got := c.titles(""); !strings.Contains(got, "Stile") {
		t.Errorf("after bringing it back: %s", got)
	}
}

// A new lick takes the player's tuning.
func TestNewLickTakesTheTuning(t *testing.T) {
	c := newClient(t, boxLine(t, 4))
	form := url.Values{
		"tuning": {"E4 B3 G3 D3 A2 D2"},
		"gauges": {"10 13 17 26w 36w 46w"},
		"scale":  {"648"},
		"frets":  {"24"},
		"size":   {"medium"},
		"way":    {"alternate"},
		"angle":  {"either"},
		"boxes":  {"minor"},
		"strict": {"usual"},
	}
	if res, body := c.post("/player", form); res.StatusCode != 200 {
		t.Fatalf("%d %s", res.StatusCode, body)
	}
	c.post("/licks", url.Values{})
	all, err := c.licks()
	if err != nil || len(all) != 2 {
		t.Fatalf("%d licks, %v", len(all), err)
	}
	if l := all[0].Lick; l.Tuning[5] != 38 || len(l.Notes) != 0 {
		t.Errorf("tuned %v", l.Tuning)
	}
	if l := all[1].Lick; l.Tuning[5] != lick.New().Tuning[5] {
		t.Error("an old lick is tuned anew")
	}
}
