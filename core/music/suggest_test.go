package music

import (
	"slices"
	"strings"
	"testing"
)

// A key is read as players name one (common practice).
func TestParseKeyAsSaid(t *testing.T) {
	for _, c := range []struct{ text, want string }{
		{"C", "C major"},
		{"B♭", "B♭ major"},
		{"F#m", "F♯ natural minor"},
		{"Dm dorian", "D dorian"},
		{"Cmaj lydian", "C lydian"},
		{"Am pentatonic", "A minor pentatonic"},
		{"A pentatonic minor", "A minor pentatonic"},
		{"C# minor pent", "C♯ minor pentatonic"},
		{"E harm minor", "E harmonic minor"},
		{"G jazz minor", "G melodic minor"},
		{"  A   dorian ", "A dorian"},
		{"A minor", "A natural minor"},
	} {
		p, err := ParseKey(c.text, nil, nil)
		if err != nil || p.Pretty() != c.want {
			t.Errorf("%q is %s, %v; want %s", c.text, p.Pretty(), err, c.want)
		}
	}
	// A chord with more than a triad in its sign is its arpeggio.
	if p, err := ParseKey("Am7", nil, nil); err != nil || len(p.Tones) != 4 {
		t.Errorf("Am7 has %d tones, %v", len(p.Tones), err)
	}
}

// Lists find by what players type.
func TestSuggest(t *testing.T) {
	if all := SuggestScales(""); !slices.Equal(all, ScaleNames()) {
		t.Errorf("nothing typed lists %v", all)
	}
	for typed, first := range map[string]string{
		"melodic":    "melodic minor",
		"jazz minor": "melodic minor",
		"dor":        "dorian",
		"dorain":     "dorian",
		"aeol":       "natural minor",
		"blues":      "blues",
		"dominant":   "dominant seventh",
		"Pent":       "major pentatonic",
		"half whole": "half-whole",
		"overtone":   "lydian dominant",
	} {
		if got := SuggestScales(typed); got[0] != first {
			t.Errorf("%q finds %s first, want %s", typed, got[0], first)
		}
	}
	for _, c := range []struct{ typed, root, want string }{
		{"Dm dorian", "A", "D dorian"},
		{"dorian", "F#", "F# dorian"},
		{"Bb mel", "A", "Bb melodic minor"},
		{"C", "A", "C minor pentatonic"},
		{"jazz minor", "E", "E melodic minor"},
	} {
		if got := SuggestKeys(c.typed, c.root); len(got) == 0 || got[0] != c.want {
			t.Errorf("%q on %s gives %v, want %s first", c.typed, c.root, got, c.want)
		}
	}
	if got := SuggestKeys("C", "A"); len(got) != len(ScaleNames()) {
		t.Errorf("a root alone gives %d keys", len(got))
	}
	if got := SuggestKeys("Am", "C"); !strings.HasPrefix(got[0], "A ") || slices.Contains(got, "A major") {
		t.Errorf("Am gives %v", got)
	}
	if got := SuggestKeys("zzzzz", "C"); len(got) != 3 {
		t.Errorf("what is nothing gives %v", got)
	}
	for _, c := range []struct{ typed, root, want string }{
		{"F#m7", "C", "F#m7 F#m7b5"},
		{"", "Eb", "Eb Ebm Eb7"},
		{"maj", "G", "Gmaj7 Gmaj9"},
		{"C13b9", "A", "C13b9"},
	} {
		if got := strings.Join(SuggestChords(c.typed, c.root), " "); !strings.HasPrefix(got, c.want) {
			t.Errorf("%q on %s gives %s, want %s", c.typed, c.root, got, c.want)
		}
	}
	for _, c := range []struct{ text, tonic, scale string }{
		{"dorian", "A", "dorian"},
		{"Dm dorian", "D", "dorian"},
		{"C", "C", "major"},
		{"1 b3 5", "A", "1 b3 5"},
	} {
		if tonic, scale, err := KeyOf(c.text, "A"); err != nil || tonic != c.tonic || scale != c.scale {
			t.Errorf("%q is %s %s, %v", c.text, tonic, scale, err)
		}
	}
}

// Every chord that is offered is one.
func TestChordSigns(t *testing.T) {
	for _, name := range SuggestChords("", "Bb") {
		if _, err := ParseChord(name); err != nil {
			t.Errorf("%s: %v", name, err)
		}
	}
}

// A refusal names the three nearest.
func TestNearestThree(t *testing.T) {
	_, err := ParseScale("mixolidian")
	if err == nil || strings.Count(err.Error(), ",") < 2 || !strings.Contains(err.Error(), "nearest are mixolydian,") {
		t.Errorf("%v", err)
	}
}
