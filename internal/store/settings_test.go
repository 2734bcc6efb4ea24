package store

import (
	"bytes"
	"errors"
	"path/filepath"
	"testing"
)

// The player's settings are a chain: undo goes back to those before, the first ones to the defaults, and redo forward
// again over a restart.
func TestPlayerSettings(t *testing.T) {
	path := filepath.Join(t.TempDir(), "n.db")
	s := open(t, path)
	if x, err := s.Settings(ctx, 1); x.Data != nil || x.CanUndo || err != nil {
		t.Fatalf("a new notebook has a player: %+v, %v", x, err)
	}
	for _, d := range []string{`{"size":"small"}`, `{"size":"large"}`} {
		if err := s.SaveSettings(ctx, 1, NewSettings{Data: []byte(d), Base: Newest}); err != nil {
			t.Fatal(err)
		}
	}
	s.Close()
	s = open(t, path)
	is := func(data string, undo, redo bool) uint {
		t.Helper()
		x, err := s.Settings(ctx, 1)
		if err != nil || string(x.Data) != data || x.CanUndo != undo || x.CanRedo != redo {
			t.Fatalf("%s %+v %v", x.Data, x, err)
		}
		return x.Revision
	}
	large := is(`{"size":"large"}`, true, false)
	if err := s.UndoSettings(ctx, 1, large); err != nil {
		t.Fatal(err)
	}
	small := is(`{"size":"small"}`, true, true)
	var stale *SettingsStaleError
	if err := s.UndoSettings(ctx, 1, large); !errors.As(err, &stale) {
		t.Errorf("an older page undoes: %v", err)
	}
	if err := s.UndoSettings(ctx, 1, small); err != nil {
		t.Fatal(err)
	}
	is("", false, true)
	if err := s.UndoSettings(ctx, 1, 0); !errors.Is(err, ErrNoUndo) {
		t.Errorf("undo of nothing: %v", err)
	}
	s.Close()
	s = open(t, path)
	for _, base := range []uint{0, small} {
		if err := s.RedoSettings(ctx, 1, base); err != nil {
			t.Fatal(err)
		}
	}
	if is(`{"size":"large"}`, true, false) != large {
		t.Error("redo made another revision")
	}
	if err := s.RedoSettings(ctx, 1, large); !errors.Is(err, ErrNoRedo) {
		t.Errorf("redo of nothing: %v", err)
	}
}

// Of two pages each may set what the other has not; a field that both set is refused, and so is what cannot hold.
func TestSettingsMerge(t *testing.T) {
	for _, c := range []struct {
		name, mine, want string
		stale            bool
	}{
		{name: "another field", mine: `{"size":"medium","frets":24}`, want: `{"frets":24,"left":true,"size":"small"}`},
		{name: "nothing", mine: `{"size":"medium","frets":22}`, want: `{"frets":22,"left":true,"size":"small"}`},
		{
			name: "the same to the same",
			mine: `{"size":"small","frets":22}`,
			want: `{"frets":22,"left":true,"size":"small"}`,
		},
		{name: "the same to another", mine: `{"size":"large","frets":24}`, stale: true},
		{name: "a field that goes", mine: `{"size":"medium"}`, want: `{"left":true,"size":"small"}`},
		{name: "what cannot hold", mine: `{"size":"medium","frets":99}`},
	} {
		s := open(t, filepath.Join(t.TempDir(), "n.db"))
		base := `{"size":"medium","frets":22}`
		if err := s.SaveSettings(ctx, 1, NewSettings{Data: []byte(base), Base: Newest}); err != nil {
			t.Fatal(err)
		}
		was, _ := s.Settings(ctx, 1)
		other := `{"size":"small","frets":22,"left":true}`
		if err := s.SaveSettings(ctx, 1, NewSettings{Data: []byte(other), Base: was.Revision}); err != nil {
			t.Fatal(err)
		}
		err := s.SaveSettings(ctx, 1, NewSettings{
			Data: []byte(c.mine),
			Base: was.Revision,
			Check: func(data []byte) error {
				if bytes.Contains(data, []byte("99")) {
					return errors.New("no such guitar")
				}
				return nil
			},
		})
		var stale *SettingsStaleError
		if errors.As(err, &stale) != c.stale || (err != nil) != (c.want == "") {
			t.Errorf("%s: %v", c.name, err)
		}
		if c.want == "" {
			c.want = other
		}
		if is, err := s.Settings(ctx, 1); err != nil || string(is.Data) != c.want {
			t.Errorf("%s: %s, not %s (%v)", c.name, is.Data, c.want, err)
		}
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
