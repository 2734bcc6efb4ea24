package say_test

import (
	"fmt"

	"ornamen/core/lick"
	"ornamen/core/say"
)

// A finding is told with its two numbers; one that no tempo helps says so.
func Example() {
	l := lick.New()
	eighth := lick.NewTime(1, 8)
	l.Notes = []lick.Note{
		{Len: eighth, String: 2, Fret: 9, Finger: lick.Ring},
		{At: eighth, Len: eighth, String: 1, Fret: 8, Finger: lick.Index},
	}
	jump := say.Jump(l, 0, 1).Needs(95, 71)
	fmt.Println(jump.Title)
	fmt.Println(jump.Text)
	fmt.Println(say.NoSuchFret(24, 22).AnyTempo().Text)
	// Output:
	// the index jumps
	// From fret 9 on B to fret 8 on high E with finger 1: needs 95 ms, has 71.
	// Fret 24 is not there: this guitar has 22. This holds at any tempo.
}
