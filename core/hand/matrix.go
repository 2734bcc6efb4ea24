package hand

import (
	"encoding/binary"
	"slices"
	"sync"
	"sync/atomic"

	"ornamen/core/cache"
)

// matrix holds the need of every move between the postures of two events, row by row: need[i*len(to)+j].
type matrix struct {
	from, to    []posture
	need        []float64
	relaxedOnce sync.Once // done when it was first gone over
	leastOnce   sync.Once
	rows        []float64 // see rowLeast

	x, y        []Touch // what moves
	viaOpen     bool
	effortsOnce sync.Once
	efforts     moveEfforts
}

// rowLeast is the smallest need of each row.
func (mx *matrix) rowLeast() []float64 {
	mx.leastOnce.Do(func() {
		width := len(mx.to)
		if width == 0 {
			return
		}
		mx.rows = make([]float64, len(mx.need)/width)
		for i := range mx.rows {
			mx.rows[i] = slices.Min(mx.need[i*width : (i+1)*width])
		}
	})
	return mx.rows
}

// What is kept of all models together, so that a notebook of fifty players takes no more memory than one of one. What
// was not used for longest goes first, and with it what a model left that nobody has any more.
var (
	keptMatrices = cache.New[modelKey](keptMoves, (*matrix).bytes)
	keptPostures = cache.New[modelKey](keptStands, func(ps []posture) int { return len(ps)*postureBytes + keyBytes })
)

// modelKey names what is kept by the model that it is of.
type modelKey struct {
	model uint64
	key   string
}

// models counts those that were made.
var models atomic.Uint64

// Bounds of what is kept, in bytes (about 75 kB a move between two notes).
const (
	keptMoves    = 384 << 20
	keptStands   = 4 << 20
	postureBytes = 24
	keyBytes     = 128
)

// bytes is about how much memory a matrix takes, its rows' least needs included.
func (mx *matrix) bytes() int {
	n := 8*(len(mx.need)+len(mx.need)/max(1, len(mx.to))+len(mx.to)) + keyBytes
	if len(mx.x) > 1 || len(mx.y) > 1 {
		n += len(mx.need)
	}
	return n
}

// stand lists the postures of an event, kept between calls.
func (m *Model) stand(touches []Touch) []posture {
	key := modelKey{m.number, string(appendKey(nil, touches))}
	if ps, ok := keptPostures.Get(key); ok {
		return ps
	}
	ps := m.postures(touches)
	keptPostures.Put(key, ps)
	return ps
}

// moveKey names the moves from one event's touches to the next one's.
func moveKey(x, y []Touch, viaOpen bool) string {
	key := appendKey(nil, x)
	key = append(key, '/')
	key = appendKey(key, y)
	if viaOpen {
		key = append(key, 'o')
	}
	return string(key)
}

// between is the matrix of moves from one event's touches to the next one's.
func (m *Model) between(x, y []Touch, viaOpen bool) *matrix {
	return m.matrix(moveKey(x, y, viaOpen), x, y, viaOpen)
}

// matrix is between where the key is known.
func (m *Model) matrix(key string, x, y []Touch, viaOpen bool) *matrix {
	return m.keep(key, func() *matrix {
		mx := &matrix{from: m.stand(x), to: m.stand(y), x: x, y: y, viaOpen: viaOpen}
		if len(x) == 1 && len(y) == 1 && x[0].fretted() && y[0].fretted() && !y[0].Held {
			mx.need = m.single(x[0], mx.from, y[0], mx.to, viaOpen)
			return mx
		}
		mx.need = make([]float64, 0, len(mx.from)*len(mx.to))
		for _, p := range mx.from {
			for _, q := range mx.to {
				need, _, _ := m.transition(x, p, y, q, viaOpen)
				mx.need = append(mx.need, need)
			}
		}
		return mx
	})
}

// keep makes a matrix unless it is kept already.
func (m *Model) keep(key string, measure func() *matrix) *matrix {
	of := modelKey{m.number, key}
	if mx, ok := keptMatrices.Get(of); ok {
		return mx
	}
	mx := measure()
	keptMatrices.Put(of, mx)
	return mx
}

// appendKey writes what a move depends on; the locks are not part of it, but the thumb is, since it takes no frame.
func appendKey(key []byte, touches []Touch) []byte {
	for _, t := range touches {
		flags := byte(0)
		for k, on := range [...]bool{t.Barre, t.Held, !t.fretted(), t.Bent, t.Light} {
			if on {
				flags |= 1 << k
			}
		}
		key = append(key, byte(t.Place.String), flags)
		key = binary.AppendUvarint(key, uint64(t.Place.Fret))
		key = append(key, t.Slur...)
		key = append(key, ';')
	}
	return key
}
