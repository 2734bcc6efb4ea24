package bench_test

import (
	"testing"

	"ornamen/internal/web/webtest"
)

// The room's pages and answers are as they were recorded.
func TestRecorded(t *testing.T) {
	webtest.Demo(t).Recorded(
		webtest.Ask{Name: "last", Path: "/bench"},
		webtest.Ask{Name: "page", Path: "/licks/1"},
		webtest.Ask{Name: "note", Path: "/licks/1?note=3&lane=finger"},
		webtest.Ask{Name: "place", Path: "/licks/1?note=3&lane=place&string=2"},
		webtest.Ask{Name: "selected", Path: "/licks/1?note=3&sel=3-6"},
		webtest.Ask{Name: "window", Path: "/licks/1?win=3-12"},
		webtest.Ask{Name: "breaks", Path: "/licks/4"},
		webtest.Ask{Name: "chords", Path: "/licks/8"},
		webtest.Ask{Name: "figures", Path: "/licks/1/figures"},
		webtest.Ask{Name: "clip", Path: "/licks/1/clip?sel=1-4"},
		webtest.Ask{Name: "at", Path: "/licks/1/at?note=2"},
		webtest.Ask{Name: "mend", Path: "/licks/4/mend"},
		webtest.Ask{Name: "hands", Path: "/licks/1/hands"},
		webtest.Ask{Name: "ways-strings", Path: "/licks/1/ways?value=strings&note=3"},
		webtest.Ask{Name: "ways-moved", Path: "/licks/1/ways?value=moved&note=3"},
		webtest.Ask{Name: "ways-turned", Path: "/licks/1/ways?value=turned&note=3"},
		webtest.Ask{Name: "ways-bend", Path: "/licks/1/ways?value=bend&note=3"},
		webtest.Ask{Name: "ways-tail", Path: "/licks/1/ways?value=tail&note=3"},
		webtest.Ask{Name: "ways-chords", Path: "/licks/1/ways?value=chords&note=3"},
		webtest.Ask{Name: "whom", Path: "/licks/1/whom"},
		webtest.Ask{Name: "suits", Path: "/licks/4/suits?who={who 2}"},
		webtest.Ask{Name: "versions", Path: "/licks/1/versions"},
		webtest.Ask{Name: "edit-finger-4", Path: "/licks/1/edit", Form: []string{
			"rev", "{rev 1}", "do", "finger", "to", "2:8", "value", "4", "note", "2", "lane", "finger",
		}},
		webtest.Ask{Name: "edit-finger-9", Path: "/licks/1/edit", Form: []string{
			"rev", "{rev 1}", "do", "finger", "to", "2:8", "value", "9", "note", "2", "lane", "finger",
		}},
		webtest.Ask{Name: "edit-stroke-up", Path: "/licks/1/edit", Form: []string{
			"rev", "{rev 1}", "do", "stroke", "to", "2:8", "value", "up", "note", "2", "lane", "finger",
		}},
		webtest.Ask{Name: "edit-place-3-7", Path: "/licks/1/edit", Form: []string{
			"rev", "{rev 1}", "do", "place", "to", "2:8", "value", "3:7", "note", "2", "lane", "finger",
		}},
		webtest.Ask{Name: "edit-add-2-8", Path: "/licks/1/edit", Form: []string{
			"rev", "{rev 1}", "do", "add", "to", "2:8", "value", "2:8", "note", "2", "lane", "finger",
		}},
		webtest.Ask{Name: "edit-insert", Path: "/licks/1/edit", Form: []string{
			"rev", "{rev 1}", "do", "insert", "to", "2:8", "value", "", "note", "2", "lane", "finger",
		}},
		webtest.Ask{Name: "edit-longer-2", Path: "/licks/1/edit", Form: []string{
			"rev", "{rev 1}", "do", "longer", "to", "2:8", "value", "2", "note", "2", "lane", "finger",
		}},
		webtest.Ask{Name: "edit-shorter", Path: "/licks/1/edit", Form: []string{
			"rev", "{rev 1}", "do", "shorter", "to", "2:8", "value", "", "note", "2", "lane", "finger",
		}},
		webtest.Ask{Name: "edit-length-1-8", Path: "/licks/1/edit", Form: []string{
			"rev", "{rev 1}", "do", "length", "to", "2:8", "value", "1/8", "note", "2", "lane", "finger",
		}},
		webtest.Ask{Name: "edit-earlier", Path: "/licks/1/edit", Form: []string{
			"rev", "{rev 1}", "do", "earlier", "to", "2:8", "value", "", "note", "2", "lane", "finger",
		}},
		webtest.Ask{Name: "edit-later", Path: "/licks/1/edit", Form: []string{
			"rev", "{rev 1}", "do", "later", "to", "2:8", "value", "", "note", "2", "lane", "finger",
		}},
		webtest.Ask{Name: "edit-rest", Path: "/licks/1/edit", Form: []string{
			"rev", "{rev 1}", "do", "rest", "to", "2:8", "value", "", "note", "2", "lane", "finger",
		}},
		webtest.Ask{Name: "edit-unrest", Path: "/licks/1/edit", Form: []string{
			"rev", "{rev 1}", "do", "unrest", "to", "2:8", "value", "", "note", "2", "lane", "finger",
		}},
		webtest.Ask{Name: "edit-degree-5", Path: "/licks/1/edit", Form: []string{
			"rev", "{rev 1}", "do", "degree", "to", "2:8", "value", "5", "note", "2", "lane", "finger",
		}},
		webtest.Ask{Name: "edit-otherstring-thicker", Path: "/licks/1/edit", Form: []string{
			"rev", "{rev 1}", "do", "otherstring", "to", "2:8", "value", "thicker", "note", "2", "lane", "finger",
		}},
		webtest.Ask{Name: "edit-slur-hammer", Path: "/licks/1/edit", Form: []string{
			"rev", "{rev 1}", "do", "slur", "to", "2:8", "value", "hammer", "note", "2", "lane", "finger",
		}},
		webtest.Ask{Name: "edit-slidein-below", Path: "/licks/1/edit", Form: []string{
			"rev", "{rev 1}", "do", "slidein", "to", "2:8", "value", "below", "note", "2", "lane", "finger",
		}},
		webtest.Ask{Name: "edit-bend-2", Path: "/licks/1/edit", Form: []string{
			"rev", "{rev 1}", "do", "bend", "to", "2:8", "value", "2", "note", "2", "lane", "finger",
		}},
		webtest.Ask{Name: "edit-bendshape-bend-release", Path: "/licks/1/edit", Form: []string{
			"rev", "{rev 1}", "do", "bendshape", "to", "2:8", "value", "bend-release", "note", "2",
			"lane", "finger",
		}},
		webtest.Ask{Name: "edit-push-thick", Path: "/licks/1/edit", Form: []string{
			"rev", "{rev 1}", "do", "push", "to", "2:8", "value", "thick", "note", "2", "lane", "finger",
		}},
		webtest.Ask{Name: "edit-helpers-2-1", Path: "/licks/1/edit", Form: []string{
			"rev", "{rev 1}", "do", "helpers", "to", "2:8", "value", "2 1", "note", "2", "lane", "finger",
		}},
		webtest.Ask{Name: "edit-vibrato-wide-slow", Path: "/licks/1/edit", Form: []string{
			"rev", "{rev 1}", "do", "vibrato", "to", "2:8", "value", "wide slow", "note", "2", "lane", "finger",
		}},
		webtest.Ask{Name: "edit-mark-accent", Path: "/licks/1/edit", Form: []string{
			"rev", "{rev 1}", "do", "mark", "to", "2:8", "value", "accent", "note", "2", "lane", "finger",
		}},
		webtest.Ask{Name: "edit-mark-dance", Path: "/licks/1/edit", Form: []string{
			"rev", "{rev 1}", "do", "mark", "to", "2:8", "value", "dance", "note", "2", "lane", "finger",
		}},
		webtest.Ask{Name: "edit-duplicate", Path: "/licks/1/edit", Form: []string{
			"rev", "{rev 1}", "do", "duplicate", "to", "2:8", "value", "", "note", "2", "lane", "finger",
		}},
		webtest.Ask{Name: "edit-move-2-frets", Path: "/licks/1/edit", Form: []string{
			"rev", "{rev 1}", "do", "move", "to", "2:8", "value", "2 frets", "note", "2", "lane", "finger",
		}},
		webtest.Ask{Name: "edit-transpose-C-minor", Path: "/licks/1/edit", Form: []string{
			"rev", "{rev 1}", "do", "transpose", "to", "2:8", "value", "C minor", "note", "2", "lane", "finger",
		}},
		webtest.Ask{Name: "edit-tempo-96", Path: "/licks/1/edit", Form: []string{
			"rev", "{rev 1}", "do", "tempo", "to", "2:8", "value", "96", "note", "2", "lane", "finger",
		}},
		webtest.Ask{Name: "edit-tempo-fast", Path: "/licks/1/edit", Form: []string{
			"rev", "{rev 1}", "do", "tempo", "to", "2:8", "value", "fast", "note", "2", "lane", "finger",
		}},
		webtest.Ask{Name: "edit-meter-3-4", Path: "/licks/1/edit", Form: []string{
			"rev", "{rev 1}", "do", "meter", "to", "2:8", "value", "3/4", "note", "2", "lane", "finger",
		}},
		webtest.Ask{Name: "edit-feel-shuffle", Path: "/licks/1/edit", Form: []string{
			"rev", "{rev 1}", "do", "feel", "to", "2:8", "value", "shuffle", "note", "2", "lane", "finger",
		}},
		webtest.Ask{Name: "edit-loop-yes", Path: "/licks/1/edit", Form: []string{
			"rev", "{rev 1}", "do", "loop", "to", "2:8", "value", "yes", "note", "2", "lane", "finger",
		}},
		webtest.Ask{Name: "edit-title-Sculling", Path: "/licks/1/edit", Form: []string{
			"rev", "{rev 1}", "do", "title", "to", "2:8", "value", "Sculling", "note", "2", "lane", "finger",
		}},
		webtest.Ask{Name: "edit-tags-dawn-slow", Path: "/licks/1/edit", Form: []string{
			"rev", "{rev 1}", "do", "tags", "to", "2:8", "value", "dawn, slow", "note", "2", "lane", "finger",
		}},
		webtest.Ask{Name: "edit-chords-Am7-D7-E7", Path: "/licks/1/edit", Form: []string{
			"rev", "{rev 1}", "do", "chords", "to", "2:8", "value", "Am7 | D7 . E7 .", "note", "2",
			"lane", "finger",
		}},
		webtest.Ask{Name: "edit-chord-Dm", Path: "/licks/1/edit", Form: []string{
			"rev", "{rev 1}", "do", "chord", "to", "2:8", "value", "Dm", "note", "2", "lane", "finger",
		}},
		webtest.Ask{Name: "edit-tone-b5", Path: "/licks/1/edit", Form: []string{
			"rev", "{rev 1}", "do", "tone", "to", "2:8", "value", "b5", "note", "2", "lane", "finger",
		}},
		webtest.Ask{Name: "edit-propose", Path: "/licks/1/edit", Form: []string{
			"rev", "{rev 1}", "do", "propose", "to", "2:8", "value", "", "note", "2", "lane", "finger",
		}},
		webtest.Ask{Name: "edit-remove", Path: "/licks/1/edit", Form: []string{
			"rev", "{rev 1}", "do", "remove", "to", "2:8", "value", "", "note", "2", "lane", "finger",
		}},
		webtest.Ask{Name: "edit-turn", Path: "/licks/1/edit", Form: []string{
			"rev", "{rev 1}", "do", "turn", "value", "backwards", "note", "1", "lane", "finger",
		}},
		webtest.Ask{Name: "edit-append", Path: "/licks/1/edit", Form: []string{
			"rev", "{rev 1}", "do", "append", "value", "3", "note", "1", "lane", "finger",
		}},
		webtest.Ask{Name: "edit-fix", Path: "/licks/4/edit", Form: []string{
			"rev", "{rev 4}", "do", "fix", "value", "1", "note", "1", "lane", "finger",
		}},
		webtest.Ask{Name: "edit-take", Path: "/licks/1/edit", Form: []string{
			"rev", "{rev 1}", "do", "take", "value", "2", "note", "1", "lane", "finger",
		}},
		webtest.Ask{Name: "edit-sel", Path: "/licks/1/edit", Form: []string{
			"rev", "{rev 1}", "do", "remove", "value", "", "note", "3", "sel", "3-4", "lane", "finger",
		}},
		webtest.Ask{Name: "edit-fast", Path: "/licks/3/edit", Form: []string{
			"rev", "{rev 3}", "do", "tempo", "value", "150", "note", "1", "lane", "finger",
		}},
		webtest.Ask{Name: "undo", Path: "/licks/1/undo", Form: []string{"rev", "{rev 1}"}},
		webtest.Ask{Name: "redo", Path: "/licks/1/redo", Form: []string{"rev", "{rev 1}"}},
		webtest.Ask{Name: "keep", Path: "/licks/1/keep", Form: []string{"rev", "{rev 1}"}},
		webtest.Ask{Name: "versions-after", Path: "/licks/1/versions?a=1&b={rev 1}"},
	)
}
