package bench

import (
	"cmp"
	"context"
	"errors"
	"net/http"

	"ornamen/core/judge"
	"ornamen/core/lick"
	"ornamen/core/sound"
	"ornamen/core/turn"
	"ornamen/internal/store"
	"ornamen/internal/web/page"
	"ornamen/internal/web/view"
)

// heard is the lick that is to be heard, turned where that is asked, and its player.
func (a Screen) heard(r *http.Request) (p *sound.Renderer, l lick.Lick, f view.SoundForm, err error) {
	e, err := a.EntryAndForm(r, &f)
	if err == nil && f.Rev != 0 && f.Rev != e.Revision {
		e.Lick, err = a.At(r.Context(), e.ID, f.Rev)
	}
	if err == nil {
		p, l, err = a.playing(r.Context(), e, f)
	}
	return p, l, f, page.Mistake(err)
}

// playing makes the player. The three are ways to hear a line before it is taken: turned (the same words as the turn),
// a part backwards as it is practised, or with hands that were offered.
func (a Screen) playing(ctx context.Context, e store.Entry, f view.SoundForm) (*sound.Renderer, lick.Lick, error) {
	l := e.Lick
	if f.Turn != "" {
		var err error
		b := benchForm{Value: f.Turn}
		b.From, b.Upto, b.Note = f.From, f.Upto, f.Note
		if l, err = a.turnedLick(ctx, e, b); err != nil {
			return nil, l, err
		}
		f.From, f.Upto = 0, 0
	}
	if f.Back {
		var err error
		if l, err = turn.Turn(page.EngineOf(ctx).Player.Guitar, l, "backwards", max(0, f.From-1), f.Upto); err != nil {
			return nil, l, page.Refuse(err)
		}
	}
	if f.Take != "" {
		var err error
		if l, err = a.offered(ctx, e, f); err != nil {
			return nil, l, err
		}
	}
	p, err := f.Renderer(page.EngineOf(ctx).Player.Guitar, l)
	return p, l, err
}

// soundFile sends the lick as it sounds, while it is computed. GET /licks/ID/sound.wav. Nothing is computed ahead of
// what the page has read, so that a long loop costs what is heard of it.
func (a Screen) soundFile(w http.ResponseWriter, r *http.Request) error {
	p, l, f, err := a.heard(r)
	if err != nil {
		return err
	}
	return view.SendWAV(w, r, p, l, f.Save)
}

// soundTimes answers with them. GET /licks/ID/sounding, with the same form as the sound itself.
func (a Screen) soundTimes(w http.ResponseWriter, r *http.Request) error {
	p, l, f, err := a.heard(r)
	if err != nil {
		return err
	}
	return view.SendTimes(w, p, cmp.Or(f.Tempo, l.Tempo))
}

// offered is the line with the proposed hands that a player wants to hear.
// They are found among the proposals by what they are, as when they are taken.
func (a Screen) offered(ctx context.Context, e store.Entry, f view.SoundForm) (lick.Lick, error) {
	ask := page.HandsForm{Way: f.Way, Place: f.Free, From: f.From, Upto: f.Upto}
	list, err := a.Proposed(ctx, e, ask)
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
