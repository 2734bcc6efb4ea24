package changes

import (
	"testing"

	"ornamen/core/lick"
	"ornamen/core/music"
	"ornamen/core/testline"
)

// What a tone is over a dominant seventh, all twelve of them (common practice, entered by hand):
// the ♭9 and the ♭13 pull and are tensions, the ♭3 is the blues' colour, the ♯4 a Lydian's.
func TestOverADominant(t *testing.T) {
	c, err := music.ParseChord("A7")
	if err != nil {
		t.Fatal(err)
	}
	for half, want := range []struct {
		degree string
		role   Role
	}{{"1", Root}, {"b9", Tension}, {"9", Colour}, {"b3", Colour}, {"3", Third}, {"4", Clash}, {"#4", Colour},
		{"5", Fifth}, {"b13", Tension}, {"13", Colour}, {"b7", Seventh}, {"7", Clash}} {
		_, role := Of(c, nil, music.Pitch(57+half))
		if role != want.role {
			t.Errorf("the %s over A7 is a %s, want a %s", want.degree, role, want.role)
		}
	}
	// Over a major seventh chord the same tone a half step above the fifth clashes.
	if maj, err := music.ParseChord("Amaj7"); err != nil {
		t.Fatal(err)
	} else if _, role := Of(maj, nil, 57+8); role != Clash {
		t.Errorf("the b13 over Amaj7 is a %s, want a clash", role)
	}
}

// A landing is early by a half note at most; what lies farther ahead is another phrase.
func TestHowEarly(t *testing.T) {
	for _, c := range []struct {
		line  string
		word  Word
		offBy string
	}{
		{"2:12*1/2 12*1/4 3:14*1/4+1:12*1/4", Early, "-1/4"},
		{"2:12*1/2 3:14*1/2+1:12*1/2", Early, "-1/2"},
		{"2:12*3/8 3:14*5/8+1:12*5/8", Rest, ""},
	} {
		l := testline.InKey(testline.Build(t, 90, c.line), "A", "mixolydian")
		var err error
		if l.Chords, err = Parse("E7 | A7", l.Meter, l.Pickup, lick.Key{Tonic: "A"}); err != nil {
			t.Fatal(err)
		}
		x := Read(l).Landings
		if len(x) != 1 {
			t.Fatalf("%s: %+v", c.line, x)
		}
		if early := x[0].Word == Early; early != (c.word == Early) || early && x[0].OffBy.String() != c.offBy {
			t.Errorf("%s: %s by %s, want %s by %s", c.line, x[0].Word, x[0].OffBy, c.word, c.offBy)
		}
	}
}
