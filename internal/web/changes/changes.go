// Package changes is the screen of a lick over its chords: what each tone is there, how the line lands,
// and what would bring it there.
package changes

import (
	"context"
	"embed"
	"errors"
	"fmt"
	"io/fs"
	"net/http"
	"strconv"
	"strings"

	"github.com/go-chi/chi/v5"

	"ornamen/core/changes"
	"ornamen/core/edit"
	"ornamen/core/lick"
	"ornamen/core/text"
	"ornamen/internal/store"
	"ornamen/internal/web/page"
)

// Screen is a lick over its chords.
type Screen struct{ *page.Site }

//go:embed *.html *.js *.css
var files embed.FS

// Menu implements page.Screen.
func (a Screen) Menu() page.MenuEntry {
	return page.MenuEntry{Name: "changes", Title: "Changes", Address: func(lick uint, _ string) string {
		if lick == 0 {
			return "/changes"
		}
		return fmt.Sprintf("/licks/%d/changes", lick)
	}}
}

// Files implements page.Screen.
func (a Screen) Files() fs.FS { return files }

// Routes implements page.Screen.
func (a Screen) Routes(r, work chi.Router) {
	r.Get("/backing", a.Handler(a.backing))
	r.Post("/backing", a.Handler(a.keepBacking))
	work.Get("/backing/sound.wav", a.Handler(a.backingSound))
	work.Get("/backing/sounding", a.Handler(a.backingSound))
	r.Get("/changes", a.Handler(a.anyChanges))
	r.Post("/changes/saved/{id}/forget", a.Does(a.Store.ForgetChanges, "/changes"))
	r.Get("/licks/{id}/changes", a.Handler(a.changes))
	r.Post("/licks/{id}/changes", a.Handler(a.change))
	r.Post("/licks/{id}/changes/saved", a.Handler(a.saveChanges))
}

// changesForm is a request of the Changes screen. Do is chords, move, fix, meant, undo or redo; Value is what it takes:
// chords as they are typed, the word of a move, a fix's name, "CODE:NOTE".
type changesForm struct {
	Rev   uint   `form:"rev"`
	Chord int    `form:"chord"` // that is pointed at, from 1; 0 is the first one
	By    string `form:"by"`    // chord: judged by each chord's own scale, not the key's
	Fret  int    `form:"fret"`  // where on the neck its tones are looked at, 0: where the line lies
	Do    string `form:"do"`
	Value string `form:"value"`
	Name  string `form:"name"`
}

// anyChanges opens the screen on the lick that was touched last, in an empty notebook on chords alone.
func (a Screen) anyChanges(w http.ResponseWriter, r *http.Request) error {
	rows, err := a.Store.List(r.Context(), store.Query{Limit: 1})
	if err != nil {
		return err
	}
	if len(rows) == 0 {
		return page.Redirect(w, r, "/backing")
	}
	return page.Redirect(w, r, fmt.Sprintf("/licks/%d/changes", rows[0].ID))
}

// changes is the page of a lick over its chords. GET /licks/ID/changes; chord and by of the form say what is looked at.
func (a Screen) changes(w http.ResponseWriter, r *http.Request) error {
	var f changesForm
	e, err := a.EntryAndForm(r, &f)
	if err != nil {
		return err
	}
	return a.answerChanges(w, r, e, f)
}

// answerChanges sends the page, or to a page that is open its body.
func (a Screen) answerChanges(w http.ResponseWriter, r *http.Request, e store.Entry, f changesForm) error {
	ref := page.RefOf(r.Context(), e.ID)
	v, err := a.changesView(r.Context(), e, f,
		func(chord int, by string, fret int) string { return changesLink(ref, chord, by, fret) })
	if err == nil {
		if v.Window, err = a.WindowView(r.Context(), e.ID, e.Revision); v.Window != nil {
			v.Window.Screen = "/changes"
		}
	}
	if err != nil {
		return err
	}
	return a.RenderBody(w, r, "changes",
		page.Page{Title: v.Title + " over its changes", Where: "changes", BenchID: e.ID, Data: v})
}

// change makes one edit: other chords, a move over them, a fix, something meant; or goes one step back or on. The
// answer is the page's body with the new line. POST /licks/ID/changes. An edit names the revision it was made on: one
// that is stale is answered with the line as it is now, and nothing is lost or written twice.
func (a Screen) change(w http.ResponseWriter, r *http.Request) error {
	var f changesForm
	n, err := a.IDAndForm(r, &f)
	if err != nil {
		return err
	}
	e, err := a.made(r.Context(), n, f)
	if err != nil {
		return err
	}
	return a.answerChanges(w, r, e, f)
}

// made carries an edit out on the revision that the form names. The error is the store's, a
// stale revision among them, or a mistake of the player's.
func (a Screen) made(ctx context.Context, n uint, f changesForm) (store.Entry, error) {
	if move, ok := map[string]page.Mover{"undo": a.Undo, "redo": a.Redo}[f.Do]; ok {
		e, err := move(ctx, n, f.Rev)
		if err == nil {
			a.Touched(n)
		}
		return page.Shown(ctx, e), err
	}
	base, err := a.At(ctx, n, f.Rev)
	if err != nil {
		return store.Entry{}, err
	}
	next, what, err := a.changed(ctx, store.Entry{ID: n, Revision: f.Rev, Lick: base}, f)
	if err != nil {
		return store.Entry{}, page.Mistake(err)
	}
	return a.CommitShown(ctx, n, f.Rev, next, what)
}

// changed is what an edit makes of a lick, and what to call it. Fixes and "I mean it" are the bench's own edits. A move
// leaves the hands open where it moved notes, which are then found, so that the line is judged as it would be played.
func (a Screen) changed(ctx context.Context, base store.Entry, f changesForm) (lick.Lick, string, error) {
	l := base.Lick
	switch f.Do {
	case "chords":
		var set lick.SetChords
		if strings.TrimSpace(f.Value) != "" {
			cs, err := changes.Parse(f.Value, l.Meter, l.Pickup, l.Key)
			if err != nil {
				return l, "", err
			}
			set.Chords = cs
		}
		next, err := set.Apply(l)
		return next, set.What(), err
	case "move":
		moved, said, err := changes.Move(page.EngineOf(ctx).Player.Guitar, l, f.Value)
		if err != nil {
			return l, "", err
		}
		moved, err = page.Queued(ctx, a.Site, base.ID, func(ctx context.Context) (lick.Lick, error) {
			return page.Handed(ctx, moved)
		})
		if err != nil {
			return l, "", err
		}
		what := f.Value
		for _, m := range changes.Moves() {
			if m.Word == f.Value {
				what = strings.ToLower(m.Title)
			}
		}
		if said != "" {
			what += " (" + said + ")"
		}
		return moved, what, nil
	case "fix", "meant":
		ed, err := a.fixOrMeant(ctx, base, f)
		if err != nil {
			return l, "", err
		}
		next, err := ed.Apply(l)
		return next, ed.What(), err
	}
	return l, "", fmt.Errorf("%q is nothing that can be done here", text.Clip(f.Do, 60))
}

// fixOrMeant is a fix by its name, or "I mean it" of a finding on a note, "CODE:NOTE".
func (a Screen) fixOrMeant(ctx context.Context, base store.Entry, f changesForm) (lick.Edit, error) {
	if f.Do == "fix" {
		return a.FixEdit(ctx, base, f.Value)
	}
	code, note, _ := strings.Cut(f.Value, ":")
	n, err := strconv.Atoi(strings.TrimSpace(note))
	if err != nil {
		return nil, errors.New("say which note is meant so")
	}
	if n >= 1 && n <= len(base.Lick.Notes) && base.Lick.Notes[n-1].Means(lick.Code(code)) {
		code += " off" // pressed once more
	}
	return edit.Read(page.EngineOf(ctx).Player.Guitar, base.Lick, edit.Words{Note: n, Do: f.Do, Value: code})
}

// maxChangesName is how long the name of saved changes may be.
const maxChangesName = 40

// saveChanges keeps changes by name. They are kept as the text of the field, from which they are read for any other
// lick; a name that exists is written over.
func (a Screen) saveChanges(w http.ResponseWriter, r *http.Request) error {
	var f changesForm
	e, err := a.EntryAndForm(r, &f)
	if err != nil {
		return err
	}
	name := strings.TrimSpace(f.Name)
	text := changes.Text(e.Lick)
	switch {
	case len(e.Lick.Chords) == 0:
		return page.Refuse(errors.New("there are no chords to save"))
	case name == "" || len([]rune(name)) > maxChangesName:
		return page.Refuse(fmt.Errorf("a name has 1 to %d letters", maxChangesName))
	}
	if err := a.Store.SaveChanges(r.Context(), store.Changes{Name: name, Line: text}); err != nil {
		return err
	}
	return page.Redirect(w, r, fmt.Sprintf("/licks/%s/changes", page.RefOf(r.Context(), e.ID)))
}
