package judge

import (
	"context"
	"fmt"
	"hash/fnv"
	"strconv"

	"ornamen/core/lick"
	"ornamen/core/pick"
)

// Take is the edit that gives a lick exactly the hands a fix or a proposal showed: the small edit where the open hands
// come out the same by themselves, so that they follow every later edit, else all of them written down.
func (e *Engine) Take(ctx context.Context, l lick.Lick, shown lick.Replace, small lick.Edit) (lick.Edit, error) {
	if small == nil {
		return shown, nil
	}
	after, err := small.Apply(l)
	if err != nil {
		return shown, nil
	}
	filled := e.Fill(ctx, after, e.Hand(e.Guitar(after)), e.Player.Way)
	if err := Done(ctx); err != nil {
		return nil, err
	}
	if HandsID(filled) == HandsID(shown.Lick) {
		return small, nil
	}
	return shown, nil
}

// HandsID names what both hands do in a line, whoever set it: licks with the same notes and hands share it.
func HandsID(l lick.Lick) string {
	h := fnv.New64a()
	h.Write([]byte(HandsKey(l)))
	return strconv.FormatUint(h.Sum64(), 36)
}

// HandsKey is what both hands do, whoever set it.
func HandsKey(l lick.Lick) string {
	b := make([]byte, 0, 32*len(l.Notes))
	for _, n := range l.Notes {
		b = append(b, n.At.String()...)
		b = append(b, ' ')
		b = append(b, n.Len.String()...)
		b = append(b, byte(n.String), byte(n.Fret), byte(n.Finger))
		b = append(b, n.Stroke...)
		b = append(b, ' ')
		b = append(b, n.Slur...)
		for k, on := range []bool{n.Barre, n.Rake, n.Mute, n.Vibrato != nil} {
			if on {
				b = append(b, "=r~v"[k])
			}
		}
		if n.Bend != nil {
			b = fmt.Appendf(b, "%v", *n.Bend)
		}
		b = append(b, ';')
	}
	return string(b)
}

// FillStrokes writes a path's strokes into the notes that have none.
func FillStrokes(l *lick.Lick, ln *Line, path pick.Path) {
	for p, notes := range ln.strokes {
		for k, i := range notes {
			if l.Notes[i].Stroke == "" {
				l.Notes[i].Stroke = path.Steps[p].Strokes[k]
			}
		}
	}
}
