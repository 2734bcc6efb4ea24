package music

import (
	"cmp"
	"slices"
	"strings"
)

// SplitKey cuts a key into its first word and the rest, white space folded.
func SplitKey(key string) (tonic, scale string) {
	tonic, scale, _ = strings.Cut(strings.Join(strings.Fields(key), " "), " ")
	return tonic, scale
}

// spokenKey is a key in full from what players say: a root alone is major, one with an m minor, and a minor or major
// root goes with a scale that says the same ("Dm dorian", "Cmaj lydian").
func spokenKey(tonic, scale string) (root, full string) {
	root, kind := KindOf(tonic)
	scale = SpokenScale(scale)
	switch {
	case scale == "" && kind == "minor":
		return root, "natural minor"
	case scale == "":
		return root, "major"
	case kind == "":
		return root, scale
	}
	if _, err := ParseScale(kind + " " + scale); err == nil {
		return root, kind + " " + scale // "Am pentatonic"
	}
	return root, scale
}

// KindOf takes the word for minor or major off a root: "Dm" is D and minor, "B♭maj" B♭ and major. What is no root stays
// as it is.
func KindOf(tonic string) (root, kind string) {
	for _, end := range []struct{ sign, kind string }{
		{"maj", "major"},
		{"min", "minor"},
		{"m", "minor"},
		{"M", "major"},
	} {
		rest, ok := strings.CutSuffix(tonic, end.sign)
		if !ok || rest == "" {
			continue
		}
		if _, err := ParseName(rest); err == nil {
			return rest, end.kind
		}
	}
	return tonic, ""
}

// SpokenScale writes a scale's short words in full: "minor pent", "pentatonic minor", "harm minor".
func SpokenScale(scale string) string {
	words := strings.Fields(scale)
	for i, w := range words {
		words[i] = cmp.Or(shortWords[strings.TrimSuffix(w, ",")], w)
	}
	if len(words) == 2 && words[0] == "pentatonic" && (words[1] == "minor" || words[1] == "major") {
		words[0], words[1] = words[1], words[0]
	}
	return strings.Join(words, " ")
}

// shortWords are the words of scales that players cut short.
var shortWords = map[string]string{
	"pent":       "pentatonic",
	"penta":      "pentatonic",
	"pentatonic": "pentatonic",
	"harm":       "harmonic",
	"mel":        "melodic",
	"min":        "minor",
	"maj":        "major",
	"nat":        "natural",
	"dom":        "dominant",
}

// SuggestScales lists the scales by how well their names answer to what was typed, the best first. Nothing typed gives
// all of them in the order in which players meet them.
//
// As an example, "melodic" and "jazz minor" begin with melodic minor; "dor" with dorian; "dorain", which is part of no
// name, with dorian too, since it takes the fewest changes of a letter.
func SuggestScales(text string) []string {
	type found struct {
		name string
		rank int
	}
	key := foldScale(SpokenScale(text))
	var out []found
	for _, r := range scaleTable {
		best := 2 * matchRank(key, foldScale(r.name))
		for _, name := range r.also {
			best = min(best, 2*matchRank(key, foldScale(name))+1) // its usual name comes first
		}
		out = append(out, found{r.name, best})
	}
	slices.SortStableFunc(out, func(a, b found) int { return cmp.Compare(a.rank, b.rank) })
	names := make([]string, len(out))
	for i, f := range out {
		names[i] = f.name
	}
	return names
}

// The ranks of a name that holds what was typed come before those of one that does not, which are counted in letters
// to be changed.
const (
	rankSame = iota
	rankBegins
	rankWordBegins
	rankHolds
	rankFar
)

// matchRank is how well a name answers to what was typed, both folded.
func matchRank(typed, name string) int {
	switch {
	case typed == name:
		return rankSame
	case strings.HasPrefix(name, typed):
		return rankBegins
	case strings.Contains(" "+name, " "+typed):
		return rankWordBegins
	case strings.Contains(name, typed):
		return rankHolds
	}
	return rankFar + distance(typed, name)
}

// Matches says whether one of a scale's names holds what was typed, so that a list can leave the others out.
func Matches(scale, typed string) bool {
	key := foldScale(SpokenScale(typed))
	for _, r := range scaleTable {
		if r.name != scale {
			continue
		}
		for _, name := range append([]string{r.name}, r.also...) {
			if matchRank(key, foldScale(name)) < rankFar {
				return true
			}
		}
	}
	return false
}

// SuggestKeys lists keys for what was typed, the best first, each a root and a scale: those on the root that it names,
// or on the one that is given where it names none. Where no scale's name holds what was typed, the three nearest are
// listed.
//
// As an example, "C" gives C minor pentatonic and all other scales on C, "Dm dorian" D dorian, "melodic" melodic minor
// on the given root.
func SuggestKeys(text, root string) []string {
	tonic, scale := SplitKey(text)
	kind := ""
	if name, k := KindOf(tonic); tonic != "" {
		if _, err := ParseName(name); err == nil {
			root, kind = name, k
		} else {
			scale = strings.TrimSpace(tonic + " " + scale)
		}
	}
	if scale == "" {
		scale = kind
	}
	all := SuggestScales(scale)
	out := slices.DeleteFunc(slices.Clone(all), func(name string) bool { return !Matches(name, scale) })
	if len(out) == 0 {
		out = all[:3]
	}
	for i := range out {
		out[i] = root + " " + out[i]
	}
	return out
}

// chordSigns are the signs of chords that are offered, the usual ones first.
var chordSigns = []string{
	"", "m", "7", "m7", "maj7", "5", "6", "m6", "9", "m9", "maj9", "11", "m11", "13", "sus2", "sus4",
	"7sus4", "add9", "madd9", "6/9", "dim", "dim7", "m7b5", "aug", "7b9", "7#9", "7b5", "7#5", "7alt", "mmaj7"}

// SuggestChords lists chords for what was typed: those on the root that it names whose sign begins with what follows,
// or on the given root where it names none. What is a chord that stands in no list is listed as it is.
//
// As an example, "F#m7" gives F#m7 and F#m7b5, and nothing typed all signs on the given root.
func SuggestChords(text, root string) []string {
	text = strings.TrimSpace(text)
	sign := ""
	if name, rest, err := scanName(text); err == nil {
		root, sign = name.String(), rest
	} else if text != "" {
		sign = text
	}
	var out []string
	for _, s := range chordSigns {
		if strings.HasPrefix(s, sign) {
			out = append(out, root+s)
		}
	}
	if _, err := ParseChord(text); err == nil && !slices.Contains(out, root+sign) {
		out = append([]string{root + sign}, out...)
	}
	return out
}

// KeyOf reads what is typed where a scale is asked for: a scale alone leaves the root as it is, a key names both.
func KeyOf(text, root string) (tonic, scale string, err error) {
	if _, err = ParseScale(SpokenScale(text)); err == nil {
		return root, SpokenScale(text), nil
	}
	p, keyErr := ParseKey(text, nil, nil)
	if keyErr != nil {
		return root, text, err
	}
	return p.Tonic.String(), p.Scale.Name, nil
}
