package lesson

import (
	"bytes"
	"cmp"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"strings"

	"ornamen/core/practice"
	"ornamen/core/text"
	"ornamen/internal/practising"
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
	Rounds    []practice.Entry
	licks     []string // the key of each round's lick; empty for none
}

// reportJSON is a report as its file has it.
type reportJSON struct {
	Format  string          `json:"format"`
	Version int             `json:"version"`
	Player  personJSON      `json:"player"`
	Set     string          `json:"set,omitempty"`
	Rounds  json.RawMessage `json:"rounds"`
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
	case !keyed(v.Player.Key):
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
	r := Report{Key: v.Player.Key, Name: text.Clip(strings.Join(strings.Fields(v.Player.Name), " "), 60), Rounds: log}
	for _, k := range keys {
		r.licks = append(r.licks, k.Key)
	}
	return r, nil
}

// TakeReport adds a report to the log of the player whom it is of: the one of that name where who is empty, or who is
// named. From then on that log takes reports of this student alone, and they go into no other. It says into whose log
// how many rounds went that were not there yet.
func TakeReport(ctx context.Context, s *store.Store, r Report, who string) (p store.Player, added int, err error) {
	if p, err = playerFor(ctx, s, r, who); err != nil {
		return p, 0, err
	}
	keys, err := s.LickKeys(ctx)
	if err != nil {
		return p, 0, err
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
	if p.Key != r.Key && p.Source == "" {
		if err := s.BindPlayer(ctx, p.ID, r.Key); err != nil {
			return p, 0, err
		}
	}
	added, err = practising.Take(ctx, s, p.ID, log)
	return p, added, err
}

// playerFor is into whose log a report goes.
func playerFor(ctx context.Context, s *store.Store, r Report, who string) (store.Player, error) {
	list, err := s.Players(ctx)
	if err != nil {
		return store.Player{}, err
	}
	var bound *store.Player
	var names []string
	for i, p := range list {
		if p.Key == r.Key || p.Source == r.Key {
			bound = &list[i]
		}
		names = append(names, p.Name)
	}
	named := cmp.Or(who, r.Name)
	if bound != nil && (who == "" || strings.EqualFold(bound.Name, strings.TrimSpace(who))) {
		return *bound, nil
	}
	if bound != nil {
		return *bound, fmt.Errorf("%s’s practice stands under %s, and goes into no other log", nameOr(r.Name),
			bound.Name)
	}
	for i, p := range list {
		// The name alone does not lead into the log of the notebook's own player.
		if !strings.EqualFold(p.Name, strings.TrimSpace(named)) || who == "" && i == 0 {
			continue
		}
		if p.Source != "" {
			return p, fmt.Errorf("the log of %s holds another student’s practice; add a player for %s", p.Name,
				nameOr(r.Name))
		}
		return p, nil
	}
	if who != "" {
		_, err := s.PlayerNamed(ctx, who)
		return store.Player{}, err
	}
	return store.Player{}, &UnknownError{r.Name, names}
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
