package web

import (
	"encoding/json"
	"fmt"
	"net/url"
	"regexp"
	"strings"
	"testing"

	"ornamen/internal/web/view"
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
	var s view.Sounding
	if _, body := c.get(where + "/sounding?tempo=80&count=true"); json.Unmarshal([]byte(body), &s) != nil ||
		len(s.Notes) != 8 || s.Begins != 3 || s.Tempo != 80 {
		t.Errorf("%+v", s)
	}
	if resp, _ := c.get(where + "/sound.wav?save=true"); !strings.Contains(resp.Header.Get("Content-Disposition"),
		"box.wav") {
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
		!strings.Contains(body, "no chords to hear") {
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
	long := "/runs/sound.wav?key=A+minor+pentatonic&cell=1+2+3&move=stay&times=200&count=4&sound-tempo=20&sound-rounds=32"
	if resp, body := c.get(long); resp.StatusCode != 422 || !strings.Contains(body, "minutes") {
		t.Errorf("hours of a run: %d %.200s", resp.StatusCode, body)
	}
}

// A shape, a bend of it, a file before it is taken in and proposed hands are heard where they
// stand; what is not there is refused.
func TestHeardWhereItStands(t *testing.T) {
	c := newClient(t, boxLine(t, 4))
	res, _ := c.upload("brook.musicxml", []byte(twoLines))
	in := res.Request.URL.Path
	_, page := c.get(fmt.Sprintf("/licks/%d/hands", c.id))
	take := regexp.MustCompile(`data-heartake="([^"]+)"`).FindStringSubmatch(page)
	if take == nil {
		t.Fatalf("no hands to hear: %s", page)
	}
	lick := fmt.Sprintf("/licks/%d", c.id)
	for _, path := range []string{"/tones?tonic=A&scale=minor+pentatonic", "/tones?bend=2:8^2", in + "?line=2",
		lick + "?take=" + url.QueryEscape(take[1])} {
		base, q, _ := strings.Cut(path, "?")
		res, wav := c.get(base + "/sound.wav?" + strings.ReplaceAll(q, "^", "%5E"))
		if res.StatusCode != 200 || !strings.HasPrefix(wav, "RIFF") || len(wav) < 44100 {
			t.Errorf("%s: %d, %d bytes", path, res.StatusCode, len(wav))
		}
		res, times := c.get(base + "/sounding?" + strings.ReplaceAll(q, "^", "%5E"))
		if res.StatusCode != 200 || !strings.Contains(times, `"notes":[{"note":1,`) {
			t.Errorf("%s: %d %s", path, res.StatusCode, times)
		}
	}
	for _, path := range []string{"/tones/sound.wav?bend=2:8", "/tones/sound.wav?bend=9:1%5E2",
		"/tones/sound.wav?bend=x", "/import/none/sound.wav", lick + "/sound.wav?take=none"} {
		if res, _ := c.get(path); res.StatusCode != 422 {
			t.Errorf("%s: %d", path, res.StatusCode)
		}
	}
}
