// Package e2e drives the real application in headless Chromium, as a player
// would.
package e2e

import (
	"context"
	"errors"
	"fmt"
	"net"
	"net/http"
	"net/http/httptest"
	"os"
	"os/exec"
	"path/filepath"
	"slices"
	"strings"
	"sync"
	"sync/atomic"
	"testing"
	"time"

	"github.com/chromedp/chromedp"

	"ornamen/internal/demo"
	"ornamen/internal/store"
	"ornamen/internal/web"
)

// patience is how long a test waits for a page on a busy machine before it fails; ORNAMEN_PATIENCE is another time.
var patience = func() time.Duration {
	if d, err := time.ParseDuration(os.Getenv("ORNAMEN_PATIENCE")); err == nil {
		return d
	}
	return 90 * time.Second
}()

// browser is one Chromium for all tests; each test has its own tab.
var browser = struct {
	ctx  context.Context
	stop func()
}{}

func TestMain(m *testing.M) {
	path := os.Getenv("ORNAMEN_CHROMIUM")
	// The headless shell draws the same pages for a quarter of the work.
	for _, name := range []string{"chromium-headless-shell", "chromium"} {
		if p, err := exec.LookPath(name); path == "" && err == nil {
			path = p
		}
	}
	if path == "" {
		fmt.Fprintln(os.Stderr, "e2e: Chromium is missing; make test installs it")
		os.Exit(1)
	}
	opts := []chromedp.ExecAllocatorOption{chromedp.ExecPath(path), chromedp.Headless, chromedp.NoSandbox,
		chromedp.DisableGPU, chromedp.NoFirstRun, chromedp.WindowSize(1280, 800),
		chromedp.Flag("hide-scrollbars", true)}
	for _, f := range []string{"disable-quic", "disable-background-networking", "disable-component-update",
		"disable-sync", "force-prefers-reduced-motion", "disable-gpu-compositing", "disable-software-rasterizer",
		"in-process-gpu", "disable-extensions", "disable-site-isolation-trials", "disable-dev-shm-usage"} {
		opts = append(opts, chromedp.Flag(f, true))
	}
	alloc, stopAlloc := chromedp.NewExecAllocator(context.Background(), opts...)
	ctx, stop := chromedp.NewContext(alloc)
	browser.ctx, browser.stop = ctx, func() { stop(); stopAlloc() }
	if err := chromedp.Do(ctx); err != nil {
		fmt.Fprintln(os.Stderr, "e2e: Chromium does not start:", err)
		os.Exit(1)
	}
	code := m.Run()
	browser.stop()
	os.Exit(code)
}

// app is a running Ornamen on a notebook of its own.
type app struct {
	t    *testing.T
	ctx  context.Context // a browser of its own, as to cookies
	url  string
	db   string
	stop func()

	store   *store.Store
	stopped atomic.Bool // the server is gone, so that a page finds nobody
}

// evening is when the tests are run, unless they say otherwise: a Wednesday in November. It goes
// on as they do.
func evening() time.Time {
	return time.Date(2026, 11, 25, 18, 30, 0, 0, time.UTC).Add(time.Since(began))
}

var began = time.Now()

func start(t *testing.T, db string) *app { return startAt(t, db, evening) }

// startAt serves a notebook by a clock.
func startAt(t *testing.T, db string, now func() time.Time) *app {
	t.Helper()
	s, err := store.Open(db, now)
	if err != nil {
		t.Fatal(err)
	}
	w, err := web.New(t.Context(), s)
	if err != nil {
		t.Fatal(err)
	}
	ln, err := net.Listen("tcp", "127.0.0.1:0")
	if err != nil {
		t.Fatal(err)
	}
	ctx, cancel := context.WithCancel(context.Background())
	var wg sync.WaitGroup
	wg.Go(func() {
		if err := w.Serve(ctx, ln); err != nil {
			t.Errorf("serve: %v", err)
		}
	})
	var once sync.Once
	own, forget := chromedp.NewContext(browser.ctx, chromedp.WithNewBrowserContext())
	t.Cleanup(forget)
	if err := chromedp.Do(own); err != nil {
		t.Fatal(err)
	}
	a := &app{t: t, ctx: own, url: "http://" + ln.Addr().String(), db: db, store: s}
	a.stop = func() {
		once.Do(func() {
			a.stopped.Store(true)
			cancel()
			wg.Wait()
			s.Close()
		})
	}
	t.Cleanup(a.stop)
	return a
}

// demoFile is the demo notebook, made once.
var demoFile = sync.OnceValues(func() ([]byte, error) {
	dir, err := os.MkdirTemp("", "ornamen-e2e")
	if err != nil {
		return nil, err
	}
	defer os.RemoveAll(dir)
	path := filepath.Join(dir, "demo.db")
	s, err := store.Open(path, evening)
	if err != nil {
		return nil, err
	}
	// A copy is whole, whatever is still written.
	whole := filepath.Join(dir, "whole.db")
	if err := errors.Join(demo.Fill(context.Background(), s), judged(s), s.Backup(context.Background(), whole),
		s.Close()); err != nil {
		return nil, err
	}
	return os.ReadFile(whole)
})

// judged waits until a notebook is judged for all of its players, so that none of its copies has to be.
func judged(s *store.Store) error {
	ctx, cancel := context.WithCancel(context.Background())
	defer cancel()
	a, err := web.New(ctx, s)
	if err != nil {
		return err
	}
	list, err := s.Players(ctx)
	if err != nil {
		return err
	}
	for _, p := range list {
		for {
			w, r := httptest.NewRecorder(), httptest.NewRequest("GET", "/?player="+p.Key, nil)
			r.RemoteAddr = "127.0.0.1:1" // others are not let in
			a.ServeHTTP(w, r)
			if w.Code != http.StatusOK {
				return fmt.Errorf("the notebook answers %d", w.Code)
			}
			if !strings.Contains(w.Body.String(), "progress-word") {
				break
			}
			time.Sleep(20 * time.Millisecond)
		}
	}
	return nil
}

// demoApp runs on a copy of the demo notebook.
func demoApp(t *testing.T) *app {
	t.Helper()
	path := filepath.Join(t.TempDir(), "demo.db")
	data, err := demoFile()
	if err == nil {
		err = os.WriteFile(path, data, 0o600)
	}
	if err != nil {
		t.Fatal(err)
	}
	return start(t, path)
}

// tab is one open page with a keyboard and a pointer. Anything the page
// complains of on its console fails the test.
type tab struct {
	t   *testing.T
	ctx context.Context
	app *app
}

func (a *app) open(path string) *tab {
	a.t.Helper()
	ctx, cancel := chromedp.NewContext(a.ctx)
	ctx, cancelTime := context.WithTimeout(ctx, 8*time.Minute)
	if err := chromedp.Do(ctx); err != nil {
		a.t.Fatal(err)
	}
	console := chromedp.Console(ctx)
	var mu sync.Mutex
	var complaints []string
	go func() {
		for m, err := range console {
			if err != nil {
				return
			}
			// Refusals that a test provokes are answered with 4xx and logged.
			if (m.Type == "error" || m.IsException() || strings.Contains(m.Text, "Security Policy")) &&
				!strings.Contains(m.Text, "the server responded with a status of 4") &&
				!(a.stopped.Load() && strings.Contains(m.Text, "ERR_CONNECTION")) {
				mu.Lock()
				complaints = append(complaints, m.Text)
				mu.Unlock()
			}
		}
	}()
	a.t.Cleanup(func() {
		mu.Lock()
		for _, c := range complaints {
			a.t.Errorf("the page complains: %s", c)
		}
		mu.Unlock()
		cancelTime()
		cancel()
	})
	t := &tab{t: a.t, ctx: ctx, app: a}
	t.do(chromedp.EmulateViewport(1280, 800))
	t.go_(path)
	return t
}

func (t *tab) do(steps ...chromedp.Action[chromedp.Void]) {
	t.t.Helper()
	if err := chromedp.Do(t.ctx, steps...); err != nil {
		t.t.Fatal(err)
	}
}

// go_ opens a page of the application.
func (t *tab) go_(path string) {
	t.t.Helper()
	t.do(chromedp.Navigate(t.app.url + path))
}

// keys types keys as they come: letters and digits, or kb names.
func (t *tab) keys(keys ...string) {
	t.t.Helper()
	for _, k := range keys {
		t.do(chromedp.KeyEvent(k))
	}
}

func (t *tab) ctrl(key string) {
	t.t.Helper()
	t.do(chromedp.KeyEvent(key, chromedp.KeyModifiers(chromedp.ModifierCtrl)))
}

// click presses an element once it stands still and nothing covers it: a fragment
// that is being swapped has no size for a moment. What is swapped between pressing
// and letting go gets no click: it is pressed again, as a player would, a few times.
func (t *tab) click(sel string) {
	t.t.Helper()
	watch := fmt.Sprintf(`(() => {
		window.landed = ''
		const seen = e => { if (e.target.closest(%q)) window.landed = 'yes' }
		addEventListener('click', seen, {capture: true, once: true})
		return true
	})()`, sel)
	for range 3 {
		x, y := t.still(sel)
		eval[bool](t, watch)
		t.do(chromedp.MouseClickXY(x, y))
		// A page that was left by the click has no such note any more.
		landed, err := chromedp.Run(t.ctx, chromedp.Evaluate[string](`window.landed ?? 'yes'`))
		if err != nil || landed == "yes" {
			return
		}
	}
}

// still is the middle of an element that stands still with nothing over it.
func (t *tab) still(sel string) (x, y float64) {
	t.t.Helper()
	js := fmt.Sprintf(`(() => {
		const e = document.querySelector(%q)
		if (!e) return []
		e.scrollIntoView({block: 'nearest', inline: 'nearest', behavior: 'instant'})
		const b = e.getBoundingClientRect(), x = b.x + b.width / 2, y = b.y + b.height / 2
		return b.width && e.contains(document.elementFromPoint(x, y)) ? [x, y] : []
	})()`, sel)
	var last []float64
	for deadline := time.Now().Add(patience); ; time.Sleep(20 * time.Millisecond) {
		at, err := chromedp.Run(t.ctx, chromedp.Evaluate[[]float64](js))
		if err == nil && len(at) == 2 && slices.Equal(at, last) {
			return at[0], at[1]
		}
		last = at
		if time.Now().After(deadline) {
			t.t.Fatalf("%s never stood still to be clicked (%v, %v)", sel, at, err)
		}
	}
}

// eval reads a value out of the page.
func eval[T any](t *tab, js string) T {
	t.t.Helper()
	v, err := chromedp.Run(t.ctx, chromedp.Evaluate[T](js))
	if err != nil {
		t.t.Fatalf("%s: %v", js, err)
	}
	return v
}

// wait waits until the page makes js true.
func (t *tab) wait(js string) {
	t.t.Helper()
	deadline := time.Now().Add(patience)
	for {
		if ok, err := chromedp.Run(t.ctx, chromedp.Evaluate[bool]("!!("+js+")")); err == nil && ok {
			return
		}
		if time.Now().After(deadline) {
			t.shot(filepath.Join(os.TempDir(), "ornamen-e2e-"+strings.ReplaceAll(t.t.Name(), "/", "-")+".png"))
			t.t.Fatalf("the page never came to: %s\nnotice: %s\nverdict: %s", js,
				eval[string](t, `document.querySelector('#notice')?.innerText ?? ''`),
				eval[string](t, `document.querySelector('.verdict')?.innerText ?? ''`))
		}
		time.Sleep(25 * time.Millisecond)
	}
}

// until does something again and again until the page makes js true: what a player does too when
// a busy machine has swallowed a click.
func (t *tab) until(js string, do func()) {
	t.t.Helper()
	for deadline := time.Now().Add(patience); time.Now().Before(deadline); {
		do()
		for soon := time.Now().Add(3 * time.Second); time.Now().Before(soon); time.Sleep(25 * time.Millisecond) {
			if ok, err := chromedp.Run(t.ctx, chromedp.Evaluate[bool]("!!("+js+")")); err == nil && ok {
				return
			}
		}
	}
	t.t.Fatalf("however often it is done, the page never comes to: %s", js)
}

// ready waits for a bench that takes keys.
func (t *tab) ready() {
	t.t.Helper()
	t.wait(`document.querySelector('#bench')?.dataset.ready`)
}

func (t *tab) shot(path string) {
	t.t.Helper()
	b, err := chromedp.Run(t.ctx, chromedp.CaptureScreenshot())
	if err != nil {
		t.t.Fatal(err)
	}
	if err := os.WriteFile(path, b, 0o644); err != nil {
		t.t.Fatal(err)
	}
}

// text is what an element shows.
func (t *tab) text(sel string) string {
	t.t.Helper()
	return eval[string](t, fmt.Sprintf("document.querySelector(%q)?.innerText ?? ''", sel))
}

// waitNotes waits until the ledger holds n notes.
func (t *tab) waitNotes(n int) {
	t.t.Helper()
	t.wait(fmt.Sprintf("document.querySelector('#state').dataset.total == %d", n))
}

// places are the places of the lick as the ledger draws them, string:fret.
func (t *tab) frets() string {
	t.t.Helper()
	return eval[string](t, `[...document.querySelectorAll('svg.ledger .fret')].map(e => e.textContent).join(' ')`)
}

// fingers are the fingers as the ledger shows them.
func (t *tab) fingers() string {
	t.t.Helper()
	return eval[string](t,
		`[...document.querySelectorAll('svg.ledger .col')].map(c => c.querySelector('.value').textContent).join(' ')`)
}
