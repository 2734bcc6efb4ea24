package e2e

import (
	"fmt"
	"io"
	"net/http"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"

	"ornamen/internal/store"
)

// fetched is a file that the application hands over.
func (a *app) fetched(path, name string) string {
	a.t.Helper()
	res, err := http.Get(a.url + path)
	if err != nil {
		a.t.Fatal(err)
	}
	defer res.Body.Close()
	data, err := io.ReadAll(res.Body)
	if err != nil || res.StatusCode != http.StatusOK {
		a.t.Fatalf("%s: %s %v %.200s", path, res.Status, err, data)
	}
	file := filepath.Join(a.t.TempDir(), name)
	if err := os.WriteFile(file, data, 0o600); err != nil {
		a.t.Fatal(err)
	}
	return file
}

// A teacher hands a week's homework to a student's own notebook; it is practised there; what comes back stands in the
// log of that student and in no other, however often it is read.
func TestALesson(t *testing.T) {
	t.Parallel()
	teacher := demoApp(t)
	set := teacher.fetched("/sets/2/set.zip?page=true", "week.zip")
	student := start(t, filepath.Join(t.TempDir(), "student.db"))
	p := student.open("/")
	p.wait(`document.querySelector('input[type=file]') && document.body.dataset.heard`)
	p.do(chromedp.SetUploadFiles(chromedp.CSS("input[type=file]"), []string{set}))
	p.wait(`location.pathname == '/sets/1' && document.querySelectorAll('.setrow').length == 3`)
	if name := eval[string](p, `document.querySelector('.setname').value`); name != "Pim’s week" {
		t.Errorf("the set is called %q", name)
	}
	// The student says who it is, and practises from the set: its tempo is the one that is wanted.
	p.go_("/player")
	p.wait(`document.body.dataset.heard`)
	p.do(chromedp.SetValue(chromedp.CSS(".namedform input[name=name]"), "Pim"))
	p.wait(`document.querySelector('.namedform input[name=name]')?.value == 'Pim'`)
	p.go_("/sets/1")
	p.wait(`document.body.dataset.heard`)
	p.click(`a[href="/practice?set=1"]`)
	p.wait(`document.querySelector('.stand') && document.querySelector('#practice-state').dataset.set == 1`)
	p.wait(`document.querySelector('.paces')?.innerText.includes('4 December') && document.body.dataset.heard`)
	p.click(`.today li:nth-child(2) a`)
	p.wait(`document.querySelector('.today li:nth-child(2).on')`)
	for n := range 3 {
		p.keys(kb.PageDown)
		p.wait(fmt.Sprintf(`document.querySelectorAll('.pip.on').length == %d`, (n+1)%3))
	}
	report := student.fetched("/practice/report.json?set=1", "pim.json")

	// The teacher reads it: once the file does not say into whose log, then it is known.
	q := teacher.open("/practice/log")
	before := q.text(".practice-head .summary")
	read := func(who string) {
		q.go_("/practice/log")
		q.wait(`document.body.dataset.heard`)
		if who != "" {
			q.do(chromedp.SetValue(chromedp.CSS(".readlog select"), who))
		}
		q.do(chromedp.SetUploadFiles(chromedp.CSS(".readlog input[type=file]"), []string{report}))
	}
	read("")
	q.wait(`document.body.innerText.includes('say whose log it goes into')`)
	read("Maro Velt")
	q.wait(
		`document.querySelector('h1')?.innerText == 'Log of Maro Velt' && document.body.innerText.includes('3 lines added')`,
	)
	// That was the wrong one. It is taken back as a whole, and the report goes where it belongs.
	q.wait(`document.body.dataset.heard`)
	q.click(".notice [data-post]")
	q.wait(`document.body.innerText.includes('3 lines taken back')`)
	read("Pim Ostrand")
	q.wait(
		`document.querySelector('h1')?.innerText == 'Log of Pim Ostrand' && document.body.innerText.includes('3 lines added')`,
	)
	read("")
	q.wait(`document.body.innerText.includes('0 lines added to the log of Pim Ostrand. 3 were there already')`)
	read("Maro Velt")
	q.wait(`document.body.innerText.includes('goes into no other log')`)
	// Ines’s own log is what it was.
	q.go_("/practice/log")
	q.wait(`document.querySelector('.whoplays select')`)
	eval[any](q, `(() => { const s = document.querySelector('.whoplays select'); `+
		`s.selectedIndex = 0; s.form.submit(); })()`)
	q.wait(`document.querySelector('h1')?.innerText == 'Log of Ines Halloran'`)
	if after := q.text(".practice-head .summary"); after != before {
		t.Errorf("Ines’s log was %q and is %q", before, after)
	}
	// And the set, taken in once more, changes nothing.
	p.go_("/")
	p.wait(`document.querySelector('input[type=file]') && document.body.dataset.heard`)
	p.do(chromedp.SetUploadFiles(chromedp.CSS("input[type=file]"), []string{set}))
	p.wait(`document.querySelector('.notice')?.innerText.includes('nothing changed')`)
}

// One is chosen at the top of every screen; a tab that is open stays with its player, and fingers of one's own leave
// those of the others as they are.
func TestPlayers(t *testing.T) {
	t.Parallel()
	a := demoApp(t)
	p := a.open("/licks/15")
	p.ready()
	p.wait(`document.querySelectorAll('.whomrow').length == 3`)
	first := eval[string](p, `document.querySelector('.whomrow.on').innerText`)
	if !strings.HasPrefix(first, "Ines Halloran") {
		t.Errorf("%q plays", first)
	}
	q := a.open("/practice?lick=15&part=")
	q.wait(`document.querySelector('.stand') && document.body.dataset.heard`)
	for _, screen := range []string{
		"/", "/tones", "/runs", "/licks/15", "/licks/15/changes", "/practice", "/player", "/sets",
	} {
		p.go_(screen)
		p.wait(`document.querySelector('.whoplays select') && document.body.dataset.heard`)
	}
	p.go_("/licks/15")
	p.ready()
	eval[any](p, `(() => { const s = document.querySelector('.whoplays select'); s.selectedIndex = 1; `+
		`s.dispatchEvent(new Event('change', {bubbles: true})); })()`)
	p.wait(
		`document.querySelector('.whoplays select')?.selectedIndex == 1 && document.querySelector('#player-line').innerText.startsWith('Small')`,
	)
	p.ready()
	// Maro sets a finger; the other tab is Ines’s still, and so is the round that is logged there.
	p.go_("/licks/15?note=3&lane=finger")
	p.ready()
	p.keys("4")
	p.wait(`document.querySelector('#bench [data-go=undo]:not([disabled])')`)
	q.keys(kb.PageDown)
	q.wait(`document.querySelector('.lastword')`)
	a.stop()
	s, err := store.Open(a.db, evening)
	if err != nil {
		t.Fatal(err)
	}
	defer s.Close()
	list, err := s.Players(t.Context())
	if err != nil || len(list) != 3 {
		t.Fatalf("%v %v", list, err)
	}
	maro, err := s.Log(t.Context(), list[1].ID)
	if err != nil || len(maro) != 0 {
		t.Errorf("Maro’s log has %d lines, %v", len(maro), err)
	}
	e, err := s.Get(t.Context(), 15)
	if err != nil {
		t.Fatal(err)
	}
	own, shared := e.Lick.For(list[1].Own()).Notes[2], e.Lick.Notes[2]
	if own.Finger.String() != "4" || shared.Locked("finger") {
		t.Errorf("Maro has %s, all share %s %v", own.Finger, shared.Finger, shared.Lock)
	}
}

// What suits one who cannot play a line yet becomes fingers of their own, or a lick of its own.
func TestForWhom(t *testing.T) {
	t.Parallel()
	a := demoApp(t)
	p := a.open("/licks/17")
	p.ready()
	p.wait(`document.querySelectorAll('.whomrow').length == 3`)
	p.click(`.whomrow:nth-child(2)`)
	p.wait(`document.querySelectorAll('#offers .offer').length > 1`)
	if title := p.text("#hands-title"); title != "For Maro Velt" {
		t.Errorf("the sheet says %q", title)
	}
	n := eval[int](p,
		`1 + [...document.querySelectorAll('#offers .offer')].findIndex(o => o.innerText.includes('’s own'))`)
	p.keys(fmt.Sprint(n))
	p.wait(
		`document.querySelectorAll('.whomrow').length == 3 && document.querySelector('.whom').innerText.includes('Ines ` +
			`Halloran 88') && !document.querySelector('.whom').innerText.includes('Maro Velt• 88')`,
	)
}

// A set is written by keys, undone, put aside and brought back; played through it goes on by itself.
func TestSets(t *testing.T) {
	t.Parallel()
	a := demoApp(t)
	p := a.open("/sets?lick=15")
	p.wait(`document.querySelector('.newset input') && document.body.dataset.heard`)
	p.click(".newset input")
	p.keys("T", "e", "n", kb.Enter)
	p.wait(`document.querySelectorAll('.setrow').length == 1 && document.body.dataset.heard`)
	for _, title := range []string{"Mill wheel", "Quarry ladder"} { // the second one is a saved run
		p.click(".addline input")
		p.do(chromedp.SetValue(chromedp.CSS(".addline input"), title))
		p.keys(kb.Enter)
		p.wait(fmt.Sprintf(`[...document.querySelectorAll('.setrow h2')].some(h => h.innerText == %q)`, title))
	}
	eval[any](p, `document.querySelector('#item-3').focus()`)
	p.do(chromedp.KeyEvent(kb.ArrowUp, chromedp.KeyModifiers(chromedp.ModifierShift)))
	p.wait(`document.querySelector('#item-2 h2').innerText == 'Quarry ladder'`)
	version := eval[string](p, `document.querySelector('#set-state').dataset.base`)
	p.do(chromedp.SetValue(chromedp.CSS("#item-2 [data-do=tempo]"), "84"))
	p.wait(fmt.Sprintf(
		`document.querySelector('#item-2 .why') && document.querySelector('#set-state').dataset.base > %s`, version))
	p.do(chromedp.SetValue(chromedp.CSS("#item-1 [data-do=key]"), "E"))
	p.wait(`document.querySelector('#item-1 h2').innerText == 'Quarry steps, in E'`)
	p.click(`button[data-do=undo]`)
	p.wait(`document.querySelector('#item-1 h2').innerText == 'Quarry steps'`)
	eval[any](p, `document.querySelector('#item-3').focus()`)
	p.keys(kb.Delete)
	p.wait(`document.querySelectorAll('.setrow').length == 2`)
	p.do(chromedp.SetValue(chromedp.CSS("#item-1 [data-do=tempo]"), "300")) // it is heard to its end below
	p.wait(`document.querySelector('#item-1 .word').innerText == 'Breaks'`)
	id := eval[string](p, `document.querySelector('#set-state').dataset.set`)
	p.go_("/sets/" + id + "/through")
	p.wait(`document.querySelector('.bighead') && document.body.dataset.heard`)
	p.keys(kb.ArrowRight)
	p.wait(
		`document.querySelector('.bighead h1').innerText == 'Quarry ladder' && document.querySelector('.bigtempo').innerText == '84'`,
	)
	p.keys(kb.ArrowLeft)
	p.wait(`document.querySelector('.bighead h1').innerText == 'Quarry steps'`)
	p.click(`[data-through=all]`)
	p.wait(`listening.on && listening.log.length > 2`)
	p.wait(`document.querySelector('.bighead h1').innerText == 'Quarry ladder' && listening.on`)
	p.click(`[data-through=all]`)
	p.wait(`!listening.on`)
}
