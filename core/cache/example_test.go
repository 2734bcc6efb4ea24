package cache_test

import (
	"fmt"

	"ornamen/core/cache"
)

// A memory of ten bytes: what was used last stays.
func ExampleCache() {
	c := cache.New[string](10, func(s string) int { return len(s) })
	c.Put("first", "aaaa")
	c.Put("second", "bbbb")
	c.Get("first")
	c.Put("third", "cccc")
	_, first := c.Get("first")
	_, second := c.Get("second")
	fmt.Println(first, second, c.Bytes())
	// Output:
	// true false 8
}
