package e2e

import (
	"os"
	"path/filepath"
	"testing"
)

// shots are the pictures of the README: a name, an address, and what to do
// there before the picture is taken.
var shots = []struct {
	name, path string
	prepare    func(*tab)
}{
	{"notebook", "/", nil},
	{"bench", "/licks/10", func(p *tab) { p.ready(); p.wait(`document.querySelector('.fix')`) }},
	{"bench-tones", "/licks/7", func(p *tab) {
		p.ready()
		p.click("#tones-pill")
		p.wait(`document.querySelector('.tones-menu.show')`)
	}},
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
