package neck

import (
	"strings"
	"testing"

	"ornamen/core/music"
)

func TestParseGauges(t *testing.T) {
	for _, c := range []struct {
		text string
		want []Gauge
	}{
		{"10 13 17 26w 36w 46w", DefaultStrings(6)},
		{".010-.013-.017", []Gauge{{0.010, false}, {0.013, false}, {0.017, false}}},
		{"9.5, 12", []Gauge{{0.0095, false}, {0.012, false}}},
		{"", nil},
	} {
		got, err := ParseGauges(c.text)
		if err != nil || len(got) != len(c.want) {
			t.Errorf("%q: %v, %v", c.text, got, err)
			continue
		}
		for i := range got {
			if d := got[i].Inches - c.want[i].Inches; d > 1e-9 || d < -1e-9 || got[i].Wound != c.want[i].Wound {
				t.Errorf("%q: string %d is %v, want %v", c.text, i+1, got[i], c.want[i])
			}
		}
	}
	for _, bad := range []string{"x", "10 w", "5", "146w", "NaN", "-10x"} {
		if _, err := ParseGauges(bad); err == nil || strings.Contains(err.Error(), "\n") {
			t.Errorf("%q: %v", bad, err)
		}
	}
}

// Another tuning keeps the guitar; another number of strings takes its own set
// and spread.
func TestWithTuning(t *testing.T) {
	g := Standard()
	dropped := g.WithTuning([]music.Pitch{64, 59, 55, 50, 45, 38})
	if dropped.Tuning[5] != 38 || g.Tuning[5] != 40 || dropped.NutSpread != g.NutSpread || len(dropped.Strings) != 6 {
		t.Errorf("%+v", dropped)
	}
	seven := g.WithTuning(append(StandardTuning(), 35))
	if len(seven.Strings) != 7 || seven.NutSpread <= g.NutSpread || seven.Validate() != nil {
		t.Errorf("%+v: %v", seven, seven.Validate())
	}
	if at, ok := seven.Places(47), true; !ok || len(at) == 0 || at[len(at)-1] != (Place{7, 12}) {
		t.Errorf("B2 lies at %v", at)
	}
	// Every place of a pitch sounds that pitch.
	for pitch := music.Pitch(40); pitch < 90; pitch++ {
		for _, p := range g.Places(pitch) {
			if g.Pitch(p) != pitch || !g.Has(p) {
				t.Fatalf("%v does not sound %v", p, pitch)
			}
		}
	}
}
