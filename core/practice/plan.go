package practice

import (
	"fmt"
	"math"
	"slices"
	"time"
)

// Piece is a lick to practise with its parts, the whole last. It has one part at least.
type Piece struct {
	Lick     uint
	Title    string
	Wanted   float64
	Parts    []Part
	Bends    bool // it has bends to hear
	Landings bool // the chords change under it
}

// Kind is what an item of the plan is for.
type Kind string

// The kinds of items.
const (
	WarmUp Kind = "warm-up"
	Due    Kind = "due"
	New    Kind = "new"
	Ear    Kind = "ear"
	Break  Kind = "rest"
)

// Item is one thing of today's plan.
type Item struct {
	Kind    Kind
	Lick    uint // 0 for a rest
	Title   string
	Part    Part
	Tempo   float64
	Minutes int
	Why     string // five words or so
}

// How a plan is filled (common practice; the numbers are model defaults).
const (
	restEvery = 20 // minutes of playing before a rest
	restTime  = 2
	warmTime  = 4
	earTime   = 4
	newTime   = 6
	dueTime   = 5
	soreDays  = 3  // heavy things stay away until so many days after it is well again
	longest   = 10 // days that a part may wait at most
)

// Day is today's plan: a warm-up at ease, what is due, the older and weaker first, one new
// thing, one for the ear, rests between. Nothing is there twice, however many days were missed.
// Items fill the minutes and no more. While it hurts, or for days after, what is heavy for the
// hand stays away.
//
// The order is that of a lesson: hands first, then what would be forgotten, then what is new
// while the head is fresh enough, the ear at the end, when the hands are tired (common
// practice).
func Day(minutes int, pieces []Piece, log []Entry, now time.Time) []Item {
	day := planner{minutes: minutes, log: log, now: now, sore: soreNow(log, now)}
	if minutes < 1 || len(pieces) == 0 {
		return nil
	}
	day.warmUp(pieces)
	for _, x := range day.due(pieces) {
		if day.left() < dueTime+earTime && day.left() < minutes/2 {
			break
		}
		day.add(x)
	}
	due := len(day.out)
	day.fresh(pieces)
	for due <= 1 && day.left() > newTime+earTime && day.fresh(pieces) {
		continue // a log that asks for nothing yet leaves room for more that is new
	}
	day.ear(pieces)
	return day.out
}

// planner fills one day.
type planner struct {
	minutes, used, played int
	log                   []Entry
	now                   time.Time
	sore                  bool
	out                   []Item
}

// soreNow says whether heavy things stay away: it hurts, or it is well again since fewer than
// soreDays days.
func soreNow(log []Entry, now time.Time) bool {
	hurt, well := false, Date(0)
	for _, e := range log {
		switch {
		case e.Comfort == Hurts:
			hurt, well = true, 0
		case e.Comfort == Well && hurt && well == 0:
			well = DateOf(e.Time)
		}
	}
	return hurt && (well == 0 || DateOf(now)-well < soreDays)
}

// left is how many minutes are free.
func (d *planner) left() int { return d.minutes - d.used }

// add takes an item if it fits, with a rest before it where one is due.
func (d *planner) add(x Item) bool {
	rest := 0
	if d.played+x.Minutes > restEvery && d.played > 0 {
		rest = restTime
	}
	if x.Minutes = min(x.Minutes, d.left()-rest); x.Minutes < 1 {
		return false
	}
	if rest > 0 {
		d.out = append(d.out, Item{Kind: Break, Title: "Rest", Minutes: rest, Why: "hands down, shoulders loose"})
		d.used, d.played = d.used+rest, 0
	}
	d.out = append(d.out, x)
	d.used, d.played = d.used+x.Minutes, d.played+x.Minutes
	return true
}

// holds says whether a part stays away for the hand's sake.
func (d *planner) holds(p Part) bool { return d.sore && p.Heavy || p.Ceiling <= 0 }

// warmUp is the easiest whole piece at half of what is clean.
func (d *planner) warmUp(pieces []Piece) {
	best, room := -1, 0.0
	for i, p := range pieces {
		whole := p.Parts[len(p.Parts)-1]
		if d.holds(whole) {
			continue
		}
		if r := whole.Ceiling / max(1, p.Wanted); best < 0 || r > room {
			best, room = i, r
		}
	}
	if best < 0 {
		return
	}
	p := pieces[best]
	whole := p.Parts[len(p.Parts)-1]
	d.add(Item{Kind: WarmUp, Lick: p.Lick, Title: p.Title, Part: whole, Tempo: Start(whole, p.Wanted),
		Why:     "at ease, loose hands",
		Minutes: min(warmTime, max(1, d.minutes/5))})
}

// due are the parts whose time has come, the most overdue first, of equals the weaker.
//
// Each part may wait as long as Wait says of its rounds; how overdue it is, is the time since
// then over that wait, so that a part practised daily and missed for two days comes before one
// that waits two weeks and is a day late. The share of the wanted tempo that it has reached is
// taken off: of two that are as late, the one farther from its tempo comes first. A day that
// was missed makes parts more overdue, never due twice. Half a day is granted, as nobody
// practises at the same hour every day.
func (d *planner) due(pieces []Piece) []Item {
	type ranked struct {
		Item
		over, weak float64
	}
	var all []ranked
	for _, p := range pieces {
		for _, part := range p.Parts {
			rounds := of(d.log, p.Lick, part.Name)
			if len(rounds) == 0 || d.holds(part) {
				continue
			}
			last := rounds[len(rounds)-1].Time
			wait := Wait(rounds)
			days := int(DateOf(d.now) - DateOf(last))
			if days < wait {
				continue
			}
			r := Climb(part, p.Wanted, d.log, p.Lick)
			why := fmt.Sprintf("last on %s", last.Format("Monday"))
			switch {
			case days > 13:
				why = fmt.Sprintf("not for %d days", days)
			case r.Fell:
				why = "fell a step last time"
			case rounds[len(rounds)-1].Missed > 0:
				why = fmt.Sprintf("missed at %.0f last time", rounds[len(rounds)-1].Tempo)
			}
			all = append(all, ranked{Item{Kind: Due, Lick: p.Lick, Title: p.Title, Part: part, Tempo: r.Tempo,
				Minutes: dueTime,
				Why:     why}, float64(days) / float64(wait), r.Tempo / max(1, p.Wanted)})
		}
	}
	slices.SortStableFunc(all, func(a, b ranked) int {
		x, y := a.over-a.weak, b.over-b.weak
		switch {
		case x > y:
			return -1
		case x < y:
			return 1
		}
		return 0
	})
	out := make([]Item, len(all))
	for i, x := range all {
		out[i] = x.Item
	}
	return out
}

// Wait is for how many days a part may rest after its rounds, which come in the order of their
// times: one after a day on which not most of them were clean, one after a first good day, and
// twice as many after each good day that follows it, up to longest. Good days in a row are 1, 2,
// 4, 8 and 10 days; a bad one begins again.
func Wait(rounds []Entry) int {
	wait, good := 1, 0
	for i := 0; i < len(rounds); {
		clean, missed := 0, 0
		day := DateOf(rounds[i].Time)
		for ; i < len(rounds) && DateOf(rounds[i].Time) == day; i++ {
			clean, missed = clean+rounds[i].Clean, missed+rounds[i].Missed
		}
		switch good++; {
		case clean <= missed:
			wait, good = 1, 0
		case good > 1:
			wait = min(longest, 2*wait)
		}
	}
	return wait
}

// fresh is one thing that was not practised yet: the part that is farthest from its tempo.
func (d *planner) fresh(pieces []Piece) bool {
	best, bestPart, far := -1, Part{}, math.Inf(1)
	for i, p := range pieces {
		for _, part := range p.Parts {
			planned := slices.ContainsFunc(d.out, func(x Item) bool {
				return x.Lick == p.Lick &&
					x.Part.Name == part.Name
			})
			if d.holds(part) || planned || len(of(d.log, p.Lick, part.Name)) > 0 {
				continue
			}
			if f := part.Ceiling / max(1, p.Wanted); f < far {
				best, bestPart, far = i, part, f
			}
		}
	}
	if best < 0 || d.left() < 2 {
		return false
	}
	p := pieces[best]
	why := "new: " + bestPart.Why
	return d.add(Item{Kind: New, Lick: p.Lick, Title: p.Title, Part: bestPart, Tempo: Start(bestPart, p.Wanted),
		Minutes: newTime, Why: why})
}

// ear is a piece with bends, to hear each against its target, or with changes, to hear its
// landings over their chords; another one each day. While it hurts there are no bends.
func (d *planner) ear(pieces []Piece) {
	if d.left() < 2 {
		return
	}
	var all []Item
	for _, p := range pieces {
		whole := p.Parts[len(p.Parts)-1]
		item := Item{Kind: Ear, Lick: p.Lick, Title: p.Title, Part: whole, Tempo: Start(whole, p.Wanted),
			Minutes: earTime, Why: "bends against their targets"}
		switch {
		case d.sore && whole.Heavy:
			continue
		case p.Bends && !d.sore:
		case p.Landings:
			item.Why = "landings over their chords"
		default:
			continue
		}
		all = append(all, item)
	}
	if len(all) > 0 {
		d.add(all[int(DateOf(d.now))%len(all)])
	}
}
