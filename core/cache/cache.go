// Package cache is a memory of what was computed, bounded by bytes: what was not used for longest goes first.
package cache

import (
	"sync"

	"github.com/hashicorp/golang-lru/v2/simplelru"
)

// Cache remembers values by key, at most so many bytes of them. It is safe for concurrent use; the zero value is not,
// use New. Sizes are the caller's estimate and are asked once, when a value comes in: a value must not grow while it is
// kept.
type Cache[K comparable, V any] struct {
	mu    sync.Mutex
	lru   *simplelru.LRU[K, sized[V]]
	bytes int
	most  int
	size  func(V) int
}

// sized is a value with the bytes it counts for.
type sized[V any] struct {
	value V
	bytes int
}

// New makes a memory of at most most bytes; size says how many a value takes.
func New[K comparable, V any](most int, size func(V) int) *Cache[K, V] {
	c := &Cache[K, V]{most: most, size: size}
	lru, err := simplelru.NewLRU(1<<30, func(_ K, old sized[V]) { c.bytes -= old.bytes })
	if err != nil {
		panic(err) // only a size below one is refused
	}
	c.lru = lru
	return c
}

// Get finds a value and marks it as used.
// What comes back is shared with everyone who asks for it, and is not to be changed.
func (c *Cache[K, V]) Get(key K) (V, bool) {
	c.mu.Lock()
	defer c.mu.Unlock()
	v, ok := c.lru.Get(key)
	return v.value, ok
}

// Put keeps a value. One that is larger than the whole memory is not kept.
func (c *Cache[K, V]) Put(key K, v V) {
	n := c.size(v)
	c.mu.Lock()
	defer c.mu.Unlock()
	c.lru.Remove(key)
	if n > c.most {
		return
	}
	for c.bytes+n > c.most {
		c.lru.RemoveOldest()
	}
	c.bytes += n
	c.lru.Add(key, sized[V]{v, n})
}

// Bytes is how much is kept now.
func (c *Cache[K, V]) Bytes() int {
	c.mu.Lock()
	defer c.mu.Unlock()
	return c.bytes
}
