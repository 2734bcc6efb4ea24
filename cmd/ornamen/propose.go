package main

import (
	"context"
	"fmt"
	"strings"

	"ornamen/core/judge"
	"ornamen/core/lick"
	"ornamen/core/pick"
	"ornamen/core/propose"
)

// defaultBest is how many proposals are printed when none is asked for.
const defaultBest = 3

// proposeCommand fills in the hands of a lick around what is locked and writes the best few, three unless --best says
// otherwise: why each, its ceiling, and places, fingers and strokes under each other. With --place notes may move to
// other strings. As JSON: a list of proposals, each with why, ceiling, report and lick.
func proposeCommand(ctx context.Context, e env, args []string) error {
	fs := newFlags()
	way := fs.String("pick", "", "`alternate|economy|legato|free` way of picking; alternate, and others beside it")
	angle := fs.String("angle", "", "`down|up|either` after which stroke the pick leaves the strings easily")
	place := fs.Bool("place", false, "strings and frets may be chosen too")
	best := fs.Int("best", defaultBest, "`N` how many proposals at most")
	o := optionsOf(e, fs, true)
	asJSON := fs.Bool("json", false, "prints JSON")
	p, l, err := o.lickOf(ctx, args, "the lick file to propose hands for")
	if err != nil {
		return err
	}
	ask := propose.Request{Place: *place, Best: *best}
	if *way != "" {
		if ask.Way, err = pick.ParseWay(*way); err != nil {
			return err
		}
	}
	if *angle != "" {
		if ask.Angle, err = pick.ParseAngle(*angle); err != nil {
			return err
		}
	}
	if *best < 1 || *best > 20 {
		return fmt.Errorf("--best %d: ask for 1 to 20", *best)
	}
	if *place && len(l.Notes) > propose.MaxFreePlaces {
		return fmt.Errorf("--place takes lines of up to %d notes, this one has %d", propose.MaxFreePlaces, len(l.Notes))
	}
	proposals, err := propose.Hands(ctx, judge.NewEngine(p), l, ask)
	if err != nil {
		return err
	}
	for i, x := range proposals {
		proposals[i].Lick = helped(x.Lick, x.Report)
	}
	if *asJSON {
		return printJSON(e, proposals)
	}
	for i, x := range proposals {
		fmt.Fprintf(e.out, "%d. %s\n", i+1, x.Why)
		switch {
		case x.Ceiling > 0:
			fmt.Fprintf(e.out, "   clean up to %d, best possible %d\n", x.Ceiling.Whole(), x.BestPossible.Whole())
		case x.Report.Verdict == judge.Breaks:
			fmt.Fprintln(e.out, "   no tempo will do")
		}
		printHands(e, x.Lick)
	}
	return nil
}

// helped is a line with the fingers behind its bends written down, as the habit of the player puts them there.
func helped(l lick.Lick, r *judge.Report) lick.Lick {
	out := l.Clone()
	for i := range out.Notes {
		if b := out.Notes[i].Bend; b != nil && len(b.With) == 0 {
			x := *b
			x.With = r.Notes[i].Helpers
			out.Notes[i].Bend = &x
		}
	}
	return out
}

// printHands writes places, fingers and strokes under each other.
func printHands(e env, l lick.Lick) {
	const perRow = 16
	for from := 0; from < len(l.Notes); from += perRow {
		var place, finger, stroke strings.Builder
		for _, n := range l.Notes[from:min(from+perRow, len(l.Notes))] {
			fmt.Fprintf(&place, "%-7s", fmt.Sprintf("%d:%d", n.String, n.Fret))
			hand := n.Finger.String()
			if n.Bend != nil {
				for _, f := range n.Bend.With {
					hand += "+" + f.String()
				}
			}
			fmt.Fprintf(&finger, "%-7s", hand)
			word := string(n.Stroke)
			if n.Slur != "" {
				word = string(n.Slur)
			}
			fmt.Fprintf(&stroke, "%-7s", word)
		}
		fmt.Fprintf(e.out, "   place  %s\n   finger %s\n   stroke %s\n", strings.TrimRight(place.String(), " "),
			strings.TrimRight(finger.String(), " "), strings.TrimRight(stroke.String(), " "))
	}
}
