package hear_test

import (
	"context"
	"fmt"

	"ornamen/core/hear"
	"ornamen/core/lick"
	"ornamen/core/neck"
	"ornamen/core/sound"
)

// A full bend that is held 20 cents flat is heard so, to within a cent.
func ExampleBend() {
	g := neck.Standard()
	n := lick.Note{Len: lick.NewTime(1, 2), String: 2, Fret: 8, Bend: &lick.Bend{Semitones: 2, Shape: lick.BendUp}}
	samples := sound.SimulatedBend(g, n, g.Tuning, -20)
	heard, err := hear.Bend(context.Background(), samples, sound.Rate, g.Pitch(n.Place())+2)
	if err != nil {
		fmt.Println(err)
		return
	}
	fmt.Printf("%.0f cents off, in tune: %v\n", heard.Off, heard.InTune())
	// Output:
	// -21 cents off, in tune: false
}
