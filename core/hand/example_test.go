package hand_test

import (
	"context"
	"fmt"

	"ornamen/core/hand"
	"ornamen/core/lick"
	"ornamen/core/neck"
)

// The index jumps from string 2 to string 1, three frets up, in 134 ms; the ring finger
// is there already.
func ExampleModel_Bound() {
	m := hand.NewModel(hand.Medium(), neck.Standard())
	for _, second := range []lick.Finger{lick.Index, lick.Ring} {
		events := []hand.Event{
			{Touches: []hand.Touch{{Place: neck.Place{String: 2, Fret: 9}, Finger: lick.Index}}},
			{Touches: []hand.Touch{{Place: neck.Place{String: 1, Fret: 12}, Finger: second}}, Have: 134},
		}
		bound, _ := m.Bound(context.Background(), events, false)
		fmt.Printf("%s: load %.2f\n", second.Word(), bound)
	}
	// Output:
	// index: load 1.11
	// ring finger: load 0.68
}
