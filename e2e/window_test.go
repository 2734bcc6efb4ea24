package e2e

import (
	"context"
	"path/filepath"
	"testing"

	"ornamen/core/lick"
	"ornamen/internal/store"
)

// A long lick is worked on in a window of bars: a key sets a finger of the note that is seen, the
// changes show the same bars, and the next window is a link away.
func TestWindowOfALongLick(t *testing.T) {
	t.Parallel()
	path := filepath.Join(t.TempDir(), "n.db")
	s, err := store.Open(path, evening)
	if err != nil {
		t.Fatal(err)
	}
	l := lick.New()
	l.Title, l.Chords = "A long evening", []lick.Chord{{Len: lick.NewTime(100, 1), Name: "Am7"}}
	for i := range 1600 {
		l.Notes = append(l.Notes, lick.Note{At: lick.NewTime(int64(i), 16), Len: lick.NewTime(1, 16), String: 3,
			Fret: 5 + 2*(i%2)})
	}
	if _, err := s.Add(t.Context(), l, "made"); err != nil {
		t.Fatal(err)
	}
	s.Close()
	a := start(t, path)
	p := a.open("/licks/1.65?note=3&lane=finger")
	p.ready()
	p.wait(`document.querySelector('.window-line').innerText.includes('Bars 65 to 82 of 100')`)
	p.keys("4")
	p.wait(`document.body.innerText.includes('finger 4')`)
	p.click(".window-line a:last-of-type")
	p.wait(`document.querySelector('.window-line')?.innerText.includes('Bars 83 to 100')`)
	p.go_("/licks/1.65/changes")
	p.wait(`document.querySelector('.window-line')?.innerText.includes('Bars 65 to 82')`)
	a.stop()
	r, err := store.OpenToRead(path, evening)
	if err != nil {
		t.Fatal(err)
	}
	defer r.Close()
	e, err := r.Get(context.Background(), 1)
	if err != nil || len(e.Lick.Notes) != 1600 || e.Lick.Notes[1026].Finger != lick.Little ||
		e.Lick.Notes[2].Finger != lick.NoFinger {
		t.Errorf("note 1027 has finger %v, note 3 %v, of %d (%v)", e.Lick.Notes[1026].Finger, e.Lick.Notes[2].Finger,
			len(e.Lick.Notes), err)
	}
}
