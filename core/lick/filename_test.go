package lick_test

import (
	"testing"

	"ornamen/core/lick"
)

// A title's sharps and flats are in the file's name, so that licks in A and in A♭ have two names.
func TestFileNameKeepsSigns(t *testing.T) {
	for title, want := range map[string]string{
		"A♭ lantern":      "a-flat-lantern",
		"A lantern":       "a-lantern",
		"C# steps":        "c-sharp-steps",
		"C♯ steps":        "c-sharp-steps",
		"Take #2":         "take-2",
		"B♮ again":        "b-natural-again",
		"Über der Brücke": "über-der-brücke",
		"///":             "",
	} {
		if got := (lick.Lick{Title: title}).FileName(); got != want {
			t.Errorf("%q is %q, want %q", title, got, want)
		}
	}
}
