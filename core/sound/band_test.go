package sound

import (
	"fmt"
	"math"
	"slices"
	"strings"
	"testing"

	"ornamen/core/lick"
	"ornamen/core/music"
	"ornamen/core/neck"
)

// overBars are chords alone, a bar each.
func overBars(tempo float64, meter lick.Meter, feel lick.Feel, names ...string) lick.Lick {
	l := lick.New()
	l.Tempo, l.Meter, l.Feel = tempo, meter, feel
	at := lick.Time{}
	for _, n := range names {
		l.Chords = append(l.Chords, lick.Chord{At: at, Len: meter.Bar(), Name: n})
		at = at.Add(meter.Bar())
	}
	return l
}

// barOf writes the drums of one bar as letters over its beats: k, s, h and so on, each with the part of the beat in
// twelfths where it is none.
func barOf(l lick.Lick, o Options, bar, beats int) string {
	p := newPlan(neck.Standard(), l, o)
	long := float64(p.round) / Rate / (l.Length().Float() / l.Meter.Bar().Float())
	letters := map[Drum]string{Kick: "k", Snare: "s", Hat: "h", OpenHat: "o", Rim: "r", Tom: "t", Crash: "c"}
	at := map[int][]string{}
	for _, h := range p.drums {
		if place := float64(h.at)/Rate - float64(bar)*long; place > -1e-3 && place < long-1e-3 {
			k := int(math.Round(place / long * float64(beats) * 12))
			at[k] = append(at[k], letters[h.drum])
		}
	}
	var keys []int
	for k := range at {
		keys = append(keys, k)
	}
	slices.Sort(keys)
	var out []string
	for _, k := range keys {
		slices.Sort(at[k])
		word := fmt.Sprint(k/12+1) + strings.Join(slices.Compact(at[k]), "")
		if k%12 != 0 {
			word = fmt.Sprintf("%d.%d%s", k/12+1, k%12, strings.Join(slices.Compact(at[k]), ""))
		}
		out = append(out, word)
	}
	return strings.Join(out, " ")
}

// Each style is what one knows it by (common practice): rock has straight eighths and the snare on 2 and 4, the shuffle
// its off-beats on the last third, the ballad its snare on 3, the twelve-eight three to a beat; the style that fits is
// found; the last beat of a form has a fill.
func TestGrooves(t *testing.T) {
	four := lick.Meter{Beats: 4, Unit: 4}
	for _, c := range []struct {
		l    lick.Lick
		o    Options
		bar  int
		want string
	}{
		{
			l:    overBars(120, four, lick.Straight, "A", "A", "D", "E"),
			o:    Options{},
			bar:  0,
			want: "1hk 1.6h 2hs 2.6h 3hk 3.6h 4hs 4.6h",
		},
		{
			l:    overBars(120, four, lick.Straight, "A", "A", "D", "E"),
			o:    Options{Intensity: 1},
			bar:  0,
			want: "1hk 2hr 3hk 4hr",
		},
		{
			l:    overBars(120, four, lick.Straight, "A", "A", "D", "E"),
			o:    Options{},
			bar:  3,
			want: "1hk 1.6h 2hs 2.6h 3hk 3.6h 4s 4.3s 4.6t 4.9t",
		},
		{
			l:    overBars(120, four, lick.Straight, "A", "A", "D", "E"),
			o:    Options{Style: ShuffleBand},
			bar:  0,
			want: "1hk 1.8h 2hs 2.8h 3hk 3.8h 4hs 4.8h",
		},
		{
			l:    overBars(120, four, lick.Shuffle, "A7", "D7"),
			o:    Options{},
			bar:  0,
			want: "1hk 1.8h 2hs 2.8h 3hk 3.8h 4hs 4.8h",
		},
		{
			l:    overBars(60, four, lick.Straight, "C", "F"),
			o:    Options{},
			bar:  0,
			want: "1hk 1.6h 2h 2.6hk 3hr 3.6h 4h 4.6h",
		},
		{
			l:    overBars(60, four, lick.Shuffle, "A7", "D7"),
			o:    Options{},
			bar:  0,
			want: "1hk 1.4h 1.8h 2hs 2.4h 2.8h 3hk 3.4h 3.8h 4hs 4.4h 4.8h",
		},
		{
			l:    overBars(90, lick.Meter{Beats: 12, Unit: 8}, lick.Straight, "A7", "D7"),
			o:    Options{},
			bar:  0,
			want: "1hk 1.4h 1.8h 2hs 2.4h 2.8h 3hk 3.4h 3.8h 4hs 4.4h 4.8h",
		},
		{
			l:    overBars(120, lick.Meter{Beats: 3, Unit: 4}, lick.Straight, "C", "F"),
			o:    Options{},
			bar:  0,
			want: "1hk 1.6h 2hs 2.6h 3hs 3.6h",
		},
	} {
		beats := c.l.Meter.Beats
		if c.l.Meter.Unit == 8 {
			beats /= 3
		}
		if got := barOf(c.l, c.o, c.bar, beats); got != c.want {
			t.Errorf("%s at %g, %v, bar %d:\n%s\nnot\n%s", c.l.Meter, c.l.Tempo, c.o.Style, c.bar+1, got, c.want)
		}
	}
	// More from one intensity to the next.
	for _, s := range []Style{Rock, ShuffleBand, Ballad, TwelveEight} {
		last := 0
		for busy := 1; busy <= 4; busy++ {
			n := len(newPlan(neck.Standard(), overBars(100, four, lick.Straight, "A", "D", "E", "A", "A"),
				Options{Style: s, Intensity: busy}).drums)
			if n <= last {
				t.Errorf("%s: %d strokes at intensity %d, %d before", s, n, busy, last)
			}
			last = n
		}
	}
	if _, err := ParseStyle("polka"); err == nil {
		t.Error("the band plays a polka")
	}
}

// A shuffle's bass walks through the chord; voices of chords that follow each other stay near.
func TestBassAndVoices(t *testing.T) {
	l := overBars(120, lick.Meter{Beats: 4, Unit: 4}, lick.Shuffle, "A7", "Dm7")
	var pitches []int
	for _, h := range Band(l) {
		if h.Drum == NoDrum {
			pitches = append(pitches, h.Pitch)
		}
	}
	if want := []int{33, 37, 40, 42, 38, 41, 45, 48}; !slices.Equal(pitches, want) {
		t.Errorf("the bass walks %v, not %v", pitches, want)
	}
	moved, alone := 0, 0
	var before, last []int
	for _, name := range strings.Fields("C Am F G C E7 Am D7 G C F Bb Eb C") {
		c, err := music.ParseChord(name)
		if err != nil {
			t.Fatal(err)
		}
		near, free := voicing(c, before), voicing(c, nil)
		for k := range min(len(near), len(before)) {
			moved += max(near[k]-before[k], before[k]-near[k])
		}
		for k := range min(len(free), len(last)) {
			alone += max(free[k]-last[k], last[k]-free[k])
		}
		before, last = near, free
		third := false
		for _, p := range near {
			third = third || slices.ContainsFunc(c.Degrees, func(d music.Degree) bool {
				return d.Number == 3 && (c.Root.Class()+d.Semitones())%12 == p%12
			})
		}
		if !third {
			t.Errorf("%s is held as %v, without its third", name, near)
		}
	}
	t.Logf("the voices move %d half steps, each for itself %d", moved, alone)
	if moved >= alone || moved > 80 {
		t.Errorf("the voices move %d half steps, each for itself %d", moved, alone)
	}
}

// The band is heard and leaves the line in front: 3 to 12 dB below it in every style, none louder than another by more
// than 4 dB at one intensity.
func TestBandIsBeside(t *testing.T) {
	g := neck.Standard()
	l := overBars(100, lick.Meter{Beats: 4, Unit: 4}, lick.Straight, "A7", "A7", "D7", "A7")
	power := func(o Options) float64 {
		p := NewRenderer(g, l, o)
		out := make([]float32, p.Len())
		sum := 0.0
		for _, v := range out[:p.Read(out)] {
			sum += float64(v) * float64(v)
		}
		return 10 * math.Log10(sum/float64(len(out)))
	}
	for k := range 32 {
		l.Notes = append(l.Notes,
			lick.Note{At: lick.NewTime(int64(k), 8), Len: lick.NewTime(1, 8), String: 2 + k%2, Fret: 5 + k%4})
	}
	line := power(Options{})
	for busy := 1; busy <= 4; busy++ {
		low, high := math.Inf(1), math.Inf(-1)
		for _, s := range []Style{Rock, ShuffleBand, Ballad, TwelveEight} {
			band := power(
				Options{Band: true, Comp: true, Style: s, Intensity: busy, Levels: &Levels{Band: usualLevels.Band}},
			)
			low, high = min(low, band), max(high, band)
			if d := line - band; d < 1 || d > 12 {
				t.Errorf("%s at %d lies %.1f dB below the line", s, busy, d)
			}
		}
		if high-low > 4 {
			t.Errorf("at intensity %d the styles are %.1f dB apart", busy, high-low)
		}
	}
}
