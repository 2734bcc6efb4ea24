package exchange_test

import (
	"testing"

	"ornamen/internal/web/webtest"
)

// The room's pages and answers are as they were recorded.
func TestRecorded(t *testing.T) {
	webtest.Demo(t).Recorded(
		webtest.Ask{Name: "json", Path: "/licks/1/export/json"},
		webtest.Ask{Name: "mail", Path: "/licks/1/export/mail"},
		webtest.Ask{Name: "svg", Path: "/licks/1/export/svg"},
		webtest.Ask{Name: "musicxml", Path: "/licks/1/export/musicxml"},
		webtest.Ask{Name: "none", Path: "/licks/1/export/docx"},
		webtest.Ask{Name: "bare", Path: "/licks/1/export/mail?bare=true"},
		webtest.Ask{Name: "set", Path: "/notebook.zip?as=docx"},
		webtest.Ask{Name: "tag", Path: "/notebook.zip?as=mail&tag=nothing"},
		webtest.Ask{Name: "no-key", Path: "/import/0"},
		webtest.Ask{Name: "no-reading", Path: "/import/reading/0"},
	)
}
