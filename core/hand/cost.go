package hand

// cost is what the search adds up along a chain: the largest load, or the sum of
// effort where no load may lie above the limit.
type cost struct {
	sum   bool
	limit float64
	// floor is a load that some move has on every path: of the largest loads below it none
	// has to be told from another.
	floor float64
}

// minimax compares paths by their largest load.
func minimax() cost { return cost{limit: never} }

// leastEffort compares paths by the sum of their effort, among those with no load above
// the limit. The limit has a hair's breadth of room, so that the path which set it still
// fits.
func leastEffort(limit float64) cost { return cost{sum: true, limit: limit*(1+1e-9) + 1e-12} }

// add is the cost of a move, with its load and its effort in ms, and of what comes
// after it.
func (k cost) add(load, ms, rest float64) float64 {
	if k.sum {
		return effort(ms) + rest
	}
	return max(load, rest)
}

// of is row k of a table that may be nil.
func of(extra [][]float64, k int) []float64 {
	if extra == nil {
		return nil
	}
	return extra[k]
}

// ended is what lies after a posture.
type ended struct {
	rest float64
	at   int
}

// nothing is what most lines' postures pay.
var nothing = make([]float64, 512)

// zeros is a row that costs nothing.
func zeros(n int) []float64 {
	if n <= len(nothing) {
		return nothing[:n]
	}
	return make([]float64, n)
}

// filled is a row that nothing reaches yet.
func filled(n int) []float64 {
	s := make([]float64, n)
	for i := range s {
		s[i] = never
	}
	return s
}
