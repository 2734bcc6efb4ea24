// Package sets is the screen of sets: what is practised in a week or played at a concert, in its order. A set is
// written here, practised, played and heard through, printed, and handed to another notebook.
package sets

import (
	"bytes"
	"cmp"
	"context"
	"embed"
	"errors"
	"fmt"
	"io/fs"
	"log"
	"net/http"
	"reflect"
	"slices"
	"strconv"
	"strings"

	"github.com/go-chi/chi/v5"

	"ornamen/core/judge"
	"ornamen/core/lick"
	"ornamen/core/shape"
	"ornamen/core/text"
	"ornamen/core/turn"
	"ornamen/format/sheet"
	"ornamen/internal/handover"
	"ornamen/internal/lesson"
	"ornamen/internal/practising"
	"ornamen/internal/refuse"
	"ornamen/internal/store"
	"ornamen/internal/web/page"
	"ornamen/internal/web/view"
)

// Screen is the sets of a notebook.
type Screen struct {
	*page.Site
	pieces *practising.Pieces
	logs   *practising.Logs
}

// New shares with the day's practice what is remembered of parts and logs.
func New(site *page.Site, pieces *practising.Pieces, logs *practising.Logs) Screen {
	return Screen{site, pieces, logs}
}

//go:embed *.html *.js *.css
var files embed.FS

// Menu implements page.Screen.
func (a Screen) Menu() page.MenuEntry {
	return page.MenuEntry{Name: "sets"}
}

// Files implements page.Screen.
func (a Screen) Files() fs.FS { return files }

// Routes implements page.Screen.
func (a Screen) Routes(r, work chi.Router) {
	r.Get("/sets", a.Handler(a.list))
	r.Post("/sets", a.Handler(a.add))
	r.Get("/sets/{id}", a.Handler(a.show))
	r.Post("/sets/{id}", a.Handler(a.change))
	r.Post("/sets/{id}/delete", a.Does(a.Store.DeleteSet, "/sets?gone=%d"))
	r.Post("/sets/{id}/restore", a.Handler(a.restore))
	r.Get("/sets/{id}/through", a.Handler(a.through))
	work.Get("/sets/{id}/sheet", a.Handler(a.sheet))
	work.Get("/sets/{id}/set.zip", a.Handler(a.handOver))
}

// setForm is a change of a set: what is done with which lick of it.
type setForm struct {
	Do    string `form:"do"`
	N     int    `form:"n"` // the lick's place, from 1
	Value string `form:"value"`
	Base  uint   `form:"base"` // the version that the page shows
}

// add makes a set, empty or with the lick that somebody came to add.
func (a Screen) add(w http.ResponseWriter, r *http.Request) error {
	var f struct {
		Name string `form:"name"`
		Lick uint   `form:"lick"`
		Set  uint   `form:"set"` // one that is there, instead of a new one
	}
	if err := a.Decode(r, &f); err != nil {
		return err
	}
	ctx := r.Context()
	x, base := store.Set{Name: cmp.Or(strings.TrimSpace(f.Name), "New set")}, uint(store.Newest)
	if f.Set != 0 {
		var err error
		if x, err = a.Store.SetOf(ctx, f.Set); err != nil {
			return err
		}
		base = x.Revision
	}
	for k, name := 2, x.Name; f.Set == 0; k++ { // "New set" is a name to begin with
		if _, taken, err := a.Store.SetNamed(ctx, x.Name); err != nil || !taken {
			break
		}
		if strings.TrimSpace(f.Name) != "" {
			return page.Refuse(fmt.Errorf("there is a set %s already", text.Clip(name, 60)))
		}
		x.Name = fmt.Sprintf("%s %d", name, k)
	}
	if f.Lick != 0 {
		if _, err := a.Get(ctx, f.Lick); err != nil {
			return err
		}
		x.Items = append(x.Items, store.SetItem{Lick: f.Lick})
	}
	x, err := a.Store.SaveSet(ctx, x, base)
	if err != nil {
		return err
	}
	return page.Redirect(w, r, fmt.Sprintf("/sets/%d", x.ID))
}

// setAndForm finds the set of the address, and reads the form.
func (a Screen) setAndForm(r *http.Request, form any) (store.Set, error) {
	n, err := a.IDAndForm(r, form)
	if err != nil {
		return store.Set{}, err
	}
	return a.Store.SetOf(r.Context(), n)
}

// change makes one change of a set and answers with the set as it is then.
func (a Screen) change(w http.ResponseWriter, r *http.Request) error {
	var f setForm
	x, err := a.setAndForm(r, &f)
	if err != nil {
		return err
	}
	ctx, before := r.Context(), x
	switch f.Do {
	case "undo":
		err = a.Store.UndoSet(ctx, x.ID, f.Base)
	case "redo":
		err = a.Store.RedoSet(ctx, x.ID, f.Base)
	default:
		if f.Base != x.Revision {
			// Of a page that shows another version, "the third lick" may be another lick.
			return store.ErrSetStale
		}
		if x, err = a.changed(ctx, x, f); err == nil && !reflect.DeepEqual(x, before) {
			_, err = a.Store.SaveSet(ctx, x, f.Base)
		}
	}
	if err != nil {
		return err
	}
	if err := a.tidied(ctx, before); err != nil {
		return err
	}
	if r.Header.Get("HX-Request") == "" {
		return page.Redirect(w, r, fmt.Sprintf("/sets/%d", x.ID))
	}
	v, err := a.view(ctx, x.ID)
	if err != nil {
		return err
	}
	return a.Render(w, r, "set-partial", page.Page{Data: v})
}

// changed is a set after a change. What it is told is in the words of the page.
func (a Screen) changed(ctx context.Context, x store.Set, f setForm) (store.Set, error) {
	value := strings.TrimSpace(f.Value)
	x.Items = slices.Clone(x.Items)
	switch f.Do {
	case "name":
		x.Name = value
		return x, nil
	case "kind":
		x.Kind = store.SetKind(value)
		return x, nil
	case "target":
		x.Target = value
		return x, nil
	case "remark":
		x.Remark = value
		return x, nil
	case "add":
		e, err := a.named(ctx, value)
		if err != nil {
			return x, page.Mistake(err)
		}
		x.Items = append(x.Items, store.SetItem{Lick: e.ID})
		return x, nil
	}
	if f.N < 1 || f.N > len(x.Items) {
		return x, refuse.With("that lick is no longer in the set; look again")
	}
	it := &x.Items[f.N-1]
	switch f.Do {
	case "remove":
		x.Items = slices.Delete(x.Items, f.N-1, f.N)
	case "up", "down":
		to := f.N - 1 + map[string]int{"up": -1, "down": 1}[f.Do]
		if to >= 0 && to < len(x.Items) {
			x.Items[f.N-1], x.Items[to] = x.Items[to], x.Items[f.N-1]
		}
	case "to": // dragged before another place
		to, err := strconv.Atoi(value)
		if err != nil || to < 1 || to > len(x.Items) {
			return x, refuse.With("there is no such place in the set")
		}
		moved := x.Items[f.N-1]
		x.Items = slices.Insert(slices.Delete(x.Items, f.N-1, f.N), to-1, moved)
	case "tempo":
		it.Tempo = 0
		if value != "" {
			tempo, err := strconv.ParseFloat(strings.Replace(value, ",", ".", 1), 64)
			if err != nil {
				return x, refuse.With("%q is no tempo", text.Clip(value, 60))
			}
			e, err := a.Get(ctx, it.Lick)
			if err != nil {
				return x, err
			}
			if tempo != e.Lick.Tempo {
				it.Tempo = tempo
			}
		}
	case "days":
		days, err := store.ParseDays(value)
		if err != nil {
			return x, err
		}
		it.Days = days
	case "day": // one of them, on or off
		day, err := store.ParseDays(value)
		if err != nil {
			return x, err
		}
		if it.Days == 0 {
			it.Days = 1<<7 - 1
		}
		if it.Days ^= day; it.Days == 1<<7-1 || it.Days == 0 {
			it.Days = 0
		}
	case "note":
		it.Remark = value
	case "key":
		moved, err := a.moved(ctx, *it, value)
		if err != nil {
			return x, page.Mistake(err)
		}
		*it = moved
	default:
		return x, refuse.With("%q is nothing that can be done with a set", text.Clip(f.Do, 60))
	}
	return x, nil
}

// named finds a lick by its number or its title, of several of one title the one touched last; or grows the run that
// was saved under that name.
func (a Screen) named(ctx context.Context, name string) (store.Entry, error) {
	if n, err := strconv.ParseUint(strings.TrimPrefix(name, "#"), 10, 32); err == nil {
		if e, err := a.Get(ctx, uint(n)); err == nil {
			return e, nil
		}
	}
	rows, err := a.Store.List(ctx, store.Query{Find: name, Limit: 50})
	if err != nil {
		return store.Entry{}, err
	}
	for _, r := range rows {
		if name != "" && strings.EqualFold(r.Title, name) {
			return a.Get(ctx, r.ID)
		}
	}
	l, ok, err := lesson.Run(ctx, a.Store, page.EngineOf(ctx).Player.Guitar, name)
	if err != nil {
		return store.Entry{}, err
	}
	if ok {
		return a.Add(ctx, l, "grown for a set")
	}
	if len(rows) > 0 && name != "" {
		return a.Get(ctx, rows[0].ID)
	}
	return store.Entry{}, page.Refuse(fmt.Errorf("the notebook has no lick %q", text.Clip(name, 60)))
}

// moved is an item in another key or place: the lick is copied and moved, as what is played elsewhere on the neck has
// hands, a ceiling and a ladder of its own. Moving it again begins from the lick that it came from; nothing, or that
// lick's own key, brings that one back.
func (a Screen) moved(ctx context.Context, it store.SetItem, to string) (store.SetItem, error) {
	from, err := a.Get(ctx, cmp.Or(it.From, it.Lick))
	if errors.Is(err, store.ErrNotFound) && it.From != 0 {
		from, err = a.Get(ctx, it.Lick)
	}
	if err != nil {
		return it, err
	}
	if to == "" {
		it.Lick, it.From = from.ID, 0
		return it, nil
	}
	l, word, err := elsewhere(page.EngineOf(ctx), from.Lick, to)
	if err != nil {
		return it, page.Refuse(err)
	}
	if lick.SamePlaces(l.Notes, from.Lick.Notes) {
		it.Lick, it.From = from.ID, 0
		return it, nil
	}
	if now, err := a.Get(ctx, it.Lick); err == nil && it.From != 0 && lick.SamePlaces(l.Notes, now.Lick.Notes) {
		return it, nil // it is there already
	}
	l.Title = text.Cut(view.TitleOf(from.Lick)+", "+word, 200)
	e, err := a.Add(ctx, l, fmt.Sprintf("moved from lick %d for a set", from.ID))
	it.Lick, it.From = e.ID, from.ID
	return it, err
}

// tidied takes licks out of the notebook that were moved for a set and that a change of it has left behind, where
// nobody has edited or practised them and no other set has them, and brings those back that an undo names again.
func (a Screen) tidied(ctx context.Context, before store.Set) error {
	now, err := a.Store.SetOf(ctx, before.ID)
	if err != nil {
		return err
	}
	sets, err := a.Store.Sets(ctx)
	if err != nil {
		return err
	}
	named := map[uint]bool{}
	for _, x := range sets {
		for _, it := range x.Items {
			named[it.Lick] = true
		}
	}
	for _, it := range now.Items {
		if it.From != 0 {
			if err := a.Store.Restore(ctx, it.Lick); err != nil && !errors.Is(err, store.ErrNotFound) {
				return err
			}
		}
	}
	for _, it := range before.Items {
		if it.From == 0 || named[it.Lick] {
			continue
		}
		is, err := a.Store.Untouched(ctx, it.Lick)
		if err == nil && is {
			err = a.Store.Delete(ctx, it.Lick)
		}
		if err != nil && !errors.Is(err, store.ErrNotFound) {
			return err
		}
	}
	return nil
}

// elsewhere is a line in another key, "E" or "E dorian", or an octave away, "octave" or "-octave", and what it is
// called there.
func elsewhere(e *judge.Engine, l lick.Lick, to string) (lick.Lick, string, error) {
	guitar := e.Player.Guitar.WithTuning(l.Tuning)
	switch strings.ToLower(strings.Join(strings.Fields(to), " ")) {
	case "octave", "+octave", "an octave up", "octave up", "+12":
		l, err := turn.Turn(guitar, l, "octave", 0, len(l.Notes))
		return l, "an octave up", err
	case "-octave", "an octave down", "octave down", "-12":
		l, err := turn.Turn(guitar, l, "-octave", 0, len(l.Notes))
		return l, "an octave down", err
	}
	if !strings.ContainsAny(to, " ") && l.Key.Tonic != "" {
		to += " " + l.Key.Scale
	}
	p, err := shape.ToKey(l, to)
	if err != nil {
		return l, "", err
	}
	r, err := turn.Recolour(l, guitar, p, shape.NearestPlace)
	return r.Lick, "in " + p.Tonic.Pretty(), err
}

// restore brings a set back.
func (a Screen) restore(w http.ResponseWriter, r *http.Request) error {
	n, err := page.ID(r)
	if err == nil {
		err = a.Store.RestoreSet(r.Context(), n)
	}
	if err != nil {
		return err
	}
	return page.Redirect(w, r, fmt.Sprintf("/sets/%d", n))
}

// sheet is the set to print: on one sheet, or one lick a page.
func (a Screen) sheet(w http.ResponseWriter, r *http.Request) error {
	var f struct {
		Each bool `form:"each"` // a page for each lick
	}
	x, err := a.setAndForm(r, &f)
	if err != nil {
		return err
	}
	ctx := r.Context()
	items, licks, err := lesson.Licks(ctx, a.Store, x, page.Playing(ctx).Who.Own())
	if err != nil {
		return err
	}
	if len(licks) == 0 {
		return page.Refuse(errors.New("the set has no lick to print yet"))
	}
	data, err := page.Queued(ctx, a.Site, 0, func(ctx context.Context) ([]byte, error) {
		return handover.Sheet(ctx, page.EngineOf(ctx), lesson.Head(x, items, !f.Each), licksOf(licks))
	})
	if err != nil {
		return err
	}
	w.Header().Set("Content-Type", "text/html; charset=utf-8")
	w.Header().Set("Content-Security-Policy", sheet.Policy)
	w.Header().Set("Cache-Control", "no-store")
	if _, err := w.Write(data); err != nil {
		log.Printf("sheet: %v", err)
	}
	return nil
}

// licksOf are the lines of entries.
func licksOf(list []store.Entry) []lick.Lick {
	out := make([]lick.Lick, len(list))
	for i, e := range list {
		out[i] = e.Lick
	}
	return out
}

// handOver sends the set as a file for another notebook.
func (a Screen) handOver(w http.ResponseWriter, r *http.Request) error {
	var f struct {
		Page bool `form:"page"` // with the page that plays
	}
	x, err := a.setAndForm(r, &f)
	if err != nil {
		return err
	}
	if len(x.Items) == 0 {
		return page.Refuse(errors.New("the set has no lick to hand over yet"))
	}
	var b bytes.Buffer
	err = a.Work.Do(r.Context(), 0, func(ctx context.Context) error {
		return lesson.Write(ctx, &b, a.Store, page.EngineOf(ctx), x, f.Page)
	})
	if err != nil {
		return err
	}
	return page.Send(w, "application/zip", cmp.Or(lick.Lick{Title: x.Name}.FileName(), "set")+".zip", b.Bytes())
}
