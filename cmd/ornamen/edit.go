package main

import (
	"context"
	"errors"
	"fmt"
	"strings"
	"text/tabwriter"

	"ornamen/core/edit"
	"ornamen/core/judge"
	"ornamen/core/lick"
	"ornamen/core/neck"
	"ornamen/core/player"
	"ornamen/core/propose"
	"ornamen/core/text"
	"ornamen/core/turn"
)

// editCommand changes a line as the bench does, one edit after the other. An edit that is
// refused ends it, with what was asked, and nothing is printed of those before it.
func editCommand(ctx context.Context, e env, args []string) error {
	fs := newFlags()
	o := optionsOf(e, fs, true)
	asJSON := fs.Bool("json", false, "prints JSON")
	rest, err := parse(fs, args, -2, `the lick file and what to do, as in "3 finger 2" or "tempo 120"`)
	if err != nil {
		return err
	}
	player, l, err := o.playerAnd(ctx, rest[0])
	if err != nil {
		return err
	}
	var said []string
	for _, line := range rest[1:] {
		ed, err := editOf(ctx, e, player, l, line)
		if err == nil {
			l, err = ed.Apply(l)
		}
		if err != nil {
			return fmt.Errorf("%q: %w", line, err)
		}
		said = append(said, ed.What())
	}
	return changed(ctx, e, judge.NewEngine(player), l, strings.Join(said, "; "), *asJSON)
}

// editOf reads one edit. What is pasted comes from a file of any format that is read.
func editOf(ctx context.Context, e env, p player.Player, l lick.Lick, line string) (lick.Edit, error) {
	notes, name, pasted := strings.Cut(line, pasteWord+" ")
	if notes = strings.TrimSpace(notes); pasted && strings.Trim(notes, "0123456789-,") == "" {
		clip, err := read(ctx, e, p, strings.TrimSpace(name), 0)
		if err != nil {
			return nil, err
		}
		x := lick.Paste{After: len(l.Notes) - 1, Clip: lick.Clip{Lick: clip, Len: clip.End()}}
		switch rs, err := lick.ParseRanges(notes); {
		case notes == "0":
			x.After = -1
		case notes != "" && err != nil:
			return nil, err
		case strings.ContainsAny(notes, "-,"):
			x.Over = rs
		case notes != "":
			x.After = rs[0].From
		}
		return x, nil
	}
	w, err := edit.Parse(line)
	if err != nil {
		return nil, fmt.Errorf("%w; edit --help lists what can", err)
	}
	return edit.Read(p.Guitar, l, w)
}

// pasteWord is the one word that reads another file.
const pasteWord = "paste"

// editWords lists what can be done to a line, for the help.
func editWords() string {
	var b strings.Builder
	b.WriteString(`
NOTES is a note, "3", or a selection, "3-8" or "3-8,12-17", counted from 1. DO is one of

`)
	w := tabwriter.NewWriter(&b, 0, 0, 2, ' ', 0)
	list := func(name, value, does string, to edit.Target) {
		notes := map[edit.Target]string{edit.ToLine: "", edit.ToNote: "NOTE ",
			edit.ToEach: "NOTES ", edit.ToNotes: "NOTES "}[to]
		fmt.Fprintf(w, "  %s\t%s\n", strings.TrimSpace(notes+name+" "+value), does)
	}
	for _, d := range edit.Dos {
		list(d.Name, d.Value, d.Does, d.To)
		if d.Name == "duplicate" {
			list(pasteWord, "FILE", "puts another line in after the note, or in place of the selection", edit.ToNotes)
		}
	}
	w.Flush() // to memory: it cannot fail
	return b.String()
}

// changed writes a line that was changed: the lick file, or what was done, how it is judged and its hands. Hands that
// are open are shown as they would be proposed, and stay open in the file.
func changed(ctx context.Context, e env, engine *judge.Engine, l lick.Lick, what string, asJSON bool) error {
	if asJSON {
		return printLick(e, l)
	}
	r, err := engine.Check(ctx, l)
	if err != nil {
		return err
	}
	fmt.Fprintf(e.out, "%s: %s, %s\n", what, r.Verdict, r.Ceiling)
	printHands(e, r.Lick)
	return nil
}

// mendCommand lists the fixes of the findings, numbered, or takes one: what it does, for which finding, and the ceiling
// that it comes to. Numbers are those of this list on this file with this player.
func mendCommand(ctx context.Context, e env, args []string) error {
	fs := newFlags()
	o := optionsOf(e, fs, true)
	take := fs.Int("take", 0, "`N` takes this fix and prints the line")
	asJSON := fs.Bool("json", false, "prints JSON")
	player, l, err := o.lickOf(ctx, args, "the lick file to mend")
	if err != nil {
		return err
	}
	engine := judge.NewEngine(player)
	r, err := engine.Check(ctx, l)
	if err != nil {
		return err
	}
	if err := engine.Mend(ctx, l, r); err != nil {
		return err
	}
	var fixes []numbered
	for _, f := range judge.Grouped(r.Findings) {
		for _, x := range f.Fixes {
			mended, err := engine.Take(ctx, l, x.Edit, x.Small())
			if err != nil {
				return err
			}
			fixes = append(fixes, numbered{
				fmt.Sprintf("%s (%s %s), %s", x.Text, f.Code, arrow(f.Notes), x.Ceiling), mended.Apply})
		}
	}
	none := "nothing is found that a fix would mend"
	if r.LeftOut != "" {
		none += ": " + r.LeftOut
	}
	return listed(ctx, e, engine, l, fixes, *take, *asJSON, none)
}

// bendsCommand lists what else the bend of a note could be.
// They are what turn.OtherBends finds from the same frame; --take N writes one.
func bendsCommand(ctx context.Context, e env, args []string) error {
	return otherParts(ctx, e, args, turn.OtherBends,
		"there is no other bend: the note is not bent, or the lick has no tones")
}

// tailsCommand lists other ends of a line. They go on from the note to the end of the line.
func tailsCommand(ctx context.Context, e env, args []string) error {
	return otherParts(ctx, e, args, turn.OtherTails, "there is no other tail from there: the lick has no tones")
}

// otherParts lists what find makes of the line at a note, the last one where none is named, or
// takes one of them, with the best hands for it. Each is judged for the list.
func otherParts(ctx context.Context, e env, args []string, find func(neck.Guitar, lick.Lick, int) []turn.Changed,
	none string) error {
	fs := newFlags()
	o := optionsOf(e, fs, true)
	note := fs.Int("note", 0, "`N` the note, counted from 1; the last one")
	take := fs.Int("take", 0, "`K` takes this one and prints the line")
	asJSON := fs.Bool("json", false, "prints JSON")
	player, l, err := o.lickOf(ctx, args, "the lick file")
	if err != nil {
		return err
	}
	if *note < 0 || *note > len(l.Notes) {
		return fmt.Errorf("there is no note %d", *note)
	}
	if *note == 0 {
		*note = len(l.Notes)
	}
	engine := judge.NewEngine(player)
	var parts []numbered
	for _, p := range find(player.Guitar, l, *note-1) {
		r, err := engine.Check(ctx, p.Lick)
		if err != nil {
			return err
		}
		parts = append(parts, numbered{fmt.Sprintf("%s: %s, %s", p.What, r.Verdict, r.Ceiling),
			func(lick.Lick) (lick.Lick, error) {
				list, err := propose.Hands(ctx, engine, p.Lick, propose.Request{})
				if err != nil {
					return l, err
				}
				return list[0].Lick, nil
			}})
	}
	return listed(ctx, e, engine, l, parts, *take, *asJSON, none)
}

// numbered is one of several changes that can be taken. text is what the list says; apply computes the line, which for
// some is only done for the one that is taken.
type numbered struct {
	text  string
	apply func(lick.Lick) (lick.Lick, error)
}

// listed writes the changes, or takes the one that is asked for, counted from 1. none is the error of an empty list.
// With --json the list is one of texts, the taken one a lick file.
func listed(ctx context.Context, e env, engine *judge.Engine, l lick.Lick, list []numbered, take int, asJSON bool,
	none string) error {
	switch {
	case len(list) == 0:
		return errors.New(none)
	case take < 0 || take > len(list):
		return fmt.Errorf("there are %d to take", len(list))
	case take > 0:
		x := list[take-1]
		taken, err := x.apply(l)
		if err != nil {
			return err
		}
		return changed(ctx, e, engine, taken, x.text, asJSON)
	case asJSON:
		texts := text.Map(list, func(x numbered) string { return x.text })
		return printJSON(e, texts)
	}
	for i, x := range list {
		fmt.Fprintf(e.out, "%d  %s\n", i+1, x.text)
	}
	return nil
}
