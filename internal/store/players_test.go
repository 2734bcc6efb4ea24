package store

import (
	"errors"
	"fmt"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"github.com/go-gormigrate/gormigrate/v2"
)

// Players come, are renamed, copied and removed; each has settings and a log of their own, and nothing of it is lost.
func TestPlayers(t *testing.T) {
	s := open(t, filepath.Join(t.TempDir(), "n.db"))
	if err := s.SaveSettings(ctx, 1, NewSettings{Data: []byte(`{"size":"large"}`), Base: Newest}); err != nil {
		t.Fatal(err)
	}
	juna, err := s.AddPlayer(ctx, "  Juna   Weir ", 0)
	if err != nil || juna.Name != "Juna Weir" || juna.Own() == "" {
		t.Fatalf("%+v %v", juna, err)
	}
	if x, err := s.Settings(ctx, juna.ID); x.Data != nil || err != nil {
		t.Errorf("a new player begins with %s, %v", x.Data, err)
	}
	like, err := s.AddPlayer(ctx, "Copy", 1)
	if err != nil {
		t.Fatal(err)
	}
	if x, _ := s.Settings(ctx, like.ID); string(x.Data) != `{"size":"large"}` {
		t.Errorf("a copy has %s", x.Data)
	}
	for _, bad := range []string{"", "   ", "juna weir", strings.Repeat("x", 41), "a\x07b", "\xff\xfe"} {
		if p, err := s.AddPlayer(ctx, bad, 0); err == nil {
			t.Errorf("%q was taken as %q", bad, p.Name)
		}
	}
	at := time.Date(2026, 11, 24, 18, 0, 0, 0, time.UTC)
	weir := Played{Title: "Weir", Clean: 1, At: at}
	if _, err := s.Play(ctx, juna.ID, weir, weir); err != nil {
		t.Fatal(err)
	}
	if _, err := s.Play(ctx, 1, Played{Title: "Mill", Clean: 1, At: at}); err != nil {
		t.Fatal(err)
	}
	if err := s.RenamePlayer(ctx, juna.ID, "Juna Weir", "Juna"); err != nil {
		t.Fatal(err)
	}
	if err := s.RemovePlayer(ctx, juna.ID); err != nil {
		t.Fatal(err)
	}
	if _, err := s.PlayerNamed(ctx, "Juna"); err == nil {
		t.Error("a removed player still plays")
	}
	if _, err := s.AddPlayer(ctx, "Juna", 0); err != nil { // another one of that name
		t.Fatal(err)
	}
	if err := s.ReturnPlayer(ctx, juna.ID); err != nil {
		t.Fatal(err)
	}
	back, err := s.PlayerNamed(ctx, "Juna 2")
	if err != nil || back.ID != juna.ID {
		t.Fatalf("%+v %v", back, err)
	}
	if log, err := s.Log(ctx, juna.ID); err != nil || len(log) != 2 {
		t.Errorf("the log has %d lines, %v", len(log), err)
	}
	// What is read in twice stands there once; of equal lines each is a round of its own.
	lines := []Played{{Title: "Weir", Clean: 1, At: at, LickID: 7}, {Title: "Weir", Clean: 1, At: at},
		{Title: "Weir", Clean: 1, At: at}, {Title: "Weir", Clean: 1, At: at.Add(time.Minute)}}
	for _, want := range []int{2, 0} {
		if n, err := s.ReadIn(ctx, Reading{PlayerID: juna.ID}, lines); err != nil || n.Added != want {
			t.Errorf("%d were missing, %v; not %d", n.Added, err, want)
		}
	}
	if last, _, err := s.LastLine(ctx, 1); err != nil || last.Title != "Mill" {
		t.Errorf("%+v %v", last, err)
	}
	list, _ := s.Players(ctx)
	for _, p := range list[1:] {
		if err := s.RemovePlayer(ctx, p.ID); err != nil {
			t.Error(err)
		}
	}
	if err := s.RemovePlayer(ctx, 1); err == nil {
		t.Error("nobody is left to play")
	}
}

// A notebook of the time of one player becomes one with one player: settings, undo and log are that player's.
func TestOnePlayerBecomesTheFirst(t *testing.T) {
	path := filepath.Join(t.TempDir(), "n.db")
	old := newStore(path, clock)
	if err := old.open(path); err != nil {
		t.Fatal(err)
	}
	if err := gormigrate.New(old.db, gormigrate.DefaultOptions, migrations[:12]).Migrate(); err != nil {
		t.Fatal(err)
	}
	for _, q := range []string{
		`INSERT INTO players (data, created_at) VALUES ('{"size":"small"}', '2026-01-01'), ('{"size":"large"}', '2026-01-02')`,
		`INSERT INTO licks (title, head_id, created_at, updated_at) VALUES ('a', 0, '2026-01-01', '2026-01-01'),
			('b', 0, '2026-01-01', '2026-01-01')`,
		`INSERT INTO played (lick_id, title, revision_id, part, first, last, tempo, clean, missed, note, minutes, comfort,
			picking, fretting, at) VALUES (1, 'a', 1, '', 1, 4, 60, 1, 0, 0, 1, '', 0, 0, '2026-01-03 18:00:00+00:00')`,
		`INSERT INTO summaries (lick_id, revision_id, player, severity, margin, notes) VALUES (1, 1, 'x', 0, 1, 4)`,
	} {
		if err := old.db.Exec(q).Error; err != nil {
			t.Fatal(err)
		}
	}
	old.Close()
	// Read as it is, by a program that does not write it.
	r, err := OpenToRead(path, clock)
	if err != nil {
		t.Fatal(err)
	}
	list, err := r.Players(ctx)
	if err != nil || len(list) != 1 || list[0].Name != FirstName {
		t.Errorf("%+v %v", list, err)
	}
	if x, err := r.Settings(ctx, 1); string(x.Data) != `{"size":"large"}` || !x.CanUndo || err != nil {
		t.Errorf("%s %+v %v", x.Data, x, err)
	}
	if log, err := r.Log(ctx, 1); err != nil || len(log) != 1 {
		t.Errorf("%d lines, %v", len(log), err)
	}
	if sets, err := r.Sets(ctx); err != nil || len(sets) != 0 {
		t.Errorf("%v %v", sets, err)
	}
	r.Close()
	s := open(t, path)
	x, err := s.Settings(ctx, 1)
	if string(x.Data) != `{"size":"large"}` || err != nil {
		t.Errorf("%s %+v %v", x.Data, x, err)
	}
	if err := s.UndoSettings(ctx, 1, x.Revision); err != nil {
		t.Error(err)
	}
	if x, err := s.Settings(ctx, 1); string(x.Data) != `{"size":"small"}` || !x.CanUndo || err != nil {
		t.Errorf("%s %+v %v", x.Data, x, err)
	}
	log, err := s.Log(ctx, 1)
	if err != nil || len(log) != 1 || log[0].Title != "a" {
		t.Errorf("%+v %v", log, err)
	}
	keys, err := s.LickKeys(ctx)
	if err != nil || len(keys) != 2 || keys[1] == keys[2] || len(keys[1]) != 16 {
		t.Errorf("%v %v", keys, err)
	}
}

// Judgements are kept for each player, and a page of one shows none of another's.
func TestSummariesOfPlayers(t *testing.T) {
	s := open(t, filepath.Join(t.TempDir(), "n.db"))
	e, err := s.Add(ctx, titled("a"), "made")
	if err != nil {
		t.Fatal(err)
	}
	for who := uint(1); who <= 2; who++ {
		if err := s.Summarise(ctx, []Summary{{LickID: e.ID, PlayerID: who, RevisionID: e.Revision, Player: "same hand",
			Severity: int(who), Notes: 1, Data: fmt.Append(nil, who)}}); err != nil {
			t.Fatal(err)
		}
	}
	for who := uint(1); who <= 3; who++ {
		rows, err := s.List(ctx, Query{Who: who, Player: "same hand", Limit: 9})
		if err != nil || len(rows) != 1 {
			t.Fatalf("%v %v", rows, err)
		}
		sum := rows[0].Summary
		if who == 3 && sum != nil ||
			who < 3 && (sum == nil || sum.Severity != int(who) || string(sum.Data) != fmt.Sprint(who)) {
			t.Errorf("player %d: %+v", who, sum)
		}
	}
}

// A set is written version by version; one that comes from elsewhere is taken in once, and what was changed here is
// never lost.
func TestSets(t *testing.T) {
	s := open(t, filepath.Join(t.TempDir(), "n.db"))
	a, _ := s.Add(ctx, titled("a"), "made")
	x, err := s.SaveSet(ctx, Set{Name: "Week", Kind: Homework, Items: []SetItem{{Lick: a.ID, Days: On(time.Monday)}}},
		Newest)
	if err != nil || x.CanUndo || x.Key == "" {
		t.Fatalf("%+v %v", x, err)
	}
	x.Items = append(x.Items, SetItem{Lick: a.ID, Tempo: 80})
	first := x.Revision
	if x, err = s.SaveSet(ctx, x, first); err != nil || !x.CanUndo {
		t.Fatalf("%+v %v", x, err)
	}
	second := x.Revision
	if _, err := s.SaveSet(ctx, x, first); !errors.Is(err, ErrSetStale) {
		t.Errorf("a change on an older version: %v", err)
	}
	if err := s.UndoSet(ctx, x.ID, first); !errors.Is(err, ErrSetStale) {
		t.Errorf("undo from a page that shows an older version: %v", err)
	}
	if err := s.UndoSet(ctx, x.ID, second); err != nil {
		t.Fatal(err)
	}
	if err := s.RedoSet(ctx, x.ID, first); err != nil {
		t.Fatal(err)
	}
	if y, _ := s.SetOf(ctx, x.ID); y.Revision != second || len(y.Items) != 2 || y.CanRedo {
		t.Errorf("redo: %+v", y)
	}
	if err := s.UndoSet(ctx, x.ID, second); err != nil {
		t.Fatal(err)
	}
	if x, _ = s.SetOf(ctx, x.ID); len(x.Items) != 1 || len(x.Due(time.Monday)) != 1 || len(x.Due(time.Sunday)) != 0 {
		t.Errorf("%+v", x)
	}
	if err := s.UndoSet(ctx, x.ID, first); !errors.Is(err, ErrNoUndo) {
		t.Errorf("%v", err)
	}
	for _, bad := range []Set{{}, {Name: "week"}, {Name: "a", Kind: "party"}, {Name: "a", Target: "2026-02-30"},
		{Name: "a", Items: []SetItem{{Lick: a.ID, Tempo: 1e6}}}, {Name: "a", Remark: strings.Repeat("x", 501)}} {
		if _, err := s.SaveSet(ctx, bad, Newest); err == nil {
			t.Errorf("%+v was saved", bad)
		}
	}
	if err := s.DeleteSet(ctx, x.ID); err != nil {
		t.Fatal(err)
	}
	if list, _ := s.Sets(ctx); len(list) != 0 {
		t.Errorf("%v", list)
	}
	if err := s.RestoreSet(ctx, x.ID); err != nil {
		t.Error(err)
	}

	comes := Set{
		Key:   "0123456789abcdef",
		Name:  "From afar",
		Items: []SetItem{{Lick: 1}, {Lick: 2, Tempo: 90}, {Lick: 1}},
	}
	licks := []Arriving{{"aaaaaaaaaaaaaaaa", titled("one")}, {"bbbbbbbbbbbbbbbb", titled("two")}}
	got, err := s.TakeSet(ctx, comes, licks)
	if err != nil || !got.New || got.Added != 2 || len(got.Set.Items) != 3 ||
		got.Set.Items[0].Lick != got.Set.Items[2].Lick {
		t.Fatalf("%+v %v", got, err)
	}
	if again, err := s.TakeSet(ctx, comes, licks); err != nil || !again.Same() {
		t.Errorf("%+v %v", again, err)
	}
	// The student changes one of the licks; the teacher sends both anew.
	one, err := s.Get(ctx, got.Set.Items[0].Lick)
	if err != nil {
		t.Fatal(err)
	}
	mine, err := s.Commit(ctx, one.ID, one.Revision, titled("one, mine"), "edit")
	if err != nil {
		t.Fatal(err)
	}
	licks[0].Lick, licks[1].Lick = titled("one, better"), titled("two, better")
	again, err := s.TakeSet(ctx, comes, licks)
	if err != nil || again.Changed != 1 || again.Beside != 1 || again.Added != 0 || again.New {
		t.Errorf("%+v %v", again, err)
	}
	if e, _ := s.Get(ctx, one.ID); e.Revision != mine.Revision || e.Lick.Title != "one, mine" {
		t.Errorf("what was changed here shows %q", e.Lick.Title)
	}
	if e, _ := s.Get(ctx, got.Set.Items[1].Lick); e.Lick.Title != "two, better" {
		t.Errorf("what was not changed here shows %q", e.Lick.Title)
	}
	if list, _ := s.Versions(ctx, one.ID, 9); len(list) != 3 || !list[0].Aside {
		t.Errorf("%+v", list)
	}
	if again, err := s.TakeSet(ctx, comes, licks); err != nil || !again.Same() {
		t.Errorf("%+v %v", again, err)
	}
	if _, err := s.TakeSet(ctx, Set{Key: "0123456789abcdee", Name: "x", Items: []SetItem{{Lick: 3}}}, licks); err == nil {
		t.Error("a set names a lick that did not come")
	}
}

// Days are read as they are written, and as players write them.
func TestDays(t *testing.T) {
	for _, c := range []struct{ in, out string }{
		{"", ""},
		{"Mo We", "Mo We"},
		{"sunday, tue", "Tu Su"},
		{"mo tu we th fr sa su", ""},
	} {
		d, err := ParseDays(c.in)
		if err != nil || d.String() != c.out {
			t.Errorf("%q: %q %v", c.in, d, err)
		}
	}
	for _, bad := range []string{"x", "someday", "m"} {
		if d, err := ParseDays(bad); err == nil {
			t.Errorf("%q is %v", bad, d)
		}
	}
	if d := On(time.Sunday); !d.Has(time.Sunday) || d.Has(time.Monday) {
		t.Error("Sunday is not Sunday")
	}
}
