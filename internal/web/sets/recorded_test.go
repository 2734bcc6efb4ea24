package sets_test

import (
	"testing"

	"ornamen/internal/web/webtest"
)

// The room's pages and answers are as they were recorded.
func TestRecorded(t *testing.T) {
	webtest.Demo(t).Recorded(
		webtest.Ask{Name: "list", Path: "/sets"},
		webtest.Ask{Name: "one", Path: "/sets/1"},
		webtest.Ask{Name: "through", Path: "/sets/1/through"},
		webtest.Ask{Name: "sheet", Path: "/sets/1/sheet"},
		webtest.Ask{Name: "add", Path: "/sets", Form: []string{"name", "For Thursday"}},
		webtest.Ask{Name: "nameless", Path: "/sets", Form: []string{"name", ""}},
		webtest.Ask{Name: "do-name-For-Pim", Path: "/sets/1", Form: []string{
			"base", "{set 1}", "do", "name", "n", "1", "value", "For Pim",
		}},
		webtest.Ask{Name: "do-kind-concert", Path: "/sets/1", Form: []string{
			"base", "{set 1}", "do", "kind", "n", "1", "value", "concert",
		}},
		webtest.Ask{Name: "do-target-2026-12-12", Path: "/sets/1", Form: []string{
			"base", "{set 1}", "do", "target", "n", "1", "value", "2026-12-12",
		}},
		webtest.Ask{Name: "do-target-70", Path: "/sets/1", Form: []string{
			"base", "{set 1}", "do", "target", "n", "1", "value", "70",
		}},
		webtest.Ask{Name: "do-remark-Slowly", Path: "/sets/1", Form: []string{
			"base", "{set 1}", "do", "remark", "n", "1", "value", "Slowly.",
		}},
		webtest.Ask{Name: "do-down", Path: "/sets/1", Form: []string{
			"base", "{set 1}", "do", "down", "n", "1", "value", "",
		}},
		webtest.Ask{Name: "do-up", Path: "/sets/1", Form: []string{
			"base", "{set 1}", "do", "up", "n", "1", "value", "",
		}},
		webtest.Ask{Name: "do-tempo-66", Path: "/sets/1", Form: []string{
			"base", "{set 1}", "do", "tempo", "n", "1", "value", "66",
		}},
		webtest.Ask{Name: "do-tempo-wrong-x", Path: "/sets/1", Form: []string{
			"base", "{set 1}", "do", "tempo-wrong", "n", "1", "value", "x",
		}},
		webtest.Ask{Name: "do-note-Watch-the-shift", Path: "/sets/1", Form: []string{
			"base", "{set 1}", "do", "note", "n", "1", "value", "Watch the shift.",
		}},
		webtest.Ask{Name: "do-key-C-minor", Path: "/sets/1", Form: []string{
			"base", "{set 1}", "do", "key", "n", "1", "value", "C minor",
		}},
		webtest.Ask{Name: "do-remove", Path: "/sets/1", Form: []string{
			"base", "{set 1}", "do", "remove", "n", "1", "value", "",
		}},
		webtest.Ask{Name: "do-undo", Path: "/sets/1", Form: []string{
			"base", "{set 1}", "do", "undo", "n", "1", "value", "",
		}},
		webtest.Ask{Name: "do-redo", Path: "/sets/1", Form: []string{
			"base", "{set 1}", "do", "redo", "n", "1", "value", "",
		}},
		webtest.Ask{Name: "do-nothing", Path: "/sets/1", Form: []string{
			"base", "{set 1}", "do", "nothing", "n", "1", "value", "",
		}},
		webtest.Ask{Name: "lick", Path: "/sets", Form: []string{"name", "With a lick", "lick", "3"}},
		webtest.Ask{Name: "into", Path: "/sets", Form: []string{"lick", "4", "set", "1"}},
		webtest.Ask{Name: "do-add", Path: "/sets/1", Form: []string{"base", "{set 1}", "do", "add", "value", "5"}},
		webtest.Ask{Name: "do-to", Path: "/sets/1", Form: []string{
			"base", "{set 1}", "do", "to", "n", "1", "value", "2",
		}},
		webtest.Ask{Name: "do-days", Path: "/sets/1", Form: []string{
			"base", "{set 1}", "do", "days", "n", "1", "value", "mon thu",
		}},
		webtest.Ask{Name: "do-day", Path: "/sets/1", Form: []string{
			"base", "{set 1}", "do", "day", "n", "1", "value", "fri",
		}},
		webtest.Ask{Name: "zip", Path: "/sets/1/set.zip?page=true"},
		webtest.Ask{Name: "sheet-each", Path: "/sets/1/sheet?each=true"},
		webtest.Ask{Name: "older", Path: "/sets/1", Form: []string{"base", "1", "do", "name", "value", "x"}},
		webtest.Ask{Name: "delete", Path: "/sets/1/delete", Form: []string{}},
		webtest.Ask{Name: "gone", Path: "/sets?gone=1"},
		webtest.Ask{Name: "restore", Path: "/sets/1/restore", Form: []string{}},
	)
}
