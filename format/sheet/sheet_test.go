package sheet

import (
	"encoding/base64"
	"encoding/xml"
	"errors"
	"io"
	"math"
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
			lick.Note{
				At:     lick.NewTime(int64(i), 8),
				Len:    lick.NewTime(1, 8),
				String: at.String,
				Fret:   at.Fret,
				Finger: lick.Ring,
				Stroke: lick.Down,
				Bend:   &lick.Bend{Semitones: 2, Shape: lick.BendRelease},
			},
		)
	}
	text := wellFormed(t, Drawing(l))
	for _, want := range []string{"Lantern & co", "11", "9", "12", "full ↓", "3", "finger"} {
		if !strings.Contains(text, want) {
			t.Errorf("%q is not drawn: %s", want, text)
		}
	}
	page := string(Page(Head{}, Sounding{Lick: l}))
	for _, want := range []string{"<h1>Lantern &amp; co</h1>", "<svg", "♭3 E", "stop and rest", "100 quarters"} {
		if !strings.Contains(page, want) {
			t.Errorf("%q is not on the page", want)
		}
	}
}

// A length is drawn as the note that has it (common practice: a dot adds half, three in the time of two, five
// and seven in the time of four); what no single note has is left to a fraction.
func TestNoteValues(t *testing.T) {
	for _, x := range []struct {
		num, den int64
		want     note
		ok       bool
	}{
		{
			num:  1,
			den:  1,
			want: note{base: 1},
			ok:   true,
		}, {num: 1, den: 4, want: note{base: 4}, ok: true}, {num: 1, den: 32, want: note{base: 32}, ok: true},
		{
			num:  3,
			den:  8,
			want: note{base: 4, dotted: true},
			ok:   true,
		}, {num: 3, den: 16, want: note{base: 8, dotted: true}, ok: true},
		{
			num:  1,
			den:  12,
			want: note{base: 8, group: 3},
			ok:   true,
		}, {num: 1, den: 24, want: note{base: 16, group: 3}, ok: true},
		{num: 1, den: 6, want: note{base: 4, group: 3}, ok: true},
		{
			num:  1,
			den:  20,
			want: note{base: 16, group: 5},
			ok:   true,
		}, {num: 1, den: 28, want: note{base: 16, group: 7}, ok: true},
		{num: 5, den: 16, want: note{}}, {num: 1, den: 128, want: note{}},
	} {
		if got, ok := noteOf(lick.NewTime(x.num, x.den)); got != x.want || ok != x.ok {
			t.Errorf("%d/%d is %+v, %v", x.num, x.den, got, ok)
		}
	}
}

// What is packed for a page comes back nearly as it was: within a few percent of a loud tone (IMA ADPCM; unpacked here
// as the page's script does).
func TestPackedSound(t *testing.T) {
	const n = 4000
	x := make([]float32, n)
	for i := range x {
		x[i] = float32(0.6 * math.Sin(2*math.Pi*float64(i)*440/22050) * math.Exp(-float64(i)/3000))
	}
	data, err := base64.StdEncoding.DecodeString(packed(x))
	if err != nil || len(data) != n/2 {
		t.Fatal(err, len(data))
	}
	last, index, off, power := 0, 0, 0.0, 0.0
	for i := range x {
		code := int(data[i/2]) >> (4 * (i % 2)) & 15
		step := adpcmSteps[index]
		by := step >> 3
		for k, bit := range []int{4, 2, 1} {
			if code&bit != 0 {
				by += step >> k
			}
		}
		if code&8 != 0 {
			by = -by
		}
		last = max(-32768, min(32767, last+by))
		index = max(0, min(88, index+adpcmIndex[code&7]))
		d := float64(last)/32768 - float64(x[i])
		if i > 200 { // the step has grown to the sound
			off, power = off+d*d, power+float64(x[i])*float64(x[i])
		}
	}
	if db := 10 * math.Log10(off/power); db > -28 {
		t.Errorf("the error lies %.1f dB below the sound", -db)
	}
	if s := string(Page(Head{}, Sounding{
		Lick:  lick.New(),
		Rate:  22050,
		Takes: []Take{{Speed: 100, Samples: x, At: []float64{0}, Round: 1}},
	})); !strings.Contains(s,
		`data-speed="100"`) || strings.Contains(s, "src=") || strings.Contains(s, "url(") ||
		strings.Contains(s, "<link") {
		t.Errorf("the page needs something beside it")
	}
}
