package changes_test

import (
	"fmt"

	"ornamen/core/changes"
	"ornamen/core/lick"
	"ornamen/core/music"
)

// C is held from Am7 into D7: the third of the one, the seventh of the other. A line lands on
// every change after its first chord.
func ExampleRead() {
	l := lick.New()
	l.Key = lick.Key{Tonic: "A", Scale: "dorian"}
	var err error
	if l.Chords, err = changes.Parse("Am7 | D7", l.Meter, l.Pickup, lick.Key{Tonic: "A"}); err != nil {
		fmt.Println(err)
		return
	}
	for bar := range int64(2) {
		l.Notes = append(l.Notes, lick.Note{At: lick.NewTime(bar, 1), Len: lick.NewTime(1, 1), String: 2, Fret: 1})
	}
	r := changes.Read(l)
	for _, n := range r.Notes {
		fmt.Println(r.Chords[n.Chord].Name, n.Degree, n.Role)
	}
	for _, x := range r.Landings {
		fmt.Println("lands on", r.Chords[x.Chord].Name, x.Word)
	}
	// Output:
	// Am7 b3 third
	// D7 b7 seventh
	// lands on D7 on time
}

// Over the fourth chord the ♭3 of A minor pentatonic is the ♭7 (common practice).
func ExampleFitOver() {
	p, err := music.ParseKey("A minor pentatonic", nil, nil)
	if err != nil {
		fmt.Println(err)
		return
	}
	c, err := music.ParseChord("D7")
	if err != nil {
		fmt.Println(err)
		return
	}
	fit := changes.FitOver(p, c, nil)
	for _, o := range fit.Tones {
		fmt.Printf("%s is %s, %s\n", o.Tone.Degree, o.Degree, o.Role)
	}
	fmt.Println("lacks", fit.Lacks)
	// Output:
	// 1 is 5, fifth
	// b3 is b7, seventh
	// 4 is 1, root
	// 5 is 9, colour
	// b7 is 4, clash
	// lacks [3]
}

// Chords are named as tones of the key too, and come back as text with the bars they fill.
func ExampleText() {
	l := lick.New()
	var err error
	if l.Chords, err = changes.Parse("1m7 4 5 | . 1m7", l.Meter, l.Pickup, lick.Key{Tonic: "A"}); err != nil {
		fmt.Println(err)
		return
	}
	fmt.Println(changes.Text(l))
	// Output:
	// Am7 D E | . Am7
}
