package e2e

import (
	"os"
	"path/filepath"
	"testing"

	"github.com/chromedp/chromedp"
)

// shots are the pictures of the README: a name, an address, and what to do
// there before the picture is taken.
var shots = []struct {
	name, path string
	prepare    func(*tab)
}{
	{"notebook", "/", nil},
	{"bench", "/licks/17", func(p *tab) { p.ready(); p.wait(`document.querySelector('.fix')`) }},
	{"bench-playing", "/licks/17", func(p *tab) {
		p.ready()
		p.wait(`document.querySelector('.fix')`)
		p.keys("g", " ")
		p.wait(`document.querySelector('g.col.lit:nth-of-type(n+5)')`)
	}},
	{"bench-stage", "/licks/17", func(p *tab) {
		p.stage()
		p.ready()
		p.wait(`document.querySelector('.fix')`)
	}},
	{"sheet", "/sets/2/sheet", nil},
	{"bench-phone", "/licks/17", func(p *tab) {
		p.do(chromedp.EmulateViewport(390, 844))
		p.go_("/licks/17")
		p.ready()
		p.wait(`document.querySelector('.fix')`)
	}},
	{"tones", "/tones?tonic=C%23&scale=minor+pentatonic&add=9,+b5&beside=dorian&chord=F%23m7&at=6:9", nil},
	{"tones-bends", "/tones?tonic=Eb&scale=mixolydian&layout=3nps&bends=any&keys=any&labels=fingers&at=6:11", nil},
	{"recolour", "/licks/15/recolour?tonic=C%23&scale=dorian", nil},
	{"player", "/player", nil},
	{"changes", "/licks/1/changes?chord=2", nil},
	{"practice", "/practice?lick=16&part=bottleneck%2C+11+to+16", nil},
	{"practice-phone", "/practice", func(p *tab) {
		p.do(chromedp.EmulateViewport(390, 844))
		p.go_("/practice?lick=16&part=bottleneck%2C+11+to+16")
		p.wait(`document.querySelector('.stand')`)
	}},
	{"set", "/sets/2", nil},
	{"practice-log", "/practice/log", nil},
	{"versions", "/licks/17", func(p *tab) {
		p.ready()
		p.wait(`document.querySelector('.fix')`)
		p.keys(".")
		p.wait(`document.querySelector('.verdict .word')?.innerText != 'Breaks'`)
		p.go_("/licks/17/versions")
		p.wait(`document.querySelector('.differences')`)
	}},
	{"runs", "/runs", nil},
	{"hands", "/licks/15", func(p *tab) {
		p.ready()
		p.click("[data-hands]")
		p.wait(`document.querySelector('.offer')`)
		p.click("[data-ask-free]")
		p.wait(`document.querySelector('[data-ask-free].on')`)
		p.wait(`getComputedStyle(document.querySelector('#hands')).opacity == 1`)
	}},
	{"import", "/", func(p *tab) {
		eval[bool](p, `(document.querySelector('.import [name=text]').value = [`+
			`'> The sluice gate', '> by a friend', '> Tuning: Drop D', '>', '>       Am             G', '> e|-------5-8-5---|-7b9r7-5---------|', `+
			`'> B|---5-8-------8-|---------8-5-----|', '> G|-7-------------|-------------7~~-|', '> D|---------------|-----------------|', `+
			`'> A|---------------|-----------------|', '> D|---------------|-----------------|', '> PM------|'].join('\n'), true)`)
		eval[bool](p, `document.querySelector('.import form, form.import').submit() ?? true`)
		p.wait(`document.querySelector('.understood svg')`)
	}},
}

// stage shows the page in stage light; the next ones of the browser too, until it is day again.
func (t *tab) stage() {
	t.t.Helper()
	eval[bool](t, `(localStorage.setItem('ornamen-light', 'stage'), true)`)
	t.do(chromedp.Reload())
	t.wait(`document.documentElement.dataset.bsTheme == 'dark' && document.body.dataset.heard`)
	eval[bool](t, `(localStorage.removeItem('ornamen-light'), true)`)
}

// TestShots takes the pictures into the folder that ORNAMEN_SHOTS names.
func TestShots(t *testing.T) {
	dir := os.Getenv("ORNAMEN_SHOTS")
	if dir == "" {
		t.Skip("ORNAMEN_SHOTS names no folder")
	}
	a := demoApp(t)
	for _, s := range shots {
		p := a.open(s.path)
		if s.prepare != nil {
			s.prepare(p)
		}
		p.wait(`document.fonts.status == 'loaded'`)
		p.shot(filepath.Join(dir, s.name+".png"))
	}
}
