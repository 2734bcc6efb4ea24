package main

import (
	"context"
	"fmt"
	"os"

	"ornamen/core/judge"
	"ornamen/format/tab"
	"ornamen/internal/handover"
)

// listen writes a recording of a played line down as a lick: remarks and tablature, or with --json the lick file
// alone, its remarks on standard error.
func listen(ctx context.Context, e env, args []string) error {
	fs := newFlags()
	tempo := fs.Float64("tempo", 0, "`N` quarters a minute at which it was played; found if left out")
	key := fs.String("key", "", "`KEY` root and scale; guessed from the notes if left out")
	o := optionsOf(e, fs, false)
	asJSON := fs.Bool("json", false, "prints the lick file")
	rest, err := parse(fs, args, 1, "the recording to write down")
	if err != nil {
		return err
	}
	p, err := o.player()
	if err != nil {
		return err
	}
	data, err := os.ReadFile(rest[0])
	if err != nil {
		return unreadable(rest[0], err)
	}
	engine := judge.NewEngine(p)
	r, err := handover.Listen(ctx, engine, data, *tempo, *key)
	if err != nil {
		return fmt.Errorf("%s: %w", rest[0], err)
	}
	if *asJSON {
		for _, s := range r.Remarks {
			fmt.Fprintf(e.err, "%s: %s\n", rest[0], s)
		}
		return printLick(e, r.Lick)
	}
	for _, s := range r.Remarks {
		fmt.Fprintln(e.out, s)
	}
	rep, err := engine.Check(ctx, r.Lick)
	if err != nil {
		return err
	}
	_, err = e.out.Write(tab.Encode(rep.Lick))
	return err
}
