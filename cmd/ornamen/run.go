package main

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"strings"

	"ornamen/core/find"
	"ornamen/core/judge"
	"ornamen/core/lick"
	"ornamen/core/pick"
	"ornamen/core/propose"
	"ornamen/core/run"
	"ornamen/core/turn"
	"ornamen/format"
)

func printJSON(e env, v any) error {
	enc := json.NewEncoder(e.out)
	enc.SetEscapeHTML(false)
	return enc.Encode(v)
}

func runCommand(ctx context.Context, e env, args []string) error {
	fs := newFlags()
	var r run.Recipe
	r.Bind(fs)
	o := optionsOf(fs, false)
	asJSON, asTab := fs.Bool("json", false, ""), fs.Bool("tab", false, "")
	if _, err := parse(fs, args, 0, ""); err != nil {
		return err
	}
	if *asJSON && *asTab {
		return errors.New("--json and --tab are two ways to print; name one")
	}
	player, err := o.player()
	if err != nil {
		return err
	}
	grown, err := run.Grow(r, player.Guitar)
	if err != nil {
		return err
	}
	filled, err := propose.Hands(ctx, judge.NewEngine(player), grown.Lick, propose.Ask{Way: grown.Way})
	if err != nil {
		return err
	}
	l := grown.Lick
	if len(filled) > 0 {
		l = filled[0].Lick
	}
	switch {
	case *asJSON:
		_, err = e.out.Write(l.Encode())
	case *asTab:
		_, err = e.out.Write(format.EncodeTab(l))
	default:
		fmt.Fprintln(e.out, r.Short(grown))
		rhythm := grown.RhythmOf()
		fmt.Fprintf(e.out, "%d notes, %s", rhythm.Notes, plural(rhythm.Bars, "bar"))
		if rhythm.MeetCells > 1 {
			fmt.Fprintf(e.out, "; cells meet the beat again after %s and %s", plural(rhythm.MeetCells, "cell"),
				plural(rhythm.MeetBeats, "beat"))
		}
		if rhythm.PickupFrom != "" {
			fmt.Fprintf(e.out, "; starts on %s", rhythm.PickupFrom)
		}
		fmt.Fprintln(e.out)
		if len(filled) > 0 && filled[0].Ceiling > 0 {
			fmt.Fprintf(e.out, "clean up to %d\n", filled[0].Ceiling.Whole())
		}
		_, err = e.out.Write(format.EncodeTab(l))
	}
	return err
}

func plural(n int, word string) string {
	if n == 1 {
		return "1 " + word
	}
	return fmt.Sprintf("%d %ss", n, word)
}

func ways(ctx context.Context, e env, args []string) error {
	fs := newFlags()
	o := optionsOf(fs, true)
	asJSON := fs.Bool("json", false, "")
	rest, err := parse(fs, args, 1, "the lick file to pick in several ways")
	if err != nil {
		return err
	}
	player, l, err := o.playerAnd(rest[0])
	if err != nil {
		return err
	}
	list, err := waysOf(ctx, judge.NewEngine(player), l)
	if err != nil {
		return err
	}
	if *asJSON {
		return printJSON(e, list)
	}
	for _, w := range list {
		upto := "at any tempo"
		switch {
		case w.Ceiling > 0:
			upto = fmt.Sprintf("clean up to %d", w.Ceiling.Whole())
		case w.Report.Verdict == judge.Breaks:
			upto = "at no tempo"
		}
		fmt.Fprintf(e.out, "%-38s %-16s %s", w.Name, upto, w.Why)
		if w.Held != "" {
			fmt.Fprintf(e.out, " Held back by %s.", w.Held)
		}
		fmt.Fprintln(e.out)
	}
	return nil
}

// waysOf lists the ways to play a line; for a run, with its repeats evened too.
func waysOf(ctx context.Context, e *judge.Engine, l lick.Lick) ([]propose.WayToPlay, error) {
	list, err := propose.Ways(ctx, e, l)
	if err != nil || l.Recipe == "" {
		return list, err
	}
	r, err := run.Parse(l.Recipe)
	if err != nil {
		return list, nil // written by a later version, say
	}
	w, ok, err := run.Evened(ctx, e, l, r, e.Player.Guitar.WithTuning(l.Tuning))
	if ok {
		list = append(list, w)
	}
	return list, err
}

func restring(ctx context.Context, e env, args []string) error {
	fs := newFlags()
	o := optionsOf(fs, true)
	way := fs.String("pick", string(pick.Alternate), "")
	asJSON := fs.Bool("json", false, "")
	rest, err := parse(fs, args, 1, "the lick file to restring")
	if err != nil {
		return err
	}
	w, err := pick.ParseWay(*way)
	if err != nil {
		return err
	}
	player, l, err := o.playerAnd(rest[0])
	if err != nil {
		return err
	}
	r, err := propose.Restring(ctx, judge.NewEngine(player), l, w)
	if err != nil {
		return err
	}
	if *asJSON {
		_, err := e.out.Write(r.After.Lick.Encode())
		return err
	}
	fmt.Fprintf(e.out, "%s: %s not clean, %s\n", w, plural(r.Clean[0], "change"), r.Before.Ceiling)
	if r.Clean[1] == r.Clean[0] {
		fmt.Fprintln(e.out, "no other strings make it cleaner")
		return nil
	}
	fmt.Fprintf(e.out, "restrung: %s not clean, %s\n", plural(r.Clean[1], "change"), r.After.Ceiling)
	fmt.Fprintln(e.out, r.After.Why)
	printHands(e, r.After.Lick)
	for _, o := range r.Others {
		fmt.Fprintf(e.out, "or, %s: %s\n", o.Ceiling, o.Why)
		printHands(e, o.Lick)
	}
	return nil
}

func recipe(ctx context.Context, e env, args []string) error {
	fs := newFlags()
	o := optionsOf(fs, true)
	asJSON := fs.Bool("json", false, "")
	rest, err := parse(fs, args, 1, "the lick file whose recipe is asked for")
	if err != nil {
		return err
	}
	player, l, err := o.playerAnd(rest[0])
	if err != nil {
		return err
	}
	found, ok, err := find.Find(ctx, player.Guitar, l)
	if err != nil {
		return err
	}
	out := struct {
		Recipe string `json:"recipe"`
		Covers []int  `json:"covers"`
	}{"", []int{}}
	if ok {
		out.Recipe, out.Covers = found.Recipe.String(), []int{found.From, found.To}
	}
	switch {
	case *asJSON:
		return printJSON(e, out)
	case !ok:
		fmt.Fprintln(e.out, "no cell in it is played twice")
	case found.To-found.From+1 == len(l.Notes):
		fmt.Fprintln(e.out, out.Recipe)
	default:
		fmt.Fprintf(e.out, "notes %d to %d of %d: %s\n", found.From, found.To, len(l.Notes), out.Recipe)
	}
	return nil
}

func turnCommand(ctx context.Context, e env, args []string) error {
	fs := newFlags()
	o := optionsOf(fs, true)
	how := fs.String("how", "", "")
	asJSON := fs.Bool("json", false, "")
	rest, err := parse(fs, args, 1, "the lick file to turn")
	if err != nil {
		return err
	}
	if *how == "" {
		return errors.New("say how with --how: backwards, mirror, rotate:N, octave or -octave")
	}
	player, l, err := o.playerAnd(rest[0])
	if err != nil {
		return err
	}
	engine := judge.NewEngine(player)
	turned, err := turn.Turn(player.Guitar, l, strings.TrimSpace(*how), 0, 0)
	if err != nil {
		return err
	}
	proposals, err := propose.Hands(ctx, engine, turned, propose.Ask{})
	if err != nil {
		return err
	}
	p := proposals[0]
	if *asJSON {
		_, err := e.out.Write(p.Lick.Encode())
		return err
	}
	before, err := engine.Check(ctx, l)
	if err != nil {
		return err
	}
	fmt.Fprintf(e.out, "as it was: %s\n%s: %s\n", before.Ceiling, *how, p.Ceiling)
	printHands(e, p.Lick)
	return nil
}
