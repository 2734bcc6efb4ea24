package exchange

import (
	"context"
	"crypto/rand"
	"errors"
	"fmt"
	"io"
	"mime/multipart"
	"net/http"
	"os"
	"slices"
	"sync"
	"time"

	"github.com/go-chi/chi/v5"

	"ornamen/internal/web/page"
)

// A file that takes longer to read in than a page should wait for is read in the background: the page shows how far it
// is, and may stop it. It comes in whole or not at all.

// task is a file that is read in.
type task struct {
	key, name string
	stop      context.CancelFunc
	done      chan struct{} // closed when it is over

	mu   sync.Mutex
	part float64 // of it that is done; 0 where it is not known
	to   string  // the page that shows what came of it
	err  error
}

// tasks are the files that are read in, and the last ones that were.
type tasks struct {
	mu   sync.Mutex
	list []*task
}

// keptTasks is how many are remembered, and shortTask how long an answer waits for one before it shows a page.
const (
	keptTasks = 50
	shortTask = 700 * time.Millisecond
)

// find is a task by its key.
func (t *tasks) find(key string) (*task, bool) {
	t.mu.Lock()
	defer t.mu.Unlock()
	k := slices.IndexFunc(t.list, func(x *task) bool { return x.key == key })
	if k < 0 {
		return nil, false
	}
	return t.list[k], true
}

// begin reads a file in, in its turn among other work, and goes on when the request that brought it is over. read is
// told how to say how far it is; it gives the page that shows what came of it.
func (a Screen) begin(name string, f multipart.File,
	read func(ctx context.Context, f io.ReaderAt, progress func(float64)) (to string, err error)) (*task, error) {
	copied, err := os.CreateTemp("", "ornamen-import-")
	if err == nil {
		_, err = io.Copy(copied, f)
	}
	if err != nil {
		return nil, err
	}
	ctx, stop := context.WithCancel(context.Background())
	t := &task{key: rand.Text(), name: name, stop: stop, done: make(chan struct{})}
	a.tasks.mu.Lock()
	a.tasks.list = append(a.tasks.list, t)
	if len(a.tasks.list) > keptTasks {
		a.tasks.list = a.tasks.list[1:]
	}
	a.tasks.mu.Unlock()
	go func() {
		defer close(t.done)
		defer stop()
		defer os.Remove(copied.Name())
		defer copied.Close()
		err := a.Work.Do(ctx, 0, func(ctx context.Context) error {
			to, err := read(ctx, copied, func(part float64) {
				t.mu.Lock()
				t.part = part
				t.mu.Unlock()
			})
			t.mu.Lock()
			t.to = to
			t.mu.Unlock()
			return err
		})
		t.mu.Lock()
		t.err = err
		t.mu.Unlock()
	}()
	return t, nil
}

// answer leads to what came of a task that is over soon; else to the page that shows how far it is.
func (a Screen) answer(w http.ResponseWriter, r *http.Request, t *task) error {
	select {
	case <-t.done:
		return a.outcome(w, r, t)
	case <-time.After(shortTask):
	case <-r.Context().Done():
	}
	return page.Redirect(w, r, "/import/reading/"+t.key)
}

// outcome leads to the page that shows what came of a task that is over, or says why nothing did.
func (a Screen) outcome(w http.ResponseWriter, r *http.Request, t *task) error {
	t.mu.Lock()
	to, err := t.to, t.err
	t.mu.Unlock()
	switch {
	case errors.Is(err, context.Canceled):
		return page.Refuse(fmt.Errorf("“%s” was stopped; nothing of it was taken in", t.name))
	case err != nil:
		return page.Mistake(fmt.Errorf("“%s” was not imported: %w", t.name, err))
	}
	if err := a.LoadPlayers(r.Context()); err != nil { // others may have come along
		return err
	}
	if r.Header.Get("HX-Request") != "" {
		w.Header().Set("HX-Redirect", to)
		return nil
	}
	return page.Redirect(w, r, to)
}

// taskView is the page of a file that is read in.
type taskView struct {
	Key, Name string
	Percent   int // 0 where it is not known
}

// taskOf finds the task of the address.
func (a Screen) taskOf(r *http.Request) (*task, error) {
	t, ok := a.tasks.find(chi.URLParam(r, "key"))
	if !ok {
		return nil, page.Refuse(errors.New("that file is no longer being read in; look into the notebook whether it came"))
	}
	return t, nil
}

// reading is the page that shows how far a file is. GET.
func (a Screen) reading(w http.ResponseWriter, r *http.Request) error {
	t, err := a.taskOf(r)
	if err != nil {
		return err
	}
	select {
	case <-t.done:
		return a.outcome(w, r, t)
	default:
	}
	t.mu.Lock()
	v := taskView{t.key, t.name, int(100 * t.part)}
	t.mu.Unlock()
	return a.RenderBody(w, r, "import-reading", page.Page{Title: "Import " + t.name, Where: "notebook", Data: v})
}

// stopReading stops a file that is read in. POST. Nothing of it stays, unless it was over already.
func (a Screen) stopReading(w http.ResponseWriter, r *http.Request) error {
	t, err := a.taskOf(r)
	if err != nil {
		return err
	}
	t.stop()
	<-t.done
	return a.outcome(w, r, t)
}
