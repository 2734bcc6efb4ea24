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
		webtest.Ask{Name: "tab-file", Path: "/licks/import", File: []string{

			"line.tab", "e|-------5-8-|-8-5-------|\nB|---5-8-----|-----8-5---|\nG|-5---------|---------7-|\nD|-----------|-----------|\nA|-----------|-----------|\nE|-----------|-----------|\n",
		}},
		webtest.Ask{Name: "pasted", Path: "/licks/import", Form: []string{

			"text", "e|-------5-8-|-8-5-------|\nB|---5-8-----|-----8-5---|\nG|-5---------|---------7-|\nD|-----------|-----------|\nA|-----------|-----------|\nE|-----------|-----------|\n",
		}},
		webtest.Ask{Name: "pasted-line", Path: "{at}?line=1&title=Other"},
		webtest.Ask{Name: "pasted-taken", Path: "{at}", Form: []string{"title", "Pasted line"}},
		webtest.Ask{Name: "junk", Path: "/licks/import", Form: []string{"text", "nothing of the kind"}},
		webtest.Ask{Name: "no-file", Path: "/licks/import", Form: []string{}},
		webtest.Ask{Name: "torn-midi", Path: "/licks/import", File: []string{"x.mid", "MThd torn"}},
		webtest.Ask{Name: "torn-zip", Path: "/licks/import", File: []string{"x.zip", "PK torn"}},
		webtest.Ask{Name: "played", Path: "/licks/import", Form: []string{"simulate", "1"}},
		webtest.Ask{Name: "played-taken", Path: "{at}", Form: []string{"title", "Played line"}},
		webtest.Ask{Name: "log", Path: "/practice/log.csv"},
		webtest.Ask{Name: "log-read", Path: "/licks/import", File: []string{"log.csv", ""}},
		webtest.Ask{Name: "log-taken", Path: "{at}", Form: []string{"who", "{who 2}"}},
		webtest.Ask{Name: "lick-file", Path: "/licks/2/export/json"},
		webtest.Ask{Name: "lick-file-read", Path: "/licks/import", File: []string{"other.lick.json", ""}},
		webtest.Ask{Name: "no-key", Path: "/import/0"},
		webtest.Ask{Name: "no-reading", Path: "/import/reading/0"},
	)
}
