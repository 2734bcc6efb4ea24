package web

import (
	"context"
	"errors"
	"fmt"
	"html/template"
	"io"
	"io/fs"
	"log"
	"net"
	"net/http"
	"sync"
	"time"

	"github.com/go-chi/chi/v5"
	"github.com/go-chi/chi/v5/middleware"

	"ornamen/format"
	"ornamen/internal/phones"
	"ornamen/internal/practising"
	"ornamen/internal/store"
	"ornamen/internal/web/bench"
	"ornamen/internal/web/changes"
	"ornamen/internal/web/draw"
	"ornamen/internal/web/exchange"
	"ornamen/internal/web/notebook"
	"ornamen/internal/web/page"
	"ornamen/internal/web/player"
	"ornamen/internal/web/practice"
	"ornamen/internal/web/runs"
	"ornamen/internal/web/sets"
	"ornamen/internal/web/tones"
	"ornamen/internal/web/view"
)

// shared are the scripts that every page has beside those of the screens.
var shared = []string{"page", "combo", "playin"}

// App serves a notebook to a player: the screens, and the server around them.
type App struct {
	site    *page.Site
	phones  *phones.Phones
	screens []page.Screen
	handler http.Handler
	opened  func() // what is done once requests are answered, or nil
}

// New prepares the application for the notebook's player. What it does in the background ends with the context. An
// error says that the player or a template cannot be read; the store is left open for the caller to close.
func New(ctx context.Context, s *store.Store) (*App, error) {
	site, err := page.NewSite(ctx, s)
	if err != nil {
		return nil, err
	}
	book := notebook.Screen{Site: site}
	pieces, logs := practising.NewPieces(), &practising.Logs{}
	devices := phones.New(s)
	a := &App{site: site, phones: devices, screens: []page.Screen{
		book, exchange.New(site), tones.Screen{Site: site}, runs.Screen{Site: site}, bench.Screen{Site: site},
		changes.Screen{Site: site}, practice.New(site, pieces, logs), sets.New(site, pieces, logs),
		player.Screen{Site: site, Phones: devices},
	}}
	folders := []fs.FS{page.Files, view.Files}
	var menu []page.MenuEntry
	modules := shared
	for _, s := range a.screens {
		x := s.Menu()
		folders = append(folders, s.Files())
		if x.Title != "" {
			menu = append(menu, x)
		}
		if _, err := fs.Stat(s.Files(), x.Name+".js"); err == nil {
			modules = append(modules, x.Name)
		}
	}
	assets, base, err := page.Assets(page.Module("app.js", modules), folders...)
	if err != nil {
		return nil, err
	}
	err = site.LoadTemplates(template.FuncMap{
		"assets":  func() string { return base },
		"defs":    func() template.HTML { return draw.Defs },
		"menu":    func() []page.MenuEntry { return menu },
		"styles":  func() []string { return page.Styles(folders...) },
		"signs":   view.PrettySigns,
		"explain": view.Explain,
		"choices": func(words ...string) []string { return words },
		"formats": format.Formats,
		"digit":   func(i int) int { return i + 1 },
	}, folders...)
	if err != nil {
		return nil, err
	}
	a.handler = a.routes(assets)
	book.Judge(ctx)
	return a, nil
}

// routes puts the screens' addresses behind the guards.
//
// What changes something is a POST from a page of our own; a GET changes nothing, so that a browser may ask for it
// ahead of need, and Back shows what was there. An address names a lick by its number and, where it matters, the
// revision that a page was drawn from. The middlewares stand in the order in which they must hold: a fault is caught
// outside all others, and the headers are set even for what is refused.
func (a *App) routes(assets http.Handler) http.Handler {
	r := chi.NewRouter()
	r.Use(page.SayFault, page.Secure, a.phones.LetIn, page.OwnPagesOnly, page.LimitBody)
	r.NotFound(func(w http.ResponseWriter, r *http.Request) { a.site.Fail(w, r, store.ErrNotFound) })
	r.MethodNotAllowed(func(w http.ResponseWriter, r *http.Request) {
		a.site.Say(w, r, http.StatusMethodNotAllowed, "That cannot be done here.")
	})
	r.Handle("/assets/*", assets)
	r.Group(func(r chi.Router) {
		r.Use(a.site.WithPlayer, page.InWindow)
		for _, s := range a.screens {
			s.Routes(r, r.With(page.OwnWorkOnly))
		}
	})
	return r
}

// Phones are the other devices that are let in.
func (a *App) Phones() *phones.Phones { return a.phones }

// WhenOpen has something done once requests are answered. It is called before Serve.
func (a *App) WhenOpen(do func()) { a.opened = do }

// ServeHTTP implements http.Handler.
func (a *App) ServeHTTP(w http.ResponseWriter, r *http.Request) { a.handler.ServeHTTP(w, r) }

// LogTo writes a line for every request from now on. It is called before Serve, as the handler is not locked.
func (a *App) LogTo(w io.Writer) {
	a.handler = middleware.RequestLogger(withoutKeys{
		&middleware.DefaultLogFormatter{Logger: log.New(w, "", log.LstdFlags), NoColor: true},
	})(a.handler)
}

// withoutKeys leaves out of a log the key that lets a phone in: who reads the log later is not let in by it.
type withoutKeys struct{ middleware.LogFormatter }

// NewLogEntry implements middleware.LogFormatter.
func (f withoutKeys) NewLogEntry(r *http.Request) middleware.LogEntry {
	if r.URL.Query().Has("key") {
		r = r.Clone(r.Context())
		r.URL.RawQuery = ""
		r.RequestURI = r.URL.Path + "?key=…"
	}
	return f.LogFormatter.NewLogEntry(r)
}

// Timeouts of the server. A sound is computed while it is sent and a long search is ended by the page that leaves, so
// that an answer may take a minute; what is under way when the server stops has a few seconds to end.
const (
	readTimeout  = 30 * time.Second
	writeTimeout = 60 * time.Second
	idleTimeout  = 2 * time.Minute
	graceTime    = 5 * time.Second
)

// Serve answers requests on the listener until the context ends, then lets the running ones finish. It closes the
// listener. The error is nil after an orderly end, whatever was under way then: an edit is either in the notebook or
// was never answered.
func (a *App) Serve(ctx context.Context, ln net.Listener) error {
	srv := &http.Server{Handler: page.OnlyHost(a), ReadTimeout: readTimeout, ReadHeaderTimeout: readTimeout,
		WriteTimeout: writeTimeout, IdleTimeout: idleTimeout, MaxHeaderBytes: 64 << 10}
	a.phones.Serve(srv, ln.Addr())
	// A browser opens connections ahead of need; one that never asked for anything
	// would hold up the end until the grace is over.
	var silent sync.Map
	srv.ConnState = func(c net.Conn, s http.ConnState) {
		if s == http.StateNew {
			silent.Store(c, nil)
		} else {
			silent.Delete(c)
		}
	}
	done := make(chan error, 1)
	go func() { done <- srv.Serve(ln) }()
	if a.opened != nil {
		a.opened()
	}
	select {
	case err := <-done:
		return fmt.Errorf("serve: %w", err)
	case <-ctx.Done():
	}
	a.site.Work.Stop()
	a.phones.Close()
	grace, cancel := context.WithTimeout(context.WithoutCancel(ctx), graceTime)
	defer cancel()
	silent.Range(func(c, _ any) bool {
		c.(net.Conn).Close()
		return true
	})
	err := srv.Shutdown(grace)
	if errors.Is(err, context.DeadlineExceeded) {
		err = srv.Close()
	}
	if err != nil && !errors.Is(err, http.ErrServerClosed) {
		return fmt.Errorf("stop: %w", err)
	}
	return nil
}
