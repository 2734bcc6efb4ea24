package practice

import (
	"context"
	"errors"
	"fmt"
	"io"
	"net/http"
	"slices"
	"strconv"

	"ornamen/core/hear"
	"ornamen/core/lick"
	"ornamen/core/neck"
	"ornamen/core/practice"
	"ornamen/core/sound"
	"ornamen/internal/store"
	"ornamen/internal/web/page"
)

// heardLine is what was heard of a part that was played.
type heardLine struct {
	Words string
	Notes []heardWord
}

// heardWord is one of its notes that was not there as written.
type heardWord struct {
	Note int
	Word string
}

// hearLine listens to the part on the stand, played alone at the ladder's tempo: a recording, or the simulated guitar
// with one note left out. It helps to find a slip; the player still says whether the round was clean.
func (a Screen) hearLine(w http.ResponseWriter, r *http.Request) error {
	q := r.URL.Query()
	id, err := strconv.ParseUint(q.Get("lick"), 10, 31)
	tempo, err2 := strconv.ParseFloat(q.Get("tempo"), 64)
	if err != nil || err2 != nil {
		return store.ErrNotFound
	}
	e, err := a.Get(r.Context(), uint(id))
	if err != nil {
		return err
	}
	p, err := a.pieces.Of(r.Context(), page.EngineOf(r.Context()), pieceOf(r.Context()), e)
	if err != nil {
		return err
	}
	k := slices.IndexFunc(p.Parts, func(x practice.Part) bool { return x.Name == q.Get("part") })
	if k < 0 {
		return page.Refuse(errors.New("that part is no longer there, as the line has changed; choose another"))
	}
	l, err := heardPart(page.EngineOf(r.Context()).Player.Guitar, e.Lick, p.Parts[k], tempo)
	if err != nil {
		return page.Refuse(err)
	}
	samples, rate, err := a.playedLine(r, l, p.Parts[k].From)
	if err != nil {
		return page.Mistake(err)
	}
	heard, err := page.Queued(r.Context(), a.Site, 0, func(ctx context.Context) ([]hear.Note, error) {
		return hear.Line(ctx, samples, rate, l)
	})
	if err != nil {
		return page.Mistake(err)
	}
	v := heardLine{Words: hear.Words(heard)}
	for _, h := range heard {
		if h.Word != hear.OnTime {
			word := h.Word
			if h.By != 0 {
				word = fmt.Sprintf("%s by %.0f ms", h.Word, max(h.By, -h.By))
			}
			v.Notes = append(v.Notes, heardWord{h.Note + p.Parts[k].From - 1, word})
		}
	}
	return a.Render(w, r, "line-heard", page.Page{Data: v})
}

// heardPart is a part as a line of its own at a tempo.
func heardPart(g neck.Guitar, l lick.Lick, part practice.Part, tempo float64) (lick.Lick, error) {
	out := practice.Line(g, l, part)
	out.Tempo = tempo
	if err := out.Validate(); err != nil {
		return out, err
	}
	return out, hear.Hearable(out)
}

// playedLine is what is listened to; simulate names a note that the simulated guitar leaves out, 0 for none.
func (a Screen) playedLine(r *http.Request, l lick.Lick, from int) ([]float32, int, error) {
	s := r.URL.Query().Get("simulate")
	if s == "" {
		data, err := io.ReadAll(r.Body)
		if err != nil {
			return nil, 0, err
		}
		return sound.ReadWAV(data)
	}
	gone, err := strconv.Atoi(s)
	if err != nil || gone != 0 && (gone < from || gone >= from+len(l.Notes)) {
		return nil, 0, errors.New("the simulated guitar leaves out a note of the part, or none")
	}
	played := l.Clone()
	if gone > 0 {
		played.Notes = slices.Delete(played.Notes, gone-from, gone-from+1)
	}
	p := sound.NewRenderer(page.EngineOf(r.Context()).Player.Guitar, played, sound.Options{Dry: true})
	out := make([]float32, p.Len())
	return out[:p.Read(out)], sound.Rate, nil
}
