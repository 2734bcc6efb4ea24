package web

import (
	"testing"

	"ornamen/core/lick"
)

// A sentence begins with a capital, whatever its first sign.
func TestSentence(t *testing.T) {
	for in, want := range map[string]string{
		"": "", "  ": "", "a bend": "A bend.", "♭3 leads on": "♭3 leads on.", "éclair.": "Éclair.", "9": "9.",
	} {
		if got := sentence(in); got != want {
			t.Errorf("%q becomes %q, want %q", in, got, want)
		}
	}
}

// How far a landing lies from the one before.
func TestWayWord(t *testing.T) {
	for in, want := range map[int]string{
		0: "the same tone", 1: "1 half step up", -1: "1 half step down", -5: "5 half steps down",
	} {
		if got := wayWord(in); got != want {
			t.Errorf("%d: %q, want %q", in, got, want)
		}
	}
}

// A proposal beside the first is called by what it changes most.
func TestOtherHands(t *testing.T) {
	l := boxLine(t, 4)
	for what, change := range map[string]func(l *lick.Lick){
		"Other fingers": func(l *lick.Lick) { l.Notes[1].Finger = lick.Ring },
		"Other strokes": func(l *lick.Lick) { l.Notes[0].Stroke, l.Notes[1].Stroke = lick.Up, lick.Down },
		"Other places":  func(l *lick.Lick) { l.Notes[2].Fret, l.Notes[1].Finger = 9, lick.Ring },
		"Other slurs":   func(l *lick.Lick) { l.Notes[1].Slur = lick.Pull },
	} {
		m := l.Clone()
		change(&m)
		if got := otherHands(l, m); got != what {
			t.Errorf("it is called %q, want %q", got, what)
		}
	}
}
