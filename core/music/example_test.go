package music_test

import (
	"fmt"

	"ornamen/core/music"
)

// What a tone is over a chord, by the chord's name.
func ExampleParseChord() {
	c, err := music.ParseChord("E7#9")
	if err != nil {
		fmt.Println(err)
		return
	}
	for _, pitch := range []music.Pitch{64, 67, 68, 69} {
		degree, in := c.Over(music.NameOf(pitch.Class()))
		fmt.Println(pitch, degree, in)
	}
	// Output:
	// E4 1 true
	// G4 #9 true
	// G#4 3 true
	// A4 4 false
}
