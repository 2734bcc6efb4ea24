package music

// firstArpeggio begins the part of the table that is arpeggios.
const firstArpeggio = "major triad"

// IsArpeggio says whether a scale of the table is one of the arpeggios.
func IsArpeggio(name string) bool { return indexOf(name) >= indexOf(firstArpeggio) }

// indexOf is the scale's row in the table, or −1.
func indexOf(name string) int {
	for i, r := range scaleTable {
		if r.name == name {
			return i
		}
	}
	return -1
}

// Parents lists the usual scales on the palette's root that hold every tone of
// its scale and the degree too: the reasons why a colour note fits.
func (p Palette) Parents(d Degree) []string {
	var out []string
	for _, r := range scaleTable {
		if r.name == firstArpeggio {
			break
		}
		s := scaleIndex[foldScale(r.name)]
		if len(s.Degrees) <= len(p.Scale.Degrees) || !s.has(d) {
			continue
		}
		whole := true
		for _, t := range p.Scale.Degrees {
			whole = whole && s.has(t)
		}
		if whole {
			out = append(out, r.name)
		}
	}
	return out
}

// has says whether the scale holds the degree as it sounds.
func (s Scale) has(d Degree) bool {
	for _, t := range s.Degrees {
		if t.Semitones() == d.Semitones() {
			return true
		}
	}
	return false
}
