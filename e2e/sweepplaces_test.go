package e2e

import (
	"context"
	"errors"
	"os"
	"path/filepath"
	"sync"
	"testing"

	"ornamen/core/lick"
	"ornamen/core/music"
	"ornamen/core/neck"
	"ornamen/core/testline"
	"ornamen/internal/store"
)

// sweepPlaces are the states of the screens that players meet.
var sweepPlaces = places()

// places pairs screens with notebooks and sizes: everything at a desk with the demo's three players, the same on a
// phone, each screen of an empty notebook, and licks of other kinds in the notebook of one who plays alone.
func places() []sweepPlace {
	demoScreens := []struct{ name, path string }{
		{"notebook", "/"},
		{"tones", "/tones"},
		{"bends", "/tones?tonic=Eb&scale=mixolydian&layout=3nps&bends=any&keys=any"},
		{"runs", "/runs"},
		{"bench", "/licks/17"},
		{"versions", "/licks/18/versions"},
		{"recolour", "/licks/15/recolour?tonic=C%23&scale=dorian"},
		{"changes", "/licks/1/changes?chord=2"},
		{"practice", "/practice"},
		{"stand", "/practice?lick=16&part=bottleneck%2C+11+to+16"},
		{"log", "/practice/log"},
		{"sets", "/sets"},
		{"set", "/sets/2"},
		{"sheet", "/sets/2/sheet"},
		{"player", "/player"},
	}
	emptyScreens := []struct{ name, path string }{
		{"notebook", "/"},
		{"runs", "/runs"},
		{"bench", "/bench"},
		{"changes", "/changes"},
		{"practice", "/practice"},
		{"log", "/practice/log"},
		{"sets", "/sets"},
		{"player", "/player"},
	}
	aloneScreens := []struct{ name, path string }{
		{"notebook", "/"},
		{"long lick", "/licks/1"},
		{"bend", "/licks/2?note=2&lane=bend"},
		{"bass", "/licks/3"},
		{"seven strings", "/licks/4"},
		{"runs with more said", "/runs?key=A+minor+pentatonic&cell=1+2+3&times=4&then=--cell+%223+2+1%22+--dir+down"},
		{"runs of strings", "/runs?key=A+minor+pentatonic&cell=strings%3A+a2+pa1+b1&dir=updown"},
		{"runs of chords", "/runs?key=G+major&cell=chord%3A+1+3+5+1%27&move=chord&chords=1+4+5"},
		{"changes of a bass", "/licks/3/changes"},
		{"practice", "/practice"},
		{"player", "/player"},
	}
	var out []sweepPlace
	for _, x := range demoScreens {
		out = append(out, sweepPlace{
			name:   "demo, " + x.name,
			book:   demoBook,
			path:   x.path,
			width:  deskWidth,
			height: deskHeight,
		},
			sweepPlace{name: "phone, " + x.name, book: demoBook, path: x.path, width: phoneWidth, height: phoneHeight})
	}
	for _, x := range emptyScreens {
		out = append(out, sweepPlace{
			name:   "empty, " + x.name,
			book:   emptyBook,
			path:   x.path,
			width:  deskWidth,
			height: deskHeight,
		})
	}
	for _, x := range aloneScreens {
		out = append(out, sweepPlace{
			name:   "alone, " + x.name,
			book:   aloneBook,
			path:   x.path,
			width:  deskWidth,
			height: deskHeight,
		})
	}
	return out
}

// demoBook is the demo's notebook.
func demoBook(t *testing.T) []byte {
	t.Helper()
	data, err := demoFile()
	if err != nil {
		t.Fatal(err)
	}
	return data
}

// bookOf makes the file of a notebook once.
func bookOf(fill func(*store.Store) error) func(*testing.T) []byte {
	once := sync.OnceValues(func() ([]byte, error) {
		dir, err := os.MkdirTemp("", "ornamen-sweep")
		if err != nil {
			return nil, err
		}
		defer os.RemoveAll(dir)
		s, err := store.Open(filepath.Join(dir, "book.db"), evening)
		if err != nil {
			return nil, err
		}
		whole := filepath.Join(dir, "whole.db")
		if err := errors.Join(fill(s), judged(s), s.Backup(context.Background(), whole), s.Close()); err != nil {
			return nil, err
		}
		return os.ReadFile(whole)
	})
	return func(t *testing.T) []byte {
		t.Helper()
		data, err := once()
		if err != nil {
			t.Fatal(err)
		}
		return data
	}
}

// emptyBook is the notebook of a first-time visitor.
var emptyBook = bookOf(func(*store.Store) error { return nil })

// aloneBook is the notebook of one who plays alone: a long line, a bend, a bass of four strings, seven strings.
var aloneBook = bookOf(func(s *store.Store) error {
	for _, l := range []lick.Lick{longLine(), bendLine(), bassLine(), sevenLine()} {
		if _, err := s.Add(context.Background(), l, "made"); err != nil {
			return err
		}
	}
	return nil
})

// tuned reads a tuning, which is written out here and cannot be wrong.
func tuned(text string) []music.Pitch {
	pitches, err := neck.ParseTuning(text)
	if err != nil {
		panic(err)
	}
	return pitches
}

// longLine is a line that is worked on in windows of bars.
func longLine() lick.Lick {
	l := testline.Wild(1200)
	l.Title = "A long evening"
	l.Tempo = 90
	l.Chords = []lick.Chord{{Len: lick.NewTime(75, 1), Name: "Am7"}}
	l.Key = lick.Key{Tonic: "A", Scale: "minor pentatonic"}
	return l
}

// bendLine has a full bend, held with vibrato, and its release.
func bendLine() lick.Lick {
	l := lick.New()
	l.Title = "Ice on the sluice"
	l.Key = lick.Key{Tonic: "A", Scale: "minor pentatonic"}
	full := &lick.Bend{Semitones: 2, Shape: lick.BendUp}
	l.Notes = []lick.Note{
		{Len: lick.NewTime(1, 4), String: 3, Fret: 5},
		{At: lick.NewTime(1, 4), Len: lick.NewTime(1, 2), String: 3, Fret: 7, Bend: full},
		{At: lick.NewTime(3, 4), Len: lick.NewTime(1, 4), String: 2, Fret: 5},
	}
	return l
}

// bassLine is for four strings.
func bassLine() lick.Lick {
	l := lick.New()
	l.Title = "Cellar stairs"
	l.Tuning = tuned("G2 D2 A1 E1")
	l.Key = lick.Key{Tonic: "E", Scale: "natural minor"}
	l.Chords = []lick.Chord{{Len: lick.NewTime(1, 1), Name: "Em7"}}
	for i, fret := range []int{0, 3, 5, 7, 5, 3, 2, 0} {
		l.Notes = append(
			l.Notes,
			lick.Note{At: lick.NewTime(int64(i), 8), Len: lick.NewTime(1, 8), String: 4 - i%2, Fret: fret},
		)
	}
	return l
}

// sevenLine is for seven strings.
func sevenLine() lick.Lick {
	l := lick.New()
	l.Title = "Under the floor"
	l.Tuning = tuned("E4 B3 G3 D3 A2 E2 B1")
	l.Key = lick.Key{Tonic: "B", Scale: "phrygian"}
	for i, fret := range []int{0, 1, 3, 0, 2, 3, 0, 2} {
		l.Notes = append(
			l.Notes,
			lick.Note{At: lick.NewTime(int64(i), 16), Len: lick.NewTime(1, 16), String: 7 - i/3, Fret: fret},
		)
	}
	return l
}
