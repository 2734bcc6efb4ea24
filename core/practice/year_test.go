package practice

import (
	"fmt"
	"math"
	"math/rand/v2"
	"slices"
	"testing"
	"time"
)

// practiser is a simulated player who follows the plan for a year: who is as fast as truth times the ceilings says,
// stays away on some days, and logs every round.
type practiser struct {
	pieces  []Piece
	minutes int
	truth   float64
	away    func(day int) bool
	word    map[int]Comfort // said on a day
	book    *Book
	rng     *rand.Rand
	last    map[string]int // the day on which a part was played last
	gap     map[string]int // the longest that it waited once it was begun
	warm    []string
	ears    []int
	planned []int // minutes of each day
	items   [][]Item
}

// notebookOf are so many licks of two parts and a whole each, every fourth with bends, every third over changes.
func notebookOf(n int, rng *rand.Rand) (out []Piece) {
	for i := range n {
		ceiling := 90 + 80*rng.Float64()
		p := Piece{
			Lick:     uint(i + 1),
			Title:    fmt.Sprint("lick ", i+1),
			Wanted:   math.Round(1.4 * ceiling),
			Bends:    i%4 == 1,
			Landings: i%3 == 0,
		}
		for k, name := range []string{"bottleneck", "strings 3 and 2", ""} {
			part := Part{
				Name:    name,
				From:    1,
				To:      8,
				Ceiling: math.Round(ceiling * (1.2 - 0.1*float64(k))),
				Why:     "it sets the ceiling",
			}
			if p.Bends && name == "" {
				part.Bends = 1.2
				part.Heavy = i%8 == 1
			}
			p.Parts = append(p.Parts, part)
		}
		out = append(out, p)
	}
	return out
}

// year plays it.
func (s *practiser) year() {
	s.book, s.last, s.gap = NewBook(nil), map[string]int{}, map[string]int{}
	for day := range 365 {
		at := now.AddDate(0, 0, day)
		if c := s.word[day]; c != "" {
			s.book.add(Entry{Comfort: c, Time: at})
		}
		if s.away != nil && s.away(day) {
			s.planned, s.items = append(s.planned, -1), append(s.items, nil)
			continue
		}
		items := Plan(s.minutes, s.pieces, s.book, at)
		used := 0
		for _, x := range items {
			used += x.Minutes
			at = at.Add(time.Duration(x.Minutes) * time.Minute)
			switch x.Kind {
			case Break:
				continue
			case WarmUp:
				s.warm = append(s.warm, fmt.Sprint(x.Lick))
				s.book.add(Entry{
					Lick:    x.Lick,
					Part:    x.Part.Name,
					Kind:    WarmUp,
					Tempo:   x.Tempo,
					Clean:   1,
					Minutes: float64(x.Minutes),
					Time:    at,
				})
				continue
			case Ear:
				s.ears = append(s.ears, day)
				s.book.add(Entry{
					Lick:    x.Lick,
					Part:    x.Part.Name,
					Kind:    Ear,
					Tempo:   x.Tempo,
					Clean:   1,
					Minutes: float64(x.Minutes),
					Time:    at,
				})
				continue
			}
			key := fmt.Sprint(x.Lick, " ", x.Part.Name)
			if was, ok := s.last[key]; ok {
				s.gap[key] = max(s.gap[key], day-was)
			}
			s.last[key] = day
			for range max(2, int(float64(x.Minutes)/0.7)) {
				r := s.book.Climb(x.Part, s.pieceOf(x.Lick).Wanted, x.Lick, DateOf(at))
				e := Entry{Lick: x.Lick, Part: x.Part.Name, Tempo: r.Tempo, Minutes: 0.7, Time: at}
				if s.rng.Float64() < sigmoid(steepness*math.Log(s.truth*x.Part.Ceiling/r.Tempo)) {
					e.Clean = 1
				} else {
					e.Missed = 1
				}
				s.book.add(e)
			}
		}
		s.planned, s.items = append(s.planned, used), append(s.items, items)
	}
}

// pieceOf finds a lick.
func (s *practiser) pieceOf(lick uint) Piece {
	for _, p := range s.pieces {
		if p.Lick == lick {
			return p
		}
	}
	return Piece{}
}

// Over a simulated year nothing starves, nothing nags, minutes are filled, and tempos settle near what the player can
// do: one lick, a dozen, two hundred, a month away, an injury, a player who fails at everything.
func TestYearOfPractice(t *testing.T) {
	month := func(day int) bool { return day >= 150 && day < 181 }
	for _, c := range []struct {
		name    string
		licks   int
		minutes int
		truth   float64
		away    func(int) bool
		word    map[int]Comfort
		waits   int // days that a part waits at most, days away among them
		begun   int // parts, at least
	}{
		{name: "one lick, fifteen minutes", licks: 1, minutes: 15, truth: 1, waits: 12, begun: 3},
		{name: "twelve licks, half an hour", licks: 12, minutes: 30, truth: 1, waits: 25, begun: 36},
		{name: "two hundred licks, ten minutes", licks: 200, minutes: 10, truth: 1, waits: 40, begun: 12},
		{name: "a month's pause", licks: 12, minutes: 30, truth: 1, away: month, waits: 60, begun: 36},
		{
			name:    "an injury",
			licks:   12,
			minutes: 30,
			truth:   1,
			word:    map[int]Comfort{100: Hurts, 110: Well},
			waits:   45,
			begun:   36,
		},
		{name: "a slow player", licks: 6, minutes: 20, truth: 0.3, waits: 25, begun: 18},
		{name: "who fails at everything", licks: 6, minutes: 20, truth: 0.05, waits: 25, begun: 6},
	} {
		t.Run(c.name, func(t *testing.T) {
			t.Parallel()
			rng := rand.New(rand.NewPCG(20, 26))
			s := &practiser{
				pieces:  notebookOf(c.licks, rng),
				minutes: c.minutes,
				truth:   c.truth,
				away:    c.away,
				word:    c.word,
				rng:     rng,
			}
			s.year()
			worst := ""
			for key, gap := range s.gap {
				if worst == "" || gap > s.gap[worst] {
					worst = key
				}
			}
			// What is still waiting at the end has waited since.
			for key, day := range s.last {
				if 365-day > s.gap[worst] {
					worst, s.gap[key] = key, 365-day
				}
			}
			if s.gap[worst] > c.waits {
				t.Errorf("%q waited for %d days", worst, s.gap[worst])
			}
			short, late, again := 0, 0, 0
			ear := -1
			for day, used := range s.planned {
				if used < 0 {
					ear = day
					continue
				}
				if used < c.minutes {
					short++
				}
				for _, x := range s.items[day] {
					if x.Kind == Ear {
						ear = day
					}
				}
				if c.licks > 1 && day-ear > 3 {
					late++
				}
			}
			for i := 1; i < len(s.warm); i++ {
				if s.warm[i] == s.warm[i-1] {
					again++
				}
			}
			if c.licks > 1 && again > 0 {
				t.Errorf("the warm-up of the day before came again on %d days", again)
			}
			if late > 0 {
				t.Errorf("on %d days nothing had been for the ear in three", late)
			}
			if c.licks > 1 && short > 30 {
				t.Errorf("%d days are not filled", short)
			}
			if len(s.last) < c.begun {
				t.Errorf("only %d of %d parts were ever begun", len(s.last), 3*c.licks)
			}
			// Tempos, of the parts that were climbed for a while.
			sum, n, far := 0.0, 0, 0
			for _, p := range s.pieces {
				for _, part := range p.Parts {
					rounds := slices.DeleteFunc(slices.Clone(s.book.Part(p.Lick, part.Name)),
						func(e Entry) bool { return !e.onLadder() })
					if len(rounds) < 120 {
						continue
					}
					r := s.book.Climb(part, p.Wanted, p.Lick, DateOf(rounds[len(rounds)-1].Time))
					able := max(slowest, min(p.Wanted, c.truth*part.Ceiling*atLadder))
					d := math.Log(r.Tempo / able)
					sum, n = sum+d, n+1
					if math.Abs(d) > 0.12 {
						far++
					}
				}
			}
			t.Logf(
				"%s: longest wait %d, %d short days, %d parts climbed, tempos %+.1f %% of what can be done, %d of them off by more than 12 %%",
				c.name,
				s.gap[worst],
				short,
				n,
				100*sum/float64(max(1, n)),
				far,
			)
			if n > 0 && math.Abs(sum/float64(n)) > 0.05 {
				t.Errorf("tempos settle %.1f %% from what the player can do", 100*sum/float64(n))
			}
			for day, items := range s.items {
				if c.word == nil || day < 100 || day > 112 {
					continue
				}
				for _, x := range items {
					if x.Part.Heavy || x.Part.Bends > 0 && x.Kind != Ear || x.Kind == New ||
						x.Why == "bends against their targets" {
						t.Errorf("day %d, it hurts or has just been well: %+v", day, x)
					}
				}
			}
		})
	}
}

// atLadder is where a ladder of three up and two down stands for the model's player, of the ceiling: where going up and
// coming down are as likely.
const atLadder = 0.93
