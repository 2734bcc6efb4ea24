package edit_test

import (
	"fmt"

	"ornamen/core/edit"
	"ornamen/core/lick"
	"ornamen/core/neck"
)

// The words of a key or a command become one edit; what cannot be is refused in a sentence.
func ExampleRead() {
	l := lick.New()
	l.Notes = []lick.Note{{Len: lick.NewTime(1, 4), String: 3, Fret: 7}}
	for _, line := range []string{"1 bend 2", "tempo 112", "1 place 3:9", "1 place 9:1", "2 remove"} {
		w, err := edit.Parse(line)
		if err == nil {
			var e lick.Edit
			if e, err = edit.Read(neck.Standard(), l, w); err == nil {
				l, err = e.Apply(l)
			}
			if err == nil {
				fmt.Printf("%s: %s\n", line, e.What())
			}
		}
		if err != nil {
			fmt.Printf("%s: refused, %v\n", line, err)
		}
	}
	fmt.Println(l.Tempo, l.Notes[0].Place().Notation())
	// Output:
	// 1 bend 2: note 1 bent
	// tempo 112: tempo
	// 1 place 3:9: note 1 to 3:9
	// 1 place 9:1: refused, note 1: string 9 is none: use 1 to 6
	// 2 remove: refused, there is no note 2
	// 112 3:9
}
