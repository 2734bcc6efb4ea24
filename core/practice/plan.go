package practice

import (
	"cmp"
	"fmt"
	"math"
	"slices"
	"time"

	"ornamen/core/say"
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

// Kind is what an item of the plan is for, and what an entry of the log says.
type Kind string

// The kinds of items. Rounds of a warm-up and for the ear are logged as such: they move no ladder.
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
	soreDays  = 3  // what is heavy, bends or is new stays away until so many days after it is well again
	longest   = 10 // days that a part may wait at most
	earEvery  = 3  // days within which there is something for the ear
	ahead     = 3  // days that are looked at before something new is begun
	backlog   = 30 // days: while a part has waited longer, nothing new is begun
	warmest   = 5  // easy parts that take turns as warm-up
	leastPart = 4  // notes: what is shorter is not scheduled by itself
	laidAside = 4  // bad days in a row after which a part waits longer
	wholeItem = 12 // minutes that one item grows to at most, where nothing else is to be done
)

// Plan is a day: a warm-up at ease, another one each day; what is due, the older and weaker first; something
// new, if the days to come are not full of what is due; something for the ear, on every third day at the
// latest; rests between. Items fill the minutes and no more, and nothing is there twice, however many days were
// missed. While it hurts, and for days after, what is heavy for the hand, what bends and what is new stay
// away. Licks that are kept out of practice and parts that the player is done with are left out.
//
// The order is that of a lesson: hands first, then what would be forgotten, then what is new while the head is fresh
// enough, the ear at the end, when the hands are tired (common practice).
func Plan(minutes int, pieces []Piece, book *Book, now time.Time) []Item {
	d := planner{minutes: minutes, book: book, now: now, today: DateOf(now), sore: soreNow(book.words, now)}
	for _, p := range pieces {
		if !book.KeptOut(p.Lick) {
			d.pieces = append(d.pieces, p)
		}
	}
	if minutes < 1 || len(d.pieces) == 0 {
		return nil
	}
	d.warmUp()
	due, later := d.due()
	ear, wanted := d.earItem()
	if wanted && d.left() > earTime {
		d.kept = min(earTime, max(2, d.left()/2))
	}
	for _, x := range due {
		if d.left() < 2 || !d.add(x) {
			break
		}
	}
	if d.begins(due, later) {
		d.fresh()
		for len(due) <= 1 && d.left() > newTime && d.fresh() {
			continue // a log that asks for nothing yet leaves room for more that is new
		}
	}
	d.kept = 0
	if ear.Lick != 0 && d.left() >= 2 {
		d.add(ear)
	}
	for _, x := range later {
		if d.left() < 2 || !d.add(x) {
			break
		}
	}
	d.fill()
	return d.out
}

// planner fills one day. kept are minutes that are reserved for the ear.
type planner struct {
	minutes, used, played, kept int
	book                        *Book
	pieces                      []Piece
	now                         time.Time
	today                       Date
	sore                        bool
	out                         []Item
}

// soreNow says whether heavy things stay away: it hurts, or it is well again since fewer than soreDays days.
func soreNow(words []Entry, now time.Time) bool {
	hurt, well := false, Date(0)
	for _, e := range words {
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
func (d *planner) left() int { return d.minutes - d.used - d.kept }

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

// fill gives the minutes that are left to what is planned, in turn, up to wholeItem minutes each and without
// another rest.
func (d *planner) fill() {
	for grew := true; d.left() > 0 && grew; {
		grew = false
		for i := range d.out {
			x := &d.out[i]
			if x.Kind == Break || x.Kind == WarmUp || x.Minutes >= wholeItem || d.left() < 1 {
				continue
			}
			x.Minutes++
			d.used++
			grew = true
		}
	}
}

// planned says whether a part is on the plan already.
func (d *planner) planned(lick uint, part string) bool {
	return slices.ContainsFunc(d.out,
		func(x Item) bool { return x.Lick == lick && x.Part.Name == part && x.Kind != WarmUp && x.Kind != Ear })
}

// holds says whether a part stays away: for the hand's sake, as it is too short to be practised by itself, or as
// nothing is known of it.
func (d *planner) holds(p Part) bool {
	return d.sore && (p.Heavy || p.Bends > 0) || p.Ceiling <= 0 || p.To-p.From+1 < leastPart
}

// easy says whether a part warms the hands: no stretch near its limit and no bends.
func easy(p Part) bool { return !p.Heavy && p.Bends == 0 }

// warmUp is one of the easiest whole pieces at half of what is clean, another one each day.
func (d *planner) warmUp() {
	type ranked struct {
		Piece
		room float64
	}
	var all []ranked
	for _, light := range []bool{true, false} {
		for _, p := range d.pieces {
			whole := p.Parts[len(p.Parts)-1]
			if whole.Ceiling > 0 && !(d.sore && !easy(whole)) && (easy(whole) || !light) {
				all = append(all, ranked{p, whole.Ceiling / max(1, p.Wanted)})
			}
		}
		if len(all) > 0 {
			break
		}
	}
	if len(all) == 0 {
		return
	}
	slices.SortStableFunc(all, func(a, b ranked) int { return cmp.Compare(b.room, a.room) })
	p := all[int(d.today)%min(warmest, len(all))]
	whole := p.Parts[len(p.Parts)-1]
	d.add(Item{
		Kind:    WarmUp,
		Lick:    p.Lick,
		Title:   p.Title,
		Part:    whole,
		Tempo:   Start(whole, p.Wanted),
		Why:     "at ease, loose hands",
		Minutes: min(warmTime, max(1, d.minutes/5)),
	})
}

// due are the parts whose time has come, the most overdue first, of equals the weaker; later are those that were
// practised and whose time comes in the next days, the next first.
//
// Each part may wait as long as Wait says of its rounds; how overdue it is, is the time since then over that wait, so
// that a part practised daily and missed for two days comes before one that waits two weeks and is a day late. The
// share of the wanted tempo that it has reached is taken off: of two that are as late, the one farther from its tempo
// comes first. A day that was missed makes parts more overdue, never due twice.
func (d *planner) due() (due, later []Item) {
	type ranked struct {
		Item
		over, weak float64
		wait       int // days until it is due, below 0 since when
	}
	var all []ranked
	for _, p := range d.pieces {
		for _, part := range p.Parts {
			entries := d.book.Part(p.Lick, part.Name)
			k := lastRound(entries)
			if k < 0 || d.holds(part) {
				continue
			}
			known := d.book.read(part, p.Wanted, p.Lick)
			r := known.climber.on(d.today)
			if r.Done {
				continue
			}
			last := entries[k]
			wait, days := known.wait, int(d.today-DateOf(last.Time))
			if days < 1 {
				continue
			}
			why := "last on " + last.Time.Format("Monday")
			switch {
			case days == 1:
				why = "last yesterday"
			case days > 6: // two days of the week have that name
				why = "last on " + DateOf(last.Time).Word(d.today)
			}
			switch {
			case r.Paused > 0:
				why = "not for " + say.Count(r.Paused, "day") + ": a step back"
			case days > 13:
				why = "not for " + say.Count(days, "day")
			case r.Fell:
				why = "fell a step last time"
			case last.Missed > 0:
				why = fmt.Sprintf("missed at %.0f last time", last.Tempo)
			case days < wait:
				why = "ahead of its day"
			}
			all = append(all, ranked{
				Item: Item{
					Kind:    Due,
					Lick:    p.Lick,
					Title:   p.Title,
					Part:    part,
					Tempo:   r.Tempo,
					Minutes: dueTime,
					Why:     why,
				},
				over: float64(days) / float64(wait),
				weak: r.Tempo / max(1, r.Wanted),
				wait: wait - days,
			})
		}
	}
	slices.SortStableFunc(all, func(a, b ranked) int { return cmp.Compare(b.over-b.weak, a.over-a.weak) })
	for _, x := range all {
		if x.wait <= 0 {
			due = append(due, x.Item)
		} else if x.wait <= ahead {
			later = append(later, x.Item)
		}
	}
	return due, later
}

// onLadder says whether an entry is rounds on a ladder: no warm-up, nothing for the ear, no word.
func (e Entry) onLadder() bool { return e.Kind == "" && e.Clean+e.Missed > 0 }

// lastRound is the last of a part's rounds on its ladder, −1 for none.
func lastRound(entries []Entry) int {
	for k := len(entries) - 1; k >= 0; k-- {
		if entries[k].onLadder() {
			return k
		}
	}
	return -1
}

// begins says whether something new may be begun: nothing hurts, what is due now and in the days ahead takes less than
// half of their time, and nothing that has waited for more than a month goes on waiting today.
func (d *planner) begins(due, later []Item) bool {
	if d.sore || 2*dueTime*(len(due)+len(later)) > ahead*d.minutes {
		return false
	}
	for _, x := range due {
		entries := d.book.Part(x.Lick, x.Part.Name)
		if !d.planned(x.Lick, x.Part.Name) && d.today-DateOf(entries[lastRound(entries)].Time) > backlog {
			return false
		}
	}
	return true
}

// Wait is for how many days a part may rest after its rounds, which come in the order of their
// times (what else the log has of it is passed over): one after a day on which not most of them were clean, one after
// a first good day, and twice as many after each good day that follows it, up to longest. Good days in a row are 1,
// 2, 4, 8 and 10 days; a bad one begins again. What goes badly day after day is laid aside for two days from the
// fourth such day on and for four from the seventh, so that it neither nags nor keeps everything else away.
func Wait(rounds []Entry) int {
	wait, good, bad := 1, 0, 0
	for i := 0; i < len(rounds); {
		clean, missed := 0, 0
		day := DateOf(rounds[i].Time)
		for ; i < len(rounds) && DateOf(rounds[i].Time) == day; i++ {
			if rounds[i].onLadder() {
				clean, missed = clean+rounds[i].Clean, missed+rounds[i].Missed
			}
		}
		if clean+missed == 0 {
			continue
		}
		switch good++; {
		case clean <= missed:
			wait, good = 1, 0
			if bad++; bad >= 2*laidAside-1 {
				wait = 4
			} else if bad >= laidAside {
				wait = 2
			}
		case good > 1:
			wait = min(longest, 2*wait)
			bad = 0
		default:
			wait, bad = 1, 0
		}
	}
	return wait
}

// fresh is one thing that was not practised yet: the part that is farthest from its tempo.
func (d *planner) fresh() bool {
	best, bestPart, far := -1, Part{}, math.Inf(1)
	for i, p := range d.pieces {
		for _, part := range p.Parts {
			entries := d.book.Part(p.Lick, part.Name)
			if d.holds(part) || d.planned(p.Lick, part.Name) || lastRound(entries) >= 0 ||
				d.book.Climb(part, p.Wanted, p.Lick, d.today).Done {
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
	p := d.pieces[best]
	r := d.book.Climb(bestPart, p.Wanted, p.Lick, d.today)
	return d.add(Item{
		Kind:    New,
		Lick:    p.Lick,
		Title:   p.Title,
		Part:    bestPart,
		Tempo:   r.Tempo,
		Minutes: newTime,
		Why:     "new: " + bestPart.Why,
	})
}

// earItem is a piece with bends, to hear each against its target, or with changes, to hear its
// landings over their chords; another one each day. While it hurts there are no bends. wanted says that its
// time has come: nothing was done for the ear for earEvery days.
func (d *planner) earItem() (item Item, wanted bool) {
	var all []Item
	for _, p := range d.pieces {
		whole := p.Parts[len(p.Parts)-1]
		item := Item{
			Kind:    Ear,
			Lick:    p.Lick,
			Title:   p.Title,
			Part:    whole,
			Tempo:   Start(whole, p.Wanted),
			Minutes: earTime,
			Why:     "bends against their targets",
		}
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
	if len(all) == 0 {
		return item, false
	}
	return all[int(d.today)%len(all)], d.today-d.book.lastEar >= earEvery-1
}
