package music

import (
	"encoding/json"
	"math"
	"os"
	"strings"
	"testing"
)

// Every usual scale in every practical key against a general music-theory
// library; the fixture names it and its version, tools/fixtures writes it.
func TestScalesAgainstLibrary(t *testing.T) {
	data, err := os.ReadFile("testdata/scales.json")
	if err != nil {
		t.Fatal(err)
	}
	var fixture struct {
		Source string
		Rows   []struct {
			Scale, Tonic string
			Notes        []string
			Classes      []int
		}
	}
	if err := json.Unmarshal(data, &fixture); err != nil {
		t.Fatal(err)
	}
	seen := map[string]bool{}
	for _, r := range fixture.Rows {
		seen[r.Scale] = true
		p, err := NewPalette(r.Tonic, r.Scale, nil, nil)
		if err != nil {
			t.Fatalf("%s %s: %v", r.Tonic, r.Scale, err)
		}
		var names []string
		for i, tone := range p.Tones {
			names = append(names, tone.Name.String())
			if i < len(r.Classes) && tone.Name.Class() != r.Classes[i] {
				t.Errorf("%s %s: %s has class %d, want %d", r.Tonic, r.Scale, tone.Name, tone.Name.Class(),
					r.Classes[i])
			}
		}
		if got, want := strings.Join(names, " "), strings.Join(r.Notes, " "); got != want {
			t.Errorf("%s %s: %s, want %s (%s)", r.Tonic, r.Scale, got, want, fixture.Source)
		}
	}
	for _, n := range ScaleNames() {
		if !seen[n] {
			t.Errorf("%s is not in the fixture", n)
		}
	}
}

// ISO 16 (A4 = 440 Hz) and the note table of MIDI 1.0 (middle C is 60, A4 is 69).
func TestPitch(t *testing.T) {
	for _, c := range []struct {
		name string
		midi Pitch
		hz   float64
	}{{"A4", 69, 440}, {"C4", 60, 261.6256}, {"E2", 40, 82.4069}, {"E4", 64, 329.6276}, {"B#3", 60, 261.6256}, {"Cb4",
		59, 246.9417}, {"C-1", 0, 8.1758}, {"G9", 127, 12543.8540}} {
		p, err := ParsePitch(c.name)
		if err != nil || p != c.midi {
			t.Errorf("%s is %d (%v), want %d", c.name, p, err, c.midi)
		}
		if math.Abs(p.Hertz()-c.hz) > c.hz*1e-6 {
			t.Errorf("%s sounds at %.4f Hz, want %.4f", c.name, p.Hertz(), c.hz)
		}
	}
	if c := Interval(440, 880); c != 1200 {
		t.Errorf("an octave has %v cents", c)
	}
	for _, bad := range []string{"", "H4", "E", "E44", "E#b", "♭4", "G#9", "4"} {
		if p, err := ParsePitch(bad); err == nil {
			t.Errorf("%q was read as %d", bad, p)
		}
	}
}

// In a key each letter is used in its order: ♭5 of A is E♭, never D♯ (common practice).
func TestDegreeSpelling(t *testing.T) {
	for _, c := range []struct{ root, degree, want string }{
		{"A", "b5", "Eb"}, {"A", "#4", "D#"}, {"C#", "9", "D#"}, {"C#", "b3", "E"}, {"F#", "7", "E#"}, {"Gb", "4",
			"Cb"}, {"Ab", "b7", "Gb"}, {"B", "3", "D#"}, {"Eb", "b5", "Bbb"}, {"C", "13", "A"},
	} {
		root, _ := ParseName(c.root)
		d, err := ParseDegree(c.degree)
		if err != nil {
			t.Fatal(err)
		}
		n := d.Over(root)
		if n.String() != c.want || n.Class() != (root.Class()+d.Semitones())%12 {
			t.Errorf("%s over %s is %s, want %s", c.degree, c.root, n, c.want)
		}
	}
	for _, bad := range []string{"", "0", "14", "b", "b1", "5b", "bbb3", "x", "#", "01"} {
		if d, err := ParseDegree(bad); err == nil {
			t.Errorf("%q was read as %s", bad, d)
		}
	}
}

func TestPalette(t *testing.T) {
	p, err := ParseKey("C# minor pentatonic", []string{"9", "b5@down", "7@below", "3@2"}, []string{"4"})
	if err != nil {
		t.Fatal(err)
	}
	var got []string
	for _, tone := range p.Tones {
		got = append(got, tone.Degree.String()+":"+tone.Role.String()+":"+tone.Hold.String())
	}
	if want := "1:root: 9:colour: b3:scale: 3:colour:2 b5:colour:down 5:scale: b7:scale: 7:colour:below"; strings.Join(
		got, " ",
	) != want {
		t.Errorf("%s\nwant %s", strings.Join(got, " "), want)
	}
	if tone := p.At(54); tone.Role != Outside || tone.Degree.String() != "4" {
		t.Errorf("F# is %v", tone)
	}
	for _, c := range []struct{ key, add, drop, says string }{
		{key: "H minor", says: "not a note name"},
		{key: "A dorain", says: "nearest are dorian"},
		{key: "A 1 2 9", says: "the same tone"},
		{key: "A blues", add: "11b", says: "not a degree"},
		{key: "A blues", add: "9@sideways", says: "after @"},
		{key: "A blues", add: "9@0", says: "after @"},
		{key: "A blues", drop: "1", says: "root cannot be dropped"},
		{key: "A blues", drop: "2", says: "has no such tone"},
	} {
		_, err := ParseKey(c.key, fields(c.add), fields(c.drop))
		if err == nil || !strings.Contains(err.Error(), c.says) {
			t.Errorf("%s +%s −%s: %v, want %q", c.key, c.add, c.drop, err, c.says)
		}
	}
}

func fields(s string) []string {
	if s == "" {
		return nil
	}
	return []string{s}
}

func TestCustomScale(t *testing.T) {
	s, err := ParseScale("1 9 b3 3 4 b5 5 6 b7")
	if err != nil || len(s.Degrees) != 9 {
		t.Fatalf("%v %v", s, err)
	}
	if s.Degrees[1].String() != "9" {
		t.Errorf("the 9 is written %s", s.Degrees[1])
	}
	if a, _ := ParseScale("Half–Whole"); a.Name != "half-whole" {
		t.Errorf("half–whole is read as %q", a.Name)
	}
}

func FuzzPalette(f *testing.F) {
	f.Add("C# minor pentatonic", "9", "4")
	f.Add("A 1 b3 5", "b5@down", "")
	f.Fuzz(func(t *testing.T, key, add, drop string) {
		p, err := ParseKey(key, fields(add), fields(drop))
		if err != nil {
			return
		}
		for _, tone := range p.Tones {
			if tone.Name.Class() != (p.Tonic.Class()+tone.Degree.Semitones())%12 {
				t.Errorf("%s: %s is spelled %s", key, tone.Degree, tone.Name)
			}
		}
	})
}
