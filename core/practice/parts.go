package practice

import (
	"fmt"
	"slices"

	"ornamen/core/judge"
	"ornamen/core/lick"
	"ornamen/core/player"
)

// Part is something to practise of a lick.
// Ceilings are in quarters a minute. Reach and Bends have no unit; see margins.
type Part struct {
	Name     string // "strings 3 and 2, 5 to 9"; empty for the whole
	Why      string // in a few words
	From, To int    // notes, from 1
	Ceiling  float64
	Picking  float64 // of each hand alone; 0 where it has nothing to do
	Fretting float64
	Reach    float64 // the hand's limit over the widest stretch; 0 where the fingers stand closed
	Bends    float64 // what its fingers hold over what the hardest bend takes; 0 where none is
	Heavy    bool    // a bend or a stretch near its limit
	Move     string  // what its hardest move is, as in "jump" or "inside change"; empty where nothing moves

	Backwards bool // its notes from the last to the first
}

// shortest is how many notes a part has at least.
const shortest = 3

// Parts splits a lick as teachers split it: the bottleneck with what comes just before and after; each stretch on one
// pair of strings; each part that a recipe grew; neighbours joined; each hand alone; the whole. The report must be
// Check's of the lick. A part's ceiling is the tempo over its largest load, not counting the way into its first note.
//
// Parts of fewer than three notes and doubles are left out; the whole stands last. Nothing is judged anew: a part's
// loads are the report's, so that the cost is that of the notes for each part.
func Parts(l lick.Lick, r *judge.Report, who player.Player) []Part {
	n := len(l.Notes)
	if n == 0 {
		return nil
	}
	var out []Part
	add := func(from, to int, name, why string) {
		from, to = max(1, from), min(n, to)
		if to-from+1 < shortest || from == 1 && to == n {
			return
		}
		if slices.ContainsFunc(out, func(p Part) bool { return p.From == from && p.To == to }) {
			return
		}
		out = append(out, partOf(l, r, who, from, to, fmt.Sprintf("%s, %d to %d", name, from, to), why))
	}
	if len(r.Bottleneck) > 0 {
		add(slices.Min(r.Bottleneck)-2, slices.Max(r.Bottleneck)+2, "bottleneck", "it sets the ceiling")
	}
	pairs := stringPairs(l)
	if len(pairs) > 1 {
		for _, p := range pairs {
			add(p.from, p.to, p.name, "one pair of strings")
		}
	}
	for k, p := range l.Parts {
		add(p.From+1, p.To, fmt.Sprintf("part %d", k+1), "one recipe")
	}
	for _, c := range cells(l, who) {
		add(c.from, c.to, c.name, "one cell of the run")
	}
	for _, s := range scales(l) {
		add(s.from, s.to, s.name, "one scale of the run")
	}
	for k := 0; k+1 < len(pairs); k++ {
		add(pairs[k].from, pairs[k+1].to, "joined", "joins two parts")
	}
	whole := partOf(l, r, who, 1, n, "", "the whole")
	if whole.Fretting > 0 && whole.Picking > 0 && n >= 2*shortest {
		left, right := whole, whole
		left.Move, right.Move = "", ""
		left.Name, left.Why, left.Ceiling, left.Picking = "left hand alone", "hammered, without the pick",
			whole.Fretting, 0
		right.Name, right.Why, right.Ceiling, right.Fretting = "right hand alone", "on muted strings", whole.Picking, 0
		right.Heavy, right.Reach, right.Bends = false, 0, 0
		out = append(out, left, right)
	}
	return append(out, whole)
}

// stretch is some notes on at most two strings.
type stretch struct {
	from, to int
	name     string
}

// scales are the stretches of a line in each of its scales; none where it has but one.
func scales(l lick.Lick) (out []stretch) {
	if len(l.Keys) == 0 {
		return nil
	}
	name := func(k lick.Key) string { return k.Tonic + " " + k.Scale }
	from, key := 0, l.KeyAt(l.Notes[0].At)
	for i, n := range l.Notes {
		if k := l.KeyAt(n.At); name(k) != name(key) {
			out = append(out, stretch{from + 1, i, name(key)})
			from, key = i, k
		}
	}
	return append(out, stretch{from + 1, len(l.Notes), name(key)})
}

// stringPairs cuts a line where a third string comes: greedily, so that each stretch is as long as it can be from where
// it begins. Stretches shorter than a part are left out; a line over three strings at once has none.
func stringPairs(l lick.Lick) (out []stretch) {
	from, low, high := 0, l.Notes[0].String, l.Notes[0].String
	name := func() string {
		if low == high {
			return fmt.Sprintf("string %d", low)
		}
		return fmt.Sprintf("strings %d and %d", high, low)
	}
	for i, n := range l.Notes {
		a, b := min(low, n.String), max(high, n.String)
		if b-a > 1 {
			out = append(out, stretch{from + 1, i, name()})
			from, a, b = i, n.String, n.String
		}
		low, high = a, b
	}
	out = append(out, stretch{from + 1, len(l.Notes), name()})
	return slices.DeleteFunc(out, func(s stretch) bool { return s.to-s.from+1 < shortest })
}

// heavyStrain is from which strain on a stance counts as heavy, heavyBend from how many half
// steps on a bend does (model defaults).
const (
	heavyStrain = 0.33
	heavyBend   = 2
)

// partOf measures notes [from, to], from 1. A part in which nothing moves has the highest tempo there is as its
// ceiling; one that no tempo will do has 0.
func partOf(l lick.Lick, r *judge.Report, who player.Player, from, to int, name, why string) Part {
	p := Part{Name: name, Why: why, From: from, To: to}
	p.Reach, p.Bends = margins(l, r, who, from, to)
	var all, fretting, picking, hardest float64
	for i := from - 1; i < to; i++ {
		n := r.Notes[i]
		if b := l.Notes[i].Bend; n.Stretch.Strain() > heavyStrain || b != nil && b.Semitones >= heavyBend {
			p.Heavy = true
		}
		if i == from-1 && from > 1 {
			continue
		}
		for _, x := range n.Loads {
			if !x.Possible {
				return p // no tempo will do: its ceiling is 0
			}
			all = max(all, x.Load)
			if x.Load > hardest {
				hardest, p.Move = x.Load, moveOf(r.Notes[i], x.Side)
			}
			switch x.Side {
			case judge.Fretting:
				fretting = max(fretting, x.Load)
			case judge.Picking:
				picking = max(picking, x.Load)
			}
		}
	}
	ceiling := func(load float64) float64 { return float64(judge.CeilingOf(l.Tempo, load)) }
	if p.Ceiling = ceiling(all); all == 0 {
		p.Ceiling = float64(lick.MaxTempo)
	}
	p.Fretting, p.Picking = ceiling(fretting), ceiling(picking)
	return p
}
