package judge

import (
	"context"
	"math/rand/v2"
	"slices"
	"strings"
	"testing"

	"ornamen/core/changes"
	"ornamen/core/lick"
	"ornamen/core/player"
	"ornamen/core/testline"
)

// changeLine is a line over chords, with what is said of it first; nothing where code is empty.
type changeLine struct {
	key, chords, line, code string
	notes                   []int
	text                    string
}

// changeLines has a row for every rule of the changes.
var changeLines = []changeLine{
	{
		key:    "A mixolydian",
		chords: "E7 | A7",
		line:   "2:12*1/2 12*1/4 3:14*1/4+1:12*1/4",
		code:   "landing-early",
		notes:  []int{3, 4},
		text:   "The root and fifth of A7 sound a beat before it, over E7.",
	},
	{
		key:    "A mixolydian",
		chords: "E7 | A7",
		line:   "2:12*1/2 12*1/2 3:11*1/8 2:14*1/8",
		code:   "landing-late",
		notes:  []int{4},
		text:   "A7 begins in bar 2; its third comes half a beat after it.",
	},
	{
		key:    "A mixolydian",
		chords: "E7 | A7",
		line:   "2:12*1/2 12*1/2 2:12*1/4 12*1/4",
		code:   "chord-missed",
		notes:  []int{3, 4},
		text:   "Over A7, from bar 2 on, sounds none of its root, third, fifth and seventh.",
	},
	{
		key:    "C major",
		chords: "Cmaj7",
		line:   "1:1*1/2 2:1*1/2",
		code:   "clash",
		notes:  []int{1},
		text:   "The 4 over Cmaj7 lies a half step above its 3",
	},
	{
		key:    "C major",
		chords: "Cmaj7",
		line:   "2:1*1/4 1:1*1/4",
		code:   "clash",
		notes:  []int{2},
		text:   "The 4 over Cmaj7 lies a half step above its 3",
	}, // the last
	{
		key:    "A harmonic minor",
		chords: "E7",
		line:   "1:1*1/2 1:0*1/2",
		code:   "tension-held",
		notes:  []int{1},
		text:   "The ♭2 over E7 is held for 2 beats",
	},
	// By step, at any length up to a half note: B C D in quarters over G7.
	{key: "C major", chords: "G7", line: "2:0*1/4 2:1*1/4 2:3*1/4"},
	{key: "C major", chords: "Cmaj7", line: "1:1*1/2 1:0*1/2"},
	{key: "C major", chords: "Cmaj7", line: "2:3*1/2 1:0*1/2"}, // the 9 is a colour
	// From above and below: F D E, whose target comes third.
	{key: "C major", chords: "Cmaj7", line: "1:1*1/4 2:3*1/4 1:0*1/4"},
	// Pushed: the third of F an eighth ahead, held into it.
	{key: "C major", chords: "C | F", line: "2:1*1/2 2:3*3/8 2:10*1/2"},
	{key: "C major", chords: "Cmaj7", line: "1:1*1/8 1:0*1/8"}, // the 4 passes by
}

// over is the line with its chords.
func (c changeLine) over(t testing.TB) lick.Lick {
	t.Helper()
	l := testline.InKey(testline.Build(t, 90, c.line), c.key[:1], c.key[2:])
	var err error
	if l.Chords, err = changes.Parse(c.chords, l.Meter, l.Pickup, l.Key); err != nil {
		t.Fatal(err)
	}
	return l
}

// What is said of a line over its changes, and that none of it changes the verdict; a fix lands
// on time.
func TestChangesFindings(t *testing.T) {
	for _, c := range changeLines {
		l := c.over(t)
		e := NewEngine(player.Default())
		r, err := e.Check(context.Background(), l)
		if err != nil {
			t.Fatal(err)
		}
		of := slices.IndexFunc(r.Findings, func(f Finding) bool {
			return strings.HasPrefix(string(f.Code), "landing") || f.Code == ChordMissed || f.Code == ClashCode ||
				f.Code == TensionHeld
		})
		if c.code == "" {
			if of >= 0 {
				t.Errorf("%s: %s", c.line, r.Findings[of].Text)
			}
			continue
		}
		if of < 0 || string(r.Findings[of].Code) != c.code || !strings.HasPrefix(r.Findings[of].Text, c.text) {
			t.Errorf("%s over %s: %+v, want %s", c.line, c.chords, r.Findings, c.text)
			continue
		}
		if !slices.Equal(r.Findings[of].Notes, c.notes) {
			t.Errorf("%s names notes %v, want %v", c.code, r.Findings[of].Notes, c.notes)
		}
		without := l.Clone()
		without.Chords = nil
		if plain, _ := e.Check(context.Background(), without); plain.Verdict != r.Verdict ||
			plain.Ceiling != r.Ceiling {
			t.Errorf("%s: the chords change the verdict", c.line)
		}
		if err := e.Mend(context.Background(), l, r); err != nil {
			t.Fatal(err)
		}
		for _, f := range r.Findings[of].Fixes {
			mended, err := f.Edit.Apply(l)
			if err != nil {
				t.Fatal(err)
			}
			if x := changes.Read(mended).Landings; len(x) == 0 || x[0].Word != changes.OnTime {
				t.Errorf("“%s” does not land on time: %+v", f.Text, x)
			}
		}
		if c.code == "landing-early" && len(r.Findings[of].Fixes) == 0 {
			t.Errorf("%s: nothing mends it", c.line)
		}
		// On purpose it is shown as such, and an easy player hears no clash.
		note := r.Findings[of].Notes[0] - 1
		meant := l.Clone()
		meant.Notes[note].Meant = []lick.Code{lick.Code(c.code)}
		if r, _ := e.Check(context.Background(), meant); !r.Findings[of].Meant {
			t.Errorf("%s is not marked as meant", c.code)
		}
	}
}

// Strictness is the player's: a strict one hears the blues' third and fourth as clashes, no other does.
func TestChangesStrictness(t *testing.T) {
	l := testline.InKey(testline.Build(t, 90, "3:5*1/4 1:5*1/4 3:7*1/4"), "A", "minor pentatonic") // C and D over A7
	var err error
	if l.Chords, err = changes.Parse("17", l.Meter, l.Pickup, lick.Key{Tonic: "A"}); err != nil {
		t.Fatal(err)
	}
	for strict, want := range map[player.Strictness]int{player.Easy: 0, player.Usual: 0, player.Every: 2} {
		p := player.Default()
		p.Strict = strict
		r, err := NewEngine(p).Check(context.Background(), l)
		if err != nil {
			t.Fatal(err)
		}
		n := 0
		for _, f := range r.Findings {
			if f.Code == ClashCode {
				n++
			}
		}
		if n != want {
			t.Errorf("%s: %d clashes, want %d", strict, n, want)
		}
	}
}

// What breaks says why: two notes that no hand holds together, neither with a finger of its own
// to name.
func TestBreaksSaysWhy(t *testing.T) {
	l := testline.Build(t, 80, "6:3*1/4+2:10*1/4 1:3*1/4")
	r, err := NewEngine(player.Default()).Check(context.Background(), l)
	if err != nil {
		t.Fatal(err)
	}
	if r.Verdict != Breaks || len(r.Findings) == 0 || r.Findings[0].Code != Reach {
		t.Errorf("%v %+v", r.Verdict, r.Findings)
	}
}

// Whatever breaks has a finding that breaks, for random lines with notes that sound together.
func TestNothingBreaksUnsaid(t *testing.T) {
	rng := rand.New(rand.NewPCG(11, 26))
	e := NewEngine(player.Default())
	for done := 0; done < testline.Nightly(60); {
		l, err := lick.Parse(testline.Random(rng).Encode())
		if err != nil {
			continue
		}
		done++
		r, err := e.Check(context.Background(), l)
		if err != nil {
			t.Fatal(err)
		}
		said := slices.ContainsFunc(r.Findings, func(f Finding) bool { return f.Severity == r.Verdict })
		if r.Verdict > Flows && !said {
			t.Errorf("it %s and nothing says why: %s", r.Verdict, l.Encode())
		}
	}
}
