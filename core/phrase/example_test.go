package phrase_test

import (
	"errors"
	"fmt"

	"ornamen/core/phrase"
)

// Two tones together, a tone, a rest, a hammer-on, and a bend with vibrato.
func ExampleParsePhrase() {
	p, err := phrase.ParsePhrase("(1 3) 2 . h3 2^full~")
	if err != nil {
		fmt.Println(err)
		return
	}
	for _, s := range p.Cells[0] {
		fmt.Printf("%s tones %d, rest %v, slur %q, bent %v, vibrato %d\n",
			s.Text(p.Kind), len(s.Tones), s.Rest, s.Slur, s.Bend != nil, s.Vibrato)
	}
	// Output:
	// (1 3) tones 2, rest false, slur "", bent false, vibrato 0
	// 2 tones 1, rest false, slur "", bent false, vibrato 0
	// . tones 0, rest true, slur "", bent false, vibrato 0
	// h3 tones 1, rest false, slur "hammer", bent false, vibrato 0
	// 2^full~ tones 1, rest false, slur "", bent true, vibrato 1
}

// An error points at the word that is none.
func ExampleWordError() {
	_, err := phrase.ParsePhrase("1 3 2x 4")
	var at *phrase.WordError
	fmt.Println(errors.As(err, &at), at.Word)
	// Output:
	// true 2x
}
