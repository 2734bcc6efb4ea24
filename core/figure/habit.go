package figure

import (
	"fmt"
	"slices"
	"strconv"
	"strings"

	"ornamen/core/text"
)

// Schools differ: 1 2 4 or 1 3 4 on two whole steps, ring or little finger at the third fret. What a
// player does in a situation time and again is a habit, and takes the place of the usual fingers.

// Habit is what a player does in one situation, in the words of its text form: "tones 2 4: 1 3 4", three tones of a
// string two and four frets above the lowest one; "fret 3: 3", the finger three frets above the index in a position;
// "octave 2: 1 4", the fingers of an octave over two frets, the thick string's first.
type Habit struct {
	Situation string // "tones 2 4", "fret 3", "octave 2"
	Fingers   string // "1 3 4"
}

// String is the habit as ParseHabits reads it.
func (h Habit) String() string { return h.Situation + ": " + h.Fingers }

// Habits are a player's, each for a situation of its own.
type Habits []Habit

// String writes habits in one line, in an order of their own, so that equal ones are equal texts.
func (hs Habits) String() string {
	words := text.Map(hs, Habit.String)
	slices.Sort(words)
	return strings.Join(words, "; ")
}

// ParseHabits reads habits as String writes them, or says in one sentence which is none. An empty text is no habit.
func ParseHabits(text string) (Habits, error) {
	var out Habits
	for _, word := range strings.Split(text, ";") {
		if word = strings.TrimSpace(word); word == "" {
			continue
		}
		situation, fingers, _ := strings.Cut(word, ":")
		h := Habit{strings.Join(strings.Fields(situation), " "), strings.Join(strings.Fields(fingers), " ")}
		if _, ok := h.read(); !ok {
			return nil, fmt.Errorf(`the habit %q is none: write "tones 2 4: 1 3 4", "fret 3: 3" or "octave 2: 1 4"`,
				word)
		}
		out = out.With(h)
	}
	return out, nil
}

// With is habits with one more, in place of the one for its situation.
func (hs Habits) With(h Habit) Habits { return append(hs.Without(h.Situation), h) }

// Without is habits without the one for a situation.
func (hs Habits) Without(situation string) Habits {
	return slices.DeleteFunc(slices.Clone(hs), func(h Habit) bool { return h.Situation == situation })
}

// situation is a habit as it is looked up.
type situation struct {
	kind string
	a, b int // frets
}

// read is the habit's situation and fingers; ok is false where it is none that a hand can have.
func (h Habit) read() (s situation, ok bool) {
	words := strings.Fields(h.Situation)
	fingers := h.fingers()
	if len(words) < 2 || len(fingers) == 0 || !slices.IsSorted(fingers) {
		return s, false
	}
	s.kind = words[0]
	frets := make([]int, len(words)-1)
	for i, w := range words[1:] {
		n, err := strconv.Atoi(w)
		if err != nil || n < 1 || n > PositionSpan+1 {
			return s, false
		}
		frets[i] = n
	}
	s.a = frets[0]
	rises := len(slices.Compact(slices.Clone(fingers))) == len(fingers)
	switch {
	case s.kind == "tones" && len(frets) == 2 && len(fingers) == 3:
		s.b = frets[1]
		return s, frets[0] < frets[1] && rises
	case s.kind == "fret" && len(frets) == 1 && len(fingers) == 1:
		return s, s.a < PositionFrets && fingers[0] > 1
	case s.kind == "octave" && len(frets) == 1 && len(fingers) == 2:
		return s, (s.a == 2 || s.a == 3) && rises
	}
	return s, false
}

// fingers are the habit's, 1 to 4; none where one is no finger.
func (h Habit) fingers() (out []int) {
	for _, w := range strings.Fields(h.Fingers) {
		n, err := strconv.Atoi(w)
		if err != nil || n < 1 || n > 4 {
			return nil
		}
		out = append(out, n)
	}
	return out
}

// table is the habits by what they are for.
func (hs Habits) table() map[situation][]int {
	out := make(map[situation][]int, len(hs))
	for _, h := range hs {
		if s, ok := h.read(); ok {
			out[s] = h.fingers()
		}
	}
	return out
}

// take gives a note the fingers of the habit for its situation.
func (u *Usual) take(own map[situation][]int) {
	f, has := own[u.at]
	if !has {
		return
	}
	u.Own = true
	switch u.at.kind {
	case "tones":
		u.OnString, u.InPosition = f[u.tone], 0
	case "fret":
		u.InPosition = f[0]
	case "octave":
		u.ByShape, u.OnString, u.InPosition = f[u.tone], 0, 0
	}
}

// Corrected are the situations in which a line's fingers, 1 to 4 by column and note, are other than the usual ones
// where the player has set them, with what they are instead: one for each figure, for each place of a position.
func Corrected(columns [][]Note, whose Of, fingers [][]int, set func(column, note int) bool) (out []Habit) {
	usual := Fingers(columns, whose)
	places := map[Note]bool{}
	for from := 0; from < len(usual); {
		to := from + 1
		at := situation{}
		if len(usual[from]) == 1 {
			at = usual[from][0].at
		}
		for to < len(usual) && at != (situation{}) && len(usual[to]) == 1 && usual[to][0].at == at &&
			(at.kind == "octave" || columns[to][0].Place.String == columns[from][0].Place.String) {
			to++
		}
		if at.kind == "fret" {
			to = from + 1
		}
		h, changed := heldSo(usual[from:to], fingers[from:to], at, func(k int) bool { return set(from+k, 0) })
		n := columns[from]
		switch {
		case !changed:
		case at.kind == "fret" && places[n[0]]:
		default:
			out = append(out, h)
			places[n[0]] = true
		}
		from = to
	}
	return out
}

// heldSo is what the columns of one figure are played with; changed is false where no finger that is
// set differs from the usual one, or where it makes no habit.
func heldSo(usual [][]Usual, fingers [][]int, at situation, set func(int) bool) (h Habit, changed bool) {
	tones := map[string]int{"tones": 3, "fret": 1, "octave": 2}[at.kind]
	if tones == 0 {
		return h, false
	}
	got := make([]int, tones)
	for k := range usual {
		u, f := usual[k][0], fingers[k][0]
		want := u.InPosition
		switch at.kind {
		case "tones":
			want = u.OnString
		case "octave":
			want = u.ByShape
		}
		if got[u.tone] != 0 && got[u.tone] != f {
			return h, false // now so, now so
		}
		got[u.tone] = f
		changed = changed || set(k) && f != want
	}
	h.Situation = at.kind + " " + strconv.Itoa(at.a)
	if at.kind == "tones" {
		h.Situation += " " + strconv.Itoa(at.b)
	}
	h.Fingers = strings.Trim(fmt.Sprint(got), "[]")
	_, ok := h.read()
	return h, changed && ok
}
