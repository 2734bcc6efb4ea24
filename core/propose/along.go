package propose

import (
	"math"

	"ornamen/core/judge"
	"ornamen/core/lick"
	"ornamen/core/neck"
)

// What a long line is laid by, where each note's hands would take too long to try: the hand stands somewhere and
// plays what lies under it (model defaults, in shifts).
const (
	alongShift   = 1.0  // the hand goes elsewhere
	alongFar     = 0.25 // … by each fret
	alongStretch = 0.6  // a finger reaches a fret beyond its own
	alongString  = 0.08 // each string between two notes
	alongOpen    = 0.3  // an open string with the hand up the neck
	alongUp      = 0.01 // each fret up the neck
)

// standing is the hand at a fret with the places of one column.
type standing struct {
	at     int // the index finger's fret
	places []neck.Place
	own    float64 // what the column costs there
	total  float64 // and all before it, at best
	from   int     // the standing of the column before
}

// layAlong lays notes that name no string along positions of the hand: the cheapest way through all columns, in time
// that grows with the length. A column that no position plays keeps its places.
func layAlong(e *judge.Engine, l *lick.Lick, free []bool) {
	g := e.Player.Guitar
	cols := l.Columns()
	all := make([][]standing, len(cols))
	for k, c := range cols {
		for at := 1; at <= max(1, g.Frets-3); at++ {
			all[k] = append(all[k], standingsAt(g, l, free, c, at)...)
		}
		if len(all[k]) == 0 {
			places := make([]neck.Place, c[1]-c[0])
			low := g.Frets
			for i := range places {
				places[i] = l.Notes[c[0]+i].Place()
				if f := places[i].Fret; f > 0 {
					low = min(low, f)
				}
			}
			all[k] = []standing{{at: max(1, min(low, g.Frets-3)), places: places}}
		}
		for i := range all[k] {
			s := &all[k][i]
			if k == 0 {
				s.total = s.own
				continue
			}
			s.total = math.Inf(1)
			for j := range all[k-1] {
				p := &all[k-1][j]
				way := p.total + s.own + alongString*math.Abs(float64(s.places[0].String-p.places[0].String))
				if d := math.Abs(float64(s.at - p.at)); d > 0 {
					way += alongShift + alongFar*d
				}
				if way < s.total {
					s.total, s.from = way, j
				}
			}
		}
	}
	best := 0
	for i, s := range all[len(all)-1] {
		if s.total < all[len(all)-1][best].total {
			best = i
		}
	}
	for k := len(all) - 1; k >= 0; k-- {
		s := all[k][best]
		for i, p := range s.places {
			if n := &l.Notes[cols[k][0]+i]; free[cols[k][0]+i] {
				n.String, n.Fret = p.String, p.Fret
			}
		}
		best = s.from
	}
}

// standingsAt are the ways to play a column with the hand at a fret: each place for a single note, one for notes
// together, the high ones on the thin strings.
func standingsAt(g neck.Guitar, l *lick.Lick, free []bool, c [2]int, at int) (out []standing) {
	reach := func(n lick.Note, p neck.Place) (cost float64, ok bool) {
		switch {
		case p.Fret == 0:
			if n.Bend != nil || n.Vibrato != nil || n.SlideIn != nil {
				return 0, false
			}
			if at > 4 {
				return alongOpen, true
			}
			return 0, true
		case p.Fret >= at && p.Fret <= at+3:
			return 0, true
		case p.Fret == at-1 || p.Fret == at+4:
			return alongStretch, p.Fret <= g.Frets
		}
		return 0, false
	}
	places := func(i int) (of []neck.Place) {
		if !free[i] {
			return []neck.Place{l.Notes[i].Place()}
		}
		pitch := l.Pitch(i)
		for str := 1; str <= len(g.Tuning) && str <= len(l.Tuning); str++ {
			if f := int(pitch - l.Tuning[str-1]); f >= 0 && f <= g.Frets {
				of = append(of, neck.Place{String: str, Fret: f})
			}
		}
		return of
	}
	if c[1]-c[0] == 1 {
		for _, p := range places(c[0]) {
			if cost, ok := reach(l.Notes[c[0]], p); ok {
				out = append(out, standing{at: at, places: []neck.Place{p}, own: cost + alongUp*float64(at)})
			}
		}
		return out
	}
	s := standing{at: at, places: make([]neck.Place, c[1]-c[0]), own: alongUp * float64(at)}
	taken := map[int]bool{}
	for i := c[1] - 1; i >= c[0]; i-- { // from the high notes down
		best, least := neck.Place{}, math.Inf(1)
		for _, p := range places(i) {
			if cost, ok := reach(l.Notes[i], p); ok && !taken[p.String] && cost < least {
				best, least = p, cost
			}
		}
		if math.IsInf(least, 1) {
			return nil
		}
		taken[best.String] = true
		s.places[i-c[0]], s.own = best, s.own+least
	}
	return []standing{s}
}
