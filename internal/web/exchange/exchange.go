// Package exchange takes files in, after showing what was understood of them, and hands licks over in any format.
package exchange

import (
	"cmp"
	"context"
	"embed"
	"errors"
	"fmt"
	"io"
	"io/fs"
	"log"
	"mime"
	"net/http"
	"os"
	"strings"
	"time"

	"github.com/go-chi/chi/v5"

	"ornamen/core/cache"
	"ornamen/core/lick"
	"ornamen/core/sound"
	"ornamen/core/text"
	"ornamen/format"
	"ornamen/format/sheet"
	"ornamen/internal/archive"
	"ornamen/internal/handover"
	"ornamen/internal/store"
	"ornamen/internal/web/page"
	"ornamen/internal/web/view"
)

// Screen takes files in and hands licks over.
type Screen struct {
	*page.Site
	uploads *cache.Cache[string, upload] // files that wait for a player's word, by key
	tasks   *tasks                       // files that are read in
}

// New remembers no files yet.
func New(site *page.Site) Screen {
	return Screen{
		Site:    site,
		uploads: cache.New[string](keptUploads, func(u upload) int { return len(u.data) + 200 }),
		tasks:   &tasks{},
	}
}

//go:embed *.html *.css
var files embed.FS

// Menu implements page.Screen.
func (a Screen) Menu() page.MenuEntry {
	return page.MenuEntry{Name: "exchange"}
}

// Files implements page.Screen.
func (a Screen) Files() fs.FS { return files }

// Routes implements page.Screen.
func (a Screen) Routes(r, work chi.Router) {
	r.Post("/licks/import", a.Handler(a.importLick))
	r.Get("/import/reading/{key}", a.Handler(a.reading))
	r.Post("/import/reading/{key}/stop", a.Handler(a.stopReading))
	r.Get("/import/{key}", a.Handler(a.preview))
	r.Post("/import/{key}", a.Handler(a.takeUpload))
	work.Get("/import/{key}/sound.wav", a.Handler(a.uploadSound))
	work.Get("/import/{key}/sounding", a.Handler(a.uploadSound))
	work.Get("/notebook.zip", a.Handler(a.exportAll))
	work.Get("/licks/{id}/export/{format}", a.Handler(a.export))
}

// uploadSound is a line of a file as it sounds, before it is taken into the notebook. A zip has no one line to hear.
func (a Screen) uploadSound(w http.ResponseWriter, r *http.Request) error {
	u, f, err := a.uploaded(r)
	if err != nil {
		return err
	}
	if isZip(u.name) {
		return store.ErrNotFound
	}
	in, err := a.understood(r.Context(), u, f.Line, f.Tempo)
	if err != nil {
		return err
	}
	return view.HeardLick(w, r, in.Lick, sound.Options{})
}

// exportAll hands licks over as a zip: the whole notebook with its versions, or, where a format
// is named, those of a tag or all as files of that format. It is made in a file of its own before the
// first byte is sent, so that a lick that cannot be written is an error and not half a file, and a large
// notebook takes no memory.
func (a Screen) exportAll(w http.ResponseWriter, r *http.Request) error {
	var f struct {
		Tag  string `form:"tag"`
		As   string `form:"as"`
		Bare bool   `form:"bare"`
	}
	if err := a.Decode(r, &f); err != nil {
		return err
	}
	made, err := os.CreateTemp("", "ornamen-export-")
	if err != nil {
		return err
	}
	defer os.Remove(made.Name())
	defer made.Close()
	err = a.Work.Do(r.Context(), 0, func(ctx context.Context) error {
		if f.As != "" {
			return a.packed(ctx, made, f.As, f.Tag, f.Bare)
		}
		_, err := archive.Write(ctx, made, a.Store)
		return err
	})
	if err != nil {
		return err
	}
	name, kind := "ornamen-notebook.zip", "application/zip"
	if one, ok := format.ByName(f.As); ok && one.Joins {
		name, kind = "ornamen-licks"+one.Ending, one.Kind
	} else if f.As != "" {
		name = "ornamen-" + strings.ReplaceAll(f.As, ",", "-") + ".zip"
	}
	if _, err := made.Seek(0, io.SeekStart); err != nil {
		return err
	}
	page.Attach(w, kind, name)
	if _, err := io.Copy(w, made); err != nil {
		log.Printf("hand over %s: %v", name, err) // what the browser does not take any more
	}
	return nil
}

// maxHandedOver is how many licks go out in a zip of one format.
const maxHandedOver = 2000

// packed writes the licks of a tag, or all, as files of a format or of several, or as one page. Too many, none, or more
// sound than a file holds are the player's to know of; a format that is none cannot come from our pages.
func (a Screen) packed(ctx context.Context, w io.Writer, as, tag string, bare bool) error {
	formats, err := format.ByNames(as)
	if err != nil {
		return page.Refuse(fmt.Errorf("there is no format %q", text.Clip(as, 60)))
	}
	rows, err := a.Store.List(ctx, store.Query{Tag: tag, Order: store.ByTitle, Limit: maxHandedOver + 1})
	if err != nil {
		return err
	}
	if len(rows) > maxHandedOver {
		return page.Refuse(fmt.Errorf("at most %d licks go into one zip; choose a tag", maxHandedOver))
	}
	var licks []lick.Lick
	for _, row := range rows {
		e, err := a.Get(ctx, row.ID)
		if err != nil {
			return err
		}
		licks = append(licks, e.Lick)
	}
	if len(licks) == 0 {
		return page.Refuse(errors.New("no lick fits, so that there is nothing to export"))
	}
	if len(formats) == 1 && formats[0].Joins {
		data, err := handover.Page(ctx, page.EngineOf(ctx), sheet.Head{}, licks)
		if err == nil {
			_, err = w.Write(data)
		}
		return page.Mistake(err)
	}
	return page.Mistake(handover.Pack(ctx, page.EngineOf(ctx), w, licks, bare, formats...))
}

// export hands the lick over as a file of a format, named after its title, with the hands that the bench shows;
// bare without those that are only proposed.
func (a Screen) export(w http.ResponseWriter, r *http.Request) error {
	e, err := a.WholeEntry(r)
	if err != nil {
		return err
	}
	f, ok := format.ByName(chi.URLParam(r, "format"))
	if !ok {
		return store.ErrNotFound
	}
	var asked struct {
		Bare bool `form:"bare"`
	}
	if err := a.Decode(r, &asked); err != nil {
		return err
	}
	file := &begun{w: w, begin: func(h http.Header) {
		h.Set("Content-Type", f.Kind)
		how := "attachment"
		if f.Policy != "" {
			how = "inline"
			h.Set("Content-Security-Policy", f.Policy)
		}
		h.Set("Content-Disposition", mime.FormatMediaType(how,
			map[string]string{"filename": cmp.Or(e.Lick.FileName(), "lick") + f.Ending}))
	}}
	// It waits its turn like all work that takes long, and ends with the page that asks for it.
	err = a.Work.Do(r.Context(), 0, func(ctx context.Context) error {
		return handover.Write(ctx, page.EngineOf(ctx), file, e.Lick, f, asked.Bare)
	})
	if err != nil && file.is {
		if r.Context().Err() == nil {
			log.Printf("export: %v", err) // half of it is sent, so that nothing more can be said
		}
		return nil
	}
	return page.Mistake(err)
}

// begun is an answer that begins with its first byte: until then it can still be an error.
type begun struct {
	w     http.ResponseWriter
	begin func(http.Header)
	is    bool
}

// Write implements io.Writer. A sound of many minutes may take longer to send than other answers may.
func (b *begun) Write(data []byte) (int, error) {
	if !b.is {
		b.is = true
		b.begin(b.w.Header())
		_ = http.NewResponseController(b.w).SetWriteDeadline(time.Time{})
	}
	return b.w.Write(data)
}
