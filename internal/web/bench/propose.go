package bench

import (
	"cmp"
	"context"
	"errors"
	"fmt"
	"net/http"
	"strconv"
	"strings"

	"ornamen/core/judge"
	"ornamen/core/lick"
	"ornamen/core/neck"
	"ornamen/core/pick"
	"ornamen/core/propose"
	"ornamen/core/turn"
	"ornamen/internal/store"
	"ornamen/internal/web/page"
	"ornamen/internal/web/view"
)

// offerView is the proposals side by side. The first is what the others are compared with: the
// recommended hands, the line as it is, the version before.
type offerView struct {
	ID     uint
	Rev    uint
	Form   page.Ask
	Habit  string
	Offers []view.Offer
	Turn   string // how the second offer was turned; empty for proposals
	Title  string
}

// pickedHow says how the report's line is picked.
func pickedHow(r *judge.Report) string { return page.SentenceCase(view.ChangesWords(r)) + "." }

// offers answers with the best few hands for the line.
// GET, the form's fields in the address: looking changes nothing. A line that is stale is
// offered hands for what it is now.
func (a Screen) offers(w http.ResponseWriter, r *http.Request) error {
	var f benchForm
	e, err := a.Look(r, &f)
	if err != nil {
		return err
	}
	v, err := a.offerView(r.Context(), e, f.Ask)
	if err != nil {
		return page.Mistake(err)
	}
	return a.Render(w, r, "offers-partial", page.Page{Data: v})
}

// offerView finds the proposals and what each changes against what is written.
// The first is the one recommended, the rest differ from it in a note or more and are marked
// where they do: each is called by what differs.
func (a Screen) offerView(ctx context.Context, e store.Entry, f page.Ask) (*offerView, error) {
	if len(e.Lick.Notes) == 0 {
		return nil, errors.New("there are no notes to propose hands for")
	}
	v := &offerView{ID: e.ID, Rev: e.Revision, Form: f, Habit: string(page.EngineOf(ctx).Player.Way)}
	proposals, err := a.Proposed(ctx, e, f)
	if err != nil {
		return nil, err
	}
	for i, p := range proposals {
		with := (*lick.Lick)(nil)
		if i > 0 {
			with = &proposals[0].Lick
		}
		o := view.OfferOf(i, p.Title, p.Why, p.Report, with)
		o.Use = judge.HandsID(p.Lick)
		v.Offers = append(v.Offers, o)
	}
	return v, nil
}

// takeEdit takes the proposal that the request names: exactly the hands that were
// shown. Where the open hands come out the same by themselves they stay open, so
// that they follow every later edit.
// Hands are named by what they are (judge.HandsID), not by their row: a list that was computed
// anew in the meantime gives the same hands or an error, never others.
func (a Screen) takeEdit(ctx context.Context, base store.Entry, f benchForm) (lick.Edit, error) {
	proposals, err := a.Proposed(ctx, base, f.Ask)
	if err != nil {
		return nil, err
	}
	for k, p := range proposals {
		if judge.HandsID(p.Lick) != f.Value {
			continue
		}
		if k > 0 {
			return lick.Replace{Lick: p.Lick, Why: "other hands"}, nil
		}
		return page.EngineOf(ctx).Take(ctx, base.Lick, lick.Replace{Lick: p.Lick, Why: "hands proposed"}, lick.OpenHands{})
	}
	return nil, errors.New("there is no such proposal any more; look again")
}

// turned answers with a part of the line turned, or restrung, beside what it is: a GET that
// changes nothing. Taking it sends the same words as an edit, which computes it again.
func (a Screen) turned(w http.ResponseWriter, r *http.Request) error {
	var f benchForm
	e, err := a.Look(r, &f)
	if err != nil {
		return err
	}
	if f.Value == "bend" || f.Value == "tail" {
		return a.otherParts(w, r, e, f)
	}
	if way, ok := strings.CutPrefix(f.Value, "restring:"); ok {
		return a.restrings(w, r, e, f, way)
	}
	l, err := a.turnedLick(r.Context(), e, f)
	var before, after *judge.Report
	if err == nil {
		before, err = a.Report(r.Context(), e)
	}
	if err == nil {
		after, err = page.EngineOf(r.Context()).Check(r.Context(), l)
	}
	if err != nil {
		return page.Mistake(err)
	}
	v := &offerView{ID: e.ID, Rev: e.Revision, Form: f.Ask, Turn: f.Value, Title: turnTitle(f.Value)}
	for i, x := range []struct {
		title string
		r     *judge.Report
	}{{"As it is", before}, {v.Title, after}} {
		v.Offers = append(v.Offers, view.OfferOf(i, x.title, pickedHow(x.r), x.r, nil))
	}
	return a.Render(w, r, "offers-partial", page.Page{Data: v})
}

// restrung restrings an entry for a way of picking.
// It searches, and so waits its turn; a newer request for the same lick ends it.
func (a Screen) restrung(ctx context.Context, e store.Entry, way string) (r propose.Restrung, err error) {
	w, err := pick.ParseWay(way)
	if err != nil {
		return r, err
	}
	err = a.Work.Do(ctx, e.ID, func(ctx context.Context) (err error) {
		r, err = propose.Restring(ctx, page.EngineOf(ctx), e.Lick, w)
		return err
	})
	return r, err
}

// restrungLick takes one of the restringings: "economy", or "economy:1" for another.
func (a Screen) restrungLick(ctx context.Context, e store.Entry, value string) (lick.Lick, error) {
	way, number, other := strings.Cut(value, ":")
	r, err := a.restrung(ctx, e, way)
	if err != nil || !other {
		return r.After.Lick, err
	}
	k, err := strconv.Atoi(number)
	if err != nil || k < 1 || k > len(r.Others) {
		return e.Lick, errors.New("there is no such restringing any more; look again")
	}
	return r.Others[k-1].Lick, nil
}

// restrings answers with the line on other strings, several side by side.
// Where no string change comes out cleaner the line stands alone, with a sentence that says so.
func (a Screen) restrings(w http.ResponseWriter, r *http.Request, e store.Entry, f benchForm, way string) error {
	found, err := a.restrung(r.Context(), e, way)
	if err != nil {
		return page.Mistake(err)
	}
	v := &offerView{ID: e.ID, Rev: e.Revision, Form: f.Ask, Turn: f.Value, Title: turnTitle(f.Value)}
	list := []propose.Proposal{found.Before}
	if found.Clean[1] < found.Clean[0] {
		list = append(append(list, found.After), found.Others...)
	}
	for i, p := range list {
		o := view.OfferOf(i, v.Title, p.Why+" "+pickedHow(p.Report), p.Report, nil)
		switch {
		case i == 0:
			o.Title, o.Why = "As it is", pickedHow(p.Report)
			if len(list) == 1 {
				o.Why += " No neighbouring strings make it cleaner."
			}
		case i > 1:
			o.Title, o.Use = "Or", fmt.Sprintf("restring:%s:%d", way, i-1)
		}
		v.Offers = append(v.Offers, o)
	}
	return a.Render(w, r, "offers-partial", page.Page{Data: v})
}

// maxParts is how many other bends or tails stand side by side.
const maxParts = 6

// partsFor lists what else the bend under the caret, or the tail after it, could be.
// They are listed in the same order each time, as they are taken by number.
func partsFor(g neck.Guitar, l lick.Lick, what string, note int) []turn.Changed {
	if what == "tail" {
		return turn.OtherTails(g, l, note-1)
	}
	return turn.OtherBends(g, l, note-1)
}

// otherParts answers with other bends or other tails side by side.
// Each is judged whole, as another bend changes what the hand needs before and after it.
func (a Screen) otherParts(w http.ResponseWriter, r *http.Request, e store.Entry, f benchForm) error {
	parts := partsFor(page.EngineOf(r.Context()).Player.Guitar, e.Lick, f.Value, f.Note)
	v := &offerView{ID: e.ID, Rev: e.Revision, Turn: f.Value, Title: fmt.Sprintf("Another bend on note %d", f.Note)}
	if f.Value == "tail" {
		v.Title = fmt.Sprintf("Another tail after note %d", f.Note)
	}
	switch {
	case len(parts) == 0 && f.Value == "tail":
		return page.Refuse(errors.New("there is no other tail from here; stand on a note with others after it, " +
			"in a lick with its tones chosen"))
	case len(parts) == 0:
		return page.Refuse(errors.New("there is no bend under the caret that could be another; " +
			"the lick needs its tones chosen"))
	}
	var err error
	add := func(k int, title string, l lick.Lick) {
		rep, e := page.EngineOf(r.Context()).Check(r.Context(), l)
		if err = cmp.Or(err, e); err != nil {
			return
		}
		o := view.OfferOf(k, title, view.VerdictLine(l, rep), rep, nil)
		o.Use = fmt.Sprintf("%s:%d:%d", f.Value, f.Note, k)
		v.Offers = append(v.Offers, o)
	}
	add(0, "As it is", e.Lick)
	for k, b := range parts[:min(maxParts, len(parts))] {
		add(k+1, b.What, b.Lick)
	}
	if err != nil {
		return err
	}
	return a.Render(w, r, "offers-partial", page.Page{Data: v})
}

// partLick takes one of the other bends or tails: "bend:NOTE:NUMBER".
func partLick(g neck.Guitar, l lick.Lick, value string) (lick.Lick, error) {
	words := strings.Split(value, ":")
	if len(words) == 3 {
		i, err1 := strconv.Atoi(words[1])
		k, err2 := strconv.Atoi(words[2])
		if parts := partsFor(g, l, words[0], i); err1 == nil && err2 == nil && k >= 1 && k <= len(parts) {
			return parts[k-1].Lick, nil
		}
	}
	return l, fmt.Errorf("there is no such %s any more; look again", words[0])
}

// turnTitle names a way to turn a line.
func turnTitle(how string) string {
	word, _, _ := strings.Cut(how, ":")
	return map[string]string{"backwards": "Backwards", "mirror": "The mirror", "rotate": "Begun elsewhere",
		"octave": "An octave on", "-octave": "An octave down", "restring": "Restrung", "bend": "Another bend",
		"tail": "Another tail", "string": "The same frets elsewhere", "degree": "The same figure elsewhere"}[word]
}

// turnedLick turns the selected notes and finds their hands again.
// Value is how: one of turn.Turn's words, "restring:WAY", "bend:NOTE:NUMBER" or
// "tail:NOTE:NUMBER". A preview, its sound and taking it all come here, so that what is taken
// is what was seen and heard.
func (a Screen) turnedLick(ctx context.Context, base store.Entry, f benchForm) (out lick.Lick, err error) {
	l, e := base.Lick, page.EngineOf(ctx)
	if strings.HasPrefix(f.Value, "bend:") || strings.HasPrefix(f.Value, "tail:") {
		return partLick(e.Player.Guitar, l, f.Value)
	}
	if way, ok := strings.CutPrefix(f.Value, "restring:"); ok {
		return a.restrungLick(ctx, base, way)
	}
	err = a.Work.Do(ctx, base.ID, func(ctx context.Context) error {
		from, to := 0, 0
		if f.From > 0 {
			from, to = f.From-1, min(f.Upto, len(l.Notes))
		}
		turned, err := turn.Turn(e.Player.Guitar, l, f.Value, from, to)
		if err != nil {
			return err
		}
		out, err = page.Handed(ctx, turned)
		return err
	})
	return out, err
}

// turnEdit is the edit that takes a turned line in.
func (a Screen) turnEdit(ctx context.Context, base store.Entry, f benchForm) (lick.Edit, error) {
	turned, err := a.turnedLick(ctx, base, f)
	return lick.Replace{Lick: turned, Why: strings.ToLower(turnTitle(f.Value))}, err
}
