package runs

import (
	"context"
	"errors"
	"fmt"
	"net/http"
	"slices"
	"strings"

	"ornamen/core/find"
	"ornamen/core/lick"
	"ornamen/core/run"
	"ornamen/core/say"
	"ornamen/internal/store"
	"ornamen/internal/web/page"
)

// findRecipe looks for the recipe that a written lick follows and says it, with the way to adopt it: what the lick
// knows of itself first, then what the finder finds, of the whole or of parts. GET; the answer is a notice on the
// bench, with links and no change.
func (a Screen) findRecipe(w http.ResponseWriter, r *http.Request) error {
	e, err := a.Entry(r)
	if err != nil {
		return err
	}
	if len(e.Lick.Parts) > 0 {
		return a.Tell(w, r, partsNotice(e))
	}
	if e.Lick.Recipe != "" {
		if known, err := run.Parse(e.Lick.Recipe); err == nil {
			return a.Tell(w, r, page.Notice{Text: "It was grown from " + e.Lick.Recipe,
				Actions: []page.Action{{Label: "Change the recipe", Link: adopt(e, known)}}})
		}
	}
	parts, err := a.parted(r.Context(), e)
	switch {
	case err != nil:
		return err
	case len(parts) == 0:
		return a.Tell(w, r,
			page.Notice{Text: "No cell in this line is played twice, so no recipe is shorter than the line."})
	case parts[0].To-parts[0].From+1 == len(e.Lick.Notes):
		return a.Tell(w, r, page.Notice{Text: "The whole line follows " + parts[0].Recipe.String(),
			Actions: []page.Action{{Label: "Adopt it", Link: adopt(e, parts[0].Recipe)}}})
	}
	n := foundNotice(e, parts)
	if whole, ok := find.Together(r.Context(), page.EngineOf(r.Context()).Player.Guitar, e.Lick, parts); ok {
		n.Text += " As one: " + whole.Recipe.String()
		n.Actions = slices.Insert(n.Actions, 0, page.Action{Label: "Adopt it", Link: adopt(e, whole.Recipe)})
	}
	return a.Tell(w, r, n)
}

// parted are the recipes that a line is joined of.
// The search may take a second on a long line, and a newer one for the same lick ends it.
func (a Screen) parted(ctx context.Context, e store.Entry) ([]find.Found, error) {
	return page.Queued(ctx, a.Site, e.ID, func(ctx context.Context) ([]find.Found, error) {
		return find.Parts(ctx, page.EngineOf(ctx).Player.Guitar, e.Lick)
	})
}

// foundNotice says which notes follow which recipe, with the way to look at each and to keep them with the lick.
func foundNotice(e store.Entry, parts []find.Found) page.Notice {
	var says []string
	n := page.Notice{Actions: []page.Action{{Label: "Keep them with the lick", Post: fmt.Sprintf("/licks/%d/parts", e.ID),
		Rev: e.Revision}}}
	for _, p := range parts {
		says = append(says, fmt.Sprintf("notes %d to %d of %d follow %s", p.From, p.To, len(e.Lick.Notes), p.Recipe))
		if len(n.Actions) <= maxPartActions {
			n.Actions = append(n.Actions, page.Action{Label: fmt.Sprintf("Open %d to %d in Runs", p.From, p.To),
				Link: runsForm{Recipe: p.Recipe}.address()})
		}
	}
	n.Text = page.SentenceCase(strings.Join(says, "; ")) + "."
	return n
}

// keepParts gives a lick the recipes that its parts follow, so that each can be changed by itself. POST. They are found
// again here rather than sent by the page: what is kept is what is in the line.
func (a Screen) keepParts(w http.ResponseWriter, r *http.Request) error {
	e, err := a.Entry(r)
	if err != nil {
		return err
	}
	parts, err := a.parted(r.Context(), e)
	if err != nil {
		return err
	}
	l := e.Lick.Clone()
	for _, p := range parts {
		l.Parts = append(l.Parts, lick.Part{From: p.From - 1, To: p.To, Recipe: p.Recipe.String()})
	}
	switch {
	case len(e.Lick.Parts) > 0 || e.Lick.Recipe != "":
		return page.Refuse(errors.New("the lick has its recipes already"))
	case len(parts) == 0:
		return page.Refuse(errors.New("no recipe is found in this line"))
	}
	if _, err := a.CommitShown(r.Context(), e.ID, e.Revision, l, "its parts found"); err != nil {
		return err
	}
	return page.Redirect(w, r, fmt.Sprintf("/licks/%d", e.ID))
}

// maxPartActions is how many parts a notice offers to change.
const maxPartActions = 6

// partsNotice says of which parts a lick is joined, with the way to change each.
// A part whose recipe cannot be read has no way to change it.
func partsNotice(e store.Entry) page.Notice {
	n := page.Notice{Text: fmt.Sprintf("%s of it were grown by recipes.", say.Count(len(e.Lick.Parts), "part"))}
	if len(e.Lick.Parts) == 1 {
		n.Text = "One part of it was grown by a recipe."
	}
	for k, p := range e.Lick.Parts {
		known, err := run.Parse(p.Recipe)
		if err != nil || len(n.Actions) == maxPartActions {
			continue // written by a later version, say
		}
		known.Tempo = e.Lick.Tempo
		n.Actions = append(n.Actions, page.Action{Label: fmt.Sprintf("Change notes %d to %d", p.From+1, p.To),
			Link: runsForm{Recipe: known, Lick: e.ID, Rev: e.Revision, Part: k + 1}.address()})
	}
	return n
}

// adopt is the way to change a lick by its recipe.
func adopt(e store.Entry, r run.Recipe) string {
	r.Tempo = e.Lick.Tempo
	return runsForm{Recipe: r, Lick: e.ID, Rev: e.Revision}.address()
}
