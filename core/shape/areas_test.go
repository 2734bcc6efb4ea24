package shape

import (
	"strings"
	"testing"

	"ornamen/core/bend"
	"ornamen/core/hand"
	"ornamen/core/music"
	"ornamen/core/neck"
)

// Areas, strings and selections begin where they are told and move along the neck.
func TestAreasMove(t *testing.T) {
	g := neck.Standard()
	for _, c := range []struct {
		key, layout, at string
		steps           int
		want            string
	}{
		{key: "A minor pentatonic", layout: "frets:5-8", steps: 0, want: "5 8, 5 7, 5 7, 5 7, 5 8, 5 8"},
		{
			key:    "D minor pentatonic",
			layout: "frets:5-10",
			steps:  0,
			want:   "5 8 10, 5 8 10, 5 7 10, 5 7 10, 6 8 10, 5 8 10",
		},
		{
			key:    "D minor pentatonic",
			layout: "frets:5-10",
			at:     "5:5",
			steps:  0,
			want:   "5 8 10, 5 7 10, 5 7 10, 6 8 10, 5 8 10",
		},
		{key: "A minor pentatonic", layout: "frets:5-8", at: "6:5", steps: 1, want: "8 10, 10, 10, 9, 8 10, 8 10"},
		{
			key:    "A minor pentatonic",
			layout: "strings:2,1",
			at:     "2:8",
			steps:  0,
			want:   "8 10 13 15 17 20 22, 8 10 12 15 17 20 22",
		},
		{
			key:    "A minor pentatonic",
			layout: "strings:2,1",
			at:     "2:8",
			steps:  1,
			want:   "10 13 15 17 20 22, 10 12 15 17 20 22",
		},
		{key: "A minor pentatonic", layout: "places:6:5,5:7,4:7", at: "6:5", steps: 0, want: "5, 7, 7"},
		{key: "A minor pentatonic", layout: "places:6:5,5:7,4:7", at: "6:5", steps: 1, want: "8, 10, 10"},
		{key: "A minor pentatonic", layout: "places:6:5,5:7,4:7", at: "6:8", steps: 0, want: "8, 10, 10"},
		{key: "A minor pentatonic", layout: "boxes:1+2", steps: 0, want: "5 8 10, 5 7 10, 5 7 10, 5 7 9, 5 8 10, 5 8 10"},
		{
			key:    "A minor pentatonic",
			layout: "boxes:4+5+1",
			at:     "6:0",
			steps:  0,
			want:   "0 3 5 8, 0 3 5 7, 0 2 5 7, 0 2 5 7, 1 3 5 8, 0 3 5 8",
		},
		{
			key:    "C major pentatonic",
			layout: "boxes:2+3",
			at:     "5:7",
			steps:  0,
			want:   "7 10 12, 7 10 12, 7 9 12, 8 10 13, 8 10 12",
		},
	} {
		p, err := music.ParseKey(c.key, nil, nil)
		if err != nil {
			t.Fatal(err)
		}
		layout, err := ParseLayout(c.layout)
		if err != nil {
			t.Fatal(err)
		}
		at := Start(g, p, layout)
		if c.at != "" {
			if at, err = neck.ParsePlace(c.at); err != nil {
				t.Fatal(err)
			}
		}
		l, err := NewLadder(g, p, layout, at, false)
		if err == nil && c.steps != 0 {
			var ok bool
			if l, ok = LadderAlong(g, p, layout, at, c.steps, false); !ok {
				t.Errorf("%s %s from %s does not move", c.key, c.layout, at.Notation())
				continue
			}
		}
		if err != nil {
			t.Errorf("%s %s from %s: %v", c.key, c.layout, at.Notation(), err)
			continue
		}
		var all []Placed
		for _, on := range l.ByString {
			all = append(all, on...)
		}
		if got := draw(all); got != c.want {
			t.Errorf("%s %s from %s, %d on: %s, want %s", c.key, c.layout, at.Notation(), c.steps, got, c.want)
		}
	}
}

// What cannot be laid out says why in one sentence.
func TestAreasRefused(t *testing.T) {
	g := neck.Standard()
	p, _ := music.ParseKey("A minor pentatonic", nil, nil)
	for _, c := range []struct{ layout, at, says string }{
		{"frets:5-8", "6:12", "does not lie on frets"},
		{"places:6:5,5:7", "5:7", "begins on string 6"},
		{"places:6:5,1:22", "6:8", "off the neck"},
		{"boxes:1+2", "6:8", "box 1 does not begin at 6:8; on string 6 it does at fret 5 and 17"},
		{"boxes:1+2+3", "6:17", "fret"},
		{"boxes:1+3", "", "no neighbour"},
		{"boxes:1", "", "no two or three"},
		{"boxes:1+7", "", "no box from 1 to 5"},
		{"3nps", "6:20", "would need fret"},
	} {
		layout, err := ParseLayout(c.layout)
		if err == nil {
			at := Start(g, p, layout)
			if c.at != "" {
				at, _ = neck.ParsePlace(c.at)
			}
			_, err = Lay(g, p, layout, at)
		}
		if err == nil || !strings.Contains(err.Error(), c.says) {
			t.Errorf("%s at %s: %v, want %q", c.layout, c.at, err, c.says)
		}
	}
	// A ladder makes do with the strings that there are, and knows why.
	l, err := NewLadder(g, p, counts{each: 3}, neck.Place{String: 6, Fret: 17}, false)
	if err != nil || l.Short == nil || len(l.ByString) == 0 {
		t.Errorf("three a string at the end of the neck: %v", err)
	}
}

// A box has one number, whichever string it is named from (common practice).
func TestOneBoxNumber(t *testing.T) {
	g := neck.Standard()
	for _, key := range []string{"G minor pentatonic", "Eb major pentatonic", "A blues", "C major"} {
		p, err := music.ParseKey(key, nil, nil)
		if err != nil {
			t.Fatal(err)
		}
		for f := range 13 {
			at := neck.Place{String: 6, Fret: f}
			placed, err := Lay(g, p, box{}, at)
			if err != nil {
				continue
			}
			want := PositionOf(g, p, box{}, placed)
			for s := 5; s >= 2; s-- {
				low := 99
				for _, x := range placed {
					if x.Place.String == s && coreTones(p)[x.Tone.Degree.Semitones()] {
						low = min(low, x.Place.Fret)
					}
				}
				part, err := Lay(g, p, box{}, neck.Place{String: s, Fret: low})
				if err != nil {
					t.Errorf("%s at %d:%d: %v", key, s, low, err)
					continue
				}
				if got := PositionOf(g, p, box{}, part); got.Minor != want.Minor || got.Major != want.Major {
					t.Errorf("%s: from 6:%d box %d, from %d:%d box %d", key, f, want.Minor, s, low, got.Minor)
				}
			}
		}
	}
}

// Arpeggios by their chord's sign, their own layout, and a spread one close to the hand.
func TestArpeggios(t *testing.T) {
	g := neck.Standard()
	for _, c := range []struct{ key, layout, at, want string }{
		{key: "Am7", at: "6:5", want: "5 8, 7, 5 7, 5, 5 8, 5 8"},
		{key: "A minor triad", at: "6:5", want: "5 8, 7, 7, 5, 5, 5 8"},
		{key: "C major ninth", layout: "spread", at: "5:3", want: "3, 5, 4, 3 5"},
		{key: "G major ninth", layout: "spread", at: "5:10", want: "10, 12, 11, 10 12"},
		{key: "C major seventh", layout: "spread", at: "6:8", want: "8, 10, 9, 9"},
	} {
		p, err := music.ParseKey(c.key, nil, nil)
		if err != nil {
			t.Fatal(err)
		}
		layout := Default(p.Scale)
		if c.layout != "" {
			layout, _ = ParseLayout(c.layout)
		} else if layout.Name() != "arp" {
			t.Errorf("%s is laid out as %s", c.key, layout.Name())
		}
		at, _ := neck.ParsePlace(c.at)
		placed, err := Lay(g, p, layout, at)
		if err != nil {
			t.Errorf("%s: %v", c.key, err)
			continue
		}
		if got := draw(placed); got != c.want {
			t.Errorf("%s %s: %s, want %s", c.key, layout.Name(), got, c.want)
		}
	}
	// The scale's own 7 stays where another one is asked for below the root.
	p, _ := music.ParseKey("C major", []string{"7@below"}, nil)
	if got := p.At(71); got.Role != music.ScaleTone || got.Hold.Only != "" {
		t.Errorf("the 7 of C major is %+v", got)
	}
}

// The sweet spot of what goes on along the neck lies under a hand, not where the neck ends.
func TestSweetSpotOfPairs(t *testing.T) {
	for _, layout := range []string{"pairs:3,1:6", "string:2", "strings:2,1"} {
		p, _ := music.ParseKey("A mixolydian", nil, nil)
		l, err := ParseLayout(layout)
		if err != nil {
			t.Fatal(err)
		}
		g := neck.Standard()
		spots := Spots(g, hand.Medium(), bend.DefaultStrength(), p, l, Start(g, p, l), false)
		if len(spots) == 0 || spots[0].At.Fret < 3 || spots[0].At.Fret > 17 {
			t.Errorf("%s: the best of %d spots is %v", layout, len(spots), spots[0])
		}
	}
}
