package propose

import (
	"context"
	"strings"
	"testing"

	"ornamen/core/judge"
	"ornamen/core/lick"
	"ornamen/core/player"
)

// A fretted bass that the hand cannot hold under the line is named, with the string that the
// line can move to; a line that it can hold, or without a bass, needs no word.
func TestBusy(t *testing.T) {
	e := judge.NewEngine(player.Default())
	note := func(at int64, str, fret int, bass bool) lick.Note {
		n := lick.Note{At: lick.NewTime(at, 4), Len: lick.NewTime(1, 4), String: str, Fret: fret, Stroke: lick.PIndex}
		if bass {
			n.Stroke, n.Voice = lick.PThumb, lick.VoiceBass
		}
		return n
	}
	l := lick.New()
	l.Tempo = 80
	// G in the bass at the third fret; B at the seventh of the thin string can be had nearer.
	l.Notes = []lick.Note{note(0, 6, 3, true), note(0, 2, 10, false), note(1, 6, 3, true), note(1, 1, 3, false)}
	l.Sort()
	said, err := Busy(context.Background(), e, l)
	if err != nil || !strings.Contains(said, "The index holds the bass on beat 1 in bar 1") ||
		!strings.Contains(said, "can move to string 1") {
		t.Errorf("%v %q", err, said)
	}
	easy := l.Clone()
	easy.Notes[1].Fret = 3
	if said, err := Busy(context.Background(), e, easy); err != nil || said != "" {
		t.Errorf("%v %q", err, said)
	}
	alone := lick.New()
	alone.Notes = []lick.Note{note(0, 1, 3, false)}
	if said, err := Busy(context.Background(), e, alone); err != nil || said != "" {
		t.Errorf("%v %q", err, said)
	}
}
