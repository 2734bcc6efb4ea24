package changes

import (
	"slices"
	"strings"
	"testing"

	"ornamen/core/lick"
	"ornamen/core/neck"
)

// An answering chord has a rhythm, written or as it is said.
func TestParseRhythm(t *testing.T) {
	m := lick.Meter{Beats: 4, Unit: 4}
	for text, want := range map[string]string{
		"":                           "",
		"2&":                         "3/8",
		"2& | 1 1& 2 2&":             "3/8 | 0 1/8 1/4 3/8",
		"and of 2, then 1 and 2 and": "3/8 | 0 1/8 1/4 3/8",
		"4 1":                        "0 3/4",
		"3a":                         "11/16",
	} {
		bars, err := ParseRhythm(text, m)
		if err != nil {
			t.Errorf("%s: %v", text, err)
		}
		var got []string
		for _, bar := range bars {
			var at []string
			for _, b := range bar {
				at = append(at, b.String())
			}
			got = append(got, strings.Join(at, " "))
		}
		if strings.Join(got, " | ") != want {
			t.Errorf("%s is %s, want %s", text, strings.Join(got, " | "), want)
		}
	}
	for _, bad := range []string{"5", "and", "x", "2& |", "and of", "and of 9"} {
		if _, err := ParseRhythm(bad, m); err == nil {
			t.Errorf("%q is a rhythm", bad)
		}
	}
}

// Chords answer in their rhythm in the rests alone.
func TestFillInRhythm(t *testing.T) {
	l := over(t, "A mixolydian", "17 | 47 | 17", "2:5*1/4 8*1/4 3:7*1/4 5*1/4") // D7 and A7 are at rest
	out, _, err := Fill(neck.Standard(), l, "and of 2, then 1 and 2 and")
	if err != nil {
		t.Fatal(err)
	}
	var at []string
	for _, n := range out.Notes[4:] {
		if s := n.At.String(); !slices.Contains(at, s) {
			at = append(at, s)
		}
	}
	if got := strings.Join(at, " "); got != "1 9/8 5/4 11/8 19/8" {
		t.Errorf("struck at %s", got)
	}
}

// A bass takes the open string that has the root or the fifth first; the line's strokes of the pick go, locked
// or not, and i m a lie by string, thick to thin (common practice).
func TestBassOpenFirst(t *testing.T) {
	for _, c := range []struct{ key, chords, line, bass, strokes string }{
		{
			key:     "E minor pentatonic",
			chords:  "Em | Am",
			line:    "3:9*1/2 2:8*1/2 1:7*1/2 2:8*1/2",
			bass:    "6:0 6:7 6:0 6:7 5:0 6:0 5:0 6:0",
			strokes: "i m a m",
		},
		{
			key:     "A mixolydian",
			chords:  "A7",
			line:    "4:7*1/4 3:6*1/4 2:5*1/4 3:6*1/4",
			bass:    "5:0 6:0 5:0 6:0",
			strokes: "i m a m",
		},
	} {
		l := over(t, c.key, c.chords, c.line)
		for i := range l.Notes {
			l.Notes[i].Stroke, l.Notes[i].Lock = lick.Down, lick.LockSet{lick.FieldStroke}
		}
		out, err := Bass(neck.Standard(), l, Alternating)
		if err != nil {
			t.Fatal(err)
		}
		var bass, strokes []string
		for _, n := range out.Notes {
			if n.Voice == lick.VoiceBass {
				bass = append(bass, n.Place().Notation())
			} else {
				strokes = append(strokes, string(n.Stroke))
			}
		}
		if strings.Join(bass, " ") != c.bass || strings.Join(strokes, " ") != c.strokes {
			t.Errorf("under %s: %s, struck %s; want %s, %s", c.line, strings.Join(bass, " "),
				strings.Join(strokes, " "), c.bass, c.strokes)
		}
	}
}

// A bass and chords in the rests at once share no string and lie under one hand, in either order.
func TestBassAndChords(t *testing.T) {
	g := neck.Standard()
	l := over(t, "A minor pentatonic", "Am7 | Dm7 | F | C", "2:8*1/8 5*1/8 3:7*1/4")
	both := func(words ...string) lick.Lick {
		out := l
		for _, w := range words {
			var err error
			if out, _, err = Move(g, out, w); err != nil {
				t.Fatalf("%v: %v", words, err)
			}
		}
		return out
	}
	for _, out := range []lick.Lick{both("fill", "bass:alternating"), both("bass:alternating", "fill")} {
		chords := 0
		for i, n := range out.Notes {
			if n.Voice == lick.VoiceBass {
				continue
			}
			chords++
			for k, m := range out.Notes {
				if m.Voice != lick.VoiceBass || k == i || !m.At.Before(n.End()) || !n.At.Before(m.End()) {
					continue
				}
				if m.String <= n.String || m.Fret > 0 && n.Fret > 0 && max(m.Fret-n.Fret, n.Fret-m.Fret) > 4 {
					t.Errorf("note %d at %v sounds over the bass at %v", i+1, n.Place(), m.Place())
				}
			}
		}
		if chords < 3+2*2 {
			t.Errorf("only %d notes beside the bass", chords)
		}
	}
}

// Notes that sound together on thick strings have a finger each, the index on the thickest.
func TestFingersApart(t *testing.T) {
	notes := []lick.Note{
		{String: 5, Fret: 7, Len: lick.NewTime(1, 4)},
		{String: 4, Fret: 7, Len: lick.NewTime(1, 4)},
		{String: 1, Fret: 5, At: lick.NewTime(1, 4), Len: lick.NewTime(1, 4)},
	}
	byFingers(notes)
	got := string(notes[0].Stroke) + string(notes[1].Stroke) + string(notes[2].Stroke)
	if got != "ima" {
		t.Errorf("played %q, not \"ima\"", got)
	}
}
