package pick

import (
	"math"
	"testing"

	"ornamen/core/lick"
)

// The choices of an event are the strokes it may be played with: both for a free
// note, one for a set one, pick and fingers for strings apart, the written fingers
// too where they are given.
func TestChoices(t *testing.T) {
	for _, c := range []struct {
		name  string
		notes []Note
		want  [][]lick.Stroke
	}{
		{"a free note", []Note{{String: 3}}, [][]lick.Stroke{{lick.Down}, {lick.Up}}},
		{"a set note", []Note{{String: 3, Stroke: lick.Up}}, [][]lick.Stroke{{lick.Up}}},
		{"neighbours, one stroke", []Note{{String: 3}, {String: 2}}, [][]lick.Stroke{{lick.Down, lick.Down}, {lick.Up,
			lick.Up}}},
		{"one of two is set", []Note{{String: 3}, {String: 2, Stroke: lick.Up}}, [][]lick.Stroke{{lick.Up, lick.Up}}},
		{"strings apart, hybrid", []Note{{String: 3}, {String: 1}}, [][]lick.Stroke{{lick.Down, lick.PMid}}},
		{"written for a finger", []Note{{String: 3, Finger: lick.PIndex}}, [][]lick.Stroke{{lick.Down}, {lick.Up},
			{lick.PIndex}}},
	} {
		got := Choices(c.notes)
		if len(got) != len(c.want) {
			t.Errorf("%s: %d choices, want %d", c.name, len(got), len(c.want))
			continue
		}
		for i := range got {
			for k := range c.notes {
				if got[i].Strokes[k] != c.want[i][k] {
					t.Errorf("%s: choice %d is %v, want %v", c.name, i+1, got[i].Strokes, c.want[i])
				}
			}
		}
	}
}

// single is one note picked with a stroke.
func single(str int, s lick.Stroke) Choice {
	return Choice{[]Note{{String: str}}, []lick.Stroke{s}}
}

// The needs from one choice to the next, by the table of the model.
func TestNeedsBetweenChoices(t *testing.T) {
	pl := Hand{Angle: LeavesDown}
	for _, c := range []struct {
		name   string
		x, y   Choice
		need   float64
		change StringChange
		exit   lick.Stroke
	}{
		{name: "one string, in turn", x: single(3, lick.Down), y: single(3, lick.Up), need: 85, change: NoChange},
		{name: "one string, again", x: single(3, lick.Down), y: single(3, lick.Down), need: 150, change: NoChange},
		{name: "outside", x: single(3, lick.Down), y: single(2, lick.Up), need: 95, change: Outside, exit: lick.Down},
		{
			name:   "inside, the other exit",
			x:      single(3, lick.Up),
			y:      single(2, lick.Down),
			need:   110,
			change: Inside,
			exit:   lick.Up,
		},
		{name: "sweep", x: single(3, lick.Down), y: single(2, lick.Down), need: 60, change: Sweep},
		{name: "sweep over a string", x: single(3, lick.Down), y: single(1, lick.Down), need: 110, change: Sweep},
		{name: "sweep over two", x: single(4, lick.Down), y: single(1, lick.Down), need: 125, change: Sweep},
		{name: "against", x: single(2, lick.Down), y: single(3, lick.Down), need: 130, change: Against},
		{
			name:   "outside over a string",
			x:      single(3, lick.Down),
			y:      single(1, lick.Up),
			need:   110,
			change: Outside,
			exit:   lick.Down,
		},
		{
			name:   "outside to a thicker string",
			x:      single(2, lick.Up),
			y:      single(3, lick.Down),
			need:   105,
			change: Outside,
			exit:   lick.Up,
		},
		{name: "fingers in turn", x: single(2, lick.PIndex), y: single(2, lick.PMid), need: 100, change: NoChange},
		{name: "one finger again", x: single(2, lick.PMid), y: single(1, lick.PMid), need: 160, change: NoChange},
	} {
		s := pl.Between(c.x, c.y, LeavesDown)
		if s.Need != c.need || s.StringChange != c.change || s.Exit != c.exit {
			t.Errorf("%s: %v ms, %q, leaves on %q; want %v, %q, %q", c.name, s.Need, s.StringChange, s.Exit, c.need, c.change,
				c.exit)
		}
		if load := pl.Load(c.x, c.y, 200, false, LeavesDown); math.Abs(load-c.need/200) > 1e-12 {
			t.Errorf("%s: load %v", c.name, load)
		}
	}
	fast := Hand{Angle: LeavesDown, Speed: 2}
	if s := fast.Between(single(3, lick.Down), single(3, lick.Up), LeavesDown); s.Need != 42.5 {
		t.Errorf("a player twice as fast needs %v ms", s.Need)
	}
}

// What leaves a way: two same strokes in alternation; in economy a change that
// goes with the stroke and does not sweep, or the other way round.
func TestBreaches(t *testing.T) {
	for _, c := range []struct {
		way  Way
		x, y Choice
		want bool
	}{
		{
			way: Alternate,
			x:   single(3, lick.Down),
			y:   single(3, lick.Up),
		}, {
			way:  Alternate,
			x:    single(3, lick.Down),
			y:    single(2, lick.Down),
			want: true,
		},
		{
			way: Economy,
			x:   single(3, lick.Down),
			y:   single(2, lick.Down),
		}, {
			way:  Economy,
			x:    single(3, lick.Down),
			y:    single(2, lick.Up),
			want: true,
		},
		{
			way: Economy,
			x:   single(2, lick.Down),
			y:   single(3, lick.Up),
		}, {
			way:  Economy,
			x:    single(2, lick.Down),
			y:    single(3, lick.Down),
			want: true,
		},
		{
			way: Free,
			x:   single(3, lick.Down),
			y:   single(3, lick.Down),
		}, {way: Legato, x: single(3, lick.Up), y: single(3, lick.Up)},
		{way: Alternate, x: single(3, lick.PIndex), y: single(3, lick.PIndex)},
	} {
		if got := c.way.Breach(c.x, c.y); got != c.want {
			t.Errorf("%s, %v to %v: %v", c.way, c.x, c.y, got)
		}
	}
	set := Choice{[]Note{{String: 3, Stroke: lick.Down}}, []lick.Stroke{lick.Down}}
	if Alternate.Breach(set, set) {
		t.Error("what the player set himself is a breach")
	}
}
