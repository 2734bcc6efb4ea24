package hand

import (
	"testing"

	"ornamen/core/lick"
	"ornamen/core/neck"
)

// A finger that has bent stands where it pushed its string: to the same fret of the next string it does not roll, it
// jumps, and from a full bend it comes from further away than from a light one.
func TestBentFingerIsElsewhere(t *testing.T) {
	m := NewModel(Medium(), neck.Standard())
	from := Touch{Place: neck.Place{String: 3, Fret: 7}, Finger: lick.Ring}
	to := Touch{Place: neck.Place{String: 2, Fret: 7}, Finger: lick.Ring}
	bent, light := from, from
	bent.Bent = true
	light.Bent, light.Light = true, true
	if k := m.again(from, to).kind; k != Roll {
		t.Errorf("without a bend it is a %s", k)
	}
	for _, x := range []Touch{bent, light} {
		if k := m.again(x, to).kind; k != Jump {
			t.Errorf("after a bend it is a %s", k)
		}
	}
	if full, part := m.again(bent, to).least, m.again(light, to).least; full <= part {
		t.Errorf("from a full bend %.0f ms, from a light one %.0f", full, part)
	}
}
