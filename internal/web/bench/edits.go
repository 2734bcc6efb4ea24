package bench

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"net/http"
	"strings"

	"ornamen/core/edit"
	"ornamen/core/lick"
	"ornamen/core/text"
	"ornamen/format/tab"
	"ornamen/internal/handover"
	"ornamen/internal/store"
	"ornamen/internal/web/page"
)

// editOf turns a request into an edit of the lick it was made on. What needs only the lick and the guitar is read by
// package edit, for the command line too; what must be computed first, and would be computed anew if it were not
// remembered, is read here: a fix, a proposal, a line turned, a line that goes on.
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
	case "paste":
		return a.pasteEdit(ctx, base.Lick, f)
	}
	asked := edit.Words{Note: f.Note, Do: f.Do, Value: f.Value}
	if target, _ := edit.TargetOf(f.Do); target == edit.ToEach || target == edit.ToNotes {
		asked.Notes = f.selected(base.Lick)
	}
	if f.Do == "place" || f.Do == "add" {
		asked.Value = f.To + " " + f.Next
	}
	return edit.Read(page.EngineOf(ctx).Player.Guitar, base.Lick, asked)
}

// pasteEdit puts what was copied, or text from elsewhere, in place of the selection or after the note
// under the caret. Text is a lick file or tablature, with its first line where it holds several.
func (a Screen) pasteEdit(ctx context.Context, l lick.Lick, f benchForm) (lick.Edit, error) {
	if strings.TrimSpace(f.Value) == "" {
		return nil, errors.New("there is nothing to paste: copy notes first, or tablature from a mail")
	}
	name := "pasted.tab"
	if strings.HasPrefix(strings.TrimSpace(f.Value), "{") {
		name = "pasted.json"
	}
	r, err := handover.Read(ctx, page.EngineOf(ctx), name, []byte(f.Value), 0)
	if err != nil {
		return nil, fmt.Errorf("this cannot be pasted as notes: %w", err)
	}
	x := lick.Paste{After: min(f.Note, len(l.Notes)) - 1, Over: f.selected(l),
		Clip: lick.Clip{Lick: r.Lick, Len: r.Lick.End()}}
	if long, err := lick.ParseTime(f.Span); err == nil && !long.Before(x.Clip.Len) {
		x.Clip.Len = long
	}
	return x, nil
}

// copied is what a selection is elsewhere: its notes as a lick, how long it lasts, and tablature for a mail.
type copied struct {
	Lick json.RawMessage `json:"lick"`
	Len  string          `json:"len"`
	Text string          `json:"text"`
}

// clip answers with a copy of the selection, or of the note under the caret.
func (a Screen) clip(w http.ResponseWriter, r *http.Request) error {
	var f benchForm
	e, err := a.EntryAndForm(r, &f)
	if err != nil {
		return err
	}
	rs := f.selected(e.Lick)
	if rs == nil {
		rs = lick.Ranges{{From: f.Note - 1, To: f.Note}}
	}
	c, err := e.Lick.Clipped(rs)
	if err != nil {
		return page.Refuse(err)
	}
	// A mail shows the hands that the bench shows; the copy keeps open what is open.
	rep, err := a.Report(r.Context(), e)
	if err != nil {
		return err
	}
	shown, err := rep.Lick.Clipped(rs)
	if err != nil {
		return page.Refuse(err)
	}
	return page.JSON(w, copied{json.RawMessage(c.Lick.Encode()), c.Len.String(), string(tab.Mail(shown.Lick))})
}

// figures answers with the selections around the note under the caret, each as the caret writes it.
func (a Screen) figures(w http.ResponseWriter, r *http.Request) error {
	var f benchForm
	e, err := a.EntryAndForm(r, &f)
	if err != nil {
		return err
	}
	out := text.Map(edit.Around(e.Lick, f.Note-1), lick.Ranges.String)
	return page.JSON(w, out)
}
