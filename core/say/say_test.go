package say

import (
	"regexp"
	"strings"
	"testing"

	"ornamen/core/hand"
	"ornamen/core/lick"
	"ornamen/core/music"
	"ornamen/core/neck"
	"ornamen/core/pick"
)

// line has a note of every sort that a sentence names.
func line() lick.Lick {
	l := lick.New()
	at := func(k int64) lick.Time { return lick.NewTime(k, 8) }
	l.Notes = []lick.Note{
		{At: at(0), Len: at(1), String: 2, Fret: 9, Finger: lick.Ring, Stroke: lick.Down},
		{At: at(1), Len: at(1), String: 1, Fret: 8, Finger: lick.Index, Stroke: lick.Up},
		{At: at(2), Len: at(1), String: 6, Fret: 0, Finger: lick.Open, Stroke: lick.Down},
		{At: at(3), Len: at(1), String: 2, Fret: 7, Finger: lick.Index, Slur: lick.Slide},
		{At: at(4), Len: at(2), String: 3, Fret: 7, Finger: lick.Ring, Bend: &lick.Bend{Semitones: 2}},
	}
	return l
}

// palette is A minor pentatonic.
func palette(t *testing.T) music.Palette {
	t.Helper()
	p, ok := lick.Lick{Key: lick.Key{Tonic: "A", Scale: "minor-pentatonic"}}.Palette()
	if !ok {
		t.Fatal("no palette")
	}
	return p
}

// TestWords holds each finding to what a player is told, with its title.
func TestWords(t *testing.T) {
	l, p := line(), palette(t)
	n := l.Notes
	crossed := n[0]
	crossed.Fret = 5
	third := p.At(music.Pitch(64 + 4)) // G#, which the scale does not have
	slide, ok := HandMoves(hand.Slide, l, 0, 1, 30)
	grip, ok2 := HandMoves(hand.Grips, l, 0, 1, 0)
	hammer, ok3 := FingerFast(hand.Hammer, l, 1)
	if !ok || !ok2 || !ok3 {
		t.Error("a move has no words")
	}
	for _, row := range []struct {
		is          Words
		title, text string
	}{
		{CannotSound(lick.Pull, PullRises(5, 7)), "the pull cannot sound",
			"A pull goes down the string, this goes from fret 5 to 7."},
		{CannotSound(lick.Hammer, HammerFalls(7, 5)), "the hammer cannot sound",
			"A hammer goes up the string, this goes from fret 7 to 5."},
		{CannotSound(lick.Slide, OpenSlides()), "the slide cannot sound",
			"An open string has no finger that could slide."},
		{CannotSound(lick.Slide, NothingBefore(n[3])), "the slide cannot sound",
			"Nothing sounds on string 2 just before it, so there is nothing to slide from."},
		{OneFinger(n[3]), "one finger for a slide",
			"A slide needs two fingers, here the index does both; slide, or take another finger."},
		{SlideChangesFinger(l, 0, 3), "the slide changes finger",
			"The finger that slides stays down: note 1 has the ring finger, note 4 the index."},
		{Cross(crossed, n[1]), "fingers cross", "Finger 3 at fret 5 and finger 1 at fret 8 would cross."},
		{CrossTogether(crossed, n[1]), "fingers cross",
			"They sound together, but finger 3 at fret 5 and finger 1 at fret 8 would cross."},
		{TwoFrets(n[1], n[3]), "one finger on two frets", "Finger 1 cannot hold frets 8 and 7 at once."},
		{TwoStrings(n[1]), "one finger on two strings", "Finger 1 holds two strings at fret 8 only as a barre."},
		{NoStance(n[0], n[1]), "out of reach", "No hand stance holds fret 9 and fret 8 together."},
		{NotTogether(lick.Index, lick.Little, 1, 6), "out of reach",
			"Fingers 1 and 4 reach frets 1 and 6, but not together with the fingers around them."},
		{TooFar(lick.Index, lick.Little, 1, 7, 151.6, 120), "out of reach",
			"Fingers 1 and 4 must stand 152 mm apart, from fret 1 to 7, together with the fingers around them; " +
				"this hand reaches 120."},
		{WideStretch(lick.Index, lick.Middle, 42.3, 41.6).AnyTempo(), "a wide stretch",
			"Fingers 1 and 2 stand 42.3 mm apart; up to 41.6 is comfortable. This holds at any tempo."},
		{NoSuchFret(24, 22), "beyond the neck", "Fret 24 is not there: this guitar has 22."},
		{NoFinger(3), "no finger there", "Fret 3 needs a finger; 0 is for open strings."},
		{FingerOnOpen(lick.Middle), "a finger on an open string",
			"An open string takes no finger, here it has the middle finger."},
		{Jump(l, 0, 1).Needs(90.4, 62.6), "the index jumps",
			"From fret 9 on B to fret 8 on high E with finger 1: needs 90 ms, has 63."},
		{IndexJumps(l, 3, 1), "the index hops",
			"From fret 7 on B to fret 8 on high E with the index both times: a place where players stumble."},
		{slide.Needs(80, 50), "a fast slide",
			"The hand moves 30 mm, from fret 9 on B to fret 8 on high E: needs 80 ms, has 50."},
		{grip.Needs(80, 50), "the grip moves",
			"Every finger lets go, from fret 9 on B to fret 8 on high E: needs 80 ms, has 50."},
		{hammer.Needs(60, 50), "the hammer comes fast", "Finger 1 at fret 8 on high E: needs 60 ms, has 50."},
		{Crowded(11.25, 13), "fingertips crowd",
			"Frets here are 11.2 mm wide, a fingertip needs about 13: neighbouring fingers make room for each other."},
		{StrokeRepeats(l, 1).Needs(200, 100), "the same stroke again",
			"Two upstrokes in a row on high E: needs 200 ms, has 100."},
		{LoopRepeats(7, lick.Down), "the loop repeats a stroke",
			"7 strokes: the loop turns on two downstrokes in a row."},
		{TooFastChange(pick.Inside, l, 0, 1).Needs(90, 80).AtTheTurn(), "the turn of the loop: an inside change",
			"After the downstroke on B, then upstroke on high E: needs 90 ms, has 80."},
		{StrokeFast(l, 2).Needs(90, 80), "picked too fast", "A picked downstroke on low E: needs 90 ms, has 80."},
		{BothExits(2, 7, lick.Up), "needs two pick angles",
			"2 of 7 string changes leave after an upstroke, the others after a downstroke: one pick angle does not " +
				"serve both."},
		{StringsApart(), "one stroke for strings apart",
			"These strings do not touch, so one stroke cannot play them: take fingers, or the pick and a finger."},
		{OpenBent(), "an open string is bent", "There is no finger on an open string to push it."},
		{NoPush(), "the bend cannot be made", "No push of this string reaches that pitch."},
		{OffEdge(l, 4, 9.04, 6.2), "off the edge",
			"The bend pushes G 9.0 mm, but the edge of the fretboard is 6.2 mm away on that side."},
		{TooHeavy(l, 4, 0, 12.34, 9), "a finger alone",
			"A full bend at fret 7 on G takes 12.3 N; the ring finger with no helper holds 9.0."},
		{TooHeavy(l, 4, 1, 12.34, 9), "a heavy bend",
			"A full bend at fret 7 on G takes 12.3 N; the ring finger with one helper holds 9.0."},
		{TooHeavy(l, 4, 2, 12.34, 9), "a heavy bend",
			"A full bend at fret 7 on G takes 12.3 N; the ring finger with 2 helpers holds 9.0."},
		{BendLate(0.5, 2.5, "push 80 ms").Needs(80, 60), "the bend comes late",
			"A curl bend of 2.5 mm, push 80 ms: needs 80 ms, has 60."},
		{Aimless(third, p), "a bend without a target",
			"It goes to G♯, the 7, which is not among the tones of A minor pentatonic."},
		{VibratoShort().Needs(300, 200), "too short for vibrato", "A vibrato wants a long note: needs 300 ms, has 200."},
		{Outside(third, p), "a tone outside",
			"G♯, the 7, is not among the tones of A minor pentatonic and does not lead into one by a half step."},
		{OutsideEnclosed(third, p, 0, 1), "a tone outside",
			"G♯, the 7, is not among the tones of A minor pentatonic; notes 1 and 2 enclose it."},
		{LandsEarly([]string{"root", "fifth"}, "D7", "A7", "half a beat"), "lands early",
			"The root and fifth of D7 sound half a beat before it, over A7."},
		{LandsLate([]string{"third"}, "D7", "bar 2", "a beat"), "lands late",
			"D7 begins in bar 2; its third comes a beat after it."},
		{MissesChord("D7", "bar 2"), "misses the chord",
			"Over D7, from bar 2 on, sounds none of its root, third, fifth and seventh."},
		{Clash(third.Degree, "A7", third.Degree), "clashes with the chord",
			"The 7 over A7 lies a half step above its 7 and does not go on by step."},
		{BlueThird(third.Degree, "A7"), "clashes with the chord",
			"The 7 over A7 lies a half step below its third, as in the blues."},
		{TensionHeld(third.Degree, "A7", "2 beats"), "a tension is held",
			"The 7 over A7 is held for 2 beats: a tension wants to go on to a tone of the chord."},
	} {
		if row.is.Title != row.title || row.is.Text != row.text {
			t.Errorf("%q\n%q, want\n%q\n%q", row.is.Title, row.is.Text, row.title, row.text)
		}
	}
}

// TestFixes holds the names of fixes.
func TestFixes(t *testing.T) {
	l := line()
	key := lick.Key{Tonic: "D", Scale: "dorian"}
	for is, want := range map[string]string{
		PutFinger(lick.Little, 4):                      "Finger 4 on note 5",
		PutFinger(lick.NoFinger, 2):                    "No finger on note 3",
		OpenFingers():                                  "Leave both fingers open",
		LayBarre(5, lick.Index, 0, 1):                  "Lay a barre at fret 5 with finger 1 for notes 1 and 2",
		NextStrings(true):                              "The whole figure one string thicker",
		NextStrings(false):                             "The whole figure one string thinner",
		FretsUp(5, key):                                "Five frets up, in D dorian",
		FretsUp(12, lick.Key{}):                        "12 frets up",
		TakeStroke(lick.Up, 1):                         "Upstroke on note 2",
		StartOn(lick.Up):                               "Start on an upstroke",
		OpenStrokes():                                  "Pick it in turn, strokes open",
		TakeSlur("", 3):                                "Pick note 4",
		TakeSlur(lick.Hammer, 3):                       "Hammer note 4",
		TakeSlur(lick.Pull, 3):                         "Pull to note 4",
		TakeSlur(lick.Slide, 3):                        "Slide to note 4",
		TakeSlur(lick.Shift, 3):                        "Shift silently to note 4",
		OnString(l, 1, neck.Place{String: 2, Fret: 0}): "Note 2 at the open string on B",
		OnString(l, 1, neck.Place{String: 3, Fret: 5}): "Note 2 at fret 5 on G",
		NoRelease():                                    "Without the release",
		NoVibrato():                                    "Without the vibrato",
		PushToward(lick.ToThick):                       "Push it toward the thick strings",
		WithHelpers(lick.Ring):                         "Finger 3 with the others behind it",
		SmallerBend(1):                                 "A half bend instead",
		TwiceAsLong():                                  "Twice as long",
		AddTone(music.Degree{Number: 5, Alter: -1}):    "Add ♭5",
		StartAt(l, lick.NewTime(11, 8)):                "Start on the & of 2 in bar 2",
		AddAtHead(1):                                   "Add one note at its head",
		AddAtHead(2):                                   "Add 2 notes at its head",
		DropFirst(1):                                   "Drop the first note of the phrase",
		DropFirst(2):                                   "Drop the first 2 notes of the phrase",
		ToTone(4, music.Degree{Number: 3}, "D7", -1):   "Note 5 to the 3 of D7",
		ToTone(4, music.Degree{Number: 3}, "D7", 3):    "Note 5 to the 3 of D7, with note 4",
		FixesLeftOut(10, 14, 0):                        "Fixes were tried for 10 of 14 findings, the worst of each kind first.",
		FixesLeftOut(10, 10, 1):                        "The line is long: not tried for it: 1 more edit.",
		FixesLeftOut(1, 1, 0):                          "",
		Beside(nil, 0):                                 "",
		Beside([]Changed{{0, lick.Ring}}, 1):           ", with finger 3 on note 1, 1 stroke turned",
		Beside([]Changed{{0, 3}, {1, 4}}, 0):           ", with finger 3 on note 1 and finger 4 on note 2",
		Beside([]Changed{{0, 3}, {1, 4}, {2, 1}}, 2):   ", with 3 other fingers, 2 strokes turned",
		BassHolds(l, 0, 1, 3): "The ring finger holds the bass on the & of 1 in bar 1: the line can move " +
			"to string 3.",
		BassHolds(l, 1, 2, 0): "The index holds the bass on beat 2 in bar 1: the line needs another place, or the " +
			"bass a rest there.",
	} {
		if is != want {
			t.Errorf("%q, want %q", is, want)
		}
	}
}

// TestWhy holds what is said of hands.
func TestWhy(t *testing.T) {
	l := line()
	many := line()
	many.Notes = append(many.Notes, many.Notes...)
	for is, want := range map[string]string{
		Recommended([]string{"a", "b"}, 0):     "Recommended, the least effort: a; b.",
		Recommended([]string{"a"}, 2):          "Recommended, the least effort: a; 2 notes elsewhere on the neck.",
		NoHands(""):                            "No hands can play all of it at any tempo; this is the closest: see what breaks.",
		EconomyClean(1):                        "Economy: the change is a sweep, none is inside",
		EconomyClean(4):                        "Economy: all 4 changes are sweeps, none is inside",
		SlursForExits([]int{3}, lick.Down):     "A slur into note 4: every change leaves after a downstroke",
		SlursForExits([]int{3, 8}, lick.Up):    "Slurs into notes 4, 9: every change leaves after an upstroke",
		Fastest(true):                          "As fast as it can be played anywhere on the neck",
		Fastest(false):                         "As fast as any hands can play it here",
		AsPlaced():                             "At the places as written",
		OtherFinger(lick.Ring, lick.Little, 6): "Finger 3 instead of 4 on note 7",
		OtherWay(pick.Free, pick.Economy):      "Strokes as they fall instead of economy",
		OtherWay(pick.Alternate, pick.Free):    "Alternate instead of strokes as they fall",
		OtherStart(lick.Down):                  "Starts on a downstroke",
		SameFingers(90, 100):                   "The same fingers wherever a cell comes back, 90 instead of 100",
		SameFingers(100, 100):                  "The same fingers wherever a cell comes back, at no cost",
		SameFingers(101, 100):                  "The same fingers wherever a cell comes back, 101 instead of 100, for more effort",
		WhyNot(lick.Little, 2, 80, 90, "x"):    "Finger 4 on note 3 would hold it back: clean up to 80.",
		WhyNot(lick.Little, 2, 95, 90, "x"): "Finger 4 on note 3 would be faster, clean up to 95, for more " +
			"effort: x.",
		WhyNot(lick.Little, 2, 90, 90, "x"): "Finger 4 on note 3 would do as well up to there, for more " +
			"effort: x.",
		FrettingHand(nil, 1, 90):                              "the hand stays where it is",
		FrettingHand(nil, 2, 90):                              "every finger comes down within reach, 90 mm at the widest",
		FrettingHand(map[hand.Kind]int{hand.Jump: 2}, 2, 90):  "2 jumps, reach 90 mm at the widest",
		Slurred(3, 0):                                         "3 strokes",
		Slurred(1, 2):                                         "1 stroke, 2 slurs",
		PickingHand("economy", nil, "down"):                   "economy on one string",
		PickingHand("economy", []string{"2 outside"}, "down"): "economy with 2 outside, leaves on down",
		PickingHand(Strokes(false), []string{"1 inside"}, "mixed"): "strokes in turn with 1 inside, leaves " +
			"on down and up",
		Against(nil): "the same needs, other fingers.",
		Against([]string{Hardest(Notes(5, 6), 90, 100), ReachInstead(90, 80)}): "the hardest move is 6 → 7 and needs " +
			"90 of 100 ms; reach 90 instead of 80 mm.",
		Held("finger", -1, 6):  "finger, note 7",
		Held("inside", 5, 6):   "inside, 6 → 7",
		OtherSlides(Slides(l)): "The slide elsewhere: finger 1 from 9 to 7 on note 4",
		Restrung(nil):          "As written.",
		Restrung([]Moved{{2, neck.Place{String: 5, Fret: 12}}, {6, neck.Place{String: 3, Fret: 12}}}): "Note 3 on 5:12, " +
			"note 7 on 3:12.",
	} {
		if is != want {
			t.Errorf("%q, want %q", is, want)
		}
	}
	if _, ok := FingerFast(hand.Move, l, 0); ok {
		t.Error("a shift is told as a move of the fingers")
	}
	if _, ok := HandMoves(hand.Place, l, 0, 1, 5); ok {
		t.Error("a finger that comes down is told as a move of the hand")
	}
}

// TestBeats reads lengths against the unit of the meter.
func TestBeats(t *testing.T) {
	l := lick.New()
	for _, row := range []struct {
		num, den int64
		want     string
	}{{1, 4, "a beat"}, {-1, 4, "a beat"}, {1, 8, "half a beat"}, {1, 2, "2 beats"}, {1, 12, "1/3 of a beat"},
		{3, 8, "3/2 of a beat"}} {
		if is := Beats(l, lick.NewTime(row.num, row.den)); is != row.want {
			t.Errorf("%d/%d: %q, want %q", row.num, row.den, is, row.want)
		}
	}
	if is := ChordPlace(l, lick.NewTime(1, 1)); is != "bar 2" {
		t.Error(is)
	}
	if is := ChordPlace(l, lick.NewTime(3, 2)); is != "beat 3 of bar 2" {
		t.Error(is)
	}
}

// TestForm holds the form that a list and a sentence need, for every finger and stroke: no
// word twice in a row, no value that could not be printed.
func TestForm(t *testing.T) {
	twice := regexp.MustCompile(`\b(\w+) (\w+)\b`)
	for f := lick.NoFinger; f <= lick.Thumb; f++ {
		l := line()
		for i := range l.Notes {
			l.Notes[i].Finger = f
			l.Notes[i].Slur = lick.Pull
		}
		for _, w := range []Words{OneFinger(l.Notes[0]), SlideChangesFinger(l, 0, 1), FingerOnOpen(f), Jump(l, 0, 1),
			TooHeavy(l, 4, 1, 9, 8), {"the bass", BassHolds(l, 0, 1, 0)}} {
			if strings.Contains(w.Title+w.Text, "%!") || w.Title != strings.ToLower(w.Title) {
				t.Errorf("%q %q", w.Title, w.Text)
			}
			words := strings.Fields(w.Text)
			for k := range words[1:] {
				if words[k] == words[k+1] && twice.MatchString(words[k]+" "+words[k+1]) {
					t.Errorf("%q twice in %q", words[k], w.Text)
				}
			}
		}
	}
}
