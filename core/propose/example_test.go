package propose_test

import (
	"context"
	"fmt"

	"ornamen/core/judge"
	"ornamen/core/lick"
	"ornamen/core/player"
	"ornamen/core/propose"
)

// A line without hands gets fingers and strokes, and says up to which tempo it is clean.
func ExampleHands() {
	l := lick.New()
	for i, at := range [][2]int{{6, 5}, {6, 8}, {5, 5}, {5, 7}, {4, 5}, {4, 7}} {
		l.Notes = append(l.Notes,
			lick.Note{At: lick.NewTime(int64(i), 16), Len: lick.NewTime(1, 16), String: at[0], Fret: at[1]})
	}
	list, err := propose.Hands(context.Background(), judge.NewEngine(player.Default()), l, propose.Request{})
	if err != nil {
		fmt.Println(err)
		return
	}
	for _, n := range list[0].Lick.Notes {
		fmt.Print(n.Finger, " ", n.Stroke, ", ")
	}
	fmt.Println("clean up to", list[0].Ceiling.Whole())
	// Output:
	// 1 down, 4 up, 1 down, 3 up, 1 down, 3 up, clean up to 150
}
