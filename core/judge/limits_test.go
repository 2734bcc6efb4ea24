package judge

import (
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
								t.Errorf("%d:%d by %g: needs %g and has %g, of a way of %.2f and room for %.2f", str, fret, half,
									f.Need, f.Have, x.Way, room)
							}
						}
					}
					if is != lost {
						t.Errorf("%d:%d bent by %g %s: off the edge %v, with a way of %.2f mm and room for %.2f", str, fret, half,
							push, is, x.Way, room)
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
	md := &mender{Task: Task{usual, t.Context()}, report: &Report{Ceiling: 100}, line: &Line{}}
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
	if !md.helps(&Report{}, 90, window{breaks: 1}, broken) || md.helps(&Report{Findings: []Finding{broken}}, 90,
		window{breaks: 1}, broken) {
		t.Error("a break's fix is one that ends it")
	}
}
