package propose

import (
	"context"
	"errors"
	"fmt"
	"math"
	"sync/atomic"
	"testing"
	"time"

	"ornamen/core/lick"
	"ornamen/core/pick"
	"ornamen/core/testline"
)

// fuse is a context that ends when it has been asked so many times whether it has.
type fuse struct {
	context.Context
	left atomic.Int64
}

func (f *fuse) Err() error {
	if f.left.Add(-1) < 0 {
		return context.Canceled
	}
	return nil
}

func fused(n int64) *fuse {
	f := &fuse{Context: context.Background()}
	f.left.Store(n)
	return f
}

// asks is every question that takes a while.
var asks = map[string]func(context.Context, lick.Lick) error{
	"check": func(ctx context.Context, l lick.Lick) error { _, err := usual.Check(ctx, l); return err },
	"propose": func(ctx context.Context, l lick.Lick) error {
		_, err := Hands(ctx, usual, l, Request{Best: 4})
		return err
	},
	"other places": func(ctx context.Context, l lick.Lick) error {
		_, err := Hands(ctx, usual, l, Request{Place: true, Best: 2})
		return err
	},
	"ways": func(ctx context.Context, l lick.Lick) error { _, err := Ways(ctx, usual, l); return err },
	"restring": func(ctx context.Context, l lick.Lick) error {
		_, err := Restring(ctx, usual, l, pick.Economy)
		return err
	},
	"fixes": func(ctx context.Context, l lick.Lick) error {
		r, err := usual.Check(ctx, l)
		if err == nil {
			err = usual.Mend(ctx, l, r)
		}
		return err
	},
}

// A question whose asker leaves, at whatever moment, is answered with the reason,
// without a fault.
func TestStopped(t *testing.T) {
	for _, loop := range []bool{false, true} {
		l := testline.Wild(5)
		l.Loop = loop
		for name, ask := range asks {
			whole := fused(math.MaxInt64)
			if err := ask(whole, l); err != nil {
				t.Fatalf("%s: %v", name, err)
			}
			moments := math.MaxInt64 - whole.left.Load()
			for after := range moments {
				if step := moments / 8; step > 0 && after > 3 && after%step != 0 && after < moments-2 {
					continue
				}
				if err := ask(fused(after), l); !errors.Is(err, context.Canceled) {
					t.Errorf("%s stopped at moment %d of %d: %v", name, after, moments, err)
				}
			}
		}
	}
}

// How long a question goes on after its asker has left, at moments spread over the
// first seconds of its work on long random lines; the longest is reported.
func BenchmarkLeaving(b *testing.B) {
	for _, n := range []int{256, 2048} {
		l := testline.Wild(n)
		for name, ask := range asks {
			b.Run(fmt.Sprintf("%s of %d", name, n), func(b *testing.B) {
				worst := time.Duration(0)
				for i := 0; b.Loop(); i++ {
					ctx, leave := context.WithCancel(context.Background())
					ended := make(chan time.Time)
					go func() { _ = ask(ctx, l); ended <- time.Now() }()
					time.Sleep(time.Duration(1+97*i%1500) * time.Millisecond)
					left := time.Now()
					leave()
					worst = max(worst, (<-ended).Sub(left))
				}
				b.ReportMetric(float64(worst.Milliseconds()), "ms-after-leaving")
			})
		}
	}
}
