package neck

import (
	"fmt"
	"strconv"
	"strings"

	"ornamen/core/text"
)

// Place is a fretted or open tone: String 1 is the thinnest, Fret 0 is open.
type Place struct {
	String int
	Fret   int
}

// ParsePlace reads "string:fret", as Notation writes it. Whether the place is on a neck is the guitar's to say.
func ParsePlace(s string) (Place, error) {
	str, fret, ok := strings.Cut(strings.TrimSpace(s), ":")
	a, err1 := strconv.Atoi(str)
	b, err2 := strconv.Atoi(fret)
	if !ok || err1 != nil || err2 != nil {
		return Place{}, fmt.Errorf("%q is no place: write STRING:FRET, as in 6:9", text.Clip(s, 40))
	}
	return Place{String: a, Fret: b}, nil
}

// Notation writes the place as string:fret.
func (p Place) Notation() string { return fmt.Sprintf("%d:%d", p.String, p.Fret) }

// Apart is about how far a hand goes from one place to another, in frets: a string counts as two of them.
func Apart(a, b Place) int {
	return max(a.Fret-b.Fret, b.Fret-a.Fret) + 2*max(a.String-b.String, b.String-a.String)
}
