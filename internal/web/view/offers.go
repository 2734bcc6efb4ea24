package view

import (
	"fmt"
	"html/template"

	"ornamen/core/judge"
	"ornamen/core/lick"
	"ornamen/internal/web/draw"
)

// Offer is one line as a card: a proposal, a version, a line that was turned.
type Offer struct {
	Index   int // 0 is what the others are compared with
	Title   string
	Ceiling string // as ceilingWord says it
	Best    string // the best possible ceiling; empty where there is none
	Word    string // the verdict in a word
	Class   string // and as the style sheet knows it
	Why     string
	Hands   template.HTML
	Use     string // what takes it, where that is not the view's
}

// OfferOf is a judged line as a card: what it is called, why it is offered, its numbers and
// its hands, those marked that differ from another line's (nil for none).
func OfferOf(index int, title, why string, r *judge.Report, with *lick.Lick) Offer {
	o := Offer{Index: index, Title: title, Why: why, Word: SentenceWord(r.Verdict),
		Class: r.Verdict.String(), Ceiling: CeilingWord(r), Hands: draw.HandsSVG(r.Lick, with, r.Bottleneck)}
	if r.BestPossible > 0 {
		o.Best = fmt.Sprint(r.BestPossible.Whole())
	}
	return o
}
