package pick

import (
	"math/rand/v2"
	"strings"
	"testing"

	"ornamen/core/lick"
	"ornamen/core/load"
)

// line reads "5 5 5 4": the string of each picked note, all 150 ms apart. A
// letter after a string fixes its stroke.
func line(text string) []Event {
	var out []Event
	for _, w := range strings.Fields(text) {
		n := Note{String: int(w[0] - '0')}
		if len(w) > 1 {
			n.Stroke = map[byte]lick.Stroke{'D': lick.Down, 'U': lick.Up, 'p': lick.PThumb, 'i': lick.PIndex}[w[1]]
		}
		out = append(out, Event{Notes: []Note{n}, Have: 150})
	}
	return out
}

func strokes(p Path) string {
	var b strings.Builder
	for _, s := range p.Steps {
		b.WriteByte(strings.ToUpper(string(s.Strokes[0]))[0])
	}
	return b.String()
}

var either = Hand{Angle: Either, Speed: 1}

// Common practice: the strokes of economy picking on usual counts per string.
func TestEconomy(t *testing.T) {
	for _, c := range []struct{ line, want string }{
		{"5 5 5 4 3 3 3 2 1 1", "DUDDDUDDDU"},
		{"1 1 2 3 3", "DUUUD"},
		{"3 3 2 2", "UDDU"},
		{"3 2 1 1", "DDDU"},
	} {
		if got := strokes(either.Solve(line(c.line), false, Economy, load.Slack)); got != c.want {
			t.Errorf("%s: %s, want %s", c.line, got, c.want)
		}
	}
}

// Common practice: the table of string changes.
func TestChanges(t *testing.T) {
	d, u := lick.Down, lick.Up
	for _, c := range []struct {
		before, after lick.Stroke
		thinner       bool
		want          StringChange
	}{
		{
			before:  d,
			after:   u,
			thinner: true,
			want:    Outside,
		}, {
			before:  u,
			after:   d,
			thinner: true,
			want:    Inside,
		}, {before: d, after: d, thinner: true, want: Sweep}, {before: u, after: u, thinner: true, want: Against},
		{
			before: u,
			after:  d,
			want:   Outside,
		}, {before: d, after: u, want: Inside}, {before: u, after: u, want: Sweep}, {before: d, after: d, want: Against},
	} {
		if got := StringChangeOf(c.before, c.after, c.thinner); got != c.want {
			t.Errorf("%s %s thinner %v: %s, want %s", c.before, c.after, c.thinner, got, c.want)
		}
	}
}

// Common practice: low down and hammer, high up, high down and pull, low up
// leaves on a downstroke both ways and loops on the low string.
func TestSlurredFigureLeavesOnDown(t *testing.T) {
	p := either.Solve(line("4D 3U 3D 4U"), true, Alternate, 1)
	var exits, changes []string
	for _, s := range p.Steps {
		if s.Exit != "" {
			exits, changes = append(exits, string(s.Exit)), append(changes, string(s.StringChange))
		}
	}
	if got := strings.Join(exits, " ") + ", " + strings.Join(changes, " "); got != "down down, outside inside" {
		t.Errorf("%s", got)
	}
	if p.Angle != LeavesDown || p.Steps[0].StringChange != NoChange {
		t.Errorf("angle %s, turn %q", p.Angle, p.Steps[0].StringChange)
	}
}

func TestNeeds(t *testing.T) {
	for _, c := range []struct {
		line string
		want float64
	}{
		{"1D 1U", 85}, {"1D 1D", 150}, {"2D 1U", 95}, {"2U 1D", 100}, {"2D 1D", 60}, {"2U 1U", 130},
		{"3D 1U", 110}, {"3U 1D", 115}, {"3D 1D", 110}, {"4D 1D", 125}, {"3U 1U", 145},
		{"1p 1i", 100}, {"1p 1p", 160}, {"1D 1i", 100},
	} {
		p := either.Solve(line(c.line), false, Free, 1)
		if got := p.Steps[1].Need; got != c.want {
			t.Errorf("%s needs %v ms, want %v", c.line, got, c.want)
		}
	}
	down := Hand{Angle: LeavesDown, Speed: 1}
	if got := down.Solve(line("2U 1D"), false, Free, 1).Steps[1].Need; got != 110 {
		t.Errorf("leaving on the unserved side needs %v, want 110", got)
	}
}

// Alternate keeps the turn over every free stroke, and gives way only where the
// player's own strokes leave no choice.
func TestAlternateAroundLocks(t *testing.T) {
	if got := strokes(either.Solve(line("1 1 1U 1 1"), false, Alternate, load.Slack)); got != "UDUDU" {
		t.Error(got)
	}
	if got := strokes(either.Solve(line("1D 1 1 1D"), false, Alternate, load.Slack)); strings.Count(got,
		"DD")+strings.Count(got, "UU") != 1 {
		t.Errorf("%s breaks the turn more than once", got)
	}
}

func TestPairs(t *testing.T) {
	apart := []Event{{Notes: []Note{{String: 3}, {String: 1}}, Have: 300}}
	s := either.Solve(apart, false, Alternate, 1).Steps[0].Strokes
	if s[0] != lick.Down || s[1] != lick.PMid {
		t.Errorf("strings 3 and 1: %v, want the pick and a finger", s)
	}
	next := []Event{{Notes: []Note{{String: 3}, {String: 2}}, Have: 300}}
	if s := either.Solve(next, false, Alternate, 1).Steps[0].Strokes; s[0] != s[1] {
		t.Errorf("strings 3 and 2: %v, want one stroke", s)
	}
}

// The search equals trying every row of strokes.
func TestExact(t *testing.T) {
	rng := rand.New(rand.NewPCG(1, 2))
	for range 400 {
		events := make([]Event, 1+rng.IntN(7))
		for i := range events {
			events[i] = Event{Notes: []Note{{String: 1 + rng.IntN(6)}}, Have: 60 + 200*rng.Float64()}
			if rng.IntN(4) == 0 {
				events[i].Notes[0].Stroke = []lick.Stroke{lick.Down, lick.Up}[rng.IntN(2)]
			}
		}
		loop := rng.IntN(2) == 0
		want := exhaustive(events, loop)
		if got := either.Solve(events, loop, Free, 1).Bound; got < want-1e-9 || got > want+1e-9 {
			t.Fatalf("%v loop %v: bound %v, exhaustive %v", events, loop, got, want)
		}
	}
}

func exhaustive(events []Event, loop bool) float64 {
	best := 1e18
	n := len(events)
	for _, angle := range []Angle{LeavesDown, LeavesUp} {
		for mask := range 1 << n {
			states := make([]state, n)
			ok := true
			for i, e := range events {
				k := lick.Down
				if mask>>i&1 == 1 {
					k = lick.Up
				}
				if f := e.Notes[0].Stroke; f != "" && f != k {
					ok = false
				}
				states[i] = state{k}
			}
			if !ok {
				continue
			}
			worst := 0.0
			for i := range events {
				j := i - 1
				if i == 0 {
					if !loop {
						continue
					}
					j = n - 1
				}
				worst = max(worst, either.move(events[j], states[j], events[i], states[i], angle).Load)
			}
			best = min(best, worst)
		}
	}
	return best
}

// A rake takes the time of its sweep.
func TestRakeTakesTime(t *testing.T) {
	plain := []Event{
		{Notes: []Note{{String: 3, Stroke: lick.Down}}},
		{Notes: []Note{{String: 2, Stroke: lick.Up}}, Have: 300},
	}
	raked := []Event{plain[0], {Notes: []Note{{String: 2, Stroke: lick.Up, Rake: true}}, Have: 300}}
	pl := Hand{Angle: LeavesDown}
	a, b := pl.Solve(plain, false, Free, 1), pl.Solve(raked, false, Free, 1)
	if got := b.Steps[1].Need - a.Steps[1].Need; got != rakeNeed {
		t.Errorf("a rake needs %v ms more, want %v", got, rakeNeed)
	}
}

// After a rest or a held note the pick begins anew: a downstroke on the beat, whatever string it left,
// and that is no sweep (common practice). Where the line simply goes on, the strokes take turns.
func TestNewStart(t *testing.T) {
	for _, fresh := range []bool{true, false} {
		events := []Event{
			{Notes: []Note{{String: 3}}, Begins: true}, {Notes: []Note{{String: 3}}, Have: 150},
			{Notes: []Note{{String: 3}}, Have: 150}, {Notes: []Note{{String: 2}}, Have: 600, Begins: fresh},
			{Notes: []Note{{String: 2}}, Have: 150},
		}
		p := (Hand{Angle: LeavesDown}).Solve(events, false, Alternate, 1.15)
		got := ""
		for _, s := range p.Steps {
			got += string(s.Strokes[0][:1])
		}
		want := "dudud"
		if fresh {
			want = "dud" + "du"
		}
		if got != want || p.Breaches != 0 {
			t.Errorf("fresh %v: %s with %d breaches, want %s", fresh, got, p.Breaches, want)
		}
		if s := p.Steps[3]; fresh && (s.StringChange != NoChange || s.Exit != "") || !fresh && s.StringChange == NoChange {
			t.Errorf("fresh %v: the change is %q, leaving on %q", fresh, s.StringChange, s.Exit)
		}
	}
}
