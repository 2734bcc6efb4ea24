// Package music holds the tones: pitches, spelled names, degrees, scales and
// the palette a player chooses from them. It knows nothing of a guitar.
package music
