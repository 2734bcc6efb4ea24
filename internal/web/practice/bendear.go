package practice

import (
	"context"
	"errors"
	"fmt"
	"html/template"
	"io"
	"net/http"
	"strconv"
	"strings"

	"ornamen/core/hear"
	"ornamen/core/lick"
	"ornamen/core/music"
	"ornamen/core/practice"
	"ornamen/core/say"
	"ornamen/core/sound"
	"ornamen/internal/practising"
	"ornamen/internal/store"
	"ornamen/internal/web/draw"
	"ornamen/internal/web/page"
	"ornamen/internal/web/view"
)

// bendEar is a bent note that can be checked by ear.
// Trials is what the log says of it, "3 of 5 in tune", empty where it was never tried.
type bendEar struct {
	Name         string // of the note in the lick, or the bend as in "2:8^2"
	Words        string // "high E 12, full to 5"
	Query        string // what plays its target, then the bend
	Last, Trials string
}

// heardBend is what was heard of a bend. Course is the pitch over time against the target.
type heardBend struct {
	Name   string
	Words  []string
	InTune bool
	Course template.HTML
}

// bendPart names a bend in the log, by its note or by itself.
func bendPart(name string) string {
	if strings.Contains(name, "^") {
		return "bend " + name
	}
	return "bend of note " + name
}

// bendsOf lists the bent notes of a part with what the log says of each.
func bendsOf(l lick.Lick, part practice.Part, book *practice.Book, id uint) (out []bendEar) {
	for i := part.From - 1; i < part.To; i++ {
		n := l.Notes[i]
		if n.Bend == nil {
			continue
		}
		b := bendEar{Name: strconv.Itoa(i + 1), Query: fmt.Sprintf("bend=%s^%g", n.Place().Notation(),
			n.Bend.Semitones)}
		b.Words = fmt.Sprintf("%s %d, %s", view.ShortString(l, n.String), n.Fret, say.BendSize(n.Bend.Semitones))
		if p, ok := l.PaletteAt(n.At); ok {
			b.Words += " to " + p.At(targetOf(l, i)).Degree.Pretty()
		}
		b.Trials = trials(book, id, b.Name)
		out = append(out, b)
	}
	return out
}

// targetBends lists the bends that the tones of a part offer beside its own.
func targetBends(l lick.Lick, targets []practice.Target, book *practice.Book, id uint) (out []bendEar) {
	for _, t := range targets {
		name := fmt.Sprintf("%s^%d", t.From.Notation(), t.Semitones)
		out = append(out, bendEar{
			Name:   name,
			Query:  "bend=" + name,
			Trials: trials(book, id, name),
			Words: fmt.Sprintf("%s %d, %s to %s", view.ShortString(l, t.From.String), t.From.Fret,
				say.BendSize(float64(t.Semitones)), t.To.Degree.Pretty()),
		})
	}
	return out
}

// heardName says which bend was heard.
func heardName(l lick.Lick, n lick.Note, name string) string {
	if strings.Contains(name, "^") {
		return fmt.Sprintf("%s %d, %s", view.ShortString(l, n.String), n.Fret, say.BendSize(n.Bend.Semitones))
	}
	return "Note " + name
}

// trials says what the log has of a bend.
func trials(book *practice.Book, id uint, name string) string {
	good, all := 0, 0
	for _, e := range book.Part(id, bendPart(name)) {
		if e.Lick == id && e.Part == bendPart(name) {
			good, all = good+e.Clean, all+e.Clean+e.Missed
		}
	}
	if all == 0 {
		return ""
	}
	return fmt.Sprintf("%d of %d in tune", good, all)
}

// bentNote is the bend that a name means: that of a note of the lick, or one by itself on the lick's strings. The
// result is a line and the index of the bent note in it; a bend by itself is a line of one note.
func (a Screen) bentNote(ctx context.Context, l lick.Lick, name string) (lick.Lick, int, error) {
	if strings.Contains(name, "^") {
		g := page.EngineOf(ctx).Guitar(l)
		one, err := view.BendLick(g, name)
		if err == nil && !g.Has(one.Notes[0].Place()) {
			err = errors.New("that bend is not on this neck")
		}
		return one, 0, err
	}
	note, err := strconv.Atoi(name)
	if err != nil || note < 1 || note > len(l.Notes) || l.Notes[note-1].Bend == nil {
		return l, 0, errors.New("that note is not bent")
	}
	return l, note - 1, nil
}

// targetOf is the pitch that a bend leads to.
func targetOf(l lick.Lick, i int) music.Pitch {
	return l.Pitch(i) + music.Pitch(l.Notes[i].Bend.Semitones)
}

// hearBend listens to a bend: a recording that the page sends while a key is held, or the
// simulated guitar with an error in cents. The result goes into the log as a round of that
// bend, clean where it was in tune. Nothing is kept of the sound.
//
// POST, the recording (WAV) as the body; lick, note and simulate in the address. A sound in which no bend is heard is
// an error of one sentence and no round. A try counts as twelve seconds of practice.
func (a Screen) hearBend(w http.ResponseWriter, r *http.Request) error {
	q := r.URL.Query()
	id, err := strconv.ParseUint(q.Get("lick"), 10, 31)
	if err != nil {
		return store.ErrNotFound
	}
	e, err := a.Get(r.Context(), uint(id))
	if err != nil {
		return err
	}
	name := q.Get("note")
	bent, at, err := a.bentNote(r.Context(), e.Lick, name)
	if err != nil {
		return page.Refuse(err)
	}
	samples, rate, err := a.recorded(r, bent, at)
	if err != nil {
		return page.Mistake(err)
	}
	heard, err := page.Queued(r.Context(), a.Site, 0, func(ctx context.Context) (hear.Bent, error) {
		return hear.Bend(ctx, samples, rate, targetOf(bent, at))
	})
	if err != nil {
		return page.Mistake(err)
	}
	entry := practice.Entry{
		Lick:     e.ID,
		Title:    view.TitleOf(e.Lick),
		Revision: e.Revision,
		Part:     bendPart(name),
		Time:     a.Store.Now(),
		Minutes:  0.2,
	}
	if heard.InTune() {
		entry.Clean = 1
	} else {
		entry.Missed = 1
	}
	if _, err := practising.Add(r.Context(), a.Store, who(r.Context()), entry); err != nil {
		return err
	}
	return a.Render(w, r, "bend-heard", page.Page{Data: heardBend{
		Name:   heardName(e.Lick, bent.Notes[at], name),
		Words:  heard.Words(),
		InTune: heard.InTune(),
		Course: draw.BendCourseSVG(heard),
	}})
}

// recorded is what is listened to. The samples, and how many of them make a second.
func (a Screen) recorded(r *http.Request, l lick.Lick, i int) ([]float32, int, error) {
	if s := r.URL.Query().Get("simulate"); s != "" {
		cents, err := strconv.ParseFloat(s, 64)
		if err != nil || !(cents >= -150 && cents <= 150) {
			return nil, 0, errors.New("the simulated guitar misses by −150 to 150 cents")
		}
		return sound.SimulatedBend(page.EngineOf(r.Context()).Player.Guitar, l.Notes[i], l.Tuning, cents), sound.Rate, nil
	}
	data, err := io.ReadAll(r.Body)
	if err != nil {
		return nil, 0, err
	}
	return sound.ReadWAV(data)
}
