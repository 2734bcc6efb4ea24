package lick_test

import (
	"fmt"

	"ornamen/core/lick"
)

// eighths is a line of eighth notes on string 2.
func eighths(frets ...int) lick.Lick {
	l := lick.New()
	for i, f := range frets {
		l.Notes = append(l.Notes, lick.Note{At: lick.NewTime(int64(i), 8), Len: lick.NewTime(1, 8), String: 2, Fret: f})
	}
	return l
}

// At 120 a quarter lasts half a second. Straight eighths halve it; a shuffle gives two thirds to
// the first and one to the second.
func ExampleLick_Timeline() {
	l := eighths(5, 8, 5, 8)
	l.Tempo = 120
	for _, feel := range []lick.Feel{lick.Straight, lick.Shuffle} {
		l.Feel = feel
		fmt.Print(l.Feel, ":")
		for _, s := range l.Timeline() {
			fmt.Printf(" %.3f+%.3f", s.At, s.Len)
		}
		fmt.Println()
	}
	// Output:
	// straight: 0.000+0.250 0.250+0.250 0.500+0.250 0.750+0.250
	// shuffle: 0.000+0.333 0.333+0.167 0.500+0.333 0.833+0.167
}

// An edit gives another lick; the one it was given stays.
func ExampleEdit() {
	before := eighths(5, 8, 7, 5)
	bent := lick.SetBend{Note: 1, Bend: &lick.Bend{Semitones: 2, Shape: lick.BendUp}}
	after, err := bent.Apply(before)
	fmt.Println(bent.What(), err)
	fmt.Println(before.Notes[1].Bend != nil, after.Notes[1].Bend != nil)
	fmt.Println(lick.Diff(before, after).Marks)
	// Output:
	// note 2 bent <nil>
	// false true
	// [1]
}

// Two chords share a bar, a stroke between them.
func ExampleParseChords() {
	chords, err := lick.ParseChords("Am7 D7 | Gmaj7", lick.Meter{Beats: 4, Unit: 4}, lick.Time{})
	if err != nil {
		fmt.Println(err)
		return
	}
	for _, c := range chords {
		fmt.Println(c.Name, c.At, c.Len)
	}
	// Output:
	// Am7 0 1/2
	// D7 1/2 1/2
	// Gmaj7 1 1
}
