package web

import (
	"encoding/json"
	"fmt"
	"strings"
	"testing"
)

// A lick is sent as it sounds, with the times of its notes; what cannot be heard is said in a
// sentence.
func TestSound(t *testing.T) {
	c := newClient(t, boxLine(t, 8))
	where := "/licks/" + c.path()
	resp, body := c.get(where + "/sound.wav?band=true&tempo=80")
	if resp.StatusCode != 200 || resp.Header.Get("Content-Type") != "audio/wav" || !strings.HasPrefix(body, "RIFF") {
		t.Fatalf("%d %v", resp.StatusCode, resp.Header)
	}
	var s sounding
	if _, body := c.get(where + "/sounding?tempo=80&count=true"); json.Unmarshal([]byte(body), &s) != nil ||
		len(s.Notes) != 8 || s.Begins != 3 || s.Tempo != 80 {
		t.Errorf("%+v", s)
	}
	if resp, _ := c.get(where + "/sound.wav?save=true"); !strings.Contains(
		resp.Header.Get("Content-Disposition"),
		"box.wav",
	) {
		t.Errorf("saved as %v", resp.Header)
	}
	if _, body := c.get(where + "/sounding?turn=backwards"); json.Unmarshal([]byte(body), &s) != nil ||
		len(s.Notes) != 8 {
		t.Errorf("backwards: %s", body)
	}
	for query, says := range map[string]string{"tempo=9000": "tempo is", "rounds=99": "At most 32",
		"tempo=x":       "does not belong",
		"turn=sideways": "backwards, mirror"} {
		if resp, body := c.get(where + "/sound.wav?" + query); resp.StatusCode != 422 || !strings.Contains(body, says) {
			t.Errorf("%s: %d %.200s", query, resp.StatusCode, body)
		}
	}
	empty := c.named("Empty", "x", 100)
	e, err := c.store.Get(t.Context(), empty)
	if err != nil {
		t.Fatal(err)
	}
	e.Lick.Notes = nil
	if _, err := c.store.Commit(t.Context(), empty, e.Revision, e.Lick, "emptied"); err != nil {
		t.Fatal(err)
	}
	if resp, body := c.get(fmt.Sprintf("/licks/%d/sound.wav", empty)); resp.StatusCode != 422 ||
		!strings.Contains(body, "no notes to hear") {
		t.Errorf("an empty lick: %d %.200s", resp.StatusCode, body)
	}
	// A run, before it is a lick.
	if resp, body := c.get("/runs/sound.wav?key=A+minor+pentatonic&cell=1+2+3&times=4" +
		"&sound-tempo=60"); resp.StatusCode != 200 ||
		!strings.HasPrefix(body, "RIFF") {
		t.Errorf("a run: %d %.200s", resp.StatusCode, body)
	}
	if resp, _ := c.get("/runs/sounding?key=A+minor+pentatonic&cell=1+2+3&sound-tempo=5"); resp.StatusCode != 422 {
		t.Errorf("a run at 5: %d", resp.StatusCode)
	}
}
