package main

import (
	"context"
	"fmt"

	"ornamen/core/judge"
	"ornamen/core/shape"
	"ornamen/core/turn"
)

// recolour moves a lick to other tones and writes what became of each note, degree and place
// before and after, or with --json the new lick file. Verdict and ceiling stand above for both.
func recolour(ctx context.Context, e env, args []string) error {
	fs := newFlags()
	to := fs.String("to", "", "`KEY` the other tones, as in \"C# dorian\"; must be given")
	move := fs.String("move", string(shape.NearestPlace), "`nearest|same|octave` where a tone goes that is not there")
	asJSON := fs.Bool("json", false, "prints JSON")
	o := optionsOf(e, fs, true)
	player, l, err := o.lickOf(ctx, args, "the lick file to recolour")
	if err != nil {
		return err
	}
	if *to == "" {
		return fmt.Errorf(`name the new tones, as in --to "C# dorian"`)
	}
	p, err := shape.ToKey(l, *to)
	if err != nil {
		return err
	}
	manner, err := shape.ParseManner(*move)
	if err != nil {
		return err
	}
	r, err := turn.Recolour(l, player.Guitar.WithTuning(l.Tuning), p, manner)
	if err != nil {
		return err
	}
	if *asJSON {
		return printLick(e, r.Lick)
	}
	engine := judge.NewEngine(player)
	before, err := engine.Check(ctx, l)
	if err != nil {
		return err
	}
	after, err := engine.Check(ctx, r.Lick)
	if err != nil {
		return err
	}
	fmt.Fprintf(e.out, "%s: %s, %s\n", p.Pretty(), after.Verdict, after.Ceiling)
	fmt.Fprintf(e.out, "before: %s, %s\n", before.Verdict, before.Ceiling)
	fmt.Fprintln(e.out, "note before       after")
	for _, c := range r.Changes {
		mark := ""
		if c.Changed {
			mark = "  changed"
		}
		fmt.Fprintf(e.out, "%-4d %-4s %-6s → %-4s %s%s\n", c.Note, c.Before, c.From.Notation(), c.After,
			c.To.Notation(), mark)
	}
	return nil
}
