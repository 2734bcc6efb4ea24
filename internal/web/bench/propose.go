package bench

import (
	"context"
	"errors"
	"fmt"
	"net/http"
	"slices"
	"strconv"
	"strings"

	"ornamen/core/changes"
	"ornamen/core/judge"
	"ornamen/core/lick"
	"ornamen/core/neck"
	"ornamen/core/pick"
	"ornamen/core/propose"
	"ornamen/core/run"
	"ornamen/core/turn"
	"ornamen/internal/store"
	"ornamen/internal/web/page"
	"ornamen/internal/web/view"
)

// offerView is what can stand in place of the line, side by side. The first is what the others are
// compared with: the recommended hands, the line as it is, the version before.
type offerView struct {
	ID     uint
	Rev    uint
	Form   page.HandsForm
	Habit  string
	Offers []view.Offer
	Kind   string // of ways; "hands" for proposals
	Kinds  []wayKind
	None   string // why there is nothing else
}

// Hands says whether these are proposals of hands.
func (v *offerView) Hands() bool { return v.Kind == handsKind }

// offers answers with the best few hands for the line. GET, the form's fields in the address: looking changes nothing.
// A line that is stale is offered hands for what it is now.
func (a Screen) offers(w http.ResponseWriter, r *http.Request) error {
	var f benchForm
	e, err := a.EntryAndForm(r, &f)
	if err != nil {
		return err
	}
	// A run that was picked in a way of its own is first shown in that.
	if grown, err := run.Parse(e.Lick.Recipe); f.Way == "" && e.Lick.Recipe != "" && err == nil {
		f.Way = run.ValueOf("pick", grown.Pick)
	}
	v, err := a.offerView(r.Context(), e, f.HandsForm)
	if err != nil {
		return page.Mistake(err)
	}
	return a.Render(w, r, "offers-partial", page.Page{Data: v})
}

// offerView finds the proposals and what each changes against what is written. The first is the one recommended, the
// rest differ from it in a note or more and are marked where they do: each is called by what differs.
func (a Screen) offerView(ctx context.Context, e store.Entry, f page.HandsForm) (*offerView, error) {
	if len(e.Lick.Notes) == 0 {
		return nil, errors.New("there are no notes to propose hands for")
	}
	v := &offerView{ID: e.ID, Rev: e.Revision, Form: f, Habit: string(page.EngineOf(ctx).Player.Way), Kind: handsKind,
		Kinds: wayKinds}
	proposals, err := a.Proposed(ctx, e, f)
	var with *lick.Lick
	for i, p := range proposals {
		o := view.OfferOf(i, p.Title, p.Why, p.Report, with)
		o.Use, with = judge.HandsID(p.Lick), &proposals[0].Lick
		v.Offers = append(v.Offers, o)
	}
	return v, err
}

// proposal finds proposed hands by what they are (judge.HandsID), not by their row: a list that was computed anew in
// the meantime gives the same hands or an error, never others. rank is their row, 0 for the recommended ones.
func (a Screen) proposal(ctx context.Context, e store.Entry, ask page.HandsForm, id string) (
	rank int, l lick.Lick, err error) {
	list, err := a.Proposed(ctx, e, ask)
	if err != nil {
		return 0, e.Lick, err
	}
	k := slices.IndexFunc(list, func(p propose.Proposal) bool { return judge.HandsID(p.Lick) == id })
	if k < 0 {
		return 0, e.Lick, errors.New("there is no such proposal any more; look again")
	}
	return k, list[k].Lick, nil
}

// takeEdit takes the proposal that the request names: exactly the hands that were shown. Where the open hands come out
// the same by themselves they stay open, so that they follow every later edit.
func (a Screen) takeEdit(ctx context.Context, base store.Entry, f benchForm) (lick.Edit, error) {
	rank, l, err := a.proposal(ctx, base, f.HandsForm, f.Value)
	if err != nil || rank > 0 {
		return lick.Replace{Lick: l, Why: "other hands"}, err
	}
	return page.EngineOf(ctx).Take(ctx, base.Lick, lick.Replace{Lick: l, Why: "hands proposed"}, lick.OpenHands{})
}

// restrung restrings an entry for a way of picking.
// It searches, and so waits its turn; a newer request for the same lick ends it.
func (a Screen) restrung(ctx context.Context, e store.Entry, way string) (r propose.Restrung, err error) {
	w, err := pick.ParseWay(way)
	if err != nil {
		return r, err
	}
	return page.Queued(ctx, a.Site, e.ID, func(ctx context.Context) (propose.Restrung, error) {
		return propose.Restring(ctx, page.EngineOf(ctx), e.Lick, w)
	})
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

// turnedLick turns the selected notes and finds their hands again. Value is how: one of turn.Turn's words,
// "restring:WAY", "bend:NOTE:NUMBER", "tail:NOTE:NUMBER", or "over:" and one of the moves over chords. A preview, its
// sound and taking it all come here, so that what is taken is what was seen and heard.
func (a Screen) turnedLick(ctx context.Context, base store.Entry, f benchForm) (lick.Lick, error) {
	l, g := base.Lick, page.EngineOf(ctx).Player.Guitar
	if strings.HasPrefix(f.Value, "bend:") || strings.HasPrefix(f.Value, "tail:") {
		return partLick(g, l, f.Value)
	}
	if way, ok := strings.CutPrefix(f.Value, "restring:"); ok {
		return a.restrungLick(ctx, base, way)
	}
	return page.Queued(ctx, a.Site, base.ID, func(ctx context.Context) (out lick.Lick, err error) {
		from, to := 0, 0
		if f.From > 0 {
			from, to = f.From-1, min(f.Upto, len(l.Notes))
		}
		if move, ok := strings.CutPrefix(f.Value, "over:"); ok {
			out, _, err = changes.Move(g, l, move)
		} else {
			out, err = turn.Turn(g, l, f.Value, from, to)
		}
		if err != nil {
			return l, err
		}
		return page.Handed(ctx, out)
	})
}

// turnEdit is the edit that takes a turned line in.
func (a Screen) turnEdit(ctx context.Context, base store.Entry, f benchForm) (lick.Edit, error) {
	turned, err := a.turnedLick(ctx, base, f)
	return lick.Replace{Lick: turned, Why: strings.ToLower(wayTitle(f.Value))}, err
}
