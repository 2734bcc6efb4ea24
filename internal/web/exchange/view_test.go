package exchange

import (
	"testing"

	"ornamen/core/lick"
	"ornamen/core/testline"
)

// The setting of a line says what differs from the usual, and the first eight chords.
func TestSettingOf(t *testing.T) {
	l := testline.Read(t, "A minor pentatonic", "3:5 7 2:5 8")
	l.Tempo = 96
	if got, want := settingOf(l), "4 notes, 4/4, 96 quarters a minute, A minor pentatonic"; got != want {
		t.Errorf("%q, not %q", got, want)
	}
	l.Feel, l.Key = lick.Shuffle, lick.Key{}
	l.Chords = []lick.Chord{
		{Len: lick.NewTime(1, 1), Name: "Bbm7"},
		{At: lick.NewTime(1, 1), Len: lick.NewTime(1, 1), Name: "Eb7"},
	}
	if got, want := settingOf(l), "4 notes, 4/4, 96 quarters a minute, shuffle, over B♭m7 E♭7"; got != want {
		t.Errorf("%q, not %q", got, want)
	}
}

// A remark that names a line shows it, unless the line says itself that it is not read.
func TestRemarks(t *testing.T) {
	u := upload{"a.tab", []byte("first\nsecond  \nthird")}
	got := remarksOn(
		u,
		[]string{"line 2 has an odd sign.", "line 9 is long.", "line 1 is not read.", "no key is written."},
	)
	for i, want := range []remark{{Text: "Line 2 has an odd sign.", Line: "second"}, {Text: "Line 9 is long."},
		{Text: "Line 1 is not read."}, {Text: "No key is written."}} {
		if got[i] != want {
			t.Errorf("%+v, not %+v", got[i], want)
		}
	}
}
