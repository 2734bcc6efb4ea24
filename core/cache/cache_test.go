package cache

import (
	"sync"
	"testing"
)

// What was not used for longest goes first, and the sum of sizes stays bounded.
func TestBound(t *testing.T) {
	k := New[int](10, func(s string) int { return len(s) })
	k.Put(1, "aaaa")
	k.Put(2, "bbbb")
	if _, ok := k.Get(1); !ok {
		t.Fatal("the first is gone")
	}
	k.Put(3, "cccc") // makes room: 2 was not used since
	if _, ok := k.Get(2); ok || k.Bytes() != 8 {
		t.Errorf("2 is there: %v, %d bytes", ok, k.Bytes())
	}
	k.Put(1, "aa") // replaces
	if v, _ := k.Get(1); v != "aa" || k.Bytes() != 6 {
		t.Errorf("%q, %d bytes", v, k.Bytes())
	}
	k.Put(4, "longer than all of it")
	if _, ok := k.Get(4); ok || k.Bytes() != 6 {
		t.Errorf("a value beyond the bound is kept: %v, %d bytes", ok, k.Bytes())
	}
	k.Put(5, "exactlyten")
	if k.Bytes() != 10 {
		t.Errorf("%d bytes", k.Bytes())
	}
}

func TestConcurrent(t *testing.T) {
	k := New[int](100, func(n int) int { return n })
	var wg sync.WaitGroup
	for g := range 4 {
		wg.Go(func() {
			for i := range 1000 {
				k.Put(i%37, 1+(i*g)%20)
				k.Get(i % 11)
			}
		})
	}
	wg.Wait()
	if k.Bytes() > 100 {
		t.Errorf("%d bytes", k.Bytes())
	}
}
