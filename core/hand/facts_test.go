package hand

import (
	"context"
	"fmt"
	"math"
	"strings"
	"testing"

	"ornamen/core/lick"
	"ornamen/core/load"
	"ornamen/core/neck"
)

// line reads "1:5 7h 9 | 2:..": places string:fret, the string kept until the
// next one; a mark after the fret is a slur (h, p, s, S).
func line(t testing.TB, s string) []Event {
	t.Helper()
	slurs := map[byte]lick.Slur{'h': lick.Hammer, 'p': lick.Pull, 's': lick.Slide, 'S': lick.Shift}
	var events []Event
	str := 0
	for _, w := range strings.Fields(s) {
		if head, tail, ok := strings.Cut(w, ":"); ok {
			fmt.Sscan(head, &str)
			w = tail
		}
		var touch Touch
		if slur, ok := slurs[w[len(w)-1]]; ok {
			touch.Slur, w = slur, w[:len(w)-1]
		}
		fret := 0
		if _, err := fmt.Sscan(w, &fret); err != nil {
			t.Fatalf("%q: %v", s, err)
		}
		touch.Place = neck.Place{String: str, Fret: fret}
		events = append(events, Event{Touches: []Touch{touch}, Have: 150})
	}
	return events
}

func fingers(p Path) string {
	var b strings.Builder
	for i, s := range p.Steps {
		if i > 0 {
			b.WriteByte(' ')
		}
		for _, f := range s.Fingers {
			b.WriteString(f.String())
		}
	}
	return b.String()
}

// Common practice: the fingerings most players use for the usual shapes.
func TestUsualFingerings(t *testing.T) {
	m := NewModel(Medium(), neck.Standard())
	for _, c := range []struct{ name, line, want string }{
		{"one finger a fret, 5 6 7 8", "1:5 6 7 8", "1 2 3 4"},
		{"one finger a fret, 5 7 8", "1:5 7 8", "1 3 4"},
		{"one finger a fret, 5 7 9", "1:5 7 9", "1 2 4"},
		{"one finger a fret, 5 6 8", "1:5 6 8", "1 2 4"},
		{"one finger a fret, 12 14 16", "1:12 14 16", "1 2 4"},
		{"one finger a fret, 1 3 4 on the thickest string", "6:1 3 4", "1 3 4"},
		{"minor pentatonic box at 5", "6:5 8 5:5 7 4:5 7 3:5 7 2:5 8 1:5 8", "1 4 1 3 1 3 1 3 1 4 1 4"},
		{"the box above it", "6:8 10 5:7 10 4:7 10 3:7 9 2:8 10 1:8 10", "2 4 1 4 1 4 1 3 2 4 2 4"},
		{"natural minor, three a string, going up", "6:5 7 8 5:5 7 8 4:5 7 9 3:5 7 9 2:6 8 10 1:7 8 10",
			"1 3 4 1 3 4 1 2 4 1 2 4 1 2 4 1 2 4"},
		{"natural minor, three a string, going down", "1:10 8 7 2:10 8 6 3:9 7 5 4:9 7 5 5:8 7 5 6:8 7 5",
			"4 2 1 4 2 1 4 2 1 4 2 1 4 3 1 4 3 1"},
		{"major in an area", "6:8 10 5:7 8 10 4:7 9 10 3:7 9 10 2:8 10 1:7 8", "2 4 1 2 4 1 3 4 1 3 4 2 4 1 2"},
	} {
		t.Run(c.name, func(t *testing.T) {
			if got := fingers(m.Solve(context.Background(), line(t, c.line), false, load.Slack)); got != c.want {
				t.Errorf("%s: %s, want %s", c.line, got, c.want)
			}
		})
	}
}

// Common practice: what a stretch is depends on the place and on the hand.
func TestStretches(t *testing.T) {
	g := neck.Standard()
	hands := map[string]*Model{}
	for _, s := range sizes {
		h, _ := Named(s.name)
		hands[s.name] = NewModel(h, g)
	}
	fixed := func(events []Event, fingers ...lick.Finger) []Event {
		for i, f := range fingers {
			events[i].Touches[0].Finger = f
		}
		return events
	}
	low := hands["medium"].Solve(context.Background(), fixed(line(t, "1:1 3 5"), lick.Index, lick.Middle, lick.Little),
		false, load.Slack)
	for _, s := range low.Steps {
		t.Log(s)
	}
	if s := low.Steps[0].Stretch.Strain(); s < 0.785 || s > 0.795 || !low.Possible() {
		t.Errorf("1 2 4 on frets 1 3 5 starts at strain %.3f, want 0.79 and possible", s)
	}
	// One finger that jumps stretches nothing, wherever the others hover meanwhile.
	one := hands["medium"].Solve(context.Background(), fixed(line(t, "2:5 9 5 9"), lick.Index, lick.Index, lick.Index,
		lick.Index), false, load.Slack)
	for i, s := range one.Steps {
		if s.Stretch != (Stretch{}) {
			t.Errorf("note %d of one finger stretches %+v", i+1, s.Stretch)
		}
	}
	for _, c := range []struct {
		line, hand string
		possible   bool
		strained   bool
	}{
		{line: "1:5 8h 10h 5p", hand: "medium", possible: true, strained: true},
		{line: "1:5 8h 10h 5p", hand: "small"},
		{line: "1:10 13h 15h 10p", hand: "medium", possible: true},
		{line: "1:3 5h 9h", hand: "small"},
		{line: "1:3 5h 9h", hand: "medium"},
		{line: "1:3 5h 9h", hand: "large"},
	} {
		p := hands[c.hand].Solve(context.Background(), line(t, c.line), false, load.Slack)
		if p.Possible() != c.possible {
			t.Errorf("%s, %s hand: possible %v, want %v (%s)", c.line, c.hand, p.Possible(), c.possible, fingers(p))
			continue
		}
		worst := 0.0
		for _, s := range p.Steps {
			worst = max(worst, s.Stretch.Strain())
		}
		if c.possible && (worst > 0) != c.strained {
			t.Errorf("%s, %s hand: strain %.2f, want strained %v", c.line, c.hand, worst, c.strained)
		}
	}
}

// Common practice: four tones on a string slide with the little finger at the
// top or with the index at the bottom, and both are right.
func TestFourOnAString(t *testing.T) {
	m := NewModel(Medium(), neck.Standard())
	four := func(text, want string) float64 {
		events := line(t, text)
		for i, f := range strings.Fields(want) {
			finger, err := lick.ParseFinger(f)
			if err != nil {
				t.Fatal(err)
			}
			events[i].Touches[0].Finger = finger
		}
		p := m.Solve(context.Background(), events, false, 1)
		if !p.Possible() {
			t.Fatalf("%s with %s is impossible", text, want)
		}
		return p.Bound
	}
	little := four("5:3 5h 7h 9s 4:5 7h 9h", "1 2 4 4 1 2 4")
	index := four("5:3 5s 7h 9h 4:5 7h 9h", "1 1 2 4 1 2 4")
	if r := little / index; r < 0.97 || r > 1.03 {
		t.Errorf("little finger %.3f, index %.3f: not within 3 %%", little, index)
	}
}

var benchLine = strings.Repeat("6:5 7 8 5:5 7 8 4:5 7 9 3:5 7 9 2:6 8 10 1:7 8 10 8 7 2:10 8 6 3:9 7 5 4:9 7 5 ", 3)

func BenchmarkSolve64(b *testing.B) {
	events := line(b, benchLine)[:64]
	b.Run("cold", func(b *testing.B) {
		for b.Loop() {
			m := NewModel(Medium(), neck.Standard())
			m.Solve(context.Background(), events, false, load.Slack)
		}
	})
	b.Run("warm", func(b *testing.B) {
		m := NewModel(Medium(), neck.Standard())
		for b.Loop() {
			m.Solve(context.Background(), events, false, load.Slack)
		}
	})
	b.Run("loop", func(b *testing.B) {
		m := NewModel(Medium(), neck.Standard())
		for b.Loop() {
			m.Solve(context.Background(), events, true, load.Slack)
		}
	})
}

// One finger laid flat needs 55 ms for its next string, one that rolls over 95 (model.md); nothing
// else differs.
func TestUnderABarre(t *testing.T) {
	m := NewModel(Medium(), neck.Standard())
	need := func(flat bool) float64 {
		events := []Event{
			{Have: 1000, Touches: []Touch{{Place: neck.Place{String: 2, Fret: 5}, Finger: lick.Index, Barre: flat}}},
			{Have: 1000, Touches: []Touch{{Place: neck.Place{String: 1, Fret: 5}, Finger: lick.Index, Barre: flat}}},
		}
		return m.Frames(context.Background(), events, false).Steps[1].Need
	}
	if roll, barre := need(false), need(true); math.Abs(roll-barre-40) > 1e-9 {
		t.Errorf("a roll needs %.1f ms, under a barre %.1f", roll, barre)
	}
}

// A bend goes to the finger that players bend with: a lone full step to the ring finger wherever it
// lies (common practice), by habit to the little one.
func TestWhoBends(t *testing.T) {
	for _, c := range []struct {
		line   string
		bender lick.Finger
		want   string
	}{
		{"3:7b", lick.NoFinger, "3"}, {"2:9b", lick.NoFinger, "3"}, {"3:7b", lick.Little, "4"},
		{"2:5 3:7b 5", lick.NoFinger, "1 3 1"}, {"1:12b", lick.NoFinger, "3"}, {"2:10b", lick.Little, "4"},
		{"2:3 7b 3", lick.NoFinger, "1 4 1"}, {"2:5 7 8b", lick.NoFinger, "1 3 4"}, // what its fret has in the box
	} {
		h := Medium()
		h.Bender = c.bender
		m := NewModel(h, neck.Standard())
		var events []Event
		str := 0
		for _, w := range strings.Fields(c.line) {
			w, bent := strings.CutSuffix(w, "b")
			if s, rest, ok := strings.Cut(w, ":"); ok {
				fmt.Sscan(s, &str)
				w = rest
			}
			x := Touch{Place: neck.Place{String: str}, Bent: bent}
			fmt.Sscan(w, &x.Place.Fret)
			events = append(events, Event{Have: 500, Touches: []Touch{x}})
		}
		path := m.Solve(context.Background(), events, false, load.Slack)
		var got []string
		for _, s := range path.Steps {
			got = append(got, s.Fingers[0].String())
		}
		if strings.Join(got, " ") != c.want {
			t.Errorf("%s with the habit %v is played %s, want %s", c.line, c.bender, strings.Join(got, " "), c.want)
		}
	}
}
