package web

import (
	"context"
	"fmt"
	"strings"
	"testing"
)

// Two versions stand side by side with what changed, and an old one can be taken.
func TestVersions(t *testing.T) {
	c := newClient(t, boxLine(t, 4))
	first, _ := c.store.Get(context.Background(), c.id)
	c.edit("finger", "2")
	c.edit("tempo", "90")
	c.edit("pickup", "1/8")
	c.edit("chords", "Am7 | D7")
	path := fmt.Sprintf("/licks/%d/versions", c.id)
	_, body := c.get(fmt.Sprintf("%s?a=%d", path, first.Revision))
	for _, want := range []string{"Tempo:", "90", "Other hands: note", "Take this version", "Chords: none → Am7 | D7",
		"Pick-up: 0 → 1/8", `handfinger differs`} {
		if !strings.Contains(body, want) {
			t.Errorf("the page lacks %q", want)
		}
	}
	if n := strings.Count(body, "/versions?a="); n != 5 {
		t.Errorf("%d versions are listed, want 5", n)
	}
	now, _ := c.store.Get(context.Background(), c.id)
	if res, _ := c.post(fmt.Sprintf("/licks/%d/keep", c.id), map[string][]string{"rev": {fmt.Sprint(now.Revision)},
		"value": {fmt.Sprint(first.Revision)}}); res.StatusCode >= 400 {
		t.Fatal(res.StatusCode)
	}
	taken, _ := c.store.Get(context.Background(), c.id)
	if taken.Lick.Tempo != first.Lick.Tempo || taken.Revision == first.Revision || !taken.CanUndo {
		t.Errorf("the old version is not taken as a new edit: %v, revision %d", taken.Lick.Tempo, taken.Revision)
	}
	for _, bad := range []string{"?a=9999", "?a=x"} {
		if res, _ := c.get(path + bad); res.StatusCode != 404 && res.StatusCode != 422 {
			t.Errorf("%s: %d", bad, res.StatusCode)
		}
	}
	// A lick that was never edited has one version.
	if _, body := c.get(path + fmt.Sprintf("?a=%d&b=%d", first.Revision, first.Revision)); !strings.Contains(body,
		"only this version") {
		t.Error("one version alone is not said")
	}
}
