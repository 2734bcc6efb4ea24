package sound

import (
	"fmt"
	"math"
	"slices"
	"testing"

	"gonum.org/v1/gonum/dsp/fourier"

	"ornamen/core/lick"
	"ornamen/core/neck"
)

// rung is one note that rings for so many seconds, dry.
func rung(n lick.Note, seconds float64, o Options) []float32 {
	l := lick.New()
	l.Tempo = 60
	n.Len = lick.NewTime(int64(math.Ceil(seconds)), 4)
	l.Notes = []lick.Note{n}
	o.Dry = true
	p := NewRenderer(neck.Standard(), l, o)
	out := make([]float32, int(seconds*Rate))
	return out[:p.Read(out)]
}

// partial is how loud a partial is between two times, in dB, and where it lies: the highest bin near it, by a Hann
// window and a parabola through the logarithms.
func partial(x []float32, near, from, length float64) (db, hertz float64) {
	n := int(length * Rate)
	w := make([]float64, n)
	for i := range w {
		w[i] = float64(x[int(from*Rate)+i]) * (0.5 - 0.5*math.Cos(2*math.Pi*float64(i)/float64(n)))
	}
	c := fourier.NewFFT(n).Coefficients(nil, w)
	level := func(k int) float64 { return 20 * math.Log10(math.Hypot(real(c[k]), imag(c[k]))*4/float64(n)+1e-12) }
	bin := near * float64(n) / Rate
	best := int(bin * 0.985)
	for k := best; k <= int(bin*1.025)+1; k++ {
		if level(k) > level(best) {
			best = k
		}
	}
	a, b, d := level(best-1), level(best), level(best+1)
	off := 0.0
	if den := a - 2*b + d; den != 0 {
		off = max(-0.5, min(0.5, 0.5*(a-d)/den))
	}
	return b, (float64(best) + off) * Rate / float64(n)
}

// Strings sound as long as measured guitars do: the fundamental to a thousandth, and what lies around 3 kHz (from
// memory: solid guitars' low strings 12 to 30 s, high ones 6 to 15, near the last fret 3 to 9; some kHz 0.7 to 4).
func TestDecays(t *testing.T) {
	for _, c := range []struct {
		string, fret int
		from, to     float64
	}{
		{string: 6, fret: 0, from: 12, to: 30},
		{string: 5, fret: 0, from: 10, to: 30},
		{string: 4, fret: 0, from: 8, to: 25},
		{string: 3, fret: 0, from: 6, to: 20},
		{string: 2, fret: 0, from: 6, to: 18},
		{string: 1, fret: 0, from: 6, to: 15},
		{string: 6, fret: 22, from: 3, to: 9},
		{string: 3, fret: 22, from: 2.5, to: 9},
		{string: 1, fret: 22, from: 2, to: 8},
	} {
		n := lick.Note{String: c.string, Fret: c.fret}
		f := hertz(float64(neck.Standard().Pitch(n.Place())))
		x := rung(n, 3.2, Options{})
		a, _ := partial(x, f, 0.4, 0.4)
		b, _ := partial(x, f, 2.4, 0.4)
		fades := 60 / (a - b) * 2
		ha, at := -200.0, 0.0
		for k := math.Round(3000/f) - 1; k <= math.Round(3000/f)+1; k++ { // one of them may have a node where it is heard
			if db, hz := partial(x, k*f, 0.1, 0.25); db > ha {
				ha, at = db, hz
			}
		}
		hb, _ := partial(x, at, 0.35, 0.25)
		high := 60 / (ha - hb) * 0.25
		t.Logf("%d:%d fades in %.1f s, at %.0f Hz in %.2f s", c.string, c.fret, fades, at, high)
		if fades < c.from || fades > c.to {
			t.Errorf("%d:%d fades in %.1f s, not in %g to %g", c.string, c.fret, fades, c.from, c.to)
		}
		if c.fret == 0 && (high < 0.5 || high > 4 || high > fades) {
			t.Errorf("%d:%d, at %.0f Hz: fades in %.2f s", c.string, c.fret, at, high)
		}
	}
}

// Under the palm a low note is a thud that is gone within half a second, duller than a note that rings; a ghost note
// is at least as loud as half a note by ear, 10 dB, below it (common practice: felt more than heard).
func TestPalmAndGhost(t *testing.T) {
	for _, at := range [][2]int{{6, 0}, {6, 3}, {5, 2}, {4, 2}, {3, 5}} {
		n := lick.Note{String: at[0], Fret: at[1]}
		f := hertz(float64(neck.Standard().Pitch(n.Place())))
		open := rung(n, 1, Options{})
		n.Palm = true
		palm := rung(n, 1, Options{})
		n.Palm, n.Ghost = false, true
		ghost := rung(n, 1, Options{})
		level := func(x []float32, k, from float64) float64 { db, _ := partial(x, k*f, from, 0.15); return db }
		k := math.Round(2500 / f)
		begin, end := level(palm, 1, 0.02)-level(open, 1, 0.02), level(palm, 1, 0.4)-level(palm, 1, 0.02)
		dull := level(palm, k, 0.02) - level(open, k, 0.02)
		soft := level(ghost, 1, 0.02) - level(open, 1, 0.02)
		_, is := partial(palm, f, 0.05, 0.3)
		_, should := partial(open, f, 0.05, 0.3)
		cents := 1200 * math.Log2(is/should)
		t.Logf("%d:%d palm %.1f cents, %.0f dB at first, %.0f after 0.4 s, at 2.5 kHz %.0f; ghost %.0f dB", at[0],
			at[1], cents, begin, end, dull, soft)
		if math.Abs(cents) > 8 || begin < -9 || end > -25 || dull > -12 || soft > -9 || soft < -15 {
			t.Errorf("%d:%d does not sound so", at[0], at[1])
		}
	}
}

// Partials are bright, and lie where a stiff string has them: partial k at k·f·√(1 + B·k²) by Fletcher's formula, a
// plain string's nearer to whole numbers than a wound one's.
func TestPartials(t *testing.T) {
	g := neck.Standard()
	for _, c := range []struct {
		string int
		k      float64
	}{{6, 12}, {5, 12}, {3, 10}, {1, 8}} {
		n := lick.Note{String: c.string}
		f := hertz(float64(g.Pitch(n.Place())))
		x := rung(n, 1.2, Options{Pickup: BridgePickup})
		_, first := partial(x, f, 0.05, 1)
		_, at := partial(x, c.k*f, 0.05, 1)
		b := (math.Pow(at/(c.k*first), 2) - 1) / (c.k*c.k - 1)
		want := steelOf(g, c.string-1).stiff
		t.Logf("string %d: B %.1e, by the formula %.1e", c.string, b, want)
		if c.string == 1 {
			if b > 5e-5 {
				t.Errorf("the thin string's B is %.1e", b)
			}
		} else if b < 0.4*want || b > 1.8*want {
			t.Errorf("string %d: B is %.1e, by the formula %.1e", c.string, b, want)
		}
	}
	for _, at := range [][2]int{{6, 0}, {5, 2}, {4, 4}, {3, 7}, {2, 5}} {
		n := lick.Note{String: at[0], Fret: at[1]}
		f := hertz(float64(g.Pitch(n.Place())))
		x := rung(n, 0.6, Options{Pickup: BridgePickup})
		top := -200.0
		var levels []float64
		for k := 1.0; k <= 8; k++ {
			db, _ := partial(x, k*f, 0.03, 0.25)
			levels = append(levels, db)
			top = max(top, db)
		}
		slices.Sort(levels[4:7])
		if mid := levels[5] - top; mid < -24 || mid > -3 {
			t.Errorf("%v: partials 5 to 7 lie around %.0f dB below the loudest", at, mid)
		}
	}
}

// A chord that is clean is the sum of its strings: what an amplifier adds lies 40 dB below it, from its first moment
// on.
func TestChordsAreClean(t *testing.T) {
	g := neck.Standard()
	l := lick.New()
	l.Tempo = 60
	for s, f := range []int{3, 3, 4, 5, 5, 3} {
		l.Notes = append(l.Notes, lick.Note{String: 6 - s, Fret: f, Len: lick.NewTime(1, 1)})
	}
	l.Sort()
	render := func(level float64) []float32 {
		p := NewRenderer(g, l, Options{Dry: true, Levels: &Levels{Line: level}})
		out := make([]float32, Rate)
		return out[:p.Read(out)]
	}
	loud, soft := render(0.8), render(0.008) // a hundredth bends nothing
	for _, from := range []float64{0, 0.1, 0.5} {
		power, off := 0.0, 0.0
		for i := int(from * Rate); i < int((from+0.1)*Rate); i++ {
			d := float64(loud[i]) - 100*float64(soft[i])
			power, off = power+float64(loud[i])*float64(loud[i]), off+d*d
		}
		if db := 10 * math.Log10(off/power+1e-12); db > -40 {
			t.Errorf("from %g s the chord is %.0f dB off its sum", from, db)
		}
	}
}

// features are what tells sounds apart whatever fret they are on: how loud the partials are in bands of a third of an
// octave from 300 Hz on, where pick and pickup leave the same gaps on every fret of a string, against the mean of the
// bands; what they lose in a third of a second; and how much rustles high as it begins.
func features(x []float32, f float64) (out []float64) {
	var levels, lost []float64
	for band := 300.0; band < 6500; band *= math.Cbrt(2) {
		k := max(1, math.Round(band*math.Pow(2, 1./6)/f))
		a, at := partial(x, k*f, 0.02, 0.12)
		b, _ := partial(x, at, 0.35, 0.12)
		levels, lost = append(levels, max(-90, a)), append(lost, max(-45, min(0, b-a)))
	}
	mean := 0.0
	for _, v := range levels {
		mean += v / float64(len(levels))
	}
	for _, v := range levels {
		out = append(out, max(-24, min(24, v-mean)))
	}
	noise := 0.0
	for i := 1; i < Rate/250; i++ {
		d := float64(x[i] - x[i-1])
		noise += d * d
	}
	return append(append(out, lost...), 6*math.Log10(noise+1e-9), mean/2)
}

// Strings, pickups and techniques are told apart by the nearest mean of spectra, learned at some frets and tried at
// others.
func TestToldApart(t *testing.T) {
	g := neck.Standard()
	learn, try := []int{1, 4, 6, 9, 11}, []int{2, 5, 7, 10}
	type class struct {
		name string
		note func(fret int) (lick.Note, Options)
	}
	at := func(s int, stroke lick.Stroke, p Pickup) func(int) (lick.Note, Options) {
		return func(fret int) (lick.Note, Options) {
			return lick.Note{String: s, Fret: fret, Stroke: stroke}, Options{Pickup: p}
		}
	}
	var strings6, pickups, touches []class
	for s := 1; s <= 6; s++ {
		strings6 = append(strings6, class{fmt.Sprint("string ", s), at(s, lick.Down, BridgePickup)})
	}
	for _, p := range []Pickup{NeckPickup, MiddlePickup, BridgePickup} {
		pickups = append(pickups, class{"pickup " + string(p), at(6, lick.Down, p)})
	}
	for _, s := range []lick.Stroke{lick.Down, lick.Up, lick.PThumb, lick.PIndex} {
		touches = append(touches, class{"touch " + string(s), at(4, s, BridgePickup)})
	}
	touches = append(touches, class{"dead", func(fret int) (lick.Note, Options) {
		return lick.Note{String: 4, Fret: fret, Mute: true}, Options{Pickup: BridgePickup}
	}}, class{"palm", func(fret int) (lick.Note, Options) {
		return lick.Note{String: 4, Fret: fret, Stroke: lick.Down, Palm: true}, Options{Pickup: BridgePickup}
	}})
	for _, set := range []struct {
		name    string
		classes []class
		least   float64
	}{{"strings", strings6, 0.85}, {"pickups", pickups, 1}, {"touches", touches, 0.9}} {
		means := make([][]float64, len(set.classes))
		hear := func(c class, fret int) []float64 {
			n, o := c.note(fret)
			return features(rung(n, 0.6, o), hertz(float64(g.Pitch(n.Place()))))
		}
		for i, c := range set.classes {
			for _, fret := range learn {
				x := hear(c, fret)
				if means[i] == nil {
					means[i] = make([]float64, len(x))
				}
				for k, v := range x {
					means[i][k] += v / float64(len(learn))
				}
			}
		}
		right, all := 0, 0
		for i, c := range set.classes {
			for _, fret := range try {
				x := hear(c, fret)
				best, far := -1, math.Inf(1)
				for j, m := range means {
					d := 0.0
					for k := range x {
						d += (x[k] - m[k]) * (x[k] - m[k])
					}
					if d < far {
						best, far = j, d
					}
				}
				all++
				if best == i {
					right++
				}
			}
		}
		t.Logf("%s: %d of %d told apart", set.name, right, all)
		if float64(right) < set.least*float64(all) {
			t.Errorf("%s: %d of %d are told apart", set.name, right, all)
		}
	}
}
