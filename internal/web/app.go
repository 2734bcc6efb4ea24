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

	"ornamen/core/kept"
	"ornamen/format"
	"ornamen/internal/jobs"
	"ornamen/internal/practising"
	"ornamen/internal/store"
	"ornamen/internal/web/draw"
)

//go:embed templates assets
var files embed.FS

// App serves a notebook to a player. It is safe for concurrent use: what changes while it runs
// is the player of the moment and what is remembered, and both are swapped whole or locked.
type App struct {
	store   *store.Store               // the notebook; the only thing here that outlives the process
	now     atomic.Pointer[current]    // who plays; a request takes it once, at its start
	work    *jobs.Jobs                 // what takes longer than a blink
	reports reports                    // judgements and proposals, bounded by bytes
	uploads *kept.Kept[string, upload] // files that wait for a player's word, by key
	pieces  *practising.Pieces         // the parts of licks, by version and player
	judging judging                    // judges the notebook beside the requests
	whole   atomic.Pointer[overviewed] // counts and tags at one count of writes
	pages   *template.Template         // read once: they are embedded
	forms   *form.Decoder
	handler http.Handler
}

// A screen is what its pages need beside what all pages share.
type (
	benchScreen    struct{ *App }
	notebookScreen struct{ *App }
	tonesScreen    struct{ *App }
	runsScreen     struct{ *App }
	changesScreen  struct{ *App }
	practiceScreen struct{ *App }
	playerScreen   struct{ *App }
)

// New prepares the application for the notebook's player. What it does in the
// background ends with the context.
// An error says that the player or a template cannot be read; the store is left open for the
// caller to close.
func New(ctx context.Context, s *store.Store) (*App, error) {
	a := &App{
		store:   s,
		work:    jobs.New(),
		reports: newReports(),
		forms:   form.NewDecoder(),
		pieces:  practising.NewPieces(),
		uploads: kept.New[string](keptUploads, func(u upload) int { return len(u.data) + 200 }),
	}
	a.forms.RegisterCustomTypeFunc(number, float64(0))
	if err := a.loadPlayer(ctx); err != nil {
		return nil, err
	}
	var err error
	a.pages, err = template.New("").Funcs(template.FuncMap{
		"defs":    func() template.HTML { return draw.Defs },
		"player":  a.playerLine,
		"signs":   prettySigns,
		"choices": func(words ...string) []string { return words },
		"formats": format.Formats,
		"digit":   func(i int) int { return i + 1 },
	}).ParseFS(files, "templates/*.html")
	if err != nil {
		return nil, fmt.Errorf("web: templates: %w", err)
	}
	a.handler = a.routes()
	a.judging.start(ctx, a)
	return a, nil
}

// routes says which address is whose.
//
// What changes something is a POST from a page of our own; a GET changes nothing, so that a browser
// may ask for it ahead of need, and Back shows what was there. An address names a lick by its
// number and, where it matters, the revision that a page was drawn from. The middlewares stand
// in the order in which they must hold: a fault is caught outside all others, and the headers
// are set even for what is refused.
func (a *App) routes() http.Handler {
	r := chi.NewRouter()
	r.Use(sayFault, secure, ownPagesOnly, limitBody)
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
	bench, notebook, tones := benchScreen{a}, notebookScreen{a}, tonesScreen{a}
	runs, player, over := runsScreen{a}, playerScreen{a}, changesScreen{a}
	practise := practiceScreen{a}
	r.Group(func(r chi.Router) {
		r.Use(a.withPlayer)
		work := r.With(ownWorkOnly)
		r.Get("/", notebook.notebook)
		r.Get("/judged", notebook.judgedSoFar)
		r.Get("/player", player.player)
		r.Post("/player", player.setPlayer)
		r.Post("/player/reset", player.resetPlayer)
		r.Post("/player/undo", player.undoPlayer)
		r.Get("/tones", tones.tones)
		work.Get("/tones/sound.wav", tones.tonesSound)
		work.Get("/tones/sounding", tones.tonesSound)
		r.Post("/tones/lick", tones.buildLick)
		r.Post("/tones/saved", tones.savePalette)
		r.Post("/tones/saved/{id}/forget", tones.forgetPalette)
		r.Get("/runs", runs.runs)
		work.Get("/runs/sound.wav", runs.runSound)
		work.Get("/runs/sounding", runs.runTimes)
		r.Post("/runs/lick", runs.runToBench)
		r.Post("/runs/saved", runs.saveRecipe)
		r.Post("/runs/saved/{id}/forget", runs.forgetRecipe)
		r.Get("/practice", practise.today)
		r.Post("/practice", practise.practise)
		r.Post("/practice/bend", practise.hearBend)
		r.Post("/practice/line", practise.hearLine)
		r.Get("/practice/log", practise.logPage)
		work.Get("/practice/log.csv", practise.logFile)
		work.Get("/practice/log.json", practise.logFile)
		r.Post("/practice/log/import", practise.takeLog)
		r.Post("/practice/numbers", practise.takeNumbers)
		r.Get("/changes", over.anyChanges)
		r.Post("/changes/saved/{id}/forget", over.forgetChanges)
		r.Post("/licks", notebook.newLick)
		r.Post("/licks/import", notebook.importLick)
		r.Get("/import/{key}", notebook.preview)
		r.Post("/import/{key}", notebook.takeUpload)
		work.Get("/import/{key}/sound.wav", notebook.uploadSound)
		work.Get("/import/{key}/sounding", notebook.uploadSound)
		work.Get("/notebook.zip", notebook.exportAll)
		r.Route("/licks/{id}", func(r chi.Router) {
			r.Use(inWindow)
			work := r.With(ownWorkOnly)
			r.Get("/", bench.bench)
			r.Get("/at", bench.benchAt)
			work.Get("/sound.wav", bench.soundFile)
			work.Get("/sounding", bench.soundTimes)
			work.Get("/mend", bench.mend)
			work.Get("/hands", bench.offers)
			work.Get("/recipe", runs.findRecipe)
			work.Get("/turned", bench.turned)
			r.Get("/versions", bench.versions)
			r.Get("/changes", over.changes)
			r.Post("/changes", over.change)
			r.Post("/changes/saved", over.saveChanges)
			work.Get("/recolour", tones.recolourPreview)
			r.Post("/recolour", tones.recolour)
			r.Post("/edit", bench.edit)
			r.Post("/parts", runs.keepParts)
			r.Post("/undo", bench.undo)
			r.Post("/habit", bench.answerHabit)
			r.Post("/redo", bench.redo)
			r.Post("/keep", bench.keep)
			r.Post("/copy", notebook.copyLick)
			r.Post("/delete", notebook.deleteLick)
			r.Post("/restore", notebook.restoreLick)
			work.Get("/export/{format}", bench.export)
		})
	})
	return r
}

// ServeHTTP implements http.Handler.
func (a *App) ServeHTTP(w http.ResponseWriter, r *http.Request) { a.handler.ServeHTTP(w, r) }

// LogTo writes a line for every request from now on.
// It is called before Serve, as the handler is not locked.
func (a *App) LogTo(w io.Writer) {
	a.handler = middleware.RequestLogger(
		&middleware.DefaultLogFormatter{Logger: log.New(w, "", log.LstdFlags), NoColor: true},
	)(a.handler)
}

// Timeouts of the server. A sound is computed while it is sent and a long search is ended by
// the page that leaves, so that an answer may take a minute; what is under way when the server
// stops has a few seconds to end.
const (
	readTimeout  = 30 * time.Second
	writeTimeout = 60 * time.Second
	idleTimeout  = 2 * time.Minute
	graceTime    = 5 * time.Second
)

// Serve answers requests on the listener until the context ends, then lets the
// running ones finish.
// It closes the listener. The error is nil after an orderly end, whatever was under way then:
// an edit is either in the notebook or was never answered.
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
// "Medium hand · 648 mm, 10–46, 22 frets": the numbers that every judgement rests on, on every
// page.
func (a *App) playerLine() string {
	p := a.now.Load().engine.Player
	thin, thick := p.Guitar.Strings[0], p.Guitar.Strings[len(p.Guitar.Strings)-1]
	return fmt.Sprintf("%s hand · %g mm, %.0f–%.0f, %d frets", sentenceCase(p.Hand.Name), float64(p.Guitar.Scale),
		float64(thin.Inches)*1000, float64(thick.Inches)*1000, p.Guitar.Frets)
}

// prettySigns turns # and b after a note letter or before a degree into music signs: "Bb" and
// "b7", but not the b of "blues" or "bends".
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
