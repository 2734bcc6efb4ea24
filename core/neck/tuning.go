package neck

import (
	"fmt"
	"strings"

	"ornamen/core/music"
	"ornamen/core/text"
)

// ParseTuning reads a tuning as players write it here: "E4 B3 G3 D3 A2 E2", the
// thinnest string first, with the octave of each (A4 is 440 Hz).
func ParseTuning(text string) ([]music.Pitch, error) {
	var out []music.Pitch
	for _, w := range strings.Fields(text) {
		pitch, err := music.ParsePitch(w)
		if err != nil {
			return nil, fmt.Errorf("tuning: %w", err)
		}
		out = append(out, pitch)
	}
	if n := len(out); n < MinStrings || n > MaxStrings {
		return nil, fmt.Errorf("a guitar here has %d to %d strings, the tuning names %d", MinStrings, MaxStrings, n)
	}
	return out, nil
}

// TuningText writes a tuning as ParseTuning reads it.
func TuningText(tuning []music.Pitch) string {
	return text.Join(tuning, " ", music.Pitch.String)
}
