package format

import (
	"bytes"
	"fmt"
	"math/rand/v2"
	"slices"
	"strings"
	"testing"

	"ornamen/core/lick"
	"ornamen/core/music"
	"ornamen/core/neck"
)

// randomLick is a valid lick with all that a lick may carry.
func randomLick(rng *rand.Rand) lick.Lick {
	l := lick.New()
	pick := func(words ...string) string { return words[rng.IntN(len(words))] }
	l.Title = pick("", "Weir", " two  spaces ", "a: colon", "line\nbreak", `"quoted"`, "Sleet, and more")
	for range rng.IntN(3) {
		l.Tags = append(l.Tags, pick("bends", "warm up", "a, b", " x"))
	}
	if rng.IntN(3) == 0 {
		l.Tuning = []music.Pitch{64, 59, 55, 50, 45, 40, 35}[:4+rng.IntN(4)]
	}
	l.Tempo = []float64{60, 92.5, 133.3333}[rng.IntN(3)]
	l.Meter = lick.Meter{Beats: 3 + rng.IntN(4), Unit: []int{4, 8}[rng.IntN(2)]}
	l.Feel = lick.Feel(pick("straight", "shuffle"))
	l.Loop = rng.IntN(3) == 0
	if rng.IntN(2) == 0 {
		l.Key = lick.Key{Tonic: pick("C#", "Bb", "A"), Scale: pick("minor pentatonic", "1 9 b3 4 5 b7"), Add: []string{"b5@down"}}
		if rng.IntN(2) == 0 {
			l.Keys = []lick.KeySpan{{At: lick.NewTime(1, 4), Key: lick.Key{Tonic: "F#", Scale: "phrygian", Drop: []string{"4"}}}}
		}
	}
	if rng.IntN(3) == 0 {
		l.Pickup = lick.NewTime(1, 8)
	}
	if rng.IntN(3) == 0 {
		l.Chords = []lick.Chord{{Len: lick.NewTime(1, 2), Name: "C#m7"}, {At: lick.NewTime(1, 2), Len: lick.NewTime(1, 1), Name: "F#7"}}
	}
	lengths := []lick.Time{lick.NewTime(1, 16), lick.NewTime(1, 8), lick.NewTime(1, 12), lick.NewTime(3, 16)}
	at := lick.Time{}
	if rng.IntN(3) == 0 {
		at = lick.NewTime(1, 8)
	}
	for range 1 + rng.IntN(14) {
		length := lengths[rng.IntN(len(lengths))]
		strs := rng.Perm(len(l.Tuning))
		for _, s := range strs[:1+rng.IntN(2)] {
			l.Notes = append(l.Notes, randomNote(rng, at, length, s+1))
		}
		if at = at.Add(length); rng.IntN(5) == 0 {
			at = at.Add(lick.NewTime(1, 8))
		}
	}
	l.Sort()
	switch rng.IntN(4) {
	case 0:
		l.Recipe = `--key "A minor" --cell "1 2"`
	case 1:
		l.Parts = []lick.Part{{From: 0, To: len(l.Notes), Recipe: `--cell "\\3 ha2"`}}
	}
	return l
}

func randomNote(rng *rand.Rand, at, length lick.Time, str int) lick.Note {
	one := func(n int) bool { return rng.IntN(n) == 0 }
	n := lick.Note{At: at, Len: length, String: str, Fret: rng.IntN(24), Mute: one(8), Rake: one(8), Barre: one(8), Accent: one(6)}
	n.Finger = lick.Finger(rng.IntN(7))
	n.Stroke = []lick.Stroke{"", lick.Down, lick.Up, lick.PThumb, lick.PIndex, lick.PMid, lick.PRing}[rng.IntN(7)]
	if one(3) {
		n.Slur = []lick.Slur{lick.Hammer, lick.Pull, lick.Slide, lick.Shift}[rng.IntN(4)]
		if n.Slur.Slurred() {
			n.Stroke = ""
		}
	}
	if one(4) {
		n.Bend = &lick.Bend{Semitones: []float64{0.5, 1, 2, 3, 4}[rng.IntN(5)], Shape: lick.BendShapes()[rng.IntN(4)]}
		if one(2) {
			n.Bend.Push = []lick.Push{lick.ToThick, lick.ToThin}[rng.IntN(2)]
		}
		if one(2) {
			n.Bend.With = []lick.Finger{lick.Middle, lick.Index}[:1+rng.IntN(2)]
		}
	}
	if one(5) {
		n.Vibrato = &lick.Vibrato{Width: []lick.Width{lick.Narrow, lick.Wide}[rng.IntN(2)],
			Speed: []lick.Speed{lick.Slow, lick.Fast}[rng.IntN(2)]}
	}
	if one(6) {
		n.SlideIn = &lick.SlideIn{Frets: 1 + rng.IntN(4), From: []lick.From{lick.FromBelow, lick.FromAbove}[rng.IntN(2)]}
	}
	if one(6) {
		n.Voice = lick.VoiceBass
	}
	if one(6) {
		n.Meant = []lick.Code{"note-outside", `odd, "one"`}[:1+rng.IntN(2)]
	}
	fields := []lick.Field{lick.FieldFinger, lick.FieldStroke, lick.FieldSlur, lick.FieldBend, lick.FieldString, lick.FieldLen}
	for _, k := range rng.Perm(len(fields))[:rng.IntN(3)] {
		n.Lock = append(n.Lock, fields[k])
	}
	return n
}

// Every format that holds all of a lick gives every lick back as it was.
func TestRoundTrip(t *testing.T) {
	rng := rand.New(rand.NewPCG(11, 25))
	done := 0
	for done < 600 {
		l, err := lick.Parse(randomLick(rng).Encode())
		if err != nil {
			continue // notes that overlap on a string, say
		}
		done++
		for _, f := range Formats() {
			if f.Holds != "all of a lick" {
				continue
			}
			text := f.Write(l)
			back, remarks, err := f.Read(text)
			if err != nil || len(remarks) > 0 {
				t.Fatalf("%s: %v %v\n%s", f.Name, err, remarks, text)
			}
			if !bytes.Equal(l.Encode(), back.Encode()) {
				t.Fatalf("%s:\n%s\nis written\n%s\nand comes back as\n%s", f.Name, l.Encode(), text, back.Encode())
			}
		}
	}
}

// Tablature as people paste it (common practice), and what is said of it.
func TestPastedTab(t *testing.T) {
	six := func(first string) string {
		blank := strings.Map(func(r rune) rune {
			if r == '|' {
				return r
			}
			return '-'
		}, first)
		return fmt.Sprintf("e|%s|\nB|%s|\nG|%s|\nD|%s|\nA|%s|\nE|%s|\n", first, blank, blank, blank, blank, blank)
	}
	for _, c := range []struct {
		name, tab, want, says string
	}{
		{"a bend alone", six("--7b--"), "1:7^2", "full step"},
		{"bent and released", six("--7br--"), "1:7^2r", "full step"},
		{"bent to a fret", six("--7b9--"), "1:7^2", ""},
		{"bent to a fret in brackets", six("--7b(9)--"), "1:7^2", ""},
		{"bent and released to frets", six("--7b9r7--"), "1:7^2r", ""},
		{"bent with a caret", six("--7^9--"), "1:7^2", ""},
		{"vibrato", six("--7~--9~~--"), "1:7~ 1:9~", ""},
		{"a harmonic", six("--<12>--"), "1:12", "harmonic"},
		{"brackets", six("--7--(7)--"), "1:7 1:7", "brackets"},
		{"dead", six("--x--7--"), "1:0x 1:7", ""},
		{"tapped", six("--t12p7--"), "1:12 1:7pull", "tapped"},
		{"signs some dashes away", six("--5-h-7--p-5--"), "1:5 1:7hammer 1:5pull", ""},
		{"a slide out", six("--7/--"), "1:7", "column 6"},
		{"bar lines", six("--5--|--7--"), "1:5 1:7", ""},
		{"a palm mute", "PM-----|\n" + six("--5--"), "1:5", "is not read"},
		{"words around", "Intro (twice)\n\n" + six("--5--") + "\nand so on: again\n", "1:5", ""},
		{"two systems", six("--5--") + "\n" + six("--7--"), "1:5 1:7", ""},
		{"thick strings on top", "E|--3--|\nA|-----|\nD|-----|\nG|-----|\nB|-----|\ne|--5--|\n", "6:3+1:5", ""},
		{"seven strings", "E|-5-|\nB|---|\nG|---|\nD|---|\nA|---|\nE|---|\nB|-0-|\n", "7:0+1:5", ""},
		{"five strings, a bass", "G|-5-|\nD|---|\nA|---|\nE|---|\nB|-0-|\n", "5:0+1:5", ""},
		{"lowered", "E|---|\nB|---|\nG|---|\nD|---|\nA|---|\nD|-0-|\n", "6:0", ""},
		{"no labels", "|-5-|\n|---|\n|---|\n|---|\n|---|\n|---|\n", "1:5", ""},
	} {
		l, remarks, err := DecodeTab([]byte(c.tab))
		if err != nil {
			t.Errorf("%s: %v\n%s", c.name, err, c.tab)
			continue
		}
		if got := shortly(l); got != c.want {
			t.Errorf("%s: %s, want %s", c.name, got, c.want)
		}
		if said := strings.Join(remarks, " "); (c.says == "") != (said == "") || !strings.Contains(said, c.says) {
			t.Errorf("%s: it says %q, want %q", c.name, said, c.says)
		}
		if c.name == "lowered" && l.Tuning[5] != 38 {
			t.Errorf("the lowered string is %d", l.Tuning[5])
		}
		if seven, _ := neck.ParseInstrument("guitar7"); c.name == "seven strings" &&
			!slices.Equal(l.Tuning, seven.Guitar.Tuning) {
			t.Errorf("seven strings are tuned %v", l.Tuning)
		}
	}
	// What does not line up is refused where it does not.
	for _, c := range []struct{ tab, says string }{
		{strings.Replace(six("--5--|--7--"), "B|-----|-----|", "B|------|----|", 1), "line 2, column 8"},
		{strings.Replace(six("--5--"), "G|-----|", "G|----|", 1), "line 3, column 7"},
		{strings.Replace(six("--5--"), "G|-----|", "G|-----", 1), "line 3, column 8"},
	} {
		if _, _, err := DecodeTab([]byte(c.tab)); err == nil || !strings.Contains(err.Error(), c.says) {
			t.Errorf("%v, want %q\n%s", err, c.says, c.tab)
		}
	}
}

// shortly writes places, slurs, bends and vibratos.
func shortly(l lick.Lick) string {
	var cols []string
	for _, c := range l.Columns() {
		var words []string
		for _, n := range l.Notes[c[0]:c[1]] {
			w := n.Place().Notation() + string(n.Slur)
			if n.Mute {
				w += "x"
			}
			if n.Bend != nil {
				w += fmt.Sprintf("^%g", n.Bend.Semitones)
				if n.Bend.Release() {
					w += "r"
				}
			}
			if n.Vibrato != nil {
				w += "~"
			}
			words = append(words, w)
		}
		cols = append(cols, strings.Join(words, "+"))
	}
	return strings.Join(cols, " ")
}
