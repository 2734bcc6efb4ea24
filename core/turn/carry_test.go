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
		Vibrato: &lick.Vibrato{Width: lick.Wide, Speed: lick.Slow},
		Lock:    lick.LockSet{lick.FieldFinger, lick.FieldBend, lick.FieldVibrato},
		Meant:   []lick.Code{"note-outside"},
	}
	var n lick.Note
	carry(&n, old)
	if n.Finger != lick.Little || n.Stroke != "" || n.Slur != "" || n.Bend == nil || n.Vibrato == nil ||
		len(n.Lock) != 3 ||
		len(n.Meant) != 1 {
		t.Errorf("%+v", n)
	}
	old.Lock = lick.LockSet{lick.FieldSlur, lick.FieldStroke}
	n = lick.Note{Stroke: lick.Down}
	carry(&n, old)
	if n.Slur != lick.Hammer || n.Stroke != "" || !n.Locked(lick.FieldSlur) || n.Locked(lick.FieldStroke) {
		t.Errorf("a slurred note is picked: %+v", n)
	}
}
