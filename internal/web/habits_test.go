package web

import (
	"fmt"
	"net/url"
	"strings"
	"testing"

	"ornamen/core/testline"
)

// Fingers that are set three times alike are offered as a habit in one sentence; taken, they are
// proposed from then on, stand on Player, and can be taken back there.
func TestHabitIsLearned(t *testing.T) {
	c := newClient(t, testline.Read(t, "A natural minor", "6:5 7 9 5:5 7 9 4:5 7 9 3:5 7 9"))
	page := fmt.Sprintf("/licks/%d", c.id)
	body := ""
	for n, note := range []string{"2", "5", "8"} {
		if strings.Contains(body, "Shall it be your habit?") {
			t.Fatalf("a habit is offered after %d corrections", n)
		}
		_, body = c.edit("finger", "3", "note", note, "lane", "finger")
	}
	_, body = c.get(page)
	if !strings.Contains(body, "Fingers 1 3 4 on three tones of a string") || !strings.Contains(body, "Shall it be") {
		t.Fatal("no habit is offered")
	}
	values := url.Values{"note": {"1"}, "lane": {"finger"}}
	if res, body := c.post(page+"/habit?habit=nonsense", values); res.StatusCode != 422 {
		t.Errorf("a habit that is none: %d %s", res.StatusCode, body)
	}
	take := page + "/habit?keep=true&habit=" + url.QueryEscape("tones 2 4: 1 3 4")
	if res, body := c.post(take, values); res.StatusCode != 200 || strings.Contains(body, "Shall it be") {
		t.Fatalf("%d %s", res.StatusCode, body)
	}
	if own := c.app.site.Players()[0].Profile.Habits; own != "tones 2 4: 1 3 4" {
		t.Errorf("the habits are %q", own)
	}
	_, body = c.get("/player")
	if !strings.Contains(body, `value="tones 2 4: 1 3 4" checked`) {
		t.Error("Player does not list it")
	}
	held, err := c.store.Settings(t.Context(), 1)
	if err != nil {
		t.Fatal(err)
	}
	if res, _ := c.post("/player/undo", url.Values{"base": {fmt.Sprint(held.Revision)}}); res.StatusCode >= 400 ||
		c.app.site.Players()[0].Profile.Habits != "" {
		t.Error("undo on Player keeps the habit")
	}
	// Declined, it is not asked again.
	c.post(page+"/habit?habit="+url.QueryEscape("tones 2 4: 1 3 4"), values)
	if _, body = c.get(page); strings.Contains(body, "Shall it be") {
		t.Error("a habit that was declined is offered again")
	}
}
