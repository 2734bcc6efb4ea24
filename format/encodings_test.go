package format

import (
	"archive/zip"
	"bytes"
	"context"
	"errors"
	"fmt"
	"strings"
	"testing"

	"golang.org/x/text/encoding/charmap"
	"golang.org/x/text/encoding/unicode"

	"ornamen/core/lick"
	"ornamen/core/testline"
	"ornamen/format/musicxml"
	"ornamen/format/read"
)

// encoded is a text in the encodings that programs write.
func encoded(t *testing.T, text string) map[string][]byte {
	t.Helper()
	out := map[string][]byte{"UTF-8": []byte(text), "a mark": []byte("\ufeff" + text),
		"two marks": []byte("\ufeff\ufeff" + text),
		"CR":        []byte(strings.ReplaceAll(text, "\n", "\r")), "CR LF": []byte(strings.ReplaceAll(text, "\n", "\r\n"))}
	for name, e := range map[string]unicode.Endianness{"UTF-16 LE": unicode.LittleEndian, "UTF-16 BE": unicode.BigEndian} {
		for mark, policy := range map[string]unicode.BOMPolicy{"": unicode.IgnoreBOM, " with a mark": unicode.UseBOM} {
			data, err := unicode.UTF16(e, policy).NewEncoder().Bytes([]byte(text))
			if err != nil {
				t.Fatal(err)
			}
			out[name+mark] = data
		}
	}
	return out
}

// A tab is the same line in whatever encoding it was saved and however its lines end.
func TestTabEncodings(t *testing.T) {
	text := "Café blues\n\ne|--5--8--|\nB|--5--8--|\nG|--5--7--|\nD|--------|\nA|--------|\nE|--------|\n"
	latin, err := charmap.ISO8859_1.NewEncoder().String(text)
	if err != nil {
		t.Fatal(err)
	}
	all := encoded(t, text)
	all["Latin-1"] = []byte(latin)
	for name, data := range all {
		r, err := Import("x.tab", data, read.Request{})
		if err != nil || len(r.Lick.Notes) != 6 || len(r.Lick.Tuning) != 6 || r.Lick.Notes[0].Fret != 5 {
			t.Errorf("%s: %v, %d notes on %d strings", name, err, len(r.Lick.Notes), len(r.Lick.Tuning))
		}
	}
}

// A score is read in UTF-16 and in Latin-1, with a mark and without; an encoding that is none is
// refused in a sentence.
func TestMusicXMLEncodings(t *testing.T) {
	l := testline.Build(t, 100, "3:7 5 2:5 8")
	l.Title = "Café blues"
	text := string(musicxml.Encode(l))
	if !strings.Contains(text, `encoding="UTF-8"`) {
		t.Fatalf("%.100s", text)
	}
	wide := encoded(t, strings.Replace(text, `encoding="UTF-8"`, `encoding="UTF-16"`, 1))
	delete(wide, "UTF-8") // a wrong label is read too, but means nothing here
	delete(wide, "a mark")
	all := encoded(t, text)
	for name, data := range wide {
		all["labelled "+name] = data
	}
	for _, label := range []string{"ISO-8859-1", "windows-1252"} {
		latin, err := charmap.Windows1252.NewEncoder().String(strings.Replace(text, "UTF-8", label, 1))
		if err != nil {
			t.Fatal(err)
		}
		all[label] = []byte(latin)
	}
	for name, data := range all {
		r, err := Import("x.musicxml", data, read.Request{})
		if err != nil || len(r.Lick.Notes) != 4 || r.Lick.Title != "Café blues" {
			t.Errorf("%s: %v, %q with %d notes", name, err, r.Lick.Title, len(r.Lick.Notes))
		}
	}
	_, err := Import("x.musicxml", []byte(strings.Replace(text, "UTF-8", "KLINGON", 1)), read.Request{})
	if err == nil || !strings.Contains(err.Error(), "an encoding that is not known") {
		t.Errorf("%v", err)
	}
}

// Voices that meet on one string are read: a note ends where the next one there begins, of two
// that begin together one stays, and the remarks say so in a player's words.
func TestPolyphony(t *testing.T) {
	note := func(str, fret, length int, more string) string {
		return fmt.Sprintf(`<note>%s<pitch><step>E</step><octave>4</octave></pitch><duration>%d</duration><notations>`+
			`<technical><string>%d</string><fret>%d</fret></technical></notations></note>`, more, length, str, fret)
	}
	score := `<score-partwise><part id="P1"><measure number="1"><attributes><divisions>4</divisions></attributes>` +
		note(1, 0, 16, "") + `<backup><duration>12</duration></backup>` + note(1, 5, 4, "") + note(2, 5, 8, "") +
		`<backup><duration>8</duration></backup>` + note(2, 7, 4, "") + `</measure></part></score-partwise>`
	r, err := Import("x.musicxml", []byte(score), read.Request{})
	if err != nil {
		t.Fatal(err)
	}
	said := strings.Join(r.Remarks, " ")
	if len(r.Lick.Notes) != 3 || r.Lick.Notes[0].Len.String() != "1/4" || !strings.Contains(said, "1 note shortened") ||
		!strings.Contains(said, "Left out: 1 note whose string sounds another one") {
		t.Errorf("%s\n%s", said, r.Lick.Encode())
	}
}

// What is too much over several files is refused together, and soon: packed scores within a zip,
// a score of sixty thousand parts; a page that goes ends the reading.
func TestTooMuchTogether(t *testing.T) {
	var score, all bytes.Buffer
	inner := zip.NewWriter(&score)
	w, err := inner.Create("score.xml")
	if err != nil {
		t.Fatal(err)
	}
	w.Write(bytes.Repeat([]byte(" "), 15<<20))
	inner.Close()
	outer := zip.NewWriter(&all)
	for n := range 100 {
		if w, err = outer.Create(fmt.Sprintf("%03d.mxl", n)); err != nil {
			t.Fatal(err)
		}
		w.Write(score.Bytes())
	}
	outer.Close()
	files, err := Unpack(t.Context(), bytes.NewReader(all.Bytes()), int64(all.Len()), read.Request{})
	if err != nil && !strings.Contains(err.Error(), "unpacks to more than") {
		t.Error(err)
	}
	refused := 0
	for _, f := range files {
		if f.Err != nil {
			refused++
		}
	}
	if refused < len(files) {
		t.Errorf("%d of %d scores of spaces were read", len(files)-refused, len(files))
	}
	gone, leave := context.WithCancel(t.Context())
	leave()
	_, err = Unpack(gone, bytes.NewReader(all.Bytes()), int64(all.Len()), read.Request{})
	if !errors.Is(err, context.Canceled) {
		t.Errorf("the page has gone: %v", err)
	}
	parts := "<score-partwise><part-list>" + strings.Repeat(`<score-part id="P1"/>`, 60_000) + "</part-list>"
	if _, err := Import("x.xml", []byte(parts), read.Request{}); err == nil ||
		!strings.Contains(err.Error(), "more than 500 parts") {
		t.Errorf("%v", err)
	}
}

// Two notes that lie years apart are no file of a million bars.
func TestFewBars(t *testing.T) {
	l := testline.Build(t, 100, "3:7 5")
	for at, fits := range map[int64]bool{19_000: true, 999_999: false} {
		l.Notes[1].At = lick.NewTime(at, 1)
		for _, name := range []string{"musicxml", "mxl", "midi"} {
			f, _ := ByName(name)
			if err := f.Fits([]lick.Lick{l}); (err == nil) != fits {
				t.Errorf("%s of %d bars: %v", name, at, err)
			}
		}
	}
}
