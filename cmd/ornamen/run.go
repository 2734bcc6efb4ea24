package main

import (
	"context"
	"encoding/json"
	"errors"
	"flag"
	"fmt"
	"strings"

	"ornamen/core/find"
	"ornamen/core/judge"
	"ornamen/core/lick"
	"ornamen/core/pick"
	"ornamen/core/propose"
	"ornamen/core/run"
	"ornamen/core/say"
	"ornamen/core/turn"
	"ornamen/format/tab"
)

// printJSON writes a value on one line, as every command's --json does; signs of music stay as they are. The error is
// the output's.
func printJSON(e env, v any) error {
	enc := json.NewEncoder(e.out)
	enc.SetEscapeHTML(false)
	return enc.Encode(v)
}

// printLick writes a lick file.
func printLick(e env, l lick.Lick) error {
	_, err := e.out.Write(l.Encode())
	return err
}

// runCommand grows a run from its recipe and proposes its hands. It prints the run in a line,
// its rhythm, what the run has to say of itself, the ceiling, and the tab; with --tab the tab
// alone, with --json the lick file, which holds the recipe.
func runCommand(ctx context.Context, e env, args []string) error {
	fs := newFlags()
	var r run.Recipe
	recipe := flag.NewFlagSet("", flag.ContinueOnError)
	r.Bind(recipe)
	fs.AddGoFlagSet(recipe)
	o := optionsOf(e, fs, false)
	asJSON, asTab := fs.Bool("json", false, "prints JSON"), fs.Bool("tab", false, "prints tablature alone")
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
	filled, err := propose.Hands(ctx, judge.NewEngine(player), grown.Lick, propose.Request{Way: grown.Way})
	if err != nil {
		return err
	}
	l := grown.Lick
	if len(filled) > 0 {
		l = filled[0].Lick
	}
	unused := run.Unused(r, player.Guitar)
	if *asJSON || *asTab {
		for _, s := range unused {
			fmt.Fprintln(e.err, s)
		}
	}
	switch {
	case *asJSON:
		return printLick(e, l)
	case *asTab:
		_, err = e.out.Write(tab.Encode(l))
	default:
		fmt.Fprintln(e.out, r.Short(grown))
		rhythm := grown.RhythmOf()
		fmt.Fprintf(e.out, "%d notes, %s", rhythm.Notes, say.Count(rhythm.Bars, "bar"))
		if rhythm.MeetCells > 1 {
			fmt.Fprintf(e.out, "; cells meet the beat again after %s and %s", say.Count(rhythm.MeetCells, "cell"),
				say.Count(rhythm.MeetBeats, "beat"))
		}
		if rhythm.PickupFrom != "" && r.From == "" {
			fmt.Fprintf(e.out, "; starts on %s: %s and the landing", rhythm.PickupFrom,
				say.Count(rhythm.Notes-1, "note"))
		}
		fmt.Fprintln(e.out)
		for _, s := range append(grown.Remarks, unused...) {
			fmt.Fprintln(e.out, s)
		}
		if len(filled) > 0 && filled[0].Ceiling > 0 {
			fmt.Fprintf(e.out, "clean up to %d\n", filled[0].Ceiling.Whole())
		}
		_, err = e.out.Write(tab.Encode(l))
	}
	return err
}

// ways lists the ways to pick a lick with their ceilings, the highest first: name, ceiling, what its strokes are, what
// holds it back. As JSON: the list, each with its report and its lick.
func ways(ctx context.Context, e env, args []string) error {
	fs := newFlags()
	o := optionsOf(e, fs, true)
	asJSON := fs.Bool("json", false, "prints JSON")
	player, l, err := o.lickOf(ctx, args, "the lick file to pick in several ways")
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
// A recipe in the file that cannot be read is as none.
func waysOf(ctx context.Context, e *judge.Engine, l lick.Lick) ([]propose.WayToPlay, error) {
	if r, err := run.Parse(l.Recipe); err == nil && l.Recipe != "" {
		return run.Ways(ctx, e, l, r, e.Player.Guitar.WithTuning(l.Tuning))
	}
	return propose.Ways(ctx, e, l)
}

// restring plays some notes on the neighbouring string so that every change comes out clean for
// the way of picking: how many were not before and after, which notes moved, the hands, and up
// to two other restringings. As JSON: the lick file of the best.
func restring(ctx context.Context, e env, args []string) error {
	fs := newFlags()
	o := optionsOf(e, fs, true)
	way := fs.String("pick", string(pick.Alternate),
		"`alternate|economy|legato|free` way of picking that the changes are to suit")
	asJSON := fs.Bool("json", false, "prints JSON")
	player, l, err := o.lickOf(ctx, args, "the lick file to restring")
	if err != nil {
		return err
	}
	w, err := pick.ParseWay(*way)
	if err != nil {
		return err
	}
	r, err := propose.Restring(ctx, judge.NewEngine(player), l, w)
	if err != nil {
		return err
	}
	if *asJSON {
		return printLick(e, r.After.Lick)
	}
	fmt.Fprintf(e.out, "%s: %s not clean, %s\n", w, say.Count(r.Clean[0], "change"), r.Before.Ceiling)
	if r.Clean[1] == r.Clean[0] {
		fmt.Fprintln(e.out, "no other strings make it cleaner")
		return nil
	}
	fmt.Fprintf(e.out, "restrung: %s not clean, %s\n", say.Count(r.Clean[1], "change"), r.After.Ceiling)
	fmt.Fprintln(e.out, r.After.Why)
	printHands(e, r.After.Lick)
	for _, o := range r.Others {
		fmt.Fprintf(e.out, "or, %s: %s\n", o.Ceiling, o.Why)
		printHands(e, o.Lick)
	}
	return nil
}

// recipe finds the recipe behind a written line: one of several parts where it takes as many, or
// those of the parts that have one. As JSON: the recipe that covers most, the notes it covers from 1, and all parts;
// an empty list where no cell is played twice, which is an answer and no error.
func recipe(ctx context.Context, e env, args []string) error {
	fs := newFlags()
	o := optionsOf(e, fs, true)
	asJSON := fs.Bool("json", false, "prints JSON")
	player, l, err := o.lickOf(ctx, args, "the lick file whose recipe is asked for")
	if err != nil {
		return err
	}
	parts, err := find.Parts(ctx, player.Guitar, l)
	if err != nil {
		return err
	}
	out := foundJSON{Covers: []int{}, Parts: []foundPart{}}
	for _, p := range parts {
		part := foundPart{p.Recipe.String(), []int{p.From, p.To}}
		if len(out.Covers) == 0 || p.To-p.From > out.Covers[1]-out.Covers[0] {
			out.Recipe, out.Covers = part.Recipe, part.Covers
		}
		out.Parts = append(out.Parts, part)
	}
	if whole, ok := find.Together(ctx, player.Guitar, l, parts); ok {
		out.Recipe, out.Covers = whole.Recipe.String(), []int{whole.From, whole.To}
	}
	switch {
	case *asJSON:
		return printJSON(e, out)
	case len(parts) == 0:
		fmt.Fprintln(e.out, "no cell in it is played twice")
	case out.Covers[0] == 1 && out.Covers[1] == len(l.Notes):
		fmt.Fprintln(e.out, out.Recipe)
	default:
		for _, p := range parts {
			fmt.Fprintf(e.out, "notes %d to %d of %d: %s\n", p.From, p.To, len(l.Notes), p.Recipe)
		}
	}
	return nil
}

// foundJSON is the recipe that covers most of a line, if it can be all of it, and each of those that it is joined of.
// Covers is empty where nothing was found.
type foundJSON struct {
	Recipe string      `json:"recipe"`
	Covers []int       `json:"covers"`
	Parts  []foundPart `json:"parts"`
}

// foundPart is one of them with the notes that it covers.
type foundPart struct {
	Recipe string `json:"recipe"`
	Covers []int  `json:"covers"`
}

// turnCommand turns a line and finds its slurs and hands again: the ceiling before and after,
// and the hands. As JSON: the lick file.
func turnCommand(ctx context.Context, e env, args []string) error {
	fs := newFlags()
	o := optionsOf(e, fs, true)
	how := fs.String("how", "",
		"`backwards|mirror|rotate:N|octave|-octave|string:N|degree:N` what is done; must be given")
	asJSON := fs.Bool("json", false, "prints JSON")
	player, l, err := o.lickOf(ctx, args, "the lick file to turn")
	if err != nil {
		return err
	}
	if *how == "" {
		return errors.New("say how with --how: backwards, mirror, rotate:N, octave or -octave")
	}
	engine := judge.NewEngine(player)
	turned, err := turn.Turn(player.Guitar, l, strings.TrimSpace(*how), 0, 0)
	if err != nil {
		return err
	}
	proposals, err := propose.Hands(ctx, engine, turned, propose.Request{})
	if err != nil {
		return err
	}
	p := proposals[0]
	if *asJSON {
		return printLick(e, p.Lick)
	}
	before, err := engine.Check(ctx, l)
	if err != nil {
		return err
	}
	fmt.Fprintf(e.out, "as it was: %s\n%s: %s\n", before.Ceiling, *how, p.Ceiling)
	printHands(e, p.Lick)
	return nil
}
