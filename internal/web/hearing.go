package web

import (
	"cmp"
	"context"
	"errors"
	"fmt"
	"net/http"
	"slices"
	"strconv"
	"strings"

	"ornamen/core/judge"
	"ornamen/core/lick"
	"ornamen/core/neck"
	"ornamen/core/shape"
	"ornamen/core/sound"
	"ornamen/internal/store"
)

// Small things are heard where they stand: a shape and a bend on Tones, a file before it is
// taken in, proposed hands. Each answers with samples and, beside them, when they light up.

// heardLick sends a lick that is no entry of the notebook: its samples, or its times where the
// address ends in /sounding. Both come from one player, made anew from the same address.
func (a *App) heardLick(w http.ResponseWriter, r *http.Request, l lick.Lick, o sound.Options) {
	p, err := playerOf(engineOf(r.Context()).Player.Guitar, l, o)
	if err != nil {
		a.fail(w, r, invalid{err})
		return
	}
	if strings.HasSuffix(r.URL.Path, "/sounding") {
		sendTimes(w, p, cmp.Or(o.Tempo, l.Tempo))
		return
	}
	sendWAV(w, r, p, l, false)
}

// tonesSound is the shape that the Tones screen shows, from low to high, or one of its bends
// after the tone that it leads to.
// GET, with the page's own fields, so that what is heard is what is seen.
func (a tonesScreen) tonesSound(w http.ResponseWriter, r *http.Request) {
	var f struct {
		tonesForm
		Bend string `form:"bend"` // "6:9^2": the place and how many half steps
	}
	if err := a.decode(r, &f); err != nil {
		a.fail(w, r, err)
		return
	}
	f.tonesForm = f.usual()
	g := engineOf(r.Context()).Player.Guitar
	l, o, err := lick.Lick{}, sound.Options{}, error(nil)
	if f.Bend != "" {
		l, err = bendLick(g, f.Bend)
		o.Target = true
	} else {
		l, err = a.shapeLick(&f.tonesForm, g)
	}
	if err != nil {
		a.fail(w, r, invalid{err})
		return
	}
	a.heardLick(w, r, l, o)
}

// shapeLick is a shape as a line in eighths, its tones from low to high, those of one step
// together.
func (a tonesScreen) shapeLick(f *tonesForm, g neck.Guitar) (lick.Lick, error) {
	l := lick.New()
	p, err := f.palette()
	if err != nil {
		return l, err
	}
	_, _, placed, err := a.layoutFor(f, g, p)
	if err != nil {
		return l, err
	}
	l.Tuning, l.Tempo = slices.Clone(g.Tuning), 100
	placed = slices.Clone(placed)
	slices.SortStableFunc(placed, func(a, b shape.Placed) int {
		return cmp.Or(cmp.Compare(a.Step, b.Step), cmp.Compare(a.Pitch, b.Pitch))
	})
	at, eighth := lick.Time{}, lick.NewTime(1, 8)
	for i, t := range placed {
		if i > 0 && (t.Step == 0 || t.Step != placed[i-1].Step) {
			at = at.Add(eighth)
		}
		l.Notes = append(l.Notes, lick.Note{At: at, Len: eighth, String: t.Place.String, Fret: t.Place.Fret})
	}
	l.Sort()
	return l, l.Validate()
}

// bendLick is one bend, a half note long: "2:8^2" is string 2 at fret 8 up by two half steps.
// It is read back from its file form, so that it is valid or an error.
func bendLick(g neck.Guitar, s string) (lick.Lick, error) {
	l := lick.New()
	place, by, _ := strings.Cut(s, "^")
	at, err := neck.ParsePlace(place)
	if err != nil {
		return l, err
	}
	half, err := strconv.ParseFloat(by, 64)
	if err != nil || !(half > 0 && half <= 4) || at.Fret == 0 {
		return l, fmt.Errorf("%q says no bend, as 2:8^2 does", cut(s))
	}
	l.Tuning, l.Tempo = slices.Clone(g.Tuning), 80
	l.Notes = []lick.Note{{Len: lick.NewTime(1, 2), String: at.String, Fret: at.Fret,
		Bend: &lick.Bend{Semitones: half, Shape: lick.BendUp}}}
	return lick.Parse(l.Encode())
}

// uploadSound is a line of a file as it sounds, before it is taken into the notebook.
// A zip has no one line to hear.
func (a notebookScreen) uploadSound(w http.ResponseWriter, r *http.Request) {
	u, f, ok := a.uploaded(w, r)
	if !ok {
		return
	}
	if isZip(u.name) {
		a.fail(w, r, store.ErrNotFound)
		return
	}
	in, err := a.understood(r.Context(), u, f.Line)
	if err != nil {
		a.fail(w, r, err)
		return
	}
	a.heardLick(w, r, in.Lick, sound.Options{})
}

// offered is the line with the proposed hands that a player wants to hear.
// They are found among the proposals by what they are, as when they are taken.
func (a benchScreen) offered(ctx context.Context, e store.Entry, f soundForm) (lick.Lick, error) {
	ask := askForm{Way: f.Way, Place: f.Free, From: f.From, Upto: f.Upto}
	list, err := a.proposed(ctx, e, ask)
	if err != nil {
		return e.Lick, err
	}
	for _, p := range list {
		if judge.HandsID(p.Lick) == f.Take {
			return p.Lick, nil
		}
	}
	return e.Lick, errors.New("those hands are no longer among the proposals; look again")
}
