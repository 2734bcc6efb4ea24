package player_test

import (
	"testing"

	"ornamen/internal/web/webtest"
)

// The room's pages and answers are as they were recorded.
func TestRecorded(t *testing.T) {
	c := webtest.Demo(t)
	for id := range uint(17) {
		if id > 1 { // two licks are enough to be judged anew
			if err := c.Store.Delete(t.Context(), id+1); err != nil {
				t.Fatal(err)
			}
		}
	}
	c.Recorded(
		webtest.Ask{Name: "page", Path: "/player", Then: "/player"},
		webtest.Ask{Name: "set", Path: "/player", Then: "/player", Form: []string{
			"tuning", "E4 B3 G3 D3 A2 E2", "gauges", "10 13 17 26w 36w 46w", "scale", "648", "frets", "22",
			"size", "small", "way", "alternate", "angle", "either", "boxes", "minor", "strict", "usual",
			"helpers", "many", "base", "{settings}",
		}},
		webtest.Ask{Name: "left", Path: "/player", Then: "/player", Form: []string{
			"tuning", "E4 B3 G3 D3 A2 E2", "gauges", "10 13 17 26w 36w 46w", "scale", "648", "frets", "22",
			"size", "medium", "way", "alternate", "angle", "either", "boxes", "minor", "strict", "usual",
			"helpers", "many", "base", "{settings}", "left", "true",
		}},
		webtest.Ask{Name: "frets", Path: "/player", Then: "/player", Form: []string{
			"tuning", "E4 B3 G3 D3 A2 E2", "gauges", "10 13 17 26w 36w 46w", "scale", "648", "frets", "24",
			"size", "medium", "way", "alternate", "angle", "either", "boxes", "minor", "strict", "usual",
			"helpers", "many", "base", "{settings}",
		}},
		webtest.Ask{Name: "sixteenths", Path: "/player", Then: "/player", Form: []string{
			"tuning", "E4 B3 G3 D3 A2 E2", "gauges", "10 13 17 26w 36w 46w", "scale", "648", "frets", "22",
			"size", "medium", "way", "alternate", "angle", "either", "boxes", "minor", "strict", "usual",
			"helpers", "many", "base", "{settings}", "sixteenths", "130",
		}},
		webtest.Ask{Name: "wrong", Path: "/player", Then: "/player", Form: []string{
			"tuning", "E4 B3 G3 D3 A2 E2", "gauges", "10 13 17 26w 36w 46w", "scale", "648", "frets", "two",
			"size", "medium", "way", "alternate", "angle", "either", "boxes", "minor", "strict", "usual",
			"helpers", "many", "base", "{settings}",
		}},
		webtest.Ask{Name: "older", Path: "/player", Then: "/player", Form: []string{
			"tuning", "E4 B3 G3 D3 A2 E2", "gauges", "10 13 17 26w 36w 46w", "scale", "648", "frets", "21",
			"size", "medium", "way", "alternate", "angle", "either", "boxes", "minor", "strict", "usual",
			"helpers", "many", "base", "1",
		}},
		webtest.Ask{Name: "undo", Path: "/player/undo", Then: "/player", Form: []string{"base", "{settings}"}},
		webtest.Ask{Name: "redo", Path: "/player/redo", Then: "/player", Form: []string{"base", "{settings}"}},
		webtest.Ask{Name: "reset", Path: "/player/reset", Then: "/player", Form: []string{"base", "{settings}"}},
		webtest.Ask{Name: "add", Path: "/player/people", Then: "/player", Form: []string{"do", "add", "name", "Tove Aldane"}},
		webtest.Ask{Name: "nobody", Path: "/player/people", Then: "/player", Form: []string{"do", "add", "name", ""}},
		webtest.Ask{Name: "rename", Path: "/player/people", Then: "/player", Form: []string{
			"do", "rename", "id", "2", "name", "Maro V.", "was", "Maro Velt",
		}},
		webtest.Ask{Name: "copy", Path: "/player/people", Then: "/player", Form: []string{"do", "copy", "id", "2"}},
		webtest.Ask{Name: "remove", Path: "/player/people", Then: "/player", Form: []string{"do", "remove", "id", "3"}},
		webtest.Ask{Name: "return", Path: "/player/people", Then: "/player", Form: []string{"do", "return", "id", "3"}},
		webtest.Ask{Name: "choose", Path: "/player/choose", Then: "/player", Form: []string{"key", "{who 2}"}},
		webtest.Ask{Name: "phones", Path: "/player/phones", Then: "/player", Form: []string{"do", "open"}},
	)
}
