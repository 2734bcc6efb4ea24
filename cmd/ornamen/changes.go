package main

import (
	"context"
	"fmt"
	"slices"
	"strconv"
	"strings"

	"ornamen/core/changes"
	"ornamen/core/judge"
	"ornamen/core/lick"
	"ornamen/core/music"
	"ornamen/core/propose"
	"ornamen/core/shape"
)

// changesJSON is what `changes --json` prints. Lists are never null, so that a script can walk them.
type changesJSON struct {
	Notes    []chordNoteJSON `json:"notes"`
	Landings []landingJSON   `json:"landings"`
	Rests    []restJSON      `json:"rests"`
	Palette  []paletteJSON   `json:"palette"`
	Findings []judge.Finding `json:"findings"`
}

// chordNoteJSON is a note over its chord. A note over no chord, or a dead one, has an empty chord and degree.
type chordNoteJSON struct {
	Note   int          `json:"note"`
	Chord  string       `json:"chord"`
	Degree string       `json:"degree"`
	Role   changes.Role `json:"role"`
}

// landingJSON is a landing; off_by is a fraction of a whole note, negative when early.
// Where several notes land together, degree names them all, the first note alone is numbered.
type landingJSON struct {
	Bar    int64        `json:"bar"`
	Beat   int64        `json:"beat"`
	Chord  string       `json:"chord"`
	Note   int          `json:"note"` // 0 where nothing lands
	Degree string       `json:"degree"`
	OffBy  string       `json:"off_by"`
	Word   changes.Word `json:"word"`
}

// restJSON is where a phrase comes to rest. Of notes that sound together each is one; chord and degree
// are empty over no chord.
type restJSON struct {
	Note   int    `json:"note"`
	Chord  string `json:"chord"`
	Degree string `json:"degree"`
	Word   string `json:"word"`
}

// paletteJSON is a tone of the palette over a chord.
type paletteJSON struct {
	Chord  string       `json:"chord"`
	Degree string       `json:"degree"`
	Note   string       `json:"note"`
	Role   changes.Role `json:"role"`
}

// changesCommand reads a line against the chords under it, or moves it over them.
//
// Read: each change with how the line lands there, the findings about chords, each note with its degree and role.
// Moved: the lick file with hands found, and on standard error what is not seen in it (what a limit left out, which
// finger a bass keeps busy). A limit (only:...) needs no chords.
func changesCommand(ctx context.Context, e env, args []string) error {
	fs := newFlags()
	over := fs.String("over", "", "`CHORDS` chords under the line, as in \"C#m7 | F#7\"; its own")
	follow := fs.String("follow", "key", "`key|chord` what the line's tones follow when it is moved")
	move := fs.String("move", "", "`HOW` each:degrees, each:shape, each:key, later:1/4, double, halve, answer:4, "+
		"tones:3, pairs, fill, fill:2& | 1 2&, grip:5 5 5 5, add:G7: b9, only:1 b3 5 or bass:steady")
	fs.Bool("forms", false, "lists the forms that chords may be named by; needs no file") // read above all others
	grips := fs.String("grips", "", "`CHORD` lists a chord's usual grips on four strings; needs no file")
	names := fs.String("names", "",
		"`FRETS` names the chords that a grip is, its frets from the thickest string to the thinnest; needs no file")
	asJSON := fs.Bool("json", false, "prints JSON")
	o := optionsOf(e, fs, true)
	if slices.Contains(args, "--forms") {
		for _, f := range changes.Forms() {
			fmt.Fprintf(e.out, "%-28s %s\n", f.Name, f.Text)
		}
		return nil
	}
	want := 1
	if slices.ContainsFunc(args,
		func(a string) bool { return strings.HasPrefix(a, "--grips") || strings.HasPrefix(a, "--names") }) {
		want = 0
	}
	rest, err := parse(fs, args, want, "the lick file")
	if err != nil {
		return err
	}
	if want == 0 {
		return gripsCommand(e, o, *grips, *names, *asJSON)
	}
	if *over != "" {
		*o.chords = *over
	}
	if *follow != "key" && *follow != "chord" {
		return fmt.Errorf("--follow %q is none: use key or chord", *follow)
	}
	player, l, err := o.playerAnd(ctx, rest[0])
	if err != nil {
		return err
	}
	if len(l.Chords) == 0 && (*move == "" || changes.NeedsChords(*move)) {
		return fmt.Errorf(`there are no chords under this line: write some, as in --over "Am7 | D7"`)
	}
	engine := judge.NewEngine(player)
	if *move != "" {
		moved, said, err := changes.Move(player.Guitar, l, *move)
		if err != nil {
			return err
		}
		list, err := propose.Hands(ctx, engine, moved, propose.Request{})
		if err != nil {
			return err
		}
		if len(list) > 0 {
			moved = list[0].Lick
		}
		busy, err := propose.Busy(ctx, engine, moved)
		if err != nil {
			return err
		}
		for _, s := range []string{said, busy} {
			if s != "" {
				fmt.Fprintln(e.err, s)
			}
		}
		return printLick(e, moved)
	}
	if *follow == "chord" {
		l = changes.FollowChords(l)
	}
	rep, err := engine.Check(ctx, l)
	if err != nil {
		return err
	}
	v := changesOf(l, rep)
	if *asJSON {
		return printJSON(e, v)
	}
	printChanges(e, v)
	return nil
}

// gripJSON is a grip with the chord that it is; strings count from the thin one.
type gripJSON struct {
	Chord   string   `json:"chord"`
	Frets   []int    `json:"frets"`
	Strings []int    `json:"strings"`
	Degrees []string `json:"degrees"`
}

// gripsCommand lists the usual grips of a chord, or the names of a grip. As JSON: {"grips": […]} or {"names": […]}.
func gripsCommand(e env, o options, chord, frets string, asJSON bool) error {
	player, err := o.player()
	if err != nil {
		return err
	}
	g := player.Guitar
	if frets != "" {
		places, err := changes.ParseGrip(g, frets)
		if err != nil {
			return err
		}
		names := append([]string{}, changes.NamesOf(g, places)...)
		if asJSON {
			return printJSON(e, map[string][]string{"names": names})
		}
		if len(names) == 0 {
			fmt.Fprintln(e.out, "no usual chord has just these tones")
			return nil
		}
		fmt.Fprintln(e.out, strings.Join(names, ", "))
		return nil
	}
	c, err := music.ParseChord(chord)
	if err != nil {
		return err
	}
	out := []gripJSON{}
	for thick := 4; thick <= len(g.Tuning); thick++ {
		for _, x := range changes.Grips(g, c, thick) {
			row := gripJSON{Chord: c.Name}
			for k, p := range x.Places {
				row.Frets, row.Strings = append(row.Frets, p.Fret), append(row.Strings, p.String)
				row.Degrees = append(row.Degrees, x.Degrees[k].String())
			}
			out = append(out, row)
			if !asJSON {
				fmt.Fprintf(e.out, "strings %d to %d  %-12s %s\n", thick, thick-3, x.Text(), x.Name())
			}
		}
	}
	if asJSON {
		return printJSON(e, map[string][]gripJSON{"grips": out})
	}
	if len(out) == 0 {
		fmt.Fprintf(e.out, "%s has no grip on four neighbouring strings of this instrument\n", c.Name)
	}
	return nil
}

// changesOf gathers what is printed. A chord that comes back is in the palette once.
func changesOf(l lick.Lick, rep *judge.Report) changesJSON {
	r := changes.Read(l)
	v := changesJSON{
		Notes:    []chordNoteJSON{},
		Landings: []landingJSON{},
		Rests:    []restJSON{},
		Palette:  []paletteJSON{},
		Findings: []judge.Finding{},
	}
	for _, n := range r.Notes {
		x := chordNoteJSON{Note: n.Note + 1, Role: n.Role}
		if n.Chord >= 0 && n.Role != "" {
			x.Chord, x.Degree = r.Chords[n.Chord].Name, n.Degree.String()
		}
		v.Notes = append(v.Notes, x)
	}
	for _, x := range r.Landings {
		c := r.Chords[x.Chord]
		p := l.Position(c.At)
		out := landingJSON{Bar: p.Bar, Beat: p.Beat, Chord: c.Name, OffBy: x.OffBy.String(), Word: x.Word}
		var degrees []string
		for _, i := range x.Notes {
			d, _ := changes.Of(c.Chord, nil, changes.Sounding(l, i))
			degrees = append(degrees, d.String())
		}
		if len(x.Notes) > 0 {
			out.Note, out.Degree = x.Notes[0]+1, strings.Join(degrees, " ")
		}
		v.Landings = append(v.Landings, out)
	}
	for _, x := range r.Rests {
		for _, i := range x.Notes {
			out := restJSON{Note: i + 1}
			if d, role := r.Tone(l, x, i); x.Chord >= 0 {
				out.Chord, out.Degree, out.Word = r.Chords[x.Chord].Name, d.String(), role.Meaning()
			}
			v.Rests = append(v.Rests, out)
		}
	}
	seen := map[string]bool{}
	for _, c := range r.Chords {
		p, ok := l.PaletteAt(c.At)
		if !ok || seen[c.Name] {
			continue
		}
		seen[c.Name] = true
		for _, t := range changes.FitOver(p, c.Chord, nil).Tones {
			v.Palette = append(v.Palette, paletteJSON{
				Chord:  c.Name,
				Degree: t.Degree.String(),
				Note:   t.Tone.Name.String(),
				Role:   t.Role,
			})
		}
	}
	for _, f := range rep.Findings {
		if f.OfChanges() {
			v.Findings = append(v.Findings, f)
		}
	}
	return v
}

// printChanges writes where phrases rest, landings, findings and notes as text.
// Columns are as wide as usual chord names need; a longer one pushes its row.
func printChanges(e env, v changesJSON) {
	for _, x := range v.Rests {
		if x.Chord != "" {
			fmt.Fprintf(e.out, "note %d rests on the %s of %s: %s\n", x.Note, x.Degree, x.Chord, x.Word)
		}
	}
	for _, x := range v.Landings {
		what := string(x.Word)
		if x.OffBy != "0" {
			what += " by " + strings.TrimPrefix(x.OffBy, "-") + " of a whole note"
		}
		if x.Degree != "" {
			what += ", on the " + x.Degree
		}
		fmt.Fprintf(e.out, "bar %d beat %d  %-8s %s\n", x.Bar, x.Beat, x.Chord, what)
	}
	for _, f := range v.Findings {
		fmt.Fprintf(e.out, "%-14s %s\n", f.Code, f.Text)
	}
	for _, n := range v.Notes {
		fmt.Fprintf(e.out, "%4s  %-8s %-4s %s\n", strconv.Itoa(n.Note), n.Chord, n.Degree, n.Role)
	}
}

// tonesOver judges a palette over chords. text is changes as they are typed, in 4/4: names or degrees of the key. What
// is shared with the next chord is where a line can stay.
func tonesOver(e env, p music.Palette, text string, asJSON bool) error {
	cs, err := changes.Parse(text, lick.Meter{Beats: 4, Unit: 4}, lick.Time{}, shape.KeyOf(p))
	if err != nil {
		return err
	}
	rows := []paletteJSON{}
	for k, c := range cs {
		chord, err := music.ParseChord(c.Name)
		if err != nil {
			return err
		}
		var next *music.Chord
		if k+1 < len(cs) {
			if n, err := music.ParseChord(cs[k+1].Name); err == nil {
				next = &n
			}
		}
		f := changes.FitOver(p, chord, next)
		for _, t := range f.Tones {
			rows = append(rows, paletteJSON{
				Chord:  c.Name,
				Degree: t.Degree.String(),
				Note:   t.Tone.Name.String(),
				Role:   t.Role,
			})
		}
		if asJSON {
			continue
		}
		scales := "it would take no scale that I know"
		if len(f.Scales) > 0 {
			scales = "by itself " + strings.Join(f.Scales, ", ")
		}
		fmt.Fprintf(e.out, "%s: %s\n", c.Name, scales)
		for _, t := range f.Tones {
			fmt.Fprintf(e.out, "  %-3s %-4s is its %-4s %s\n", t.Tone.Degree, t.Tone.Name, t.Degree, t.Role)
		}
		if next != nil && len(f.Shared) > 0 {
			fmt.Fprint(e.out, "  shared with ", next.Name, ":")
			for _, t := range f.Shared {
				fmt.Fprint(e.out, " ", t.Name)
			}
			fmt.Fprintln(e.out)
		}
	}
	if asJSON {
		return printJSON(e, rows)
	}
	return nil
}
