package judge

import (
	"math/rand/v2"
	"slices"
	"strings"
	"testing"

	"ornamen/core/bend"
	"ornamen/core/lick"
	"ornamen/core/neck"
	"ornamen/core/testline"
)

// A bend is lost over the edge from a millimetre before it: where the way of the push leaves less
// than that beside it, a finding says so with both numbers, and where it leaves more, none does.
func TestEdge(t *testing.T) {
	g := neck.Standard()
	found, spare := 0, 0
	for str := 1; str <= 6; str++ {
		for fret := 1; fret <= 22; fret++ {
			for _, push := range []lick.Push{lick.ToThick, lick.ToThin} {
				for _, half := range []float64{0.5, 1, 2, 3} {
					l := testline.Build(t, 60, "1:5*1/2")
					n := &l.Notes[0]
					n.String, n.Fret = str, fret
					n.Bend = &lick.Bend{Semitones: half, Shape: lick.BendUp, Push: push}
					x, ok := bend.Solve(g, n.Place(), half)
					if !ok {
						continue
					}
					room := g.Room(str, g.Press(fret), push == lick.ToThick)
					lost := x.Way+1 > room
					if lost && x.Way <= room {
						spare++ // it fits, but for the millimetre
					}
					is := false
					for _, f := range check(usual, l).Findings {
						if f.Code == BendOffEdge {
							is = true
							if f.Need != round1(float64(x.Way)+1) || f.Have != round1(float64(room)) {
								t.Errorf("%d:%d by %g: needs %g and has %g, of a way of %.2f and room for %.2f", str,
									fret, half, f.Need, f.Have, x.Way, room)
							}
						}
					}
					if is != lost {
						t.Errorf("%d:%d bent by %g %s: off the edge %v, with a way of %.2f mm and room for %.2f", str,
							fret, half, push, is, x.Way, room)
					}
					if is {
						found++
					}
				}
			}
		}
	}
	if found == 0 || spare == 0 {
		t.Errorf("%d bends are lost, %d of them by the last millimetre", found, spare)
	}
}

// A fix of a remark may cost three parts of the ceiling in a hundred and no more; one of a break
// must end it.
func TestWhatAFixMayCost(t *testing.T) {
	md := &mender{Engine: usual, report: &Report{Ceiling: 100}, line: &Line{}}
	remark := Finding{Code: Crowded, Severity: Flows, Notes: []int{1, 2}}
	for ceiling, want := range map[Ceiling]bool{100: true, 98: true, 97: true, 96.9: false, 90: false} {
		if got := md.helps(&Report{}, ceiling, window{}, remark); got != want {
			t.Errorf("a remark's fix that leaves %g of 100: %v", float64(ceiling), got)
		}
	}
	still := &Report{Findings: []Finding{remark}}
	if md.helps(still, 100, window{}, remark) {
		t.Error("a fix helps that leaves the remark where it was")
	}
	broken := Finding{Code: FingerJump, Severity: Breaks, Notes: []int{1, 2}}
	elsewhere := Finding{Code: Shift, Severity: Breaks, Notes: []int{7, 8}}
	if md.helps(&Report{Findings: []Finding{elsewhere}}, 90, window{breaks: 1}, broken) {
		t.Error("a fix helps that breaks another place instead")
	}
	if !md.helps(&Report{}, 90, window{breaks: 1}, broken) || md.helps(&Report{Findings: []Finding{broken}}, 90,
		window{breaks: 1}, broken) {
		t.Error("a break's fix is one that ends it")
	}
}

// After a held note or a rest the strokes begin again on a downstroke where that is on a beat; else
// they go on in turn (common practice).
func TestStrokesBeginAgain(t *testing.T) {
	for line, want := range map[string]string{
		"3:5*1/8 7*1/8 5*1/8 7*1/8 2:5*1/2 8*1/8 5*1/8": "D U D U D D U", // held over beats 3 and 4
		"3:5*1/8 7*1/8 5*1/8 2:5*5/8 8*1/8 5*1/8":       "D U D U D U",   // the same, by the turn anyway
		"3:5*1/4 7*3/4 2:8*1/8 5*1/8":                   "D U D U",       // on beat 1, as it would be
		"3:5*1/4 7*1/4 5*1/2 2:8*1/8 5*1/8":             "D U D D U",     // held to the next bar
		"3:5*1/4 7*1/4 5*1/4 2:8*1/8 5*1/8":             "D U D U D",     // a quarter is not held
		"3:5*1/8 7*1/8 5*9/16 2:8*1/16 5*1/8":           "D U D U D",     // held, but not to a beat
	} {
		r := check(usual, testline.Build(t, 90, line))
		var got []string
		for _, n := range r.Lick.Notes {
			got = append(got, map[lick.Stroke]string{lick.Down: "D", lick.Up: "U"}[n.Stroke])
		}
		if strings.Join(got, " ") != want {
			t.Errorf("%s is picked %s, want %s", line, strings.Join(got, " "), want)
		}
	}
}

// A jump is worth a word from six tenths of the time there is, long before it is tight; fingertips
// crowd where a fret is narrower than they are, and not a little before; a tone outside leads by a
// half step, not by a whole one; a bend is the index's where nothing else is left, and no other
// finger's work is given to it.
func TestWhereRulesBegin(t *testing.T) {
	has := func(l lick.Lick, code lick.Code) bool {
		for _, f := range check(usual, l).Findings {
			if f.Code == code {
				return true
			}
		}
		return false
	}
	jump := "2:9/f1 1:12/f1"
	ceiling := float64(check(usual, testline.Build(t, 60, jump)).Ceiling)
	for part, want := range map[float64]bool{0.5: false, 0.65: true, 0.75: true} {
		if got := has(testline.Build(t, part*ceiling, jump), FingerJump); got != want {
			t.Errorf("a jump at a load of %g is told: %v", part, got)
		}
	}
	g := neck.Standard()
	for fret := 1; fret <= g.Frets; fret++ {
		l := testline.Build(t, 60, "1:1*1/4")
		l.Notes[0].Fret = fret
		if want := g.Cell(fret) < 14; has(l, Crowded) != want { // mm, a fingertip
			t.Errorf("a cell of %.1f mm at fret %d crowds: %v", g.Cell(fret), fret, !want)
		}
	}
	for line, outside := range map[string]bool{
		"1:4*1/4 5*1/4": false, "1:6*1/4 5*1/4": false, // A♭ and B♭ into A
		"1:6*1/4 8*1/4": true, "1:1*1/4 3*1/4": true, // a whole step away
	} {
		l := testline.InKey(testline.Build(t, 60, line), "A", "minor pentatonic")
		if got := has(l, NoteOutside); got != outside {
			t.Errorf("%s has a tone outside: %v", line, got)
		}
	}
	for _, fret := range []int{7, 9, 12} {
		l := testline.Build(t, 60, "3:7/b2*1/4")
		l.Notes[0].Fret = fret
		if r := check(usual, l); r.Lick.Notes[0].Finger != lick.Ring {
			t.Errorf("a lone full bend at fret %d is given finger %v", fret, r.Lick.Notes[0].Finger)
		}
	}
}

// A fix may take other fingers beside the notes that it is about: those that the player left open
// up to three columns around it are found again, and it says so.
func TestFixesFindFingersAround(t *testing.T) {
	around, farthest := 0, 0
	for seed := range uint64(4) {
		rng := rand.New(rand.NewPCG(seed, 19))
		l := lick.New()
		for i := range 96 {
			l.Notes = append(l.Notes, lick.Note{At: lick.NewTime(int64(i), 16), Len: lick.NewTime(1, 16),
				String: 1 + rng.IntN(6), Fret: 1 + rng.IntN(15)})
		}
		r := check(usual, l)
		mend(usual, l, r)
		for _, f := range r.Findings {
			for _, fix := range f.Fixes {
				mended, err := fix.Edit.Apply(l)
				if err != nil || len(mended.Notes) != len(r.Lick.Notes) {
					continue
				}
				low, high := slices.Min(f.Notes)-1, slices.Max(f.Notes)-1
				for i, n := range mended.Notes {
					if n.Finger != r.Lick.Notes[i].Finger && (i < low || i > high) {
						around++
						farthest = max(farthest, low-i, i-high)
					}
				}
			}
		}
	}
	if around == 0 || farthest > 3 {
		t.Errorf("%d fingers around the notes of fixes are found again, the farthest %d notes away", around, farthest)
	}
}
