package web

import (
	"context"
	"database/sql"
	"fmt"
	"io"
	"net/http"
	"net/http/httptest"
	"net/url"
	"os"
	"runtime"
	"strings"
	"sync"
	"testing"
	"time"

	"ornamen/core/lick"
	"ornamen/internal/store"
	"ornamen/internal/web/page"
)

// until waits for what must come soon.
func until(t *testing.T, what string, ok func() bool) {
	t.Helper()
	for end := time.Now().Add(time.Minute); !ok(); time.Sleep(time.Millisecond) {
		if time.Now().After(end) {
			t.Fatalf("%s does not come", what)
		}
	}
}

// longLick makes every search take its time.
func longLick(n int) lick.Lick {
	l := lick.New()
	l.Tempo = 200
	for i := range n {
		l.Notes = append(l.Notes,
			lick.Note{At: lick.NewTime(int64(i), 16), Len: lick.NewTime(1, 16), String: 1 + (i*7)%6, Fret: 3 + (i*5)%9})
	}
	return l
}

// long are the pages that search a whole line.
var long = []string{"/mend", "/hands?free=true", "/ways?value=strings", "/recipe"}

// ask asks for a page until its context ends.
func (c *client) ask(ctx context.Context, path string) {
	r, err := http.NewRequestWithContext(ctx, http.MethodGet, fmt.Sprintf("%s/licks/%d%s", c.url, c.id, path), nil)
	if err != nil {
		c.t.Error(err)
		return
	}
	if res, err := c.http.Do(r); err == nil {
		res.Body.Close()
	}
}

// Requests whose page has gone stop working at once, sixteen of them too.
func TestLeavingEndsTheSearch(t *testing.T) {
	c := newClient(t, longLick(2040))
	ctx, leave := context.WithCancel(t.Context())
	var wg sync.WaitGroup
	for k := range 16 {
		wg.Go(func() { c.ask(ctx, long[k%4]) })
	}
	until(t, "the work", func() bool { return c.app.site.Work.Busy() > 2 })
	leave()
	wg.Wait()
	until(t, "the end of the work", func() bool { return c.app.site.Work.Busy() == 0 })
}

// Dear requests of all kinds whose pages are closed at once give the machine back: within a few seconds nobody works
// any more, and the memory is what it was. Two hundred in the night's run.
func TestDearRequestsClosed(t *testing.T) {
	c := newClient(t, longLick(2040))
	slow := longLick(9000) // twelve minutes of sound
	slow.Tempo = 190
	e, err := c.store.Add(t.Context(), slow, "made")
	if err != nil {
		t.Fatal(err)
	}
	costly := []string{"/export/wav", "/export/page", "/export/midi", "/sound.wav"}
	many := 24
	if os.Getenv("ORNAMEN_EXHAUSTIVE") != "" {
		many = 200
	}
	heap := func() float64 {
		runtime.GC()
		var m runtime.MemStats
		runtime.ReadMemStats(&m)
		return float64(m.HeapAlloc) / (1 << 20)
	}
	before, goroutines := heap(), runtime.NumGoroutine()
	ctx, leave := context.WithCancel(t.Context())
	var wg sync.WaitGroup
	for k := range many {
		wg.Go(func() {
			if k%2 == 0 {
				c.ask(ctx, long[k/2%len(long)])
				return
			}
			r, err := http.NewRequestWithContext(ctx, http.MethodGet,
				fmt.Sprintf("%s/licks/%d%s", c.url, e.ID, costly[k/2%len(costly)]), nil)
			if err != nil {
				t.Error(err)
				return
			}
			if res, err := c.http.Do(r); err == nil {
				io.Copy(io.Discard, res.Body)
				res.Body.Close()
			}
		})
	}
	until(t, "the work", func() bool { return c.app.site.Work.Busy() > 2 })
	leave()
	left := time.Now()
	wg.Wait()
	c.http.CloseIdleConnections()
	until(t, "the end of the work", func() bool {
		return c.app.site.Work.Busy() == 0 && runtime.NumGoroutine() < goroutines+20
	})
	took, now := time.Since(left), heap()
	t.Logf("%d costly requests closed at once: quiet after %d ms, %.0f MB of heap before and %.0f after", many,
		took.Milliseconds(), before, now)
	if now > before+450 { // what the engine remembers of moves is bounded by 384 MB
		t.Errorf("%.0f MB of heap before, %.0f after", before, now)
	}
}

// How long the server works on for a page that was left, the longest of many moments.
func BenchmarkLeaving(b *testing.B) {
	c := newClient(b, longLick(1500))
	for _, path := range long {
		b.Run(path[1:], func(b *testing.B) {
			worst := time.Duration(0)
			for i := 0; b.Loop(); i++ {
				ctx, leave := context.WithCancel(b.Context())
				var wg sync.WaitGroup
				for range 4 {
					wg.Go(func() { c.ask(ctx, path) })
				}
				time.Sleep(time.Duration(1+97*i%1500) * time.Millisecond)
				left := time.Now()
				leave()
				wg.Wait()
				for c.app.site.Work.Busy() > 0 {
					time.Sleep(time.Millisecond)
				}
				worst = max(worst, time.Since(left))
			}
			b.ReportMetric(float64(worst.Milliseconds()), "ms-after-leaving")
		})
	}
}

// An edit ends the search on the revision before it.
func TestEditEndsTheSearch(t *testing.T) {
	c := newClient(t, longLick(2040))
	done := make(chan int, 1)
	go func() {
		res, err := c.http.Get(fmt.Sprintf("%s/licks/%d/hands?free=true", c.url, c.id))
		if err != nil {
			done <- 0
			return
		}
		res.Body.Close()
		done <- res.StatusCode
	}()
	until(t, "the work", func() bool { return c.app.site.Work.Busy() > 0 })
	if res, body := c.edit("finger", "2"); res.StatusCode != 200 {
		t.Fatalf("%d %s", res.StatusCode, body)
	}
	if got := <-done; got != http.StatusConflict {
		t.Errorf("the search for the old revision answers %d", got)
	}
}

// A fix is taken by its name, exactly as it was shown.
func TestFixIsTakenAsShown(t *testing.T) {
	l := boxLine(t, 12)
	l.Tempo = 190
	c := newClient(t, l)
	_, body := c.get(fmt.Sprintf("/licks/%d/mend", c.id))
	_, button, _ := strings.Cut(body, `data-do="fix"`)
	_, rest, ok := strings.Cut(button, `data-value="`)
	if !ok {
		t.Fatal("nothing to mend")
	}
	name, _, _ := strings.Cut(rest, `"`)
	if res, _ := c.edit("fix", "nothing"); res.StatusCode != 422 {
		t.Errorf("a fix that is not there: %d", res.StatusCode)
	}
	if res, body := c.edit("fix", name); res.StatusCode != 200 {
		t.Fatalf("%d %s", res.StatusCode, body)
	}
	if e, err := c.store.Get(t.Context(), c.id); err != nil || e.Revision == 1 {
		t.Errorf("%+v %v", e, err)
	}
}

// What another site would change is refused, and so is what it would fetch or embed, or any work
// that a link from there would start; a link to a page is followed.
func TestOwnPagesOnly(t *testing.T) {
	c := newClient(t, boxLine(t, 4))
	for _, k := range []struct {
		site, method, path string
		link               bool
		want               int
	}{
		{
			site:   "cross-site",
			method: "POST",
			path:   "/",
			want:   403,
		}, {site: "same-site", method: "POST", path: "/", want: 403},
		{
			site:   "cross-site",
			method: "DELETE",
			path:   "/",
			want:   403,
		}, {site: "cross-site", method: "GET", path: "/", link: true, want: 200},
		{
			site:   "cross-site",
			method: "GET",
			path:   "/licks/1",
			link:   true,
			want:   200,
		}, {site: "cross-site", method: "GET", path: "/", want: 403},
		{
			site:   "same-origin",
			method: "GET",
			path:   "/",
			want:   200,
		}, {site: "none", method: "GET", path: "/", link: true, want: 200}, {method: "GET", path: "/", want: 200},
		{
			site:   "cross-site",
			method: "GET",
			path:   "/licks/1/hands",
			link:   true,
			want:   403,
		}, {site: "cross-site", method: "GET", path: "/licks/1/hands", want: 403},
		{
			site:   "same-site",
			method: "GET",
			path:   "/notebook.zip",
			link:   true,
			want:   403,
		}, {site: "cross-site", method: "GET", path: "/licks/1/sound.wav", link: true, want: 403},
		{
			site:   "cross-site",
			method: "GET",
			path:   "/licks/1/mend",
			link:   true,
			want:   403,
		}, {site: "cross-site", method: "GET", path: "/licks/1/export/wav", link: true, want: 403},
		{
			site:   "cross-site",
			method: "GET",
			path:   "/runs/sound.wav",
			link:   true,
			want:   403,
		}, {site: "none", method: "GET", path: "/notebook.zip", link: true, want: 200},
		{
			site:   "same-origin",
			method: "GET",
			path:   "/licks/1/hands",
			want:   200,
		}, {method: "GET", path: "/licks/1/sound.wav", want: 200},
	} {
		r, err := http.NewRequestWithContext(t.Context(), k.method, c.url+k.path, nil)
		if err != nil {
			t.Fatal(err)
		}
		r.Header.Set("Sec-Fetch-Site", k.site)
		if k.link {
			r.Header.Set("Sec-Fetch-Mode", "navigate")
			r.Header.Set("Sec-Fetch-Dest", "document")
		}
		res, err := c.http.Do(r)
		if err != nil {
			t.Fatal(err)
		}
		res.Body.Close()
		if res.StatusCode != k.want {
			t.Errorf("%s %s from %s: %d, want %d", k.method, k.path, k.site, res.StatusCode, k.want)
		}
		if res.Header.Get("Cross-Origin-Resource-Policy") != "same-origin" && k.want == 200 {
			t.Errorf("%s from %s may be shown elsewhere", k.method, k.site)
		}
	}
}

// A fault in one request is answered with a sentence, and an answer that was begun is left
// as it is.
func TestSayFault(t *testing.T) {
	for _, k := range []struct {
		handler http.HandlerFunc
		status  int
		body    string
	}{
		{func(http.ResponseWriter, *http.Request) { panic("a fault") }, 500, "nothing was saved."},
		{func(w http.ResponseWriter, _ *http.Request) { w.WriteHeader(500); w.Write([]byte("own")) }, 500, "own"},
		{func(w http.ResponseWriter, _ *http.Request) { w.Write([]byte("well")) }, 200, "well"},
	} {
		w := httptest.NewRecorder()
		page.SayFault(k.handler).ServeHTTP(w, httptest.NewRequest("GET", "/", nil))
		if w.Code != k.status || !strings.HasSuffix(w.Body.String(), k.body) {
			t.Errorf("%d %q, want %d %q", w.Code, w.Body.String(), k.status, k.body)
		}
	}
	defer func() {
		if recover() != http.ErrAbortHandler {
			t.Error("an answer that is broken off ends as if it were whole")
		}
	}()
	page.SayFault(http.HandlerFunc(func(http.ResponseWriter, *http.Request) { panic(http.ErrAbortHandler) })).
		ServeHTTP(httptest.NewRecorder(), httptest.NewRequest("GET", "/", nil))
}

// A lick that cannot be read is a row like the others; its page says so and leads to
// the version before.
func TestUnreadableLick(t *testing.T) {
	c := newClient(t, boxLine(t, 4))
	db, err := sql.Open("sqlite", c.db+"?_pragma=busy_timeout(10000)")
	if err != nil {
		t.Fatal(err)
	}
	defer db.Close()
	// The judging that a new lick has begun may still write a summary of what it had read before.
	for tries, said := 0, false; !said; tries++ {
		if _, err := db.Exec("UPDATE revisions SET data = 'x'; DELETE FROM summaries"); err != nil {
			t.Fatal(err)
		}
		res, body := c.get("/")
		if said = strings.Contains(body, "cannot be read"); res.StatusCode != 200 || tries == 100 {
			t.Fatalf("%d", res.StatusCode)
		}
	}
	if res, body := c.get("/licks/1"); res.StatusCode != 500 || !strings.Contains(body, "other versions can") ||
		!strings.Contains(body, "/licks/1/versions") {
		t.Errorf("%d %s", res.StatusCode, body)
	}
}

// A write on a runs page names the revision it was made on: an edit of another tab is
// kept.
func TestRegrowNamesItsRevision(t *testing.T) {
	c := newClient(t, boxLine(t, 4))
	form := map[string][]string{
		"key":   {"A minor pentatonic"},
		"at":    {"6:5"},
		"cell":  {"1 2 3"},
		"times": {"4"},
	}
	c.post("/runs/lick", form)
	all, err := c.licks()
	if err != nil {
		t.Fatal(err)
	}
	e := all[0]
	if _, err := c.store.Commit(t.Context(), e.ID, e.Revision, e.Lick, "an edit of another tab"); err != nil {
		t.Fatal(err)
	}
	form["lick"], form["rev"], form["times"] = []string{fmt.Sprint(e.ID)}, []string{fmt.Sprint(e.Revision)}, []string{
		"6",
	}
	if res, body := c.post("/runs/lick", form); res.StatusCode != 409 ||
		!strings.Contains(body, "both versions are kept") {
		t.Errorf("%d %s", res.StatusCode, body)
	}
}

// Ten thousand licks and five players: the first page and a search, what they weigh, and a change of
// the player.
func BenchmarkManyLicks(b *testing.B) {
	c := newClient(b, longLick(32))
	if _, err := c.store.AddAll(context.Background(), many(10000)); err != nil {
		b.Fatal(err)
	}
	for _, name := range []string{"second", "third", "fourth", "fifth"} {
		if _, err := c.store.AddPlayer(b.Context(), name, 0); err != nil {
			b.Fatal(err)
		}
	}
	if err := c.app.site.LoadPlayers(b.Context()); err != nil {
		b.Fatal(err)
	}
	players := c.app.site.Players()
	for _, p := range players {
		for {
			n, err := c.store.Count(b.Context(), store.Query{Who: p.Who.ID, Player: p.Key})
			if err != nil {
				b.Fatal(err)
			}
			if n.Judged == n.All {
				break
			}
			c.app.site.Wake()
			time.Sleep(50 * time.Millisecond)
		}
	}
	b.Run("another player", func(b *testing.B) {
		for i := 0; b.Loop(); i++ {
			c.get("/?player=" + players[i%len(players)].Who.Key)
		}
	})
	for _, page := range []struct{ name, path string }{{"page", "/"}, {"search", "/?find=lick+77"}, {"tag",
		"/?tag=tag+7"}, {"worst", "/?sort=worst"}} {
		b.Run(page.name, func(b *testing.B) {
			bytes := 0
			for b.Loop() {
				_, body := c.get(page.path)
				bytes = len(body)
			}
			b.ReportMetric(float64(bytes)/1000, "kB")
		})
	}
	b.Run("player", func(b *testing.B) {
		size := []string{"small", "large"}
		for i := 0; b.Loop(); i++ {
			form := url.Values{
				"tuning": {"E4 B3 G3 D3 A2 E2"},
				"gauges": {"10 13 17 26w 36w 46w"},
				"scale":  {"648"},
				"frets":  {"22"},
				"size":   {size[i%2]},
				"way":    {"alternate"},
				"angle":  {"either"},
				"boxes":  {"minor"},
				"strict": {"usual"},
			}
			if res, body := c.post("/player", form); res.StatusCode >= 400 {
				b.Fatal(body)
			}
		}
		var m runtime.MemStats
		runtime.ReadMemStats(&m)
		b.ReportMetric(float64(m.HeapInuse)/(1<<20), "MB-heap")
	})
}

// many makes a notebook of licks that differ.
func many(n int) (w store.Whole) {
	for i := range n {
		l := longLick(32)
		l.Title, l.Tags = fmt.Sprintf("Lick %d", i), []string{fmt.Sprintf("tag %d", i%20)}
		l.Tempo = float64(60 + i%100)
		w.Chains = append(w.Chains,
			store.Chain{Head: 1, Past: []store.Past{{Data: l.Encode(), What: "made", At: time.Now()}}})
	}
	return w
}
