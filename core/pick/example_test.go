package pick_test

import (
	"fmt"

	"ornamen/core/lick"
	"ornamen/core/pick"
)

// From string 3 to the thinner string 2 a downstroke and an upstroke leave the pick outside of
// the pair, an upstroke and a downstroke between its strings.
func ExampleStringChangeOf() {
	fmt.Println(pick.StringChangeOf(lick.Down, lick.Up, true))
	fmt.Println(pick.StringChangeOf(lick.Up, lick.Down, true))
	// Output:
	// outside
	// inside
}

// Three notes on each string, 100 ms apart. Alternating strokes come to the thinner string with
// an upstroke; economy picking goes on down, which needs less.
func ExampleHand_Solve() {
	var events []pick.Event
	for _, s := range []int{4, 4, 4, 3, 3, 3} {
		events = append(events, pick.Event{Notes: []pick.Note{{String: s}}, Have: 100})
	}
	for _, way := range []pick.Way{pick.Alternate, pick.Economy} {
		path := pick.Hand{Speed: 1}.Solve(events, false, way, 1.05)
		fmt.Printf("%s, load %.2f:", way, path.Bound)
		for _, s := range path.Steps {
			fmt.Print(" ", s.Strokes[0])
		}
		fmt.Println()
	}
	// Output:
	// alternate, load 0.95: down up down up down up
	// economy, load 0.85: down up down down up down
}
