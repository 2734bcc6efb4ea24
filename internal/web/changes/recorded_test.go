package changes_test

import (
	"testing"

	"ornamen/internal/web/webtest"
)

// The room's pages and answers are as they were recorded.
func TestRecorded(t *testing.T) {
	webtest.Demo(t).Recorded(
		webtest.Ask{Name: "page", Path: "/changes"},
		webtest.Ask{Name: "lick", Path: "/licks/8/changes"},
		webtest.Ask{Name: "none", Path: "/licks/1/changes"},
		webtest.Ask{Name: "backing", Path: "/backing?over=Am7+|+D7+|+Gmaj7&key=G+major&tempo=92"},
		webtest.Ask{Name: "backing-wrong", Path: "/backing?over=Xyz&key=G+major&tempo=92"},
		webtest.Ask{Name: "backing-keep", Path: "/backing", Form: []string{
			"over", "Am7 | D7", "key", "G major", "tempo", "92",
		}},
		webtest.Ask{Name: "chord", Path: "/licks/8/changes?chord=2&by=chord&fret=7"},
		webtest.Ask{Name: "chords", Path: "/licks/1/changes", Form: []string{
			"rev", "{rev 1}", "do", "chords", "value", "Am7 D7 | Gmaj7",
		}},
		webtest.Ask{Name: "after", Path: "/licks/1/changes"},
		webtest.Ask{Name: "move", Path: "/licks/1/changes", Form: []string{
			"rev", "{rev 1}", "do", "move", "value", "double",
		}},
		webtest.Ask{Name: "fix", Path: "/licks/8/changes", Form: []string{
			"rev", "{rev 8}", "do", "fix", "value", "1",
		}},
		webtest.Ask{Name: "wrong", Path: "/licks/1/changes", Form: []string{
			"rev", "{rev 1}", "do", "chords", "value", "Xyz",
		}},
		webtest.Ask{Name: "saved", Path: "/licks/1/changes/saved", Form: []string{"name", "Harbour"}},
		webtest.Ask{Name: "forget", Path: "/changes/saved/1/forget", Form: []string{}},
	)
}
