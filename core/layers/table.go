package layers

// Table is moves of a few states, written out: loads and efforts by state moved from, then to.
type Table struct {
	Load, Effort [][]float64
}

// Backward implements Moves.
func (t Table) Backward(k Cost, from, to []int, rest, stateCost, out []float64) {
	for _, i := range from {
		for _, j := range to {
			out[i] = min(out[i], k.Join(t.Load[i][j], t.effort(i, j, stateCost), rest[j]))
		}
	}
}

// Forward implements Forwarder.
func (t Table) Forward(k Cost, from, to []int, come, stateCost, out []float64) {
	for _, i := range from {
		for _, j := range to {
			out[j] = min(out[j], k.Join(t.Load[i][j], t.effort(i, j, stateCost), come[i]))
		}
	}
}

// Row implements Moves.
func (t Table) Row(k Cost, i int, to []int, stateCost, out []float64) {
	for n, j := range to {
		out[n] = k.Join(t.Load[i][j], t.effort(i, j, stateCost), 0)
	}
}

// effort is that of a move with what its state asks beside.
func (t Table) effort(i, j int, stateCost []float64) float64 {
	if stateCost == nil {
		return t.Effort[i][j]
	}
	return t.Effort[i][j] + stateCost[j]
}
