package bench

import (
	"net/http"

	"ornamen/core/lick"
	"ornamen/core/sound"
	"ornamen/core/turn"
	"ornamen/internal/web/page"
	"ornamen/internal/web/view"
)

// heard is the lick that is to be heard, and its renderer. There are three ways to hear a line before it is taken:
// turned (the same words as the turn), a part backwards as it is practised, or with hands that were offered.
func (a Screen) heard(r *http.Request) (p *sound.Renderer, l lick.Lick, f view.SoundForm, err error) {
	e, err := a.EntryAndForm(r, &f)
	if err == nil && f.Rev != 0 && f.Rev != e.Revision {
		e.Lick, err = a.At(r.Context(), e.ID, f.Rev)
	}
	if err != nil {
		return nil, l, f, page.Mistake(err)
	}
	ctx, l := r.Context(), e.Lick
	g := page.EngineOf(ctx).Player.Guitar
	part := f
	if f.Turn != "" {
		b := benchForm{Value: f.Turn}
		b.From, b.Upto, b.Note = f.From, f.Upto, f.Note
		l, err = a.turnedLick(ctx, e, b)
		part.From, part.Upto = 0, 0
	}
	if f.Back && err == nil {
		l, err = turn.Turn(g, l, "backwards", max(0, part.From-1), part.Upto)
	}
	if f.Take != "" && err == nil {
		_, l, err = a.proposal(ctx, e, page.HandsForm{Way: f.Way, Place: f.Free, From: part.From, Upto: part.Upto}, f.Take)
	}
	if err == nil {
		p, err = part.Renderer(g, l)
	}
	return p, l, f, page.Mistake(err)
}

// sound sends the lick as it sounds, while it is computed, GET /licks/ID/sound.wav, or with the same form when its
// notes sound, /licks/ID/sounding. Nothing is computed ahead of what the page has read, so that a long loop costs what
// is heard of it.
func (a Screen) sound(w http.ResponseWriter, r *http.Request) error {
	p, l, f, err := a.heard(r)
	if err != nil {
		return err
	}
	return f.Send(w, r, p, l)
}
