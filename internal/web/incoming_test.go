package web

import (
	"archive/zip"
	"bytes"
	"net/url"
	"strings"
	"testing"

	"ornamen/core/lick"
	"ornamen/core/testline"
	"ornamen/format"
)

// twoLines is a score of a flute of three notes and a horn of two, without strings.
const twoLines = `<score-partwise version="4.0"><part-list><score-part id="P1"><part-name>Flute</part-name></score-part>
<score-part id="P2"><part-name>Horn</part-name></score-part></part-list>
<part id="P1"><measure number="1"><attributes><divisions>2</divisions></attributes>
<note><pitch><step>E</step><octave>4</octave></pitch><duration>2</duration></note>
<note><pitch><step>G</step><octave>4</octave></pitch><duration>2</duration></note>
<note><pitch><step>A</step><octave>4</octave></pitch><duration>4</duration></note></measure></part>
<part id="P2"><measure number="1"><note><pitch><step>C</step><octave>3</octave></pitch><duration>4</duration></note>
<note><pitch><step>D</step><octave>3</octave></pitch><duration>4</duration></note></measure></part></score-partwise>`

// A file that is not wholly understood is shown before it is saved: its lines to choose from,
// what was chosen; then it is taken with the title that the player gives.
func TestImportShowsFirst(t *testing.T) {
	c := newClient(t, boxLine(t, 2))
	before, _ := c.licks()
	res, body := c.upload("brook.musicxml", []byte(twoLines))
	if res.StatusCode != 200 || !strings.HasPrefix(res.Request.URL.Path, "/import/") {
		t.Fatalf("%d at %s", res.StatusCode, res.Request.URL)
	}
	for _, says := range []string{"“Flute”, 3 notes", "“Horn”, 2 notes", "the places were found for your hand",
		"Nothing is saved yet",
		`value="brook"`} {
		if !strings.Contains(body, says) {
			t.Errorf("%q is not shown", says)
		}
	}
	if after, _ := c.licks(); len(after) != len(before) {
		t.Error("it is saved before the player has said so")
	}
	at := res.Request.URL.Path
	if _, body := c.get(at + "?line=2"); !strings.Contains(body, "2 notes, 4/4") {
		t.Error("the other line is not shown")
	}
	if res, _ := c.post(at, url.Values{"line": {"2"}, "title": {"Horn by the brook"}}); res.StatusCode != 200 {
		t.Errorf("taking it: %d", res.StatusCode)
	}
	after, _ := c.licks()
	if last := after[0].Lick; len(after) != len(before)+1 || last.Title != "Horn by the brook" ||
		len(last.Notes) != 2 ||
		last.Pitch(0) != 48 {
		t.Errorf("%d licks, the last %s", len(after), last.Encode())
	}
	for path, status := range map[string]int{"/import/nothing": 422, at + "?line=9": 422, at + "?line=x": 422} {
		if res, _ := c.get(path); res.StatusCode != status {
			t.Errorf("%s: %d, want %d", path, res.StatusCode, status)
		}
	}
}

// Licks go out as a zip of files, all or those of a tag, and such a zip comes back: what can be
// read is added in one step, the rest is named.
func TestZipOfLicks(t *testing.T) {
	c := newClient(t, boxLine(t, 3))
	c.named("Lantern", "evening", 90)
	res, body := c.get("/notebook.zip?as=musicxml&tag=evening")
	z, err := zip.NewReader(strings.NewReader(body), int64(len(body)))
	if err != nil || len(z.File) != 1 || !strings.HasSuffix(z.File[0].Name, "lantern.musicxml") {
		t.Fatalf("%v %d %+v", err, res.StatusCode, z)
	}
	for path, status := range map[string]int{"/notebook.zip?as=doc": 422, "/notebook.zip?as=midi&tag=none": 422} {
		if res, _ := c.get(path); res.StatusCode != status {
			t.Errorf("%s: %d", path, res.StatusCode)
		}
	}
	var b bytes.Buffer
	w := zip.NewWriter(&b)
	midi, _ := format.ByName("midi")
	for name, data := range map[string]string{"a/brook.musicxml": twoLines, "readme.txt": "nothing to play",
		"own.mid": string(midi.Write(testline.Build(t, 90, "3:9 11 2:9")))} {
		f, _ := w.Create(name)
		f.Write([]byte(data))
	}
	w.Close()
	before, _ := c.licks()
	res, body = c.upload("some.zip", b.Bytes())
	for _, says := range []string{"readme.txt is left out", "3 notes, 4/4", "Add 2 to the notebook"} {
		if !strings.Contains(body, says) {
			t.Errorf("%q is not shown", says)
		}
	}
	c.post(res.Request.URL.Path, nil)
	after, _ := c.licks()
	if len(after) != len(before)+2 {
		t.Errorf("%d licks after %d", len(after), len(before))
	}
	for _, e := range after[:2] {
		if len(e.Lick.Notes) != 3 || e.Lick.Title == "" {
			t.Errorf("%s", e.Lick.Encode())
		}
	}
	// What is whole goes in at once.
	one := testline.Build(t, 90, "3:9 11 2:9")
	one.Title = "Alone"
	if res, _ := c.upload("alone.lick.json", lick.Lick.Encode(one)); !strings.HasPrefix(res.Request.URL.Path,
		"/licks/") {
		t.Errorf("a lick file leads to %s", res.Request.URL)
	}
}
