package shape

import (
	"fmt"
	"strings"
	"testing"

	"ornamen/core/music"
	"ornamen/core/neck"
	"ornamen/core/testline"
)

// In which box a line lies, counted as players count them from the minor root (common practice).
func TestBoxSpans(t *testing.T) {
	for _, c := range []struct{ key, line, want string }{
		{"A minor pentatonic", "6:5 8 5:5 7 4:5 7 3:5 7 2:5 8 1:5 8", "1-12 box 1"},
		{"A minor pentatonic", "6:5 8 5:5 7 10 4:7 10", "1-4 box 1, 5-7 box 2"},
		{"A blues", "5:5 6 7 4:5 2:8 10 1:8 10", "1-5 box 1, 6-8 box 2"},
		{"C major pentatonic", "6:8 10 5:7 10 4:7 10", "1-6 box 2"},
		{"A minor pentatonic", "3:5 6 7 2:5", "1-4 box 1"}, // the major third passes
		{"A minor", "6:5 7 8", ""},
		{"", "6:5 8", ""},
	} {
		var got []string
		for _, s := range BoxSpans(neck.Standard(), testline.Read(t, c.key, c.line)) {
			got = append(got, fmt.Sprintf("%d-%d box %d", s.From+1, s.To, s.Box))
		}
		if strings.Join(got, ", ") != c.want {
			t.Errorf("%s in %s: %s, want %s", c.line, c.key, strings.Join(got, ", "), c.want)
		}
	}
}

// A single string is looked at from its open string on, where a run begins on its root.
func TestBegin(t *testing.T) {
	p, err := music.ParseKey("B natural minor", nil, nil)
	if err != nil {
		t.Fatal(err)
	}
	for text, want := range map[string]string{"string:2": "2:0", "string:1": "1:0", "string:6": "6:0", "3nps": "6:7"} {
		l, err := ParseLayout(text)
		if err != nil {
			t.Fatal(err)
		}
		if got := Begin(neck.Standard(), p, l).Notation(); got != want {
			t.Errorf("%s begins at %s, want %s", text, got, want)
		}
	}
}

// In any key the places offered lie all over the neck, and the one that is chosen is always among them.
func TestSpread(t *testing.T) {
	var ranked []Spot
	for k := range 20 {
		ranked = append(ranked, Spot{
			At: neck.Place{
				String: 6,
				Fret:   []int{5, 6, 7, 4, 8, 3, 9, 10, 2, 11, 1, 12, 13, 14, 15, 16, 17, 18, 19, 20}[k],
			},
			Score: float64(k),
		})
	}
	now := func(s Spot) bool { return s.At.Fret == 20 }
	zones := map[int]bool{}
	chosen := false
	list := Spread(ranked, 6, now)
	for _, s := range list {
		zones[s.At.Fret/zoneFrets] = true
		chosen = chosen || now(s)
	}
	if len(list) != 6 || len(zones) < 5 || !chosen {
		t.Errorf("%v", list)
	}
	if list := WithNow(ranked, ranked, 6, now); len(list) != 6 || !now(list[5]) || list[0].At.Fret != 5 {
		t.Errorf("%v", list)
	}
}
