package music

import "slices"

// firstArpeggio begins the part of the table that is arpeggios.
const firstArpeggio = "major triad"

// IsArpeggio says whether a scale of the table is one of the arpeggios.
func IsArpeggio(name string) bool { return indexOf(name) >= indexOf(firstArpeggio) }

// indexOf is the scale's row in the table, or −1.
func indexOf(name string) int {
	return slices.IndexFunc(scaleTable, func(r scaleRow) bool { return r.name == name })
}

// Parents lists the usual scales on the palette's root that hold every tone of
// its scale and the degree too: the reasons why a colour note fits.
func (p Palette) Parents(d Degree) []string {
	var out []string
	for _, r := range scaleTable[:indexOf(firstArpeggio)] {
		s := scaleIndex[foldScale(r.name)]
		misses := func(t Degree) bool { return !s.has(t) }
		if len(s.Degrees) > len(p.Scale.Degrees) && s.has(d) && !slices.ContainsFunc(p.Scale.Degrees, misses) {
			out = append(out, r.name)
		}
	}
	return out
}

// has says whether the scale holds the degree as it sounds.
func (s Scale) has(d Degree) bool {
	return slices.ContainsFunc(s.Degrees, func(t Degree) bool { return t.Semitones() == d.Semitones() })
}
