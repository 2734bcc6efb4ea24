package e2e

import (
	"bytes"
	"context"
	"fmt"
	"os"
	"path/filepath"
	"strings"
	"sync"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"

	"ornamen/core/lick"
	"ornamen/internal/archive"
	"ornamen/internal/store"
)

// Two tabs on the same thing: of settings each may change what the other has not, a set’s change on an older version is
// refused and nothing of it is done, and a round is taken back by the tab that shows it. What is undone is made again.
func TestTabsSideBySide(t *testing.T) {
	t.Parallel()
	a := demoApp(t)
	one, two := a.open("/player"), a.open("/player")
	field := func(p *tab, name, value string) {
		t.Helper()
		p.wait(`document.body.dataset.heard && document.querySelector('#player-form')`)
		eval[any](p, fmt.Sprintf(`(() => { const f = document.querySelector('#player-form').elements[%q]; f.value = %q; `+
			`f.dispatchEvent(new Event('change', {bubbles: true})); })()`, name, value))
	}
	shows := func(p *tab, name, value string) {
		t.Helper()
		p.wait(fmt.Sprintf(`document.querySelector('#player-form')?.elements[%q].value == %q`, name, value))
	}
	field(one, "size", "large")
	one.wait(`document.querySelector('#player-line').innerText.startsWith('Large')`)
	field(two, "frets", "24")
	shows(two, "size", "large")
	shows(two, "frets", "24")
	// The first tab still shows what was before: it takes nothing back of what it has not seen.
	one.click(`[data-setting="/player/undo"]`)
	one.wait(`document.querySelector('#notice').innerText.includes('changed elsewhere')`)
	field(one, "frets", "21")
	one.wait(`document.querySelector('#notice').innerText.includes('changed elsewhere')`)
	two.click(`[data-setting="/player/undo"]`)
	shows(two, "frets", "22")
	shows(two, "size", "large")
	two.click(`[data-setting="/player/redo"]`)
	shows(two, "frets", "24")

	// A set: the older page removes nothing, whichever lick stands there by now.
	one.go_("/sets/2")
	one.wait(`document.body.dataset.heard && document.querySelectorAll('.setrow').length == 3`)
	two.go_("/sets/2")
	two.wait(`document.body.dataset.heard && document.querySelectorAll('.setrow').length == 3`)
	const titles = `[...document.querySelectorAll('.setrow')].map(r => r.querySelector('a')?.innerText).join('|')`
	before := eval[string](one, titles)
	one.click("#item-1 [data-do=down]")
	one.wait(titles + fmt.Sprintf(" != %q", before))
	moved := eval[string](one, titles)
	two.click("#item-1")
	two.keys(kb.Delete)
	two.wait(`document.querySelector('#notice').innerText.includes('changed elsewhere')`)
	one.click("[data-do=undo]")
	one.wait(titles + fmt.Sprintf(" == %q", before))
	one.click("[data-do=redo]")
	one.wait(titles + fmt.Sprintf(" == %q", moved))
	one.ctrl("z")
	one.wait(titles + fmt.Sprintf(" == %q", before))

	// Practice: each tab takes back what it shows.
	for _, p := range []*tab{one, two} {
		p.go_("/practice?lick=15&part=")
		p.wait(`document.querySelector('.stand') && document.body.dataset.heard`)
	}
	one.keys(kb.PageDown)
	one.wait(`document.querySelector('.lastword')?.innerText.includes('clean at')`)
	two.keys(kb.PageUp)
	two.wait(`document.querySelector('.lastword')?.innerText.includes('missed at')`)
	one.click(`[data-say=undo]`)
	one.wait(`document.querySelector('.lastword')?.innerText.includes('missed at')`)
	one.click(`[data-say=redo]`)
	one.wait(`document.querySelector('.lastword')?.innerText.includes('clean at')`)
	two.click(`[data-say=note]`)
	two.wait(`document.querySelector('.lastword')?.innerText.includes('missed note')`)
	two.click(`[data-say=undo]`)
	two.wait(`document.querySelector('.lastword')?.innerText.includes('clean at')`)
}

// A notebook is read in while a page shows how far it is, here behind another one that is held half way: it is
// stopped, and nothing of it is there; read in again it comes whole.
func TestLongImport(t *testing.T) {
	t.Parallel()
	file := filepath.Join(t.TempDir(), "long.zip")
	if err := os.WriteFile(file, longHistory(t, 12, 20), 0o600); err != nil {
		t.Fatal(err)
	}
	a := start(t, filepath.Join(t.TempDir(), "own.db"))
	p := a.open("/")
	choose := func() {
		t.Helper()
		p.wait(`document.querySelector('input[type=file]') && document.body.dataset.heard`)
		p.do(chromedp.SetUploadFiles(chromedp.CSS("input[type=file]"), []string{file}))
	}

	release := hold(t, a)
	choose()
	p.wait(`document.querySelector('#import-progress progress')`)
	p.click(".reading button")
	p.wait(`document.body.innerText.includes('was stopped; nothing of it was taken in')`)
	release()
	p.go_("/")
	p.wait(`document.body.dataset.heard`)
	if s := p.text("main"); strings.Contains(s, "Long 1") {
		t.Error("what was stopped left a lick")
	}

	choose()
	p.wait(`location.pathname == '/' && document.body.innerText.includes('Long 12')`)
}

// hold keeps the turn to write, as another long import would, until it is released.
func hold(t *testing.T, a *app) (release func()) {
	t.Helper()
	begun, free, done := make(chan bool), make(chan bool), make(chan error)
	l := lick.New()
	l.Title = "Held"
	chain := store.Chain{
		Key:  "held",
		Head: 1,
		Past: []store.Past{{Data: l.Encode(), What: "edit", At: evening()}},
	}
	var once sync.Once
	go func() {
		_, err := a.store.AddAll(context.Background(), store.Whole{
			Chains: []store.Chain{chain},
			Progress: func(int, int) {
				once.Do(func() { close(begun) })
				<-free
			},
		})
		done <- err
	}()
	<-begun
	return func() {
		t.Helper()
		close(free)
		if err := <-done; err != nil {
			t.Error(err)
		}
	}
}

// longHistory is a notebook as a zip: so many licks with so many versions each.
func longHistory(t *testing.T, licks, versions int) []byte {
	t.Helper()
	s, err := store.Open(filepath.Join(t.TempDir(), "long.db"), evening)
	if err != nil {
		t.Fatal(err)
	}
	defer s.Close()
	var w store.Whole
	for k := range licks {
		c := store.Chain{Key: fmt.Sprintf("long%d", k), Head: versions}
		l := lick.New()
		l.Title = fmt.Sprintf("Long %d", k+1)
		for i := range 32 {
			l.Notes = append(l.Notes, lick.Note{At: lick.NewTime(int64(i), 8), Len: lick.NewTime(1, 8), String: 2, Fret: 5})
		}
		for i := range versions {
			l.Tempo = float64(60 + i%100)
			c.Past = append(c.Past, store.Past{Parent: i, Data: l.Encode(), What: "edit", At: evening()})
		}
		w.Chains = append(w.Chains, c)
	}
	var b bytes.Buffer
	_, err = s.AddAll(context.Background(), w)
	if err == nil {
		_, err = archive.Write(context.Background(), &b, s)
	}
	if err != nil {
		t.Fatal(err)
	}
	return b.Bytes()
}
