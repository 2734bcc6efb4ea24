package propose

import (
	"ornamen/core/bend"
	"ornamen/core/defaults"
	"ornamen/core/hand"
	"ornamen/core/judge"
	"ornamen/core/load"
	"ornamen/core/neck"
	"ornamen/core/pick"
)

// Defaults lists every value that the model assumes, part by part.
func Defaults() []struct {
	Part string
	Rows []defaults.Row
} {
	return []struct {
		Part string
		Rows []defaults.Row
	}{
		{"The guitar", neck.Defaults()},
		{"The fretting hand", hand.Defaults()},
		{"The picking hand", pick.Defaults()},
		{"Bends", bend.Defaults()},
		{"The verdict", []defaults.Row{
			{Name: "tight over a load of", Value: load.Tight, From: defaults.Model},
			{Name: "breaks over a load of", Value: load.Breaks, From: defaults.Model},
			{Name: "tight over a strain of the frame of", Value: load.Strain, From: defaults.Model},
			{Name: "legato: tones on a string that may take a slide, from", Value: manyTones, From: defaults.Model},
			{Name: "legato: a slide must ease them by a factor of", Value: slideGain, From: defaults.Model},
			{Name: "restring: a note moves along by up to", Value: restringFrets, Unit: "frets", From: defaults.Model},
			{Name: "restring: the largest load may rise by a factor of", Value: restringCost, From: defaults.Model},
			{Name: "a jump is worth a word over a load of", Value: judge.JumpWarning, From: defaults.Model},
		}},
	}
}
