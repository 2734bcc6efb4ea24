package judge

import (
	"regexp"
	"slices"

	"ornamen/core/lick"
	"ornamen/core/phrase"
)

// cellWord is the cell among a recipe's words.
var cellWord = regexp.MustCompile(`(?:^| )--cell (?:"([^"]*)"|(\S+))`)

// nameCells tells the fretting hand which columns the line's recipes call a cell: a figure has one hand, and the recipe
// knows where a figure begins. A line that no run has made, or whose notes are not the recipe's any more, has none: its
// cells are found.
func (ln *Line) nameCells() {
	l := ln.Written
	parts := l.Parts
	if len(parts) == 0 && l.Recipe != "" {
		parts = []lick.Part{{From: 0, To: len(l.Notes), Recipe: l.Recipe}}
	}
	number := 0
	for _, p := range parts {
		sizes := cellSizes(p.Recipe)
		if len(sizes) == 0 || p.To > len(l.Notes) || p.From >= p.To {
			continue
		}
		c, end := ln.ColumnOf[p.From], ln.ColumnOf[p.To-1]+1
		for k := 0; c < end; k++ {
			number++
			for range sizes[k%len(sizes)] {
				if c == end {
					break
				}
				ln.Hand[c].Cell = number
				c++
			}
		}
	}
}

// cellSizes are how many columns the cells of a recipe have, which take turns; none where it names no cell of two
// columns and more. As an example, of "3 2 - 1 | 4 5 6" they are 3 and 3, as a rest is no column.
func cellSizes(recipe string) (sizes []int) {
	m := cellWord.FindStringSubmatch(recipe)
	if m == nil {
		return nil
	}
	p, err := phrase.ParsePhrase(m[1] + m[2])
	if err != nil {
		return nil
	}
	for _, steps := range p.Cells {
		n := 0
		for _, s := range steps {
			if len(s.Tones) > 0 {
				n++
			}
		}
		sizes = append(sizes, n)
	}
	if slices.Min(sizes) < 2 {
		return nil
	}
	return sizes
}
