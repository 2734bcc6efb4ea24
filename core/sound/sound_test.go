package sound_test

import (
	"context"
	"fmt"
	"math"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"ornamen/core/hear"
	"ornamen/core/lick"
	"ornamen/core/neck"
	"ornamen/core/sound"
)

// heard renders a lick and tracks it every so many seconds.
func heard(l lick.Lick, o sound.Options, step float64) (samples []float32, moments []hear.Moment) {
	p := sound.NewRenderer(neck.Standard(), l, o)
	buf := make([]float32, 4096)
	for {
		n := p.Read(buf)
		if n == 0 {
			break
		}
		samples = append(samples, buf[:n]...)
	}
	moments, err := hear.Track(context.Background(), samples, sound.Rate, step)
	if err != nil {
		panic(err) // only an ended context does that
	}
	return samples, moments
}

// one is a lick of notes one after the other, a quarter each at 60.
func one(notes ...lick.Note) lick.Lick {
	l := lick.New()
	l.Tempo = 60
	at := lick.Time{}
	for _, n := range notes {
		n.At = at
		if n.Len.IsZero() {
			n.Len = lick.NewTime(1, 4)
		}
		at = n.End()
		l.Notes = append(l.Notes, n)
	}
	return l
}

// cents is how far what was heard between two times lies from a MIDI number, the middle one
// of the moments; NaN where nothing was.
func cents(moments []hear.Moment, from, to, pitch float64) float64 {
	var all []float64
	for _, m := range moments {
		if m.At >= from && m.At < to && m.Hertz > 0 {
			all = append(all, 1200*math.Log2(m.Hertz/(440*math.Exp2((pitch-69)/12))))
		}
	}
	if len(all) == 0 {
		return math.NaN()
	}
	// The middle one.
	for i := range all {
		for k := i + 1; k < len(all); k++ {
			if all[k] < all[i] {
				all[i], all[k] = all[k], all[i]
			}
		}
	}
	return all[len(all)/2]
}

// Every fret of every string sounds its pitch within 5 cents (ISO 16: A4 = 440 Hz), tracked
// by YIN, and about as loud as every other.
func TestEveryFret(t *testing.T) {
	worst, low, high := 0.0, math.Inf(1), math.Inf(-1)
	for s := 1; s <= 6; s++ {
		for f := 0; f <= 22; f++ {
			l := one(lick.Note{String: s, Fret: f, Len: lick.NewTime(1, 8)})
			samples, moments := heard(l, sound.Options{}, 0.08)
			c := cents(moments, 0.12, 0.4, float64(l.Pitch(0)))
			if !(math.Abs(c) <= 5) {
				t.Errorf("%d:%d is %.1f cents off", s, f, c)
			}
			worst = max(worst, math.Abs(c))
			power := 0.0
			for _, x := range samples[:sound.Rate/4] {
				power += float64(x) * float64(x)
			}
			db := 10 * math.Log10(power/(sound.Rate/4))
			low, high = min(low, db), max(high, db)
		}
	}
	t.Logf("at most %.2f cents off; between %.1f and %.1f dB", worst, low, high)
	if high-low > 3 {
		t.Errorf("the loudest and the softest place lie %.1f dB apart", high-low)
	}
}

// Each technique sounds along its course: where it begins, on its way, where it arrives, all
// within 5 cents where the pitch stands still.
func TestTechniques(t *testing.T) {
	bent := func(semitones float64, shape lick.BendShape) lick.Note {
		return lick.Note{String: 3, Fret: 7, Bend: &lick.Bend{Semitones: semitones, Shape: shape}}
	}
	const d4 = 62.0 // 3:7
	for _, c := range []struct {
		name string
		line lick.Lick
		at   []float64 // from, to, MIDI number; three a check
		off  float64
	}{
		{
			name: "hammer",
			line: one(lick.Note{String: 3, Fret: 5}, lick.Note{String: 3, Fret: 7, Slur: lick.Hammer}),
			at:   []float64{0.1, 0.9, 60, 1.1, 1.9, 62},
			off:  5,
		},
		{
			name: "pull",
			line: one(lick.Note{String: 3, Fret: 7}, lick.Note{String: 3, Fret: 0, Slur: lick.Pull}),
			at:   []float64{0.1, 0.9, 62, 1.1, 1.9, 55},
			off:  5,
		},
		{
			name: "slide",
			line: one(lick.Note{String: 3, Fret: 5}, lick.Note{String: 3, Fret: 9, Slur: lick.Slide}),
			at:   []float64{0.1, 0.85, 60, 1.06, 1.9, 64},
			off:  5,
		},
		{
			name: "silent shift",
			line: one(lick.Note{String: 3, Fret: 5}, lick.Note{String: 3, Fret: 9, Slur: lick.Shift}),
			at:   []float64{0.1, 0.9, 60, 1.1, 1.9, 64},
			off:  5,
		},
		{
			name: "slid into",
			line: one(lick.Note{String: 3, Fret: 7, SlideIn: &lick.SlideIn{Frets: 2, From: lick.FromBelow}}),
			at:   []float64{0.15, 0.9, 62},
			off:  5,
		},
		{name: "full bend", line: one(bent(2, lick.BendUp)), at: []float64{0.35, 0.9, d4 + 2}, off: 5},
		{name: "half bend", line: one(bent(1, lick.BendUp)), at: []float64{0.3, 0.9, d4 + 1}, off: 5},
		{name: "a step and a half", line: one(bent(3, lick.BendUp)), at: []float64{0.45, 0.9, d4 + 3}, off: 5},
		{name: "pre-bend", line: one(bent(2, lick.Prebend)), at: []float64{0.1, 0.9, d4 + 2}, off: 5},
		{
			name: "bend and release",
			line: one(bent(2, lick.BendRelease)),
			at:   []float64{0.3, 0.6, d4 + 2, 0.93, 0.98, d4},
			off:  8,
		},
		{
			name: "pre-bend released",
			line: one(bent(2, lick.PrebendReleased)),
			at:   []float64{0.1, 0.55, d4 + 2, 0.93, 0.98, d4},
			off:  8,
		},
		{
			name: "picked twice",
			line: one(lick.Note{String: 6, Fret: 3}, lick.Note{String: 1, Fret: 12}),
			at:   []float64{0.1, 0.9, 43, 1.1, 1.9, 76},
			off:  5,
		},
	} {
		_, moments := heard(c.line, sound.Options{}, 0.01)
		for i := 0; i < len(c.at); i += 3 {
			if got := cents(moments, c.at[i], c.at[i+1], c.at[i+2]); !(math.Abs(got) <= c.off) {
				t.Errorf("%s, from %g to %g s: %.1f cents from %g", c.name, c.at[i], c.at[i+1], got, c.at[i+2])
			}
		}
	}
}

// A bend rises all the way and follows the physics of the push: at half of the fingertip's
// way it has come far less than half of the interval.
func TestBendCourse(t *testing.T) {
	_, moments := heard(one(lick.Note{String: 3, Fret: 7, Bend: &lick.Bend{Semitones: 2, Shape: lick.BendUp}}),
		sound.Options{}, 0.01)
	last := -20.0
	for _, m := range moments {
		if m.At < 0.05 || m.At > 0.4 || m.Hertz == 0 {
			continue
		}
		c := 1200 * math.Log2(m.Hertz/(440*math.Exp2((62-69)/12.0)))
		if c < last-12 || c > 206 {
			t.Errorf("at %.2f s it is at %.0f cents, was at %.0f", m.At, c, last)
		}
		last = max(last, c)
	}
	if last < 190 {
		t.Errorf("it comes to %.0f cents", last)
	}
}

// A vibrato goes up and back by its width, as often a second as it should.
func TestVibrato(t *testing.T) {
	for _, c := range []struct {
		v           lick.Vibrato
		wide, hertz float64
	}{
		{lick.Vibrato{Width: lick.Wide, Speed: lick.Slow}, 80, 4.5},
		{lick.Vibrato{Width: lick.Narrow, Speed: lick.Fast}, 30, 6.5},
	} {
		l := one(lick.Note{String: 2, Fret: 8, Vibrato: &c.v, Len: lick.NewTime(1, 2)})
		_, moments := heard(l, sound.Options{}, 0.005)
		low, high, turns := 0.0, 0.0, 0
		above := false
		for _, m := range moments {
			if m.At < 0.3 || m.At > 1.8 || m.Hertz == 0 {
				continue
			}
			at := 1200 * math.Log2(m.Hertz/(440*math.Exp2((67-69)/12.0)))
			low, high = min(low, at), max(high, at)
			if now := at > c.wide/2; now != above {
				above = now
				turns++
			}
		}
		if math.Abs(high-c.wide) > 8 || math.Abs(low) > 8 {
			t.Errorf("%+v goes from %.0f to %.0f cents, want 0 to %.0f", c.v, low, high, c.wide)
		}
		if times := float64(turns) / 2 / 1.5; math.Abs(times-c.hertz) > 0.5 {
			t.Errorf("%+v: %.1f times a second, want %.1f", c.v, times, c.hertz)
		}
	}
}

// all reads a renderer in pieces of a size.
func all(p *sound.Renderer, size int) (out []float32) {
	buf := make([]float32, size)
	for n := p.Read(buf); n > 0; n = p.Read(buf) {
		out = append(out, buf[:n]...)
	}
	return out
}

// busy is a line with everything in it, looped, with its chords.
func busy() lick.Lick {
	l := one(lick.Note{String: 3, Fret: 7, Bend: &lick.Bend{Semitones: 2, Shape: lick.BendRelease}},
		lick.Note{String: 2, Fret: 5, Rake: true, Accent: true}, lick.Note{String: 2, Fret: 8, Slur: lick.Hammer},
		lick.Note{String: 1, Fret: 5, Barre: true}, lick.Note{String: 2, Fret: 5, Barre: true},
		lick.Note{String: 3, Fret: 5, Mute: true}, lick.Note{String: 3, Fret: 7, Slur: lick.Slide},
		lick.Note{String: 4, Fret: 7, Vibrato: &lick.Vibrato{Width: lick.Wide, Speed: lick.Fast}})
	l.Tempo, l.Loop = 120, true
	l.Key = lick.Key{Tonic: "A", Scale: "minor pentatonic"}
	l.Chords = []lick.Chord{
		{Len: lick.NewTime(1, 1), Name: "Am7"},
		{At: lick.NewTime(1, 1), Len: lick.NewTime(1, 1), Name: "D9"},
	}
	return l
}

// The same lick gives the same samples in whatever pieces they are read; none is cut off; as
// many come as are said.
func TestDeterministic(t *testing.T) {
	for _, o := range []sound.Options{
		{},
		{Rounds: 2, Band: true, Chords: true, Click: true, CountIn: true, Drive: 0.8},
		{Tempo: 40, From: 2, To: 6, Lead: true},
		{Target: true, Levels: &sound.Levels{Line: 1, Band: 1, Click: 1}},
	} {
		g := neck.Standard()
		p := sound.NewRenderer(g, busy(), o)
		want := p.Len()
		a := all(p, 4096)
		b := all(sound.NewRenderer(g, busy(), o), 333)
		if int64(len(a)) != want || len(a) != len(b) {
			t.Fatalf("%+v: %d and %d samples, want %d", o, len(a), len(b), want)
		}
		for i := range a {
			if a[i] != b[i] {
				t.Fatalf("%+v: sample %d is %g and %g", o, i, a[i], b[i])
			}
			if !(a[i] > -1 && a[i] < 1) {
				t.Fatalf("%+v: sample %d is %g", o, i, a[i])
			}
		}
	}
}

// A loop that is under way joins itself: where it ends and begins again the sound jumps no
// more than it does within.
func TestSeam(t *testing.T) {
	l := busy()
	l.Notes[0].Bend = nil
	a := all(sound.NewRenderer(neck.Standard(), l, sound.Options{Lead: true}), 4096)
	within := 0.0
	for i := 1; i < len(a); i++ {
		within = max(within, math.Abs(float64(a[i]-a[i-1])))
	}
	if seam := math.Abs(float64(a[0] - a[len(a)-1])); seam > within/2 {
		t.Errorf("the seam jumps by %.3f, the line by up to %.3f", seam, within)
	}
	if r := sound.NewRenderer(neck.Standard(), l, sound.Options{}).Round(); math.Abs(r-4) > 1e-4 {
		t.Errorf("a round of eight quarters at 120 lasts %g s", r)
	}
}

// Notes begin when they are said to: the sound rises there.
func TestOnsets(t *testing.T) {
	l := one(lick.Note{String: 3, Fret: 5, Len: lick.NewTime(1, 8)},
		lick.Note{String: 2, Fret: 5, Len: lick.NewTime(1, 8)}, lick.Note{String: 1, Fret: 5, Len: lick.NewTime(1, 8)})
	l.Feel, l.Tempo = lick.Shuffle, 90
	p := sound.NewRenderer(neck.Standard(), l, sound.Options{CountIn: true})
	begins := p.Begins()
	if math.Abs(begins-4*60.0/90) > 1e-3 {
		t.Errorf("a bar of four at 90 takes %g s", begins)
	}
	a := all(p, 4096)
	loud := func(from, to float64) (sum float64) {
		for _, x := range a[int(from*sound.Rate):int(to*sound.Rate)] {
			sum += float64(x) * float64(x)
		}
		return sum
	}
	for _, n := range p.Notes() {
		at := begins + n.At
		if after, before := loud(at, at+0.01), loud(at-0.01, at); after < 1.3*before {
			t.Errorf("note %d at %.3f s: %.4f before, %.4f after", n.Note, at, before, after)
		}
	}
	if got := p.Notes()[1].At; math.Abs(got-2.0/3*60/90) > 1e-6 {
		t.Errorf("the off-beat comes after %g s", got)
	}
}

// A minute of a busy line with band.
func BenchmarkMinute(b *testing.B) {
	buf := make([]float32, 4096)
	for b.Loop() {
		p := sound.NewRenderer(neck.Standard(), busy(), sound.Options{Rounds: 15, Band: true, Chords: true, Click: true})
		for p.Read(buf) > 0 {
		}
	}
}

// The first tenth of a second of a long line.
func BenchmarkFirstSound(b *testing.B) {
	l := busy()
	for range 8 {
		for i, n := range l.Notes {
			n.At = n.At.Add(l.End())
			if i < 8 {
				l.Notes = append(l.Notes, n)
			}
		}
		if len(l.Notes) > 1500 {
			break
		}
	}
	buf := make([]float32, sound.Rate/10)
	for b.Loop() {
		sound.NewRenderer(neck.Standard(), l, sound.Options{}).Read(buf)
	}
}

// Our tracker hears what an independent one hears: aubiopitch of Debian's aubio-tools, whose
// readings tools/fixtures/pitch.sh has written down, agrees within 20 cents wherever both hear
// a tone that stands still.
func TestAgainstAnotherTracker(t *testing.T) {
	for _, name := range []string{"bends", "climb"} {
		data, err := os.ReadFile(filepath.Join("testdata", name+".lick.json"))
		if err != nil {
			t.Fatal(err)
		}
		l, err := lick.Parse(data)
		if err != nil {
			t.Fatal(err)
		}
		_, moments := heard(l, sound.Options{}, 0.005)
		rows, err := os.ReadFile(filepath.Join("testdata", name+".csv"))
		if err != nil {
			t.Fatal(err)
		}
		agree, all, last := 0, 0, 0.0
		for _, row := range strings.Split(string(rows), "\n") {
			var at, pitch float64
			if n, _ := fmt.Sscanf(row, "%g,%g", &at, &pitch); n != 2 || pitch < 20 {
				continue
			}
			still := math.Abs(pitch-last) < 0.1
			if last = pitch; !still {
				continue
			}
			if c := cents(moments, at-0.03, at+0.03, pitch); !math.IsNaN(c) {
				if all++; math.Abs(c) <= 20 {
					agree++
				}
			}
		}
		t.Logf("%s: %d of %d moments agree", name, agree, all)
		if all < 40 || 10*agree < 9*all {
			t.Errorf("%s: %d of %d moments agree", name, agree, all)
		}
	}
}
