package practice_test

import (
	"testing"

	"ornamen/internal/web/webtest"
)

// The room's pages and answers are as they were recorded.
func TestRecorded(t *testing.T) {
	webtest.Demo(t).Until("/practice", "data-line").Recorded(
		webtest.Ask{Name: "page", Path: "/practice"},
		webtest.Ask{Name: "hour", Path: "/practice?minutes=60"},
		webtest.Ask{Name: "short", Path: "/practice?minutes=5"},
		webtest.Ask{Name: "stand", Path: "/practice?lick=1&part="},
		webtest.Ask{Name: "set", Path: "/practice?set=1"},
		webtest.Ask{Name: "clean", Path: "/practice", Form: []string{
			"lick", "1", "part", "", "tempo", "80", "do", "clean", "seconds", "20",
		}},
		webtest.Ask{Name: "miss", Path: "/practice", Form: []string{
			"lick", "1", "part", "", "tempo", "80", "do", "miss", "seconds", "20",
		}},
		webtest.Ask{Name: "undo", Path: "/practice", Form: []string{
			"lick", "1", "part", "", "tempo", "80", "do", "undo",
		}},
		webtest.Ask{Name: "redo", Path: "/practice", Form: []string{
			"lick", "1", "part", "", "tempo", "80", "do", "redo",
		}},
		webtest.Ask{Name: "hurts", Path: "/practice", Form: []string{
			"lick", "1", "part", "", "tempo", "80", "do", "hurts",
		}},
		webtest.Ask{Name: "well", Path: "/practice", Form: []string{
			"lick", "1", "part", "", "tempo", "80", "do", "well",
		}},
		webtest.Ask{Name: "tense", Path: "/practice", Form: []string{
			"lick", "1", "part", "", "tempo", "80", "do", "tense",
		}},
		webtest.Ask{Name: "done", Path: "/practice", Form: []string{
			"lick", "1", "part", "", "tempo", "80", "do", "done",
		}},
		webtest.Ask{Name: "heard-line", Path: "/practice/line?lick=1&part=&tempo=60&simulate=0", Form: []string{}},
		webtest.Ask{Name: "heard-slip", Path: "/practice/line?lick=1&part=&tempo=60&simulate=3", Form: []string{}},
		webtest.Ask{Name: "heard-no-line", Path: "/practice/line?lick=1&part=nothing&tempo=60&simulate=3", Form: []string{}},
		webtest.Ask{Name: "note", Path: "/practice", Form: []string{
			"lick", "1", "part", "", "tempo", "80", "do", "note", "note", "3",
		}},
		webtest.Ask{Name: "nothing", Path: "/practice", Form: []string{
			"lick", "999", "part", "", "tempo", "80", "do", "clean",
		}},
		webtest.Ask{Name: "log", Path: "/practice/log"},
		webtest.Ask{Name: "log.csv", Path: "/practice/log.csv"},
		webtest.Ask{Name: "report.json", Path: "/practice/report.json"},
	)
}
