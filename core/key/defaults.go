package key

import "ornamen/core/defaults"

// Weights of a guess (model default; chosen on the demo's licks and on written lines): what lies in the scale counts
// most, then that the scale is used up, and that its root is where lines begin, rest and end.
const (
	guessInside = 3.0
	guessUsed   = 0.6
	guessLast   = 0.4
	guessFirst  = 0.12
	guessChord  = 0.8
	guessRoot   = 0.5
	guessFifth  = 0.25
	guessClear  = 0.45 // ahead of the next key by so much
	guessLikely = 0.10
	guessedTone = 0.3 // a tone of a chord, against one of the line that sounds as long
)

// guessed are the scales that a guess may name, and what each has to explain better than the first (model default:
// the likelier in lead lines, the less; common practice).
var guessed = []struct {
	name  string
	price float64
}{{"minor pentatonic", 0}, {"major pentatonic", 0.05}, {"blues", 0.1}, {"natural minor", 0.12}, {"major", 0.12},
	{"dorian", 0.4}, {"mixolydian", 0.4}, {"harmonic minor", 0.35}, {"phrygian dominant", 0.7}, {"melodic minor", 0.6}}

// Defaults lists what a guess assumes of lines.
func Defaults() []defaults.Row {
	rows := []defaults.Row{
		{Name: "a key is guessed: what lies in the scale", Value: guessInside},
		{Name: "… how much of the scale is used", Value: guessUsed},
		{Name: "… its root is the last note", Value: guessLast},
		{Name: "… is the first", Value: guessFirst},
		{Name: "… is the root of the first chord", Value: guessChord},
		{Name: "… sounds, of all that sounds", Value: guessRoot},
		{Name: "… its fifth", Value: guessFifth},
		{Name: "… a tone of a chord, against one of the line", Value: guessedTone},
		{Name: "a guess is clear when ahead by", Value: guessClear},
		{Name: "… likely by", Value: guessLikely},
	}
	for _, x := range guessed[1:] {
		rows = append(rows, defaults.Row{Name: "a guess of " + x.name + " has to explain more by", Value: x.price})
	}
	return defaults.Ours(rows...)
}
