package changes

import (
	"fmt"
	"slices"
	"strings"
	"testing"

	"ornamen/core/lick"
	"ornamen/core/neck"
)

// roleSigns are the roles by a letter, so that a line's stand in a row.
var roleSigns = map[Role]string{
	Root:    "R",
	Third:   "3",
	Fifth:   "5",
	Seventh: "7",
	Colour:  "c",
	Tension: "t",
	Clash:   "X",
	Outside: "o",
	"":      ".",
}

// Twelve lines over their changes with all that is said of them, worked out by hand before they were
// read (common practice): each note's role, ! behind a clash that does not resolve; how each change is
// reached, and on which degree; where phrases rest, by degree; and what would bring the first one that misses there.
func TestWorkedLines(t *testing.T) {
	for _, c := range []struct {
		name, key, chords, line, roles, arrivals, rests string
		fixes                                           []string
	}{
		{
			name:     "guide tones through a 2 5 1",
			key:      "C major",
			chords:   "Dm7 | G7 | Cmaj7",
			line:     "3:10*1/4 2:10*1/4 1:8*1/4 1:5*1/4 2:12*1/4 1:10*1/4 2:10*1/4 3:10*1/4 1:12*1/1", // F A C A | B D A F | E
			roles:    "3575 35c7 3",
			arrivals: "G7 on time 3, Cmaj7 on time 3",
			rests:    "3",
		},
		{
			name:   "quarters by step over a dominant",
			key:    "C major",
			chords: "G7",
			line:   "2:0*1/4 2:1*1/4 2:3*1/2",
			roles:  "3X5",
			rests:  "5",
		}, // B C D
		{
			name:   "the 4 left by leap",
			key:    "C major",
			chords: "Cmaj7",
			line:   "1:1*1/4 2:1*1/4 1:0*1/2",
			roles:  "X!R3",
			rests:  "3",
		}, // F C E
		{
			name:   "an enclosure of the third",
			key:    "C major",
			chords: "C",
			line:   "1:1*1/4 2:3*1/4 1:0*1/2",
			roles:  "Xc3",
			rests:  "3",
		}, // F D E
		{
			name:   "a blues box over its 1 chord",
			key:    "A minor pentatonic",
			chords: "A7",
			line:   "3:5*1/4 7*1/4 5*1/4 4:7*1/4",
			roles:  "cccR",
			rests:  "1",
		}, // C D C A
		{
			name:   "the same over the 4",
			key:    "A minor pentatonic",
			chords: "D7",
			line:   "3:5*1/4 7*1/4 5*1/4 4:7*1/4",
			roles:  "7R75",
			rests:  "5",
		},
		{
			name:     "pushed by an eighth",
			key:      "C major",
			chords:   "Am7 | D7",
			line:     "2:5*1/4 1:5*1/4 1:8*3/8 3:11*5/8",
			roles:    "5R3o",
			arrivals: "D7 pushed 3",
			rests:    "3",
		}, // E A C | F#
		{
			name:     "early, then a rest",
			key:      "A mixolydian",
			chords:   "E7 | A7",
			line:     "2:12*1/2 12*1/4 3:14*1/4+1:12*1/4",
			roles:    "55XR",
			arrivals: "A7 early 1 5",
			rests:    "5; 1 5",
			fixes:    []string{"Start on beat 2 in bar 1"},
		},
		{
			name:     "late by half a beat",
			key:      "A mixolydian",
			chords:   "E7 | A7",
			line:     "2:12*1/2 12*1/2 3:11*1/8 2:14*3/8",
			roles:    "55c3",
			arrivals: "A7 late 3",
			rests:    "5; 5; 3",
			fixes:    []string{"Note 3 to the ♭7 of A7", "Note 2 from a half step below, to the ♭7 of A7 on note 3"},
		},
		{
			name:     "missed, on the 4",
			key:      "C major",
			chords:   "G7 | Cmaj7",
			line:     "2:12*1/1 2:6*1/4 1:1*1/4",
			roles:    "3X!X!",
			arrivals: "Cmaj7 missed",
			rests:    "3; 4",
			fixes:    []string{"Note 2 to the 3 of Cmaj7, with note 1", "Note 1 from a half step above, to the 3 of Cmaj7 on note 2"},
		}, // B | F F
		{
			name:   "two strings are two lines",
			key:    "C major",
			chords: "C",
			line:   "3:10*1/4+1:13*1/4 3:9*1/4+1:12*1/4",
			roles:  "XX33",
			rests:  "3 3",
		}, // F F | E E
		{
			name:     "a leading tone over the tonic",
			key:      "A harmonic minor",
			chords:   "E7 | Am",
			line:     "3:1*1/2 2:0*1/2 3:1*1/4 2*1/2",
			roles:    "357R",
			arrivals: "Am on time 7",
			rests:    "3; 5; 1",
		}, // G# B | G# A
	} {
		l := over(t, c.key, c.chords, c.line)
		r := Read(l)
		var roles, arrivals, rests []string
		for _, n := range r.Notes {
			sign := roleSigns[n.Role]
			if n.Role == Clash && !n.Passes && !r.Early(n.Note) {
				sign += "!"
			}
			roles = append(roles, sign)
		}
		for _, x := range r.Landings {
			word := r.Chords[x.Chord].Name + " " + string(x.Word)
			for _, i := range x.Notes {
				d, _ := Of(r.Chords[x.Chord].Chord, nil, Sounding(l, i))
				word += " " + d.String()
			}
			arrivals = append(arrivals, word)
		}
		for _, x := range r.Rests {
			var on []string
			for _, i := range x.Notes {
				d, _ := r.Tone(l, x, i)
				on = append(on, d.String())
			}
			rests = append(rests, strings.Join(on, " "))
		}
		var fixes []string
		for _, x := range r.Landings {
			if x.Word != OnTime && x.Word != Pushed && x.Word != Rest {
				for _, f := range Mend(neck.Standard(), l, r, x) {
					fixes = append(fixes, f.Text)
				}
				break
			}
		}
		for _, want := range c.fixes {
			if !slices.Contains(fixes, want) {
				t.Errorf("%s: %q is not offered, but %q", c.name, want, fixes)
			}
		}
		if len(c.fixes) == 0 && len(fixes) > 0 {
			t.Errorf("%s: %q mends what arrives", c.name, fixes)
		}
		got := fmt.Sprintf("%s | %s | %s", strings.Join(roles, ""), strings.Join(arrivals, ", "),
			strings.Join(rests, "; "))
		if want := fmt.Sprintf("%s | %s | %s", strings.ReplaceAll(c.roles, " ", ""), c.arrivals, c.rests); got != want {
			t.Errorf("%s:\n got %s\nwant %s", c.name, got, want)
		}
	}
	if l := over(t, "C major", "C", "1:0"); len(Read(lick.Lick{Meter: l.Meter}).Rests) != 0 {
		t.Error("an empty line rests")
	}
}
