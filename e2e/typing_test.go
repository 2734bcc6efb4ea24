package e2e

import (
	"net/http"
	"net/http/httptest"
	"net/http/httputil"
	"net/url"
	"strings"
	"testing"
	"time"

	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"
)

// slowed stands between the browser and an application and lets every edit wait.
func slowed(t *testing.T, a *app, wait time.Duration) *app {
	t.Helper()
	to, err := url.Parse(a.url)
	if err != nil {
		t.Fatal(err)
	}
	proxy := &httputil.ReverseProxy{Rewrite: func(r *httputil.ProxyRequest) { r.SetURL(to) }}
	srv := httptest.NewServer(http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		if r.Method == http.MethodPost {
			time.Sleep(wait)
		}
		proxy.ServeHTTP(w, r)
	}))
	t.Cleanup(srv.Close)
	return &app{t: t, ctx: a.ctx, url: srv.URL, db: a.db, stop: a.stop}
}

// Keys typed fifteen a second through a server that takes its time give the lick that
// slow typing gives.
func TestTypingAhead(t *testing.T) {
	t.Parallel()
	keys := []string{"5", "8", kb.ArrowDown, "5", "8", kb.ArrowDown, "5", "7", kb.ArrowLeft, kb.ArrowDown, "9",
		kb.End, "6", kb.ArrowLeft, "-"}
	type typed struct{ frets, fingers string }
	play := func(a *app, between time.Duration) typed {
		p := a.open("/")
		p.click(`form[action="/licks"] .btn-primary`)
		p.ready()
		for _, k := range keys {
			p.do(chromedp.KeyEvent(k))
			if between == 0 {
				p.wait(`!document.querySelector('#bench').dataset.busy`)
			} else {
				time.Sleep(between)
			}
		}
		p.wait(`!document.querySelector('#bench').dataset.busy`)
		p.waitNotes(6)
		return typed{p.frets(), p.fingers()}
	}
	a := demoApp(t)
	slow := play(a, 0)
	if fast := play(slowed(t, a, 150*time.Millisecond), time.Second/15); fast != slow {
		t.Errorf("typed fast: %+v, slowly: %+v", fast, slow)
	}
	if want := "5 8 5 8 7 6"; strings.Count(slow.frets, " ") != strings.Count(want, " ") {
		t.Errorf("the ledger holds %s", slow.frets)
	}
}

// The neck's window stays where it is while notes come that lie in it, and an empty
// bench shows a bar to write in and the keys for key, tempo and count.
func TestNewLickStandsStill(t *testing.T) {
	t.Parallel()
	p := demoApp(t).open("/")
	p.click(`form[action="/licks"] .btn-primary`)
	p.ready()
	if n := eval[int](p, `document.querySelectorAll('svg.ledger .count.ahead').length`); n != 8 {
		t.Errorf("%d columns to write in, not a bar of eighths", n)
	}
	window := func() string { return eval[string](p, `document.querySelector('#state').dataset.window`) }
	before := window()
	p.keys("5", "8")
	p.waitNotes(2)
	if window() != before {
		t.Errorf("the neck showed %s and shows %s", before, window())
	}
	p.keys("2", "2")
	p.waitNotes(3)
	if w := window(); w == before {
		t.Errorf("fret 22 lies outside %s", w)
	}
	// The count of the next note, then the tempo, then the key: one key each.
	p.keys(kb.End, "c", "6")
	p.wait(`document.querySelector('#state').dataset.next == '1/16'`)
	p.keys("t")
	p.wait(`document.activeElement.dataset.edit == 'tempo'`)
	p.keys(kb.Escape)
	p.wait(`!document.querySelector('.dropdown-menu.show')`)
	p.do(chromedp.Focus(chromedp.CSS("#ledger")))
	p.keys("k")
	p.wait(`document.activeElement.dataset.edit == 'tonic'`)
}

// On a phone's width no screen is cut or overlaps itself.
func TestNarrow(t *testing.T) {
	t.Parallel()
	a := demoApp(t)
	p := a.open("/")
	for _, width := range []int64{390, 1024} {
		p.do(chromedp.EmulateViewport(width, 800))
		for _, path := range []string{"/", "/licks/17", "/licks/15", "/tones", "/runs", "/player", "/licks/1/changes",
			"/practice", "/practice/log", "/licks/17/versions", "/licks/15/recolour?tonic=C%23&scale=dorian"} {
			p.go_(path)
			p.wait(`document.fonts.status == 'loaded'`)
			if path == "/licks/17" {
				p.wait(`document.querySelector('.fix')`)
			}
			if wide := eval[int](p, `document.documentElement.scrollWidth - innerWidth`); wide > 0 {
				t.Errorf("%s at %d is %d px too wide", path, width, wide)
			}
			// What a finger must reach lies within the screen and is not covered.
			if cut := eval[string](p, `[...document.querySelectorAll('nav a, .titleline button, .heading button, ' +
				'.tones-head button, .judgement .fix, .heading a.btn')].filter(e => {
				e.scrollIntoView({block: 'center', behavior: 'instant'});
				const r = e.getBoundingClientRect();
				if (!r.width) return false;
				const at = document.elementFromPoint(r.x + r.width / 2, r.y + r.height / 2);
				return r.left < -1 || r.right > innerWidth + 1 || !(at && (e.contains(at) || at.contains(e)));
			}).map(e => e.innerText).join(', ')`); cut != "" {
				t.Errorf("%s at %d: cut or covered: %s", path, width, cut)
			}
		}
		// Of the hands side by side, only the drawn line may be wider than the screen.
		p.go_("/licks/1")
		p.ready()
		p.keys("h")
		p.wait(`document.querySelector('.offer') && getComputedStyle(document.querySelector('#hands')).opacity == 1`)
		if cut := eval[string](p, `[...document.querySelectorAll('.offer, .offer .because, .offer .btn')].filter(e =>
			e.getBoundingClientRect().right > innerWidth).map(e => e.innerText).join(', ')`); cut != "" {
			t.Errorf("proposed hands at %d: cut: %s", width, cut)
		}
	}
}
