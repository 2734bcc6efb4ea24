package web

import (
	"context"
	"errors"
	"fmt"
	"sync"
)

// heavyJobs is how many searches that take longer than a blink run at a time; the
// others wait for their turn.
const heavyJobs = 2

// errSuperseded ends work on a revision that is no longer the newest.
var errSuperseded = errors.New("the line has changed in the meantime; look again")

// errStopping ends work when the server stops.
var errStopping = errors.New("Ornamen is stopping")

// work runs what takes longer than a blink: a few jobs at a time, each ended when
// its page goes, when its lick gets a newer revision, and when the server stops.
type work struct {
	slots chan struct{}

	mu      sync.Mutex
	running map[*job]bool
	stopped bool
}

type job struct {
	lick uint // 0 for none
	end  context.CancelCauseFunc
}

func newWork() *work {
	return &work{slots: make(chan struct{}, heavyJobs), running: map[*job]bool{}}
}

// do runs f for a lick (0 for none) with a context that ends when nobody wants the
// answer any more. It waits for its turn and gives f's error, or why f was not
// wanted.
func (w *work) do(ctx context.Context, lick uint, f func(context.Context) error) error {
	ctx, end := context.WithCancelCause(ctx)
	defer end(nil)
	j := &job{lick, end}
	w.mu.Lock()
	if w.stopped {
		end(errStopping)
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

// newer ends the work on a lick's older revisions.
func (w *work) newer(lick uint) { w.endAll(errSuperseded, func(j *job) bool { return j.lick == lick }) }

// stop ends all work, and what comes after.
func (w *work) stop() {
	w.mu.Lock()
	w.stopped = true
	w.mu.Unlock()
	w.endAll(errStopping, func(*job) bool { return true })
}

func (w *work) endAll(why error, which func(*job) bool) {
	w.mu.Lock()
	defer w.mu.Unlock()
	for j := range w.running {
		if which(j) {
			j.end(why)
		}
	}
}

// busy counts the jobs that run or wait.
func (w *work) busy() int {
	w.mu.Lock()
	defer w.mu.Unlock()
	return len(w.running)
}
