package hand

import (
	"context"
	"math/rand/v2"
	"testing"

	"ornamen/core/neck"
)

// Lines that go up and down one string, and turn anywhere, are fingered whatever their steps:
// the note of a turn belongs to both ways.
func TestTurnsAlongAString(t *testing.T) {
	m := NewModel(Medium(), neck.Standard())
	rng := rand.New(rand.NewPCG(26, 11))
	for range 400 {
		fret, way := 1+rng.IntN(8), 1
		var events []Event
		for range 9 + rng.IntN(9) {
			if next := fret + way*(1+rng.IntN(3)); rng.IntN(7) == 0 || next < 1 || next > 22 {
				way = -way
			}
			fret = max(1, fret+way*(1+rng.IntN(3)))
			events = append(events, Event{Touches: []Touch{{Place: neck.Place{String: 1, Fret: fret}}}, Have: 250})
		}
		p := m.Solve(context.Background(), events, false, 1.15)
		for i, s := range p.Steps {
			if len(s.Fingers) != 1 || !s.Fingers[0].Fretting() {
				t.Fatalf("note %d has fingers %v in %v", i+1, s.Fingers, events)
			}
		}
	}
}
