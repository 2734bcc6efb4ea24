package web

import (
	"errors"
	"fmt"
	"html/template"
	"net/http"
	"strconv"
	"strings"

	"ornamen/core/lick"
	"ornamen/core/pick"
	"ornamen/core/play"
	"ornamen/core/run"
	"ornamen/internal/store"
	"ornamen/internal/web/draw"
)

// maxOffered is how many proposals stand side by side.
const maxOffered = 4

// askForm is what a proposal may change.
type askForm struct {
	Way   string `form:"way"`
	Place bool   `form:"free"`
	From  int    `form:"from"` // the selection, from 1; 0 for the whole line
	Upto  int    `form:"upto"`
}

func (f askForm) ask(l lick.Lick) (play.Ask, error) {
	a := play.Ask{Place: f.Place, Best: maxOffered}
	if f.Way != "" {
		way, err := pick.ParseWay(f.Way)
		if err != nil {
			return a, err
		}
		a.Way = way
	}
	if f.Place && len(l.Notes) > play.MaxFreePlaces {
		return a, fmt.Errorf("free places take lines of up to %d notes, this one has %d", play.MaxFreePlaces, len(l.Notes))
	}
	for i := max(1, f.From); f.From > 0 && i <= min(f.Upto, len(l.Notes)); i++ {
		a.Notes = append(a.Notes, i-1)
	}
	return a, nil
}

// offerView is the proposals side by side.
type offerView struct {
	ID     uint
	Rev    uint
	Form   askForm
	Habit  string
	Offers []offer
	Turn   string // how the second offer was turned; empty for proposals
	Title  string
}

type offer struct {
	Index   int
	Title   string
	Ceiling string
	Best    string
	Word    string
	Class   string
	Why     string
	Hands   template.HTML
	Use     string // what takes it, where that is not the view's
}

// offers answers with the best few hands for the line.
func (a *App) offers(w http.ResponseWriter, r *http.Request) {
	e, f, ok := a.benchLook(w, r)
	if !ok {
		return
	}
	v, err := a.offerView(e, f.askForm)
	if err != nil {
		a.fail(w, r, invalid{err})
		return
	}
	a.render(w, r, http.StatusOK, "offers-partial", page{Data: v})
}

func (a *App) offerView(e store.Entry, f askForm) (*offerView, error) {
	if len(e.Lick.Notes) == 0 {
		return nil, errors.New("there are no notes to propose hands for")
	}
	ask, err := f.ask(e.Lick)
	if err != nil {
		return nil, err
	}
	v := &offerView{ID: e.ID, Rev: e.Revision, Form: f, Habit: string(a.engine().Player.Way)}
	proposals := a.engine().Propose(e.Lick, ask)
	first := &proposals[0].Lick
	for i, p := range proposals {
		o := offer{Index: i, Title: "Recommended", Word: sentenceWord(p.Report.Verdict), Class: p.Report.Verdict.String(), Why: p.Why, Ceiling: ceilingWord(p.Report)}
		if p.BestPossible > 0 {
			o.Best = fmt.Sprint(p.BestPossible.Whole())
		}
		with := first
		if i == 0 {
			with = nil
		} else {
			o.Title = "Another way"
			if p.Ceiling >= p.BestPossible*(1-1e-9) && p.Ceiling > proposals[0].Ceiling*(1+1e-9) {
				o.Title = "As fast as possible"
			}
		}
		o.Hands = draw.HandsSVG(p.Lick, with, p.Report.Bottleneck)
		v.Offers = append(v.Offers, o)
	}
	return v, nil
}

// takeEdit takes the proposal that the request names. The recommended one of the
// whole line in the player's own way leaves the hands open, so that they follow
// every later edit; any other is written into the notes.
func (a *App) takeEdit(f benchForm, l lick.Lick) (lick.Edit, error) {
	k, err := strconv.Atoi(f.Value)
	if err != nil {
		return nil, errors.New("there is no such proposal")
	}
	if k == 0 && f.askForm == (askForm{}) {
		return lick.OpenHands{}, nil
	}
	ask, err := f.ask(l)
	if err != nil {
		return nil, err
	}
	proposals := a.engine().Propose(l, ask)
	if k < 0 || k >= len(proposals) {
		return nil, errors.New("there is no such proposal any more; look again")
	}
	what := "hands proposed"
	if k > 0 {
		what = "other hands"
	}
	return lick.Replace{Lick: proposals[k].Lick, Why: what}, nil
}

// turned answers with a part of the line turned, or restrung, beside what it is.
func (a *App) turned(w http.ResponseWriter, r *http.Request) {
	e, f, ok := a.benchLook(w, r)
	if !ok {
		return
	}
	if f.Value == "bend" || f.Value == "tail" {
		a.otherParts(w, r, e, f)
		return
	}
	l, err := a.turnedLick(f, e.Lick)
	if err != nil {
		a.fail(w, r, invalid{err})
		return
	}
	v := &offerView{ID: e.ID, Rev: e.Revision, Form: f.askForm, Turn: f.Value, Title: turnTitle(f.Value)}
	before := a.report(e)
	for i, x := range []struct {
		title string
		r     *play.Report
	}{{"As it is", before}, {v.Title, a.engine().Check(l)}} {
		o := offer{Index: i, Title: x.title, Word: sentenceWord(x.r.Verdict), Class: x.r.Verdict.String(), Ceiling: ceilingWord(x.r), Why: sentenceCase(changesWords(x.r)) + ".", Hands: draw.HandsSVG(x.r.Lick, nil, x.r.Bottleneck)}
		if x.r.BestPossible > 0 {
			o.Best = fmt.Sprint(x.r.BestPossible.Whole())
		}
		v.Offers = append(v.Offers, o)
	}
	a.render(w, r, http.StatusOK, "offers-partial", page{Data: v})
}

// maxParts is how many other bends or tails stand side by side.
const maxParts = 6

// partsFor lists what else the bend under the caret, or the tail after it, could be.
func (a *App) partsFor(l lick.Lick, what string, note int) []run.Changed {
	if what == "tail" {
		return run.OtherTails(a.engine().Player.Guitar, l, note-1)
	}
	return run.OtherBends(a.engine().Player.Guitar, l, note-1)
}

// otherParts answers with other bends or other tails side by side.
func (a *App) otherParts(w http.ResponseWriter, r *http.Request, e store.Entry, f benchForm) {
	parts := a.partsFor(e.Lick, f.Value, f.Note)
	v := &offerView{ID: e.ID, Rev: e.Revision, Turn: f.Value, Title: fmt.Sprintf("Another bend on note %d", f.Note)}
	if f.Value == "tail" {
		v.Title = fmt.Sprintf("Another tail after note %d", f.Note)
	}
	switch {
	case len(parts) == 0 && f.Value == "tail":
		a.fail(w, r, invalid{errors.New("there is no other tail from here; stand on a note with others after it, in a lick with its tones chosen")})
		return
	case len(parts) == 0:
		a.fail(w, r, invalid{errors.New("there is no bend under the caret that could be another; the lick needs its tones chosen")})
		return
	}
	add := func(k int, title string, l lick.Lick) {
		rep := a.engine().Check(l)
		v.Offers = append(v.Offers, offer{Index: k, Title: title, Word: sentenceWord(rep.Verdict), Class: rep.Verdict.String(), Ceiling: ceilingWord(rep), Why: verdictLine(l, rep), Hands: draw.HandsSVG(rep.Lick, nil, rep.Bottleneck), Use: fmt.Sprintf("%s:%d:%d", f.Value, f.Note, k)})
	}
	add(0, "As it is", e.Lick)
	for k, b := range parts[:min(maxParts, len(parts))] {
		add(k+1, b.What, b.Lick)
	}
	a.render(w, r, http.StatusOK, "offers-partial", page{Data: v})
}

// partLick takes one of the other bends or tails: "bend:NOTE:NUMBER".
func (a *App) partLick(l lick.Lick, value string) (lick.Lick, error) {
	words := strings.Split(value, ":")
	if len(words) == 3 {
		i, err1 := strconv.Atoi(words[1])
		k, err2 := strconv.Atoi(words[2])
		if parts := a.partsFor(l, words[0], i); err1 == nil && err2 == nil && k >= 1 && k <= len(parts) {
			return parts[k-1].Lick, nil
		}
	}
	return l, fmt.Errorf("there is no such %s any more; look again", words[0])
}

func turnTitle(how string) string {
	word, _, _ := strings.Cut(how, ":")
	return map[string]string{"backwards": "Backwards", "mirror": "The mirror", "rotate": "Begun elsewhere", "octave": "An octave on", "-octave": "An octave down", "restring": "Restrung", "bend": "Another bend", "tail": "Another tail"}[word]
}

// turnedLick turns the selected notes and finds their hands again.
func (a *App) turnedLick(f benchForm, l lick.Lick) (lick.Lick, error) {
	if strings.HasPrefix(f.Value, "bend:") || strings.HasPrefix(f.Value, "tail:") {
		return a.partLick(l, f.Value)
	}
	if way, ok := strings.CutPrefix(f.Value, "restring:"); ok {
		w, err := pick.ParseWay(way)
		if err != nil {
			return l, err
		}
		r, err := a.engine().Restring(l, w)
		return r.After.Lick, err
	}
	from, to := 0, 0
	if f.From > 0 {
		from, to = f.From-1, min(f.Upto, len(l.Notes))
	}
	turned, err := run.Turn(a.engine().Player.Guitar, l, f.Value, from, to)
	if err != nil {
		return l, err
	}
	return a.engine().Propose(turned, play.Ask{})[0].Lick, nil
}

func (a *App) turnEdit(f benchForm, l lick.Lick) (lick.Edit, error) {
	turned, err := a.turnedLick(f, l)
	return lick.Replace{Lick: turned, Why: strings.ToLower(turnTitle(f.Value))}, err
}
