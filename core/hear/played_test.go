package hear

import (
	"math"
	"math/rand/v2"
	"strings"
	"testing"

	"ornamen/core/lick"
	"ornamen/core/neck"
	"ornamen/core/sound"
	"ornamen/core/testline"
)

// wandering is a line of sixteenths through a box.
func wandering(rng *rand.Rand, tempo float64, n int) lick.Lick {
	l := lick.New()
	l.Tempo, l.Tuning = tempo, neck.Standard().Tuning
	places := [][2]int{{6, 5}, {6, 8}, {5, 5}, {5, 7}, {4, 5}, {4, 7}, {3, 5}, {3, 7}, {2, 5}, {2, 8}, {1, 5}, {1, 8}}
	k := 3 + rng.IntN(6)
	for i := range n {
		k = max(0, min(len(places)-1, k+rng.IntN(5)-2))
		l.Notes = append(
			l.Notes,
			lick.Note{
				At:     lick.NewTime(int64(i), 16),
				Len:    lick.NewTime(1, 16),
				String: places[k][0],
				Fret:   places[k][1],
			},
		)
	}
	return l
}

// hammered slurs notes that follow each other on a string.
func hammered(l lick.Lick) {
	for i := 1; i < len(l.Notes); i++ {
		if a, b := l.Notes[i-1], &l.Notes[i]; a.String == b.String && a.Fret < b.Fret {
			b.Slur = lick.Hammer
		} else if a.String == b.String && a.Fret > b.Fret {
			b.Slur = lick.Pull
		}
	}
}

// lastingNotes lets every eighth note last and be bent a full step or shaken.
func lastingNotes(l lick.Lick) {
	for i := range l.Notes {
		n := &l.Notes[i]
		n.At = n.At.Add(lick.NewTime(int64(i/8)*3, 16))
		switch {
		case i%16 == 7:
			n.Len, n.Bend = lick.NewTime(1, 4), &lick.Bend{Semitones: 2, Shape: lick.BendUp}
		case i%8 == 7:
			n.Len, n.Vibrato = lick.NewTime(1, 4), &lick.Vibrato{Width: lick.Wide, Speed: lick.Slow}
		}
	}
}

// human moves beginnings by 11 ms, one standard deviation.
func human(rng *rand.Rand, l lick.Lick) {
	for i := range l.Notes {
		by := lick.NewTime(int64(rng.NormFloat64()*0.011*l.Tempo/240*4000), 4000)
		if at := l.Notes[i].At.Add(by); !at.Before(lick.Time{}) {
			l.Notes[i].At = at
		}
	}
}

// noisy adds noise 44 dB below the peak and a hum of 50 Hz with its third harmonic.
func noisy(rng *rand.Rand, x []float32) {
	peak := 0.0
	for _, v := range x {
		peak = max(peak, math.Abs(float64(v)))
	}
	for i := range x {
		at := 2 * math.Pi * 50 * float64(i) / sound.Rate
		x[i] += float32(rng.NormFloat64()*peak*math.Pow(10, -44.0/20) + 0.03*math.Sin(at) + 0.01*math.Sin(3*at))
	}
}

// Lines that core/sound renders at 70 to 108 are written down: of clean ones 99 of 100 notes with
// pitch and sixteenth right, of those with noise, hum, hammers, pulls, bends, vibrato and a human's timing 95, the
// bends and vibratos told apart; the tempo is found where it is not given.
func TestPlayIn(t *testing.T) {
	for _, x := range []struct {
		name                string
		least               float64
		slurred, held, room bool
	}{
		{
			name:  "clean",
			least: 0.99,
		}, {name: "hammered", least: 0.99, slurred: true}, {name: "held", least: 0.97, held: true},
		{name: "by a human in a room", least: 0.95, slurred: true, held: true, room: true},
	} {
		rng := rand.New(rand.NewPCG(1, 2))
		right, heard, all, told, marks, tempos, lines := 0, 0, 0, 0, 0, 0, 0
		step := 19.0 // by day three tempos
		if testline.Night() {
			step = 9.5
		}
		for tempo := 70.0; tempo <= 108; tempo += step {
			want := wandering(rng, tempo, 32)
			if x.held {
				lastingNotes(want)
			}
			played := want.Clone()
			if x.slurred {
				hammered(played)
			}
			if x.room {
				human(rng, played)
			}
			take := rendered(played)
			if x.room {
				noisy(rng, take)
			}
			notes, err := Played(t.Context(), take, sound.Rate)
			if err != nil {
				t.Fatalf("%s at %g: %v", x.name, tempo, err)
			}
			lines++
			if math.Abs(OnGrid(notes, 0).Tempo-tempo) <= 1 {
				tempos++
			}
			on := OnGrid(notes, tempo)
			taken := map[int]bool{}
			for k, n := range notes {
				for i, w := range want.Notes {
					if taken[i] || n.Pitch != want.Pitch(i) || on.At[k].Cmp(w.At) != 0 {
						continue
					}
					taken[i] = true
					if w.Bend != nil || w.Vibrato != nil {
						marks++
						if (n.Bend == 2) == (w.Bend != nil) && n.Vibrato == (w.Vibrato != nil) {
							told++
						}
					}
					break
				}
			}
			right, heard, all = right+len(taken), heard+len(notes), all+len(want.Notes)
		}
		if float64(right) < x.least*float64(all) || float64(heard-right) > (1.02-x.least)*float64(all) ||
			10*told < 9*marks ||
			10*tempos < 7*lines {
			t.Errorf("%s: %d of %d notes and %d others, %d of %d bends and vibratos, %d of %d tempos", x.name, right,
				all, heard-right, told, marks, tempos, lines)
		}
	}
}

// What is no line of single notes is refused in one sentence.
func TestPlayInRefuses(t *testing.T) {
	tone := func(hertz, at float64) (sum float64) {
		for k := 1.0; k < 8; k++ {
			sum += math.Sin(2*math.Pi*hertz*k*at) / k
		}
		return sum * math.Exp(-2*math.Mod(at, 0.75))
	}
	rng := rand.New(rand.NewPCG(3, 4))
	make3 := func(f func(at float64) float64) []float32 {
		out := make([]float32, 3*sound.Rate)
		for i := range out {
			out[i] = float32(f(float64(i) / sound.Rate))
		}
		return out
	}
	for _, x := range []struct {
		name string
		at   func(float64) float64
		says string
	}{
		{"silence", func(float64) float64 { return 0 }, "silent"},
		{"noise", func(float64) float64 { return rng.Float64() - 0.5 }, "no clear tone"},
		{"a triad", func(t float64) float64 { return 0.08 * (tone(220, t) + tone(277.18, t) + tone(329.63, t)) }, ""},
		{"a fifth", func(t float64) float64 { return 0.1 * (tone(110, t) + tone(164.8, t)) }, ""},
		{"a third", func(t float64) float64 { return 0.1 * (tone(440, t) + tone(554.4, t)) }, "more than one note"},
	} {
		if _, err := Played(t.Context(), make3(x.at), sound.Rate); err == nil || !strings.Contains(err.Error(), x.says) ||
			strings.Contains(err.Error(), "\n") {
			t.Errorf("%s: %v", x.name, err)
		}
	}
	steady := make3(func(t float64) float64 { return 0.2 * tone(220, t) })
	if notes, err := Played(t.Context(), steady, sound.Rate); err != nil ||
		len(notes) != 4 ||
		notes[0].Pitch != 57 {
		t.Errorf("one tone struck four times: %+v %v", notes, err)
	}
}
