package runs_test

import (
	"testing"

	"ornamen/internal/web/webtest"
)

// The room's pages and answers are as they were recorded.
func TestRecorded(t *testing.T) {
	webtest.Demo(t).Recorded(
		webtest.Ask{Name: "page", Path: "/runs"},
		webtest.Ask{Name: "boxes", Path: "/runs?key=A+minor+pentatonic&layout=box&cell=3+2+1+4&move=1&count=16"},
		webtest.Ask{Name: "chords", Path: "/runs?key=G+major&layout=3nps&cell=1+3+5+8&move=chord&chords=1+4+5+1"},
		webtest.Ask{Name: "then", Path: "/runs?key=A+minor&cell=1+2+3&count=8t&times=4&dir=updown&pick=economy&repeat=2"},
		webtest.Ask{Name: "wrong", Path: "/runs?key=A+minor&cell=99"},
		webtest.Ask{Name: "words", Path: "/runs/words?key=A+minor+pentatonic&layout=box&cell=3+2+1+4&word=move"},
		webtest.Ask{Name: "typed", Path: "/runs/words?key=A+minor+pentatonic&layout=box&cell=3+2+1+4&word=key&typed=E"},
		webtest.Ask{Name: "no-word", Path: "/runs/words?key=A+minor+pentatonic&word=nothing"},
		webtest.Ask{Name: "find-recipe", Path: "/licks/1/recipe"},
		webtest.Ask{Name: "find-none", Path: "/licks/9/recipe"},
		webtest.Ask{Name: "lick", Path: "/runs/lick", Form: []string{
			"key", "A minor pentatonic", "layout", "box", "cell", "3 2 1 4", "move", "1",
		}},
		webtest.Ask{Name: "saved", Path: "/runs/saved", Form: []string{
			"key", "A minor pentatonic", "layout", "box", "cell", "3 2 1 4", "name", "Fours",
		}},
		webtest.Ask{Name: "nameless", Path: "/runs/saved", Form: []string{
			"key", "A minor pentatonic", "layout", "box", "cell", "3 2 1 4", "name", "",
		}},
		webtest.Ask{Name: "forget", Path: "/runs/saved/1/forget", Form: []string{}},
	)
}
