package bench

import (
	"context"
	"errors"
	"fmt"
	"net/http"
	"slices"

	"ornamen/core/judge"
	"ornamen/core/lick"
	"ornamen/core/suit"
	"ornamen/core/text"
	"ornamen/internal/store"
	"ornamen/internal/web/page"
	"ornamen/internal/web/view"
)

// For whom does it flow? One row says how the line lies for every player of the notebook. For one who cannot play it
// yet there are hands of their own, other places and other keys; hands become that player's own fingers on the shared
// line, a place or a key a lick of its own.

// whomView is the row.
type whomView struct {
	Ref  string
	Rows []whomRow
}

// whomRow is one player of it.
type whomRow struct {
	Key, Name, Class, Word, Upto string
	Own                          bool // fingers of their own are set here
	Now                          bool // plays now
}

// whom answers with the row: a GET that changes nothing, and nothing where there is one player.
func (a Screen) whom(w http.ResponseWriter, r *http.Request) error {
	e, err := a.Entry(r)
	if err != nil {
		return err
	}
	v := whomView{Ref: page.RefOf(r.Context(), e.ID)}
	for _, p := range a.Players() {
		ctx := page.AsPlayer(r.Context(), p)
		own, err := a.Entry(r.WithContext(ctx))
		if err != nil {
			return err
		}
		rep, err := a.Report(ctx, own)
		if err != nil {
			return err
		}
		row := whomRow{
			Key:   p.Who.Key,
			Name:  p.Who.Name,
			Class: rep.Verdict.String(),
			Word:  view.SentenceWord(rep.Verdict),
			Upto:  view.CeilingWord(rep),
			Now:   p == page.Playing(r.Context()),
		}
		row.Own = slices.ContainsFunc(own.Lick.Notes, func(n lick.Note) bool { _, ok := n.Own[p.Who.Key]; return ok })
		v.Rows = append(v.Rows, row)
	}
	return a.Render(w, r, "whom", page.Page{Data: v})
}

// suits waits for its turn to find what suits the player of the context, and what the line is like before.
func (a Screen) suits(ctx context.Context, e store.Entry) (list []suit.Way, before *judge.Report, err error) {
	who := page.Playing(ctx)
	before, err = a.Report(ctx, e)
	if err != nil {
		return nil, nil, err
	}
	list, err = page.Queued(ctx, a.Site, e.ID, func(ctx context.Context) ([]suit.Way, error) {
		return suit.Ways(page.AsPlayer(ctx, who), who.Engine, e.Lick, before)
	})
	return list, before, err
}

// takes names a way as a form does.
func takes(x suit.Way) string { return string(x.Kind) + ":" + x.Key }

// suitTitle is what a card is called.
func suitTitle(x suit.Way, who string) string {
	switch x.Kind {
	case suit.Hands:
		return "Fingers of " + who + "’s own"
	case suit.Place:
		return "The same tones on other strings"
	}
	return "In " + x.Tonic.Pretty()
}

// suitForm names the player, and what is taken.
type suitForm struct {
	Who  string `form:"who"`
	Take string `form:"take"`
	Rev  uint   `form:"rev"`
}

// suited reads the form, and the line as the named player plays it.
func (a Screen) suited(r *http.Request) (ctx context.Context, e store.Entry, f suitForm, err error) {
	if err = a.Decode(r, &f); err != nil {
		return ctx, e, f, err
	}
	for _, p := range a.Players() {
		if p.Who.Key == f.Who {
			ctx = page.AsPlayer(r.Context(), p)
			e, err = a.WholeEntry(r.WithContext(ctx))
			if err == nil && len(e.Lick.Notes) == 0 {
				err = page.Refuse(errors.New("there are no notes to play otherwise"))
			}
			if n := len(e.Lick.Notes); err == nil && n >= page.LongLine {
				err = page.Refuse(fmt.Errorf("a line of %d notes is too long to be tried in other places; cut a part of it", n))
			}
			return ctx, e, f, err
		}
	}
	return ctx, e, f, page.Refuse(errors.New("that player is no longer in the notebook"))
}

// suitsPage answers with what would let a player play the line.
func (a Screen) suitsPage(w http.ResponseWriter, r *http.Request) error {
	ctx, e, _, err := a.suited(r)
	if err != nil {
		return err
	}
	who := page.Playing(ctx)
	list, before, err := a.suits(ctx, e)
	if err != nil {
		return err
	}
	v := &suitsView{ID: e.ID, Rev: e.Revision, Who: who.Who.Key, Name: who.Who.Name}
	v.Offers = append(v.Offers, view.OfferOf(0, "As it is", "", before, nil))
	for i, x := range list {
		o := view.OfferOf(i+1, suitTitle(x, who.Who.Name), x.Why, x.Report, &before.Lick)
		o.Use = takes(x)
		v.Offers = append(v.Offers, o)
	}
	return a.Render(w, r, "suits-partial", page.Page{Data: v})
}

// suitsView is the sheet of what suits a player.
type suitsView struct {
	ID, Rev   uint
	Who, Name string
	Offers    []view.Offer
}

// suit takes what suits a player. Hands are locked as that player's own; another place or key becomes a lick of its
// own, as the line is shared.
func (a Screen) suit(w http.ResponseWriter, r *http.Request) error {
	ctx, e, f, err := a.suited(r)
	if err != nil {
		return err
	}
	if f.Rev != e.Revision {
		return &store.StaleError{Lick: e.ID, Head: e.Revision}
	}
	who := page.Playing(ctx)
	list, _, err := a.suits(ctx, e)
	if err != nil {
		return err
	}
	k := slices.IndexFunc(list, func(x suit.Way) bool { return takes(x) == f.Take })
	if k < 0 {
		return page.Refuse(errors.New("that way is no longer there; look again"))
	}
	l := list[k].Report.Lick.Clone()
	for i, x := range l.Notes {
		l.Notes[i] = x.WithHands(x.Finger, x.Stroke)
	}
	if list[k].Kind == suit.Hands {
		own := e.Lick.Clone()
		for i, x := range l.Notes {
			own.Notes[i] = own.Notes[i].WithHands(x.Finger, x.Stroke)
		}
		return a.Change(w, r.WithContext(ctx), e.ID, e.Revision, own, "fingers of "+who.Who.Name+"’s own")
	}
	l = l.Bare()
	l.Title = text.Cut(view.TitleOf(e.Lick)+", for "+who.Who.Name, 200)
	return a.Begin(w, r.WithContext(ctx), l, fmt.Sprintf("from lick %d, for %s", e.ID, who.Who.Name))
}
