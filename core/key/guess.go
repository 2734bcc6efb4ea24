// Package key guesses the key of a line from its notes and the chords under it, and says how sure that is.
package key

import (
	"cmp"
	"slices"

	"ornamen/core/lick"
	"ornamen/core/music"
)

// Guess is a key that a row of notes may be in: root and scale, the degrees that are added to it, and how sure that is.
type Guess struct {
	Tonic music.Name
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

// heard is what a key is guessed from: how long each pitch class sounds, in any unit, and the classes of the first
// and the last note and of the first chord's root; −1 where there is none.
type heard struct {
	long        [12]float64
	first, last int
	chord       int
}

// best finds the key that fits notes best, with the tones outside of it added where they are few; false if
// fewer than three tones sound, which are those of many keys. With fewer than five no guess is clear.
func best(h heard) (Guess, bool) {
	sum, sounding := 0.0, 0
	for _, w := range h.long {
		sum += w
		if w > 0 {
			sounding++
		}
	}
	if sounding < 3 {
		return Guess{}, false
	}
	type fit struct {
		root  int
		scale music.Scale
		score float64
		out   []int
	}
	var all []fit
	for _, x := range guessed {
		scale := scaleNamed(x.name)
		for root := range 12 {
			f := fit{root: root, scale: scale}
			is := map[int]bool{}
			inside, used := 0.0, 0
			for _, d := range scale.Degrees {
				k := (root + d.Semitones()) % 12
				is[k] = true
				inside += h.long[k]
				if h.long[k] > 0 {
					used++
				}
			}
			for k, w := range h.long {
				if w > 0 && !is[k] {
					f.out = append(f.out, (k-root+12)%12)
				}
			}
			f.score = guessInside*inside/sum + guessUsed*float64(used)/float64(len(scale.Degrees)) +
				guessRoot*h.long[root]/sum + guessFifth*h.long[(root+7)%12]/sum - x.price
			if h.last == root {
				f.score += guessLast
			}
			if h.first == root {
				f.score += guessFirst
			}
			if h.chord == root {
				f.score += guessChord
			}
			all = append(all, f)
		}
	}
	slices.SortStableFunc(all, func(a, b fit) int { return cmp.Compare(b.score, a.score) })
	first := all[0]
	name := func(f fit) (music.Name, string) {
		minor := slices.ContainsFunc(f.scale.Degrees, func(d music.Degree) bool { return d.Semitones() == 3 }) &&
			!slices.ContainsFunc(f.scale.Degrees, func(d music.Degree) bool { return d.Semitones() == 4 })
		return music.UsualName(f.root, minor), f.scale.Name
	}
	g := Guess{Sure: Clear}
	g.Tonic, g.Scale = name(first)
	slices.Sort(first.out)
	for _, semi := range first.out[:min(4, len(first.out))] {
		g.Add = append(g.Add, addedNames[semi])
	}
	// A key on the same root only colours it otherwise: what could be mistaken is another root.
	next := slices.IndexFunc(all, func(f fit) bool { return f.root != first.root })
	ahead := first.score - all[next].score
	if ahead < guessClear || sounding < 5 {
		tonic, scale := name(all[next])
		g.Sure, g.Other = Likely, tonic.Pretty()+" "+scale
	}
	if ahead < guessLikely {
		g.Sure = Open
	}
	return g, true
}

// addedNames are the degrees that are added to a scale, by their half steps over the root.
var addedNames = [12]string{"1", "b9", "9", "b3", "3", "4", "b5", "5", "b6", "6", "b7", "7"}

// Of guesses the key of a line from its notes, at the pitch that a bend holds, and from the chords under it;
// false if they say too little.
func Of(l lick.Lick) (Guess, bool) {
	h := heard{first: -1, last: -1, chord: -1}
	for _, n := range l.Notes {
		if n.Mute || n.Voice == lick.VoiceBass {
			continue
		}
		pitch := l.Tuning[n.String-1] + music.Pitch(n.Fret)
		if b := n.Bend; b != nil && !b.Release() && b.Semitones >= 1 {
			pitch += music.Pitch(b.Semitones)
		}
		class := pitch.Class()
		h.long[class] += min(n.Len.Float(), 1)
		if h.first < 0 {
			h.first = class
		}
		h.last = class
	}
	if l.Loop {
		h.last = h.first // where it comes home
	}
	for i, c := range l.Chords {
		ch, err := music.ParseChord(c.Name)
		if err != nil {
			continue // a chord of a lick is one
		}
		if i == 0 {
			h.chord = ch.Root.Class()
		}
		for _, d := range ch.Degrees {
			h.long[(ch.Root.Class()+d.Semitones())%12] += guessedTone * c.Len.Float()
		}
	}
	return best(h)
}

// scaleNamed is one of the usual scales by its name.
func scaleNamed(name string) music.Scale {
	p, err := music.ParseKey("C "+name, nil, nil)
	if err != nil {
		panic("key: " + err.Error()) // the names are ours
	}
	return p.Scale
}
