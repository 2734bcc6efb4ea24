package musicxml

import (
	"slices"
	"strconv"
	"strings"
)

// played is the order in which the bars of a part are played: what is repeated as often as it is, each time with the
// ending that it has then. loop says that it is nothing but the whole from beginning to end, twice or without end,
// which a lick keeps as a loop.
func (p xPart) played() (order []int, loop bool) {
	type mark struct {
		forward, backward bool
		times             int
		ending            []int // empty: at each time
	}
	marks := make([]mark, len(p.Measures))
	var ending []int
	repeats, endings := 0, 0
	for k, m := range p.Measures {
		closes := false
		for _, i := range m.Items {
			switch i.Repeat {
			case "forward":
				marks[k].forward = true
			case "backward":
				marks[k].backward, marks[k].times = true, max(2, i.Times)
				repeats++
			}
			switch i.EndingType {
			case "start":
				ending = numbers(i.Ending)
				endings++
			case "stop", "discontinue":
				closes = true
			}
		}
		marks[k].ending = ending
		if closes {
			ending = nil
		}
	}
	whole := !slices.ContainsFunc(marks[min(1, len(marks)):], func(m mark) bool { return m.forward })
	if repeats == 1 && endings == 0 && whole && len(marks) > 0 && marks[len(marks)-1].backward {
		for k := range marks {
			order = append(order, k)
		}
		return order, true
	}
	// lastTime is the highest number that the endings of a section have.
	lastTime := func(start int) (last int) {
		for k := start; k < len(marks); k++ {
			m := marks[k]
			if k > start && (m.forward || len(m.ending) == 0 && len(marks[k-1].ending) > 0) {
				break
			}
			for _, n := range m.ending {
				last = max(last, n)
			}
		}
		return last
	}
	start, time := 0, 1
	for k := 0; k < len(marks) && len(order) < maxPlayed; k++ {
		m := marks[k]
		if k > start && (m.forward || len(m.ending) == 0 && len(marks[k-1].ending) > 0) {
			start, time = k, 1 // a section begins, with its sign or after the endings of another
		}
		if len(m.ending) > 0 && !slices.Contains(m.ending, time) {
			continue
		}
		order = append(order, k)
		if !m.backward {
			continue
		}
		last := m.times
		if len(m.ending) > 0 {
			last = lastTime(start)
		}
		if time < last {
			time++
			k = start - 1
		} else if len(m.ending) == 0 {
			start, time = k+1, 1
		}
	}
	return order, false
}

// maxPlayed is how many bars are written out at most.
const maxPlayed = 20_000

// numbers reads the times of an ending, "1, 2".
func numbers(text string) (out []int) {
	for _, w := range strings.FieldsFunc(text, func(r rune) bool { return r == ',' || r == ' ' }) {
		if n, err := strconv.Atoi(w); err == nil && n > 0 && n < 100 {
			out = append(out, n)
		}
	}
	return out
}
