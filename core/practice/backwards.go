package practice

import (
	"context"

	"ornamen/core/judge"
	"ornamen/core/lick"
	"ornamen/core/neck"
	"ornamen/core/turn"
)

// harder is how much lower the ceiling on the way back must be for it to pay.
const harder = 0.97

// PartsBothWays are Parts, and after each part the same one backwards where that pays: where the way back is harder
// than the way there, so that going there comes easily afterwards (common practice). Only lines that are picked note by
// note are turned: a slur, a bend or a chord backwards is another line.
func PartsBothWays(ctx context.Context, e *judge.Engine, l lick.Lick, r *judge.Report) ([]Part, error) {
	var out []Part
	parts := Parts(l, r, e.Player)
	for i, p := range parts {
		back, ok, err := backwards(ctx, e, l, p)
		if err != nil {
			return nil, err
		}
		if i == len(parts)-1 && ok {
			return append(out, back, p), nil // the whole stays the last
		}
		if out = append(out, p); ok {
			out = append(out, back)
		}
	}
	return out, nil
}

// backwards is a part the other way round, if that pays.
func backwards(ctx context.Context, e *judge.Engine, l lick.Lick, p Part) (back Part, ok bool, err error) {
	if p.Picking == 0 || p.Fretting == 0 || !turnable(l.Notes[p.From-1:p.To]) {
		return back, false, nil
	}
	back = p
	back.Backwards, back.Why = true, "harder back than forth"
	if back.Name += ", backwards"; p.Name == "" {
		back.Name = "backwards"
	}
	line := Line(e.Player.Guitar, l, back)
	r, err := e.Check(ctx, line)
	if err != nil {
		return back, false, err
	}
	turned := partOf(line, r, e.Player, 1, len(line.Notes), "", "")
	back.Ceiling, back.Picking, back.Fretting = turned.Ceiling, turned.Picking, turned.Fretting
	back.Reach, back.Heavy = turned.Reach, turned.Heavy
	return back, back.Ceiling > 0 && back.Ceiling < harder*p.Ceiling, nil
}

// turnable says whether notes are single and picked.
func turnable(notes []lick.Note) bool {
	for i, n := range notes {
		if n.Slur != "" || n.Bend != nil || n.Vibrato != nil || n.SlideIn != nil || n.Rake ||
			n.Voice == lick.VoiceBass {
			return false
		}
		if i > 0 && n.At.Cmp(notes[i-1].At) == 0 {
			return false
		}
	}
	return true
}

// Line is a part as a line of its own that begins at once, turned where the part goes backwards; its fingers and
// strokes are those of the lick, or open where it is turned. The part must be one of the lick's.
func Line(g neck.Guitar, l lick.Lick, p Part) lick.Lick {
	out := l.Clone()
	out.Notes, out.Parts, out.Recipe, out.Chords, out.Keys = out.Notes[p.From-1:p.To], nil, "", nil, nil
	out.Loop, out.Pickup = false, lick.Time{}
	start := out.Notes[0].At
	for i := range out.Notes {
		out.Notes[i].At = out.Notes[i].At.Sub(start)
	}
	if p.Backwards {
		if turned, err := turn.Turn(g, out, "backwards", 0, 0); err == nil {
			return turned
		}
	}
	return out
}
