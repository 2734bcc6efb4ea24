package kept_test

import (
	"fmt"

	"ornamen/core/kept"
)

// A memory of ten bytes: what was used last stays.
func ExampleKept() {
	k := kept.New[string](10, func(s string) int { return len(s) })
	k.Put("first", "aaaa")
	k.Put("second", "bbbb")
	k.Get("first")
	k.Put("third", "cccc")
	_, first := k.Get("first")
	_, second := k.Get("second")
	fmt.Println(first, second, k.Bytes())
	// Output:
	// true false 8
}
