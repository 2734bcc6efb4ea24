package lick

import "ornamen/core/music"

// StringName names string s (1 is the thinnest) as players do: "B", and where strings
// share a letter "low E", "high E", in between "mid D".
func (l Lick) StringName(s int) string {
	class := l.Tuning[s-1].Class()
	thinner, thicker := 0, 0
	for o, p := range l.Tuning {
		switch {
		case p.Class() != class || o == s-1:
		case o < s-1:
			thinner++
		default:
			thicker++
		}
	}
	name := l.letter(class)
	switch {
	case thinner > 0 && thicker > 0:
		return "mid " + name
	case thinner > 0:
		return "low " + name
	case thicker > 0:
		return "high " + name
	}
	return name
}

// letter names a pitch class with flats where the tuning is one of flats: the low
// string is an E or a B tuned down by a half step (common practice: "tuned to E♭").
func (l Lick) letter(class int) string {
	low := l.Tuning[len(l.Tuning)-1].Class()
	if low == 3 || low == 10 {
		if name, ok := flats[class]; ok {
			return name
		}
	}
	return music.NameOf(class).Pretty()
}

// flats are the tones between the letters by their pitch classes.
var flats = map[int]string{1: "D♭", 3: "E♭", 6: "G♭", 8: "A♭", 10: "B♭"}
