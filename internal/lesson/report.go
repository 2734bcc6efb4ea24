package lesson

import (
	"bytes"
	"cmp"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"slices"
	"strings"

	"ornamen/core/practice"
	"ornamen/core/text"
	"ornamen/internal/practising"
	"ornamen/internal/refuse"
	"ornamen/internal/store"
)

// The head of a report's file, and the version that is written.
const (
	reportFormat  = "ornamen-report"
	reportVersion = 1
)

// MaxReport is how large a report may be: two hundred thousand rounds and more.
const MaxReport = 96 << 20

// Report is what one player practised, as it goes to another notebook.
type Report struct {
	Key, Name string // of the player
	Notebook  string // of the student; empty in a file of an earlier Ornamen
	Rounds    []practice.Entry
	licks     []string // the key of each round's lick; empty for none
}

// Source names the student: the player of that notebook. One who began from a copy of the teacher's has the teacher's
// key, but another notebook.
func (r Report) Source() string {
	if r.Notebook == "" {
		return r.Key
	}
	return r.Notebook + "/" + r.Key
}

// of says whether what a player is bound to is this report's student. What was bound by an earlier Ornamen names the
// key alone.
func (r Report) of(p store.Player) bool {
	return p.Source != "" && (p.Source == r.Source() || p.Source == r.Key)
}

// reportJSON is a report as its file has it.
type reportJSON struct {
	Format   string          `json:"format"`
	Version  int             `json:"version"`
	Player   personJSON      `json:"player"`
	Notebook string          `json:"notebook,omitempty"`
	Set      string          `json:"set,omitempty"`
	Rounds   json.RawMessage `json:"rounds"`
}

// personJSON names a player beyond a notebook.
type personJSON struct {
	Key  string `json:"key"`
	Name string `json:"name"`
}

// roundJSON is a line of the log with its lick named beyond the notebook.
type roundJSON struct {
	Key string `json:"lick_key,omitempty"`
	practice.Entry
}

// WriteReport writes what a player practised; of a set's licks alone where one is given. Words about the hand go
// along, as a teacher should know that something hurts.
func WriteReport(ctx context.Context, w io.Writer, s *store.Store, who store.Player, of *store.Set) (rounds int,
	err error) {
	log, err := practising.Written(ctx, s, who.ID)
	if err != nil {
		return 0, err
	}
	keys, err := s.LickKeys(ctx)
	if err != nil {
		return 0, err
	}
	wanted := map[uint]bool{}
	v := reportJSON{Format: reportFormat, Version: reportVersion, Player: personJSON{who.Key, who.Name}}
	if v.Notebook, err = s.Notebook(ctx); err != nil {
		return 0, err
	}
	if of != nil {
		v.Set = of.Key
		for _, it := range of.Items {
			wanted[it.Lick] = true
		}
	}
	list := []roundJSON{}
	for _, e := range log {
		if of != nil && e.Lick != 0 && !wanted[e.Lick] {
			continue
		}
		key := keys[e.Lick]
		e.Lick, e.Revision = 0, 0 // numbers of this notebook say nothing elsewhere
		list = append(list, roundJSON{key, e})
	}
	if v.Rounds, err = json.Marshal(list); err != nil {
		return 0, err
	}
	data, err := json.Marshal(v)
	if err != nil {
		return 0, err
	}
	_, err = w.Write(append(data, '\n'))
	return len(list), err
}

// IsReport says whether a file begins as a report does; a log that is none is a list.
func IsReport(data []byte) bool {
	return bytes.HasPrefix(bytes.TrimLeft(bytes.TrimPrefix(data, []byte("\xef\xbb\xbf")), " \t\r\n"), []byte("{"))
}

// ReadReport reads a report strictly. The error is a sentence that names the round.
func ReadReport(data []byte) (Report, error) {
	none := errors.New("that is no report of what was practised")
	if len(data) > MaxReport {
		return Report{}, fmt.Errorf("a report is no larger than %d MB", MaxReport>>20)
	}
	var v reportJSON
	if err := json.Unmarshal(bytes.TrimPrefix(data, []byte("\xef\xbb\xbf")), &v); err != nil ||
		v.Format != reportFormat {
		return Report{}, none
	}
	switch {
	case v.Version > reportVersion:
		return Report{}, errors.New("it was written by a later Ornamen")
	case !keyed(v.Player.Key) || v.Notebook != "" && !keyed(v.Notebook):
		return Report{}, errors.New("it does not say whose practice it is")
	}
	log, err := practice.ReadJSON(bytes.NewReader(v.Rounds))
	if err != nil {
		return Report{}, err
	}
	var keys []struct {
		Key string `json:"lick_key"`
	}
	if err := json.Unmarshal(v.Rounds, &keys); err != nil || len(keys) != len(log) {
		return Report{}, none
	}
	r := Report{
		Key:      v.Player.Key,
		Notebook: v.Notebook,
		Name:     text.Clip(strings.Join(strings.Fields(v.Player.Name), " "), 60),
		Rounds:   log,
	}
	for _, k := range keys {
		r.licks = append(r.licks, k.Key)
	}
	return r, nil
}

// entries are the report's rounds with their licks named by the numbers that they have here.
func (r Report) entries(ctx context.Context, s *store.Store) ([]practice.Entry, error) {
	keys, err := s.LickKeys(ctx)
	if err != nil {
		return nil, err
	}
	here := map[string]uint{}
	for id, key := range keys {
		here[key] = id
	}
	log := make([]practice.Entry, len(r.Rounds))
	for i, e := range r.Rounds {
		e.Lick, e.Revision = 0, 0
		if key := r.licks[i]; key != "" {
			e.Lick = here[key]
		}
		log[i] = e
	}
	return log, nil
}

// TakeReport adds a report to the log of the student whom it is of: the one whom it was bound to before or, where who
// names one, that player. From then on that log takes reports of this student alone, and they go into no other, until
// the reading is taken back. The reading says how many rounds were not there yet.
func TakeReport(
	ctx context.Context,
	s *store.Store,
	r Report,
	who string,
) (p store.Player, x store.Reading, err error) {
	log, err := r.entries(ctx, s)
	if err != nil {
		return p, x, err
	}
	if p, err = playerFor(ctx, s, r, who); err != nil {
		var unknown *UnknownError
		if own, is := ownOf(ctx, s, r, log); errors.As(err, &unknown) && is {
			return own, store.Reading{PlayerID: own.ID}, nil // all of it is here: there is nothing to ask
		}
		return p, x, err
	}
	x, err = practising.Take(ctx, s, store.Reading{PlayerID: p.ID, Name: nameOr(r.Name), Source: r.Source()}, log)
	return p, x, err
}

// ownOf is the player of the report's key whose log holds all of its rounds.
func ownOf(ctx context.Context, s *store.Store, r Report, log []practice.Entry) (store.Player, bool) {
	list, err := s.Players(ctx)
	k := slices.IndexFunc(list, func(p store.Player) bool { return p.Key == r.Key })
	if err != nil || k < 0 {
		return store.Player{}, false
	}
	missing, err := practising.Missing(ctx, s, list[k].ID, log)
	return list[k], err == nil && missing == 0
}

// playerFor is into whose log a report goes.
func playerFor(ctx context.Context, s *store.Store, r Report, who string) (store.Player, error) {
	list, err := s.Players(ctx)
	if err != nil {
		return store.Player{}, err
	}
	who = strings.TrimSpace(who)
	var names []string
	for _, p := range list {
		names = append(names, p.Name)
		switch is := strings.EqualFold(p.Name, who); {
		case r.of(p) && (who == "" || is):
			return p, nil
		case r.of(p):
			return p, refuse.With(
				"%s’s practice stands under %s, and goes into no other log; if that is wrong, take it back there first",
				nameOr(r.Name),
				p.Name,
			)
		}
	}
	if who == "" {
		return store.Player{}, refuse.Of(&UnknownError{r.Name, names})
	}
	p, err := s.PlayerNamed(ctx, who)
	if err == nil && p.Source != "" {
		err = refuse.With("the log of %s holds another student’s practice; add a player for %s", p.Name, nameOr(r.Name))
	}
	return p, err
}

// UnknownError is a report of somebody who is not known here yet: it must be said whose log it goes into.
type UnknownError struct {
	Name  string
	Names []string // of the players there are
}

// Error is a sentence that says what to do.
func (e *UnknownError) Error() string {
	return fmt.Sprintf("this is what %s practised; say whose log it goes into: %s", nameOr(e.Name),
		strings.Join(e.Names, ", "))
}

// nameOr is a name, or what stands for none.
func nameOr(name string) string { return cmp.Or(name, "somebody") }
