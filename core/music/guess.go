package music

import (
	"cmp"
	"slices"
)

// KeyGuess is a key that a row of notes may be in: root and scale, the degrees that are added to it, and how sure
// that is.
type KeyGuess struct {
	Tonic Name
	Scale string
	Add   []string // degrees, as a key is written
	Sure  Sureness
	Other string // the key that fits nearly as well, empty where the guess is clear
}

// Sureness is how far a guess stands before the next one.
type Sureness string

// The three steps of it.
const (
	Clear  Sureness = "clear"
	Likely Sureness = "likely"
	Open   Sureness = "a guess"
)

// Heard is what a key is guessed from: how long each pitch class sounds, in any unit, and the classes of the first
// and the last note and of the first chord's root; −1 where there is none.
type Heard struct {
	Long        [12]float64
	First, Last int
	Chord       int
}

// guessed are the scales that a guess may name, and what each has to explain better than the first (model default:
// the likelier in lead lines, the less; common practice).
var guessed = []struct {
	name  string
	price float64
}{{"minor pentatonic", 0}, {"major pentatonic", 0.05}, {"blues", 0.1}, {"natural minor", 0.12}, {"major", 0.12},
	{"dorian", 0.4}, {"mixolydian", 0.4}, {"harmonic minor", 0.35}, {"phrygian dominant", 0.7}, {"melodic minor", 0.6}}

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
)

// GuessKey finds the key that fits notes best, with the tones outside of it added where they are few; false if
// fewer than three tones sound, which are those of many keys. With fewer than five no guess is clear.
func GuessKey(h Heard) (KeyGuess, bool) {
	sum, sounding := 0.0, 0
	for _, w := range h.Long {
		sum += w
		if w > 0 {
			sounding++
		}
	}
	if sounding < 3 {
		return KeyGuess{}, false
	}
	type fit struct {
		root  int
		scale Scale
		score float64
		out   []int
	}
	var all []fit
	for _, x := range guessed {
		scale := scaleIndex[foldScale(x.name)]
		for root := range 12 {
			f := fit{root: root, scale: scale}
			is := map[int]bool{}
			inside, used := 0.0, 0
			for _, d := range scale.Degrees {
				k := (root + d.Semitones()) % 12
				is[k] = true
				inside += h.Long[k]
				if h.Long[k] > 0 {
					used++
				}
			}
			for k, w := range h.Long {
				if w > 0 && !is[k] {
					f.out = append(f.out, (k-root+12)%12)
				}
			}
			f.score = guessInside*inside/sum + guessUsed*float64(used)/float64(len(scale.Degrees)) +
				guessRoot*h.Long[root]/sum + guessFifth*h.Long[(root+7)%12]/sum - x.price
			if h.Last == root {
				f.score += guessLast
			}
			if h.First == root {
				f.score += guessFirst
			}
			if h.Chord == root {
				f.score += guessChord
			}
			all = append(all, f)
		}
	}
	slices.SortStableFunc(all, func(a, b fit) int { return cmp.Compare(b.score, a.score) })
	best := all[0]
	key := func(f fit) (Name, string) {
		minor := slices.ContainsFunc(f.scale.Degrees, func(d Degree) bool { return d.Semitones() == 3 }) &&
			!slices.ContainsFunc(f.scale.Degrees, func(d Degree) bool { return d.Semitones() == 4 })
		return UsualName(f.root, minor), f.scale.Name
	}
	g := KeyGuess{Sure: Clear}
	g.Tonic, g.Scale = key(best)
	slices.Sort(best.out)
	for _, semi := range best.out[:min(4, len(best.out))] {
		g.Add = append(g.Add, addedNames[semi])
	}
	// A key on the same root only colours it otherwise: what could be mistaken is another root.
	next := slices.IndexFunc(all, func(f fit) bool { return f.root != best.root })
	ahead := best.score - all[next].score
	if ahead < guessClear || sounding < 5 {
		tonic, scale := key(all[next])
		g.Sure, g.Other = Likely, tonic.Pretty()+" "+scale
	}
	if ahead < guessLikely {
		g.Sure = Open
	}
	return g, true
}

// addedNames are the degrees that are added to a scale, by their half steps over the root.
var addedNames = [12]string{"1", "b9", "9", "b3", "3", "4", "b5", "5", "b6", "6", "b7", "7"}
