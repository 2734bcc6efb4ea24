package main

import (
	"slices"
	"strings"
	"testing"
)

// Of a function every operator, boundary, constant and statement is changed, each on its own, and nothing else.
func TestChangesIn(t *testing.T) {
	const file = `package a

const outside = 3

func f(n int, ok bool) int {
	k := 2
	for i := 0; i < n; i++ {
		if !ok || i == 4 {
			continue
		}
		k += i
		g(k)
	}
	return -k
}
`
	list, err := changesIn("a.go", []byte(file))
	if err != nil {
		t.Fatal(err)
	}
	var got []string
	for _, c := range list {
		got = append(got, strings.TrimPrefix(c.String(), "a.go:"))
		if file[c.from:c.to] != c.was || c.function != "f" {
			t.Errorf("%+v", c)
		}
	}
	want := []string{"6 f: 2 → 3", "7 f: 0 → 1", "7 f: < → <=", "7 f: < → >=", "7 f: i++ → nothing", "8 f: || → &&",
		"8 f: ! → nothing", "8 f: == → !=", "8 f: 4 → 5", "9 f: continue → break", "11 f: k += i → nothing",
		"12 f: g(k) → nothing", "14 f: - → nothing"}
	if !slices.Equal(got, want) {
		t.Errorf("%q", got)
	}
}
