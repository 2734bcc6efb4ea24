package notebook

import (
	"fmt"
	"net/http"
	"slices"

	"ornamen/core/lick"
	"ornamen/core/text"
	"ornamen/internal/web/page"
	"ornamen/internal/web/view"
)

// newLick makes an empty lick and opens it on the bench.
// POST. It has the player's tuning, and tones to begin with that can be changed.
func (a Screen) newLick(w http.ResponseWriter, r *http.Request) error {
	l := lick.New()
	l.Tuning = slices.Clone(page.EngineOf(r.Context()).Player.Guitar.Tuning)
	l.Title = "New lick"
	l.Key = lick.Key{Tonic: "A", Scale: "minor pentatonic"}
	return a.Begin(w, r, l, "made")
}

// copyLick makes a new lick of the version that is shown. POST. The copy begins its own history.
func (a Screen) copyLick(w http.ResponseWriter, r *http.Request) error {
	e, err := a.Entry(r)
	if err != nil {
		return err
	}
	e.Lick.Title = text.Cut(view.TitleOf(e.Lick)+", copy", 200)
	added, err := a.Add(r.Context(), e.Lick, fmt.Sprintf("copied from lick %d", e.ID))
	if err != nil {
		return err
	}
	return page.Redirect(w, r, fmt.Sprintf("/?show=%d", added.ID))
}
