package tones

import (
	"fmt"
	"strings"

	"ornamen/core/changes"
	"ornamen/core/music"
	"ornamen/core/shape"
	"ornamen/internal/web/view"
)

// rails draws the twelve half steps, and beside them another scale with the tones that make the difference. The two
// rails stand half step under half step, so that a tone of one scale that the other lacks is seen as a gap.
func (v *tonesPage) rails(f tonesForm, p music.Palette) error {
	v.Rail = view.RailOf(p)
	for i := range v.Rail {
		v.Rail[i].Link = f.toggled(p, v.Rail[i].Value)
	}
	chord := ""
	if strings.TrimSpace(f.Chord) != "" {
		var err error
		if chord, err = changes.Sign(f.Chord, shape.KeyOf(p)); err != nil {
			return err
		}
	}
	for _, t := range p.Colours() {
		v.Reasons = append(v.Reasons, reasonOfColour(p, t, chord))
	}
	if f.Beside == "" {
		return nil
	}
	other, err := music.NewPalette(f.Tonic, f.Beside, nil, nil)
	if err != nil {
		return err
	}
	for semi := range 12 {
		pitch := music.Pitch(60 + p.Tonic.Class() + semi)
		t, mine := other.At(pitch), p.At(pitch)
		rt := view.RailTone{Role: "outside"}
		if t.Role != music.Outside {
			rt.Role, rt.Degree, rt.Name = "scale", t.Degree.Pretty(), t.Name.Pretty()
			if mine.Role == music.Outside {
				rt.Role, rt.Ask = "differs", "only there"
			}
		} else if mine.Role != music.Outside {
			rt.Role, rt.Degree, rt.Ask = "missing", "–", "only here"
		}
		v.Beside = append(v.Beside, rt)
	}
	return nil
}

// overRail is a second rail: what every tone of the palette is over the chord.
func (v *tonesPage) overRail(f tonesForm, p music.Palette) error {
	if strings.TrimSpace(f.Chord) == "" {
		return nil
	}
	name, err := changes.Sign(f.Chord, shape.KeyOf(p))
	if err != nil {
		return err
	}
	c, err := music.ParseChord(name)
	if err != nil {
		return err
	}
	fit := changes.FitOver(p, c, nil)
	for half := range 12 {
		rt := view.RailTone{Role: "outside"}
		for _, t := range fit.Tones {
			if t.Tone.Degree.Semitones() == half {
				rt = view.RailTone{Role: "over-" + string(t.Role), Degree: t.Degree.Pretty(), Ask: string(t.Role)}
			}
		}
		v.Over = append(v.Over, rt)
	}
	v.OverSay = fmt.Sprintf("%s by itself: %s %s", view.PrettySigns(c.Name), c.Root.Pretty(),
		strings.Join(fit.Scales, ", "))
	return nil
}

// reasonOfColour says why a colour note fits: the parent scales that hold it, when it is played, and what it is over a
// chord. A clash is a half step above a tone of the chord (common practice).
func reasonOfColour(p music.Palette, t music.Tone, chord string) string {
	s := t.Degree.Pretty() + " (" + t.Name.Pretty() + ")"
	if parents := p.Parents(t.Degree); len(parents) > 0 {
		s += " is in " + listWords(parents)
	} else {
		s += " is chromatic here"
	}
	switch t.Hold.String() {
	case "":
	case "up", "down":
		s += ", only going " + t.Hold.String()
	case "below":
		s += ", only under the lowest root"
	default:
		s += ", only in octave " + t.Hold.String()
	}
	if c, err := music.ParseChord(chord); chord != "" && err == nil {
		d, in := c.Over(t.Name)
		word := "colour"
		if in {
			word = "chord tone"
		}
		if above, clash := c.Clashes(t.Name); clash {
			word = fmt.Sprintf("clash: a half step above the %s, harsh unless you mean it", above.Pretty())
		}
		s += fmt.Sprintf("; over %s it is the %s, a %s", view.PrettySigns(c.Name), d.Pretty(), word)
	}
	return s + "."
}
