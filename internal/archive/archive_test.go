package archive

import (
	"archive/zip"
	"bytes"
	"context"
	"fmt"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"ornamen/core/lick"
	"ornamen/internal/store"
)

func open(t *testing.T) *store.Store {
	t.Helper()
	s, err := store.Open(filepath.Join(t.TempDir(), "n.db"),
		func() time.Time { return time.Date(2026, 11, 25, 18, 0, 0, 0, time.UTC) })
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(func() { s.Close() })
	return s
}

func titled(title string) lick.Lick {
	l := lick.New()
	l.Title, l.Tags = title, []string{"barn"}
	l.Notes = []lick.Note{{Len: lick.NewTime(1, 8), String: 2, Fret: 5}}
	return l
}

// A notebook goes out as plain files and comes in again with everything: versions,
// what lies aside, undo, tones, recipes and player.
func TestRoundTrip(t *testing.T) {
	ctx := t.Context()
	from := open(t)
	e, err := from.Add(ctx, titled("First steps"), "made")
	if err != nil {
		t.Fatal(err)
	}
	made := e.Revision
	for i := range 3 {
		if e, err = from.Commit(ctx, e.ID, e.Revision, titled(fmt.Sprintf("First steps %d", i)), "title"); err != nil {
			t.Fatal(err)
		}
	}
	if _, err := from.Commit(ctx, e.ID, made, titled("aside"), "elsewhere"); err == nil {
		t.Fatal("a stale write was taken")
	}
	if _, err := from.Undo(ctx, e.ID, e.Revision); err != nil {
		t.Fatal(err)
	}
	gone, _ := from.Add(ctx, titled("gone"), "made")
	for _, err := range []error{from.Delete(ctx, gone.ID), from.SavePalette(ctx, store.Palette{Name: "dusk", Tonic: "A",
		Scale: "dorian"}),
		from.SaveRecipe(ctx, store.Recipe{Name: "threes", Line: "--key A"}), from.SaveSettings(ctx, 1, store.NewSettings{Data: []byte(`{"size":"small"}`), Base: store.Newest})} {
		if err != nil {
			t.Fatal(err)
		}
	}
	played := store.Played{LickID: e.ID, RevisionID: made, Title: "First steps", Clean: 1,
		At: time.Date(2026, 11, 24, 20, 33, 0, 0, time.FixedZone("", -8*3600))}
	if _, err := from.Play(ctx, 1, played); err != nil {
		t.Fatal(err)
	}
	var b bytes.Buffer
	if n, err := Write(ctx, &b, from); err != nil || n != 1 {
		t.Fatalf("%d licks, %v", n, err)
	}
	to := open(t)
	if _, err := to.Add(ctx, titled("here already"), "made"); err != nil {
		t.Fatal(err)
	}
	if n, err := Read(ctx, bytes.NewReader(b.Bytes()), int64(b.Len()), to, nil); err != nil || n != 1 {
		t.Fatalf("%d licks, %v", n, err)
	}
	rows, err := to.List(ctx, store.Query{Find: "first steps 1", Tag: "barn", Limit: 9})
	if err != nil || len(rows) != 1 {
		t.Fatalf("%v %v", rows, err)
	}
	// The log names the lick and the version that were played, and its evening is that evening.
	log, err := to.Log(ctx, 1)
	if err != nil || len(log) != 1 || log[0].LickID != rows[0].ID || log[0].At.Format("2 15:04") != "24 20:33" {
		t.Fatalf("%+v %v", log, err)
	}
	if l, err := to.At(ctx, log[0].LickID, log[0].RevisionID); err != nil || l.Title != "First steps" {
		t.Errorf("it was version %d: %q, %v", log[0].RevisionID, l.Title, err)
	}
	got, err := to.Get(ctx, rows[0].ID)
	if err != nil || !got.CanUndo || !got.CanRedo {
		t.Errorf("%+v %v", got, err)
	}
	list, err := to.Versions(ctx, got.ID, 99)
	if err != nil || len(list) != 5 || !list[0].Aside {
		t.Errorf("%d versions %v", len(list), err)
	}
	if p, _ := to.Palettes(ctx); len(p) != 1 || p[0].Scale != "dorian" {
		t.Errorf("%v", p)
	}
	if r, _ := to.Recipes(ctx); len(r) != 1 {
		t.Errorf("%v", r)
	}
	if x, _ := to.Settings(ctx, 1); string(x.Data) != `{"size":"small"}` {
		t.Errorf("%s", x.Data)
	}
	if c, _ := to.Count(ctx, store.Query{}); c.All != 2 {
		t.Errorf("%d licks", c.All)
	}
}

func zipped(t *testing.T, files map[string]string) []byte {
	t.Helper()
	var b bytes.Buffer
	z := zip.NewWriter(&b)
	for name, text := range files {
		f, err := z.Create(name)
		if err != nil {
			t.Fatal(err)
		}
		if _, err := f.Write([]byte(text)); err != nil {
			t.Fatal(err)
		}
	}
	if err := z.Close(); err != nil {
		t.Fatal(err)
	}
	return b.Bytes()
}

// What is no notebook changes nothing and is refused in a sentence.
func TestRefusals(t *testing.T) {
	s := open(t)
	note := `{"format":"ornamen-notebook","version":1}`
	good := string(titled("x").Encode())
	for name, data := range map[string][]byte{
		"no zip":      []byte("not a zip"),
		"another zip": zipped(t, map[string]string{"readme.txt": "hello"}),
		"a later one": zipped(t, map[string]string{"notebook.json": `{"format":"ornamen-notebook","version":9}`}),
		"no such head": zipped(t, map[string]string{"notebook.json": note,
			"licks/1/history.json": `{"head":2,"versions":[{"file":"a","what":"made","at":"2026-01-01T00:00:00Z"}]}`,
			"licks/1/a":            good}),
		"a missing file": zipped(t, map[string]string{"notebook.json": note,
			"licks/1/history.json": `{"head":1,"versions":[{"file":"a","what":"made","at":"2026-01-01T00:00:00Z"}]}`}),
		"no lick": zipped(t, map[string]string{"notebook.json": note,
			"licks/1/history.json": `{"head":1,"versions":[{"file":"a","what":"made","at":"2026-01-01T00:00:00Z"}]}`,
			"licks/1/a":            "{}"}),
		"a loop": zipped(t, map[string]string{"notebook.json": note,
			"licks/1/history.json": `{"head":1,"versions":[{"file":"a","what":"made","parent":1,` +
				`"at":"2026-01-01T00:00:00Z"}]}`, "licks/1/a": good}),
		"outside": zipped(t, map[string]string{"notebook.json": note,
			"licks/1/history.json": `{"head":1,"versions":[{"file":"../../a","what":"made",` +
				`"at":"2026-01-01T00:00:00Z"}]}`, "a": good}),
		"a player with no frets": zipped(t, map[string]string{"notebook.json": note, "player.json": `{"frets":2}`}),
		"a million rounds": zipped(t, map[string]string{"notebook.json": note,
			"practice.json": `[{"At":"2026-01-01T00:00:00Z","Clean":1000000000}]`}),
		"a bomb": zipped(t, map[string]string{"notebook.json": note, "player.json": strings.Repeat(" ", 40<<20)}),
	} {
		if n, err := Read(context.Background(), bytes.NewReader(data), int64(len(data)), s, nil); err == nil ||
			strings.Contains(err.Error(), "\n") {
			t.Errorf("%s: %d licks, %v", name, n, err)
		}
	}
	if c, err := s.Count(t.Context(), store.Query{}); err != nil || c.All != 0 {
		t.Errorf("%d licks came in all the same, %v", c.All, err)
	}
}

// Players with what is theirs, those who were removed too, sets and fingers of one's own come along; a second import
// adds none of them again.
func TestPlayersComeAlong(t *testing.T) {
	ctx := t.Context()
	from := open(t)
	l := titled("Weir")
	l.Notes = []lick.Note{{Len: lick.NewTime(1, 4), String: 3, Fret: 5}}
	e, err := from.Add(ctx, l, "made")
	if err != nil {
		t.Fatal(err)
	}
	juna, err := from.AddPlayer(ctx, "Juna", 0)
	if err != nil {
		t.Fatal(err)
	}
	bram, err := from.AddPlayer(ctx, "Bram", 0)
	if err != nil {
		t.Fatal(err)
	}
	own, err := lick.SetFinger{Note: 0, Finger: lick.Ring}.Apply(e.Lick.For(juna.Own()))
	if err != nil {
		t.Fatal(err)
	}
	at := time.Date(2026, 11, 24, 20, 33, 0, 0, time.UTC)
	_, played := from.Play(ctx, juna.ID, store.Played{LickID: e.ID, Title: "Weir", Clean: 1, At: at})
	_, missed := from.Play(ctx, bram.ID, store.Played{LickID: e.ID, Title: "Weir", Missed: 1, At: at})
	for _, err := range []error{played, missed, from.RenamePlayer(ctx, 1, "", "Teacher"),
		from.SaveSettings(ctx, juna.ID, store.NewSettings{Data: []byte(`{"size":"small"}`), Base: store.Newest}),
		from.BindPlayer(ctx, juna.ID, "0123456789abcdef"), from.RemovePlayer(ctx, bram.ID)} {
		if err != nil {
			t.Fatal(err)
		}
	}
	if _, err := from.Commit(ctx, e.ID, e.Revision, own.Shared(juna.Own()), "own"); err != nil {
		t.Fatal(err)
	}
	if _, err := from.SaveSet(ctx, store.Set{Name: "Week", Kind: store.Homework,
		Items: []store.SetItem{{Lick: e.ID, Tempo: 70}}},
		store.Newest); err != nil {
		t.Fatal(err)
	}
	var b bytes.Buffer
	if _, err := Write(ctx, &b, from); err != nil {
		t.Fatal(err)
	}
	to := open(t)
	for round := range 2 {
		if _, err := Read(ctx, bytes.NewReader(b.Bytes()), int64(b.Len()), to, nil); err != nil {
			t.Fatal(err)
		}
		all, err := to.AllPlayers(ctx)
		if err != nil || len(all) != 3 || all[0].Name != "Teacher" || all[1].Source != "0123456789abcdef" ||
			all[2].Name != "Bram" || !all[2].DeletedAt.Valid {
			t.Fatalf("round %d: %+v %v", round, all, err)
		}
		for i, want := range []int{0, 1, 1} {
			if log, err := to.Log(ctx, all[i].ID); err != nil || len(log) != want || want > 0 && log[0].LickID != 1 {
				t.Errorf("round %d: %s has %+v, %v", round, all[i].Name, log, err)
			}
		}
		if x, _ := to.Settings(ctx, all[1].ID); string(x.Data) != `{"size":"small"}` {
			t.Errorf("round %d: %s", round, x.Data)
		}
		sets, err := to.Sets(ctx)
		if err != nil || len(sets) != 1 || len(sets[0].Items) != 1 || sets[0].Items[0].Lick != 1 ||
			sets[0].Items[0].Tempo != 70 {
			t.Errorf("round %d: %+v %v", round, sets, err)
		}
		x, err := to.Get(ctx, 1)
		if err != nil || x.Lick.For(all[1].Own()).Notes[0].Finger != lick.Ring ||
			x.Lick.Notes[0].Finger != lick.NoFinger {
			t.Errorf("round %d: %+v %v", round, x.Lick.Notes, err)
		}
	}
}
