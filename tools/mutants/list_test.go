package main

import "testing"

// Every change of the list can be made: what it changes stands in its file, once. Whether the tests
// notice is for the night: make mutants.
func TestMutantsApply(t *testing.T) {
	t.Chdir("../..")
	seen := map[string]bool{}
	for _, m := range mutants {
		if _, err := m.changed(); err != nil {
			t.Errorf("%s: %v", m.name, err)
		}
		if seen[m.name] || len(m.tests) == 0 || m.was == m.becomes {
			t.Errorf("%s is there twice, changes nothing or has no tests", m.name)
		}
		seen[m.name] = true
	}
	if len(mutants) < 50 {
		t.Errorf("only %d changes are tried", len(mutants))
	}
}
