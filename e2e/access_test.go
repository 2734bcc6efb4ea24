package e2e

import (
	_ "embed"
	"encoding/json"
	"fmt"
	"strings"
	"testing"

	"ornamen/core/testline"

	"github.com/chromedp/chromedp"
)

// axe is axe-core 4.14.1 from the npm registry (testdata/axe.LICENSE).
//
//go:embed testdata/axe.min.js
var axe string

// No screen has a fault that the rules of WCAG 2 A and AA name, contrast among them: on a desk, on a phone, in
// daylight and in stage light. Checked by axe-core.
func TestScreensAreAccessible(t *testing.T) {
	for _, world := range []struct {
		name         string
		wide         int64
		light, theme string
	}{
		{name: "desk", wide: 1280, light: "day", theme: "light"},
		{name: "phone", wide: 390, light: "day", theme: "light"},
		{name: "stage light", wide: 1280, light: "stage", theme: "dark"},
		{name: "phone in stage light", wide: 390, light: "stage", theme: "dark"},
	} {
		if !testline.Night() && (world.wide == 390) != (world.theme == "dark") {
			continue // by day each size and each light once
		}
		t.Run(world.name, func(t *testing.T) {
			t.Parallel()
			p := demoApp(t).open("/player")
			p.do(chromedp.EmulateViewport(world.wide, 844))
			eval[bool](p, `(localStorage.setItem('ornamen-light', '`+world.light+`'), true)`)
			p.go_("/player")
			p.wait(
				fmt.Sprintf(`innerWidth == %d && document.documentElement.dataset.bsTheme == '%s'`, world.wide,
					world.theme),
			)
			accessible(p, world.name)
		})
	}
}

// accessible asks axe about every screen as it stands.
func accessible(p *tab, world string) {
	for _, s := range []struct {
		name, path string
		prepare    func(*tab)
	}{
		{"notebook", "/?steps=true", nil},
		{"tones", "/tones?tonic=C%23&scale=minor+pentatonic&add=9,+b5&beside=dorian&chord=F%23m7&at=6:9", nil},
		{"runs", "/runs", nil},
		{"runs restrung", "/runs?key=C%23+natural+minor&cell=3+2+1+4&times=8&pick=economy&show=restring", nil},
		{"player", "/player", nil},
		{"changes", "/licks/1/changes?chord=2", nil},
		{"chords alone", "/backing", nil},
		{"ways over chords", "/licks/2/changes", func(p *tab) { p.click("#movemenu"); p.sheet() }},
		{"practice", "/practice?lick=16", nil},
		{"log", "/practice/log", nil},
		{"set", "/sets/2", nil},
		{"played through", "/sets/1/through", nil},
		{"versions", "/licks/17/versions", nil},
		{"recolour", "/licks/15/recolour?tonic=C%23&scale=dorian", nil},
		{"bench", "/licks/17", func(p *tab) { p.ready(); p.wait(`document.querySelector('.fix')`) }},
		{"bench, selected", "/licks/17", func(p *tab) { p.ready(); p.keys("s"); p.wait(`document.querySelector('.chosen-range')`) }},
		{"hands", "/licks/17", func(p *tab) { p.ready(); p.keys("h"); p.sheet() }},
	} {
		p.go_(s.path)
		if s.prepare != nil {
			s.prepare(p)
		}
		eval[bool](p, axe+"; true")
		eval[bool](
			p,
			`(axe.run(document, {runOnly: ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'best-practice'], rules: `+
				`{'label-content-name-mismatch': {enabled: true}, 'region': {enabled: false}}}).then(r => { `+
				`window.axeFound = JSON.stringify(r.violations.map(v => ({id: v.id, impact: v.impact, nodes: `+
				`v.nodes.map(n => n.html.slice(0, 140) + ' ' + (n.any[0]?.message ?? '').slice(0, 160))}))) }), `+
				`true)`,
		)
		p.wait(`window.axeFound`)
		var found []struct {
			ID, Impact string
			Nodes      []string
		}
		if err := json.Unmarshal([]byte(eval[string](p, `window.axeFound`)), &found); err != nil {
			p.t.Fatal(err)
		}
		for _, f := range found {
			p.t.Errorf("%s, %s: %s (%s), %d places:\n  %s", world, s.name, f.ID, f.Impact, len(f.Nodes),
				strings.Join(f.Nodes[:min(4, len(f.Nodes))], "\n  "))
		}
	}
}

// sheet waits until the sheet of other ways stands with its offers.
func (t *tab) sheet() {
	t.t.Helper()
	t.wait(`document.querySelector('.offer') && getComputedStyle(document.querySelector('#hands')).opacity == 1`)
}
