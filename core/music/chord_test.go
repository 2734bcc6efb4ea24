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
