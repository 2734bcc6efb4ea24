package web

import (
	"context"
	"errors"
	"fmt"
	"html/template"
	"io"
	"net/http"
	"strconv"
	"time"

	"ornamen/core/lick"
	"ornamen/core/music"
	"ornamen/core/practice"
	"ornamen/core/sound"
	"ornamen/internal/practising"
	"ornamen/internal/store"
	"ornamen/internal/web/draw"
)

// bendEar is a bent note that can be checked by ear.
type bendEar struct {
	Note         int
	Words        string // "high E 12, full to 5"
	Query        string // what plays its target, then the bend
	Last, Trials string
}

// heardBend is what was heard of a bend.
type heardBend struct {
	Note   int
	Words  []string
	InTune bool
	Course template.HTML
}

// maxRecording is how large a recording of one bend may be: a dozen seconds.
const maxRecording = 4 << 20

// bendPart names a bend in the log.
func bendPart(note int) string { return fmt.Sprintf("bend of note %d", note) }

// bendsOf lists the bent notes of a part with what the log says of each.
func bendsOf(l lick.Lick, part practice.Part, log []practice.Entry, id uint) (out []bendEar) {
	for i := part.From - 1; i < part.To; i++ {
		n := l.Notes[i]
		if n.Bend == nil {
			continue
		}
		b := bendEar{Note: i + 1, Query: fmt.Sprintf("bend=%s^%g", n.Place().Notation(), n.Bend.Semitones)}
		b.Words = fmt.Sprintf("%s %d, %s", shortString(l, n.String), n.Fret, bendWord(n.Bend.Semitones))
		if p, ok := l.PaletteAt(n.At); ok {
			b.Words += " to " + p.At(targetOf(l, i)).Degree.Pretty()
		}
		good, all := 0, 0
		for _, e := range log {
			if e.Lick == id && e.Part == bendPart(i+1) {
				good, all = good+e.Clean, all+e.Clean+e.Missed
			}
		}
		if all > 0 {
			b.Trials = fmt.Sprintf("%d of %d in tune", good, all)
		}
		out = append(out, b)
	}
	return out
}

// targetOf is the pitch that a bend leads to.
func targetOf(l lick.Lick, i int) music.Pitch {
	return l.Pitch(i) + music.Pitch(l.Notes[i].Bend.Semitones)
}

// bendWord says how far a bend goes.
func bendWord(half float64) string {
	switch half {
	case 0.5:
		return "a curl"
	case 1:
		return "half a step"
	case 2:
		return "a full step"
	case 3:
		return "a step and a half"
	}
	return fmt.Sprintf("%g half steps", half)
}

// hearBend listens to a bend: a recording that the page sends while a key is held, or the
// simulated guitar with an error in cents. Nothing is kept of it but the numbers.
func (a practiceScreen) hearBend(w http.ResponseWriter, r *http.Request) {
	q := r.URL.Query()
	id, err := strconv.ParseUint(q.Get("lick"), 10, 31)
	note, err2 := strconv.Atoi(q.Get("note"))
	if err != nil || err2 != nil {
		a.fail(w, r, store.ErrNotFound)
		return
	}
	e, err := a.store.Get(r.Context(), uint(id))
	if err != nil {
		a.fail(w, r, err)
		return
	}
	if note < 1 || note > len(e.Lick.Notes) || e.Lick.Notes[note-1].Bend == nil {
		a.fail(w, r, invalid{errors.New("that note is not bent")})
		return
	}
	samples, rate, err := a.recorded(r, e.Lick, note-1)
	if err != nil {
		a.fail(w, r, mistake(err))
		return
	}
	var heard sound.HeardBend
	err = a.work.Do(r.Context(), 0, func(context.Context) (err error) {
		heard, err = sound.HearBend(samples, rate, targetOf(e.Lick, note-1))
		return err
	})
	if err != nil {
		a.fail(w, r, mistake(err))
		return
	}
	entry := practice.Entry{
		Lick:     e.ID,
		Title:    titleOf(e.Lick),
		Revision: e.Revision,
		Part:     bendPart(note),
		From:     note,
		To:       note,
		Time:     time.Now(),
		Minutes:  0.2,
	}
	if heard.InTune() {
		entry.Clean = 1
	} else {
		entry.Missed = 1
	}
	if err := practising.Add(r.Context(), a.store, entry); err != nil {
		a.fail(w, r, err)
		return
	}
	a.render(w, r, http.StatusOK, "bend-heard", page{Data: heardBend{note, heard.Words(), heard.InTune(),
		draw.BendCourseSVG(heard)}})
}

// recorded is what is listened to.
func (a practiceScreen) recorded(r *http.Request, l lick.Lick, i int) ([]float32, int, error) {
	if s := r.URL.Query().Get("simulate"); s != "" {
		cents, err := strconv.ParseFloat(s, 64)
		if err != nil || !(cents >= -150 && cents <= 150) {
			return nil, 0, errors.New("the simulated guitar misses by −150 to 150 cents")
		}
		return sound.SimulatedBend(engineOf(r.Context()).Player.Guitar, l.Notes[i], l.Tuning, cents), sound.Rate, nil
	}
	data, err := io.ReadAll(r.Body)
	if err != nil {
		return nil, 0, err
	}
	return sound.ReadWAV(data)
}
