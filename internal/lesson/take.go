package lesson

import (
	"bytes"
	"context"
	"fmt"
	"path/filepath"
	"strings"

	"ornamen/core/practice"
	"ornamen/internal/practising"
	"ornamen/internal/store"
)

// Practised is a file of what was practised: a student's report, or a log. Rounds counts its lines.
type Practised struct {
	Name   string  // of the file
	Report *Report // nil for a log
	Rounds int
	log    []practice.Entry
}

// Days are the first and the last day of what was practised; the zero day for none.
func (p Practised) Days() (first, last practice.Date) {
	log := p.log
	if p.Report != nil {
		log = p.Report.Rounds
	}
	for i, e := range log {
		d := practice.DateOf(e.Time)
		if i == 0 || d < first {
			first = d
		}
		if i == 0 || d > last {
			last = d
		}
	}
	return first, last
}

// ReadPractised reads a report or a log by its name, JSON or else CSV. The error is one sentence.
func ReadPractised(name string, data []byte) (p Practised, err error) {
	if strings.EqualFold(filepath.Ext(name), ".json") && IsReport(data) {
		report, err := ReadReport(data)
		return Practised{Name: name, Report: &report, Rounds: len(report.Rounds)}, err
	}
	p.Name = name
	p.log, err = practising.Read(name, bytes.NewReader(data))
	p.Rounds = len(p.log)
	return p, err
}

// IsPractised says whether a file is a report or a log with a line in it, by its name and what it holds.
func IsPractised(name string, data []byte) bool {
	switch strings.ToLower(filepath.Ext(name)) {
	case ".json", ".csv":
		p, err := ReadPractised(name, data)
		return err == nil && (p.Rounds > 0 || p.Report != nil)
	}
	return false
}

// Take adds what was practised to the log of the player that is named, all of it or nothing; what is there already is
// not added again. A report goes to the student whom it was bound to where none is named, a log to the one who reads
// it.
func (p Practised) Take(ctx context.Context, s *store.Store, reader store.Player, who string) (to store.Player,
	x store.Reading, err error) {
	if p.Report != nil {
		return TakeReport(ctx, s, *p.Report, who)
	}
	to = reader
	if who != "" {
		if to, err = s.PlayerNamed(ctx, who); err != nil {
			return to, x, err
		}
	}
	if x, err = practising.Take(ctx, s, store.Reading{PlayerID: to.ID, Name: p.Name}, p.log); err != nil {
		return to, x, fmt.Errorf("add the log: %w", err)
	}
	return to, x, nil
}
