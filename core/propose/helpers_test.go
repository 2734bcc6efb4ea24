package propose

import (
	"context"

	"ornamen/core/judge"
	"ornamen/core/lick"
	"ornamen/core/pick"
	"ornamen/core/player"
)

// What the engine answers when nobody stops it.

func check(e *judge.Engine, l lick.Lick) *judge.Report {
	r, err := e.Check(context.Background(), l)
	if err != nil {
		panic(err)
	}
	return r
}

func mend(e *judge.Engine, l lick.Lick, r *judge.Report) {
	if err := e.Mend(context.Background(), l, r); err != nil {
		panic(err)
	}
}

func propose(e *judge.Engine, l lick.Lick, a Request) []Proposal {
	out, err := Hands(context.Background(), e, l, a)
	if err != nil {
		panic(err)
	}
	return out
}

func waysOf(e *judge.Engine, l lick.Lick) []WayToPlay {
	out, err := Ways(context.Background(), e, l)
	if err != nil {
		panic(err)
	}
	return out
}

func restring(e *judge.Engine, l lick.Lick, w pick.Way) (Restrung, error) {
	return Restring(context.Background(), e, l, w)
}

func asked(e *judge.Engine) question { return question{e} }

var usual = judge.NewEngine(player.Default())

// codes lists what a report found, with severities.
func codes(r *judge.Report) []string {
	var out []string
	for _, f := range r.Findings {
		out = append(out, string(f.Code)+" "+f.Severity.String())
	}
	return out
}
