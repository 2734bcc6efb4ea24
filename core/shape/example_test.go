package shape_test

import (
	"fmt"

	"ornamen/core/lick"
	"ornamen/core/music"
	"ornamen/core/neck"
	"ornamen/core/shape"
)

// The pentatonic box at fret 5, two tones a string (common practice).
func ExampleLay() {
	p, err := music.ParseKey("A minor pentatonic", nil, nil)
	if err != nil {
		fmt.Println(err)
		return
	}
	layout, err := shape.ParseLayout("box")
	if err != nil {
		fmt.Println(err)
		return
	}
	tones, err := shape.Lay(neck.Standard(), p, layout, neck.Place{String: 6, Fret: 5})
	if err != nil {
		fmt.Println(err)
		return
	}
	for _, t := range tones {
		fmt.Print(t.Place.Notation(), " ", t.Tone.Degree, ", ")
	}
	fmt.Println(len(tones))
	// Output:
	// 6:5 1, 6:8 b3, 5:5 4, 5:7 5, 4:5 b7, 4:7 1, 3:5 b3, 3:7 4, 2:5 5, 2:8 b7, 1:5 1, 1:8 b3, 12
}

// Each tone goes to the tone of the same number: ♭6 to 6, ♭7 to 7, and the root stays.
func ExampleRecolour() {
	l := lick.New()
	l.Key = lick.Key{Tonic: "A", Scale: "minor"}
	for i, fret := range []int{5, 6, 8, 10} { // E F G A on string 2
		l.Notes = append(l.Notes,
			lick.Note{At: lick.NewTime(int64(i), 8), Len: lick.NewTime(1, 8), String: 2, Fret: fret})
	}
	to, err := music.ParseKey("A major", nil, nil)
	if err != nil {
		fmt.Println(err)
		return
	}
	got, err := shape.Recolour(l, neck.Standard(), to, shape.NearestPlace)
	if err != nil {
		fmt.Println(err)
		return
	}
	for _, c := range got.Changes {
		fmt.Printf("%s at %s: %s at %s\n", c.Before, c.From.Notation(), c.After, c.To.Notation())
	}
	// Output:
	// 5 at 2:5: 5 at 2:5
	// ♭6 at 2:6: 6 at 2:7
	// ♭7 at 2:8: 7 at 2:9
	// 1 at 2:10: 1 at 2:10
}
