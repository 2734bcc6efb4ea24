package changes

import (
	"cmp"
	"errors"
	"fmt"
	"slices"
	"strconv"
	"strings"

	"ornamen/core/lick"
	"ornamen/core/music"
	"ornamen/core/neck"
	"ornamen/core/text"
)

// Grip is a chord held on neighbouring strings, from the thickest to the thinnest.
type Grip struct {
	Places  []neck.Place
	Degrees []music.Degree // of the chord, one a place
}

// Text writes a grip's frets from its thickest string to its thinnest: "5 5 5 5".
func (g Grip) Text() string {
	return text.Join(g.Places, " ", func(p neck.Place) string { return strconv.Itoa(p.Fret) })
}

// Name says which tones lie at the ends: "the 3 below, the 1 on top".
func (g Grip) Name() string {
	return fmt.Sprintf("the %s below, the %s on top", g.Degrees[0].Pretty(), g.Degrees[len(g.Degrees)-1].Pretty())
}

// How many strings a usual grip has, and how many frets it spans at most (common practice).
const (
	gripStrings = 4
	gripSpan    = 3
)

// Grips are a chord's usual grips on the four strings from thick (4: strings 4 to 1) on, from the nut up: one of
// its tones on each string within four frets, all of them there, of a triad one twice, of a chord of more than four
// tones the third and the seventh with two of the others. Each that comes again an octave on is there once.
//
// As an example, those of C6 on strings 4 to 1 are 2 2 1 3, 5 5 5 5, 7 9 8 8 and 10 12 10 12: the four inversions
// that drop the second voice (common practice).
func Grips(g neck.Guitar, c music.Chord, thick int) (out []Grip) {
	if thick > len(g.Tuning) || thick < gripStrings {
		return nil
	}
	tones := map[int]music.Degree{}
	for _, d := range c.Degrees {
		tones[d.Over(c.Root).Class()] = d
	}
	seen := map[string]bool{}
	for low := 1; low+gripSpan <= g.Frets && low <= 12; low++ {
		eachGrip(g, tones, thick, low, func(grip Grip) {
			if !whole(c, grip) || seen[grip.Text()] {
				return
			}
			seen[grip.Text()] = true
			out = append(out, grip)
		})
	}
	slices.SortStableFunc(out, func(a, b Grip) int { return cmp.Compare(lowest(a), lowest(b)) })
	// Of those that begin on one fret the narrowest is the usual one.
	return slices.CompactFunc(out, func(a, b Grip) bool {
		return a.Degrees[0] == b.Degrees[0] && a.Degrees[3] == b.Degrees[3]
	})
}

// lowest is the lowest fret of a grip.
func lowest(g Grip) int {
	return slices.MinFunc(g.Places, func(a, b neck.Place) int { return cmp.Compare(a.Fret, b.Fret) }).Fret
}

// eachGrip goes through every choice of one chord tone on each string from fret low on, one of them on it.
func eachGrip(g neck.Guitar, tones map[int]music.Degree, thick, low int, found func(Grip)) {
	var grip Grip
	var next func(str int)
	next = func(str int) {
		if str < thick-gripStrings+1 {
			if lowest(grip) == low {
				found(Grip{slices.Clone(grip.Places), slices.Clone(grip.Degrees)})
			}
			return
		}
		for f := low; f <= low+gripSpan; f++ {
			p := neck.Place{String: str, Fret: f}
			d, ok := tones[g.Pitch(p).Class()]
			if !ok {
				continue
			}
			grip.Places, grip.Degrees = append(grip.Places, p), append(grip.Degrees, d)
			next(str - 1)
			grip.Places, grip.Degrees = grip.Places[:len(grip.Places)-1], grip.Degrees[:len(grip.Degrees)-1]
		}
	}
	next(thick)
}

// whole says whether a grip tells its chord: all tones of one of up to four, of a bigger one the third (or what
// stands for it), the seventh and two others, none twice; a triad may double its root or fifth.
func whole(c music.Chord, g Grip) bool {
	count := map[int]int{}
	for _, d := range g.Degrees {
		count[d.Number]++
	}
	for n, k := range count {
		if k > 2 || k == 2 && (len(c.Degrees) > 3 || n != 1 && n != 5) {
			return false
		}
	}
	must := 0
	for _, d := range c.Degrees {
		if len(c.Degrees) > gripStrings && d.Number != 3 && d.Number != 7 {
			continue
		}
		if must++; count[d.Number] == 0 {
			return false
		}
	}
	return must > 0
}

// gripSigns are the chords that a grip may be, the plainer ones first.
var gripSigns = []string{"", "m", "7", "maj7", "m7", "6", "m6", "m7b5", "dim7", "dim", "aug", "sus4", "sus2", "7sus4",
	"mmaj7", "7#5",
	"7b5", "maj7#5", "maj7b5", "add9", "madd9", "9", "maj9", "m9", "6/9", "7b9", "7#9", "13", "5"}

// NamesOf are the chords that the places are, by all of their tones, those with the root lowest first: 5 5 5 5 on
// strings 4 to 1 is C6 and Am7. None where no usual chord has just these tones.
func NamesOf(g neck.Guitar, places []neck.Place) (out []string) {
	classes := map[int]bool{}
	low := music.Pitch(music.MaxPitch)
	for _, p := range places {
		pitch := g.Pitch(p)
		classes[pitch.Class()], low = true, min(low, pitch)
	}
	var after []string
	for root := range 12 {
		if !classes[root] {
			continue
		}
		for _, sign := range gripSigns {
			c, err := music.ParseChord(music.NameOf(root).String() + sign)
			if err != nil {
				continue
			}
			same := map[int]bool{}
			for _, d := range c.Degrees {
				same[d.Over(c.Root).Class()] = true
			}
			missing := func(d music.Degree) bool { return !classes[d.Over(c.Root).Class()] }
			if len(same) != len(classes) || slices.ContainsFunc(c.Degrees, missing) {
				continue
			}
			if root == low.Class() {
				out = append(out, c.Name)
			} else {
				after = append(after, c.Name)
			}
		}
	}
	return append(out, after...)
}

// ParseGrip reads a grip's frets from its thickest string to its thinnest, as it lies on the thinnest strings:
// "5 5 5 5" on strings 4 to 1, "x 5 5 5 5 x" on 5 to 2 of six.
func ParseGrip(g neck.Guitar, text string) (out []neck.Place, err error) {
	words := strings.Fields(strings.ReplaceAll(text, ",", " "))
	if len(words) < 2 || len(words) > len(g.Tuning) {
		return nil, fmt.Errorf("a grip is 2 to %d frets from its thickest string to its thinnest, as in grip:5 5 5 5",
			len(g.Tuning))
	}
	for k, w := range words {
		if w == "x" || w == "-" {
			continue
		}
		f, err := strconv.Atoi(w)
		if err != nil || f < 0 || f > g.Frets {
			return nil, fmt.Errorf("%q is no fret of this neck", w)
		}
		out = append(out, neck.Place{String: len(words) - k, Fret: f})
	}
	if len(out) < 2 {
		return nil, errors.New("a grip has two strings or more, as in grip:5 5 5 5")
	}
	return out, nil
}

// GripUnder carries the line on top of one grip, which moves along the neck as it is: every note of the line is
// taken to the grip's thinnest string, and the other strings follow by as many frets (common practice: a melody
// in parallel chords). Notes that sound together give way to the highest of them; bends and slurs, which a grip
// cannot follow, go. A line that is too low or too high for that goes an octave on. said names the chord that the grip
// is.
func GripUnder(g neck.Guitar, l lick.Lick, text string) (out lick.Lick, said string, err error) {
	g = g.WithTuning(l.Tuning)
	grip, err := ParseGrip(g, text)
	if err != nil {
		return l, "", err
	}
	for _, octave := range []int{0, 12, -12} {
		carried, err := underGrip(g, l, grip, octave)
		if err != nil {
			continue
		}
		if names := NamesOf(g, grip); len(names) > 0 {
			said = "the grip is " + strings.Join(names[:min(2, len(names))], " or ")
		}
		return carried, said, carried.Validate()
	}
	_, err = underGrip(g, l, grip, 0)
	return l, "", err
}

// underGrip carries the line on top of a grip, some half steps higher.
func underGrip(g neck.Guitar, l lick.Lick, grip []neck.Place, up int) (out lick.Lick, err error) {
	top := grip[len(grip)-1]
	out = l.Clone()
	out.Notes, out.Parts, out.Recipe = nil, nil, ""
	for _, n := range l.Notes {
		if n.Voice == lick.VoiceBass {
			out.Notes = append(out.Notes, n)
		}
	}
	for _, c := range columnsOf(l) {
		i := highest(l, c)
		n := l.Notes[i]
		fret := int(g.Pitch(n.Place())-g.Tuning[top.String-1]) + up
		if b := n.Bend; b != nil && !b.Pre() {
			fret += int(b.Semitones)
		}
		for _, p := range grip {
			at := neck.Place{String: p.String, Fret: p.Fret + fret - top.Fret}
			if !g.Has(at) {
				return l, fmt.Errorf("under note %d the grip would leave the neck", i+1)
			}
			out.Notes = append(out.Notes,
				lick.Note{At: n.At, Len: n.Len, String: at.String, Fret: at.Fret, Accent: n.Accent})
		}
	}
	out.Sort()
	fit(&out)
	return out, nil
}
