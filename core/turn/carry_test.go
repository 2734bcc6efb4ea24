package turn

import (
	"testing"

	"ornamen/core/lick"
)

// What was locked is carried over field by field.
func TestCarry(t *testing.T) {
	old := lick.Note{
		Finger:  lick.Little,
		Stroke:  lick.Up,
		Slur:    lick.Hammer,
		Bend:    &lick.Bend{Semitones: 1, Shape: "bend"},
		Vibrato: &lick.Vibrato{Width: "wide", Speed: "slow"},
		Lock:    []string{"finger", "bend", "vibrato"},
		Meant:   []string{"note-outside"},
	}
	var n lick.Note
	carry(&n, old)
	if n.Finger != lick.Little || n.Stroke != "" || n.Slur != "" || n.Bend == nil || n.Vibrato == nil ||
		len(n.Lock) != 3 ||
		len(n.Meant) != 1 {
		t.Errorf("%+v", n)
	}
	old.Lock = []string{"slur", "stroke"}
	n = lick.Note{Stroke: lick.Down}
	carry(&n, old)
	if n.Slur != lick.Hammer || n.Stroke != "" || !n.Locked("slur") || n.Locked("stroke") {
		t.Errorf("a slurred note is picked: %+v", n)
	}
}
