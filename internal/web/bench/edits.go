package bench

import (
	"context"

	"ornamen/core/edit"
	"ornamen/core/lick"
	"ornamen/internal/store"
	"ornamen/internal/web/page"
)

// editOf turns a request into an edit of the lick it was made on. What needs only the lick and
// the guitar is read by package edit, for the command line too; what must be computed first,
// and would be computed anew if it were not remembered, is read here: a fix, a proposal, a line
// turned, a line that goes on.
func (a Screen) editOf(ctx context.Context, base store.Entry, f benchForm) (lick.Edit, error) {
	switch f.Do {
	case "fix":
		return a.FixEdit(ctx, base, f.Value)
	case "take":
		return a.takeEdit(ctx, base, f)
	case "turn":
		return a.turnEdit(ctx, base, f)
	case "append":
		return a.appendEdit(ctx, base, f)
	}
	asked := edit.Words{Note: f.Note, Do: f.Do, Value: f.Value}
	if f.Do == "place" || f.Do == "add" {
		asked.Value = f.To + " " + f.Next
	}
	return edit.Read(page.EngineOf(ctx).Player.Guitar, base.Lick, asked)
}
