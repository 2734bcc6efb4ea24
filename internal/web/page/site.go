// Package page is what all screens share: the site with its notebook and its player, how a page, a
// fragment, a notice or a refusal is answered, who may ask, and a lick at a revision with its
// judgement. A refusal is one sentence and changes nothing. It knows no screen.
package page

import (
	"context"
	"html/template"
	"io/fs"
	"sync"
	"sync/atomic"

	"github.com/go-chi/chi/v5"
	"github.com/go-playground/form/v4"

	"ornamen/internal/jobs"
	"ornamen/internal/store"
)

// Site is what all screens share: the notebook, who plays, work under way and what is remembered of
// it, and how a page is answered. It is safe for concurrent use: what changes while it runs is the
// player of the moment and what is remembered, and both are swapped whole or locked.
type Site struct {
	Store   *store.Store              // the notebook; the only thing here that outlives the process
	Work    *jobs.Jobs                // what takes longer than a blink
	woken   chan struct{}             // holds a word that there may be something new in the notebook
	players atomic.Pointer[[]*Player] // who plays; a request takes one once, at its start
	reports reports                   // judgements and proposals, bounded by bytes
	whole   sync.Map                  // counts and tags at one count of writes, by the player's number
	pages   *template.Template

	loading     sync.Mutex // held while players are read
	generations uint64     // of players so far, under loading

	last atomic.Uint64 // number of the player who was there last

	forms *form.Decoder
}

// MenuEntry is how a screen is reached. Its script, where it has one, is called as it is: tones.js.
type MenuEntry struct {
	Name  string // as Page.Where has it
	Title string // in the navigation; empty for a screen that is reached from another one
	// Address is where it opens, for a page that shows a lick (0 for none) on a screen of that name.
	Address func(lick uint, from string) string
}

// At is the address of a screen that opens everywhere alike.
func At(address string) func(uint, string) string {
	return func(uint, string) string { return address }
}

// Screen is one of the application's screens: it says which addresses are its own, and brings its
// templates, its script and its style.
type Screen interface {
	// Menu is its row in the navigation.
	Menu() MenuEntry
	// Files are its templates (*.html), and what the browser loads by name.
	Files() fs.FS
	// Routes adds the screen's addresses. Those that start a search, render sound or pack the notebook
	// are added to work, which refuses even a link from another site.
	Routes(r, work chi.Router)
}

// NewSite prepares what screens share for the notebook's player; its templates come by Draws. The error
// says that the player cannot be read.
func NewSite(ctx context.Context, s *store.Store) (*Site, error) {
	a := &Site{Store: s, Work: jobs.New(), woken: make(chan struct{}, 1), reports: newReports(),
		forms: form.NewDecoder()}
	a.forms.RegisterCustomTypeFunc(number, float64(0))
	return a, a.LoadPlayers(ctx)
}

// News is told when there may be something new in the notebook.
func (a *Site) News() <-chan struct{} { return a.woken }

// Wake says that there may be something new in the notebook, which is judged in the background.
func (a *Site) Wake() {
	select {
	case a.woken <- struct{}{}:
	default:
	}
}
