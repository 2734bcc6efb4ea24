package judge

import (
	"encoding/json"
	"fmt"
	"math"

	"ornamen/core/hand"
	"ornamen/core/lick"
	"ornamen/core/neck"
	"ornamen/core/pick"
	"ornamen/core/say"
	"ornamen/core/text"
)

// Ceiling is a tempo up to which a line is clean, in quarters a minute; 0 means
// that there is none, because nothing moves or because no tempo will do.
type Ceiling float64

// MarshalJSON writes one decimal, rounded down, or null.
func (c Ceiling) MarshalJSON() ([]byte, error) {
	if c <= 0 {
		return []byte("null"), nil
	}
	return json.Marshal(math.Floor(float64(c)*10+1e-6) / 10)
}

// String says up to which tempo: "clean up to 98", or "no ceiling" where there is none.
func (c Ceiling) String() string {
	if c <= 0 {
		return "no ceiling"
	}
	return fmt.Sprintf("clean up to %d", c.Whole())
}

// Whole is the ceiling in whole quarters a minute, rounded down.
func (c Ceiling) Whole() int { return int(float64(c) + 1e-6) }

// CeilingOf is exact because every need is constant.
func CeilingOf(tempo, load float64) Ceiling {
	if load <= 0 || math.IsInf(load, 1) {
		return 0
	}
	return Ceiling(tempo / load)
}

// Side says which need of a note is meant.
type Side string

// The sides.
const (
	Fretting Side = "fretting"
	Picking  Side = "picking"
	Bending  Side = "bend"
	Shaking  Side = "vibrato"
)

// Load is one need of a note against the time there is.
type Load struct {
	Side     Side
	Need     float64 // ms
	Have     float64 // ms
	Load     float64
	From     int  // index of the note it comes from, −1 if none
	Possible bool // false: at no tempo
	Shares   []Share
}

// Share is one part of a load in the order in which it comes: a push, its hold, its
// release, a vibrato. Only bends and vibratos have parts; the hold is what is left.
type Share struct {
	Name string
	Need float64 // ms
}

// Words lists the shares: "push 146 ms, hold 104 ms".
func (l Load) Words() string {
	return text.Join(l.Shares, ", ", func(s Share) string { return fmt.Sprintf("%s %.0f ms", s.Name, s.Need) })
}

// Note is what the judgement says of one note.
type Note struct {
	Loads        []Load // the worst first; empty where nothing moves
	Severity     Severity
	Helpers      []lick.Finger // behind the finger that bends it, the nearest first
	Stretch      hand.Stretch  // of its stance
	Frame        hand.Frame
	Kind         hand.Kind
	Way          neck.MM // how far the hand moves into it
	StringChange pick.StringChange
	Exit         lick.Stroke
	Leads        string // what a tone outside leads to, in a few words
	// Proposed are the fields that the player had left open.
	ProposedFinger, ProposedStroke bool
}

// Worst is the largest load of the note, or the zero Load.
func (n Note) Worst() Load {
	if len(n.Loads) == 0 {
		return Load{Possible: true, From: -1}
	}
	return n.Loads[0]
}

// Fix is an edit that was tried on a copy and helped.
type Fix struct {
	ID      string  `json:"-"` // names what it makes of the line: HandsID
	Text    string  `json:"text"`
	Ceiling Ceiling `json:"ceiling"`
	// Edit gives the mended copy that was judged, with every finger and stroke.
	Edit  lick.Replace `json:"-"`
	small lick.Edit    // the change alone
	scope scope
}

// Small is the change of the fix alone, the rest of the hands left open.
func (f Fix) Small() lick.Edit { return f.small }

// Finding is one judgement with the notes it is about.
type Finding struct {
	Code     lick.Code `json:"code"`
	Severity Severity  `json:"severity"`
	Notes    []int     `json:"notes"` // from 1, in playing order
	Need     float64   `json:"need"`
	Have     float64   `json:"have"`
	Unit     string    `json:"unit"`
	Title    string    `json:"-"` // two or three words
	Text     string    `json:"text"`
	Fixes    []Fix     `json:"fixes"`
	Meant    bool      `json:"meant,omitempty"` // the player wants it so
	Always   bool      `json:"any_tempo,omitempty"`
	Musical  bool      `json:"-"` // never changes the verdict
}

// StringChanges counts the string changes.
type StringChanges struct {
	Inside  int `json:"inside"`
	Outside int `json:"outside"`
	Sweep   int `json:"sweep"`
	Against int `json:"against"`
}

// Words counts the changes that there are: "10 outside", "2 sweeps".
func (c StringChanges) Words() []string {
	var out []string
	for _, k := range []struct {
		n    int
		word string
	}{{c.Outside, "outside"}, {c.Inside, "inside"}, {c.Against, "against"}} {
		if k.n > 0 {
			out = append(out, fmt.Sprintf("%d %s", k.n, k.word))
		}
	}
	if c.Sweep > 0 {
		out = append(out, say.Count(c.Sweep, "sweep"))
	}
	return out
}

// Report is the whole judgement of a lick at its tempo.
type Report struct {
	Verdict       Severity      `json:"verdict"`
	Tempo         float64       `json:"tempo"`
	Ceiling       Ceiling       `json:"ceiling"`
	BestPossible  Ceiling       `json:"best_possible"`
	Taught        Ceiling       `json:"taught,omitempty"` // of the usual hands, where others are proposed above it
	Bottleneck    []int         `json:"bottleneck"`
	Reach         neck.MM       `json:"reach_mm"`
	Strokes       int           `json:"strokes"`
	Slurs         int           `json:"slurs"`
	StringChanges StringChanges `json:"changes"`
	Exits         string        `json:"exits"`
	Barres        []Barre       `json:"barres,omitempty"`
	Findings      []Finding     `json:"findings"`
	LeftOut       string        `json:"left_out,omitempty"` // what a limit left out, in a sentence

	// Notes has one entry for each note of Lick, which has every finger and stroke filled in.
	Notes []Note    `json:"-"`
	Lick  lick.Lick `json:"-"`
}

// Breaking counts the findings that break.
func (r *Report) Breaking() (n int) {
	for _, f := range r.Findings {
		if f.Severity == Breaks {
			n++
		}
	}
	return n
}
