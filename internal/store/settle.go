package store

import (
	"context"
	"os"
	"sync"
	"time"
)

// What was saved last is in the write-ahead log alone until it is settled: written into the file itself. A file that is
// copied without its log is whole where the log was settled. So the log is settled as soon as nobody writes, and while
// it is not, a number in the file's head says so: a copy that was taken then knows that it is not whole.

// settling is how far the log is settled.
type settling struct {
	turn chan struct{} // holds one while somebody writes or settles

	mu        sync.Mutex
	unsettled bool // the file's head says so
	closed    bool
	timer     *time.Timer
}

// How long after the last write the log is settled, and how long one who writes waits for others.
const (
	settleAfter = 250 * time.Millisecond
	turnWithin  = 30 * time.Second
)

// begin waits for the turn to write, and has the file's head say that there is something in the log. done gives the
// turn back.
func (s *Store) begin(ctx context.Context) (done func(), err error) {
	late := time.NewTimer(turnWithin)
	defer late.Stop()
	select {
	case s.writing.turn <- struct{}{}:
	case <-late.C:
		return nil, ErrBusy
	case <-ctx.Done():
		return nil, ctx.Err()
	}
	done = func() {
		<-s.writing.turn
		s.settleSoon()
	}
	if s.writing.unsettled {
		return done, nil
	}
	if err := s.mark(1); err != nil {
		done()
		return nil, plain(err)
	}
	s.writing.unsettled = true
	return done, nil
}

// mark writes the number into the file's head and has it reach the file.
func (s *Store) mark(n int) error {
	if err := s.db.Exec(map[int]string{0: "PRAGMA user_version = 0", 1: "PRAGMA user_version = 1"}[n]).Error; err != nil {
		return err
	}
	_, err := s.checkpoint()
	return err
}

// checkpoint writes what is in the log into the file, as far as nobody reads what was before; all says whether that is
// all of it. It never waits.
func (s *Store) checkpoint() (all bool, err error) {
	var busy, logged, done int
	err = s.db.Raw("PRAGMA wal_checkpoint(PASSIVE)").Row().Scan(&busy, &logged, &done)
	return err == nil && busy == 0 && logged == done, err
}

// unsettled says what the file's head says.
func (s *Store) unsettled() bool {
	var n int
	return s.db.Raw("PRAGMA user_version").Row().Scan(&n) == nil && n == 1
}

// logged says whether a write-ahead log with something in it lies beside the file.
func (s *Store) logged() bool {
	info, err := os.Stat(s.path + "-wal")
	return err == nil && info.Size() > 0
}

// settleSoon settles the log when nobody has written for a moment.
func (s *Store) settleSoon() {
	w := &s.writing
	w.mu.Lock()
	defer w.mu.Unlock()
	if w.closed {
		return
	}
	if w.timer == nil {
		w.timer = time.AfterFunc(settleAfter, s.settle)
		return
	}
	w.timer.Reset(settleAfter)
}

// settle settles the log, or tries again later where somebody writes or reads what was before.
func (s *Store) settle() {
	w := &s.writing
	select {
	case w.turn <- struct{}{}:
	default:
		return // who writes settles after it
	}
	settled := !w.unsettled || s.there() != nil
	if !settled {
		all, err := s.checkpoint() // nearly all of it, before the head says so
		if err == nil && all && s.mark(0) == nil {
			all, err = s.checkpoint()
			settled = err == nil && all
			w.unsettled = !settled
		}
	}
	<-w.turn
	if !settled {
		s.settleSoon()
	}
}

// settleForGood settles the log of a notebook that is about to be closed.
func (s *Store) settleForGood() {
	w := &s.writing
	w.mu.Lock()
	w.closed = true
	if w.timer != nil {
		w.timer.Stop()
	}
	w.mu.Unlock()
	w.turn <- struct{}{}
	if w.unsettled && s.there() == nil {
		_ = s.mark(0) // a disk that is full leaves it as it is: the log is whole beside the file
	}
	<-w.turn
}
