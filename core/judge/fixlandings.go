package judge

import (
	"context"
	"fmt"
	"slices"

	"ornamen/core/changes"
	"ornamen/core/lick"
)

// Limits of the ways that are tried to mend landings (model defaults): of how many landings, and
// how many notes all of the changed lines have together.
const (
	mendedLandings = 4
	landingNotes   = 1500
)

// landings tries what brings a phrase to its change: each changed line is judged by both hands, and offered with its
// ceiling unless it breaks where the line did not. It says how many ways were left out.
func (md *mender) landings(ctx context.Context, r *Report) (untried int) {
	read := changes.Read(md.lick)
	tried, room := 0, landingNotes
	for i := range r.Findings {
		f := &r.Findings[i]
		if f.Meant || f.Code != LandingEarly && f.Code != LandingLate && f.Code != ChordMissed {
			continue
		}
		k := slices.IndexFunc(read.Landings, func(x changes.Landing) bool { return isOf(x, read, *f) })
		if k < 0 {
			continue
		}
		if tried++; tried > mendedLandings {
			return untried
		}
		for n, fix := range changes.Mend(md.line.Guitar, md.lick, read, read.Landings[k]) {
			if room -= len(fix.Lick.Notes); room < 0 {
				room += len(fix.Lick.Notes)
				untried++
				continue
			}
			if ctx.Err() != nil {
				return untried
			}
			id := fmt.Sprintf("landing-%d-%d", k, n)
			got, ok := md.whole(ctx, r, id, fix.Text, lick.Replace{Lick: md.handsKept(fix.Lick), Why: fix.Text})
			if !ok {
				continue
			}
			got.small = lick.Replace{Lick: fix.Lick, Why: fix.Text}
			f.Fixes = append(f.Fixes, got)
		}
	}
	return untried
}

// handsKept is a line made of the report's with the hands that were found for the notes that are still where they were,
// but for those next to a change: what is far from it need not be found again.
func (md *mender) handsKept(l lick.Lick) lick.Lick {
	type spot struct {
		at        lick.Time
		str, fret int
	}
	was := map[spot]lick.Note{}
	for _, n := range md.report.Lick.Notes {
		was[spot{n.At, n.String, n.Fret}] = n
	}
	out := l.Clone()
	far := len(out.Notes) // notes since the last change
	for i := range out.Notes {
		n := &out.Notes[i]
		m, same := was[spot{n.At, n.String, n.Fret}]
		if far++; !same {
			far = 0
			for k := max(0, i-mendWindow); k < i; k++ {
				out.Notes[k].Finger, out.Notes[k].Stroke = l.Notes[k].Finger, l.Notes[k].Stroke
			}
		}
		if far > mendWindow && n.Finger == lick.NoFinger && n.Slur == m.Slur {
			n.Finger, n.Stroke = m.Finger, m.Stroke
		}
	}
	return out
}

// isOf says whether a finding is about a landing.
func isOf(x changes.Landing, r changes.Report, f Finding) bool {
	word := map[lick.Code]changes.Word{LandingEarly: changes.Early, LandingLate: changes.Late,
		ChordMissed: changes.Missed}[f.Code]
	if x.Word != word {
		return false
	}
	if len(x.Notes) > 0 {
		return x.Notes[0]+1 == f.Notes[0]
	}
	first := slices.IndexFunc(r.Notes, func(n changes.Note) bool { return n.Chord == x.Chord })
	return first >= 0 && first+1 == f.Notes[0]
}
