// Package web is the application in the browser: chi routes, view models and
// templates. Rules of the trade live in core, drawings in draw.
package web

import (
	"context"
	"embed"
	"errors"
	"fmt"
	"html/template"
	"io"
	"io/fs"
	"log"
	"net"
	"net/http"
	"strings"
	"sync"
	"sync/atomic"
	"time"

	"github.com/go-chi/chi/v5"
	"github.com/go-chi/chi/v5/middleware"
	"github.com/go-playground/form/v4"

	"ornamen/internal/jobs"
	"ornamen/internal/store"
	"ornamen/internal/web/draw"
)

//go:embed templates assets
var files embed.FS

// App serves a notebook to a player.
type App struct {
	store   *store.Store
	now     atomic.Pointer[current]
	work    *jobs.Jobs
	reports reports
	judging judging
	whole   atomic.Pointer[overviewed]
	pages   *template.Template
	forms   *form.Decoder
	handler http.Handler
}

// New prepares the application for the notebook's player. What it does in the
// background ends with the context.
func New(ctx context.Context, s *store.Store) (*App, error) {
	a := &App{store: s, work: jobs.New(), reports: newReports(), forms: form.NewDecoder()}
	if err := a.loadPlayer(ctx); err != nil {
		return nil, err
	}
	var err error
	a.pages, err = template.New("").Funcs(template.FuncMap{
		"defs":    func() template.HTML { return draw.Defs },
		"player":  a.playerLine,
		"signs":   prettySigns,
		"choices": func(words ...string) []string { return words },
	}).ParseFS(files, "templates/*.html")
	if err != nil {
		return nil, fmt.Errorf("web: templates: %w", err)
	}
	a.handler = a.routes()
	a.judging.start(ctx, a)
	return a, nil
}

func (a *App) routes() http.Handler {
	r := chi.NewRouter()
	r.Use(recoverer, secure, ownPagesOnly, limitBody)
	r.NotFound(func(w http.ResponseWriter, r *http.Request) { a.fail(w, r, store.ErrNotFound) })
	r.MethodNotAllowed(func(w http.ResponseWriter, r *http.Request) {
		a.say(w, r, http.StatusMethodNotAllowed, "That cannot be done here.")
	})
	assets, err := fs.Sub(files, "assets")
	if err != nil {
		panic(err) // the folder is embedded
	}
	files, err := cached(assets, http.StripPrefix("/assets/", noListing(http.FileServerFS(assets))))
	if err != nil {
		panic(err) // the folder is embedded
	}
	r.Handle("/assets/*", files)
	r.Group(func(r chi.Router) {
		r.Use(a.guard, a.withPlayer)
		r.Get("/", a.notebook)
		r.Get("/judged", a.judgedSoFar)
		r.Get("/player", a.player)
		r.Post("/player", a.setPlayer)
		r.Post("/player/reset", a.resetPlayer)
		r.Post("/player/undo", a.undoPlayer)
		r.Get("/tones", a.tones)
		r.Post("/tones/lick", a.buildLick)
		r.Post("/tones/saved", a.savePalette)
		r.Post("/tones/saved/{id}/forget", a.forgetPalette)
		r.Get("/runs", a.runs)
		r.Post("/runs/lick", a.runToBench)
		r.Post("/runs/saved", a.saveRecipe)
		r.Post("/runs/saved/{id}/forget", a.forgetRecipe)
		r.Post("/licks", a.newLick)
		r.Post("/licks/import", a.importLick)
		r.Get("/notebook.zip", a.exportAll)
		r.Route("/licks/{id}", func(r chi.Router) {
			r.Get("/", a.bench)
			r.Get("/at", a.benchAt)
			r.Get("/mend", a.mend)
			r.Get("/hands", a.offers)
			r.Get("/recipe", a.findRecipe)
			r.Get("/turned", a.turned)
			r.Get("/versions", a.versions)
			r.Get("/recolour", a.recolourPreview)
			r.Post("/recolour", a.recolour)
			r.Post("/edit", a.edit)
			r.Post("/undo", a.undo)
			r.Post("/redo", a.redo)
			r.Post("/keep", a.keep)
			r.Post("/copy", a.copyLick)
			r.Post("/delete", a.deleteLick)
			r.Post("/restore", a.restoreLick)
			r.Get("/export/{format}", a.export)
		})
	})
	return r
}

// ServeHTTP implements http.Handler.
func (a *App) ServeHTTP(w http.ResponseWriter, r *http.Request) { a.handler.ServeHTTP(w, r) }

// LogTo writes a line for every request from now on.
func (a *App) LogTo(w io.Writer) {
	a.handler = middleware.RequestLogger(&middleware.DefaultLogFormatter{Logger: log.New(w, "", log.LstdFlags), NoColor: true})(a.handler)
}

// Timeouts of the server.
const (
	readTimeout  = 30 * time.Second
	writeTimeout = 60 * time.Second
	idleTimeout  = 2 * time.Minute
	graceTime    = 5 * time.Second
)

// Serve answers requests on the listener until the context ends, then lets the
// running ones finish.
func (a *App) Serve(ctx context.Context, ln net.Listener) error {
	srv := &http.Server{Handler: onlyHost(ln.Addr(), a), ReadTimeout: readTimeout, ReadHeaderTimeout: readTimeout,
		WriteTimeout: writeTimeout, IdleTimeout: idleTimeout, MaxHeaderBytes: 64 << 10}
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
	select {
	case err := <-done:
		return fmt.Errorf("serve: %w", err)
	case <-ctx.Done():
	}
	a.work.Stop()
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

// playerLine says in a few words who plays on what.
func (a *App) playerLine() string {
	p := a.now.Load().engine.Player
	thin, thick := p.Guitar.Strings[0], p.Guitar.Strings[len(p.Guitar.Strings)-1]
	return fmt.Sprintf("%s hand · %g mm, %.0f–%.0f, %d frets", sentenceCase(p.Hand.Name), float64(p.Guitar.Scale), float64(thin.Inches)*1000, float64(thick.Inches)*1000, p.Guitar.Frets)
}

// prettySigns turns # and b after a note letter into music signs.
func prettySigns(s string) string {
	var b strings.Builder
	for i, r := range s {
		after := i > 0 && s[i-1] >= 'A' && s[i-1] <= 'G'
		switch {
		case r == '#':
			b.WriteString("♯")
		case r == 'b' && (after || i+1 < len(s) && s[i+1] >= '0' && s[i+1] <= '9'):
			b.WriteString("♭")
		default:
			b.WriteRune(r)
		}
	}
	return b.String()
}
