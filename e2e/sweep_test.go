package e2e

import (
	"context"
	_ "embed"
	"encoding/json"
	"fmt"
	"hash/fnv"
	"net/http"
	"net/http/httptest"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"slices"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/chromedp/cdproto/network"
	cdppage "github.com/chromedp/cdproto/page"
	"github.com/chromedp/cdproto/runtime"
	"github.com/chromedp/cdproto/storage"
	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"

	"ornamen/internal/store"
	"ornamen/internal/web"
)

// sweepScript is what the sweep asks of a page.
//
//go:embed testdata/sweep.js
var sweepScript string

// sweepPlace is a screen in a state that players meet: whose notebook, which page, on how large a screen.
type sweepPlace struct {
	name   string
	book   func(*testing.T) []byte
	path   string
	width  int64
	height int64
}

// The three sizes of screen on which everything is pressed.
const (
	deskWidth, deskHeight   = 1280, 800
	phoneWidth, phoneHeight = 390, 844
)

// sweepWords are what is typed into a field, by its name. A field that is not here gets the next number, or a word.
var sweepWords = map[string]string{
	"key":        "A dorian",
	"add":        "9",
	"layout":     "box",
	"at":         "6:5",
	"cell":       "1 2 3",
	"down-cell":  "3 2 1",
	"tail":       "2 1",
	"move":       "2",
	"times":      "3",
	"bars":       "2",
	"land":       "1",
	"count":      "8",
	"accent":     "3",
	"chords":     "Am7 | D7",
	"chord":      "F#m7",
	"beside":     "dorian",
	"q":          "lantern",
	"name":       "Tove Brandt",
	"tuning":     "D4 A3 F3 C3 G2 D2",
	"gauges":     "10 13 17 26w 36w 52w",
	"scale":      "dorian",
	"tonic":      "A",
	"feel":       "shuffle",
	"scales":     "natural minor, dorian",
	"hammering":  "110",
	"tempo":      "92",
	"only":       "1 3 5",
	"addover":    "9",
	"grip":       "5 5 5 5",
	"fill":       "2&",
	"append":     "2 1",
	"text":       "e|--5--8--5--|\nB|-----------|\nG|-----------|\nD|-----------|\nA|-----------|\nE|-----------|",
	"paste":      "e|--5--8--5--|",
	"backing":    "A dorian",
	"start":      "2",
	"rotate":     "2",
	"pivot":      "3",
	"from":       "1&",
	"displace":   "1/4",
	"drop":       "2",
	"follow":     "chord",
	"repeat":     "2",
	"slurs":      "string",
	"turn":       "twice",
	"dir":        "down",
	"pick":       "economy",
	"mirror":     "yes",
	"loop":       "yes",
	"even":       "yes",
	"meter":      "3/4",
	"pickup":     "1/8",
	"degrees":    "1 3 5",
	"hold_from":  "7",
	"hold_to":    "11",
	"sixteenths": "120",
}

// refusal is a control that may be refused, and the sentence that it is then answered with.
type refusal struct{ name, says *regexp.Regexp }

// sweepRefused lists what may be refused, each with its reason.
var sweepRefused = []refusal{
	// A test's application listens to no network.
	refused("Let a phone in", "not open yet|in no network"),
	// What is typed for chords that answer and for a grip may not suit the line that is there.
	refused("input.text", "no rest of a beat to fill|would leave the neck"),
	// A cell of a chord’s own steps does not move by so many tones.
	refused("data-run=move", "a cell of chord: steps moves by"),
}

// refused is a row of the list, of two patterns.
func refused(name, says string) refusal {
	return refusal{regexp.MustCompile(name), regexp.MustCompile(says)}
}

// mayBeRefused says whether a control may be answered so.
func mayBeRefused(name, said string) bool {
	for _, x := range sweepRefused {
		if x.name.MatchString(name) && x.says.MatchString(said) {
			return true
		}
	}
	return false
}

// TestSweep presses everything. Each control of each screen, and each choice of each menu, is pressed on a page of its
// own. It fails on an error of a script, on an answer of 400 or more, on a notice of an error, on a control that
// something covers, and on one that does nothing at all.
//
// By day a part of the controls is pressed, about a fortieth, and another part with every commit: a press costs half a
// second of the machine, most of it for the page that is opened for it alone. ORNAMEN_EXHAUSTIVE presses all of them.
// ORNAMEN_SWEEP is a part of the name of the places that are swept.
func TestSweep(t *testing.T) {
	all := os.Getenv("ORNAMEN_EXHAUSTIVE") != ""
	only := os.Getenv("ORNAMEN_SWEEP")
	commit, _ := exec.Command("git", "rev-parse", "HEAD").Output() // outside a checkout the tenth is always the same
	for _, p := range sweepPlaces {
		if only != "" && !strings.Contains(p.name, only) {
			continue
		}
		if only == "" && !all && hashOf(string(commit), p.name)%3 != 0 {
			continue // by day every third place
		}
		t.Run(p.name, func(t *testing.T) {
			t.Parallel()
			s := &sweeper{t: t, place: p, all: all, commit: string(commit)}
			s.sweep()
		})
	}
}

// sweeper presses the controls of one place.
type sweeper struct {
	t      *testing.T
	place  sweepPlace
	all    bool
	commit string
	book   []byte
	app    *app
	tab    *tab
	door   sync.RWMutex // held while a notebook is put in another's place
	shown  http.Handler
	shut   func()
	done   map[string]bool // controls that were pressed, by path
	sorts  map[string]bool // and sorts of them
	count  int

	mu       sync.Mutex
	flying   map[network.RequestID]bool
	asked    int      // requests since the control was pressed
	written  bool     // one of them may have changed the notebook
	troubles []string // what went wrong since then
	chooser  bool     // a file was asked for
}

// sweepControl is a control of a page.
type sweepControl struct {
	Path   string `json:"path"`
	Sort   string `json:"sort"` // those that stand beside it and are alike
	Name   string `json:"name"`
	Kind   string `json:"kind"` // press, type, choose
	Option int    `json:"option"`
	Menu   bool   `json:"menu"`   // it opens choices
	Frame  bool   `json:"frame"`  // it belongs to the head of every page
	Late   bool   `json:"late"`   // it comes by itself a moment after the page, and no press has brought it
	Place  bool   `json:"place"`  // a place on the neck
	Chosen bool   `json:"chosen"` // it says what is in force already
	Word   bool   `json:"word"`   // a word that explains itself where the pointer is
}

// key tells a control from all others of its page.
func (c sweepControl) key() string { return fmt.Sprintf("%s %s %d", c.Path, c.Name, c.Option) }

// sweep presses every control of the place, and of what opens there.
func (s *sweeper) sweep() {
	s.t.Helper()
	s.book, s.done, s.sorts = s.place.book(s.t), map[string]bool{}, map[string]bool{}
	s.flying = map[network.RequestID]bool{}
	s.shut = func() {}
	s.serve()
	s.fresh()
	s.listen()
	s.open()
	s.tab.wait(`!document.querySelector('.whom[data-ask]')`) // what comes late is among what is pressed
	s.walk(nil, nil, s.list())
	s.t.Logf("%s: %d controls pressed", s.place.name, s.count)
}

// serve answers the tab from whatever notebook is open, so that the browser keeps what it has loaded.
func (s *sweeper) serve() {
	s.t.Helper()
	s.app = &app{t: s.t}
	own, forget := chromedp.NewContext(browser.ctx, chromedp.WithNewBrowserContext())
	s.t.Cleanup(forget)
	if err := chromedp.Do(own); err != nil {
		s.t.Fatal(err)
	}
	s.app.ctx = own
	srv := httptest.NewServer(http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		s.door.RLock()
		defer s.door.RUnlock()
		s.shown.ServeHTTP(w, r)
	}))
	s.t.Cleanup(func() { s.shut(); srv.Close() })
	s.app.url = srv.URL
}

// fresh opens a new copy of the notebook.
func (s *sweeper) fresh() {
	s.t.Helper()
	if s.tab != nil {
		s.do(chromedp.Navigate("about:blank"))
	}
	s.door.Lock()
	defer s.door.Unlock()
	s.shut()
	path := filepath.Join(s.t.TempDir(), "sweep.db")
	if err := os.WriteFile(path, s.book, 0o600); err != nil {
		s.t.Fatal(err)
	}
	book, err := store.Open(path, evening)
	if err != nil {
		s.t.Fatal(err)
	}
	ctx, stop := context.WithCancel(s.t.Context())
	if s.shown, err = web.New(ctx, book); err != nil {
		s.t.Fatal(err)
	}
	s.shut = func() {
		stop()
		book.Close()
		os.Remove(path)
	}
}

// listen opens a tab and hears what happens in it.
func (s *sweeper) listen() {
	ctx, cancel := chromedp.NewContext(s.app.ctx)
	s.t.Cleanup(cancel)
	s.tab = &tab{t: s.t, ctx: ctx, app: s.app}
	s.do(chromedp.EmulateViewport(s.place.width, s.place.height))
	words, _ := json.Marshal(sweepWords)
	_, err := chromedp.Call(
		ctx,
		cdppage.AddScriptToEvaluateOnNewDocument,
		cdppage.AddScriptToEvaluateOnNewDocumentParams{
			Source: "const sweepWords = " + string(words) + ";\n" + sweepScript},
	)
	if err == nil {
		_, err = chromedp.Call(ctx, network.Enable, network.EnableParams{})
	}
	if err == nil {
		_, err = chromedp.Call(ctx, cdppage.SetInterceptFileChooserDialog,
			cdppage.SetInterceptFileChooserDialogParams{Enabled: true})
	}
	if err == nil {
		err = chromedp.Listen(ctx, s.hear(ctx))
	}
	if err != nil {
		s.t.Fatal(err)
	}
}

// hear keeps what the browser tells of a tab.
func (s *sweeper) hear(ctx context.Context) func(any) {
	trouble := func(format string, args ...any) { s.troubles = append(s.troubles, fmt.Sprintf(format, args...)) }
	return func(ev any) {
		s.mu.Lock()
		defer s.mu.Unlock()
		switch e := ev.(type) {
		case *network.EventRequestWillBeSent:
			s.flying[e.RequestID] = true
			s.asked++
			if e.Request.Method != "GET" {
				s.written = true
			}
		case *network.EventResponseReceived:
			if e.Response.Status >= 400 {
				trouble("%s answers %d", e.Response.URL, e.Response.Status)
			}
		case *network.EventLoadingFinished:
			delete(s.flying, e.RequestID)
		case *network.EventLoadingFailed:
			delete(s.flying, e.RequestID)
		case *runtime.EventExceptionThrown:
			trouble("a script fails: %s %v", e.ExceptionDetails.Text, e.ExceptionDetails.Exception)
		case *cdppage.EventFileChooserOpened:
			s.chooser = true
		case *cdppage.EventWindowOpen:
			s.asked++
		case *cdppage.EventJavascriptDialogOpening:
			s.asked++
			go chromedp.Call(ctx, cdppage.HandleJavaScriptDialog, cdppage.HandleJavaScriptDialogParams{Accept: true})
		}
	}
}

// do has the tab do something.
func (s *sweeper) do(steps ...chromedp.Action[chromedp.Void]) {
	s.t.Helper()
	if err := chromedp.Do(s.tab.ctx, steps...); err != nil {
		s.t.Fatal(err)
	}
}

// open opens the place anew.
func (s *sweeper) open() {
	s.t.Helper()
	_, err := chromedp.Call(s.tab.ctx, storage.ClearDataForOrigin,
		storage.ClearDataForOriginParams{Origin: s.app.url, StorageTypes: "cookies,local_storage"})
	if err != nil {
		s.t.Fatal(err)
	}
	s.do(chromedp.Navigate(s.app.url + s.place.path))
	s.tab.wait(`window.sweep && sweep.rest()`)
	s.settle()
}

// settle waits until nothing is asked for any more, a few seconds at most: a sound goes on for longer.
func (s *sweeper) settle() {
	quiet := 0
	for end := time.Now().Add(4 * time.Second); time.Now().Before(end) && quiet < 3; time.Sleep(12 * time.Millisecond) {
		s.mu.Lock()
		if len(s.flying) == 0 {
			quiet++
		} else {
			quiet = 0
		}
		s.mu.Unlock()
	}
	s.mu.Lock()
	clear(s.flying)
	s.mu.Unlock()
}

// list is what can be pressed now.
func (s *sweeper) list() []sweepControl {
	s.t.Helper()
	return eval[[]sweepControl](s.tab, `sweep.list()`)
}

// chosen says whether a control is pressed this time.
func (s *sweeper) chosen(before []sweepControl, c sweepControl) bool {
	share := uint32(12)
	switch {
	case c.Place && len(before) > 0:
		return false
	case c.Frame && s.place.path != "/player":
		return false // the head of the page is the same on every screen
	case s.all && !c.Place:
		return true
	case c.Place && !s.all:
		share = 150 // a neck has a hundred places that all do the same
	case c.Menu && len(before) == 0, len(before) > 0:
		share = 8 // a few of the choices of a few of the menus
	}
	return hashOf(s.commit, s.place.name, c.key())%share == 0
}

// hashOf chooses by words, alike on every machine.
func hashOf(words ...string) uint32 {
	h := fnv.New32()
	for _, w := range words {
		h.Write([]byte(w + "\n"))
	}
	return h.Sum32()
}

// depth is how far the sweep follows what opens: a menu, a sheet in front of the screen, a choice in it.
const depth = 2

// walk presses controls that are there once those before were pressed, and what opens then: that which was not seen
// on the way.
func (s *sweeper) walk(before, seen, list []sweepControl) {
	s.t.Helper()
	seen = append(seen[:len(seen):len(seen)], list...)
	for _, c := range list {
		if s.done[c.key()] {
			continue
		}
		s.done[c.key()] = true
		// By day one of those that are alike is enough: a list of forty scales is one sort of choice.
		if !s.chosen(before, c) || !s.all && s.sorts[c.Sort] {
			continue
		}
		s.sorts[c.Sort] = true
		more := s.press(before, c)
		if len(before) == depth {
			continue
		}
		more = slices.DeleteFunc(more, func(m sweepControl) bool {
			return m.Late || slices.ContainsFunc(seen, func(o sweepControl) bool { return o.Path == m.Path })
		})
		if len(more) > 0 {
			s.walk(append(before[:len(before):len(before)], c), seen, more)
		}
	}
}

// press opens the place, presses what leads to a control and the control itself, and judges what came of it. It gives
// back what can be pressed then, or nothing where the page is another one.
func (s *sweeper) press(before []sweepControl, c sweepControl) []sweepControl {
	s.t.Helper()
	s.open()
	for i, b := range before {
		if !s.hit(before[:i], b) {
			return nil
		}
		s.settle()
	}
	s.count++
	// What a pointer that comes near changes is not what the press does.
	at := eval[sweepPoint](s.tab, fmt.Sprintf(`sweep.place(%q)`, c.Path))
	if at.X > 0 && c.Kind == "press" && !c.Word {
		s.do(chromedp.MouseEvent("mouseMoved", at.X, at.Y))
		s.settle()
	}
	print, address := eval[string](s.tab, `sweep.print()`), eval[string](s.tab, `sweep.address()`)
	eval[any](s.tab, fmt.Sprintf(`sweep.fill(%q)`, c.Path))
	s.mu.Lock()
	s.asked, s.written, s.troubles, s.chooser = 0, false, nil, false
	s.mu.Unlock()
	if !s.hit(before, c) {
		return nil
	}
	s.settle()
	s.tab.wait(`window.sweep && document.readyState == 'complete'`)
	said := eval[string](s.tab, `sweep.trouble()`)
	same := eval[string](s.tab, `sweep.print()`) == print
	here := eval[string](s.tab, `sweep.address()`) == address
	s.mu.Lock()
	asked, written, troubles, chooser := s.asked, s.written, s.troubles, s.chooser
	s.mu.Unlock()
	switch {
	case said != "" && mayBeRefused(c.Name, said):
	case len(troubles) > 0 || said != "":
		s.fail(before, c, "%s %s", said, strings.Join(troubles, "; "))
	case same && asked == 0 && !chooser && !c.Chosen:
		s.fail(before, c, "nothing happens")
	}
	var more []sweepControl
	if here && !written {
		more = s.list()
	}
	if written {
		s.fresh()
	}
	return more
}

// fail says which control of which place went wrong.
func (s *sweeper) fail(before []sweepControl, c sweepControl, format string, args ...any) {
	s.t.Helper()
	way := ""
	for _, b := range before {
		way += b.Name + " › "
	}
	s.t.Errorf("%s%s (%s): %s", way, c.Name, c.Path, fmt.Sprintf(format, args...))
}

// sweepPoint is where a control can be pressed, or why it cannot.
type sweepPoint struct {
	X    float64 `json:"x"`
	Y    float64 `json:"y"`
	Over string  `json:"over"`
	Gone bool    `json:"gone"`
}

// hit presses a control, chooses or types. It says whether it could be.
func (s *sweeper) hit(before []sweepControl, c sweepControl) bool {
	s.t.Helper()
	if c.Kind == "choose" {
		eval[any](s.tab, fmt.Sprintf(`sweep.choose(%q, %d)`, c.Path, c.Option))
		return true
	}
	at := eval[sweepPoint](s.tab, fmt.Sprintf(`sweep.place(%q)`, c.Path))
	for end := time.Now().Add(3 * time.Second); at.Gone || at.Over != ""; time.Sleep(50 * time.Millisecond) {
		if time.Now().After(end) {
			break
		}
		at = eval[sweepPoint](s.tab, fmt.Sprintf(`sweep.place(%q)`, c.Path)) // what comes in late, what still moves
	}
	switch {
	case at.Gone:
		s.fail(before, c, "it is gone when the page is opened again")
		return false
	case at.Over != "":
		s.fail(before, c, "it cannot be reached: there is %s", at.Over)
		return false
	}
	s.do(chromedp.MouseClickXY(at.X, at.Y))
	if c.Kind != "type" {
		return true
	}
	word := eval[string](s.tab, fmt.Sprintf(`sweep.word(%q)`, c.Path))
	if strings.Contains(c.Name, "input.date") || strings.Contains(c.Name, "input.range") {
		eval[any](s.tab, fmt.Sprintf(`sweep.setDate(%q, %q)`, c.Path, word))
		return true
	}
	s.do(chromedp.KeyEvent("a", chromedp.KeyModifiers(chromedp.ModifierCtrl)), chromedp.KeyEvent(word),
		chromedp.KeyEvent(kb.Enter))
	return true
}
