package web

import (
	"bytes"
	"context"
	"fmt"
	"io"
	"mime/multipart"
	"net"
	"net/http"
	"net/http/cookiejar"
	"net/http/httptest"
	"net/url"
	"path/filepath"
	"regexp"
	"strings"
	"testing"
	"time"

	"ornamen/core/lick"
	"ornamen/core/neck"
	"ornamen/internal/store"
	"ornamen/internal/web/bench"
	"ornamen/internal/web/page"
)

// client is a browser without a screen.
type client struct {
	t     testing.TB
	http  *http.Client
	url   string
	store *store.Store
	app   *App
	db    string // the notebook's file
	id    uint
}

// evening is when the tests are run, unless they say otherwise; it goes on as they do.
func evening() time.Time {
	return time.Date(2026, 11, 25, 18, 30, 0, 0, time.UTC).Add(time.Since(began))
}

var began = time.Now()

// inLosAngeles is a clock at 20:33 on Saturday, 28 November, when it is Sunday in Greenwich.
func inLosAngeles(t testing.TB) func() time.Time {
	t.Helper()
	west, err := time.LoadLocation("America/Los_Angeles")
	if err != nil {
		t.Fatal(err)
	}
	return func() time.Time { return time.Date(2026, 11, 28, 20, 33, 0, 0, west) }
}

// licks reads the whole notebook, the last touched first.
func (c *client) licks() (out []store.Entry, err error) {
	rows, err := c.store.List(context.Background(), store.Query{Limit: 1000})
	for _, r := range rows {
		e, err := c.store.Get(context.Background(), r.ID)
		if err != nil {
			return nil, err
		}
		out = append(out, e)
	}
	return out, err
}

func newClient(t testing.TB, l lick.Lick) *client { return newClientAt(t, l, evening) }

// newClientAt serves a notebook with a lick by a clock.
func newClientAt(t testing.TB, l lick.Lick, now func() time.Time) *client {
	t.Helper()
	path := filepath.Join(t.TempDir(), "n.db")
	s, err := store.Open(path, now)
	if err != nil {
		t.Fatal(err)
	}
	e, err := s.Add(context.Background(), l, "made")
	if err != nil {
		t.Fatal(err)
	}
	return visit(t, path, s, e.ID)
}

// visit serves a notebook and opens one of its licks.
func visit(t testing.TB, path string, s *store.Store, id uint) *client {
	t.Helper()
	app, err := New(t.Context(), s)
	if err != nil {
		t.Fatal(err)
	}
	srv := httptest.NewServer(app)
	jar, err := cookiejar.New(nil)
	if err != nil {
		t.Fatal(err)
	}
	c := &client{t: t, http: &http.Client{Jar: jar}, url: srv.URL, store: s, app: app, db: path, id: id}
	t.Cleanup(func() { srv.Close(); s.Close() })
	return c
}

func (c *client) do(req *http.Request) (*http.Response, string) {
	c.t.Helper()
	res, err := c.http.Do(req)
	if err != nil {
		c.t.Fatal(err)
	}
	defer res.Body.Close()
	body, err := io.ReadAll(res.Body)
	if err != nil {
		c.t.Fatal(err)
	}
	return res, string(body)
}

func (c *client) get(path string) (*http.Response, string) {
	c.t.Helper()
	req, err := http.NewRequest("GET", c.url+path, nil)
	if err != nil {
		c.t.Fatal(err)
	}
	return c.do(req)
}

func (c *client) post(path string, form url.Values) (*http.Response, string) {
	c.t.Helper()
	req, err := http.NewRequest("POST", c.url+path, strings.NewReader(form.Encode()))
	if err != nil {
		c.t.Fatal(err)
	}
	req.Header.Set("Content-Type", "application/x-www-form-urlencoded")
	req.Header.Set("Origin", c.url)
	req.Header.Set("HX-Request", "true")
	return c.do(req)
}

// edit posts an edit on the newest revision.
func (c *client) edit(do, value string, more ...string) (*http.Response, string) {
	c.t.Helper()
	e, err := c.store.Get(context.Background(), c.id)
	if err != nil {
		c.t.Fatal(err)
	}
	form := url.Values{
		"rev":   {fmt.Sprint(e.Revision)},
		"do":    {do},
		"value": {value},
		"note":  {"1"},
		"lane":  {"finger"},
	}
	for i := 0; i+1 < len(more); i += 2 {
		form.Set(more[i], more[i+1])
	}
	return c.post(fmt.Sprintf("/licks/%d/edit", c.id), form)
}

func (c *client) upload(name string, data []byte) (*http.Response, string) {
	c.t.Helper()
	return c.uploadTo("/licks/import", name, data)
}

// uploadTo sends a file to a page that takes one.
func (c *client) uploadTo(path, name string, data []byte) (*http.Response, string) {
	c.t.Helper()
	var b bytes.Buffer
	w := multipart.NewWriter(&b)
	f, err := w.CreateFormFile("file", name)
	if err != nil {
		c.t.Fatal(err)
	}
	f.Write(data)
	w.Close()
	req, err := http.NewRequest("POST", c.url+path, &b)
	if err != nil {
		c.t.Fatal(err)
	}
	req.Header.Set("Content-Type", w.FormDataContentType())
	req.Header.Set("Origin", c.url)
	return c.do(req)
}

func boxLine(t testing.TB, n int) lick.Lick {
	t.Helper()
	l := lick.New()
	l.Title = "Box"
	l.Key = lick.Key{Tonic: "A", Scale: "minor pentatonic"}
	shape := []neck.Place{
		{String: 1, Fret: 8},
		{String: 1, Fret: 5},
		{String: 2, Fret: 8},
		{String: 2, Fret: 5},
		{String: 3, Fret: 7},
		{String: 3, Fret: 5},
		{String: 4, Fret: 7},
		{String: 3, Fret: 5},
	}
	for i := range n {
		var err error
		if l, err = (lick.Insert{After: i - 1, Place: shape[i%len(shape)], Len: lick.NewTime(1,
			16)}).Apply(l); err != nil {
			t.Fatal(err)
		}
	}
	return l
}

// Bad input: the right status, one sentence, nothing changed.
func TestBadInput(t *testing.T) {
	c := newClient(t, boxLine(t, 4))
	before, _ := c.store.Get(context.Background(), c.id)
	at := fmt.Sprintf("/licks/%d", c.id)
	rev := fmt.Sprint(before.Revision)
	ask := func(res *http.Response, body string) (int, string) { return res.StatusCode, body }
	good := boxLine(t, 2).Encode()
	for _, r := range []struct {
		name   string
		send   func() (int, string)
		status int
		says   string
	}{
		{
			name:   "unknown lick",
			send:   func() (int, string) { return ask(c.get("/licks/999")) },
			status: 404,
			says:   "not in the notebook",
		},
		{
			name:   "a word for a number",
			send:   func() (int, string) { return ask(c.get("/licks/abc")) },
			status: 404,
			says:   "not in the notebook",
		},
		{
			name:   "unknown page",
			send:   func() (int, string) { return ask(c.get("/nowhere")) },
			status: 404,
			says:   "not in the notebook",
		},
		{
			name:   "unknown format",
			send:   func() (int, string) { return ask(c.get(at + "/export/gif")) },
			status: 404,
			says:   "not in the notebook",
		},
		{
			name: "unknown revision",
			send: func() (int, string) {
				return ask(c.post(at+"/edit", url.Values{"rev": {"999"}, "do": {"finger"}, "value": {"2"}, "note": {"1"}}))
			},
			status: 404,
			says:   "not in the notebook",
		},
		{
			name:   "revision of letters",
			send:   func() (int, string) { return ask(c.edit("finger", "2", "rev", "x")) },
			status: 422,
			says:   "Rev: &#34;x&#34; does not belong",
		},
		{
			name:   "finger 9",
			send:   func() (int, string) { return ask(c.edit("finger", "9")) },
			status: 422,
			says:   "use 0 to 4 or T",
		},
		{
			name:   "fret 99",
			send:   func() (int, string) { return ask(c.edit("place", "", "to", "1:99")) },
			status: 422,
			says:   "fret 99 is none",
		},
		{
			name:   "fret −1",
			send:   func() (int, string) { return ask(c.edit("place", "", "to", "1:-1")) },
			status: 422,
			says:   "fret -1 is none",
		},
		{
			name:   "no place",
			send:   func() (int, string) { return ask(c.edit("place", "", "to", "x")) },
			status: 422,
			says:   "is no place",
		},
		{
			name:   "no note",
			send:   func() (int, string) { return ask(c.edit("finger", "1", "note", "99")) },
			status: 422,
			says:   "no note 99",
		},
		{
			name:   "tempo 9999",
			send:   func() (int, string) { return ask(c.edit("tempo", "9999")) },
			status: 422,
			says:   "tempo must be 10 to 400",
		},
		{
			name:   "tempo of letters",
			send:   func() (int, string) { return ask(c.edit("tempo", "fast")) },
			status: 422,
			says:   "is no tempo",
		},
		{
			name:   "tempo NaN",
			send:   func() (int, string) { return ask(c.edit("tempo", "NaN")) },
			status: 422,
			says:   "tempo must be",
		},
		{
			name:   "a long title",
			send:   func() (int, string) { return ask(c.edit("title", strings.Repeat("a", 201))) },
			status: 422,
			says:   "longer than 200",
		},
		{
			name:   "a scale of none",
			send:   func() (int, string) { return ask(c.edit("scale", "dorain")) },
			status: 422,
			says:   "nearest are dorian",
		},
		{
			name:   "nothing known",
			send:   func() (int, string) { return ask(c.edit("dance", "")) },
			status: 422,
			says:   "nothing that can be done",
		},
		{
			name:   "a fix that is gone",
			send:   func() (int, string) { return ask(c.edit("fix", "7.7")) },
			status: 422,
			says:   "no longer there",
		},
		{
			name:   "a form too large",
			send:   func() (int, string) { return ask(c.edit("title", strings.Repeat("a", 3<<20))) },
			status: 413,
			says:   "too large",
		},
		{
			name:   "nothing to undo",
			send:   func() (int, string) { return ask(c.post(at+"/undo", url.Values{"rev": {rev}})) },
			status: 409,
			says:   "nothing to undo",
		},
		{
			name:   "half a file",
			send:   func() (int, string) { return ask(c.upload("a.json", good[:len(good)/2])) },
			status: 422,
			says:   "the file is cut off",
		},
		{
			name: "10 MB of brackets",
			send: func() (int, string) {
				return ask(c.upload("a.json", bytes.Repeat([]byte("["), 10<<20)))
			},
			status: 422,
			says:   "not a lick file",
		},
		{
			name:   "20 MB",
			send:   func() (int, string) { return ask(c.upload("a.json", make([]byte, 20<<20))) },
			status: 413,
			says:   "too large",
		},
		{
			name:   "a picture",
			send:   func() (int, string) { return ask(c.upload("a.png", []byte("\x89PNG\r\n\x1a\n"))) },
			status: 422,
			says:   "no tab here",
		},
		{
			name:   "tones of no scale",
			send:   func() (int, string) { return ask(c.get("/tones?scale=dorain")) },
			status: 422,
			says:   "nearest are dorian",
		},
		{
			name:   "tones of no layout",
			send:   func() (int, string) { return ask(c.get("/tones?layout=spiral")) },
			status: 422,
			says:   "use box",
		},
		{
			name:   "tones beyond the neck",
			send:   func() (int, string) { return ask(c.get("/tones?layout=frets:30-34")) },
			status: 422,
			says:   "beyond this neck",
		},
		{
			name:   "tones of no degree",
			send:   func() (int, string) { return ask(c.get("/tones?add=x")) },
			status: 422,
			says:   "not a degree",
		},
		{
			name:   "tones over no chord",
			send:   func() (int, string) { return ask(c.get("/tones?chord=Hm")) },
			status: 422,
			says:   "not a note name",
		},
		{
			name: "a nameless palette",
			send: func() (int, string) {
				return ask(c.post("/tones/saved", url.Values{"name": {" "}}))
			},
			status: 422,
			says:   "Give the tones a name",
		},
		{
			name: "a palette that is not there",
			send: func() (int, string) {
				return ask(c.post("/tones/saved/9/forget", nil))
			},
			status: 404,
			says:   "not in the notebook",
		},
		{
			name:   "recoloured to nothing",
			send:   func() (int, string) { return ask(c.get(at + "/recolour?tonic=A&scale=x")) },
			status: 422,
			says:   "not a scale",
		},
		{
			name: "recoloured off the neck",
			send: func() (int, string) {
				return ask(c.get(at + "/recolour?tonic=E&scale=minor+pentatonic&move=sideways"))
			},
			status: 422,
			says:   "no way to move",
		},
		{
			name:   "wrong way",
			send:   func() (int, string) { return ask(c.get(at + "/edit")) },
			status: 405,
			says:   "cannot be done here",
		},
	} {
		status, body := r.send()
		if status != r.status || !strings.Contains(body, r.says) {
			t.Errorf("%s: %d, want %d with %q\n%.400s", r.name, status, r.status, r.says, body)
		}
	}
	after, err := c.store.Get(context.Background(), c.id)
	if err != nil || after.Revision != before.Revision {
		t.Errorf("bad input made revision %d of %d", after.Revision, before.Revision)
	}
	if all, _ := c.licks(); len(all) != 1 {
		t.Errorf("bad input made %d licks", len(all))
	}
}

// A title of markup is shown, not run.
func TestMarkup(t *testing.T) {
	l := boxLine(t, 1)
	l.Title = `<script>alert(1)</script>"><img src=x onerror=alert(2)>`
	l.Tags = []string{`<u>`}
	c := newClient(t, l)
	for _, path := range []string{"/", fmt.Sprintf("/licks/%d", c.id)} {
		res, body := c.get(path)
		if strings.Contains(body, "<script>alert") || strings.Contains(body, "<img src=x") ||
			strings.Contains(body, "<u>") {
			t.Errorf("%s runs the title", path)
		}
		if csp := res.Header.Get("Content-Security-Policy"); !strings.Contains(csp, "default-src 'none'") ||
			strings.Contains(csp, "unsafe") {
			t.Errorf("%s: policy %q", path, csp)
		}
		if regexp.MustCompile(`\sstyle=|\son[a-z]+=|<style`).
			MatchString(strings.ReplaceAll(body, " onerror=alert(2)", "")) {
			t.Errorf("%s holds inline style or script", path)
		}
		if m := regexp.MustCompile(`(src|href)="(https?:)?//`).FindString(body); m != "" {
			t.Errorf("%s loads from outside: %s", path, m)
		}
	}
}

// An edit sends only the fragments that changed.
func TestOnlyWhatChanged(t *testing.T) {
	c := newClient(t, boxLine(t, 4))
	_, first := c.edit("finger", "1")
	var have []string
	for _, m := range regexp.MustCompile(`data-part="([a-z]+)" `+
		`data-hash="([a-z0-9]+)"`).FindAllStringSubmatch(first, -1) {
		have = append(have, m[1]+":"+m[2])
	}
	if len(have) != len(bench.PartNames) {
		t.Fatalf("the first answer holds %v", have)
	}
	_, second := c.edit("tags", "barn set", "have", strings.Join(have, " "))
	for _, name := range []string{"neck", "ledger", "judge", "tones", "title"} {
		if strings.Contains(second, `data-part="`+name+`"`) {
			t.Errorf("changing the tags sends the %s again", name)
		}
	}
	if !strings.Contains(second, `data-part="state"`) || !strings.Contains(second, "barn set") {
		t.Error("what changed was not sent")
	}
}

func TestOnlyItsOwnName(t *testing.T) {
	h := page.OnlyHost(http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {}))
	for host, want := range map[string]int{
		"127.0.0.1:8080":    200,
		"localhost:8080":    200,
		"[::1]:8080":        200,
		"evil.example":      421,
		"evil.example:8080": 421,
		"192.168.7.5:8080":  200,
		"192.168.7.6:8080":  421,
	} {
		req := httptest.NewRequest("GET", "/", nil)
		req.Host = host
		req = req.WithContext(context.WithValue(req.Context(), http.LocalAddrContextKey,
			&net.TCPAddr{IP: net.IPv4(192, 168, 7, 5), Port: 8080}))
		w := httptest.NewRecorder()
		h.ServeHTTP(w, req)
		if w.Code != want {
			t.Errorf("%s: %d, want %d", host, w.Code, want)
		}
	}
}

// BenchmarkEdit is one edit of a 64-note lick from request to new fragments,
// saving included. It must stay under 30 ms.
func BenchmarkEdit(b *testing.B) {
	c := newClient(b, boxLine(b, 64))
	b.ResetTimer()
	for i := 0; b.Loop(); i++ {
		if res, body := c.edit("finger", fmt.Sprint(1+i%4), "note", fmt.Sprint(1+i%64)); res.StatusCode != 200 {
			b.Fatal(body)
		}
	}
}

// BenchmarkCaret is one step of the caret in a 64-note lick.
func BenchmarkCaret(b *testing.B) {
	c := newClient(b, boxLine(b, 64))
	b.ResetTimer()
	for i := 0; b.Loop(); i++ {
		c.get(fmt.Sprintf("/licks/%d/at?note=%d&lane=finger", c.id, 1+i%64))
	}
}

// BenchmarkTones is one change of the Tones screen.
func BenchmarkTones(b *testing.B) {
	c := newClient(b, boxLine(b, 4))
	tonics := []string{"A", "Bb", "B", "C", "C%23", "D", "Eb", "E", "F", "F%23", "G", "Ab"}
	for _, t := range tonics {
		c.get("/tones?scale=minor+pentatonic&add=9,b5&beside=dorian&tonic=" + t)
	}
	b.ResetTimer()
	for i := 0; b.Loop(); i++ {
		if res, _ := c.get("/tones?scale=minor+pentatonic&add=9,b5&beside=dorian" +
			"&keys=any&tonic=" + tonics[i%12]); res.StatusCode != 200 {
			b.Fatal(res.Status)
		}
	}
}

// Every script of a screen's folder is loaded: by the page itself, or by another script.
func TestEveryScriptIsLoaded(t *testing.T) {
	c := newClient(t, lick.New())
	_, page := c.get("/")
	var all strings.Builder
	files, err := filepath.Glob("*/*.js")
	if err != nil || len(files) < 10 {
		t.Fatal(files, err)
	}
	for _, f := range files {
		_, text := c.get("/assets/" + filepath.Base(f))
		all.WriteString(text)
	}
	_, app := c.get("/assets/app.js")
	for _, f := range files {
		name := filepath.Base(f)
		if !strings.Contains(app+all.String()+page, name) {
			t.Errorf("%s is loaded by nothing", f)
		}
	}
	for _, s := range c.app.screens {
		m := s.Menu()
		if m.Title != "" && !strings.Contains(page, ">"+m.Title+"<") {
			t.Errorf("%s is in no menu", m.Name)
		}
	}
}
