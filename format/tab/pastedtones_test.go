package tab

import (
	"strings"
	"testing"

	"ornamen/format/read"
)

// Headings that the program writes itself are read in a pasted tab: tones that are added and left out.
func TestPastedTones(t *testing.T) {
	text := "Quarry\nAdded: 9 b5@down\nKey: A minor pentatonic\nDropped: 4\n\n" +
		"e|--5--7--|\nB|--------|\nG|--------|\nD|--------|\nA|--------|\nE|--------|\n"
	r, err := Decode([]byte(text), read.Request{})
	if err != nil {
		t.Fatal(err)
	}
	k := r.Lick.Key
	if k.Tonic != "A" || strings.Join(k.Add, " ") != "9 b5@down" || strings.Join(k.Drop, " ") != "4" {
		t.Errorf("the key is %+v", k)
	}
	for _, remark := range r.Remarks {
		if strings.Contains(remark, "not read") {
			t.Errorf("it says %q", remark)
		}
	}
}
