package load_test

import (
	"fmt"

	"ornamen/core/load"
)

// Proposals may ask a little more than the least possible, but never break a line for it.
func ExampleLimit() {
	for _, bound := range []float64{0.5, 0.97, 1.2} {
		fmt.Printf("%.2f: %.3f\n", bound, load.Limit(bound, load.Slack))
	}
	// Output:
	// 0.50: 0.575
	// 0.97: 1.000
	// 1.20: 1.380
}
