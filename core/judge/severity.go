package judge

import "ornamen/core/load"

// Severity is how bad a finding is, and the verdict of a note or a lick.
type Severity int

// The three words.
const (
	Flows Severity = iota
	Tight
	Breaks
)

// String is the word.
func (s Severity) String() string { return [...]string{"flows", "tight", "breaks"}[s] }

// MarshalText writes the word.
func (s Severity) MarshalText() ([]byte, error) { return []byte(s.String()), nil }

// loadSeverity judges a load. A hair over the line is still on it, so that a lick at its own ceiling does not break.
func loadSeverity(x float64) Severity {
	switch {
	case x > load.Breaks+1e-9:
		return Breaks
	case x > load.Tight+1e-9:
		return Tight
	}
	return Flows
}
