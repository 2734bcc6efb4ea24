package run

import (
	"fmt"
	"regexp"
	"slices"
	"strconv"
	"strings"

	"ornamen/core/lick"
	"ornamen/core/music"
	"ornamen/core/phrase"
)

// Landing is the note that a run ends on: a degree of the key, or of the chord that sounds there, on a beat, in a bar.
// A number that is 0 is left to the run. With a bar the run is as long as it takes to land there.
//
// As text it is [chord:]DEGREE[@[BAR:]BEAT], "5", "1@1", "chord:3@3:1"; or words, "the third of the chord in bar 3 on
// beat 1". A degree by its word, root, third, fifth, is whichever the key or the chord has.
type Landing struct {
	Degree  music.Degree
	Word    string // the degree's word where it was said by one
	OfChord bool
	Bar     int
	Beat    int
}

// degreeWords are the degrees that have a word, from the root.
var degreeWords = []string{"root", "second", "third", "fourth", "fifth", "sixth", "seventh"}

// The two ways to write a landing. The parts are: chord:, the degree, of the chord, the bar and the beat.
var (
	shortLanding = regexp.MustCompile(`^(chord:)?([^@ ]+)(?:@(?:(\d+):)?(\d+))?$`)
	saidLanding  = regexp.MustCompile(`^(?i:(?:the )?([^@ ]+?)(?: (?:of|over) (?:the )?(chord|key))?` +
		`(?:,? (?:in )?bar (\d+))?(?:,? on (?:the )?(?:beat )?(\d+))?)$`)
)

// maxLandBar is the last bar that a run can land in.
const maxLandBar = maxBars

// ParseLanding reads a landing. Beats are those of 4/4, as runs are. An error names the word.
func ParseLanding(text string) (Landing, error) {
	var l Landing
	var degree, bar, beat string
	folded := strings.Join(strings.Fields(text), " ")
	if m := shortLanding.FindStringSubmatch(folded); m != nil {
		l.OfChord, degree, bar, beat = m[1] != "", m[2], m[3], m[4]
	} else if m := saidLanding.FindStringSubmatch(folded); m != nil {
		degree, l.OfChord, bar, beat = m[1], strings.EqualFold(m[2], "chord"), m[3], m[4]
	} else {
		return l, phrase.Wrong(text, "a landing is a degree, with its bar and beat if you like: 5, 1@1, 3@3:1, or the "+
			"third of the chord in bar 3 on beat 1")
	}
	if k := slices.Index(degreeWords, strings.ToLower(degree)); k >= 0 {
		l.Word, l.Degree = degreeWords[k], music.Degree{Number: k + 1}
	} else {
		d, err := music.ParseDegree(degree)
		if err != nil {
			return l, phrase.Wrong(degree, "a landing's degree is 1 to 7, with b or # before it, or root, third, fifth")
		}
		l.Degree = d
	}
	l.Bar, _ = strconv.Atoi(bar) // digits, by the pattern, or nothing
	l.Beat, _ = strconv.Atoi(beat)
	if bar != "" && (l.Bar < 1 || l.Bar > maxLandBar) {
		return l, phrase.Wrong(text, fmt.Sprintf("a bar is 1 to %d", maxLandBar))
	}
	if l.Bar > 0 && beat == "" {
		l.Beat = 1
	} else if beat != "" && (l.Beat < 1 || l.Beat > 4) {
		return l, phrase.Wrong(text, "a beat is 1 to 4")
	}
	return l, nil
}

// String writes the landing in its short form.
func (l Landing) String() string {
	s := l.Degree.String()
	if l.Word != "" {
		s = l.Word
	}
	if l.OfChord {
		s = "chord:" + s
	}
	switch {
	case l.Bar > 0:
		s += fmt.Sprintf("@%d:%d", l.Bar, l.Beat)
	case l.Beat > 0:
		s += fmt.Sprintf("@%d", l.Beat)
	}
	return s
}

// Anywhere is the landing without its bar and beat, as text; nothing for none.
func (l Landing) Anywhere() string {
	if l.Degree.Number == 0 {
		return ""
	}
	l.Bar, l.Beat = 0, 0
	return l.String()
}

// Say is the landing in words: "the third of the chord in bar 3 on beat 1".
func (l Landing) Say() string {
	s := "the " + l.Degree.Pretty()
	if l.Word != "" || l.Degree == (music.Degree{Number: 1}) {
		s = "the " + degreeWords[l.Degree.Number-1]
	}
	if l.OfChord {
		s += " of the chord"
	}
	if l.Bar > 0 {
		s += fmt.Sprintf(" in bar %d", l.Bar)
	}
	if l.Beat > 0 {
		s += fmt.Sprintf(" on beat %d", l.Beat)
	}
	return s
}

// class is the pitch class that the run lands on. Over a chord a number without a sign is the chord's own tone of that
// number; in the key a word is the key's own.
func (b *builder) landClass(at lick.Time) (int, error) {
	l := b.land
	if !l.OfChord {
		d := l.Degree
		for _, t := range b.palette.Tones {
			if l.Word != "" && t.Degree.Number == d.Number && !b.palette.Has(d) {
				d = t.Degree
			}
		}
		return d.Over(b.palette.Tonic).Class(), nil
	}
	c, ok := b.chordAt(at)
	if !ok {
		return 0, phrase.Wrong(b.Land, "no chord sounds there: name the chords of the line")
	}
	d := l.Degree
	for _, own := range c.Degrees {
		if d.Alter == 0 && own.Number == d.Number {
			d = own
		}
	}
	return d.Over(c.Root).Class(), nil
}

// chordAt is the chord that sounds at a time: of a run that moves by chords the last one, else the one of its bar.
func (b *builder) chordAt(at lick.Time) (music.Chord, bool) {
	if k := len(b.lick.Chords) - 1; k >= 0 {
		c, err := music.ParseChord(b.lick.Chords[k].Name)
		return c, err == nil
	}
	if len(b.chords) == 0 {
		return music.Chord{}, false
	}
	bar, _ := at.Sub(b.lick.Pickup).Div(b.lick.Meter.Bar())
	return b.chords[max(0, int(bar))%len(b.chords)].chord, true
}
