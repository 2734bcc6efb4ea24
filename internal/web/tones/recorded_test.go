package tones_test

import (
	"testing"

	"ornamen/internal/web/webtest"
)

// The room's pages and answers are as they were recorded.
func TestRecorded(t *testing.T) {
	webtest.Demo(t).Recorded(
		webtest.Ask{Name: "page", Path: "/tones"},
		webtest.Ask{Name: "dorian", Path: "/tones?tonic=D&scale=dorian"},
		webtest.Ask{Name: "added", Path: "/tones?tonic=A&scale=minor+pentatonic&add=b5,9&drop=4"},
		webtest.Ask{Name: "box", Path: "/tones?tonic=A&scale=minor+pentatonic&layout=box&at=6:5"},
		webtest.Ask{Name: "fingers", Path: "/tones?tonic=E&scale=major&layout=3nps&labels=fingers&low=top&side=left"},
		webtest.Ask{Name: "wrong", Path: "/tones?tonic=H&scale=nothing"},
		webtest.Ask{Name: "beside", Path: "/tones?tonic=A&scale=minor&beside=dorian&chord=Dm7&bends=full&keys=any"},
		webtest.Ask{Name: "touch", Path: "/tones?tonic=A&scale=minor&touch=3:6"},
		webtest.Ask{Name: "scales", Path: "/lists/scales?typed=do"},
		webtest.Ask{Name: "chords", Path: "/lists/chords?root=A&typed=m7"},
		webtest.Ask{Name: "list-wrong", Path: "/lists/nothing"},
		webtest.Ask{Name: "lick", Path: "/tones/lick", Form: []string{
			"tonic", "A", "scale", "minor pentatonic", "layout", "box",
		}},
		webtest.Ask{Name: "saved", Path: "/tones/saved", Form: []string{
			"tonic", "D", "scale", "dorian", "name", "Harbour dorian",
		}},
		webtest.Ask{Name: "nameless", Path: "/tones/saved", Form: []string{
			"tonic", "D", "scale", "dorian", "name", "",
		}},
		webtest.Ask{Name: "forget", Path: "/tones/saved/1/forget", Form: []string{}},
		webtest.Ask{Name: "recolour-view", Path: "/licks/1/recolour?tonic=E&scale=minor+pentatonic"},
		webtest.Ask{Name: "recolour", Path: "/licks/1/recolour", Form: []string{
			"tonic", "E", "scale", "minor pentatonic", "how", "edit", "rev", "{rev 1}",
		}},
		webtest.Ask{Name: "recolour-new", Path: "/licks/1/recolour", Form: []string{
			"tonic", "G", "scale", "minor pentatonic", "how", "new", "rev", "{rev 1}",
		}},
	)
}
