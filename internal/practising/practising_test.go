package practising

import (
	"bytes"
	"encoding/csv"
	"encoding/json"
	"errors"
	"path/filepath"
	"slices"
	"strconv"
	"strings"
	"testing"
	"time"

	"ornamen/core/judge"
	"ornamen/core/lick"
	"ornamen/core/player"
	"ornamen/core/practice"
	"ornamen/core/testline"
	"ornamen/internal/store"
)

// notebook is one with a lick, at a clock that can be set.
func notebook(t *testing.T, l lick.Lick) (*store.Store, store.Entry, *time.Time) {
	t.Helper()
	now := time.Date(2026, 11, 25, 18, 0, 0, 0, time.UTC)
	s, err := store.Open(filepath.Join(t.TempDir(), "n.db"), func() time.Time { return now })
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(func() { s.Close() })
	e, err := s.Add(t.Context(), l, "made")
	if err != nil {
		t.Fatal(err)
	}
	return s, e, &now
}

// A log keeps all that an entry says; what names its lick by number alone gets the title, and a
// lick that is gone a name of its own.
func TestLogComesBack(t *testing.T) {
	s, e, now := notebook(t, testline.Build(t, 90, "3:5 7 5 7"))
	in := []practice.Entry{
		{
			Lick:     e.ID,
			Revision: e.Revision,
			Part:     "bottleneck",
			From:     2,
			To:       4,
			Tempo:    61.5,
			Clean:    2,
			Missed:   1,
			Note:     3,
			Minutes:  1.5,
			Comfort:  practice.Tense,
			Picking:  90,
			Fretting: 80,
			Reach:    1.2,
			Bends:    1.1,
			Move:     "jump",
			Time:     now.Add(-time.Hour),
		},
		{Lick: 99, Tempo: 50, Clean: 1, Time: now.Add(-2 * time.Hour)},
	}
	if _, err := Take(t.Context(), s, store.Reading{PlayerID: 1}, in); err != nil {
		t.Fatal(err)
	}
	written, err := Written(t.Context(), s, 1)
	if err != nil || len(written) != 2 || !written[0].Time.Equal(in[0].Time) {
		t.Fatalf("%+v %v", written, err)
	}
	in[0].Title, written[0].Time = "Lick 1", in[0].Time
	if written[0] != in[0] || written[1].Title != "Lick 99" {
		t.Errorf("%+v\nwant %+v", written, in)
	}
	log, err := Log(t.Context(), s, 1)
	if err != nil || log[0].Lick != 99 {
		t.Errorf("the log is not in the order of its times: %+v %v", log, err)
	}
}

// A round's measures are the model's: divided by the player's own speeds, so that the log says
// the same whatever numbers were taken from it before.
func TestRound(t *testing.T) {
	_, e, now := notebook(t, testline.Build(t, 90, "3:5 7 5 7"))
	p := player.Default()
	p.Hand.Speed, p.Pick.Speed = 1.25, 0.5
	part := practice.Part{Name: "x", From: 1, To: 4, Picking: 60, Fretting: 100, Reach: 1.5, Bends: 2, Move: "jump"}
	x := Round(judge.NewEngine(p), e, part, 70, false, 3, 0.5, *now)
	if x.Fretting != 80 || x.Picking != 120 || x.Reach != 1.5 || x.Bends != 2 || x.Missed != 1 || x.Note != 3 ||
		x.Clean != 0 || x.Tempo != 70 || x.Minutes != 0.5 || x.From != 1 || x.To != 4 || x.Title != "Lick 1" {
		t.Errorf("%+v", x)
	}
	if y := Round(judge.NewEngine(p), e, part, 70, true, 3, 0.5, *now); y.Clean != 1 || y.Missed != 0 || y.Note != 0 {
		t.Errorf("%+v", y)
	}
}

// The plan of a day is that day's: what was played later is not known yet, and what was played on
// it is not due again.
func TestDayOfAPlan(t *testing.T) {
	s, e, now := notebook(t, testline.Build(t, 90, "3:5 7 5 7 2:5 8 5 8 1:5 8 5 8 2:5 8 5 8"))
	engine := judge.NewEngine(player.Default())
	if _, err := Add(t.Context(), s, 1, practice.Entry{Lick: e.ID, Title: "x", Tempo: 60, Clean: 3,
		Time: now.Add(-48 * time.Hour)},
		practice.Entry{Lick: e.ID, Title: "x", Tempo: 60, Clean: 3, Time: now.Add(-time.Hour)}); err != nil {
		t.Fatal(err)
	}
	for ago, want := range map[int]bool{2: false, 1: true, 0: false, -1: false, -2: true} {
		items, err := Day(t.Context(), engine, s, store.Player{ID: 1}, nil, 60, now.AddDate(0, 0, -ago))
		if err != nil {
			t.Fatal(err)
		}
		due := false
		for _, x := range items {
			due = due || x.Kind == practice.Due && x.Part.Name == "" && x.Why != "ahead of its day"
		}
		if due != want {
			t.Errorf("%d days ago the whole was due: %v, want %v", ago, due, want)
		}
	}
}

// A lick that is too long to split is practised by its beginning, one without notes not at all.
func TestLongPieces(t *testing.T) {
	l := testline.Build(t, 90, strings.Repeat("3:5 7 2:5 8 ", 200))
	l.Loop = true
	s, e, _ := notebook(t, l)
	if _, err := s.Add(t.Context(), lick.New(), "made"); err != nil {
		t.Fatal(err)
	}
	pieces, err := NewPieces().All(t.Context(), judge.NewEngine(player.Default()), Who{}, s, nil)
	if err != nil || len(pieces) != 1 || pieces[0].Lick != e.ID ||
		!strings.HasSuffix(pieces[0].Title, "its beginning") {
		t.Fatalf("%+v %v", pieces, err)
	}
	for _, p := range pieces[0].Parts {
		if p.To > longest {
			t.Errorf("part %s goes to note %d", p.Name, p.To)
		}
	}
}

// What is wrong with a line of an archive is said with its number.
func TestCheck(t *testing.T) {
	good := store.Played{LickID: 1, Tempo: 60, Clean: 1, At: time.Date(2026, 1, 1, 0, 0, 0, 0, time.UTC)}
	bad := good
	bad.Tempo = -1
	if err := Check([]store.Played{good, good}); err != nil {
		t.Error(err)
	}
	if err := Check([]store.Played{good, bad}); err == nil || !strings.Contains(err.Error(), "entry 2") {
		t.Errorf("%v", err)
	}
}

// One's own log, read in again, adds nothing: as CSV, whose times are whole seconds, as JSON, and as a spreadsheet
// writes it, with semicolons, decimal commas and fifteen digits.
func TestOwnLogIsThereOnce(t *testing.T) {
	s, e, now := notebook(t, testline.Build(t, 90, "3:5 7 5 7"))
	for k := range 40 {
		*now = now.Add(1300 * time.Millisecond)
		x := practice.Entry{
			Lick:     e.ID,
			Title:    "Weir; the “long” one, twice",
			Tempo:    60 + float64(k)/3,
			Clean:    k % 2,
			Missed:   1 - k%2,
			Minutes:  float64(k) / 7,
			Picking:  130.43478260869566 + float64(k),
			Fretting: 170.45454545454547,
			Time:     now.Add(time.Duration(k) * 317 * time.Millisecond),
		}
		if _, err := Add(t.Context(), s, 1, x, x); err != nil {
			t.Fatal(err)
		}
	}
	log, err := Written(t.Context(), s, 1)
	if err != nil || len(log) != 80 {
		t.Fatalf("%d lines, %v", len(log), err)
	}
	var table, sheet, list bytes.Buffer
	if err := errors.Join(practice.WriteCSV(&table, log), json.NewEncoder(&list).Encode(log)); err != nil {
		t.Fatal(err)
	}
	rows, err := csv.NewReader(bytes.NewReader(table.Bytes())).ReadAll()
	if err != nil {
		t.Fatal(err)
	}
	w := csv.NewWriter(&sheet)
	w.Comma = ';'
	for _, row := range rows {
		for i, cell := range row {
			if x, err := strconv.ParseFloat(cell, 64); err == nil {
				row[i] = strings.Replace(strconv.FormatFloat(x, 'g', 15, 64), ".", ",", 1)
			}
		}
		w.Write(row)
	}
	w.Flush()
	for name, data := range map[string][]byte{
		"log.csv":   table.Bytes(),
		"sheet.csv": sheet.Bytes(),
		"log.json":  list.Bytes(),
	} {
		again, err := Read(name, bytes.NewReader(data))
		if err != nil || len(again) != len(log) {
			t.Errorf("%s: %d lines, %v", name, len(again), err)
			continue
		}
		if r, err := Take(t.Context(), s, store.Reading{PlayerID: 1, Name: name}, again); err != nil || r.Added != 0 {
			t.Errorf("%s: %d of %d lines are added, %v", name, r.Added, len(again), err)
		}
	}
	// A round more of the same second is a round of its own.
	more := append(slices.Clone(log), log[0])
	if n, err := Missing(t.Context(), s, 1, more); err != nil || n != 1 {
		t.Errorf("%d are missing, %v", n, err)
	}
}
