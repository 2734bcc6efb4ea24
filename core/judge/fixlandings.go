package judge

import (
	"slices"
	"strconv"

	"ornamen/core/changes"
	"ornamen/core/lick"
)

// mendedLandings is for how many landings ways to mend them are tried.
const mendedLandings = 4

// landings tries what brings a phrase to its change: each changed line is judged by both hands,
// and offered with its ceiling unless it breaks where the line did not.
func (md *mender) landings(r *Report) {
	read := changes.Read(md.lick)
	tried := 0
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
			return
		}
		for n, fix := range changes.Mend(md.line.Guitar, md.lick, read, read.Landings[k]) {
			if md.Ctx.Err() != nil {
				return
			}
			got, err := md.Check(md.Ctx, fix.Lick)
			if err != nil || got.Verdict > r.Verdict {
				continue
			}
			f.Fixes = append(f.Fixes, Fix{
				ID: "landing-" + strconv.Itoa(k) + "-" + strconv.Itoa(n), Text: fix.Text, Ceiling: got.Ceiling,
				Edit: lick.Replace{Lick: got.Lick, Why: fix.Text}, small: lick.Replace{Lick: fix.Lick, Why: fix.Text},
			})
		}
	}
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
