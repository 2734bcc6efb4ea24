package judge

import (
	"math"
	"slices"
	"testing"

	"ornamen/core/bend"
	"ornamen/core/lick"
	"ornamen/core/player"
	"ornamen/core/testline"
)

func TestDefaultProfileIsTheDefaultPlayer(t *testing.T) {
	got, err := player.DefaultProfile().Player()
	if err != nil {
		t.Fatal(err)
	}
	l := testline.Build(t, 120, "6:5 7 8 5:5 7 8 4:5 7 9 3:5 7 9 2:6 8 10 1:7 8 10")
	if a, b := check(NewEngine(got), l), check(usual, l); a.Ceiling != b.Ceiling ||
		got.Hand != player.Default().Hand ||
		got.Bends != player.Default().Bends {
		t.Errorf("ceilings %v and %v", a.Ceiling, b.Ceiling)
	}
}

// Measurements scale what they measure: the line that was tapped has the tapped
// tempo as its ceiling.
func TestMeasurementsScaleTheModel(t *testing.T) {
	p := player.DefaultProfile()
	p.Sixteenths, p.Hammering = 140, 100
	pl, err := p.Player()
	if err != nil {
		t.Fatal(err)
	}
	e := NewEngine(pl)
	picked := testline.Build(t, 100, "3:9/f1/D 9/f1/U 9/f1/D 9/f1/U")
	picked.Loop = true
	if got := check(e, picked).Ceiling; math.Abs(float64(got)-140) > 1e-6 {
		t.Errorf("sixteenths tapped at 140 are clean up to %v", got)
	}
	hammered := testline.Build(t, 80, "3:9/f1/D 10/f2/h 12/f4/h")
	hammered.Loop = true
	if got := check(e, hammered).Ceiling; math.Abs(float64(got)-100) > 1e-6 {
		t.Errorf("hammering tapped at 100 is clean up to %v", got)
	}
	p.HoldFrom, p.HoldTo = 1, 5 // a large hand: five frets from the first with ease
	if pl, err = p.Player(); err != nil || pl.Hand.Name != "measured" || pl.Hand.Comfort[2] < 100 {
		t.Errorf("hold: %v, %+v", err, pl.Hand)
	}
	p.BendString, p.BendFret = 3, 7
	if pl, err = p.Player(); err != nil || math.Abs(float64(pl.Bends.Three)-7.2) > 0.15 {
		t.Errorf("bend: %v, three fingers hold %v N, the bend of the check table takes 7.2", err, pl.Bends.Three)
	}
}

// A bend made before the string sounds has the time since the note before it.
func TestPrebend(t *testing.T) {
	l := testline.Build(t, 100, "1:5*1/4 3:7/b2*1/16 2:5*1/4")
	l.Notes[1].Bend.Shape = "prebend"
	if b := loadOf(check(usual, l), 1, Bending); b.Have != 600 {
		t.Errorf("a prebend after a quarter at 100 has %v ms, want 600", b.Have)
	}
	l.Notes[1].Bend.Shape = "prebend-release"
	if b := loadOf(check(usual, l), 1, Bending); b.Have != 150 {
		t.Errorf("its release has the note, 150 ms, not %v", b.Have)
	}
}

func loadOf(r *Report, i int, side Side) Load {
	for _, x := range r.Notes[i].Loads {
		if x.Side == side {
			return x
		}
	}
	return Load{}
}

// A bar laid before and after a bend stays down, so its finger is no helper.
func TestBarIsNoHelper(t *testing.T) {
	free := check(usual, testline.Build(t, 60, "2:3/f1*1/4 3:4/f2/b2*1/4 2:3/f1*1/4"))
	bar := check(usual, testline.Build(t, 60, "2:3/f1/B*1/4 3:4/f2/b2*1/4 2:3/f1/B*1/4"))
	if has(free, "bend-weak") || !has(bar, "bend-weak") && !has(bar, "bend-heavy") {
		t.Errorf("with the index free: %v; laid as a barre: %v", codes(free), codes(bar))
	}
}

func has(r *Report, code string) bool {
	for _, f := range r.Findings {
		if string(f.Code) == code {
			return true
		}
	}
	return false
}

func TestStrictness(t *testing.T) {
	l := testline.InKey(testline.Build(t, 60, "3:7/bc*1/4 3:9/b2*1/4"), "A", "minor pentatonic")
	for _, c := range []struct {
		strict player.Strictness
		want   int
	}{{player.Easy, 0}, {player.Usual, 1}, {player.Every, 2}} {
		pl := player.Default()
		pl.Strict = c.strict
		n := 0
		for _, f := range check(NewEngine(pl), l).Findings {
			if f.Code == "bend-aimless" {
				n++
			}
		}
		if n != c.want {
			t.Errorf("%s: %d aimless bends, want %d", c.strict, n, c.want)
		}
	}
}

// Behind the bending finger stand those that are free, two at most, the nearest first, or
// those that the player names. A bend that is shaken too needs the time of both.
func TestHelpersOfABend(t *testing.T) {
	for _, c := range []struct {
		line string
		with []lick.Finger
		want []lick.Finger
	}{
		{"3:9/f3/b2", nil, []lick.Finger{lick.Middle, lick.Index}},
		{"3:9/f4/b2", nil, []lick.Finger{lick.Ring, lick.Middle}},
		{"3:9/f3/b2", []lick.Finger{lick.Middle}, []lick.Finger{lick.Middle}},
		{"3:9/f3/b1", nil, nil},
		{"3:1/f2/b2", nil, []lick.Finger{lick.Index}},
		{"3:9/f3/b2+1:7/f1", nil, []lick.Finger{lick.Middle}},
	} {
		l := testline.Build(t, 60, c.line)
		l.Notes[0].Bend.With = c.with
		if got := check(usual, l).Notes[0].Helpers; !slices.Equal(got, c.want) {
			t.Errorf("%s with %v: helped by %v, want %v", c.line, c.with, got, c.want)
		}
	}
	bent, both := check(usual,
		testline.Build(t, 60, "3:9/f3/b2*1/4")), check(usual, testline.Build(t, 60, "3:9/f3/b2/v*1/4"))
	need := loadOf(bent, 0, Bending).Need
	if got := loadOf(both, 0, Shaking).Need; math.Abs(got-need-bend.VibratoTime) > 1e-9 {
		t.Errorf("bent and shaken needs %v, the bend alone %v", got, need)
	}
}
