package suit

import (
	"testing"

	"ornamen/core/judge"
	"ornamen/core/lick"
	"ornamen/core/player"
	"ornamen/core/testline"
)

// A small hand whose index must play two frets one after the other gets fingers of its own; each way that is offered
// lies better than the line as it is, and what is as good as can be gets no other hands.
func TestWays(t *testing.T) {
	profile := player.DefaultProfile()
	profile.Size = "small"
	p, err := profile.Player()
	if err != nil {
		t.Fatal(err)
	}
	e := judge.NewEngine(p)
	for _, c := range []struct {
		name, notes string
		tempo       float64
		finger      lick.Finger // of the second note, set by the player
		want        bool
	}{
		{name: "a wrong finger", notes: "3:5 7 5 7 5 7 5 7", tempo: 120, finger: lick.Index, want: true},
		{name: "as good as can be", notes: "3:5 7 5 7", tempo: 60},
	} {
		l := testline.Read(t, "A minor pentatonic", c.notes)
		l.Tempo = c.tempo
		if c.finger != lick.NoFinger {
			l.Notes[1] = l.Notes[1].WithHands(c.finger, "")
		}
		before, err := e.Check(t.Context(), l)
		if err != nil {
			t.Fatal(err)
		}
		list, err := Ways(t.Context(), e, l, before)
		if err != nil {
			t.Fatal(err)
		}
		kinds := map[Kind]int{}
		for _, x := range list {
			kinds[x.Kind]++
			if !better(x.Report, before) {
				t.Errorf("%s: %s %s is no better", c.name, x.Kind, x.Key)
			}
			if x.Why == "" || kinds[x.Kind] > each {
				t.Errorf("%s: %s %q", c.name, x.Kind, x.Why)
			}
		}
		if c.want != (kinds[Hands] > 0) {
			t.Errorf("%s: %d hands", c.name, kinds[Hands])
		}
	}
}
