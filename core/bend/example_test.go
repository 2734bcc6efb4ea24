package bend_test

import (
	"fmt"

	"ornamen/core/bend"
	"ornamen/core/neck"
)

// Near the nut a full bend asks for more force over a shorter way than in the middle of the string
// (common practice: bends are hard at the low frets).
func ExampleSolve() {
	g := neck.Standard()
	for _, p := range []neck.Place{{String: 2, Fret: 3}, {String: 2, Fret: 12}} {
		push, ok := bend.Solve(g, p, 2)
		fmt.Printf("%s: %v, %.1f mm, %.1f N, back to %.2f half steps\n",
			p.Notation(), ok, push.Way, push.Force, bend.Raise(g, p, push.Way)/100)
	}
	// Output:
	// 2:3: true, 10.8 mm, 10.8 N, back to 2.00 half steps
	// 2:12: true, 14.9 mm, 8.0 N, back to 2.00 half steps
}
