package handover

import (
	"archive/zip"
	"bytes"
	"context"
	"errors"
	"io"
	"regexp"
	"strings"
	"testing"

	"ornamen/core/judge"
	"ornamen/core/lick"
	"ornamen/core/player"
	"ornamen/core/testline"
	"ornamen/format"
)

var engine = judge.NewEngine(player.Default())

// of is a format by its name.
func of(t *testing.T, name string) format.Format {
	t.Helper()
	f, ok := format.ByName(name)
	if !ok {
		t.Fatal(name)
	}
	return f
}

// Where a file names no strings its pitches are laid where the engine finds them for the hand, and
// the remarks say so. Places that a file names stay.
func TestPlacesAreFound(t *testing.T) {
	l := testline.Build(t, 90, "3:5 7 2:5 8 1:5 8 5 2:8 5 3:7 5 4:7")
	score := of(t, "musicxml").Write(l)
	bare := regexp.MustCompile(`(?s)<notations>.*?</notations>`).ReplaceAll(score, nil)
	r, err := Read(t.Context(), engine, "x.musicxml", bare, 0)
	if err != nil || len(r.Lick.Notes) != len(l.Notes) || len(r.Chosen) != len(l.Notes) ||
		!strings.Contains(strings.Join(r.Remarks, " "), "names no strings") {
		t.Fatalf("%d notes, %q, %v", len(r.Lick.Notes), r.Remarks, err)
	}
	for i := range l.Notes {
		if r.Lick.Pitch(i) != l.Pitch(i) {
			t.Errorf("note %d has another pitch", i+1)
		}
	}
	checked, err := engine.Check(t.Context(), r.Lick)
	if err != nil || checked.Verdict == judge.Breaks {
		t.Errorf("it was laid where it breaks: %s, %v", checked.Verdict, err)
	}
	named, err := Read(t.Context(), engine, "x.musicxml", score, 0)
	if err != nil || len(named.Chosen) != 0 {
		t.Fatal(err)
	}
	for i, n := range named.Lick.Notes {
		if n.String != l.Notes[i].String || n.Fret != l.Notes[i].Fret {
			t.Errorf("note %d was moved from %v to %v", i+1, l.Notes[i].Place(), n.Place())
		}
	}
}

// A format that is only looked at shows the hands that were found; one that is read again keeps
// them open.
func TestHandsAreShown(t *testing.T) {
	l := testline.Build(t, 90, "3:5 7 2:5 8")
	write := func(f format.Format, bare bool) ([]byte, error) {
		var b bytes.Buffer
		err := Write(t.Context(), engine, &b, l, f, bare)
		return b.Bytes(), err
	}
	page, err := write(of(t, "svg"), false)
	if err != nil || !bytes.Contains(page, []byte(">1<")) || !bytes.Contains(page, []byte(">3<")) {
		t.Errorf("the drawing shows no fingers (%v)", err)
	}
	file, err := write(of(t, "json"), false)
	if err != nil || bytes.Contains(file, []byte("finger")) {
		t.Errorf("the lick file decides what was left open (%v)", err)
	}
	// Every other format shows what the screen shows, and none of it where bare is asked.
	for _, x := range []struct{ format, shown string }{
		{"tab", "finger 1"},
		{"mail", "1 3 1 4"},
		{"musicxml", "<fingering>"},
	} {
		full, err := write(of(t, x.format), false)
		bare, err2 := write(of(t, x.format), true)
		if err != nil || err2 != nil || !bytes.Contains(full, []byte(x.shown)) ||
			bytes.Contains(bare, []byte(x.shown)) {
			t.Errorf("%s: %v %v\n%s\n%s", x.format, err, err2, full, bare)
		}
	}
}

// A zip goes out and comes in again; what cannot be read is named beside what can; nothing, and
// too much sound, are refused; a page that goes ends it.
func TestPackAndUnpack(t *testing.T) {
	var b bytes.Buffer
	one, two := testline.Build(t, 90, "3:5 7 2:5 8"), testline.Build(t, 90, "1:5 8")
	one.Title, two.Title = "One", "Two"
	if err := Pack(t.Context(), engine, &b, []lick.Lick{one, two}, false, of(t, "musicxml")); err != nil {
		t.Fatal(err)
	}
	files, err := Unpack(t.Context(), engine, bytes.NewReader(b.Bytes()), int64(b.Len()))
	if err != nil || len(files) != 2 || files[0].Lick.Title != "One" || len(files[1].Lick.Notes) != 2 {
		t.Errorf("%+v %v", files, err)
	}
	var mixed bytes.Buffer
	z := zip.NewWriter(&mixed)
	for name, data := range map[string][]byte{"a.lick.json": one.Encode(), "b.mid": []byte("no"), ".hidden": nil} {
		w, err := z.Create(name)
		if err != nil {
			t.Fatal(err)
		}
		w.Write(data)
	}
	z.Close()
	files, err = Unpack(t.Context(), engine, bytes.NewReader(mixed.Bytes()), int64(mixed.Len()))
	read := 0
	for _, f := range files {
		if f.Err == nil {
			read++
		} else if strings.Contains(f.Err.Error(), "\n") {
			t.Errorf("%s: %v", f.Name, f.Err)
		}
	}
	if err != nil || len(files) != 2 || read != 1 {
		t.Errorf("%d of %d files were read, %v", read, len(files), err)
	}
	if err := Pack(t.Context(), engine, &b, nil, false, of(t, "json")); err == nil {
		t.Error("a zip of nothing was written")
	}
	endless := one.Clone()
	endless.Notes[3].At = lick.NewTime(10_000, 1)
	if err := Write(t.Context(), engine, io.Discard, endless, of(t, "wav"), false); err == nil ||
		!strings.Contains(err.Error(), "minutes") {
		t.Errorf("a sound of days: %v", err)
	}
	gone, leave := context.WithCancel(t.Context())
	leave()
	if _, err := Unpack(gone, engine, bytes.NewReader(b.Bytes()), int64(b.Len())); !errors.Is(err, context.Canceled) {
		t.Errorf("the page has gone: %v", err)
	}
}
