// Package play judges a line with both hands together: what every move needs
// and has, the tempo up to which it is clean, what breaks and why.
package play

import (
	"context"
	"fmt"
	"slices"
	"sync"

	"ornamen/core/bend"
	"ornamen/core/hand"
	"ornamen/core/lick"
	"ornamen/core/load"
	"ornamen/core/neck"
	"ornamen/core/pick"
)

// Player is who plays: hand, habits and guitar.
type Player struct {
	Guitar neck.Guitar
	Hand   hand.Hand
	Pick   pick.Player
	Way    pick.Way // the habit for strokes that are not decided
	Bends  bend.Strength
	Strict Strictness
}

// Strictness is how much the player cares about bends without a target.
type Strictness string

// The strictnesses: nothing is said, curls may go anywhere, or even a curl must
// lead toward a chosen tone.
const (
	Easy  Strictness = "easy"
	Usual Strictness = "usual"
	Every Strictness = "strict"
)

// ParseStrictness reads one by name.
func ParseStrictness(s string) (Strictness, error) {
	switch x := Strictness(s); x {
	case Easy, Usual, Every:
		return x, nil
	}
	return "", fmt.Errorf("strictness %q is none: use easy, usual, strict", s)
}

// DefaultPlayer is a medium hand that picks in alternation on the standard
// guitar (model default).
func DefaultPlayer() Player {
	return Player{
		Guitar: neck.Standard(), Hand: hand.Medium(),
		Pick: pick.Player{Angle: pick.Either, Speed: 1}, Way: pick.Alternate, Bends: bend.DefaultStrength(), Strict: Usual,
	}
}

// Engine judges licks for one player. It keeps the moves it has computed, and
// is safe for concurrent use.
type Engine struct {
	Player Player
	models *models
}

// models keeps the hand on the instruments that were judged last.
type models struct {
	mu   sync.Mutex
	list []*hand.Model // the last used first
}

// maxModels is on how many instruments (numbers of strings) an engine keeps its
// hand: each may keep some 100 MB of moves.
const maxModels = 2

// NewEngine prepares an engine; its tables fill as licks are judged.
func NewEngine(p Player) *Engine { return &Engine{p, &models{}} }

// task is one question asked of an engine. When its context ends its searches stop
// at once with answers that mean nothing, so whoever asked looks at the context
// before the answer: see done.
type task struct {
	*Engine
	ctx context.Context
}

// Ask asks the engine a question until the context ends.
func (e *Engine) Ask(ctx context.Context) task { return task{e, ctx} }

// As is the engine for the same hand with other habits; what was measured is shared.
func (e *Engine) As(p Player) *Engine { return &Engine{p, e.models} }

// done is why the task must not be answered, or nil.
func (t task) done() error {
	if err := context.Cause(t.ctx); err != nil {
		return fmt.Errorf("stopped: %w", err)
	}
	return nil
}

// guitar is the player's guitar, tuned and strung as the lick asks.
func (e *Engine) guitar(l lick.Lick) neck.Guitar { return e.Player.Guitar.WithTuning(l.Tuning) }

// model is the hand on that guitar; tuning does not matter to it, the number of
// strings does.
func (e *Engine) model(g neck.Guitar) *hand.Model {
	e.models.mu.Lock()
	defer e.models.mu.Unlock()
	list := e.models.list
	i := slices.IndexFunc(list, func(m *hand.Model) bool { return len(m.Guitar.Tuning) == len(g.Tuning) })
	var m *hand.Model
	if i >= 0 {
		m = list[i]
		list = slices.Delete(list, i, i+1)
	} else {
		m = hand.NewModel(e.Player.Hand, g)
	}
	list = slices.Insert(list, 0, m)
	e.models.list = slices.Clip(list[:min(len(list), maxModels)])
	return m
}

// Hand is the player's hand on a guitar, its moves kept.
func (e *Engine) Hand(g neck.Guitar) *hand.Model { return e.model(g) }

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

// loadSeverity judges a load. A hair over the line is still on it, so that a
// lick at its own ceiling does not break.
func loadSeverity(x float64) Severity {
	switch {
	case x > load.Breaks+1e-9:
		return Breaks
	case x > load.Tight+1e-9:
		return Tight
	}
	return Flows
}

// line is a lick laid out for the two hands.
type line struct {
	lick     lick.Lick
	guitar   neck.Guitar
	bends    bend.Strength
	columns  [][2]int     // notes that start together
	columnOf []int        // one a note
	hand     []hand.Event // one a column
	touches  [][]int      // the note of each touch
	pick     []pick.Event // one a picked column
	picked   []int        // the column of each
	strokes  [][]int      // the note of each picked string
	slurs    []slurState  // one a note
}
