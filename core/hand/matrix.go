package hand

import (
	"encoding/binary"
	"slices"
	"sync"
)

// matrix holds the need of every move between the postures of two events, row
// by row: need[i*len(to)+j].
type matrix struct {
	from, to []posture
	need     []float64
	once     sync.Once
	rows     []float64 // see rowLeast
}

// rowLeast is the smallest need of each row.
func (mx *matrix) rowLeast() []float64 {
	mx.once.Do(func() {
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

// maxMatrices bounds the memory that kept moves take (about 130 kB each).
const maxMatrices = 1000

// matrices keeps the moves that were computed, by what they depend on.
type matrices struct {
	mu     sync.Mutex
	kept   map[string]*matrix
	states map[string][]posture
}

// stand lists the postures of an event, kept between calls.
func (m *Model) stand(touches []Touch) []posture {
	key := string(appendKey(nil, touches))
	m.moves.mu.Lock()
	ps, ok := m.moves.states[key]
	m.moves.mu.Unlock()
	if ok {
		return ps
	}
	ps = m.postures(touches)
	m.moves.mu.Lock()
	defer m.moves.mu.Unlock()
	if m.moves.states == nil || len(m.moves.states) > 4*maxMatrices {
		m.moves.states = map[string][]posture{}
	}
	m.moves.states[key] = ps
	return ps
}

// between is the matrix of moves from one event's touches to the next one's.
func (m *Model) between(x, y []Touch, viaOpen bool) *matrix {
	key := appendKey(nil, x)
	key = append(key, '/')
	key = appendKey(key, y)
	if viaOpen {
		key = append(key, 'o')
	}
	return m.keep(key, func() *matrix {
		mx := &matrix{from: m.stand(x), to: m.stand(y)}
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
func (m *Model) keep(key []byte, make func() *matrix) *matrix {
	m.moves.mu.Lock()
	mx, ok := m.moves.kept[string(key)]
	m.moves.mu.Unlock()
	if ok {
		return mx
	}
	mx = make()
	m.moves.mu.Lock()
	defer m.moves.mu.Unlock()
	if m.moves.kept == nil || len(m.moves.kept) >= maxMatrices {
		m.moves.kept = map[string]*matrix{}
	}
	m.moves.kept[string(key)] = mx
	return mx
}

// appendKey writes what a move depends on; the locks are not part of it, but
// the thumb is, since it takes no frame.
func appendKey(key []byte, touches []Touch) []byte {
	for _, t := range touches {
		flags := byte(0)
		if t.Bar {
			flags |= 1
		}
		if t.Held {
			flags |= 2
		}
		if !t.fretted() {
			flags |= 4
		}
		key = append(key, byte(t.Place.String), flags)
		key = binary.AppendUvarint(key, uint64(t.Place.Fret))
		key = append(key, t.Slur...)
		key = append(key, ';')
	}
	return key
}
