package find

import (
	"fmt"
	"slices"
	"strconv"
	"strings"

	"ornamen/core/music"
	"ornamen/core/neck"
	"ornamen/core/shape"
)

// candidate is a layout at a place that holds notes of the line. step and row are inverse to the ladder's own lists:
// they find where a note of the line lies in the layout.
type candidate struct {
	*shape.Ladder
	layout string
	at     string
	step   map[neck.Place]int    // its step on the ladder
	row    map[neck.Place][2]int // string and number on it
}

// ladders lists the layouts that may lie under the line.
//
// None is computed from the notes: every layout that a player would name is laid at every fret where it can begin, and
// kept if it holds enough of the line. Boxes and three tones a string need half of it, as a run may leave its box for a
// tail; one string, two or three strings and pairs need all of it. Then come the layouts that the line names itself:
// how many tones it has on each string, the frets that it stays between, the places that it returns to. What a run
// takes by itself (the scale's usual layout, its lowest root) is left out of the recipe.
//
// Cost: about four layouts a fret, each a walk over its tones; no more than a hundred are kept.
func (f *finder) ladders() []candidate {
	var out []candidate
	seen := map[string]bool{}
	add := func(layout string, at neck.Place, must int) {
		lay, err := shape.ParseLayout(layout)
		if err != nil {
			return
		}
		key := layout + "/" + at.Notation()
		if seen[key] {
			return
		}
		seen[key] = true
		l, err := shape.NewLadder(f.guitar, f.palette, lay, at, false)
		if err != nil {
			return
		}
		c := candidate{
			Ladder: l,
			layout: layout,
			at:     at.Notation(),
			step:   map[neck.Place]int{},
			row:    map[neck.Place][2]int{},
		}
		for i, s := range l.Steps {
			for _, t := range s {
				c.step[t.Place] = i
			}
		}
		for i, on := range l.ByString {
			for j, t := range on {
				c.row[t.Place] = [2]int{i, j + 1}
			}
		}
		held := 0
		for _, n := range f.line.Notes {
			if _, ok := c.row[n.Place()]; ok {
				held++
			}
		}
		if held >= must {
			// What the run takes by itself need not be said.
			if layout == shape.Default(f.palette.Scale).Name() {
				c.layout = ""
			}
			if at == shape.Start(f.guitar, f.palette, lay) {
				c.at = ""
			}
			out = append(out, c)
		}
	}
	half := (len(f.line.Notes) + 1) / 2
	thick, thin := 1, len(f.guitar.Tuning)
	low := f.line.Notes[0].Place()
	for i, n := range f.line.Notes {
		thick, thin = max(thick, n.String), min(thin, n.String)
		if f.line.Pitch(i) < f.guitar.Pitch(low) || n.Place() == low {
			low = n.Place()
		}
	}
	if thick == thin {
		for fret := 0; fret <= f.guitar.Frets; fret++ {
			if at := (neck.Place{String: thick, Fret: fret}); f.palette.At(f.guitar.Pitch(at)).Role != music.Outside &&
				fret <= low.Fret {
				add(fmt.Sprintf("string:%d", thick), at, len(f.line.Notes))
			}
		}
	}
	f.pairLayouts(add, low, len(f.line.Notes))
	for fret := 0; fret <= f.guitar.Frets; fret++ {
		for _, s := range []int{len(f.guitar.Tuning), thick} {
			for _, layout := range []string{"box", "3nps"} {
				add(layout, neck.Place{String: s, Fret: fret}, half)
			}
		}
	}
	if row, at, ok := f.ownCounts(); ok {
		add("counts:"+row, at, half)
	}
	lo, hi := f.guitar.Frets, 0
	for _, n := range f.line.Notes {
		lo, hi = min(lo, n.Fret), max(hi, n.Fret)
	}
	if thick > thin && thick-thin <= 2 {
		layout := "strings:" + strconv.Itoa(thick)
		for s := thick - 1; s >= thin; s-- {
			layout += "," + strconv.Itoa(s)
		}
		if lay, err := shape.ParseLayout(layout); err == nil {
			add(layout, shape.Start(f.guitar, f.palette, lay), len(f.line.Notes))
			add(layout, neck.Place{String: thick, Fret: lo}, len(f.line.Notes))
		}
	}
	add(fmt.Sprintf("frets:%d-%d", lo, hi), neck.Place{String: len(f.guitar.Tuning), Fret: lo}, half)
	if own, at := f.ownPlaces(); own != "" {
		add(own, at, len(f.line.Notes))
	}
	return out
}

// pairLayouts tries double stops: the two strings of the first pair, every interval from a second to a tenth, from
// every fret at or below the line. A fret below the line can be where the ladder of pairs begins, as the run may start
// higher up.
func (f *finder) pairLayouts(add func(string, neck.Place, int), low neck.Place, must int) {
	for _, it := range f.items {
		if len(it.notes) != 2 {
			continue
		}
		a, b := it.notes[0], it.notes[1]
		for interval := 2; interval <= 10; interval++ {
			for fret := 0; fret <= low.Fret; fret++ {
				add(fmt.Sprintf("pairs:%d,%d:%d", max(a.String, b.String), min(a.String, b.String), interval),
					neck.Place{String: max(a.String, b.String), Fret: fret}, must)
			}
		}
		return
	}
}

// ownCounts reads how many tones the line has on each string, if they follow on
// one another without a gap: 3 1 3 tones on strings 4, 3 and 2 are "counts:3,1,3".
func (f *finder) ownCounts() (row string, at neck.Place, ok bool) {
	on := map[int]map[int]bool{}
	thick, thin := 0, 99
	for _, n := range f.line.Notes {
		if on[n.String] == nil {
			on[n.String] = map[int]bool{}
		}
		on[n.String][n.Fret] = true
		thick, thin = max(thick, n.String), min(thin, n.String)
	}
	var words []string
	for s := thick; s >= thin; s-- {
		if len(on[s]) == 0 {
			return "", at, false
		}
		words = append(words, strconv.Itoa(len(on[s])))
	}
	at = neck.Place{String: thick, Fret: 99}
	for fret := range on[thick] {
		at.Fret = min(at.Fret, fret)
	}
	return strings.Join(words, ","), at, true
}

// ownPlaces is the line's own selection of places. Forty places at most, each played one and a half times on average:
// else the selection would say no less than the line.
func (f *finder) ownPlaces() (layout string, first neck.Place) {
	seen := map[neck.Place]bool{}
	var words []string
	for _, n := range f.line.Notes {
		if p := n.Place(); !seen[p] {
			seen[p] = true
			words = append(words, p.Notation())
		}
	}
	// A selection helps only where the line comes back to its places.
	if len(words) > 40 || 3*len(words) > 2*len(f.line.Notes) {
		return "", first
	}
	slices.Sort(words)
	first, _ = neck.ParsePlace(words[0]) // it was written just now
	return "places:" + strings.Join(words, ","), first
}
