// Package webtest has the rooms of the screens tested through their handlers: a notebook in a folder of its own,
// served, and a browser without scripts.
package webtest

import (
	"bytes"
	"context"
	"errors"
	"io"
	"mime/multipart"
	"net/http"
	"net/http/cookiejar"
	"net/http/httptest"
	"net/url"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"ornamen/core/lick"
	"ornamen/internal/store"
	"ornamen/internal/web"
)

// Client asks a served notebook.
type Client struct {
	T     testing.TB
	Store *store.Store
	url   string
	http  *http.Client
	bare  bool   // asks for fragments, as a page that is there already
	at    string // where the last answer led to
	body  string // and what it was
}

// Evening is when the tests are run: a Wednesday in November.
func Evening() time.Time { return time.Date(2026, 11, 25, 18, 30, 0, 0, time.UTC) }

// New serves a notebook with licks, numbered from 1.
func New(t testing.TB, licks ...lick.Lick) *Client {
	t.Helper()
	s, err := store.Open(filepath.Join(t.TempDir(), "n.db"), Evening)
	if err != nil {
		t.Fatal(err)
	}
	for _, l := range licks {
		if _, err := s.Add(context.Background(), l, "made"); err != nil {
			t.Fatal(err)
		}
	}
	return serve(t, s)
}

// serve serves a notebook until the test ends.
func serve(t testing.TB, s *store.Store) *Client {
	t.Helper()
	app, err := web.New(t.Context(), s)
	if err != nil {
		t.Fatal(err)
	}
	srv := httptest.NewServer(app)
	t.Cleanup(func() {
		srv.Close()
		s.Close()
	})
	jar, err := cookiejar.New(nil)
	if err != nil {
		t.Fatal(err)
	}
	return &Client{T: t, Store: s, url: srv.URL, http: &http.Client{Jar: jar}}
}

// Get asks for a page, and gives its status and what it says.
func (c *Client) Get(path string) (status int, body string) {
	c.T.Helper()
	return c.do("GET", path, nil)
}

// Answer asks for a file, and gives the answer without what is in it.
func (c *Client) Answer(path string) *http.Response {
	c.T.Helper()
	res, err := c.http.Get(c.url + path)
	if err != nil {
		c.T.Fatal(err)
	}
	res.Body.Close()
	return res
}

// Post sends a form, given as names and values in turn, as a page without scripts does, and follows where the answer
// leads.
func (c *Client) Post(path string, form ...string) (status int, body string) {
	c.T.Helper()
	v := url.Values{}
	for k := 0; k+1 < len(form); k += 2 {
		v.Add(form[k], form[k+1])
	}
	return c.do("POST", path, v)
}

// Upload sends a file, and follows where the answer leads.
func (c *Client) Upload(path, name, content string) (status int, body string) {
	c.T.Helper()
	var b bytes.Buffer
	w := multipart.NewWriter(&b)
	f, err := w.CreateFormFile("file", name)
	if err == nil {
		_, err = io.WriteString(f, content)
	}
	if err = errors.Join(err, w.Close()); err != nil {
		c.T.Fatal(err)
	}
	return c.send("POST", path, w.FormDataContentType(), &b)
}

func (c *Client) do(method, path string, form url.Values) (int, string) {
	c.T.Helper()
	kind := ""
	if form != nil {
		kind = "application/x-www-form-urlencoded"
	}
	return c.send(method, path, kind, strings.NewReader(form.Encode()))
}

// send asks, with a body of a kind or none.
func (c *Client) send(method, path, kind string, content io.Reader) (int, string) {
	c.T.Helper()
	req, err := http.NewRequest(method, c.url+path, content)
	if err != nil {
		c.T.Fatal(err)
	}
	if kind != "" {
		req.Header.Set("Content-Type", kind)
		req.Header.Set("Origin", c.url)
	}
	if c.bare {
		req.Header.Set("HX-Request", "true")
	}
	res, err := c.http.Do(req)
	if err != nil {
		c.T.Fatal(err)
	}
	defer res.Body.Close()
	body, err := io.ReadAll(res.Body)
	if err != nil {
		c.T.Fatal(err)
	}
	c.at, c.body = res.Request.URL.RequestURI(), string(body)
	return res.StatusCode, c.body
}

// Says fails unless an answer has the status and says each of the words, or, of one behind an exclamation mark, does
// not.
func (c *Client) Says(what string, status int, body string, want int, words ...string) {
	c.T.Helper()
	if status != want {
		c.T.Errorf("%s: %d, not %d: %.200s", what, status, want, body)
		return
	}
	for _, w := range words {
		if not, ok := strings.CutPrefix(w, "!"); ok {
			if strings.Contains(body, not) {
				c.T.Errorf("%s: it says %q", what, not)
			}
		} else if !strings.Contains(body, w) {
			c.T.Errorf("%s: it does not say %q", what, w)
		}
	}
}
