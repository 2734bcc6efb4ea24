package hand

import (
	"context"
	"math/rand/v2"
	"testing"

	"ornamen/core/figure"
	"ornamen/core/lick"
	"ornamen/core/load"
	"ornamen/core/neck"
)

// school is a player with fingers of their own for three tones on a string, and for the frets of a
// position (schools differ: common practice).
type school struct {
	name     string
	tones    map[[2]int][3]int
	position [4]int
}

var schools = []school{
	{"1 3 4 on two whole steps", map[[2]int][3]int{{1, 3}: {1, 2, 4}, {2, 3}: {1, 3, 4}, {2, 4}: {1, 3, 4}},
		[4]int{1, 2, 3, 4}},
	{"the ring finger at the third fret", map[[2]int][3]int{{1, 3}: {1, 2, 4}, {2, 3}: {1, 3, 4}, {2, 4}: {1, 2, 4}},
		[4]int{1, 2, 3, 3}},
	{"the middle finger as soon as it can", map[[2]int][3]int{{1, 3}: {1, 2, 4}, {2, 3}: {1, 2, 4}, {2, 4}: {1, 2, 4}},
		[4]int{1, 2, 2, 4}},
}

// line is a random line, three tones a string or in a box, and the fingers that the school writes for
// it.
func (s school) line(rng *rand.Rand, box bool) (events []Event, fingers []int) {
	add := func(str, fret, finger int) {
		events = append(events, Event{Touches: []Touch{{Place: neck.Place{String: str, Fret: fret}}}, Have: 200})
		fingers = append(fingers, finger)
	}
	low := 4 + rng.IntN(7)
	if !box {
		shapes := [][2]int{{2, 3}, {2, 4}, {1, 3}}
		shape := shapes[rng.IntN(3)]
		for str := 6; str > 2; str-- {
			if rng.IntN(3) == 0 {
				shape = shapes[rng.IntN(3)]
			}
			f := s.tones[shape]
			add(str, low, f[0])
			add(str, low+shape[0], f[1])
			add(str, low+shape[1], f[2])
		}
		return events, fingers
	}
	for str := 6; str > 1; str-- {
		up := 2 + rng.IntN(2)
		add(str, low, 1)
		add(str, low+up, s.position[up])
	}
	return events, fingers
}

// Three players of different schools correct ten lines each: what they did three times alike becomes
// their habit, and of ten other lines they get their own fingers.
func TestHabitsAreLearned(t *testing.T) {
	for n, s := range schools {
		rng := rand.New(rand.NewPCG(20, uint64(n)))
		h := Medium()
		m := NewModel(h, neck.Standard())
		seen := map[string]int{}
		var habits figure.Habits
		for i := range 10 {
			events, want := s.line(rng, i%2 == 1)
			p := m.Solve(context.Background(), events, false, load.Slack)
			all, set := make([][]lick.Finger, len(events)), make([]bool, len(events))
			for i := range events {
				all[i] = []lick.Finger{lick.Finger(want[i])}
				set[i] = p.Steps[i].Fingers[0] != all[i][0]
			}
			for _, x := range m.Corrected(events, all, func(k, _ int) bool { return set[k] }) {
				if seen[x.String()]++; seen[x.String()] == 3 {
					habits = habits.With(x)
				}
			}
		}
		h.Habits = habits.String()
		m = NewModel(h, neck.Standard())
		notes, right := 0, 0
		for i := range 10 {
			events, want := s.line(rng, i%2 == 1)
			p := m.Solve(context.Background(), events, false, load.Slack)
			for i := range events {
				notes++
				if int(p.Steps[i].Fingers[0]) == want[i] {
					right++
				}
			}
		}
		t.Logf("%s: %q, %d of %d", s.name, h.Habits, right, notes)
		if len(habits) == 0 || 100*right < 99*notes {
			t.Errorf("%s: with the habits %q %d of %d notes have the player's own fingers", s.name, h.Habits, right,
				notes)
		}
	}
}
