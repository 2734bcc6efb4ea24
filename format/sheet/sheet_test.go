package sheet

import (
	"encoding/xml"
	"errors"
	"io"
	"math/rand/v2"
	"strings"
	"testing"

	"ornamen/core/lick"
	"ornamen/core/neck"
	"ornamen/core/testline"
)

// wellFormed reads all of a file as XML and gives its text.
func wellFormed(t *testing.T, data []byte) string {
	t.Helper()
	d := xml.NewDecoder(strings.NewReader(string(data)))
	d.Strict = true
	d.Entity = xml.HTMLEntity
	var text strings.Builder
	for {
		tok, err := d.Token()
		if errors.Is(err, io.EOF) {
			return text.String()
		}
		if err != nil {
			t.Fatalf("%v in\n%s", err, data)
		}
		if c, ok := tok.(xml.CharData); ok {
			text.Write(c)
			text.WriteByte(' ')
		}
	}
}

// Every lick is drawn as XML that can be read, with each fret in it, whatever its title holds;
// the page for the stand holds the drawing, the tones and the cautions.
func TestDrawings(t *testing.T) {
	rng := rand.New(rand.NewPCG(3, 9))
	for range 60 {
		l := testline.Random(rng)
		l.Title += `</title><script>"x"`
		wellFormed(t, Drawing(l))
	}
	l := lick.New()
	l.Title, l.Key = "Lantern & co", lick.Key{Tonic: "C#", Scale: "minor pentatonic"}
	for i, at := range []neck.Place{{String: 3, Fret: 11}, {String: 1, Fret: 9}, {String: 2, Fret: 12}} {
		l.Notes = append(
			l.Notes,
			lick.Note{At: lick.NewTime(int64(i), 8), Len: lick.NewTime(1, 8), String: at.String, Fret: at.Fret,
				Finger: lick.Ring, Stroke: lick.Down, Bend: &lick.Bend{Semitones: 2, Shape: lick.BendRelease}},
		)
	}
	text := wellFormed(t, Drawing(l))
	for _, want := range []string{"Lantern & co", "11", "9", "12", "full ↓", "3", "finger"} {
		if !strings.Contains(text, want) {
			t.Errorf("%q is not drawn: %s", want, text)
		}
	}
	page := string(Page(l))
	for _, want := range []string{"<h1>Lantern &amp; co</h1>", "<svg", "♭3 E", "stop and rest", "100 quarters"} {
		if !strings.Contains(page, want) {
			t.Errorf("%q is not on the page", want)
		}
	}
}
