package judge

import (
	"strings"
	"testing"

	"ornamen/core/lick"
	"ornamen/core/testline"
)

// What an ear makes of tones outside (common practice): approaches and enclosures lead
// somewhere and are named with their target; a target outside can be chosen by one key; a
// bend counts by where it arrives; two voices each have their own neighbours.
func TestByEar(t *testing.T) {
	for _, c := range []struct {
		name, key, scale, line string
		leads                  string // of the notes, where there is something to say
		finding, fix           string
	}{
		{name: "an approach", key: "A", scale: "minor pentatonic", line: "3:4 5", leads: "1: leads into C, the ♭3"},
		{
			name:  "an enclosure",
			key:   "A",
			scale: "minor pentatonic",
			line:  "2:6 4 5",
			leads: "1: encloses E, the 5, with note 2 2: encloses E, " +
				"the 5, with note 1",
		},
		{
			name:    "an enclosed tone that was not chosen",
			key:     "C",
			scale:   "minor pentatonic",
			line:    "2:6 4 5",
			finding: "E, the 3, is not among the tones of C minor pentatonic; notes 1 and 2 enclose it.",
			fix:     "Add 3",
		},
		{
			name:    "outside",
			key:     "A",
			scale:   "minor pentatonic",
			line:    "1:5 9 5",
			finding: "does not lead into one",
			fix:     "Add 3",
		},
		{name: "a bend that arrives", key: "A", scale: "minor pentatonic", line: "3:6/b1 1:5"},
		{
			name:    "a bend that does not",
			key:     "A",
			scale:   "minor pentatonic",
			line:    "3:6/b2 1:5",
			finding: "does not lead into one",
			fix:     "Add 3",
		},
	} {
		l := testline.InKey(testline.Build(t, 60, c.line), c.key, c.scale)
		r := check(usual, l)
		mend(usual, l, r)
		var leads []string
		for i, n := range r.Notes {
			if n.Leads != "" {
				leads = append(leads, strings.TrimSpace(string(rune('1'+i))+": "+n.Leads))
			}
		}
		if s := strings.Join(leads, " "); s != c.leads {
			t.Errorf("%s: %q, want %q", c.name, s, c.leads)
		}
		text, fix := "", ""
		for _, f := range r.Findings {
			if f.Code == NoteOutside {
				text = f.Text
				if len(f.Fixes) > 0 {
					fix = f.Fixes[0].Text
					after, err := f.Fixes[0].Edit.Apply(l)
					if err != nil || strings.Contains(strings.Join(codes(check(usual, after)), " "), "note-outside") {
						t.Errorf("%s: with %s chosen it is outside still: %v", c.name, fix, err)
					}
				}
			}
		}
		if (c.finding == "") != (text == "") || !strings.Contains(text, c.finding) || fix != c.fix {
			t.Errorf("%s: %q, fix %q", c.name, text, fix)
		}
	}
	// The line leads over a bass note that sounds between its two.
	l := testline.InKey(testline.Build(t, 60, "3:4 6:5 3:5"), "A", "minor pentatonic")
	l.Notes[1].Voice = lick.VoiceBass
	if r := check(usual, l); strings.Contains(strings.Join(codes(r), " "), "note-outside") {
		t.Errorf("a line over a bass note: %v", codes(r))
	}
}
