package main

import (
	"bytes"
	"cmp"
	"context"
	"errors"
	"fmt"
	"path/filepath"
	"slices"
	"strconv"
	"strings"
	"time"

	"ornamen/core/practice"
	"ornamen/core/say"
	"ornamen/internal/lesson"
	"ornamen/internal/practising"
	"ornamen/internal/store"
)

// planJSON is what `practice plan --json` prints.
type planJSON struct {
	Minutes int        `json:"minutes"`
	Items   []itemJSON `json:"items"`
}

// itemJSON is one thing of the plan; part is its first and its last note. A break has no lick and the part 0, 0.
type itemJSON struct {
	Lick    string        `json:"lick"`
	Part    [2]int        `json:"part"`
	Kind    practice.Kind `json:"kind"`
	Tempo   float64       `json:"tempo"`
	Minutes int           `json:"minutes"`
	Heavy   bool          `json:"heavy"` // it stretches or bends hard
	Why     string        `json:"why"`
}

// abilityJSON is one of the player's own numbers; 1 is the default's.
// low to high is the interval that holds the truth nineteen times in twenty.
type abilityJSON struct {
	Name   string  `json:"name"`
	Value  float64 `json:"value"`
	Low    float64 `json:"low"`
	High   float64 `json:"high"`
	Rounds int     `json:"rounds"`
	Shown  bool    `json:"shown"` // the log says something of it
}

// practiceCommand prints today's plan, the log, or the player's own numbers, from a notebook
// that is read and not written: planning is looking. The log's CSV is what read takes in again.
func practiceCommand(ctx context.Context, e env, args []string) error {
	if len(args) == 0 {
		return errors.New("say what: practice plan, practice ladder LICK, practice log, practice calibrate, " +
			"practice read FILE or practice report FILE")
	}
	what, words := args[0], args[1:]
	if strings.HasPrefix(what, "-") {
		what, words = "", args // options alone, such as --help
	}
	fs := newFlags()
	minutes := fs.Int("minutes", 30, "`N` minutes that the plan fills")
	b := bookOf(e, fs)
	asJSON, asCSV := fs.Bool("json", false, "prints JSON"), fs.Bool("csv", false, "prints CSV")
	on := fs.String("on", "", "`DAY` plans for this day, as in 2026-12-03; today")
	from := fs.String("from", "", "`LOG` reads the log from this file and not from the notebook")
	part := fs.String("part", "", "`PART` of the lick whose ladder is asked for; the whole")
	player := fs.String("player", "", "`NAME` whose practice; that of the notebook's first player")
	set := fs.String("set", "", "`NAME` plan or report only the licks of this set")
	back := fs.Uint("back", 0, "`NUMBER` of what was read in, to be taken back as a whole")
	wanted, named := map[string]string{
		"read":   "the log or the report to read",
		"report": "the report to write",
		"ladder": "the lick by its number or title",
	}[what]
	files := 0
	takesBack := slices.ContainsFunc(words, func(w string) bool { return strings.HasPrefix(w, "--back") })
	if named && !takesBack {
		files = 1
	}
	rest, err := parse(fs, words, files, wanted)
	if err != nil {
		return err
	}
	switch {
	case what == "read" && takesBack:
		return b.takeReadingBack(ctx, *back)
	case what == "read":
		return b.readPractice(ctx, rest[0], *player)
	case what == "calibrate" && *from != "":
		log, err := practiceFile(*from)
		if err != nil {
			return err
		}
		return printAbilities(e, practice.Calibrate(log), practice.Kinds(log), *asJSON)
	}
	if err := b.read(); err != nil {
		return err
	}
	defer b.Close()
	if err := b.play(ctx, *player); err != nil {
		return err
	}
	var of *store.Set
	if *set != "" {
		x, err := b.set(ctx, *set, "")
		if err != nil {
			return err
		}
		of = &x
	}
	switch what {
	case "report":
		return b.writeReport(ctx, of, rest[0])
	case "plan":
		day := b.Now()
		if *on != "" {
			if day, err = time.ParseInLocation(time.DateOnly, *on, day.Location()); err != nil {
				return fmt.Errorf("--on %q is no day: write it as in --on 2026-12-03", *on)
			}
		}
		return b.printPlan(ctx, of, *minutes, day, *asJSON)
	case "ladder":
		return b.printLadder(ctx, rest[0], *part, *asJSON)
	case "log":
		return b.printLog(ctx, *asJSON, *asCSV)
	case "calibrate":
		log, err := practising.Log(ctx, b.Store, b.who.ID)
		if err != nil {
			return err
		}
		return printAbilities(e, practice.Calibrate(log), practice.Kinds(log), *asJSON)
	}
	return fmt.Errorf("practice %q is none: use plan, ladder, log, calibrate, read or report", what)
}

// practiceFile reads a log from a file, whole or not at all.
func practiceFile(file string) ([]practice.Entry, error) {
	f, err := open(file)
	if err != nil {
		return nil, err
	}
	defer f.Close()
	log, err := practising.Read(file, f)
	if err != nil {
		return nil, fmt.Errorf("%s was not read: %w", file, err)
	}
	return log, nil
}

// readPractice adds a log from a file to a player's, or a report to the log of the student whom it is of: what is not
// there yet.
func (b *book) readPractice(ctx context.Context, file, player string) error {
	var log []practice.Entry
	report, isReport, err := reportFile(file)
	if err == nil && !isReport {
		log, err = practiceFile(file)
	}
	if err != nil {
		return err
	}
	if err := b.write(); err != nil {
		return err
	}
	defer b.Close()
	var who store.Player
	var reading store.Reading
	if isReport {
		log = report.Rounds
		who, reading, err = lesson.TakeReport(ctx, b.Store, report, player)
	} else if who, err = b.PlayerNamed(ctx, player); err == nil {
		reading, err = practising.Take(ctx, b.Store, store.Reading{PlayerID: who.ID, Name: filepath.Base(file)}, log)
	}
	if err != nil {
		return err
	}
	added := reading.Added
	fmt.Fprintf(b.out, "%s added to the log", say.Count(added, "line"))
	if isReport || player != "" {
		fmt.Fprintf(b.out, " of %s", who.Name)
	}
	switch had := len(log) - added; {
	case had == 1:
		fmt.Fprint(b.out, "; 1 was there already")
	case had > 1:
		fmt.Fprintf(b.out, "; %d were there already", had)
	}
	fmt.Fprintln(b.out)
	if reading.ID != 0 {
		fmt.Fprintf(b.err, "to take it back: ornamen practice read --back %d\n", reading.ID)
	}
	return nil
}

// takeReadingBack takes back what a file added to a log.
func (b *book) takeReadingBack(ctx context.Context, id uint) error {
	if err := b.write(); err != nil {
		return err
	}
	defer b.Close()
	r, lines, err := b.TakeReadingBack(ctx, id)
	if err != nil {
		return err
	}
	fmt.Fprintf(b.out, "%s of %s taken back\n", say.Count(lines, "line"), r.Name)
	return nil
}

// reportFile reads a report from a file; ok is false where it is none, but perhaps a log.
func reportFile(file string) (r lesson.Report, ok bool, err error) {
	if !strings.EqualFold(filepath.Ext(file), ".json") {
		return r, false, nil
	}
	data, err := fileBytes(file, lesson.MaxReport)
	if err != nil || !lesson.IsReport(data) {
		return r, false, err
	}
	if r, err = lesson.ReadReport(data); err != nil {
		return r, true, fmt.Errorf("%s was not read: %w", file, err)
	}
	return r, true, nil
}

// writeReport writes what a player practised, to go back to a teacher.
func (b *book) writeReport(ctx context.Context, of *store.Set, file string) error {
	if !strings.EqualFold(filepath.Ext(file), ".json") {
		return fmt.Errorf("a report is a .json file, which %s is not", file)
	}
	var data bytes.Buffer
	n, err := lesson.WriteReport(ctx, &data, b.Store, b.who, of)
	if err != nil {
		return err
	}
	return b.written(say.Count(n, "line")+" of "+b.who.Name, file, data.Bytes())
}

// printLog prints the log: for people by its days, as JSON or CSV as it was written.
func (b *book) printLog(ctx context.Context, asJSON, asCSV bool) error {
	if asJSON || asCSV {
		log, err := practising.Written(ctx, b.Store, b.who.ID)
		switch {
		case err != nil:
			return err
		case asCSV:
			return practice.WriteCSV(b.out, log)
		}
		return printJSON(b.env, append([]practice.Entry{}, log...))
	}
	log, err := practising.Log(ctx, b.Store, b.who.ID)
	if err != nil {
		return err
	}
	for _, x := range log {
		fmt.Fprintf(b.out, "%s  %s%s at %g: %d clean, %d not\n", x.Time.Format("2006-01-02 15:04"), x.Title,
			partWord(x.Part), x.Tempo, x.Clean, x.Missed)
	}
	if len(log) == 0 {
		fmt.Fprintln(b.out, "nothing was practised yet")
	}
	lines, err := b.SetAside(ctx)
	if err == nil && len(lines) > 0 {
		fmt.Fprintf(b.err, "%s of the log could not be read and stay out of it\n", say.Count(len(lines), "line"))
	}
	return err
}

// partWord names a part behind its lick.
func partWord(part string) string {
	if part == "" {
		return ""
	}
	return ", " + part
}

// printPlan prints the plan of a day. It is planned for the notebook's player and from the log as it is now.
func (b *book) printPlan(ctx context.Context, of *store.Set, minutes int, day time.Time, asJSON bool) error {
	if minutes < 1 || minutes > 600 {
		return fmt.Errorf("a plan takes 1 to 600 minutes, not %d", minutes)
	}
	items, err := practising.Day(ctx, b.engine, b.Store, b.who, of, minutes, day)
	if err != nil {
		return err
	}
	v := planJSON{Minutes: minutes, Items: []itemJSON{}}
	for _, x := range items {
		v.Items = append(v.Items, itemJSON{
			Lick:    x.Title,
			Part:    [2]int{x.Part.From, x.Part.To},
			Kind:    x.Kind,
			Tempo:   x.Tempo,
			Minutes: x.Minutes,
			Heavy:   x.Part.Heavy,
			Why:     x.Why,
		})
	}
	if asJSON {
		return printJSON(b.env, v)
	}
	for _, x := range items {
		tempo := ""
		if x.Tempo > 0 {
			tempo = fmt.Sprintf(" at %g", x.Tempo)
		}
		fmt.Fprintf(b.out, "%3d min  %-8s %s%s%s: %s\n", x.Minutes, x.Kind, x.Title, partWord(x.Part.Name), tempo,
			x.Why)
	}
	if len(items) == 0 {
		fmt.Fprintln(b.out, "the notebook has no lick to practise")
	}
	return nil
}

// ladderJSON is where a part stands on its ladder.
type ladderJSON struct {
	Tempo  float64 `json:"tempo"`
	Next   float64 `json:"next"`
	Left   int     `json:"left"`
	Start  float64 `json:"start"`
	Wanted float64 `json:"wanted"`
}

// printLadder says where a part of a lick stands: the tempo to play now, the one after it, how many clean rounds are
// left to it, where the ladder began and where it leads.
func (b *book) printLadder(ctx context.Context, lick, name string, asJSON bool) error {
	x, err := b.lickNamed(ctx, lick)
	if err != nil {
		return err
	}
	log, err := practising.Log(ctx, b.Store, b.who.ID)
	if err != nil {
		return err
	}
	piece, err := practising.NewPieces().Of(ctx, b.engine, practising.Who{Own: b.who.Own()}, x)
	if err != nil {
		return err
	}
	var names []string
	for _, p := range piece.Parts {
		if p.Name != name && !(p.Name == "" && name == "the whole") {
			names = append(names, strconv.Quote(cmp.Or(p.Name, "the whole")))
			continue
		}
		r := practice.Climb(p, piece.Wanted, log, x.ID, practice.DateOf(b.Now()))
		if asJSON {
			return printJSON(b.env, ladderJSON{Tempo: r.Tempo, Next: r.Next, Left: r.Left, Start: r.Start, Wanted: r.Wanted})
		}
		fmt.Fprintf(b.out, "%s%s: at %g, %s to %g; it began at %g and is wanted at %g\n", piece.Title, partWord(p.Name),
			r.Tempo, say.Count(r.Left, "clean round"), r.Next, r.Start, r.Wanted)
		return nil
	}
	return fmt.Errorf("%s has no part %q; there are %s", piece.Title, name, strings.Join(names, ", "))
}

// printAbilities prints the player's own numbers.
// What the log does not show is printed with its wide interval and not taken by anything.
func printAbilities(e env, list, kinds []practice.Ability, asJSON bool) error {
	if asJSON {
		rows := func(list []practice.Ability) []abilityJSON {
			out := []abilityJSON{}
			for _, a := range list {
				out = append(out, abilityJSON{
					Name:   a.Name,
					Value:  a.Value,
					Low:    a.Low,
					High:   a.High,
					Rounds: a.Rounds,
					Shown:  a.Shown(),
				})
			}
			return out
		}
		return printJSON(e, struct {
			Abilities []abilityJSON `json:"abilities"`
			Moves     []abilityJSON `json:"moves"` // by kind of the hardest move
		}{rows(list), rows(kinds)})
	}
	for _, a := range list {
		word := "not from this log"
		if a.Shown() {
			word = a.Words(a.Value)
		}
		fmt.Fprintf(e.out, "%-9s %s (%.2f of the default, %.2f to %.2f, from %s)\n", a.Name, word, a.Value, a.Low,
			a.High, say.Count(a.Rounds, "round"))
	}
	for _, a := range kinds {
		fmt.Fprintf(e.out, "where a %s is hardest: %s (%.2f of the default, %.2f to %.2f, from %s)\n", a.Name,
			a.Words(a.Value), a.Value, a.Low, a.High, say.Count(a.Rounds, "round"))
	}
	return nil
}
