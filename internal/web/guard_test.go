package web

import (
	"fmt"
	"net/http"
	"path/filepath"
	"strings"
	"testing"

	"ornamen/internal/store"
)

// A notebook that cannot be written is read on every screen; each write is refused in
// a sentence.
func TestReadOnlyNotebook(t *testing.T) {
	path := filepath.Join(t.TempDir(), "n.db")
	s, err := store.Open(path, evening)
	if err != nil {
		t.Fatal(err)
	}
	l := boxLine(t, 4)
	l.Title = "Kept"
	e, err := s.Add(t.Context(), l, "made")
	if err != nil {
		t.Fatal(err)
	}
	if err := s.Close(); err != nil {
		t.Fatal(err)
	}
	if s, err = store.OpenToRead(path, evening); err != nil {
		t.Fatal(err)
	}
	c := visit(t, path, s, e.ID)
	for _, screen := range []string{"/", "/tones", "/runs", "/player", fmt.Sprintf("/licks/%d/versions", e.ID)} {
		if res, body := c.get(screen); res.StatusCode != http.StatusOK {
			t.Errorf("%s: %s %.200s", screen, res.Status, body)
		}
	}
	if got := c.titles(""); got != "Kept" {
		t.Errorf("the notebook shows %q", got)
	}
	res, body := c.edit("tempo", "99")
	if res.StatusCode != http.StatusForbidden || !strings.Contains(body, "cannot be written") {
		t.Errorf("an edit: %s %.200s", res.Status, body)
	}
	if now, err := s.Get(t.Context(), e.ID); err != nil || now.Revision != e.Revision {
		t.Errorf("revision %d, was %d (%v)", now.Revision, e.Revision, err)
	}
}

// What ships with the application is sent once; then it is asked whether it changed.
func TestAssetsCarryValidators(t *testing.T) {
	c := newClient(t, boxLine(t, 4))
	res, body := c.get("/assets/app.css")
	tag := res.Header.Get("ETag")
	if res.StatusCode != http.StatusOK || tag == "" || body == "" {
		t.Fatalf("%s, ETag %q, %d bytes", res.Status, tag, len(body))
	}
	for given, want := range map[string]int{tag: http.StatusNotModified, `"older"`: http.StatusOK} {
		req, err := http.NewRequest("GET", c.url+"/assets/app.css", nil)
		if err != nil {
			t.Fatal(err)
		}
		req.Header.Set("If-None-Match", given)
		if res, _ := c.do(req); res.StatusCode != want {
			t.Errorf("asked with %s: %s, want %d", given, res.Status, want)
		}
	}
	if res, _ := c.get("/assets/vendor/"); res.StatusCode != http.StatusNotFound {
		t.Errorf("a folder: %s", res.Status)
	}
}
