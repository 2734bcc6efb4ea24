package propose

import (
	"strings"
	"testing"

	"ornamen/core/judge"
	"ornamen/core/lick"
	"ornamen/core/load"
	"ornamen/core/pick"
	"ornamen/core/testline"
)

// hands writes fingers, strokes and slurs of a line in a row.
func hands(l lick.Lick) (fingers, strokes string) {
	for _, n := range l.Notes {
		fingers += n.Finger.String()
		switch {
		case n.Slur != "":
			strokes += string(n.Slur)[:1]
		case n.Stroke == "":
			strokes += "-"
		default:
			strokes += strings.ToUpper(string(n.Stroke)[:1])
		}
	}
	return fingers, strokes
}

// minor is natural minor, three a string, going up.
const minor = "6:5 7 8 5:5 7 8 4:5 7 9 3:5 7 9 2:6 8 10 1:7 8 10"

func TestProposeWays(t *testing.T) {
	for _, c := range []struct {
		line             string
		way              pick.Way
		fingers, strokes string
	}{
		// Common practice, with a pick that leaves on down: scales of three a string, and their economy, alternate
		// and legato versions.
		{line: minor, way: pick.Alternate, fingers: "134134124124124124", strokes: "DUDUDUDUDUDUDUDUDU"},
		{line: minor, way: pick.Economy, fingers: "134134124124124124", strokes: "DUDDUDDUDDUDDUDDUD"},
		{line: minor, way: pick.Legato, fingers: "134134124124124124", strokes: "DhhDhhDhhDhhDhhDhh"},
		{line: "4:9 7 5 5:8 7 5 6:8 7 5", way: pick.Economy, fingers: "421431431", strokes: "UDUUDUUDU"},
		{line: "4:9 7 5 5:8 7 5", way: pick.Legato, fingers: "421431", strokes: "UppUpp"},
		// Major, three a string; the blues box with its passing tone; a sweep over a
		// bar at one fret; pulls down the pentatonic box.
		{
			line:    "6:5 7 9 5:5 7 9 4:6 7 9 3:6 7 9 2:7 9 10 1:7 9 10",
			way:     pick.Economy,
			fingers: "124124124124134134",
			strokes: "DUDDUDDUDDUDDUDDUD",
		},
		{
			line:    "6:5 8 5:5 6 7 4:5 7 3:5 7 8 2:5 8 1:5 8",
			way:     pick.Alternate,
			fingers: "14123131341414",
			strokes: "DUDUDUDUDUDUDU",
		},
		{line: "3:5 2:5 1:5 8 5 2:5 3:5", way: pick.Economy, fingers: "1114111", strokes: "DDDUDUU"},
		{line: "1:8 5 2:8 5 3:7 5 4:7 5", way: pick.Legato, fingers: "41413131", strokes: "UpUpUpUp"},
		// Minor pentatonic box at 5, two a string.
		{
			line:    "6:5 8 5:5 7 4:5 7 3:5 7 2:5 8 1:5 8",
			way:     pick.Alternate,
			fingers: "141313131414",
			strokes: "UDUDUDUDUDUD",
		},
		// Four on a string take a slide.
		{line: "5:3 5 7 9 4:5 7 9", way: pick.Legato, fingers: "1244124", strokes: "DhhsDhh"},
		// Locks stay.
		{line: "6:5/f2 7 8 5:5/U 7 8", way: pick.Alternate, fingers: "234134", strokes: "DUDUDU"},
	} {
		l := testline.Build(t, 100, c.line)
		for i := range l.Notes {
			if l.Notes[i].Finger != lick.NoFinger {
				l.Notes[i].Lock = append(l.Notes[i].Lock, lick.FieldFinger)
			}
			if l.Notes[i].Stroke != "" {
				l.Notes[i].Lock = append(l.Notes[i].Lock, lick.FieldStroke)
			}
		}
		got := propose(usual, l, Request{Way: c.way, Angle: pick.LeavesDown})
		if len(got) != 1 {
			t.Fatalf("%s: %d proposals, asked for one", c.line, len(got))
		}
		if f, s := hands(got[0].Lick); f != c.fingers || s != c.strokes {
			t.Errorf("%s, %s: %s %s, want %s %s", c.line, c.way, f, s, c.fingers, c.strokes)
		}
	}
}

// The best few differ, the recommended one comes first and one reaches the bound.
func TestProposeBestFew(t *testing.T) {
	for _, text := range []string{"6:5 7 8 5:5 7 8 4:5 7 9 3:5 7 9", "1:12 8 2:10 3:9 7 5", "5:3 5 7 9 4:5 7 9 3:7",
		"6:0 5:7 4:9+3:9 1:12"} {
		l := testline.Build(t, 120, text)
		for _, ask := range []Request{{Best: 6}, {Best: 6, Place: true}, {Best: 4, Way: pick.Legato}, {Best: 2}} {
			got := propose(usual, l, ask)
			reached, seen := false, map[string]bool{}
			for i, p := range got {
				if p.Ceiling > p.BestPossible*(1+1e-9) {
					t.Errorf("%s: ceiling %v beats the best possible %v", text, p.Ceiling, p.BestPossible)
				}
				if i > 1 && p.Ceiling > got[i-1].Ceiling && i < len(got)-1 {
					t.Errorf("%s: alternatives are not in order of their ceilings", text)
				}
				reached = reached || p.Ceiling*worthOther >= p.BestPossible
				if key := judge.HandsKey(p.Lick); seen[key] {
					t.Errorf("%s: two proposals are the same", text)
				} else {
					seen[key] = true
				}
				if !strings.HasSuffix(p.Why, ".") || len(p.Why) < 20 {
					t.Errorf("%s: why %q", text, p.Why)
				}
			}
			if !reached {
				t.Errorf("%s: no proposal comes near the bound", text)
			}
			if len(got) > mostOffered {
				t.Errorf("%s: %d proposals", text, len(got))
			}
			for _, p := range got[1:] {
				if p.Ceiling <= got[0].Ceiling*worthOther && p.kind == otherFinger {
					t.Errorf("%s: %s gains nothing", text, p.Title)
				}
			}
			if got[0].Ceiling < got[0].BestPossible/load.Slack*(1-1e-9) {
				t.Errorf("%s: the recommended one reaches %v of %v", text, got[0].Ceiling, got[0].BestPossible)
			}
		}
	}
}

// A selection changes nothing outside it.
func TestProposeSelection(t *testing.T) {
	l := testline.Build(t, 100, "6:5/f2/U 7/f4/D 8/f4 5:5 7 8")
	got := propose(usual, l, Request{Notes: []int{3, 4, 5}})[0].Lick
	if f, s := hands(got); f != "244134" || s[:2] != "UD" {
		t.Errorf("%s %s: the notes outside the selection changed", f, s)
	}
}

// A bend is proposed for a finger that holds it, and one index alone does not.
func TestProposedFingerHoldsTheBend(t *testing.T) {
	l := testline.Build(t, 60, "3:5/b2*1/4 2:5")
	got := propose(usual, l, Request{})[0]
	if f := got.Lick.Notes[0].Finger; f < lick.Middle {
		t.Errorf("finger %s is proposed for a full bend", f)
	}
	if got.Report.Verdict == judge.Breaks {
		t.Errorf("breaks: %v", codes(got.Report))
	}
}

func TestProposeNothing(t *testing.T) {
	if got := propose(usual, lick.New(), Request{Best: 3}); got == nil || len(got) != 0 {
		t.Errorf("an empty lick has %v", got)
	}
}
