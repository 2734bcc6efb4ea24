package notebook_test

import (
	"testing"

	"ornamen/internal/web/webtest"
)

// The room's pages and answers are as they were recorded.
func TestRecorded(t *testing.T) {
	webtest.Demo(t).Until("/", "17 licks: 13 flow").Recorded(
		webtest.Ask{Name: "page", Path: "/"},
		webtest.Ask{Name: "sorted", Path: "/?sort=title"},
		webtest.Ask{Name: "find", Path: "/?find=sweep"},
		webtest.Ask{Name: "none", Path: "/?find=nothing+of+the+kind"},
		webtest.Ask{Name: "breaks", Path: "/?find=breaks"},
		webtest.Ask{Name: "tag", Path: "/?tag=sweep"},
		webtest.Ask{Name: "judged", Path: "/judged"},
		webtest.Ask{Name: "later", Path: "/?from=10"},
		webtest.Ask{Name: "new", Path: "/licks", Form: []string{}},
		webtest.Ask{Name: "copy", Path: "/licks/1/copy", Form: []string{}},
		webtest.Ask{Name: "delete", Path: "/licks/2/delete", Form: []string{}},
		webtest.Ask{Name: "gone", Path: "/?gone=2"},
		webtest.Ask{Name: "restore", Path: "/licks/2/restore", Form: []string{}},
		webtest.Ask{Name: "missing", Path: "/licks/999/copy", Form: []string{}},
		webtest.Ask{Name: "steps", Path: "/?steps=true"},
	)
}
