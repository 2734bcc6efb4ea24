package tones

import (
	"testing"

	"ornamen/core/shape"
)

// Boxes are numbered as the player counts them, with the other number beside it.
func TestBoxWords(t *testing.T) {
	pos := shape.Position{Minor: 1, Major: 2}
	for first, want := range map[string]string{
		"minor": "box 1 from the minor root, 2 from the major root",
		"major": "box 2 from the major root, 1 from the minor root",
	} {
		if got := boxWords(pos, first); got != want {
			t.Errorf("%s: %q", first, got)
		}
	}
}

func TestListWords(t *testing.T) {
	for want, in := range map[string][]string{"": nil, "a": {"a"}, "a and b": {"a", "b"}, "a, b and c": {"a", "b", "c"}} {
		if got := listWords(in); got != want {
			t.Errorf("%q, not %q", got, want)
		}
	}
}

// A word that is none of those there are is the first of them.
func TestOneOf(t *testing.T) {
	if oneOf("b", "a", "b") != "b" || oneOf("z", "a", "b") != "a" || oneOf("", "a") != "a" {
		t.Error("a word was chosen that is none")
	}
}
