package find

import (
	"cmp"
	"context"
	"fmt"
	"slices"

	"ornamen/core/lick"
	"ornamen/core/music"
	"ornamen/core/neck"
	"ornamen/core/phrase"
	"ornamen/core/run"
)

// Found is a recipe that reproduces a line, or a part of it: notes From to To, counted from 1.
type Found struct {
	Recipe   run.Recipe
	From, To int
}

// Find looks for the shortest recipe that gives a written line back note for note: places, times, slurs, bends and
// accents. Where none covers the whole line, the one that covers most of it is found; where no cell is played twice,
// the line itself as one statement of a cell, if it lies under the hand. ok is false where it does not, or where the
// line has more than MaxNotes notes or steps that are mostly silence. The error is the context's.
func Find(ctx context.Context, g neck.Guitar, l lick.Lick) (best Found, ok bool, err error) {
	g = g.WithTuning(l.Tuning)
	f := newFinder(ctx, g, l)
	if f == nil {
		return best, false, nil
	}
	ladders := f.ladders()
	// Octaves and positions are the same over every ladder.
	octaves, places := f.runs(ctx, f.octaves, 2), f.runs(ctx, f.along, 2)
	for _, c := range ladders {
		if ctx.Err() != nil {
			break
		}
		tones, strs := f.onSteps(c), f.onStrings(c)
		f.tryRuns(c, tones, f.runs(ctx, tones.apart, 1))
		f.tryRuns(c, tones.moved("octave"), octaves)
		f.tryRuns(c, tones.moved("position"), places)
		on := f.runs(ctx, strs.apart, 1)
		f.tryRuns(c, strs, on)
		f.tryRuns(c, strs.moved("octave"), on) // two strings over may be an octave in the same fingering
		f.mirrors(ctx, c, tones)
	}
	chords := f.overRoots()
	f.tryRuns(candidate{}, chords, runs{even: f.stretches(ctx, chords.apart, 3)})
	best, ok, err = f.first(ctx)
	if err != nil || ok && !f.chance(best) {
		return best, ok, err
	}
	// Nothing to speak of is played twice: the line may be one statement of a cell.
	f.tries = nil
	for _, lad := range ladders {
		f.itself(lad)
	}
	if one, is, err := f.first(ctx); is || err != nil {
		return one, is, err
	}
	return best, ok, nil
}

// first is the try that holds and covers most, of those the shortest.
func (f *finder) first(ctx context.Context) (best Found, ok bool, err error) {
	slices.SortStableFunc(f.tries, func(a, b try) int {
		return cmp.Or(cmp.Compare(b.covers, a.covers), cmp.Compare(len(a.text), len(b.text)))
	})
	for _, t := range f.tries {
		if err := context.Cause(ctx); err != nil {
			return best, false, fmt.Errorf("stopped: %w", err)
		}
		if found, yes := f.verify(t); yes {
			return found, true, nil
		}
	}
	if err := context.Cause(ctx); err != nil {
		return best, false, fmt.Errorf("stopped: %w", err)
	}
	return best, false, nil
}

// chance says whether a recipe covers so little of the line that it may be there by chance:
// less than four fifths of it, or a part of it by a cell of one step.
func (f *finder) chance(x Found) bool {
	covers, all := x.To-x.From+1, len(f.line.Notes)
	p, err := phrase.ParsePhrase(x.Recipe.Cell)
	single := err == nil && len(p.Cells) == 1 && len(p.Cells[0]) == 1
	return covers < all && (5*covers < 4*all || single)
}

// Together says the parts of a line as one recipe, a rest between two of them as the time by which
// the second is late. ok is false where they leave notes out or do not give the line back.
func Together(ctx context.Context, g neck.Guitar, l lick.Lick, parts []Found) (whole Found, ok bool) {
	if len(parts) == 0 {
		return whole, false
	}
	g = g.WithTuning(l.Tuning)
	f := newFinder(ctx, g, l)
	if f == nil {
		return Found{}, false
	}
	var recipes []run.Recipe
	covered, ends := 0, l.Notes[0].At
	for k, p := range parts {
		grown, err := run.Grow(p.Recipe, g)
		if err != nil || p.From != covered+1 {
			return Found{}, false
		}
		covered = p.To
		begins := l.Notes[p.From-1].At.Sub(grown.Lick.Notes[0].At)
		switch late := begins.Sub(ends); {
		case k == 0:
		case late.Before(lick.Time{}):
			return Found{}, false
		case !late.IsZero():
			p.Recipe.Displace = late.String()
		}
		ends = begins.Add(grown.End)
		recipes = append(recipes, p.Recipe)
	}
	if covered != len(l.Notes) {
		return Found{}, false
	}
	r := run.Brief(recipes)
	return f.verify(try{recipe: r, from: 0, to: len(f.items), covers: len(l.Notes), text: r.String()})
}

// Parts looks for the recipes that a line is joined of: the one of Find, then what it leaves
// before and after itself, as long as there are a few notes to look at. They are in playing
// order and do not overlap. Together says them as one. The error is the context's.
func Parts(ctx context.Context, g neck.Guitar, l lick.Lick) ([]Found, error) {
	f, ok, err := Find(ctx, g, l)
	if err != nil || !ok {
		return nil, err
	}
	var out []Found
	for _, side := range []struct{ from, to int }{{0, f.From - 1}, {f.From - 1, f.To}, {f.To, len(l.Notes)}} {
		if side.from == f.From-1 && side.to == f.To {
			out = append(out, f)
			continue
		}
		if side.to-side.from < fewNotes {
			continue
		}
		part := l.Clone()
		part.Notes, part.Parts, part.Pickup = part.Notes[side.from:side.to], nil, lick.Time{}
		part.Key, part.Keys = l.KeyAt(part.Notes[0].At), nil
		more, err := Parts(ctx, g, part)
		if err != nil {
			return nil, err
		}
		for _, m := range more {
			m.From, m.To = m.From+side.from, m.To+side.from
			out = append(out, m)
		}
	}
	return out, nil
}

// fewNotes is how many notes a part has at least that is looked for.
const fewNotes = 4

// finder holds the line as steps of equal length.
//
// It guesses and proves. Guess: the line is laid beside itself, one cell later, for cells of every length and by every
// reading; where the repeats agree, the first cell and its move are written as a recipe and kept as a try with the
// notes it may cover. Prove: the tries, those that cover most and are shortest first, are grown, and the first that
// gives the written line back note for note is the answer. So nothing is found that is not true, and a guess too many
// costs time alone. Cost: about layouts · n² comparisons of notes for n steps, then one growing a try.
//
// Worked example: 6:5 6:8 5:5 | 6:8 5:5 5:7 lie on steps 0 1 2 | 1 2 3 of the A minor pentatonic box at 6:5: every step
// of the second cell lies one higher, so the cell is "1 2 3" and its move one tone.
type finder struct {
	guitar  neck.Guitar
	line    lick.Lick
	palette music.Palette
	key     string
	count   string
	items   []item
	tries   []try
	seen    map[string]bool
}

// try is a recipe that may give items [from, to) back.
type try struct {
	recipe   run.Recipe
	from, to int    // items
	covers   int    // notes
	text     string // of the recipe
}

// verify grows a recipe and compares it with the line, note for note.
//
// Times are compared from the first note on, places as they are. A part of a line may begin with a slur from the note
// before it, which the recipe cannot know, and its last note may be longer or shorter; the whole line must agree in
// these too. Fingers and strokes are not part of a recipe and are not looked at.
func (f *finder) verify(t try) (Found, bool) {
	run, err := run.Grow(t.recipe, f.guitar)
	if err != nil {
		return Found{}, false
	}
	var want []lick.Note
	first := -1
	for _, it := range f.items[t.from:t.to] {
		if len(it.notes) == 0 {
			continue
		}
		if first < 0 {
			first = it.first
		}
		want = append(want, it.notes...)
	}
	got := run.Lick.Notes
	if len(got) != len(want) || len(want) == 0 {
		return Found{}, false
	}
	start, begin := want[0].At, got[0].At
	whole := len(want) == len(f.line.Notes)
	for i, n := range got {
		w := want[i]
		n.At, w.At = n.At.Sub(begin), w.At.Sub(start)
		last := n.At == got[len(got)-1].At.Sub(begin)
		if n.At != w.At || n.Place() != w.Place() || n.Accent != w.Accent || !sameBend(n.Bend, w.Bend) ||
			(n.Vibrato == nil) != (w.Vibrato == nil) || n.Slur != w.Slur && (i > 0 || whole) ||
			n.Len != w.Len && (whole || !last) {
			return Found{}, false
		}
	}
	if whole && t.recipe.Land != "" && run.Lick.Pickup.Cmp(f.line.Pickup) != 0 {
		return Found{}, false
	}
	return Found{t.recipe, first + 1, first + len(want)}, true
}

// sameBend compares what a recipe can say of a bend: how far, and whether it starts bent or comes down.
func sameBend(a, b *lick.Bend) bool {
	if a == nil || b == nil {
		return a == b
	}
	return a.Semitones == b.Semitones && a.Shape == b.Shape
}
