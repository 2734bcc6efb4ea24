package format

import (
	"strings"
	"testing"

	"ornamen/core/lick"
)

// A file of sound has room for half an hour, of one lick or of several together.
func TestSoundsShort(t *testing.T) {
	lasting := func(bars int64) lick.Lick {
		l := lick.New()
		l.Tempo = 240 // a bar of four quarters a second
		l.Notes = []lick.Note{{Len: lick.NewTime(bars, 1), String: 3, Fret: 5}}
		return l
	}
	for _, c := range []struct {
		licks []lick.Lick
		want  string
	}{
		{[]lick.Lick{lasting(1)}, ""},
		{[]lick.Lick{lasting(1800)}, ""},
		{[]lick.Lick{lasting(1860)}, "31 minutes"},
		{[]lick.Lick{lasting(1200), lasting(1200)}, "40 minutes"},
		{nil, ""},
	} {
		err := soundsShort(c.licks)
		if (err == nil) != (c.want == "") || err != nil && !strings.Contains(err.Error(), c.want) {
			t.Errorf("%d licks: %v, want %q", len(c.licks), err, c.want)
		}
	}
	if data := encodeWAV(lasting(1)); string(data[:4]) != "RIFF" || len(data) < 2*44100 {
		t.Errorf("a second of sound has %d bytes", len(data))
	}
}
