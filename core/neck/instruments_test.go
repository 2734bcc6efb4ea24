package neck

import "testing"

// Every instrument can be built, and its strings carry what strings carry (15 to
// 250 N, model default).
func TestInstruments(t *testing.T) {
	strings := map[string]int{"guitar": 6, "guitar7": 7, "guitar8": 8, "baritone": 6, "bass4": 4, "bass5": 5}
	for _, name := range InstrumentNames() {
		x, err := ParseInstrument(name)
		if err != nil || len(x.Guitar.Tuning) != strings[name] || x.Fingers != (name[:4] == "bass") {
			t.Errorf("%s: %d strings, %v", name, len(x.Guitar.Tuning), err)
			continue
		}
		for i, s := range x.Guitar.Strings {
			if f := s.Tension(x.Guitar.Tuning[i], x.Guitar.Scale); f < 40 || f > 250 {
				t.Errorf("%s, string %d carries %.0f N", name, i+1, f)
			}
		}
	}
	if _, err := ParseInstrument("lute"); err == nil {
		t.Error("a lute is an instrument here")
	}
}

func TestParsePlace(t *testing.T) {
	if p, err := ParsePlace(" 6:12 "); err != nil || p != (Place{6, 12}) || p.Notation() != "6:12" {
		t.Errorf("%v %v", p, err)
	}
	for _, bad := range []string{"", "6", "6:", ":5", "a:b", "6:5:4", "6.5"} {
		if _, err := ParsePlace(bad); err == nil {
			t.Errorf("%q is a place", bad)
		}
	}
}
