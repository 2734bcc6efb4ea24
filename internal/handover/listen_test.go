package handover

import (
	"bytes"
	"strings"
	"testing"

	"ornamen/core/lick"
	"ornamen/core/neck"
	"ornamen/core/sound"
	"ornamen/core/testline"
)

// A line that was played becomes a lick at its tempo, with places for the hand, its slurs and its bend; a key that is
// given is kept; what is no recording, or no tempo, is refused in a sentence.
func TestListen(t *testing.T) {
	l := testline.Build(t, 96, "3:5*1/8 7*1/8 2:5*1/8 8*1/8 1:5*1/8 8*1/8 5*1/4")
	l.Notes[1].Slur = lick.Hammer
	l.Notes[6].Bend = &lick.Bend{Semitones: 2, Shape: lick.BendUp}
	var b bytes.Buffer
	if err := sound.WriteWAV(t.Context(), &b, sound.NewRenderer(neck.Standard(), l, sound.Options{})); err != nil {
		t.Fatal(err)
	}
	r, err := Listen(t.Context(), engine, b.Bytes(), 0, "A minor pentatonic")
	if err != nil {
		t.Fatal(err)
	}
	if len(r.Lick.Notes) != 7 || r.Lick.Tempo != 96 || r.Lick.Key.Tonic != "A" || r.Lick.Notes[6].Bend == nil ||
		len(r.Unsure) > 0 {
		t.Fatalf("%s\n%q", r.Lick.Encode(), r.Remarks)
	}
	for i, n := range r.Lick.Notes {
		if r.Lick.Pitch(i) != l.Pitch(i) || n.At.Cmp(l.Notes[i].At) != 0 {
			t.Errorf("note %d is %v at %s", i+1, r.Lick.Pitch(i), n.At)
		}
	}
	if got := testline.Written(r.Lick, nil); !strings.HasPrefix(got, "3:5") {
		t.Errorf("it lies at %s", got)
	}
	for _, x := range []struct {
		wav   []byte
		tempo float64
		key   string
		says  string
	}{
		{
			wav:   []byte("no"),
			tempo: 0,
			says:  "no recording",
		}, {wav: b.Bytes(), tempo: 5, says: "tempo"}, {wav: b.Bytes(), tempo: 0, key: "H minor", says: "H"},
	} {
		if _, err := Listen(t.Context(), engine, x.wav, x.tempo, x.key); err == nil ||
			!strings.Contains(err.Error(), x.says) ||
			strings.Contains(err.Error(), "\n") {
			t.Errorf("%v, want %q", err, x.says)
		}
	}
}
