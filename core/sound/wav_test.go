package sound

import (
	"bytes"
	"math"
	"testing"

	"ornamen/core/lick"
	"ornamen/core/neck"
)

// A recording that we write is read again; what is none is refused.
func TestReadWAV(t *testing.T) {
	l := lick.New()
	l.Notes = []lick.Note{{Len: lick.NewTime(1, 4), String: 2, Fret: 5}}
	var b bytes.Buffer
	if err := WriteWAV(t.Context(), &b, NewRenderer(neck.Standard(), l, Options{})); err != nil {
		t.Fatal(err)
	}
	samples, rate, err := ReadWAV(b.Bytes())
	want := make([]float32, len(samples)+1)
	n := NewRenderer(neck.Standard(), l, Options{}).Read(want)
	if err != nil || rate != Rate || len(samples) != n {
		t.Fatalf("%v %d, %d samples of %d", err, rate, len(samples), n)
	}
	for i, x := range samples {
		if math.Abs(float64(x-want[i])) > 1e-4 {
			t.Fatalf("sample %d is %g, was %g", i, x, want[i])
		}
	}
	for _, bad := range [][]byte{nil, b.Bytes()[:20], []byte("RIFF....WAVEfmt "), bytes.Repeat([]byte("x"), 100)} {
		if _, _, err := ReadWAV(bad); err == nil {
			t.Errorf("%.20q is a recording", bad)
		}
	}
}

func FuzzReadWAV(f *testing.F) {
	f.Add(
		[]byte(
			"RIFF\x00\x00\x00\x00WAVEfmt \x10\x00\x00\x00\x01\x00\x01\x00" +
				"\x44\xac\x00\x00\x88\x58\x01\x00\x02\x00\x10\x00data\x04\x00\x00\x00\x01\x00\x02\x00",
		),
	)
	f.Fuzz(func(t *testing.T, data []byte) {
		samples, rate, err := ReadWAV(data)
		if err == nil && rate > 0 && len(samples) > 4*len(data) {
			t.Error("more samples than bytes")
		}
	})
}

// The click is on every beat, on 2 and 4, or leaves out each second bar, however the rounds of a
// loop are asked for.
func TestClicks(t *testing.T) {
	l := lick.New()
	l.Tempo = 120
	l.Notes = []lick.Note{{Len: lick.NewTime(2, 1), String: 6, Fret: 0, Mute: true}} // two silent bars
	loud := func(o Options) (out string) {
		o.Click, o.Levels = true, &Levels{Click: 1}
		p := NewRenderer(neck.Standard(), l, o)
		all := make([]float32, p.Len())
		p.Read(all)
		for beat := range 8 * max(1, o.Rounds) {
			most := float32(0)
			for _, x := range all[beat*Rate/2 : beat*Rate/2+Rate/20] {
				most = max(most, x)
			}
			if most > 0.05 {
				out += "x"
			} else {
				out += "."
			}
		}
		return out
	}
	for _, c := range []struct {
		o    Options
		want string
	}{
		{Options{}, "xxxxxxxx"}, {Options{Clicks: Backbeat}, ".x.x.x.x"}, {Options{Clicks: DropsOut}, "xxxx...."},
		{Options{Clicks: DropsOut, Rounds: 2}, "xxxx....xxxx...."}, {Options{Clicks: DropsOut, Before: 1}, "....xxxx"},
	} {
		if got := loud(c.o); got != c.want {
			t.Errorf("%+v: %s, want %s", c.o, got, c.want)
		}
	}
	if _, err := ParseClicks("three"); err == nil {
		t.Error("there is a click on three")
	}
}
