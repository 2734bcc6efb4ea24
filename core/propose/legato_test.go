package propose

import (
	"strings"
	"testing"

	"ornamen/core/lick"
	"ornamen/core/pick"
	"ornamen/core/testline"
)

// Legato slurs what can be slurred, keeps what is set, and picks what no hand can
// slur (common practice: the first note on a string is picked).
func TestLegato(t *testing.T) {
	for _, c := range []struct{ line, want string }{
		{"3:5 7 5", "-hp"},
		{"3:5 5 7", "--h"},               // the same fret again is picked
		{"3:5 2:5 3:7 2:8", "----"},      // every note on another string
		{"3:0 2 0", "-hp"},               // from and to the open string
		{"3:5 7/U 8", "--h"},             // a stroke that is set stays
		{"3:5 7/s 8", "-sh"},             // so does a slide
		{"3:1 7", "-s"},                  // too far for a hammer: a slide
		{"3:5+2:5 3:7+2:7 2:8", "-----"}, // chords are left alone
		{"1:15 12 2:15 12", "-p-p"},
	} {
		l := testline.Build(t, 100, c.line)
		for i := range l.Notes {
			if l.Notes[i].Stroke != "" {
				l.Notes[i].Lock = lick.LockSet{lick.FieldStroke}
			}
		}
		p := asked(usual).newProposer(t.Context(), l, Request{Way: pick.Legato})
		got := ""
		slurred, _ := p.legato(t.Context(), p.hand, p.base)
		for _, n := range slurred.Notes {
			if n.Slur == "" {
				got += "-"
			} else {
				got += string(n.Slur)[:1]
			}
		}
		if got != c.want {
			t.Errorf("%s: %s, want %s", c.line, got, c.want)
		}
	}
}

// Where a slide can go to several places they are offered side by side, and come
// out close to one another (common practice: index or little finger, both right).
func TestOtherSlides(t *testing.T) {
	l := testline.Build(t, 100, "5:3 5 7 9 4:5 7 9")
	slides := map[string]bool{}
	for _, p := range propose(usual, l, Request{Way: pick.Legato, Best: 6}) {
		var at []string
		for i, n := range p.Lick.Notes {
			if n.Slur == lick.Slide {
				at = append(at, string(rune('1'+i)))
			}
		}
		slides[strings.Join(at, ",")] = true
	}
	if len(slides) < 2 {
		t.Errorf("the slide is only ever at %v", slides)
	}
}

// Every proposal says why in a sentence that names what differs.
func TestWhys(t *testing.T) {
	l := testline.Build(t, 120, "6:5 8 5:5 7 4:5 7 3:5 7 2:5 8 1:5 8")
	for i, p := range propose(usual, l, Request{Best: 6, Place: true}) {
		switch {
		case i == 0 && !strings.HasPrefix(p.Why, "Recommended"):
			t.Errorf("the first says %q", p.Why)
		case i > 0 && !strings.Contains(p.Why, ":"):
			t.Errorf("number %d says %q", i+1, p.Why)
		}
		if p.Report == nil || p.Report.Ceiling != p.Ceiling {
			t.Errorf("%q has another report", p.Why)
		}
	}
}

// A line that cannot be played at all still gets a hand, and is told so.
func TestProposeTheImpossible(t *testing.T) {
	p := propose(usual, testline.Build(t, 100, "1:1/f1 3:9/f4+1:1/f1"), Request{})[0]
	if p.Ceiling != 0 || p.BestPossible != 0 || !strings.HasPrefix(p.Why, "No hands") {
		t.Errorf("ceiling %v of %v: %q", p.Ceiling, p.BestPossible, p.Why)
	}
}

// A rake comes from the thick strings and takes time.
func TestRake(t *testing.T) {
	l := testline.Build(t, 100, "3:5 2:5 1:5")
	before := check(usual, l).Ceiling
	l.Notes[1].Rake = true
	r := check(usual, l)
	if r.Lick.Notes[1].Stroke != lick.Down || r.Ceiling >= before {
		t.Errorf("raked it is picked %q, clean up to %v, before %v", r.Lick.Notes[1].Stroke, r.Ceiling, before)
	}
}
