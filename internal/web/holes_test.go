package web

import (
	"bytes"
	"database/sql"
	"net/http"
	"net/http/httptest"
	"net/url"
	"strings"
	"testing"

	"ornamen/core/lick"
	"ornamen/format/sheet"
)

// The key that lets a phone in does not stand in the log of requests.
func TestLogHasNoKey(t *testing.T) {
	c := newClient(t, boxLine(t, 4))
	var out bytes.Buffer
	c.app.LogTo(&out)
	for _, at := range []string{"/pair?key=secretword", "/tones?key=A+minor", "/?x=1&key=secretword"} {
		w, r := httptest.NewRecorder(), httptest.NewRequest("GET", at, nil)
		r.RemoteAddr = "127.0.0.1:1"
		c.app.ServeHTTP(w, r)
	}
	if s := out.String(); strings.Contains(s, "secretword") || strings.Count(s, "GET") != 3 {
		t.Errorf("the log says %s", s)
	}
}

// Choosing a player leads back to a page of ours, whatever the request says it comes from.
func TestChoosingLeadsToOwnPages(t *testing.T) {
	c := newClient(t, boxLine(t, 4))
	key := c.app.site.Players()[0].Who.Key
	host := strings.TrimPrefix(c.url, "http://")
	c.http.CheckRedirect = func(*http.Request, []*http.Request) error { return http.ErrUseLastResponse }
	for from, want := range map[string]string{
		"http://" + host + "/sets?x=1":      "/sets?x=1",
		"http://" + host + `/\evil.example`: "/player",
		"http://" + host + "//evil.example": "/player",
		"http://evil.example/tones":         "/player",
		"http://" + host + "/%5Cevil":       "/player",
		"":                                  "/player",
	} {
		r, err := http.NewRequest("POST", c.url+"/player/choose", strings.NewReader(url.Values{"key": {key}}.Encode()))
		if err != nil {
			t.Fatal(err)
		}
		r.Header.Set("Content-Type", "application/x-www-form-urlencoded")
		r.Header.Set("Referer", from)
		res, err := c.http.Do(r)
		if err != nil {
			t.Fatal(err)
		}
		res.Body.Close()
		if got := res.Header.Get("Location"); res.StatusCode != http.StatusSeeOther || got != want {
			t.Errorf("from %q it leads to %q with %d, not to %q", from, got, res.StatusCode, want)
		}
	}
}

// The page that plays names its policy itself, for when it is opened as a file, and one that is served may be framed by
// nobody.
func TestPageThatPlaysHasAPolicy(t *testing.T) {
	c := newClient(t, boxLine(t, 4))
	res, body := c.get("/licks/1/export/page")
	_, policy, _ := strings.Cut(body, `<meta http-equiv="Content-Security-Policy" content="`)
	policy, _, _ = strings.Cut(policy, `"`)
	policy = strings.NewReplacer("&#39;", "'", "&#43;", "+", "&amp;", "&").Replace(policy)
	if served := res.Header.Get("Content-Security-Policy"); served != sheet.Policy ||
		!strings.HasPrefix(policy, "default-src 'none'; script-src 'sha256-") || !strings.HasPrefix(served, policy) {
		t.Errorf("served %q, in the page %q", served, policy)
	}
}

// A fault of ours is one, and no mistake of the player's: a table that is gone answers 500 with one plain sentence, and
// what is asked in vain answers 422 with what is wrong.
func TestWhoseFault(t *testing.T) {
	c := newClient(t, boxLine(t, 4))
	longName := url.Values{"do": {"add"}, "name": {strings.Repeat("x", 50)}}
	if res, body := c.post("/player/people", longName); res.StatusCode != 422 ||
		!strings.Contains(body, "at most 40 letters") {
		t.Errorf("a long name: %d %.200s", res.StatusCode, body)
	}
	// Another program has taken a table away.
	db, err := sql.Open("sqlite", c.db+"?_pragma=busy_timeout(10000)")
	if err == nil {
		_, err = db.Exec("ALTER TABLE players RENAME TO gone")
		db.Close()
	}
	if err != nil {
		t.Fatal(err)
	}
	res, body := c.post("/player/people", url.Values{"do": {"add"}, "name": {"Juna"}})
	if res.StatusCode != 500 || strings.Contains(body, "SQL") || strings.Contains(body, "no such table") ||
		!strings.Contains(body, "Something went wrong here; nothing was saved.") {
		t.Errorf("a table is gone: %d %.300s", res.StatusCode, body)
	}
}

// A note that one player gives an open string keeps no finger of another player's who fretted it; fretted again, it has
// that finger again.
func TestOwnFingerOnAnOpenString(t *testing.T) {
	c := newClient(t, boxLine(t, 4))
	juna, err := c.store.AddPlayer(t.Context(), "Juna", 0)
	if err != nil {
		t.Fatal(err)
	}
	e, err := c.store.Get(t.Context(), c.id)
	if err != nil {
		t.Fatal(err)
	}
	own, err := lick.SetFinger{Note: 1, Finger: lick.Ring}.Apply(e.Lick.For(juna.Own()))
	if err != nil {
		t.Fatal(err)
	}
	e, err = c.store.Commit(t.Context(), e.ID, e.Revision, own.Shared(juna.Own()), "own")
	if err != nil {
		t.Fatal(err)
	}
	place := e.Lick.Notes[1].Place()
	for _, fret := range []int{0, place.Fret} {
		place.Fret = fret
		l, err := lick.Move{Note: 1, Place: place}.Apply(e.Lick)
		if err != nil {
			t.Fatal(err)
		}
		if e, err = c.store.Commit(t.Context(), e.ID, e.Revision, l, "moved"); err != nil {
			t.Fatal(err)
		}
		n := e.Lick.For(juna.Own()).Notes[1]
		if has := n.Finger == lick.Ring && n.Locked(lick.FieldFinger); has != (fret > 0) {
			t.Errorf("at fret %d Juna has finger %s, locked %t", fret, n.Finger, n.Locked(lick.FieldFinger))
		}
	}
}
