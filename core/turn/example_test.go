package turn_test

import (
	"fmt"

	"ornamen/core/lick"
	"ornamen/core/neck"
	"ornamen/core/turn"
)

// steps is a line of sixteenths in A minor pentatonic on string 2.
func steps(frets ...int) lick.Lick {
	l := lick.New()
	l.Key = lick.Key{Tonic: "A", Scale: "minor pentatonic"}
	for i, f := range frets {
		l.Notes = append(l.Notes,
			lick.Note{At: lick.NewTime(int64(i), 16), Len: lick.NewTime(1, 16), String: 2, Fret: f})
	}
	return l
}

// Turns of three notes. A rotation names the note that comes first.
func ExampleTurn() {
	for _, how := range []string{"backwards", "degree:1", "rotate:2", "string:1", "-octave", "string:9"} {
		l, err := turn.Turn(neck.Standard(), steps(5, 8, 10), how, 0, 0)
		fmt.Printf("%s:", how)
		if err != nil {
			fmt.Println(" refused,", err)
			continue
		}
		for _, n := range l.Notes {
			fmt.Print(" ", n.Place().Notation())
		}
		fmt.Println()
	}
	// Output:
	// backwards: 2:10 2:8 2:5
	// degree:1: 2:8 2:10 2:13
	// rotate:2: 2:8 2:10 2:5
	// string:1: 3:5 3:8 3:10
	// -octave: 4:2 4:5 4:7
	// string:9: refused, the line has no string beyond to go to
}

// The second line goes on where the first one ends.
func ExampleJoin() {
	l, err := turn.Join(steps(5, 8), steps(10, 8, 5), 0, turn.AtOnce)
	if err != nil {
		fmt.Println(err)
		return
	}
	for _, n := range l.Notes {
		fmt.Print(n.At, " ", n.Place().Notation(), ", ")
	}
	fmt.Println(len(l.Notes), "notes")
	// Output:
	// 0 2:5, 1/16 2:8, 1/8 2:10, 3/16 2:8, 1/4 2:5, 5 notes
}
