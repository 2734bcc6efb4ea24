package main

import (
	"context"
	"fmt"
	"strings"

	"ornamen/core/judge"
	"ornamen/core/lick"
	"ornamen/core/say"
	"ornamen/core/text"
)

// check judges a lick file; a line that breaks ends with status 1, so that a script can ask.
//
// As text: the verdict at the tempo, the ceiling and the best possible one, then each kind of finding with the notes it
// is about, its sentence, where else it is and what mends it. As JSON: the report (judge.Report) with verdict, ceiling,
// bottleneck and findings, each with code, need, have and fixes.
func check(ctx context.Context, e env, args []string) error {
	fs := newFlags()
	tempo := fs.Float64("tempo", 0, "`N` judges at this tempo and not the line's")
	o := optionsOf(e, fs, true)
	all := fs.Bool("all-players", false, "judges for every player of the notebook")
	asJSON := fs.Bool("json", false, "prints JSON")
	o.all = all
	p, l, err := o.lickOf(ctx, args, "the lick file to check")
	if err != nil {
		return err
	}
	if *tempo != 0 {
		if l, err = (lick.Setting{Tempo: tempo}).Apply(l); err != nil {
			return err
		}
	}
	if *all {
		return (&book{env: e, file: o.db}).checkAll(ctx, l, *asJSON)
	}
	engine := judge.NewEngine(p)
	r, err := engine.Check(ctx, l)
	if err != nil {
		return err
	}
	if err := engine.Mend(ctx, l, r); err != nil {
		return err
	}
	if *asJSON {
		if err := printJSON(e, r); err != nil {
			return err
		}
	} else {
		printReport(e, r)
	}
	if r.Verdict == judge.Breaks {
		return errBreaks
	}
	return nil
}

// printReport writes the judgement as text: the verdict first, findings of one kind together.
func printReport(e env, r *judge.Report) {
	fmt.Fprintf(e.out, "%s at %g\n", strings.ToUpper(r.Verdict.String()[:1])+r.Verdict.String()[1:], r.Tempo)
	switch {
	case r.Ceiling > 0:
		fmt.Fprintf(e.out, "clean up to %d, best possible %d\n", r.Ceiling.Whole(), r.BestPossible.Whole())
	case r.Verdict == judge.Breaks:
		fmt.Fprint(e.out, "no tempo will do")
		if r.BestPossible > 0 {
			fmt.Fprintf(e.out, " with these hands, best possible %d", r.BestPossible.Whole())
		}
		fmt.Fprintln(e.out)
	}
	if r.Taught > 0 {
		fmt.Fprintln(e.out, say.FastHands(r.Taught.Whole()))
	}
	for _, f := range judge.Grouped(r.Findings) {
		fmt.Fprintf(e.out, "%-7s %-20s %s  %s\n", f.Severity, f.Code, arrow(f.Notes), f.Text)
		if len(f.Others) > 0 {
			fmt.Fprintf(e.out, "        also %s\n", text.Join(f.Others, ", ",
				func(o judge.Finding) string { return arrow(o.Notes) }))
		}
		for _, x := range f.Fixes {
			fmt.Fprintf(e.out, "        fix: %s, %s\n", x.Text, x.Ceiling)
		}
	}
	if r.LeftOut != "" {
		fmt.Fprintln(e.out, r.LeftOut)
	}
}

// arrow writes the notes of a finding: "8 → 9", or the first few of many.
func arrow(notes []int) string {
	const few = 6
	sep := ", "
	if len(notes) == 2 {
		sep = " → "
	}
	s := text.Join(notes[:min(len(notes), few)], sep, func(n int) string { return fmt.Sprint(n) })
	if len(notes) > few {
		s += fmt.Sprintf(" and %d more", len(notes)-few)
	}
	return s
}
