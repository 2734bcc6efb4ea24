package format

import (
	"bytes"
	"math/rand/v2"
	"testing"

	"ornamen/core/lick"
	"ornamen/core/testline"
	"ornamen/format/read"
)

// Every format that holds all of a lick gives every lick back as it was.
func TestRoundTrip(t *testing.T) {
	rng := rand.New(rand.NewPCG(11, 25))
	done := 0
	for done < 600 {
		l, err := lick.Parse(testline.Random(rng).Encode())
		if err != nil {
			continue // notes that overlap on a string, say
		}
		done++
		for _, f := range Formats() {
			if f.Holds != All {
				continue
			}
			text := f.Write(l)
			r, err := f.Read(text, read.Request{})
			back := r.Lick
			if err != nil || len(r.Remarks) > 0 {
				t.Fatalf("%s: %v %v\n%s", f.Name, err, r.Remarks, text)
			}
			if !bytes.Equal(l.Encode(), back.Encode()) {
				t.Fatalf("%s:\n%s\nis written\n%s\nand comes back as\n%s", f.Name, l.Encode(), text, back.Encode())
			}
		}
	}
}
