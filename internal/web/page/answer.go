package page

import (
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"io/fs"
	"log"
	"maps"
	"math"
	"mime"
	"net/http"
	"slices"
	"strconv"
	"strings"

	"github.com/go-chi/chi/v5"
	"github.com/go-playground/form/v4"

	"ornamen/core/text"
	"ornamen/internal/jobs"
	"ornamen/internal/refuse"
	"ornamen/internal/store"
)

// Page is what every full page needs. Data is what the template of its name expects; a page that is given another sort
// of value answers with a fault, which the tests of every screen would show.
type Page struct {
	Title   string
	Where   string // the screen, for the navigation
	BenchID uint   // the lick the bench opens, 0 for none
	Data    any
	Who     *Player   // who plays; Render sets it, and who else there is
	Players []*Player // more than one, or none
}

// Render writes a page. The error is a fault of its template, which is found before anything is sent.
func (a *Site) Render(w http.ResponseWriter, r *http.Request, name string, p Page) error {
	return a.write(w, r, http.StatusOK, name, p)
}

// write sends a template. It is not kept by the browser: what it shows is true of one revision and one player.
func (a *Site) write(w http.ResponseWriter, r *http.Request, status int, name string, p Page) error {
	p.Players = a.Players()
	if p.Who, _ = r.Context().Value(playerKey{}).(*Player); p.Who == nil {
		p.Who = p.Players[0] // an address that is none
	}
	var b bytes.Buffer
	if err := a.pages.ExecuteTemplate(&b, name, p); err != nil {
		return fmt.Errorf("template %s: %w", name, err)
	}
	w.Header().Set("Content-Type", "text/html; charset=utf-8")
	w.Header().Set("Cache-Control", "no-store")
	w.WriteHeader(status)
	w.Write(b.Bytes())
	return nil
}

// RenderBody writes a page, or to a page that is open its body: the template of the same name with -partial.
func (a *Site) RenderBody(w http.ResponseWriter, r *http.Request, name string, p Page) error {
	if r.Header.Get("HX-Request") != "" {
		name += "-partial"
	}
	return a.Render(w, r, name, p)
}

// Attach says that what follows is a file of that name.
func Attach(w http.ResponseWriter, kind, name string) {
	w.Header().Set("Content-Type", kind)
	w.Header().Set("Content-Disposition", mime.FormatMediaType("attachment", map[string]string{"filename": name}))
}

// Send hands a file over. What the browser does not take any more is only logged.
func Send(w http.ResponseWriter, kind, name string, data []byte) error {
	Attach(w, kind, name)
	if _, err := w.Write(data); err != nil {
		log.Printf("hand over %s: %v", name, err)
	}
	return nil
}

// JSON answers a script with a value.
func JSON(w http.ResponseWriter, v any) error {
	w.Header().Set("Content-Type", "application/json")
	w.Header().Set("Cache-Control", "no-store")
	if err := json.NewEncoder(w).Encode(v); err != nil {
		log.Printf("answer: %v", err)
	}
	return nil
}

// Draw writes a template alone, as for a fragment. The error is a fault of the template.
func (a *Site) Draw(w io.Writer, name string, data any) error {
	return a.pages.ExecuteTemplate(w, name, data)
}

// Refuse is an error of the player's input, in its own words: its text is the sentence that is shown, with status 422.
// Everything else that fails is ours, and its text may name what a player should not have to read.
func Refuse(err error) error { return refuse.Of(err) }

// Mistake marks an error as the player's input unless it is a fault of ours: a request that is gone, something the
// store says, a file that cannot be read. It is for what the core and parsers were asked in the player's words: they
// read no file and write none, so that all they can do is refuse.
func Mistake(err error) error {
	if err == nil || refuse.Is(err) {
		return err
	}
	var path *fs.PathError
	var stale *store.StaleError
	var unread *store.UnreadableError
	for _, own := range []error{context.Canceled, context.DeadlineExceeded, jobs.ErrSuperseded, jobs.ErrStopping,
		store.ErrNotFound, store.ErrNoUndo, store.ErrNoRedo, store.ErrSetStale} {
		if errors.Is(err, own) {
			return err
		}
	}
	if store.IsFault(err) || errors.As(err, &path) || errors.As(err, &stale) || errors.As(err, &unread) {
		return err
	}
	return Refuse(err)
}

// Handler makes a handler of one that returns why it could not answer: Fail says it.
func (a *Site) Handler(answer func(w http.ResponseWriter, r *http.Request) error) http.HandlerFunc {
	return func(w http.ResponseWriter, r *http.Request) {
		if err := answer(w, r); err != nil {
			a.Fail(w, r, err)
		}
	}
}

// Redirect sends the browser on to a page, after what was posted is done.
func Redirect(w http.ResponseWriter, r *http.Request, to string) error {
	http.Redirect(w, r, to, http.StatusSeeOther)
	return nil
}

// Fail answers an error with its status and one sentence. Nothing was changed when it is called.
//
//   - 422: the player's input; the sentence says what is wrong with it.
//   - 404, 410: what was asked for is not, or no longer, in the notebook.
//   - 409: it was asked of a line that has changed since, or there is nothing to undo.
//   - 413: more bytes than any form of ours has.
//   - 503, 507, 403: the store is busy, full or read-only; the same form may be sent again.
//   - 500: a fault of ours, which is logged.
func (a *Site) Fail(w http.ResponseWriter, r *http.Request, err error) {
	var tooLarge *http.MaxBytesError
	var unread *store.UnreadableError
	var stale *store.StaleError
	var settings *store.SettingsStaleError
	switch {
	case errors.As(err, &tooLarge):
		a.Say(w, r, http.StatusRequestEntityTooLarge, "That is too large; a lick file has at most 16 MB.")
	case errors.Is(err, store.ErrReplaced), errors.As(err, &settings):
		a.Say(w, r, http.StatusConflict, Sentence(err.Error()))
	case refuse.Is(err):
		a.Say(w, r, http.StatusUnprocessableEntity, Sentence(err.Error()))
	case errors.Is(err, store.ErrNotFound):
		a.Say(w, r, http.StatusNotFound, "That is not in the notebook; it may have been deleted.")
	case errors.Is(err, store.ErrNoUndo), errors.Is(err, store.ErrNoRedo), errors.Is(err, store.ErrSetStale):
		a.Say(w, r, http.StatusConflict, Sentence(err.Error()))
	case errors.Is(err, jobs.ErrSuperseded):
		a.Say(w, r, http.StatusConflict, Sentence(jobs.ErrSuperseded.Error()))
	case errors.Is(err, jobs.ErrStopping):
		a.Say(w, r, http.StatusServiceUnavailable, Sentence(jobs.ErrStopping.Error()))
	case r.Context().Err() != nil:
		w.WriteHeader(statusGone) // the page is gone and hears nothing
	case errors.As(err, &stale):
		n := Notice{Text: Sentence(stale.Error()),
			Actions: []Action{{Label: "Show the newest", Link: fmt.Sprintf("/licks/%d", stale.Lick)}}}
		if stale.Kept > 0 { // both versions are kept, and the player chooses
			n.Actions = append(n.Actions, Action{Label: "Take mine instead",
				Post: fmt.Sprintf("/licks/%d/keep", stale.Lick), Rev: stale.Head, Value: stale.Kept})
		}
		a.SayWith(w, r, http.StatusConflict, n)
	case errors.As(err, &unread):
		a.SayWith(w, r, http.StatusInternalServerError, Notice{Text: Sentence(unread.Error()), Actions: []Action{
			{Label: "Its versions", Link: fmt.Sprintf("/licks/%d/versions", unread.Lick)},
			{Label: "Go back to the version before", Post: fmt.Sprintf("/licks/%d/undo", unread.Lick),
				Rev: unread.Revision, Value: unread.Revision}}})
	default:
		if status, says := ofStore(err); status != 0 {
			a.Say(w, r, status, Sentence(says))
			return
		}
		log.Printf("%s %s: %v", r.Method, r.URL.Path, err)
		a.Say(w, r, http.StatusInternalServerError, "Something went wrong here; nothing was saved.")
	}
}

// statusGone is written where the one who asked is gone; no page sees it.
const statusGone = 499

// storeFaults are what the store's errors are answered with.
var storeFaults = []struct {
	err    error
	status int
}{
	{store.ErrFull, http.StatusInsufficientStorage}, {store.ErrBusy, http.StatusServiceUnavailable},
	{store.ErrReadOnly, http.StatusForbidden}, {store.ErrGone, http.StatusGone},
	{store.ErrIO, http.StatusInternalServerError}, {store.ErrDamaged, http.StatusInternalServerError},
}

// ofStore is the HTTP status of what the store refuses, 0 for what is none of its own faults, and its own words: where
// a file that is gone was saved to, or the fault alone, without the database's.
func ofStore(err error) (status int, says string) {
	for _, f := range storeFaults {
		if errors.Is(err, f.err) {
			status, says = f.status, f.err.Error()
		}
	}
	if _, text, ok := strings.Cut(err.Error(), store.ErrGone.Error()); ok && status == http.StatusGone {
		says += text
	}
	return status, says
}

// Notice is a sentence to the player, with what can be done about it.
type Notice struct {
	Text    string
	Status  int // of the answer, 0 for a good one
	Actions []Action
}

// Action is a button of a notice.
type Action struct {
	Label string
	Post  string // address to post to
	Link  string // or to go to
	Rev   uint   // fields of the form, 0 for none
	Value uint
}

// Say answers with one sentence: a notice for htmx, else a page.
func (a *Site) Say(w http.ResponseWriter, r *http.Request, status int, text string) {
	a.SayWith(w, r, status, Notice{Text: text})
}

// SayWith answers with a notice alone; on a page that htmx asked for it appears in its place and the rest stays.
// Without htmx, as when a form is sent without a script, it is a page of its own.
func (a *Site) SayWith(w http.ResponseWriter, r *http.Request, status int, n Notice) {
	if status >= http.StatusBadRequest {
		n.Status = status
	}
	name, p := "message", Page{Title: "Ornamen", Data: n}
	if r.Header.Get("HX-Request") != "" {
		name, p = "notice-partial", Page{Data: n}
	}
	if err := a.write(w, r, status, name, p); err != nil {
		log.Print(err)
		http.Error(w, n.Text, status)
	}
}

// Tell is SayWith for good news.
func (a *Site) Tell(w http.ResponseWriter, r *http.Request, n Notice) error {
	a.SayWith(w, r, http.StatusOK, n)
	return nil
}

// ID reads the lick's number from the address, which may name a bar behind it.
// What is no number names nothing, so that the error is the one of a lick that is not there.
func ID(r *http.Request) (uint, error) {
	number, _, _ := strings.Cut(chi.URLParam(r, "id"), ".")
	n, err := strconv.ParseUint(number, 10, 31)
	if err != nil || n == 0 {
		return 0, store.ErrNotFound
	}
	return uint(n), nil
}

// IDAndForm reads the number from the address, and the form.
func (a *Site) IDAndForm(r *http.Request, form any) (uint, error) {
	n, err := ID(r)
	if err != nil {
		return 0, err
	}
	return n, a.Decode(r, form)
}

// number reads a number of a form; infinite ones and what is none are refused.
func number(values []string) (any, error) {
	x, err := strconv.ParseFloat(values[0], 64)
	if err != nil || math.IsNaN(x) || math.IsInf(x, 0) {
		return nil, errors.New("no number")
	}
	return x, nil
}

// Decode reads a form into a typed value. What a field cannot hold is refused as the player's mistake, by the field's
// name. Fields that the value does not have are passed over: a page may carry more than one handler needs. v is a
// pointer to a struct with form tags.
func (a *Site) Decode(r *http.Request, v any) error {
	if err := r.ParseForm(); err != nil {
		var tooLarge *http.MaxBytesError
		if errors.As(err, &tooLarge) {
			return err
		}
		return Refuse(errors.New("the form cannot be read"))
	}
	if err := a.forms.Decode(v, r.Form); err != nil {
		var bad form.DecodeErrors
		if errors.As(err, &bad) {
			for _, name := range slices.Sorted(maps.Keys(bad)) {
				return Refuse(fmt.Errorf("%s: %q does not belong there", name, text.Clip(r.Form.Get(name), 60)))
			}
		}
		return Refuse(errors.New("the form cannot be read"))
	}
	return nil
}
