package bench

import (
	"cmp"
	"context"
	"errors"
	"fmt"
	"net/http"
	"slices"
	"strings"

	"ornamen/core/judge"
	"ornamen/core/lick"
	"ornamen/core/music"
	"ornamen/core/propose"
	"ornamen/core/say"
	"ornamen/core/shape"
	"ornamen/core/text"
	"ornamen/core/turn"
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

// suit is one way to make a line fit for a player.
type suit struct {
	use, title, why string
	report          *judge.Report
}

// Limits of what is tried for a player: keys at most so many half steps away.
const (
	suitHands = 2
	suitKeys  = 6
)

// suits waits for its turn to find what suits the player of the context.
func (a Screen) suits(ctx context.Context, e store.Entry) ([]suit, error) {
	who := page.Playing(ctx)
	list, err := page.Queued(ctx, a.Site, e.ID, func(ctx context.Context) ([]suit, error) {
		return a.suiting(page.AsPlayer(ctx, who), e)
	})
	return list, err
}

// suiting is what would let a player play a line: other hands, other places, other keys; the best of each sort, those
// that flow before those that do not, and then what changes least first.
func (a Screen) suiting(ctx context.Context, e store.Entry) ([]suit, error) {
	p := page.Playing(ctx)
	before, err := a.Report(ctx, e)
	if err != nil {
		return nil, err
	}
	open := openHanded(e.Lick)
	var out []suit
	seen := map[string]bool{judge.HandsID(before.Lick): true}
	offer := func(kind, title, why string, r *judge.Report) {
		if id := judge.HandsID(r.Lick); !seen[id] && better(r, before) {
			seen[id] = true
			out = append(out, suit{use: kind + ":" + id, title: title, why: why, report: r})
		}
	}
	for _, free := range []bool{false, true} {
		kind, title := "hands", "Fingers of "+p.Who.Name+"’s own"
		if free {
			kind, title = "place", "The same tones on other strings"
		}
		if free && len(open.Notes) > propose.MaxFreePlaces {
			continue
		}
		list, err := propose.Hands(ctx, p.Engine, open, propose.Request{Best: suitHands, Place: free})
		if err != nil {
			return nil, err
		}
		for _, x := range list[:min(suitHands, len(list))] {
			offer(kind, title, x.Why, x.Report)
		}
	}
	if from, ok := e.Lick.Palette(); ok {
		var keys []suit
		for by := -suitKeys; by <= suitKeys; by++ {
			tonic := music.UsualName(from.Tonic.Class()+by, from.Minor())
			to, err := shape.ToKey(e.Lick, tonic.String()+" "+e.Lick.Key.Scale)
			if by == 0 || err != nil {
				continue
			}
			moved, err := turn.Recolour(open, p.Engine.Player.Guitar.WithTuning(open.Tuning), to, shape.NearestPlace)
			if err != nil {
				continue // there is no room for it
			}
			r, err := p.Engine.Check(ctx, openHanded(moved.Lick))
			if err != nil {
				return nil, err
			}
			if better(r, before) {
				where := "higher"
				if by < 0 {
					where = "lower"
				}
				keys = append(keys, suit{
					use:    "key:" + to.Tonic.String(),
					title:  "In " + to.Tonic.Pretty(),
					why:    fmt.Sprintf("The same line %s %s.", say.Count(max(by, -by), "half step"), where),
					report: r,
				})
			}
		}
		slices.SortStableFunc(keys, func(x, y suit) int {
			return cmp.Or(cmp.Compare(x.report.Verdict, y.report.Verdict), cmp.Compare(y.report.Ceiling, x.report.Ceiling))
		})
		out = append(out, keys[:min(suitHands, len(keys))]...)
	}
	slices.SortStableFunc(out, func(x, y suit) int { return cmp.Compare(x.report.Verdict, y.report.Verdict) })
	return out, nil
}

// better says whether a line lies better for the hand.
func better(r, before *judge.Report) bool {
	return r.Verdict < before.Verdict || r.Verdict == before.Verdict && r.Ceiling > before.Ceiling
}

// openHanded is a line with all fingers and strokes open.
func openHanded(l lick.Lick) lick.Lick {
	l = l.Clone()
	for i := range l.Notes {
		setHands(&l.Notes[i], lick.NoFinger, "")
	}
	return l
}

// setHands gives a note its finger and its stroke, each locked where there is one.
func setHands(n *lick.Note, f lick.Finger, s lick.Stroke) {
	n.Finger, n.Stroke = f, s
	n.Lock = n.Lock.With(lick.FieldFinger, f != lick.NoFinger).With(lick.FieldStroke, s != "")
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
	before, err := a.Report(ctx, e)
	if err != nil {
		return err
	}
	list, err := a.suits(ctx, e)
	if err != nil {
		return err
	}
	v := &suitsView{ID: e.ID, Rev: e.Revision, Who: who.Who.Key, Name: who.Who.Name}
	v.Offers = append(v.Offers, view.OfferOf(0, "As it is", "", before, nil))
	for i, s := range list {
		o := view.OfferOf(i+1, s.title, s.why, s.report, &before.Lick)
		o.Use = s.use
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
	list, err := a.suits(ctx, e)
	if err != nil {
		return err
	}
	k := slices.IndexFunc(list, func(s suit) bool { return s.use == f.Take })
	if k < 0 {
		return page.Refuse(errors.New("that way is no longer there; look again"))
	}
	kind, _, _ := strings.Cut(f.Take, ":")
	l := list[k].report.Lick.Clone()
	own := e.Lick.Clone()
	for i, x := range l.Notes {
		setHands(&l.Notes[i], x.Finger, x.Stroke)
		if kind == "hands" {
			setHands(&own.Notes[i], x.Finger, x.Stroke)
		}
	}
	if kind == "hands" {
		return a.Change(w, r.WithContext(ctx), e.ID, e.Revision, own, "fingers of "+who.Who.Name+"’s own")
	}
	l = l.Bare()
	l.Title = text.Cut(view.TitleOf(e.Lick)+", for "+who.Who.Name, 200)
	return a.Begin(w, r.WithContext(ctx), l, fmt.Sprintf("from lick %d, for %s", e.ID, who.Who.Name))
}
