package music

import (
	"fmt"
	"slices"
	"strings"

	"ornamen/core/text"
)

// Scale is a named row of degrees, rising from the root. Degrees are sorted by half steps and different; the first is
// the root. The name of a scale that was written as degrees is those degrees.
type Scale struct {
	Name    string
	Degrees []Degree
}

// scaleRow is one scale of the table: its names, the usual one first, and its degrees.
type scaleRow struct {
	name, degrees string
	also          []string
}

// scaleTable lists the usual scales by their degrees. Spellings are checked
// against a general music-theory library (see testdata).
var scaleTable = []scaleRow{
	{"minor pentatonic", "1 b3 4 5 b7", nil},
	{"major pentatonic", "1 2 3 5 6", []string{"pentatonic"}},
	{"blues", "1 b3 4 b5 5 b7", []string{"minor blues"}},
	{"major blues", "1 2 b3 3 5 6", nil},
	{"major", "1 2 3 4 5 6 7", []string{"ionian"}},
	{"dorian", "1 2 b3 4 5 6 b7", nil},
	{"phrygian", "1 b2 b3 4 5 b6 b7", nil},
	{"lydian", "1 2 3 #4 5 6 7", nil},
	{"mixolydian", "1 2 3 4 5 6 b7", nil},
	{"natural minor", "1 2 b3 4 5 b6 b7", []string{"minor", "aeolian"}},
	{"locrian", "1 b2 b3 4 b5 b6 b7", nil},
	{"harmonic minor", "1 2 b3 4 5 b6 7", nil},
	{"melodic minor", "1 2 b3 4 5 6 7", []string{"jazz minor"}},
	{"phrygian dominant", "1 b2 3 4 5 b6 b7", []string{"spanish phrygian", "phrygian major"}},
	{"lydian dominant", "1 2 3 #4 5 6 b7", []string{"lydian b7", "overtone", "acoustic"}},
	{"half-whole", "1 b2 b3 3 #4 5 6 b7", []string{"half-whole diminished", "dominant diminished"}},
	{"whole-half", "1 2 b3 4 b5 b6 6 7", []string{"whole-half diminished", "diminished"}},
	{"whole tone", "1 2 3 #4 #5 #6", nil},
	{"lydian augmented", "1 2 3 #4 #5 6 7", nil},
	{"altered", "1 b2 #2 3 #4 b6 b7", []string{"super locrian"}},
	// Arpeggios.
	{"major triad", "1 3 5", nil},
	{"minor triad", "1 b3 5", nil},
	{"diminished triad", "1 b3 b5", nil},
	{"augmented triad", "1 3 #5", nil},
	{"suspended fourth", "1 4 5", nil},
	{"sixth", "1 3 5 6", nil},
	{"minor sixth", "1 b3 5 6", nil},
	{"major seventh", "1 3 5 7", nil},
	{"dominant seventh", "1 3 5 b7", nil},
	{"minor seventh", "1 b3 5 b7", nil},
	{"minor major seventh", "1 b3 5 7", nil},
	{"half-diminished seventh", "1 b3 b5 b7", nil},
	{"diminished seventh", "1 b3 b5 bb7", nil},
	{"six nine", "1 9 3 5 6", []string{"6/9"}},
	{"minor six nine", "1 9 b3 5 6", nil},
	{"dominant ninth", "1 9 3 5 b7", nil},
	{"minor ninth", "1 9 b3 5 b7", nil},
	{"major ninth", "1 9 3 5 7", nil},
}

// scaleIndex finds a scale by any of its names.
var scaleIndex = buildScales()

// buildScales reads the table; a row that cannot be read is a fault of ours.
func buildScales() map[string]Scale {
	m := map[string]Scale{}
	for _, r := range scaleTable {
		s, err := customScale(r.degrees)
		if err != nil {
			panic("music: scale table: " + err.Error())
		}
		s.Name = r.name
		m[foldScale(r.name)] = s
		for _, a := range r.also {
			m[foldScale(a)] = s
		}
	}
	return m
}

// ScaleNames lists the scales by name, in the order in which players meet them.
func ScaleNames() []string {
	return text.Map(scaleTable, func(r scaleRow) string { return r.name })
}

// Arpeggio says whether the scale is a chord's tones rather than steps to walk on: it has no
// second and no fourth within the octave but in place of the third.
func (s Scale) Arpeggio() bool {
	steps := 0
	for _, d := range s.Degrees {
		if d.Number == 2 || d.Number == 4 && s.has(Degree{Number: 5}) && len(s.Degrees) > 3 {
			steps++
		}
	}
	return steps == 0 && len(s.Degrees) < 7
}

// ParseScale reads a scale by name ("natural minor"), or by a row of degrees that starts on 1 ("1 9 b3 4 5 b7"). An
// unknown name is answered with the nearest that is known.
func ParseScale(s string) (Scale, error) {
	key := foldScale(s)
	if sc, ok := scaleIndex[key]; ok {
		return sc, nil
	}
	if strings.HasPrefix(key, "1 ") || key == "1" {
		return customScale(s)
	}
	if key == "" {
		return Scale{}, fmt.Errorf("the scale is missing: name one, such as minor pentatonic")
	}
	near := SuggestScales(s)
	return Scale{}, fmt.Errorf("%q is not a scale I know; nearest are %s, %s and %s (or write degrees, such as "+
		"1 b3 4 5 b7)", s, near[0], near[1], near[2])
}

// customScale reads a scale that is written as its degrees.
// Its name is the row as it was written, so that it is read as the same scale again.
func customScale(s string) (Scale, error) {
	fields := strings.FieldsFunc(s, func(r rune) bool { return r == ' ' || r == ',' || r == '\t' })
	sc := Scale{Name: strings.Join(fields, " ")}
	seen := map[int]string{}
	for _, f := range fields {
		d, err := ParseDegree(f)
		if err != nil {
			return Scale{}, err
		}
		if was, ok := seen[d.Semitones()]; ok {
			return Scale{}, fmt.Errorf("%s and %s are the same tone", was, f)
		}
		seen[d.Semitones()] = f
		sc.Degrees = append(sc.Degrees, d)
	}
	if len(sc.Degrees) < 2 {
		return Scale{}, fmt.Errorf("a scale needs the root and at least one more degree")
	}
	slices.SortFunc(sc.Degrees, func(a, b Degree) int { return a.Semitones() - b.Semitones() })
	if sc.Degrees[0].Semitones() != 0 {
		return Scale{}, fmt.Errorf("a scale must hold its root, 1")
	}
	return sc, nil
}

// foldScale makes "Half–Whole" and "half whole" the same key.
func foldScale(s string) string {
	s = strings.NewReplacer("-", " ", "–", " ", "_", " ", ",", " ").Replace(strings.ToLower(s))
	return strings.Join(strings.Fields(s), " ")
}

// distance counts the single-letter edits between two words (Levenshtein 1966).
// Only the first 40 bytes count, so that long input stays cheap.
func distance(a, b string) int {
	a, b = a[:min(len(a), 40)], b[:min(len(b), 40)]
	row := make([]int, len(b)+1)
	for j := range row {
		row[j] = j
	}
	for i := range len(a) {
		prev := row[0]
		row[0] = i + 1
		for j := range len(b) {
			cost := prev
			if a[i] != b[j] {
				cost++
			}
			prev = row[j+1]
			row[j+1] = min(cost, row[j]+1, row[j+1]+1)
		}
	}
	return row[len(b)]
}
