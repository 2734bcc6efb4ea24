package run

import (
	"cmp"
	"flag"
	"fmt"
	"io"
	"slices"
	"strconv"
	"strings"

	"ornamen/core/lick"
	"ornamen/core/neck"
	"ornamen/core/phrase"
	"ornamen/core/shape"
	"ornamen/core/text"
)

// thenName is the argument that goes on with another part, and then the word between the parts as it is written.
const (
	thenName = "then"
	then     = "--" + thenName
)

// maxParts is how many parts a recipe may have.
const maxParts = 32

// wholeRun are the arguments that one line has once: they stand in the first part.
var wholeRun = []string{"feel", "from", "pick", "tempo", "tuning", "loop"}

// OfWhole says whether an argument is one of the whole run, which only the first part has.
func OfWhole(name string) bool { return slices.Contains(wholeRun, name) }

// Inherited are the arguments that a part takes from the part before where it leaves them out. Who
// names another key names its added tones, shape and place too, and another shape another place.
var Inherited = []string{"key", "add", "drop", "layout", "at", "cell", "count"}

// heirs are the arguments that are not taken over where the one before the colon is named.
var heirs = map[string][]string{"key": {"add", "drop", "layout", "at"}, "layout": {"at"}}

// Parts are the recipe's parts in playing order, each complete: what a part leaves out of key,
// added and dropped tones, layout, place, cell and count it has from the part before. A recipe without
// "then" is its only part. An error names the word that stands in the way.
func (r Recipe) Parts() ([]Recipe, error) {
	said, err := r.said()
	if err != nil {
		return nil, err
	}
	for k := 1; k < len(said); k++ {
		if said[k] == (Recipe{}) {
			return nil, phrase.Wrong(then, "after it stands what the next part plays")
		}
		for _, name := range wholeRun {
			if said[k].Get(name) != "" {
				return nil, phrase.Wrong(said[k].Get(name), "the "+name+" of a run is said in its first part")
			}
		}
		takeOver(&said[k], said[k-1])
	}
	return said, nil
}

// takeOver fills in what a part leaves to the part before.
func takeOver(r *Recipe, before Recipe) {
	own := map[string]bool{}
	for _, name := range Inherited {
		if r.Get(name) == "" {
			continue
		}
		for _, heir := range heirs[name] {
			own[heir] = true
		}
	}
	for _, name := range Inherited {
		if r.Get(name) == "" && !own[name] {
			_ = r.Set(name, before.Get(name)) // a text is taken as it is
		}
	}
}

// said are the parts as they were written.
func (r Recipe) said() ([]Recipe, error) {
	rest := r.Then
	r.Then = ""
	if rest == "" {
		return []Recipe{r}, nil
	}
	words, err := split(rest)
	if err != nil {
		return nil, err
	}
	return readParts(r, append([]string{then}, words...))
}

// readParts reads words as arguments that go on with a recipe.
func readParts(r Recipe, words []string) ([]Recipe, error) {
	fs := flag.NewFlagSet("", flag.ContinueOnError)
	fs.SetOutput(io.Discard)
	fs.Usage = func() {}
	b := r.binder(fs)
	if err := fs.Parse(words); err != nil {
		return nil, cmp.Or(b.err, err)
	}
	if fs.NArg() > 0 {
		return nil, phrase.Wrong(fs.Arg(0), "an option begins with --")
	}
	return b.parts, nil
}

// Sequence is one recipe of several, each played where the one before ends. The parts are taken as
// they are: what one leaves out is what Parts takes from the one before.
func Sequence(parts ...Recipe) Recipe {
	rest := text.Map(parts[1:], Recipe.String)
	r := parts[0]
	if r.Then = strings.Join(rest, " "+then+" "); r.Then == "" && len(rest) > 0 {
		r.Then = " " // a part of which nothing is said yet
	}
	return r
}

// Brief is the sequence of complete parts, without what each has from the part before: the other way round from Parts.
func Brief(parts []Recipe) Recipe {
	out := []Recipe{parts[0]}
	for k := 1; k < len(parts); k++ {
		p, before := parts[k], parts[k-1]
		for _, name := range wholeRun {
			_ = p.Set(name, "") // nothing can be wrong with an empty value
		}
		if p.Count == "" && before.Count != "" {
			p.Count = "16"
		}
		named := map[string]bool{"key": p.Key != before.Key || p.Add == "" && before.Add != "" ||
			p.Drop == "" && before.Drop != "" || p.Layout == "" && p.Layout != before.Layout}
		named["layout"] = p.Layout != "" && (p.Layout != before.Layout || p.At == "" && before.At != "")
		named["key"] = named["key"] || p.At == "" && before.At != "" && !named["layout"]
		for _, name := range Inherited {
			named[name] = named[name] || p.Get(name) != before.Get(name)
			for _, heir := range heirs[name] {
				named[heir] = named[heir] || named[name]
			}
			if !named[name] {
				_ = p.Set(name, "")
			}
		}
		out = append(out, p)
	}
	return Sequence(out...)
}

// SetPart changes one argument of part k, counted from 0, as Set does; part 0 is the recipe's own.
func (r *Recipe) SetPart(k int, name, value string) error {
	parts, err := r.said()
	switch {
	case err != nil:
		return err
	case k < 0 || k >= len(parts):
		return phrase.Wrong(strconv.Itoa(k+1), "the run has no such part")
	}
	if err := parts[k].Set(name, value); err != nil {
		return err
	}
	*r = Sequence(parts...)
	return nil
}

// AddPart goes on with another part; RemovePart takes part k away. Both leave the recipe alone where it cannot be read.
func (r *Recipe) AddPart(more Recipe) {
	if parts, err := r.said(); err == nil {
		*r = Sequence(append(parts, more)...)
	}
}

// RemovePart takes part k, counted from 0, away; the first one cannot be.
func (r *Recipe) RemovePart(k int) {
	if parts, err := r.said(); err == nil && k > 0 && k < len(parts) {
		*r = Sequence(append(parts[:k:k], parts[k+1:]...)...)
	}
}

// Back is a part that goes on from a run as most do: the last part's cell and move, back the way it came. It
// begins a move before the place where the last cell was played, as at the turn of a run that goes up
// and down; where that is not to be found, where the layout begins that way.
func Back(last Recipe, grown *Run, g neck.Guitar) Recipe {
	more := Recipe{Dir: "down", Move: last.Move, Chords: last.Chords, Follow: last.Follow, Scales: last.Scales}
	if last.Dir == "down" || last.Dir == "updown" {
		more.Dir = "up"
	}
	if last.Dir != "updown" && last.Dir != "downup" {
		more.Times = last.Times
	}
	p, err := last.plan(g)
	if err != nil || p.move.kind != "tones" || len(grown.Cells) == 0 {
		return more
	}
	tones, err := shape.Lay(p.guitar, p.palette, p.layout, p.at)
	if err != nil {
		return more
	}
	lowest := len(tones)
	c := grown.Cells[len(grown.Cells)-1]
	for _, n := range grown.Lick.Notes[c.From:c.To] {
		if i := slices.IndexFunc(tones, func(t shape.Placed) bool { return t.Place == n.Place() }); i >= 0 {
			lowest = min(lowest, i)
		}
	}
	at := more
	if at.Start = lowest + 1 - p.move.by; more.Dir == "up" {
		at.Start = lowest + 1 + p.move.by
	}
	if at.Start < 1 {
		return more
	}
	whole := last
	whole.Start, whole.Dir, whole.Times, whole.DownCell, whole.Land, whole.Tail = at.Start, at.Dir, 1, "", "", ""
	if _, err := Grow(whole, g); err != nil {
		return more
	}
	if more.Times > 0 && at.Dir == "down" {
		at.Times = min(more.Times, (at.Start-1)/p.move.by+1)
	}
	return at
}

// sequence grows the parts of a recipe one after the other: each begins where the steps of the one before end. A
// landing on a beat can be said of the last part alone; the whole line then begins in time for it.
func sequence(r Recipe, g neck.Guitar) (*Run, error) {
	parts, err := r.Parts()
	if err != nil {
		return nil, err
	}
	if g, err = r.tuned(g); err != nil {
		return nil, err
	}
	var whole *Run
	for k, part := range parts {
		land, err := part.landing()
		if err != nil {
			return nil, err
		}
		if land.Beat > 0 && k < len(parts)-1 {
			return nil, phrase.Wrong(part.Land, "only the last part of a run lands on a beat")
		}
		if land.Beat > 0 && (r.From != "" || parts[0].Displace != "") {
			return nil, phrase.Wrong(part.Land, "a run of several parts lands on a beat if it may begin where it likes")
		}
		if k > 0 && land.Bar == 0 {
			part.Land = land.Anywhere()
		}
		part.Loop = false // the end of the whole leads back
		if k == 0 {
			if whole, err = growPart(part, g, lick.Time{}); err != nil {
				return nil, fmt.Errorf("part 1: %w", err)
			}
			continue
		}
		seam := whole.End
		next, err := growPart(part, g, seam)
		if err != nil {
			return nil, fmt.Errorf("part %d: %w", k+1, err)
		}
		// A last part that begins later, to land in its bar, takes all parts along.
		if !next.late.IsZero() {
			late := next.late
			begin(&next.Lick, late.Times(-1))
			begin(&whole.Lick, late)
			next.End, whole.End = next.End.Sub(late), whole.End.Add(late)
			seam = whole.End
		}
		if err := whole.append(next); err != nil {
			return nil, err
		}
		if land.Beat > 0 && land.Bar == 0 {
			b := builder{plan: &plan{land: &Landing{Beat: land.Beat}}, lick: whole.Lick}
			whole.Lick.Pickup = b.intoBar(seam.Add(next.Lick.Notes[next.Landing-1].At))
		}
	}
	whole.Lick.Loop = r.Loop
	whole.Lick.Recipe, whole.Lick.Title = r.asGiven().String(), r.Title()
	return whole, whole.Lick.Validate()
}

// landing reads what the recipe lands on; the zero value where it says nothing.
func (r Recipe) landing() (Landing, error) {
	if r.Land == "" {
		return Landing{}, nil
	}
	return ParseLanding(r.Land)
}

// append goes on with another run where the steps of this one end: its notes, cells, tones and what it has to say.
func (r *Run) append(next *Run) error {
	n, seam := len(r.Lick.Notes), r.End
	if n+len(next.Lick.Notes) > MaxNotes {
		return errTooLong
	}
	for _, x := range next.Lick.Notes {
		x.At = x.At.Add(seam)
		r.Lick.Notes = append(r.Lick.Notes, x)
	}
	r.Lick.JoinTones(next.Lick, seam, seam)
	for _, c := range next.Cells {
		r.Cells = append(r.Cells, Played{c.From + n, c.To + n, c.Tail})
	}
	r.Landing = 0
	if next.Landing > 0 {
		r.Landing = next.Landing + n
	}
	r.Remarks = append(r.Remarks, next.Remarks...)
	r.End = seam.Add(next.End)
	return nil
}
