package changes

import (
	"testing"
)

// A tone that is added over the dominant alone is no tone of the other chords.
func TestAddOver(t *testing.T) {
	l := over(t, "C major", "Dm7 | G7 | C", "2:1*1/1 3:1*1/1 2:1*1/1") // C, A♭ and C
	if got := Read(l).Notes[1].Role; got != Outside {
		t.Fatalf("the ♭9 is %s before it is added", got)
	}
	out, err := AddOver(l, "V7: b6")
	if err != nil {
		t.Fatal(err)
	}
	if n := Read(out).Notes[1]; n.Role != Tension || len(out.Keys) != 2 || len(out.KeyAt(out.Notes[2].At).Add) != 0 {
		t.Errorf("%+v %v", n, out.Keys)
	}
	if back, err := AddOver(out, "G7:"); err != nil || len(back.Keys) != 0 {
		t.Errorf("%v %v", err, back.Keys)
	}
	for _, bad := range []string{"", "G7", "Am7: b9", "G7: x", "zz: 9"} {
		if _, err := AddOver(l, bad); err == nil {
			t.Errorf("%q adds a tone", bad)
		}
	}
}
