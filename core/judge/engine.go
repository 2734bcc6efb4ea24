package judge

import (
	"context"
	"fmt"
	"slices"
	"sync"

	"ornamen/core/hand"
	"ornamen/core/lick"
	"ornamen/core/neck"
	"ornamen/core/player"
)

// Engine judges licks for one player. It keeps the moves it has computed, and is safe for concurrent use.
type Engine struct {
	Player player.Player
	models *models
}

// models keeps the hand on the instruments that were judged last.
type models struct {
	mu   sync.Mutex
	list []*hand.Model // the last used first
}

// maxModels is on how many instruments (numbers of strings) an engine keeps its
// hand. What the hands of all engines remember of moves is bounded together, see package hand.
const maxModels = 2

// NewEngine prepares an engine; its tables fill as licks are judged.
func NewEngine(p player.Player) *Engine { return &Engine{p, &models{}} }

// As is the engine for the same hand with other habits; what was measured is shared.
func (e *Engine) As(p player.Player) *Engine { return &Engine{p, e.models} }

// Done is why what was asked until the context ends must not be answered, or nil. A search stops at once when its
// context ends and its answer means nothing then, so whoever asked looks here before the answer.
func Done(ctx context.Context) error {
	if err := context.Cause(ctx); err != nil {
		return fmt.Errorf("stopped: %w", err)
	}
	return nil
}

// Guitar is the player's guitar, tuned and strung as the lick asks.
func (e *Engine) Guitar(l lick.Lick) neck.Guitar { return e.Player.Guitar.WithTuning(l.Tuning) }

// Hand is the player's hand on a guitar, its moves kept. Tuning does not matter to it, the number of strings does.
func (e *Engine) Hand(g neck.Guitar) *hand.Model {
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
