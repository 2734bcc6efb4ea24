package find_test

import (
	"context"
	"fmt"

	"ornamen/core/find"
	"ornamen/core/neck"
	"ornamen/core/run"
)

// The recipe of a line is found again from its notes.
func ExampleFind() {
	grown, err := run.Grow(run.Recipe{Key: "A minor pentatonic", At: "6:5", Cell: "1 3 2", Times: 4}, neck.Standard())
	if err != nil {
		fmt.Println(err)
		return
	}
	found, ok, err := find.Find(context.Background(), neck.Standard(), grown.Lick)
	fmt.Println(ok, err, found.Recipe)
	// Output:
	// true <nil> --key "A minor pentatonic" --cell "1 3 2" --times 4
}
