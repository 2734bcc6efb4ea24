package main

import (
	"context"
	"errors"
	"fmt"

	"ornamen/core/judge"
	"ornamen/core/lick"
	"ornamen/core/neck"
	"ornamen/core/propose"
	"ornamen/core/run"
	"ornamen/core/say"
	"ornamen/core/turn"
)

// join lets one line follow another and says what the seam asks: how many notes, from which on they are the second
// line's, the move over the seam with its need, and the hands. As JSON: the lick file with the recipes of both parts.
func join(ctx context.Context, e env, args []string) error {
	fs := newFlags()
	o := optionsOf(e, fs, false)
	at := fs.Int("at", 0, "`NOTE` goes on in place of this note; after the last one")
	recipe := fs.String("run", "", "`RECIPE` goes on with a run")
	cell := fs.String("cell", "", "`CELL` goes on with a cell of its own tones")
	on := fs.String("on-beat", "", "`held|rest` begins on the next beat, the last note held or after a rest; else at once")
	asJSON := fs.Bool("json", false, "prints JSON")
	rest, err := parse(fs, args, -1, "the lick file to go on from, and what to go on with")
	if err != nil {
		return err
	}
	player, a, err := o.playerAnd(ctx, rest[0])
	if err != nil {
		return err
	}
	b, err := second(ctx, o, player.Guitar, a, rest[1:], *recipe, *cell, *at)
	if err != nil {
		return err
	}
	when, err := turn.ParseSeam(*on)
	if err != nil {
		return err
	}
	joined, err := turn.Join(a, b, *at, when)
	if err != nil {
		return err
	}
	engine := judge.NewEngine(player)
	proposals, err := propose.Hands(ctx, engine, joined, propose.Request{})
	if err != nil {
		return err
	}
	l := proposals[0].Lick
	if *asJSON {
		return printLick(e, l)
	}
	seam := len(joined.Notes) - len(b.Notes)
	fmt.Fprintf(e.out, "%d notes, the second line from note %d on: %s\n", len(l.Notes), seam+1, proposals[0].Ceiling)
	if left := len(a.Notes) - seam; left > 0 {
		fmt.Fprintf(e.out, "%s of the first line left out\n", say.Count(left, "note"))
	}
	if seam > 0 && seam < len(l.Notes) {
		if w := proposals[0].Report.Notes[seam].Worst(); w.Need > 0 {
			fmt.Fprintf(e.out, "the seam, %d → %d: needs %.0f ms, has %.0f\n", seam, seam+1, w.Need, w.Have)
		}
	}
	printHands(e, l)
	return nil
}

// second is what the line goes on with: another file, a run, or a cell of its own tones. One of them is named. at is
// where a cell goes on, which must be known before it is grown.
func second(
	ctx context.Context, o options, g neck.Guitar, a lick.Lick, files []string, recipe, cell string, at int,
) (lick.Lick, error) {
	switch {
	case len(files) == 1 && recipe == "" && cell == "":
		_, b, err := o.playerAnd(ctx, files[0])
		return b, err
	case len(files) == 0 && recipe != "" && cell == "":
		r, err := run.Parse(recipe)
		if err != nil {
			return a, err
		}
		grown, err := run.Grow(r, g.WithTuning(a.Tuning))
		if err != nil {
			return a, err
		}
		return grown.Lick, nil
	case len(files) == 0 && cell != "" && recipe == "":
		before := at - 2 // the note that stays, from 0
		if at == 0 {
			before = len(a.Notes) - 1
		}
		return turn.CellAfter(g, a, cell, before)
	}
	return a, errors.New("name one thing to go on with: a second lick file, --run RECIPE or --cell CELL")
}
