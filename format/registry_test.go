package format

import (
	"bytes"
	"testing"

	"ornamen/core/lick"
	"ornamen/format/read"
)

// Every format is found by its name and by its file, and gives a simple line back.
func TestRegistry(t *testing.T) {
	l := lick.New()
	l.Title = "Barn"
	l.Notes = []lick.Note{{Len: lick.NewTime(1, 8), String: 2, Fret: 5, Finger: lick.Index, Stroke: lick.Down}}
	for _, f := range Formats() {
		if g, ok := ByName(f.Name); !ok || g.Ending != f.Ending {
			t.Errorf("%s is not found by its name", f.Name)
		}
		if g, err := ByFile("a lick" + f.Ending); err != nil || g.Name != f.Name {
			t.Errorf("%s is not found by its file: %v", f.Name, err)
		}
		if f.Read == nil {
			var b bytes.Buffer
			if err := f.To(t.Context(), &b, l); err != nil {
				t.Fatal(err)
			}
			if _, err := Import("a"+f.Ending, b.Bytes(), read.Request{}); err == nil || b.Len() == 0 {
				t.Errorf("%s is read, or empty", f.Name)
			}
			continue
		}
		r, err := f.Read(f.Write(l), read.Request{})
		back := r.Lick
		if err != nil || len(back.Notes) != 1 || back.Notes[0].Place() != l.Notes[0].Place() || back.Title != "Barn" {
			t.Errorf("%s gives back %+v, %v", f.Name, back, err)
		}
		if d := Detect("from somewhere", f.Write(l)); d.Name != f.Name && f.Name != "mail" {
			t.Errorf("%s is taken for %s", f.Name, d.Name)
		}
	}
	if _, err := ByFile("a.doc"); err == nil {
		t.Error("a .doc is a lick")
	}
}
