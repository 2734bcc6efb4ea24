// Package practising stands between the practice of the core, which knows a log and a time, and the notebook, which
// keeps both: it reads the log, finds what there is to practise, and writes what was played.
package practising

import (
	"context"
	"fmt"
	"io"
	"path/filepath"
	"slices"
	"strings"
	"time"

	"ornamen/core/bend"
	"ornamen/core/hand"
	"ornamen/core/judge"
	"ornamen/core/player"
	"ornamen/core/practice"
	"ornamen/format/read"
	"ornamen/internal/store"
)

// Log is a player's log as it is to be read now (practice.Settled), the oldest entry first.
func Log(ctx context.Context, s *store.Store, who uint) ([]practice.Entry, error) {
	log, err := Written(ctx, s, who)
	return practice.Settled(log, s.Now()), err
}

// Written is a player's log as it was written, with the times that were written.
func Written(ctx context.Context, s *store.Store, who uint) ([]practice.Entry, error) {
	rows, err := s.Log(ctx, who)
	if err != nil {
		return nil, err
	}
	out := make([]practice.Entry, len(rows))
	for i, r := range rows {
		out[i] = entryOf(r)
	}
	return out, nil
}

// entryOf is a row of the notebook as the core knows it.
func entryOf(r store.Played) practice.Entry {
	return practice.Entry{Lick: r.LickID, Title: r.Title, Revision: r.RevisionID, Part: r.Part,
		From: r.First, To: r.Last,
		Tempo: r.Tempo, Clean: r.Clean, Missed: r.Missed, Note: r.Note, Minutes: r.Minutes,
		Comfort: practice.Comfort(r.Comfort), Kind: practice.Kind(r.Kind), Picking: r.Picking, Fretting: r.Fretting,
		Reach: r.Reach, Bends: r.Bends, Move: r.Move, Time: r.At}
}

// Read reads a log from a file: JSON by its name, else CSV, in whatever encoding it is written.
// The error is one sentence.
func Read(name string, r io.Reader) ([]practice.Entry, error) {
	if strings.EqualFold(filepath.Ext(name), ".json") {
		return practice.ReadJSON(read.Text(r))
	}
	return practice.ReadCSV(read.Text(r))
}

// Check says in one sentence what is wrong with rows that come from a file.
func Check(rows []store.Played) error {
	for i, r := range rows {
		if err := entryOf(r).Check(); err != nil {
			return fmt.Errorf("entry %d of the practice log: %w", i+1, err)
		}
	}
	return nil
}

// Add writes entries to a player's log, and gives the number of the last one.
func Add(ctx context.Context, s *store.Store, who uint, entries ...practice.Entry) (last uint, err error) {
	ids, err := s.Play(ctx, who, rowsOf(entries)...)
	if err != nil || len(ids) == 0 {
		return 0, err
	}
	return ids[len(ids)-1], nil
}

// rowsOf are entries as the notebook knows them.
func rowsOf(entries []practice.Entry) []store.Played {
	rows := make([]store.Played, len(entries))
	for i, e := range entries {
		rows[i] = store.Played{LickID: e.Lick, Title: e.Title, RevisionID: e.Revision, Part: e.Part,
			First: e.From, Last: e.To,
			Tempo: e.Tempo, Clean: e.Clean, Missed: e.Missed, Note: e.Note, Minutes: e.Minutes,
			Comfort: string(e.Comfort), Kind: string(e.Kind),
			Picking: e.Picking, Fretting: e.Fretting, Reach: e.Reach, Bends: e.Bends, Move: e.Move, At: e.Time}
	}
	return rows
}

// Take adds a log from elsewhere to a player's, as a reading that can be taken back: the lines that are not there yet.
// The reading says whose log it goes into, whence it comes and, of a report, which student it binds the log to. What
// names a lick of the notebook only by its number gets its title, so that it can be read when the lick is gone.
func Take(ctx context.Context, s *store.Store, r store.Reading, log []practice.Entry) (store.Reading, error) {
	titles := map[uint]string{}
	for i := range log {
		e := &log[i]
		if e.Title != "" || e.Lick == 0 {
			continue
		}
		title, known := titles[e.Lick]
		if !known {
			title = fmt.Sprintf("Lick %d", e.Lick)
			if x, err := s.Get(ctx, e.Lick); err == nil {
				title = titled(x)
			}
			titles[e.Lick] = title
		}
		e.Title = title
	}
	return s.ReadIn(ctx, r, rowsOf(log))
}

// LastLine is what was written last into a player's log and holds, with the number of its line; 0 for an empty log.
func LastLine(ctx context.Context, s *store.Store, who uint) (practice.Entry, uint, error) {
	p, _, err := s.LastLine(ctx, who)
	return entryOf(p), p.ID, err
}

// Missing counts the lines of a log that are not in a player's.
func Missing(ctx context.Context, s *store.Store, who uint, log []practice.Entry) (int, error) {
	return s.Missing(ctx, who, rowsOf(log))
}

// Day is a player's plan of the day on which now falls, from what the log says up to its end; of a set alone where one
// is given.
func Day(ctx context.Context, e *judge.Engine, s *store.Store, who store.Player, of *store.Set, minutes int,
	now time.Time) ([]practice.Item, error) {
	log, err := Log(ctx, s, who.ID)
	if err != nil {
		return nil, err
	}
	day := practice.DateOf(now)
	log = slices.DeleteFunc(log, func(e practice.Entry) bool { return practice.DateOf(e.Time) > day })
	book := practice.NewBook(log)
	var pieces []practice.Piece
	if of == nil {
		pieces, err = NewPieces().All(ctx, e, Who{"", who.Own()}, s, book.Licks())
	} else {
		pieces, err = NewPieces().In(ctx, e, Who{"", who.Own()}, s, of.Due(now.Weekday()))
	}
	if err != nil {
		return nil, err
	}
	return practice.Plan(minutes, pieces, book, now), nil
}

// Round is a round that was played of a part: its entry, with the part's ceilings and margins
// at the model's abilities for the calibration.
//
// The part's numbers are this player's; divided by the player's own abilities they are the model's, so that a log says
// the same whatever was taken from it before. As an example, a part with a ceiling of 120 for a player who frets at 1.2
// times the model's speed has 100 in its entry.
func Round(e *judge.Engine, x store.Entry, p practice.Part, tempo float64, clean bool, note int, minutes float64,
	now time.Time) practice.Entry {
	out := practice.Entry{Lick: x.ID, Title: titled(x), Revision: x.Revision, Part: p.Name, From: p.From,
		To: p.To, Tempo: tempo,
		Minutes: minutes, Time: now, Picking: p.Picking / speed(e.Player.Pick.Speed),
		Fretting: p.Fretting / speed(e.Player.Hand.Speed),
		Reach:    p.Reach * float64(hand.Medium().Limit[hand.P14]/e.Player.Hand.Limit[hand.P14]),
		Bends:    p.Bends * float64(bend.DefaultStrength().Three/e.Player.Bends.Three), Move: p.Move}
	if clean {
		out.Clean = 1
	} else {
		out.Missed, out.Note = 1, note
	}
	return out
}

// speed is a hand's speed against the model's.
func speed(x float64) float64 {
	if x <= 0 {
		return 1
	}
	return x
}

// Shown are the player's own numbers that a log shows: of the abilities it tells of.
func Shown(log []practice.Entry) player.Shown { return ShownOf(practice.Calibrate(log)) }

// ShownOf are the numbers that are sure enough to be taken.
func ShownOf(list []practice.Ability) player.Shown {
	var value [4]float64
	for k, a := range list {
		if a.Shown() {
			value[k] = a.Value
		}
	}
	return player.Shown{Picking: value[0], Fretting: value[1], Reach: value[2], Bends: value[3]}
}
