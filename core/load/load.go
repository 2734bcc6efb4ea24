package load

// The verdict of a load (model default): tight over the first, broken over the second.
const (
	Tight  = 0.85
	Breaks = 1.0
)

// Strain is how far between comfortable (0) and its limit (1) a frame may be stretched
// before what is played in it is tight (model default).
const Strain = 1.0 / 3

// Slack is how far above its bound a proposal's largest load may lie, so that the
// whole line and not one move decides the rest (model default).
const Slack = 1.15

// Limit is the largest load that is allowed when bound is the least possible one: slack times it, but never so much
// that a line breaks that need not. A bound above 1 is of a line that breaks as it is, and has its whole slack. As an
// example, with a slack of 1.15 a bound of 0.97 gives 1, one of 0.5 gives 0.575.
func Limit(bound, slack float64) float64 {
	limit := bound * slack
	if bound <= Breaks {
		limit = min(limit, max(bound, Breaks))
	}
	return limit
}

// EffortUnit is the ms at which a move has an effort of one (model default).
const EffortUnit = 100.0

// Effort of a move of so many ms: (ms/100)⁴, so that one hard move weighs more than several easy ones.
func Effort(ms float64) float64 {
	ms *= 1 / EffortUnit
	ms *= ms
	return ms * ms
}
