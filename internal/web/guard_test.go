package web

import (
	"fmt"
	"net/http"
	"net/url"
	"path/filepath"
	"regexp"
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
	res, body := c.get("/assets/base.css")
	tag := res.Header.Get("ETag")
	if res.StatusCode != http.StatusOK || tag == "" || body == "" {
		t.Fatalf("%s, ETag %q, %d bytes", res.Status, tag, len(body))
	}
	for given, want := range map[string]int{tag: http.StatusNotModified, `"older"`: http.StatusOK} {
		req, err := http.NewRequest("GET", c.url+"/assets/base.css", nil)
		if err != nil {
			t.Fatal(err)
		}
		req.Header.Set("If-None-Match", given)
		if res, _ := c.do(req); res.StatusCode != want {
			t.Errorf("asked with %s: %s, want %d", given, res.Status, want)
		}
	}
	// What a page names bears a hash of all files, so that the browser need not ask again.
	_, page := c.get("/player")
	named := regexp.MustCompile(`"(/assets/\w+/base.css)"`).FindStringSubmatch(page)
	if named == nil {
		t.Fatal("the page names no style under a hash")
	}
	if res, kept := c.get(named[1]); kept != body || !strings.Contains(res.Header.Get("Cache-Control"), "immutable") {
		t.Errorf("%s: %s, %d bytes, kept %q", named[1], res.Status, len(kept), res.Header.Get("Cache-Control"))
	}
	if res, _ := c.get("/assets/vendor/"); res.StatusCode != http.StatusNotFound {
		t.Errorf("a folder: %s", res.Status)
	}
}

// A form of another site changes nothing, whichever header tells where it comes from; a program that
// sends neither is no browser and may write.
func TestFormsOfOtherSites(t *testing.T) {
	c := newClient(t, boxLine(t, 4))
	for _, k := range []struct {
		headers map[string]string
		want    int
	}{
		{map[string]string{"Origin": "http://elsewhere.example"}, 403},
		{map[string]string{"Origin": "null"}, 403},
		{map[string]string{"Sec-Fetch-Site": "cross-site"}, 403},
		{map[string]string{"Sec-Fetch-Site": "same-site", "Origin": c.url}, 403},
		{map[string]string{"Sec-Fetch-Site": "same-origin"}, 200},
		{map[string]string{"Origin": c.url}, 200},
		{nil, 200},
	} {
		e, err := c.store.Get(t.Context(), c.id)
		if err != nil {
			t.Fatal(err)
		}
		tempo := fmt.Sprint(e.Lick.Tempo + 1)
		form := url.Values{"rev": {fmt.Sprint(e.Revision)}, "do": {"tempo"}, "value": {tempo}, "note": {"1"}}
		req, err := http.NewRequest("POST", fmt.Sprintf("%s/licks/%d/edit", c.url, c.id),
			strings.NewReader(form.Encode()))
		if err != nil {
			t.Fatal(err)
		}
		req.Header.Set("Content-Type", "application/x-www-form-urlencoded")
		req.Header.Set("HX-Request", "true")
		for name, value := range k.headers {
			req.Header.Set(name, value)
		}
		res, _ := c.do(req)
		now, err := c.store.Get(t.Context(), c.id)
		if err != nil {
			t.Fatal(err)
		}
		if res.StatusCode != k.want || (now.Revision != e.Revision) != (k.want == 200) {
			t.Errorf("%v: %d, revision %d after %d", k.headers, res.StatusCode, now.Revision, e.Revision)
		}
	}
}
