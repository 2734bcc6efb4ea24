package judge

import (
	"testing"

	"ornamen/core/player"
	"ornamen/core/testline"
)

// A line has at most two hands over the tempos, fingers and strokes, and one tempo where they change, which the report
// says: below it and at it the taught ones, above it the others, and never back.
func TestHandsOverTempos(t *testing.T) {
	e := NewEngine(player.Default())
	changed := 0
	for _, line := range []string{
		"6:5 8 5:5 7 4:5 7 3:5 7 2:5 8 1:5 8",
		"6:5 7 8 5:5 7 8 4:5 7 9 3:5 7 9 2:6 8 10 1:7 8 10",
		"1:12 10 8 2:12 10 8 3:12 10 9 4:12 10 9",
		"3:5 7 2:5 8 3:7 9 2:8 10 3:9 12 2:10 13 3:12 14 2:13 15",
		"6:6 5:5 5:8 4:6 5:8 5:5 6:11 5:10 5:13 4:11 5:13 5:10",
		"6:4 7 5:4 7 4 6:7 6:7 9 5:7 9 7 6:9 6:9 12 5:9 11 9 6:12",
		"5:12 15 4:14 3:12 2:13 1:12 17 12 2:13 3:12 4:14",
		"6:5 4:7 6:7 4:9 6:8 4:10 6:10 4:12",
		"3:9 2:10 1:8 2:10 3:9 2:10 1:8 2:10",
		"2:8 10/s 12 10 8 1:8 10/s 12 10 8",
		"1:5 8/h 5/p 2:8 5/p 3:7 5/p 4:7 5/p",
		"5:7 9 10 4:7 9 10 3:7 9 11 2:8 10 12 1:8 10 12",
		"6:1 2 3 4 5:1 2 3 4 4:1 2 3 4 3:1 2 3 4",
		"4:5 2:8 4:7 2:10 4:9 2:12 4:10 2:13",
	} {
		var ids []string
		var said []int
		for tempo := 50.0; tempo <= 220; tempo += 5 {
			l := testline.Build(t, tempo, line)
			r, err := e.Check(t.Context(), l)
			if err != nil {
				t.Fatal(err)
			}
			id := HandsID(r.Lick)
			if len(ids) == 0 || ids[len(ids)-1] != id {
				ids = append(ids, id)
			}
			if r.Taught > 0 {
				said = append(said, r.Taught.Whole())
				if tempo <= float64(r.Taught) {
					t.Errorf("%s: at %v other hands than the taught ones are proposed, which are clean up to %v", line, tempo,
						r.Taught)
				}
			}
		}
		if len(ids) > 2 {
			t.Errorf("%s: %d hands over the tempos", line, len(ids))
		}
		if len(ids) == 2 {
			changed++
		}
		if (len(ids) == 2) != (len(said) > 0) {
			t.Errorf("%s: %d hands, and the change is said %d times", line, len(ids), len(said))
		}
		for _, s := range said {
			if s != said[0] {
				t.Errorf("%s: they change at %d and at %d", line, said[0], s)
			}
		}
	}
	if changed == 0 {
		t.Error("no line has a faster hand, so that nothing is tried")
	}
}
