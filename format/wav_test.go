package format

import (
	"bytes"
	"context"
	"errors"
	"ornamen/format/sheet"
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
	var b bytes.Buffer
	if err := streamWAV(t.Context(), &b, lasting(1)); err != nil || string(b.Bytes()[:4]) != "RIFF" || b.Len() < 2*44100 {
		t.Errorf("a second of sound has %d bytes, %v", b.Len(), err)
	}
	// Whoever leaves ends it: of half an hour nothing more is computed.
	gone, leave := context.WithCancel(t.Context())
	leave()
	b.Reset()
	if err := streamWAV(gone, &b, lasting(1700)); !errors.Is(err, context.Canceled) || b.Len() > 1<<20 {
		t.Errorf("%d bytes for nobody, %v", b.Len(), err)
	}
	if _, err := Page(gone, sheet.Head{}, []lick.Lick{lasting(50)}); !errors.Is(err, context.Canceled) {
		t.Errorf("a page for nobody: %v", err)
	}
}
