package propose

import (
	"encoding/json"
	"os"
	"strconv"
	"testing"

	"ornamen/core/lick"
)

// What is recommended for a line is what the search of the fretting hand finds usual: the lines with
// the fingers most players write (common practice) come out here as they do there.
func TestRecommendedIsUsual(t *testing.T) {
	data, err := os.ReadFile("../hand/testdata/hands.json")
	if err != nil {
		t.Fatal(err)
	}
	var lines []struct {
		Name    string
		Notes   [][2]int
		Fingers [][]int
	}
	if err := json.Unmarshal(data, &lines); err != nil {
		t.Fatal(err)
	}
	whole := 0
	for _, x := range lines {
		l := lick.New()
		l.Tempo = 80
		for i, n := range x.Notes {
			l.Notes = append(l.Notes, lick.Note{At: lick.NewTime(int64(i), 16), Len: lick.NewTime(1, 16), String: n[0],
				Fret: n[1]})
		}
		got, usual := propose(usual, l, Request{})[0].Lick, false
		for _, want := range x.Fingers {
			same := true
			for i, n := range got.Notes {
				same = same && n.Finger.String() == strconv.Itoa(want[i])
			}
			usual = usual || same
		}
		if usual {
			whole++
		} else {
			fingers, _ := hands(got)
			t.Logf("%s: %s, usual is %v", x.Name, fingers, x.Fingers[0])
		}
	}
	if whole < 54 {
		t.Errorf("%d of %d lines whole", whole, len(lines))
	}
}
