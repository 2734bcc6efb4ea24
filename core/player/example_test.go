package player_test

import (
	"fmt"

	"ornamen/core/lick"
	"ornamen/core/neck"
	"ornamen/core/player"
)

// What is measured becomes the model of the player: who holds 5 to 9 on the thickest string a
// wider reach than who holds the same four frets higher up, where they lie closer.
func ExampleProfile_Player() {
	p := player.DefaultProfile()
	for _, fret := range []int{7, 5, 3} {
		p.HoldFrom, p.HoldTo = fret, fret+4
		who, err := p.Player()
		if err != nil {
			fmt.Println(err)
			return
		}
		reach, _ := who.Hand.LimitOf(lick.Index, lick.Little)
		fmt.Printf("%d to %d: %.0f mm\n", p.HoldFrom, p.HoldTo, reach)
	}
	p.HoldTo = 40
	_, err := p.Player()
	fmt.Println(err)
	// Output:
	// 7 to 11: 113 mm
	// 5 to 9: 127 mm
	// 3 to 7: 143 mm
	// a hold goes from a lower to a higher fret of this neck, not from 3 to 40
}

// Who has said nothing plays a six-string guitar in standard tuning.
func ExampleDefault() {
	g := player.Default().Guitar
	fmt.Println(neck.TuningText(g.Tuning), g.Frets, "frets")
	// Output:
	// E4 B3 G3 D3 A2 E2 22 frets
}
