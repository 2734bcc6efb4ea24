package jobs

import (
	"context"
	"errors"
	"sync"
	"testing"
	"time"
)

// until waits for what must come soon.
func until(t *testing.T, what string, ok func() bool) {
	t.Helper()
	for end := time.Now().Add(time.Minute); !ok(); time.Sleep(time.Millisecond) {
		if time.Now().After(end) {
			t.Fatalf("%s does not come", what)
		}
	}
}

// At most two jobs run at a time; one that nobody waits for any more ends, whether
// it runs or waits, and so does one for a revision that is no longer the newest.
func TestWork(t *testing.T) {
	w := New()
	var mu sync.Mutex
	running, most := 0, 0
	hold := func(ctx context.Context) error {
		mu.Lock()
		running++
		most = max(most, running)
		mu.Unlock()
		<-ctx.Done()
		mu.Lock()
		running--
		mu.Unlock()
		return context.Cause(ctx)
	}
	ctx, leave := context.WithCancel(t.Context())
	got := make(chan error, 8)
	for lick := range uint(4) {
		go func() { got <- w.Do(ctx, lick+1, hold) }()
	}
	until(t, "the work", func() bool { mu.Lock(); defer mu.Unlock(); return running == AtOnce && w.Busy() == 4 })
	for lick := range uint(4) {
		w.Newer(lick + 1)
	}
	for range 4 {
		if err := <-got; !errors.Is(err, ErrSuperseded) {
			t.Errorf("ended by a newer revision: %v", err)
		}
	}
	for range 3 {
		go func() { got <- w.Do(ctx, 0, hold) }()
	}
	until(t, "the work", func() bool { return w.Busy() == 3 })
	leave()
	for range 3 {
		if err := <-got; !errors.Is(err, context.Canceled) {
			t.Errorf("ended by leaving: %v", err)
		}
	}
	w.Stop()
	if err := w.Do(t.Context(), 0, hold); !errors.Is(err, ErrStopping) {
		t.Errorf("work while stopping: %v", err)
	}
	if most != AtOnce || w.Busy() != 0 {
		t.Errorf("%d at a time, %d left", most, w.Busy())
	}
}
