package run

import (
	"cmp"
	"fmt"
	"slices"
	"strconv"
	"strings"

	"ornamen/core/lick"
	"ornamen/core/music"
	"ornamen/core/neck"
	"ornamen/core/shape"
)

// Found is a recipe that reproduces a line, or a part of it: notes From to To,
// counted from 1.
type Found struct {
	Recipe   Recipe
	From, To int
}

// Find looks for the shortest recipe that gives a written line back note for
// note: places, times, slurs, bends and accents. Where none covers the whole
// line, the one that covers most of it is found; ok is false where no cell is
// played twice.
func Find(g neck.Guitar, l lick.Lick) (best Found, ok bool) {
	g = g.WithTuning(l.Tuning)
	f := newFinder(g, l)
	if f == nil {
		return best, false
	}
	for _, lad := range f.ladders() {
		f.tonesOn(lad)
		f.stringsOn(lad)
		f.positions(lad)
	}
	f.chords()
	// The most notes first, then the shortest: the first that holds is the one.
	slices.SortStableFunc(f.tries, func(a, b try) int {
		return cmp.Or(cmp.Compare(b.covers, a.covers), cmp.Compare(len(a.text), len(b.text)))
	})
	for _, t := range f.tries {
		if found, yes := f.verify(t); yes {
			return found, true
		}
	}
	return best, false
}

// item is one step of the written line: notes that sound together, a hold or a
// rest.
type item struct {
	rest, hold bool
	notes      []lick.Note
	first      int // index of its first note in the line
}

// finder holds the line as steps of equal length.
type finder struct {
	guitar  neck.Guitar
	line    lick.Lick
	palette music.Palette
	key     string
	count   string
	items   []item
	tries   []try
	seen    map[string]bool
}

// try is a recipe that may give items [from, to) back.
type try struct {
	recipe   Recipe
	from, to int // items
	covers   int    // notes
	text     string // of the recipe
}

// newFinder cuts the line into steps; nil where it has no even step or no notes.
func newFinder(g neck.Guitar, l lick.Lick) *finder {
	f := &finder{guitar: g, line: l, seen: map[string]bool{}}
	if len(l.Notes) < 2 || !f.tones() || !f.steps() {
		return nil
	}
	return f
}

// tones takes the lick's palette, or the scale that holds all of the line.
func (f *finder) tones() bool {
	if p, ok := f.line.Palette(); ok {
		f.palette = p
		f.key = p.Tonic.String() + " " + p.Scale.Name
		return true
	}
	first := f.line.Pitch(0)
	for _, name := range []string{"minor pentatonic", "major pentatonic", "blues", "natural minor", "major", "dorian", "mixolydian", "harmonic minor", "melodic minor", "phrygian", "lydian"} {
		for _, root := range []int{first.Class(), f.line.Pitch(len(f.line.Notes) - 1).Class(), 0, 1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11} {
			p, err := music.NewPalette(music.NameOf(root).String(), name, nil, nil)
			if err != nil {
				continue
			}
			all := true
			for i := range f.line.Notes {
				all = all && p.At(f.line.Pitch(i)).Role != music.Outside
			}
			if all {
				f.palette, f.key = p, p.Tonic.String()+" "+name
				return true
			}
		}
	}
	return false
}

// steps finds the longest step that all times and lengths are whole numbers of.
func (f *finder) steps() bool {
	cols := f.line.Columns()
	start := f.line.Notes[0].At
	// The last column may ring on: a landing.
	for _, word := range CountWords {
		unit := counts[word]
		items, ok := f.cutInto(cols, start, unit)
		if ok {
			f.count, f.items = word, items
			return true
		}
	}
	return false
}

func (f *finder) cutInto(cols [][2]int, start, unit lick.Time) ([]item, bool) {
	var items []item
	for k, c := range cols {
		notes := f.line.Notes[c[0]:c[1]]
		at, rest := notes[0].At.Sub(start).Div(unit)
		if !rest.IsZero() {
			return nil, false
		}
		for int64(len(items)) < at {
			items = append(items, item{rest: true})
		}
		n, rest := notes[0].Len.Div(unit)
		if !rest.IsZero() || n < 1 {
			if k < len(cols)-1 || notes[0].Len.Before(unit) {
				return nil, false
			}
			n = 1
		}
		for _, m := range notes {
			if m.Len != notes[0].Len {
				return nil, false
			}
		}
		items = append(items, item{notes: notes, first: c[0]})
		for range n - 1 {
			if len(items) > 4*MaxNotes {
				return nil, false
			}
			items = append(items, item{hold: true})
		}
	}
	// Holds at the very end say nothing of the cell.
	for len(items) > 0 && items[len(items)-1].hold {
		items = items[:len(items)-1]
	}
	return items, true
}

// candidate is a layout at a place that holds notes of the line.
type candidate struct {
	*ladder
	layout string
	at     string
	step   map[neck.Place]int    // its step on the ladder
	row    map[neck.Place][2]int // string and number on it
	down   bool
}

// ladders lists the layouts that may lie under the line.
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
		p := &plan{guitar: f.guitar, palette: f.palette}
		l, err := p.newLadder(f.palette, lay, at, false)
		if err != nil {
			return
		}
		c := candidate{ladder: l, layout: layout, at: at.Notation(), step: map[neck.Place]int{}, row: map[neck.Place][2]int{}}
		for i, s := range l.steps {
			for _, t := range s {
				c.step[t.Place] = i
			}
		}
		for i, on := range l.byString {
			for j, t := range on {
				c.row[t.Place] = [2]int{i, j + 1}
			}
		}
		held := 0
		for _, n := range f.line.Notes {
			if _, ok := c.step[n.Place()]; ok {
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
			if at := (neck.Place{String: thick, Fret: fret}); f.palette.At(f.guitar.Pitch(at)).Role != music.Outside && fret <= low.Fret {
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
	add(fmt.Sprintf("frets:%d-%d", lo, hi), low, half)
	add(f.ownPlaces(), low, len(f.line.Notes))
	return out
}

// pairLayouts tries double stops.
func (f *finder) pairLayouts(add func(string, neck.Place, int), low neck.Place, must int) {
	for _, it := range f.items {
		if len(it.notes) != 2 {
			continue
		}
		a, b := it.notes[0], it.notes[1]
		for interval := 2; interval <= 10; interval++ {
			for fret := 0; fret <= low.Fret; fret++ {
				add(fmt.Sprintf("pairs:%d,%d:%d", max(a.String, b.String), min(a.String, b.String), interval), neck.Place{String: max(a.String, b.String), Fret: fret}, must)
			}
		}
		return
	}
}

// ownCounts reads how many tones the line has on each string, if they follow on
// one another without a gap.
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

// ownPlaces is the line's own selection of places.
func (f *finder) ownPlaces() string {
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
		return ""
	}
	slices.Sort(words)
	return "places:" + strings.Join(words, ",")
}

// maxCell is the longest cell that is looked for, in steps.
const maxCell = 48

// tonesOn looks for cells over the steps of a ladder.
func (f *finder) tonesOn(c candidate) {
	at := make([]int, len(f.items)) // ladder step of each item, −1 none
	for i, it := range f.items {
		at[i] = -1
		if len(it.notes) == 0 {
			continue
		}
		if k, ok := c.step[it.notes[0].Place()]; ok {
			at[i] = k
		}
		if len(it.notes) > 1 && (at[i] < 0 || len(c.steps[at[i]]) != len(it.notes)) {
			if _, all := f.group(c, it); !all {
				at[i] = -1
			}
		}
	}
	moves := func(i, k int) (int, bool) { // how far item k lies from item i
		a, b := f.items[i], f.items[k]
		if a.rest != b.rest || a.hold != b.hold || len(a.notes) != len(b.notes) {
			return 0, false
		}
		if len(a.notes) == 0 {
			return 0, true
		}
		return at[k] - at[i], at[i] >= 0 && at[k] >= 0
	}
	f.periods(moves, func(from, to, length, by int) {
		f.tonesTry(c, at, from, to, length, by)
	})
	f.turns(c, at)
}

// group reads notes that sound together as steps of the ladder.
func (f *finder) group(c candidate, it item) ([]int, bool) {
	var out []int
	for _, n := range it.notes {
		k, ok := c.step[n.Place()]
		if !ok {
			return nil, false
		}
		out = append(out, k)
	}
	return out, true
}

// periods finds, for every length of cell, the longest stretch in which the cell
// moves evenly, and calls try for it. moves says how far one item lies
// from another of its kind.
func (f *finder) periods(moves func(i, k int) (int, bool), try func(from, to, length, by int)) {
	n := len(f.items)
	for length := 1; length <= min(maxCell, n/2); length++ {
		from, by, known := -1, 0, false
		bestFrom, bestTo, bestBy := 0, 0, 0
		flush := func(end int) {
			if from >= 0 && end-from >= 2*length && end-from > bestTo-bestFrom {
				bestFrom, bestTo, bestBy = from, end, by
			}
			from, known = -1, false
		}
		for i := 0; i+length < n; i++ {
			d, ok := moves(i, i+length)
			silent := len(f.items[i].notes) == 0
			switch {
			case !ok:
				flush(i + length)
			case !silent && known && d != by:
				// A new stretch may begin inside the last one.
				flush(i + length)
				from, by, known = i, d, true
			default:
				if from < 0 {
					from = i
				}
				if !silent && !known {
					by, known = d, true
				}
			}
		}
		flush(n)
		if bestTo > bestFrom {
			try(bestFrom, bestTo, length, bestBy)
		}
	}
}

// cellOf writes items as a tones cell whose tone 1 is step base.
func (f *finder) cellOf(c candidate, at []int, from, to, base int) ([]Step, bool) {
	var cell []Step
	for i := from; i < to; i++ {
		it := f.items[i]
		switch {
		case it.rest:
			cell = append(cell, Step{Rest: true})
		case it.hold:
			if len(cell) == 0 {
				return nil, false
			}
			cell = append(cell, Step{Hold: true})
		default:
			if at[i] < 0 {
				return nil, false
			}
			s := f.marks(it)
			s.Tones = []Tone{{N: at[i] - base + 1}}
			if len(it.notes) > 1 && len(c.steps[at[i]]) != len(it.notes) {
				group, ok := f.group(c, it)
				if !ok {
					return nil, false
				}
				s.Tones = nil
				for _, k := range group {
					s.Tones = append(s.Tones, Tone{N: k - base + 1})
				}
			}
			cell = append(cell, s)
		}
	}
	return cell, true
}

// marks are what the cell says of a step beside its tone.
func (f *finder) marks(it item) Step {
	n := it.notes[0]
	s := Step{Slur: n.Slur, Accent: n.Accent}
	if n.Locked("stroke") && (n.Stroke == lick.Down || n.Stroke == lick.Up) {
		s.Stroke = n.Stroke
	}
	if n.Bend != nil && (n.Bend.Semitones <= 2 && n.Bend.Semitones != 4) {
		s.Bend = &Bend{Semitones: n.Bend.Semitones, Release: n.Bend.Release()}
	}
	if n.Vibrato != nil {
		s.Vibrato = 1
		if n.Vibrato.Width == "wide" {
			s.Vibrato = 2
		}
	}
	if n.SlideIn != nil {
		s.In = n.SlideIn.From
	}
	return s
}

// addMarks takes the marks of later cells too: a slur that the first cell has no
// string for.
func (f *finder) addMarks(cell []Step, from, to int) {
	for i := from; i < to; i++ {
		s := &cell[(i-from)%len(cell)]
		if len(f.items[i].notes) > 0 && s.Slur == "" && len(s.Tones) > 0 {
			s.Slur = f.items[i].notes[0].Slur
		}
	}
}

// base is the recipe of a candidate.
func (f *finder) base(c candidate) Recipe {
	r := Recipe{Key: f.key, Layout: c.layout, At: c.at}
	r.Add, r.Drop = strings.Join(f.line.Key.Add, ","), strings.Join(f.line.Key.Drop, ",")
	if f.count != "16" {
		r.Count = f.count
	}
	if f.line.Feel == lick.Shuffle {
		r.Feel = "shuffle"
	}
	return r
}

// tonesTry writes one stretch as a recipe. What is left over at its end becomes
// the tail, and a last note the landing.
func (f *finder) tonesTry(c candidate, at []int, from, to, length, by int) {
	base, low := 1<<30, false
	for i := from; i < from+length; i++ {
		if len(f.items[i].notes) > 0 {
			base, low = min(base, at[i]), true
		}
	}
	if !low {
		return
	}
	cell, ok := f.cellOf(c, at, from, from+length, base)
	if !ok || len(cell) == 0 || cell[0].Rest {
		return
	}
	f.addMarks(cell, from, to)
	cells := (to - from) / length
	r := f.base(c)
	r.Cell = Phrase{Kind: Tones, Cells: [][]Step{cell}}.String()
	switch {
	case by == 0:
		r.Move, r.Times = "stay", cells
	case by < 0:
		r.Dir = "down"
		fallthrough
	default:
		if by != 1 && by != -1 {
			r.Move = strconv.Itoa(max(by, -by))
		}
	}
	f.addTries(c, r, from, to, cells, length, base, func(i int) ([]Step, bool) {
		return f.cellOf(c, at, from+cells*length, i, base+by*(cells-1))
	})
}

// addTries adds a recipe with and without a start, a number of cells and what
// follows the last whole cell.
func (f *finder) addTries(c candidate, r Recipe, from, to, cells, length, start int, tail func(to int) ([]Step, bool)) {
	end := from + cells*length
	if r.Move != "stay" {
		bare := r
		f.add(bare, from, end)
		r.Times = cells
	}
	f.add(r, from, end)
	begun := r
	begun.Start = start + 1
	f.add(begun, from, end)
	for _, x := range []Recipe{r, begun} {
		f.addLanding(x, from, end, end)
		if end < len(f.items) {
			if t, ok := tail(len(f.items)); ok && shortTail(len(t), length, cells) {
				x.Tail = Phrase{Kind: phraseKind(x.Cell), Cells: [][]Step{t}}.String()
				f.add(x, from, len(f.items))
			}
			if t, ok := tail(len(f.items) - 1); ok && shortTail(len(t), length, cells) {
				x.Tail = Phrase{Kind: phraseKind(x.Cell), Cells: [][]Step{t}}.String()
				f.addLanding(x, from, len(f.items)-1, len(f.items)-1)
			}
		}
	}
}

// shortTail says whether what is left over is a tail, and not another line.
func shortTail(steps, length, cells int) bool {
	return steps > 0 && steps <= max(length, 4) && 2*steps <= length*cells
}

func phraseKind(cell string) Kind {
	p, err := ParsePhrase(cell)
	if err != nil {
		return Tones
	}
	return p.Kind
}

// addLanding adds the recipe with the line's last note as its landing.
func (f *finder) addLanding(r Recipe, from, end, at int) {
	if at != len(f.items)-1 || len(f.items[at].notes) != 1 {
		return
	}
	pitch := f.line.Pitch(f.items[at].first)
	r.Land = f.palette.At(pitch).Degree.String()
	if !f.line.Pickup.IsZero() {
		pos := f.line.Position(f.items[at].notes[0].At)
		r.Land += fmt.Sprintf("@%d", pos.Beat)
	}
	f.add(r, from, at+1)
}

func (f *finder) add(r Recipe, from, to int) {
	notes := 0
	for _, it := range f.items[from:to] {
		notes += len(it.notes)
	}
	text := r.String()
	if key := fmt.Sprint(from, to, text); !f.seen[key] {
		f.seen[key] = true
		f.tries = append(f.tries, try{r, from, to, notes, text})
	}
}

// turns looks for cells that go up and come down again, or the other way.
func (f *finder) turns(c candidate, at []int) {
	n := len(f.items)
	for length := 1; length <= min(maxCell, n/3); length++ {
		shape := func(k int) (int, bool) { // base of cell k, if it has the first one's contour
			a, b := at[0], at[k*length]
			if a < 0 || b < 0 {
				return 0, false
			}
			for i := range length {
				x, y := f.items[i], f.items[k*length+i]
				if x.rest != y.rest || x.hold != y.hold || len(x.notes) != len(y.notes) || len(x.notes) > 0 && (at[k*length+i] < 0 || at[i] < 0 || at[k*length+i]-b != at[i]-a) {
					return 0, false
				}
			}
			return b, true
		}
		first, ok := shape(0)
		second, ok2 := shape(1)
		if !ok || !ok2 || second == first {
			continue
		}
		by := second - first
		top, cells, last, turned, twice := 1, 2, second, false, false
		for ; (cells+1)*length <= n; cells++ {
			b, ok := shape(cells)
			if !ok {
				break
			}
			switch {
			case !turned && b == last+by:
				top++
			case !turned && b == last && cells == top+1:
				turned, twice = true, true
			case b == last-by:
				turned = true
			default:
				ok = false
			}
			if !ok {
				break
			}
			last = b
		}
		if !turned {
			continue
		}
		base := 1 << 30
		for i := range length {
			if len(f.items[i].notes) > 0 {
				base = min(base, at[i])
			}
		}
		cell, ok := f.cellOf(c, at, 0, length, base)
		if !ok || cell[0].Rest {
			continue
		}
		f.addMarks(cell, 0, cells*length)
		r := f.base(c)
		r.Cell = Phrase{Kind: Tones, Cells: [][]Step{cell}}.String()
		r.Dir = "updown"
		if by < 0 {
			r.Dir = "downup"
		}
		if by != 1 && by != -1 {
			r.Move = strconv.Itoa(max(by, -by))
		}
		if twice {
			r.Turn = "twice"
		}
		f.addTries(c, r, 0, cells*length, cells, length, base, func(i int) ([]Step, bool) {
			return f.cellOf(c, at, cells*length, i, base+last-first)
		})
	}
}

// stringsOn looks for cells over the strings of a layout.
func (f *finder) stringsOn(c candidate) {
	row := func(i int) ([2]int, bool) {
		if len(f.items[i].notes) != 1 {
			return [2]int{}, false
		}
		r, ok := c.row[f.items[i].notes[0].Place()]
		return r, ok
	}
	moves := func(i, k int) (int, bool) {
		a, b := f.items[i], f.items[k]
		if a.rest != b.rest || a.hold != b.hold || len(a.notes) != len(b.notes) {
			return 0, false
		}
		if len(a.notes) == 0 {
			return 0, true
		}
		x, ok1 := row(i)
		y, ok2 := row(k)
		return y[0] - x[0], ok1 && ok2 && x[1] == y[1]
	}
	f.periods(moves, func(from, to, length, by int) {
		if by == 0 {
			return
		}
		cells := (to - from) / length
		lo, hi := 1<<30, -1
		for i := from; i < from+length; i++ {
			if x, ok := row(i); ok {
				lo, hi = min(lo, x[0]), max(hi, x[0])
			}
		}
		first := lo
		if by < 0 {
			first = hi
		}
		write := func(a, b, first int) ([]Step, bool) {
			var cell []Step
			for i := a; i < b; i++ {
				it := f.items[i]
				switch {
				case it.rest:
					cell = append(cell, Step{Rest: true})
				case it.hold:
					cell = append(cell, Step{Hold: true})
				default:
					x, ok := row(i)
					str := x[0] - first
					if by < 0 {
						str = first - x[0]
					}
					if !ok || str < 0 || str > 8 {
						return nil, false
					}
					s := f.marks(it)
					s.Tones = []Tone{{N: x[1], String: str}}
					cell = append(cell, s)
				}
			}
			return cell, len(cell) > 0 && !cell[0].Hold
		}
		cell, ok := write(from, from+length, first)
		if !ok || cell[0].Rest {
			return
		}
		f.addMarks(cell, from, to)
		r := f.base(c)
		r.Cell = Phrase{Kind: Strings, Cells: [][]Step{cell}}.String()
		if by < 0 {
			r.Dir = "down"
		}
		if by != 1 && by != -1 {
			r.Move = fmt.Sprintf("string:%d", max(by, -by))
		}
		f.addTries(c, r, from, to, cells, length, first, func(i int) ([]Step, bool) {
			return write(from+cells*length, i, first+by*(cells-1))
		})
		if by == 2 || by == -2 {
			// Two strings over may be an octave in the same fingering.
			f.octaves(c, r, cell, from, length, cells)
		}
	})
	f.octaveCells(c)
}

// octaves tries the same cell moved by octaves.
func (f *finder) octaves(c candidate, r Recipe, cell []Step, from, length, cells int) {
	r.Move = "octave"
	f.add(r, from, from+cells*length)
}

// octaveCells looks for a cell repeated two strings over, an octave up or down.
func (f *finder) octaveCells(c candidate) {
	p := &plan{guitar: f.guitar}
	n := len(f.items)
	for length := 2; length <= min(maxCell, n/2); length++ {
		for _, up := range []int{1, -1} {
			cells := 1
			for ; (cells+1)*length <= n; cells++ {
				same := true
				for i := range length {
					a, b := f.items[(cells-1)*length+i], f.items[cells*length+i]
					if len(a.notes) != len(b.notes) || a.hold != b.hold || a.rest != b.rest {
						same = false
						break
					}
					for k := range a.notes {
						to, ok := p.shift(a.notes[k].Place(), up)
						same = same && ok && to == b.notes[k].Place()
					}
				}
				if !same {
					break
				}
			}
			if cells < 2 {
				continue
			}
			cell, base, ok := f.firstCell(c, length)
			if !ok {
				continue
			}
			r := f.base(c)
			r.Cell = Phrase{Kind: Tones, Cells: [][]Step{cell}}.String()
			r.Move = "octave"
			if up < 0 {
				r.Dir = "down"
			}
			f.add(r, 0, cells*length)
			r.Start = base + 1
			f.add(r, 0, cells*length)
			r.Times = cells
			f.add(r, 0, cells*length)
		}
	}
}

// positions looks for a cell that keeps its strings and moves along the neck.
func (f *finder) positions(c candidate) {
	n := len(f.items)
	for length := 2; length <= min(maxCell, n/2); length++ {
		cells, by := 1, 0
		for ; (cells+1)*length <= n; cells++ {
			same, up := true, 0
			for i := range length {
				a, b := f.items[(cells-1)*length+i], f.items[cells*length+i]
				if len(a.notes) != len(b.notes) || a.hold != b.hold || a.rest != b.rest {
					same = false
					break
				}
				for k := range a.notes {
					d := cmp.Compare(b.notes[k].Fret, a.notes[k].Fret)
					same = same && a.notes[k].String == b.notes[k].String && (up == 0 || d == 0 || d == up)
					if d != 0 {
						up = d
					}
				}
			}
			if !same || up == 0 || by != 0 && up != by {
				break
			}
			by = up
		}
		if cells < 2 {
			continue
		}
		cell, base, ok := f.firstCell(c, length)
		if !ok {
			continue
		}
		r := f.base(c)
		r.Cell = Phrase{Kind: Tones, Cells: [][]Step{cell}}.String()
		r.Move, r.Times = "position", cells
		if by < 0 {
			r.Dir = "down"
		}
		f.add(r, 0, cells*length)
		r.Start = base + 1
		f.add(r, 0, cells*length)
	}
}

// firstCell writes the line's first items as a cell of a ladder, tone 1 its lowest.
func (f *finder) firstCell(c candidate, length int) (cell []Step, base int, ok bool) {
	at := make([]int, length)
	base = 1 << 30
	for i := range length {
		at[i] = -1
		if len(f.items[i].notes) > 0 {
			k, on := c.step[f.items[i].notes[0].Place()]
			if !on {
				return nil, 0, false
			}
			at[i] = k
			base = min(base, k)
		}
	}
	cell, ok = f.cellOf(c, at, 0, length, base)
	return cell, base, ok && !cell[0].Rest
}

// chords looks for one figure over the chords of the key: the first note is the
// root, the strings stay.
func (f *finder) chords() {
	n := len(f.items)
	for length := 3; length <= min(24, n/2); length++ {
		root := f.items[0]
		if len(root.notes) != 1 {
			return
		}
		name := f.palette.At(f.line.Pitch(root.first)).Name
		p := &plan{guitar: f.guitar, palette: f.palette}
		var cell []Step
		var strs []int
		ok := true
		for i := 0; i < length && ok; i++ {
			it := f.items[i]
			switch {
			case it.rest:
				cell = append(cell, Step{Rest: true})
			case it.hold:
				cell = append(cell, Step{Hold: true})
			case len(it.notes) > 1:
				ok = false
			default:
				s := f.marks(it)
				t, is := chordTone(p, name, int(f.line.Pitch(it.first)-f.line.Pitch(root.first)))
				ok = is
				s.Tones = []Tone{t}
				cell, strs = append(cell, s), append(strs, it.notes[0].String)
			}
		}
		if !ok {
			continue
		}
		cells := n / length
		var degrees []string
		for k := range cells {
			it := f.items[k*length]
			if len(it.notes) != 1 || it.notes[0].String != root.notes[0].String {
				break
			}
			t := f.palette.At(f.line.Pitch(it.first))
			if t.Role == music.Outside {
				break
			}
			degrees = append(degrees, t.Degree.String())
		}
		if len(degrees) < 2 {
			continue
		}
		r := f.base(candidate{at: root.notes[0].Place().Notation()})
		r.Cell = Phrase{Kind: Chord, Cells: [][]Step{cell}, Strings: strs}.String()
		end := len(degrees) * length
		f.add(r, 0, end)
		r.Times = len(degrees)
		f.add(r, 0, end)
		r.Times = 0
		r.Chords = strings.Join(degrees, " ")
		f.add(r, 0, end)
	}
}

// chordTone names a height over a chord's root.
func chordTone(p *plan, root music.Name, semitones int) (Tone, bool) {
	octave := 0
	for semitones < 0 {
		semitones, octave = semitones+12, octave-1
	}
	octave, semitones = octave+semitones/12, semitones%12
	if octave < -3 || octave > 3 {
		return Tone{}, false
	}
	for n := 1; n <= 7; n++ {
		d := music.Degree{Number: n}
		if h, err := p.overRoot(root, d); err == nil && h == semitones {
			return Tone{Degree: d, Octave: octave}, true
		}
	}
	d := music.ChromaticDegree(semitones)
	return Tone{Degree: d, Octave: octave}, d.Alter != 0
}

// verify grows a recipe and compares it with the line, note for note.
func (f *finder) verify(t try) (Found, bool) {
	run, err := Grow(t.recipe, f.guitar)
	if err != nil {
		return Found{}, false
	}
	var want []lick.Note
	first := -1
	for _, it := range f.items[t.from:t.to] {
		if len(it.notes) == 0 {
			continue
		}
		if first < 0 {
			first = it.first
		}
		want = append(want, it.notes...)
	}
	got := run.Lick.Notes
	if len(got) != len(want) || len(want) == 0 {
		return Found{}, false
	}
	start, begin := want[0].At, got[0].At
	whole := len(want) == len(f.line.Notes)
	for i, n := range got {
		w := want[i]
		n.At, w.At = n.At.Sub(begin), w.At.Sub(start)
		last := i == len(got)-1 || n.At == got[len(got)-1].At.Sub(begin)
		if n.At != w.At || n.Place() != w.Place() || n.Accent != w.Accent || !sameBend(n.Bend, w.Bend) || (n.Vibrato == nil) != (w.Vibrato == nil) {
			return Found{}, false
		}
		if n.Slur != w.Slur && !(i == 0 && !whole) {
			return Found{}, false
		}
		if n.Len != w.Len && (whole || !last) {
			return Found{}, false
		}
	}
	if whole && t.recipe.Land != "" && run.Lick.Pickup != f.line.Pickup {
		return Found{}, false
	}
	return Found{t.recipe, first + 1, first + len(want)}, true
}

func sameBend(a, b *lick.Bend) bool {
	if a == nil || b == nil {
		return a == b
	}
	return a.Semitones == b.Semitones && a.Shape == b.Shape
}
