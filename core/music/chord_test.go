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
	for name, want := range map[string]bool{
		"minor triad":      true,
		"dominant seventh": true,
		"six nine":         true,
		"major":            false,
		"minor pentatonic": false,
		"major pentatonic": false,
		"blues":            false,
		"dominant ninth":   true,
	} {
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

// Chords by their degree of the key, in Arabic and in Roman numbers (common practice); in a minor key the Roman III, VI
// and VII are the key's own.
func TestOnDegree(t *testing.T) {
	for _, c := range []struct {
		word   string
		minor  bool
		degree string
		sign   string
	}{
		{
			word:   "1m7",
			degree: "1",
			sign:   "m7",
		}, {
			word:   "b6maj7",
			degree: "b6",
			sign:   "maj7",
		}, {word: "57", degree: "5", sign: "7"}, {word: "4", minor: true, degree: "4"},
		{
			word:   "ii7",
			degree: "2",
			sign:   "m7",
		}, {
			word:   "V7",
			degree: "5",
			sign:   "7",
		}, {word: "Imaj7", degree: "1", sign: "maj7"}, {word: "vii°", degree: "7", sign: "°"},
		{
			word:   "vi",
			degree: "6",
			sign:   "m",
		}, {
			word:   "VI",
			minor:  true,
			degree: "b6",
		}, {word: "VII7", minor: true, degree: "b7", sign: "7"}, {word: "III", minor: true, degree: "b3"},
		{
			word:   "VI",
			degree: "6",
		}, {
			word:   "iv",
			minor:  true,
			degree: "4",
			sign:   "m",
		}, {word: "bVI", degree: "b6"}, {word: "imaj7", minor: true, degree: "1", sign: "mmaj7"},
		{
			word:   "iim7b5",
			minor:  true,
			degree: "2",
			sign:   "m7b5",
		}, {word: "♭VII", degree: "b7"}, {word: "viiø", degree: "7", sign: "ø"}, {word: "I", minor: true, degree: "1"},
	} {
		d, sign, ok := OnDegree(c.word, c.minor)
		if !ok || d.String() != c.degree || sign != c.sign {
			t.Errorf("%s (minor %t): %s %q %t, not %s %q", c.word, c.minor, d, sign, ok, c.degree, c.sign)
		}
	}
	for _, bad := range []string{"", "8", "VIII", "iix", "0", "m7", "b", "1wonky"} {
		if d, sign, ok := OnDegree(bad, false); ok {
			t.Errorf("%q is %s%s", bad, d, sign)
		}
	}
}

// The tones that 9, 11 and 13 bring along (common practice): the third stays away from a dominant eleventh, the
// eleventh from a major or dominant thirteenth; alterations of a ninth may stand beside each other.
func TestExtensions(t *testing.T) {
	for chord, want := range map[string]string{
		"C9":      "1 3 5 b7 9",
		"Cm9":     "1 b3 5 b7 9",
		"C11":     "1 5 b7 9 11",
		"Cm11":    "1 b3 5 b7 9 11",
		"C13":     "1 3 5 b7 9 13",
		"Cm13":    "1 b3 5 b7 9 11 13",
		"Cmaj13":  "1 3 5 7 9 13",
		"C2":      "1 3 5 9",
		"C7b9#9":  "1 3 5 b7 b9 b10",
		"C7#9b9":  "1 3 5 b7 b9 b10",
		"C7b9b9":  "1 3 5 b7 b9",
		"C7b5#5":  "1 3 #5 b7",
		"C9sus4":  "1 4 5 b7 9",
		"C7no5":   "1 3 b7",
		"C7omit3": "1 5 b7",
		"Cmadd9":  "1 b3 5 9",
		"Cadd#11": "1 3 5 #11",
		"C5":      "1 5",
		"C6":      "1 3 5 6",
		"Cm6/9":   "1 b3 5 6 9",
	} {
		c, err := ParseChord(chord)
		var tones []string
		for _, d := range c.Degrees {
			tones = append(tones, d.String())
		}
		if got := strings.Join(tones, " "); err != nil || got != want {
			t.Errorf("%s is %s, not %s (%v)", chord, got, want, err)
		}
	}
}

// Tones over a chord by their usual names: its own, the ♯9 of an altered one, and the 9 of those outside
// (common practice).
func TestNamesOverChords(t *testing.T) {
	for _, c := range []struct {
		chord, tone, degree string
		in                  bool
	}{
		{
			chord:  "C7#9",
			tone:   "Eb",
			degree: "#9",
			in:     true,
		}, {
			chord:  "G7alt",
			tone:   "Bb",
			degree: "#9",
			in:     true,
		}, {chord: "G7alt", tone: "Ab", degree: "b9", in: true}, {chord: "C", tone: "D", degree: "9"},
		{
			chord:  "Cadd9",
			tone:   "D",
			degree: "9",
			in:     true,
		}, {
			chord:  "Cm7",
			tone:   "Eb",
			degree: "b3",
			in:     true,
		}, {chord: "C", tone: "A", degree: "6"}, {chord: "C6", tone: "A", degree: "6", in: true},
		{chord: "F", tone: "B", degree: "#4"},
	} {
		x, err := ParseChord(c.chord)
		n, err2 := ParseName(c.tone)
		if err != nil || err2 != nil {
			t.Fatal(err, err2)
		}
		d, in := x.Over(n)
		want, _ := ParseDegree(c.degree)
		if d.Semitones()%12 != want.Semitones()%12 || in != c.in || c.in && d.String() != c.degree ||
			c.tone == "D" && d.Number != 9 {
			t.Errorf("%s over %s is %s (in it: %t), not %s", c.tone, c.chord, d, in, c.degree)
		}
	}
}

// An octave has 1200 cents and a fifth of 3 to 2 has 702 (textbook values); names with accidentals over the turn of an
// octave, and the ends of the range.
func TestPitchesAtTheirEdges(t *testing.T) {
	if up, fifth := Interval(220, 440), Interval(2, 3); up != 1200 || fifth < 701.9 || fifth > 702 {
		t.Errorf("%g and %g cents", float64(up), float64(fifth))
	}
	for name, want := range map[string]Pitch{"C-1": 0, "G9": 127, "B#3": 60, "Cb4": 59, "A4": 69, "E2": 40} {
		p, err := ParsePitch(name)
		if err != nil || p != want {
			t.Errorf("%s is %d, not %d (%v)", name, p, want, err)
			continue
		}
		n, _, _ := strings.Cut(name, "-")
		spelled, err := ParseName(strings.TrimRight(n, "0123456789"))
		if err != nil || spelled.WithOctave(p) != name {
			t.Errorf("%d as %s is %s", p, name, spelled.WithOctave(p))
		}
	}
	for _, bad := range []string{"Cb-1", "G#9", "A10", "A-2", "A", "H4"} {
		if p, err := ParsePitch(bad); err == nil {
			t.Errorf("%s is %d", bad, p)
		}
	}
}
