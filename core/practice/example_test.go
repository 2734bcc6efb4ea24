package practice_test

import (
	"fmt"
	"time"

	"ornamen/core/practice"
)

// A part that is clean up to 120 is wanted at 100. It begins at 60 and goes up after clean
// rounds, in larger steps while nothing is missed.
func ExampleClimb() {
	part := practice.Part{From: 1, To: 8, Ceiling: 120}
	monday := time.Date(2026, 3, 2, 18, 0, 0, 0, time.UTC)
	var log []practice.Entry
	for i := range 4 {
		r := practice.Climb(part, 100, log, 1, 0)
		fmt.Printf("%.0f, %d clean rounds to %.0f\n", r.Tempo, r.Left, r.Next)
		log = append(log, practice.Entry{
			Lick: 1, From: 1, To: 8, Tempo: r.Tempo, Clean: r.Left, Time: monday.Add(time.Duration(i) * time.Minute),
		})
	}
	// Output:
	// 60, 3 clean rounds to 62
	// 62, 3 clean rounds to 64
	// 64, 3 clean rounds to 68
	// 68, 3 clean rounds to 72
}

// Clean tempos that grow by a twentieth a day lead from 97 to 112 in three days.
func ExamplePredict() {
	var days []practice.Point
	tempo := 80.0
	for i := range 5 {
		days = append(days, practice.Point{Day: practice.Date(20514 + i), Tempo: tempo, Clean: 5})
		tempo *= 1.05
	}
	f := practice.Predict(days, 112)
	fmt.Println(f.Known, f.Days, f.Least, f.Most)
	// Output:
	// true 3 3 3
}
