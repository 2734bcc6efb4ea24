package figure

import "slices"

// Octaves and notes together are played by shape: the same shape takes the same fingers wherever it
// lies on the neck, so that the hand moves as one piece (common practice).

// octaves gives the notes of a run of octaves over a string the index on the thick string and the ring finger on the
// thin one, or the little finger where the octave spans three frets. One octave alone is no run.
func octaves(line []single, out [][]Usual) {
	octaveRuns(line, func(from, to int) {
		for k := from; k < to; k++ {
			if paired(line, k) {
				give(line, out, k-1, k)
			} else {
				give(line, out, k, k+1)
			}
		}
	})
}

// octaveRuns calls f for each run of octaves.
func octaveRuns(line []single, f func(from, to int)) {
	for from := 0; from < len(line); {
		to, pairs := from, 0
		for ; to < len(line) && (paired(line, to) || paired(line, to+1)); to++ {
			if to > from && paired(line, to) {
				pairs++
			}
		}
		if pairs > 1 {
			f(from, to)
		}
		from = max(to, from+1)
	}
}

// paired says whether the notes before k and at k make an octave.
func paired(line []single, k int) bool {
	if k < 1 || k >= len(line) {
		return false
	}
	_, _, ok := octave(line[k-1], line[k])
	return ok
}

// give writes the fingers of the octave of two notes.
func give(line []single, out [][]Usual, a, b int) {
	frets, rises, _ := octave(line[a], line[b])
	low, high := 1, 3
	if frets == 3 {
		high = 4
	}
	if !rises {
		low, high = high, low
	}
	out[a][0].ByShape, out[b][0].ByShape = low, high
	at := situation{"octave", frets, 0}
	out[a][0].at, out[b][0].at = at, at
	out[a][0].tone, out[b][0].tone = 0, 1
	if !rises {
		out[a][0].tone, out[b][0].tone = 1, 0
	}
}

// octave says whether two notes stand as an octave over a string, by how many frets, and whether
// the first of them is the lower one.
func octave(x, y single) (frets int, rises, ok bool) {
	low, high := x.Place, y.Place
	if rises = low.String > high.String; !rises {
		low, high = high, low
	}
	frets = high.Fret - low.Fret
	plain := x.is && y.is && x.Plain && y.Plain
	return frets, rises, plain && low.String-high.String == 2 && (frets == 2 || frets == 3)
}

// together gives the columns of a run of notes together, on the same strings, the fingers of their shapes.
func together(columns [][]Note, out [][]Usual) {
	gripRuns(columns, func(from, to int) {
		flats := flatFrets(columns[from:to])
		for k := from; k < to; k++ {
			for i, f := range ofGrip(columns[k], flats) {
				out[k][i].ByShape = f
			}
		}
	})
}

// gripRuns calls f for each run of two or more columns of notes together on the same strings.
func gripRuns(columns [][]Note, f func(from, to int)) {
	for from := 0; from < len(columns); {
		to := from + 1
		for plainTogether(columns[from]) && to < len(columns) && plainTogether(columns[to]) &&
			sameStrings(columns[from], columns[to]) {
			to++
		}
		if to-from > 1 {
			f(from, to)
		}
		from = to
	}
}

// plainTogether says whether a column is of two notes or more, all of them pressed anew.
func plainTogether(c []Note) bool {
	return len(c) > 1 && !slices.ContainsFunc(c, func(n Note) bool { return !n.Pressed || !n.Plain })
}

// sameStrings says whether two columns have as many notes on the same strings.
func sameStrings(a, b []Note) bool {
	return slices.EqualFunc(a, b, func(m, n Note) bool { return m.Place.String == n.Place.String })
}

// flat is the fret of notes together that one finger covers, 0 where they lie on several frets or
// not on neighbouring strings.
func flat(c []Note) int {
	for i := 1; i < len(c); i++ {
		if c[i].Place.Fret != c[0].Place.Fret || c[i-1].Place.String-c[i].Place.String != 1 {
			return 0
		}
	}
	return c[0].Place.Fret
}

// flatFrets are the frets of a run's flat grips, rising.
func flatFrets(run [][]Note) (frets []int) {
	for _, c := range run {
		if f := flat(c); f > 0 {
			frets = with(frets, f)
		}
	}
	return frets
}

// ofGrip are the fingers of notes together in a run with flat grips at some frets. One finger lies
// flat over a fret: the index, or beside an index that is laid two or three frets lower the ring
// finger's bar, while the hand stays. Of two notes on neighbouring strings the index takes the
// lower fret; over a string the middle finger keeps the thick one.
func ofGrip(c []Note, flats []int) []int {
	if f := flat(c); f > 0 {
		finger := 1
		if low, high := flats[0], flats[len(flats)-1]; high-low <= 3 && f-low >= 2 {
			finger = 3
		}
		out := make([]int, len(c))
		for i := range out {
			out[i] = finger
		}
		return out
	}
	if len(c) != 2 {
		return nil
	}
	up := c[1].Place.Fret - c[0].Place.Fret
	switch apart := c[0].Place.String - c[1].Place.String; {
	case apart == 1 && up > 0 && up <= 3:
		return []int{1, 1 + up}
	case apart == 1 && up < 0 && up >= -3:
		return []int{1 - up, 1}
	case apart == 2 && (up == 2 || up == 3):
		return []int{1, 1 + up} // an octave
	case apart == 2 && up == 0:
		return []int{2, 3}
	case apart == 2 && up == -1:
		return []int{2, 1}
	}
	return nil
}
