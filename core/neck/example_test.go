package neck_test

import (
	"fmt"

	"ornamen/core/music"
	"ornamen/core/neck"
)

// Equal temperament halves the string at fret 12, so that of a scale of 648 mm 324 mm are left.
func ExampleGuitar_FretX() {
	g := neck.Standard()
	fmt.Printf("fret 12 lies %.0f mm from the nut, fret 24 %.0f\n", g.FretX(12), g.FretX(24))
	// Output:
	// fret 12 lies 324 mm from the nut, fret 24 486
}

// One tone, many places: the E above middle C of a guitar with 22 frets.
func ExampleGuitar_Places() {
	e, err := music.ParsePitch("E4")
	if err != nil {
		fmt.Println(err)
		return
	}
	for _, p := range neck.Standard().Places(e) {
		fmt.Print(p.Notation(), " ")
	}
	// Output:
	// 1:0 2:5 3:9 4:14 5:19
}
