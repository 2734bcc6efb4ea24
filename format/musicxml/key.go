package musicxml

import (
	"strings"

	"ornamen/core/lick"
	"ornamen/core/music"
)

// keyField is the name under which a score of ours says its key with all its tones; the signature has no word for a
// pentatonic, nor for what is added.
const keyField = "ornamen-key"

// keyText writes a key: "C# minor pentatonic; added 9 b5; dropped 4", or "none".
func keyText(k lick.Key) string {
	if k.Tonic == "" {
		return "none"
	}
	s := k.Tonic + " " + k.Scale
	if len(k.Add) > 0 {
		s += "; added " + strings.Join(k.Add, " ")
	}
	if len(k.Drop) > 0 {
		s += "; dropped " + strings.Join(k.Drop, " ")
	}
	return s
}

// signatureOf is the signature of a key: that of the major scale, the minor scale or the mode that its tones are of.
func signatureOf(k lick.Key) *xKey {
	p, err := music.ParseKey(k.Tonic+" "+k.Scale, nil, nil)
	if err != nil {
		return nil
	}
	minor := p.Minor()
	up := p.Tonic.Class() // half steps of the major key with these tones over C
	mode := "major"
	if minor {
		up, mode = up+3, "minor"
	}
	for name, over := range modes {
		if strings.EqualFold(k.Scale, name) {
			up, mode = p.Tonic.Class()-over+12, name
		}
	}
	fifths := up * 7 % 12
	if fifths > 6 || fifths == 6 && strings.Contains(k.Tonic, "b") {
		fifths -= 12
	}
	return &xKey{fifths, mode}
}

// modes are the standard's other modes, by how many half steps their root lies over that of their major scale.
var modes = map[string]int{"dorian": 2, "phrygian": 4, "lydian": 5, "mixolydian": 7, "locrian": 11}

// keyed gives the lick the key that the score says: our own text, else a signature that names its mode. A signature
// without a mode may be any of several keys, and is left to the notes.
func (r *reader) keyed(score xScore) bool {
	for _, m := range score.Misc {
		if m.Name != keyField {
			continue
		}
		if m.Text == "none" {
			return true
		}
		var k lick.Key
		for i, part := range strings.Split(m.Text, "; ") {
			switch {
			case i == 0:
				k.Tonic, k.Scale, _ = strings.Cut(part, " ")
			case strings.HasPrefix(part, "added "):
				k.Add = strings.Fields(part)[1:]
			case strings.HasPrefix(part, "dropped "):
				k.Drop = strings.Fields(part)[1:]
			}
		}
		if _, err := music.NewPalette(k.Tonic, k.Scale, k.Add, k.Drop); err == nil {
			r.lick.Key = k
			return true
		}
	}
	s := r.signature
	if s == nil || s.Mode == "" || s.Mode == "none" || s.Fifths < -7 || s.Fifths > 7 {
		return false
	}
	over, scale := 0, "major"
	switch mode := strings.ToLower(s.Mode); mode {
	case "minor", "aeolian":
		over, scale = 9, "natural minor"
	case "major", "ionian":
	default:
		if over = modes[mode]; over == 0 {
			return false
		}
		scale = mode
	}
	tonic := music.UsualName(((s.Fifths*7+over)%12+12)%12, over == 9 || over == 2 || over == 4)
	r.lick.Key = lick.Key{Tonic: tonic.String(), Scale: scale}
	return true
}
