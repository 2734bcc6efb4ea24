package figure

import (
	"cmp"
	"slices"
)

// shapes are the fingers of three tones on a string by the distances of the upper two from the
// lowest, in frets (common practice).
var shapes = map[[2]int][3]int{
	{1, 2}: {1, 2, 3}, {1, 3}: {1, 2, 4}, {2, 3}: {1, 3, 4}, {2, 4}: {1, 2, 4}, {1, 4}: {1, 2, 4}, {3, 4}: {1, 3, 4},
}

// pairShapes are those of two tones of one position by their distance; four are 1 2 3 4 (common practice).
var pairShapes = [PositionSpan + 1]int{0, 2, 3, 4, 4}

// onString gives the notes [from, to), an unbroken stretch on one string, the fingers of its shape:
// of the stretch's own tones where it has three, else of those that the string has nearby. A stretch
// of more is cut into cells where one comes back along it, or into positions where it goes one way. Nearby is what the
// hand plays within so many frets.
func onString(line []single, out [][]Usual, from, to, frets int) {
	tones := tonesOf(line[from:to])
	if len(tones) > 3 {
		if n := cell(line[from:to]); n > 0 {
			for at := from; at < to; at += n {
				inCell(line, out, at, min(to, at+n))
			}
			return
		}
		along(line, out, from, to)
		return
	}
	for k := from; k < to; k++ {
		near := tones
		if len(near) < 3 {
			near = nil
			low, high := nearby(line, k, frets)
			for i := low; i < high; i++ {
				if line[i].is && line[i].Place.String == line[k].Place.String {
					near = with(near, line[i].Place.Fret)
				}
			}
		}
		if len(near) == 3 {
			out[k][0].OnString = ofTones(near, line[k].Place.Fret)
			out[k][0].at = situation{"tones", near[1] - near[0], near[2] - near[0]}
			out[k][0].tone = slices.Index(near, line[k].Place.Fret)
		}
	}
}

// nearby are the notes [from, to) around note k that the hand plays without leaving so many frets and without being led
// elsewhere, StringReach to either side at most. It grows to both sides in turn, as the nearer note decides.
func nearby(line []single, k, frets int) (from, to int) {
	low, high := line[k].Place.Fret, line[k].Place.Fret
	holds := func(n single) bool {
		if !n.is {
			return true
		}
		l, h := min(low, n.Place.Fret), max(high, n.Place.Fret)
		if h-l > frets {
			return false
		}
		low, high = l, h
		return true
	}
	from, to = k, k+1
	for left, right := true, true; left || right; {
		left = left && from > max(0, k-StringReach) && !line[from].Led && holds(line[from-1])
		if left {
			from--
		}
		right = right && to < min(len(line), k+StringReach+1) && !line[to].Led && holds(line[to])
		if right {
			to++
		}
	}
	return from, to
}

// tonesOf are the frets of notes on one string, rising.
func tonesOf(notes []single) (frets []int) {
	for _, n := range notes {
		frets = with(frets, n.Place.Fret)
	}
	return frets
}

// ofTones is the finger of a fret among the few that one position holds, rising; 0 where they make no usual shape.
func ofTones(frets []int, fret int) int {
	at, low := slices.Index(frets, fret), frets[0]
	if at < 0 || frets[len(frets)-1]-low > PositionSpan {
		return 0
	}
	switch len(frets) {
	case 2:
		return [2]int{1, pairShapes[frets[1]-low]}[at]
	case 3:
		return shapes[[2]int{frets[1] - low, frets[2] - low}][at]
	case 4:
		return at + 1
	}
	return 0
}

// inCell gives the notes [from, to) the fingers of their own tones.
func inCell(line []single, out [][]Usual, from, to int) {
	tones := tonesOf(line[from:to])
	for k := from; k < to; k++ {
		out[k][0].Along = ofTones(tones, line[k].Place.Fret)
	}
}

// cell is how many notes a cell has that comes back along one string at other frets: the least
// number after which the line rises and falls as before. 0 where none does, or the line goes one way.
func cell(notes []single) int {
	way := make([]int, len(notes)-1)
	for i := range way {
		way[i] = cmp.Compare(notes[i+1].Place.Fret, notes[i].Place.Fret)
	}
	for n := CellLeast; n <= CellMost && 2*n <= len(notes); n++ {
		back := true
		for i := n; i < len(way) && back; i++ {
			back = way[i] == way[i-n]
		}
		if back && slices.ContainsFunc(way, func(w int) bool { return w != way[0] }) {
			return n
		}
	}
	return 0
}

// along gives a stretch that goes one way along its string the fingers of the fewest positions that hold it, each as
// full as can be, in the order of playing: a hand stays for as many notes as it reaches and then shifts, rather than
// creep with two fingers (common practice). The note of a turn belongs to the way it came by.
func along(line []single, out [][]Usual, from, to int) {
	for from < to {
		end := from + 1
		for way := 0; end < to; end++ {
			d := line[end].Place.Fret - line[end-1].Place.Fret
			if d == 0 || d*way < 0 || !line[end].Plain {
				break
			}
			way = d
		}
		if end-from >= AlongLeast {
			byPositions(line, out, from, end)
		}
		from = end
	}
}

// byPositions cuts the notes [from, to) into positions. One that is made of a single note is left
// open: a finger that leaps has none before it.
func byPositions(line []single, out [][]Usual, from, to int) {
	for at := from; at < to; {
		low, high, next := line[at].Place.Fret, line[at].Place.Fret, at+1
		for ; next < to && next-at < 4; next++ {
			l, h := min(low, line[next].Place.Fret), max(high, line[next].Place.Fret)
			if h-l > PositionSpan {
				break
			}
			low, high = l, h
		}
		if next-at > 1 {
			inCell(line, out, at, next)
		}
		at = next
	}
}
