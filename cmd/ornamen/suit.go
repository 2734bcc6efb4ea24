package main

import (
	"context"
	"fmt"

	"ornamen/core/judge"
	"ornamen/core/suit"
)

// suitCommand says what would let the player play a lick as it is not: hands of their own, other places, other keys,
// the best of each with its ceiling. As JSON: a list of ways, each with kind, why and report.
func suitCommand(ctx context.Context, e env, args []string) error {
	fs := newFlags()
	o := optionsOf(e, fs, true)
	asJSON := fs.Bool("json", false, "prints JSON")
	p, l, err := o.lickOf(ctx, args, "the lick file to make fit")
	if err != nil {
		return err
	}
	engine := judge.NewEngine(p)
	before, err := engine.Check(ctx, l)
	if err != nil {
		return err
	}
	ways, err := suit.Ways(ctx, engine, l, before)
	if err != nil {
		return err
	}
	if *asJSON {
		return printJSON(e, ways)
	}
	if len(ways) == 0 {
		fmt.Fprintln(e.out, "Nothing lies better than the line as it is.")
	}
	for i, x := range ways {
		title := map[suit.Kind]string{suit.Hands: "other hands", suit.Place: "other strings", suit.Key: "in " +
			x.Tonic.Pretty()}[x.Kind]
		fmt.Fprintf(e.out, "%d. %s, %s: %s\n", i+1, title, x.Report.Verdict, x.Why)
		if c := x.Report.Ceiling; c > 0 {
			fmt.Fprintf(e.out, "   clean up to %d\n", c.Whole())
		}
		printHands(e, x.Report.Lick)
	}
	return nil
}
