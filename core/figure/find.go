package figure

import (
	"cmp"
	"slices"
)

// Kind is what sort of figure some columns are.
type Kind string

// The kinds of figure.
const (
	Phrase  Kind = "phrase"  // between two rests
	Cell    Kind = "cell"    // that comes back, see FindCells
	String  Kind = "string"  // three tones or more of one string
	Octaves Kind = "octaves" // a run of them
	Grips   Kind = "grips"   // notes together on the same strings, twice or more
)

// Figure is a stretch of a line that players take as one: its columns from From up to before To.
// Those of a kind that are alike have the same number Of: cells of a shape, tones on a string with the
// same distances; every other figure has a number of its own.
type Figure struct {
	Kind     Kind
	From, To int
	Of       int
}

// Find lists the figures of a line by where they begin, the longer first; cells are looked for in each phrase. rest
// says whether a phrase begins at a column: the first one, and each after a rest. Cost: as FindCells.
func Find(columns [][]Note, rest func(column int) bool) (out []Figure) {
	add := func(k Kind, from, to, of int) { out = append(out, Figure{Kind: k, From: from, To: to, Of: of}) }
	shapes := 0
	for from, n := 0, 0; from < len(columns); n++ {
		to := from + 1
		for to < len(columns) && !rest(to) {
			to++
		}
		add(Phrase, from, to, n)
		cells := FindCells(columns[from:to])
		for _, group := range cells.Groups {
			for _, k := range group {
				add(Cell, from+k, from+k+cells.Size, shapes)
			}
			shapes++
		}
		from = to
	}
	line := singles(columns)
	alike := map[string]int{}
	stretches(line, func(from, to int) {
		tones := map[int]bool{}
		key := make([]byte, 0, to-from)
		for _, n := range line[from:to] {
			tones[n.Place.Fret] = true
			key = append(key, byte(n.Place.Fret-line[from].Place.Fret))
		}
		if len(tones) < 3 {
			return
		}
		of, known := alike[string(key)]
		if !known {
			of = len(alike)
			alike[string(key)] = of
		}
		add(String, from, to, of)
	})
	n := 0
	octaveRuns(line, func(from, to int) { add(Octaves, from, to, n); n++ })
	n = 0
	gripRuns(columns, func(from, to int) { add(Grips, from, to, n); n++ })
	slices.SortStableFunc(out, func(a, b Figure) int {
		return cmp.Or(cmp.Compare(a.From, b.From), cmp.Compare(b.To, a.To))
	})
	return out
}
