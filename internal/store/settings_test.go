package store

import (
	"errors"
	"path/filepath"
	"testing"
)

// The player's settings are a chain: the newest holds, undo goes back to the one
// before, and before the first there are none.
func TestPlayerSettings(t *testing.T) {
	path := filepath.Join(t.TempDir(), "n.db")
	s := open(t, path)
	if data, before, err := s.Settings(ctx, 1); data != nil || before != 0 || err != nil {
		t.Fatalf("a new notebook has a player: %s, %d, %v", data, before, err)
	}
	for _, d := range []string{`{"size":"small"}`, `{"size":"large"}`} {
		if err := s.SaveSettings(ctx, 1, []byte(d)); err != nil {
			t.Fatal(err)
		}
	}
	s.Close()
	s = open(t, path)
	data, before, err := s.Settings(ctx, 1)
	if err != nil || string(data) != `{"size":"large"}` || before != 1 {
		t.Fatalf("after opening again: %s, %d before it, %v", data, before, err)
	}
	if err := s.UndoSettings(ctx, 1); err != nil {
		t.Fatal(err)
	}
	if data, before, _ := s.Settings(ctx, 1); string(data) != `{"size":"small"}` || before != 0 {
		t.Errorf("after undo: %s, %d before it", data, before)
	}
	if err := s.UndoSettings(ctx, 1); err != nil {
		t.Fatal(err)
	}
	if data, _, _ := s.Settings(ctx, 1); data != nil {
		t.Errorf("before the first settings there are %s", data)
	}
	if err := s.UndoSettings(ctx, 1); !errors.Is(err, ErrNoUndo) {
		t.Errorf("undo of nothing: %v", err)
	}
}

// Recipes and palettes are kept by name: one of the same name is replaced, what
// is not there cannot be forgotten.
func TestSavedByName(t *testing.T) {
	s := open(t, filepath.Join(t.TempDir(), "n.db"))
	for _, line := range []string{`--key "A blues" --cell 1`, `--key "A blues" --cell "1 2"`} {
		if err := s.SaveRecipe(ctx, Recipe{Name: "Ladder", Line: line}); err != nil {
			t.Fatal(err)
		}
	}
	if err := s.SaveRecipe(ctx, Recipe{Name: "Another", Line: "--cell 1"}); err != nil {
		t.Fatal(err)
	}
	all, err := s.Recipes(ctx)
	if err != nil || len(all) != 2 || all[0].Name != "Ladder" || all[0].Line != `--key "A blues" --cell "1 2"` {
		t.Fatalf("%+v, %v", all, err)
	}
	if err := s.ForgetRecipe(ctx, all[0].ID); err != nil {
		t.Fatal(err)
	}
	if err := s.ForgetRecipe(ctx, all[0].ID); !errors.Is(err, ErrNotFound) {
		t.Errorf("forgotten twice: %v", err)
	}
	for _, scale := range []string{"blues", "dorian"} {
		if err := s.SavePalette(ctx, Palette{Name: "Barn", Tonic: "A", Scale: scale}); err != nil {
			t.Fatal(err)
		}
	}
	ps, err := s.Palettes(ctx)
	if err != nil || len(ps) != 1 || ps[0].Scale != "dorian" {
		t.Fatalf("%+v, %v", ps, err)
	}
	if err := s.ForgetPalette(ctx, 99); !errors.Is(err, ErrNotFound) {
		t.Errorf("a palette that is not there: %v", err)
	}
}
