package play

import (
	"context"

	"ornamen/core/lick"
	"ornamen/core/pick"
)

// What the engine answers when nobody stops it.

func check(e *Engine, l lick.Lick) *Report {
	r, err := e.Check(context.Background(), l)
	if err != nil {
		panic(err)
	}
	return r
}

func mend(e *Engine, l lick.Lick, r *Report) {
	if err := e.Mend(context.Background(), l, r); err != nil {
		panic(err)
	}
}

func propose(e *Engine, l lick.Lick, a Ask) []Proposal {
	out, err := Hands(context.Background(), e, l, a)
	if err != nil {
		panic(err)
	}
	return out
}

func waysOf(e *Engine, l lick.Lick) []WayToPlay {
	out, err := Ways(context.Background(), e, l)
	if err != nil {
		panic(err)
	}
	return out
}

func restring(e *Engine, l lick.Lick, w pick.Way) (Restrung, error) {
	return Restring(context.Background(), e, l, w)
}

func asked(e *Engine) question { return question{e.Ask(context.Background())} }
