package view

import "ornamen/core/music"

// RailTone is one half step of the rail. Ask says what a click would do, for a screen reader and as its title.
type RailTone struct {
	Degree, Name, Role, Ask string
	Value                   string // as edits name it
	Link                    string // to the same screen with the tone changed
}

// Tonics are the practical roots, in the order of the keyboard.
var Tonics = []string{"C", "C#", "Db", "D", "D#", "Eb", "E", "F", "F#", "Gb", "G", "G#", "Ab", "A", "A#", "Bb", "B"}

// RailOf names the twelve half steps from the root, and what a click on each would do. The whole step above the root is
// called 9 where a click would add it, as players name it when it is a colour (common practice).
func RailOf(p music.Palette) []RailTone {
	var rail []RailTone
	for semi := range 12 {
		t := p.At(music.Pitch(60 + p.Tonic.Class() + semi))
		rt := RailTone{Degree: t.Degree.Pretty(), Name: t.Name.Pretty(), Role: t.Role.String(),
			Value: t.Degree.String()}
		switch t.Role {
		case music.Root:
			rt.Ask = "the root"
		case music.ScaleTone:
			rt.Ask = "drop " + rt.Degree
		case music.Colour:
			rt.Ask = "take " + rt.Degree + " away"
		default:
			if semi == 2 {
				rt.Degree, rt.Value = "9", "9"
			}
			rt.Ask = "add " + rt.Degree
		}
		rail = append(rail, rt)
	}
	return rail
}
