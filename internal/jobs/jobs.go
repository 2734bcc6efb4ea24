package jobs

import (
	"context"
	"errors"
	"fmt"
	"sync"
)

// AtOnce is how many searches that take longer than a blink run at a time; the others wait for
// their turn. Each uses what cores there are, so that more at once would only end later.
const AtOnce = 2

// ErrSuperseded ends work on a revision that is no longer the newest.
var ErrSuperseded = errors.New("the line has changed in the meantime; look again")

// ErrStopping ends work when the server stops.
var ErrStopping = errors.New("the server is stopping")

// Jobs is the work of one server. It is safe for concurrent use.
type Jobs struct {
	slots chan struct{}

	mu      sync.Mutex
	running map[*job]bool
	stopped bool
}

// job is one piece of work that can be ended.
type job struct {
	lick uint // 0 for none
	end  context.CancelCauseFunc
}

// New makes a server without work.
func New() *Jobs {
	return &Jobs{slots: make(chan struct{}, AtOnce), running: map[*job]bool{}}
}

// Do runs f for a lick (0 for none) with a context that ends when nobody wants the answer any more: the page has gone,
// the lick has a newer revision, the server stops. It waits for its turn and gives f's error, or why f was not wanted,
// as an error that errors.Is knows. Work for lick 0 is never superseded. f is not run at all once its context has
// ended, and must look at it now and then.
func (w *Jobs) Do(ctx context.Context, lick uint, f func(context.Context) error) error {
	ctx, end := context.WithCancelCause(ctx)
	defer end(nil)
	j := &job{lick, end}
	w.mu.Lock()
	if w.stopped {
		end(ErrStopping)
	}
	w.running[j] = true
	w.mu.Unlock()
	defer func() {
		w.mu.Lock()
		delete(w.running, j)
		w.mu.Unlock()
	}()
	select {
	case w.slots <- struct{}{}:
		defer func() { <-w.slots }()
	case <-ctx.Done():
	}
	if err := context.Cause(ctx); err != nil {
		return fmt.Errorf("stopped: %w", err)
	}
	return f(ctx)
}

// Newer ends the work on a lick's older revisions.
func (w *Jobs) Newer(lick uint) { w.endAll(ErrSuperseded, func(j *job) bool { return j.lick == lick }) }

// Stop ends all work, and what comes after.
func (w *Jobs) Stop() {
	w.mu.Lock()
	w.stopped = true
	w.mu.Unlock()
	w.endAll(ErrStopping, func(*job) bool { return true })
}

// endAll ends the jobs that are meant, with the reason that they see as their context's cause.
func (w *Jobs) endAll(why error, which func(*job) bool) {
	w.mu.Lock()
	defer w.mu.Unlock()
	for j := range w.running {
		if which(j) {
			j.end(why)
		}
	}
}

// Busy counts the jobs that run or wait.
func (w *Jobs) Busy() int {
	w.mu.Lock()
	defer w.mu.Unlock()
	return len(w.running)
}
