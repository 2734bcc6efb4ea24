package run_test

import (
	"fmt"

	"ornamen/core/neck"
	"ornamen/core/run"
)

// A cell of three tones climbs a pentatonic box by one tone.
func ExampleGrow() {
	r, err := run.Parse(`--key "A minor pentatonic" --at 6:5 --cell "1 2 3" --times 3`)
	if err != nil {
		fmt.Println(err)
		return
	}
	grown, err := run.Grow(r, neck.Standard())
	if err != nil {
		fmt.Println(err)
		return
	}
	for _, n := range grown.Lick.Notes {
		fmt.Print(n.Place().Notation(), " ")
	}
	// Output:
	// 6:5 6:8 5:5 6:8 5:5 5:7 5:5 5:7 4:5
}
