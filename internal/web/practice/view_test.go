package practice

import (
	"testing"

	"ornamen/core/practice"
)

// What was written last is said in the player's words.
func TestLastWord(t *testing.T) {
	for want, e := range map[string]practice.Entry{
		"clean at 72":               {Clean: 1, Tempo: 72},
		"missed at 72":              {Missed: 1, Tempo: 72},
		"missed note 5 at 72":       {Missed: 1, Note: 5, Tempo: 72},
		"the tempo set to 66":       {Kind: practice.SetTempo, Tempo: 66},
		"wanted at 120":             {Kind: practice.Raised, Tempo: 120},
		"it hurts":                  {Comfort: practice.Hurts},
		"it is well again":          {Comfort: practice.Well},
		"it feels tense":            {Comfort: practice.Tense},
		"a rest":                    {Comfort: practice.Fine},
		"Weir kept out of practice": {Kind: practice.OutOfPractice, Title: "Weir"},
		"done with this part":       {Kind: practice.Finished},
	} {
		if got := lastWord(e); got != want {
			t.Errorf("%q, not %q", got, want)
		}
	}
}

// A link to the stand keeps to the set and the kind, and leaves out what is as usual.
func TestStandLink(t *testing.T) {
	for want, got := range map[string]string{
		"/practice?lick=3&minutes=30&part=bars+1+to+2":     standLink(3, "bars 1 to 2", 30, 0, ""),
		"/practice?kind=ear&lick=3&minutes=10&part=&set=7": standLink(3, "", 10, 7, "ear"),
	} {
		if got != want {
			t.Errorf("%q, not %q", got, want)
		}
	}
}
