package lesson

import (
	"context"
	"strings"

	"ornamen/core/lick"
	"ornamen/core/neck"
	"ornamen/core/run"
	"ornamen/internal/store"
)

// Run grows the run that was saved under a name, in any case, as a lick of that name with its recipe; ok is false where
// none was. A set holds it as such: with hands, a ceiling and a ladder of its own.
func Run(ctx context.Context, s *store.Store, g neck.Guitar, name string) (l lick.Lick, ok bool, err error) {
	list, err := s.Recipes(ctx)
	if err != nil {
		return l, false, err
	}
	for _, x := range list {
		if !strings.EqualFold(x.Name, strings.TrimSpace(name)) {
			continue
		}
		r, err := run.Parse(x.Line)
		if err != nil {
			return l, true, err
		}
		grown, err := run.Grow(r, g)
		if err != nil {
			return l, true, err
		}
		l = grown.Lick
		l.Title = x.Name
		return l, true, nil
	}
	return l, false, nil
}
