package exchange_test

import (
	"net/http"
	"strings"
	"testing"

	"ornamen/core/testline"
	"ornamen/format"
	"ornamen/internal/web/webtest"
)

// Every format is handed over under the lick's own name, with a sharp or a flat in it, and a format that is none is not
// found.
func TestExports(t *testing.T) {
	l := testline.Read(t, "A minor pentatonic", "3:5 7 2:5 8")
	l.Title = "A♭ weir"
	c := webtest.New(t, l)
	for _, f := range format.Formats() {
		res := c.Answer("/licks/1/export/" + f.Name)
		how, name, _ := strings.Cut(res.Header.Get("Content-Disposition"), "; filename=")
		if res.StatusCode != http.StatusOK || res.Header.Get("Content-Type") != f.Kind ||
			!strings.Contains(name, "a-flat-weir"+f.Ending) || (how == "inline") != (f.Name == "page") {
			t.Errorf("%s: %d %s %s %s", f.Name, res.StatusCode, res.Header.Get("Content-Type"), how, name)
		}
	}
	status, body := c.Get("/licks/1/export/doc")
	c.Says("no format", status, body, 404)
	status, body = c.Get("/notebook.zip?as=doc")
	c.Says("a zip of no format", status, body, 422, "is no format")
	status, body = c.Get("/notebook.zip?as=wav&tag=nothing")
	c.Says("a zip of nothing", status, body, 422, "nothing to export")
}

// A log on Import is shown with its rounds and days before the one question is answered.
func TestLogIsShownFirst(t *testing.T) {
	c := webtest.New(t)
	log := "time,lick,title,tempo,clean,missed\n2026-11-03T18:00:00Z,0,Weir,60,1,0\n2025-12-24T18:00:00Z,0,Weir,60,0,1\n"
	status, body := c.Upload("/licks/import", "log.csv", log)
	c.Says("a log", status, body, 200, "2 rounds of practice", "from 24 December 2025 to 3 November", "Whose log")
	if n, err := c.Store.LastPlayed(t.Context(), 1); n != 0 || err != nil {
		t.Errorf("%d lines were added before anything was asked, %v", n, err)
	}
}

// What is pasted is shown as it was understood before anything is saved, and is taken under the title that is given.
func TestPasted(t *testing.T) {
	c := webtest.New(t)
	tab := "e|--------|\nB|--5--8--|\nG|5--7----|\nD|--------|\nA|--------|\nE|--------|\n"
	status, body := c.Post("/licks/import", "text", tab)
	c.Says("pasted", status, body, 200, "Nothing is saved yet", "4 notes")
	_, rest, ok := strings.Cut(body, `action="/import/`)
	if !ok {
		t.Fatal("it cannot be taken")
	}
	key, _, _ := strings.Cut(rest, `"`)
	if ids, err := c.Store.Ids(t.Context()); err != nil || len(ids) != 0 {
		t.Errorf("%v %v", ids, err)
	}
	status, body = c.Post("/import/"+key, "title", "Weir")
	c.Says("taken", status, body, 200, "Weir")
	if e, err := c.Store.Get(t.Context(), 1); err != nil || e.Lick.Title != "Weir" || len(e.Lick.Notes) != 4 {
		t.Errorf("%+v %v", e.Lick, err)
	}
	status, body = c.Get("/import/0123")
	c.Says("a file that is gone", status, body, 422, "no longer at hand")
	status, body = c.Get("/import/reading/0123")
	c.Says("a reading that is over", status, body, 422, "no longer being read in")
	status, body = c.Post("/licks/import", "text", "this is no tab")
	c.Says("no tab", status, body, 422)
}
