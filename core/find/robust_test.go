package find_test

import (
	"errors"
	"math/rand/v2"
	"testing"

	"ornamen/core/find"
	"ornamen/core/judge"
	"ornamen/core/lick"
	"ornamen/core/music"
	"ornamen/core/neck"
	"ornamen/core/pick"
	"ornamen/core/player"
	"ornamen/core/propose"
	"ornamen/core/testline"
	"ornamen/core/turn"
)

// wildLick is anything that the format allows: other tunings, chords, held notes,
// bends, bars, thumbs, rakes, voices, loops, frets beyond the neck.
func wildLick(rng *rand.Rand) lick.Lick {
	l := lick.New()
	tunings := [][]music.Pitch{neck.StandardTuning(), append(neck.StandardTuning(), 35), {67, 62, 57, 50},
		{64, 59, 55, 50, 45, 40, 35, 30, 25}}
	l.Tuning = tunings[rng.IntN(len(tunings))]
	l.Tempo, l.Loop = float64(10+rng.IntN(391)), rng.IntN(3) == 0
	if rng.IntN(2) == 0 {
		l.Feel = lick.Shuffle
	}
	if rng.IntN(3) > 0 {
		l.Key = lick.Key{Tonic: "A", Scale: "minor pentatonic"}
	}
	var at lick.Time
	for range rng.IntN(12) {
		length := lick.NewTime(int64(1+rng.IntN(4)), []int64{4, 8, 12, 16, 20, 28}[rng.IntN(6)])
		used := map[int]bool{}
		for range 1 + rng.IntN(4)/2 {
			n := lick.Note{At: at, Len: length, String: 1 + rng.IntN(len(l.Tuning)), Fret: rng.IntN(25)}
			if used[n.String] {
				continue
			}
			used[n.String] = true
			if rng.IntN(12) == 0 {
				n.Fret = 30 + rng.IntN(7)
			}
			if rng.IntN(4) == 0 {
				n.Len = n.Len.Times(2)
			}
			n.Finger = lick.Finger(rng.IntN(7))
			n.Stroke = []lick.Stroke{"", "", lick.Down, lick.Up, lick.PThumb, lick.PIndex}[rng.IntN(6)]
			n.Slur = []lick.Slur{"", "", lick.Hammer, lick.Pull, lick.Slide, lick.Shift}[rng.IntN(6)]
			if rng.IntN(4) == 0 {
				n.Bend = &lick.Bend{Semitones: []float64{0.5, 1, 2, 3, 4}[rng.IntN(5)],
					Shape: lick.BendShapes()[rng.IntN(4)]}
				if rng.IntN(3) == 0 {
					n.Bend.With = []lick.Finger{lick.Index}
				}
			}
			if rng.IntN(6) == 0 {
				n.Vibrato = &lick.Vibrato{Width: lick.Wide, Speed: lick.Fast}
			}
			if rng.IntN(8) == 0 {
				n.SlideIn = &lick.SlideIn{Frets: 1 + rng.IntN(3),
					From: []lick.From{lick.FromBelow, lick.FromAbove}[rng.IntN(2)]}
			}
			n.Mute, n.Rake, n.Barre, n.Accent = rng.IntN(9) == 0, rng.IntN(9) == 0, rng.IntN(5) == 0, rng.IntN(5) == 0
			for _, f := range []lick.Field{lick.FieldFinger, lick.FieldStroke, lick.FieldString, lick.FieldSlur} {
				if rng.IntN(4) == 0 {
					n.Lock = append(n.Lock, f)
				}
			}
			l.Notes = append(l.Notes, n)
		}
		at = at.Add(length)
		if rng.IntN(6) == 0 {
			at = at.Add(length)
		}
	}
	l.Sort()
	return l
}

// Nothing that the format allows makes any part panic or give an invalid lick.
func TestNothingPanics(t *testing.T) {
	small := player.Default()
	small.Guitar.Frets = 12
	engines := []*judge.Engine{judge.NewEngine(player.Default()), judge.NewEngine(small)}
	rng := rand.New(rand.NewPCG(77, 1))
	valid := 0
	for range testline.Nightly(600) {
		l := wildLick(rng)
		if l.Validate() != nil {
			continue
		}
		valid++
		e := engines[rng.IntN(len(engines))]
		check := func(what string, got lick.Lick) {
			if err := got.Validate(); err != nil {
				t.Fatalf("%s gives an invalid lick: %v\n%s", what, err, l.Encode())
			}
		}
		ctx := t.Context()
		r, err := e.Check(ctx, l)
		if err != nil {
			t.Fatal(err)
		}
		check("check", r.Lick)
		if err := e.Mend(ctx, l, r); err != nil {
			t.Fatal(err)
		}
		for _, f := range r.Findings {
			for _, x := range f.Fixes {
				check("fix "+x.Text, x.Edit.Lick)
			}
		}
		ask := propose.Request{
			Best:  4,
			Place: rng.IntN(2) == 0,
			Way:   []pick.Way{"", pick.Economy, pick.Legato}[rng.IntN(3)],
		}
		list, err := propose.Hands(ctx, e, l, ask)
		if err != nil && !errors.Is(err, propose.ErrTooFree) {
			t.Fatal(err)
		}
		for _, p := range list {
			check("propose", p.Lick)
		}
		ways, err := propose.Ways(ctx, e, l)
		if err != nil {
			t.Fatal(err)
		}
		for _, w := range ways {
			check(w.Name, w.Lick)
		}
		if s, err := propose.Restring(ctx, e, l, pick.Economy); err == nil {
			check("restring", s.After.Lick)
		}
		for _, how := range []string{"backwards", "mirror", "rotate:2", "octave", "-octave"} {
			if turned, err := turn.Turn(e.Player.Guitar, l, how, 0, 0); err == nil {
				check(how, turned)
			}
		}
		for i := range l.Notes {
			for _, b := range append(turn.OtherBends(e.Player.Guitar, l, i), turn.OtherTails(e.Player.Guitar, l,
				i)...) {
				check(b.What, b.Lick)
			}
		}
		if _, _, err := find.Find(ctx, e.Player.Guitar, l); err != nil {
			t.Fatal(err)
		}
	}
	if valid < 90 {
		t.Errorf("only %d lines were valid", valid)
	}
}
