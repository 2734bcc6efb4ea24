package hear

import (
	"context"
	"errors"
	"fmt"
	"math"
	"slices"

	"ornamen/core/music"
)

// Bent is a bend as it was heard against its target.
type Bent struct {
	Points   []Cents // its course
	Off      float64 // cents from the target, where it is held; below 0 is flat
	Arrives  float64 // s from the beginning until it is near the target; −1: it never is
	Unsteady float64 // cents that it strays from its own mean where it is held, vibrato aside
	Width    float64 // of a vibrato, cents to either side of its middle; 0 for none
	Hertz    float64 // turns of it a second
}

// Cents is the pitch of a moment against a target.
type Cents struct{ At, Off float64 }

// How a bend is judged (common practice for what the ear takes as in tune; the numbers are model defaults).
const (
	inTune     = 12.0 // cents
	near       = 25.0 // of the target: it has arrived
	slowBend   = 0.7  // s
	strays     = 12.0 // cents
	leastSway  = 8.0  // cents to either side: a vibrato
	swayFrom   = 2.5  // Hz
	swayTo     = 9.0
	longestTry = 12 // s that are listened to
)

// Bend listens to one bent note: samples at a rate, and the pitch that the bend leads to. The
// error is one sentence, or the context's.
//
// The tracker gives a pitch every few ms, here as cents from the target. A bend arrives where it first comes near; how
// far it is off is the median of what is held after that, since a median is not moved by the way there or by a scrape
// at the end; the sway of what is held around it is unsteadiness, or vibrato where it is regular. What is more than a
// fifth away is another string and is left out; what sounds after half a second of silence is another try.
func Bend(ctx context.Context, samples []float32, rate int, target music.Pitch) (Bent, error) {
	var b Bent
	samples, rate, err := brought(samples, rate, longestTry)
	if err != nil {
		return b, err
	}
	heard, err := Track(ctx, samples, rate, 0.02)
	if err != nil {
		return b, err
	}
	want := target.Hertz()
	begins, last := -1.0, 0.0
	for _, h := range heard {
		if h.Hertz == 0 {
			continue
		}
		off := 1200 * math.Log2(h.Hertz/want)
		if math.Abs(off) > 700 {
			continue // another string, a noise
		}
		if begins < 0 {
			begins = h.At
		}
		if h.At-last > 0.5 && len(b.Points) > 5 {
			break // what comes after a silence is another try
		}
		last = h.At
		b.Points = append(b.Points, Cents{h.At - begins, off})
	}
	if len(b.Points) < 10 {
		return b, errors.New("no tone was heard near the target: play the note, bend it and hold it, near the microphone")
	}
	b.Arrives = -1
	if k := slices.IndexFunc(b.Points, func(p Cents) bool { return math.Abs(p.Off) <= near }); k >= 0 {
		b.Arrives = b.Points[k].At
	}
	held := b.held()
	offs := make([]float64, len(held))
	for i, p := range held {
		offs[i] = p.Off
	}
	b.Off = median(offs)
	b.sway(held)
	return b, nil
}

// held is where the bend is held: from where it has come as far as it goes, the rest of its
// time; at least its last half.
func (b *Bent) held() []Cents {
	top := math.Inf(-1)
	for _, p := range b.Points {
		top = max(top, p.Off)
	}
	from := slices.IndexFunc(b.Points, func(p Cents) bool { return p.Off >= top-near })
	return b.Points[min(from, len(b.Points)/2):]
}

// sway tells a vibrato, which turns evenly, from a tone that strays: it counts how often the
// course crosses its own mean.
func (b *Bent) sway(held []Cents) {
	mean, width := 0.0, 0.0
	for _, p := range held {
		mean += p.Off / float64(len(held))
	}
	for _, p := range held {
		width += math.Abs(p.Off-mean) / float64(len(held))
	}
	crossings, above := 0, held[0].Off > mean
	for _, p := range held {
		// Small trembling around the mean is no turn.
		if up := p.Off > mean+width/3; up && !above {
			crossings, above = crossings+1, true
		} else if p.Off < mean-width/3 && above {
			crossings, above = crossings+1, false
		}
	}
	seconds := held[len(held)-1].At - held[0].At
	hertz := float64(crossings) / 2 / max(0.1, seconds)
	// The mean distance of a sine from its middle is 2/π of its height.
	if sway := width * math.Pi / 2; sway >= leastSway && hertz >= swayFrom && hertz <= swayTo && crossings >= 4 {
		b.Width, b.Hertz = sway, hertz
		return
	}
	b.Unsteady = width
}

// median is the middle of values.
func median(x []float64) float64 {
	x = slices.Sorted(slices.Values(x))
	return x[len(x)/2]
}

// InTune says whether the bend holds its target.
func (b Bent) InTune() bool { return math.Abs(b.Off) <= inTune }

// Words say what was heard, the worst first, in one or more short sentences.
func (b Bent) Words() []string {
	var out []string
	switch {
	case b.InTune():
		out = append(out, "In tune.")
	case b.Off < 0:
		out = append(out, fmt.Sprintf("Flat by %.0f cents: push on.", -b.Off))
	default:
		out = append(out, fmt.Sprintf("Sharp by %.0f cents: less.", b.Off))
	}
	if b.Arrives > slowBend {
		out = append(out, fmt.Sprintf("Slow to arrive: %.1f s.", b.Arrives))
	}
	if b.Unsteady > strays {
		out = append(out, fmt.Sprintf("Unsteady: it strays by %.0f cents.", b.Unsteady))
	}
	if b.Width > 0 {
		out = append(out, fmt.Sprintf("Vibrato %.0f cents wide, %.1f turns a second.", b.Width, b.Hertz))
	}
	return out
}
