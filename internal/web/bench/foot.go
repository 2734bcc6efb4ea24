package bench

import (
	"fmt"
	"strconv"
	"strings"

	"ornamen/core/edit"
	"ornamen/core/judge"
	"ornamen/core/lick"
	"ornamen/core/music"
	"ornamen/core/neck"
	"ornamen/core/text"
	"ornamen/internal/web/page"
	"ornamen/internal/web/view"
)

// footView is the selected note with the keys that change it. What a note is and who set it stand above the lanes, one
// lane under the other; Tab goes through them, and the digits are those of the lane that is lit.
type footView struct {
	Title  string
	Detail string
	Lanes  []laneKeys
	Acts   []key // what is done to the note or the selection whatever the lane; Digit is another key here
}

// laneKeys are the values that the digits pick in one lane. A lane has keys or a hint that says what is typed there
// instead (frets, chords), or why it has none.
type laneKeys struct {
	Lane, Title string
	Keys        []key
	Hint        string
	Frets       []key // to tap
}

// Tab names the lane on the strip of a phone.
func (l laneKeys) Tab() string {
	if l.Lane == "place" {
		return "Fret"
	}
	return l.Title
}

// key is one digit: what it sets, and the edit that sets it.
// Do and Value are the words of an edit (package edit), so that the page sends what the command
// line would: the digit 2 in the finger's lane sends "finger 2" for the note under the caret.
// Off says that it cannot be done where the caret stands: a release without a bend, an octave off the neck.
type key struct {
	Digit, Label, Do, Value string
	On                      bool
	Off                     bool
}

// keyRow is a value of a lane that does not depend on the lick. The digits are the keys, so that a lane has at most
// ten; a value is in the words of package edit. Pressed once more a mark, a vibrato and a slide in go away.
type keyRow struct{ digit, label, do, value string }

// again is the value that a key sends where the note has what it sets.
func (r keyRow) again() string {
	switch r.do {
	case "mark":
		return r.value + " off"
	case "vibrato", "slidein":
		return "off"
	}
	return r.value
}

var (
	countKeys = []keyRow{
		{digit: "1", label: "1 whole", do: "length", value: "1"},
		{digit: "2", label: "1/2", do: "length", value: "1/2"},
		{digit: "3", label: "1/4", do: "length", value: "1/4"},
		{digit: "4", label: "1/8", do: "length", value: "1/8"},
		{digit: "5", label: "1/12 triplet", do: "length", value: "1/12"},
		{digit: "6", label: "1/16", do: "length", value: "1/16"},
		{digit: "7", label: "1/24", do: "length", value: "1/24"},
		{digit: "8", label: "1/32", do: "length", value: "1/32"},
		{digit: "9", label: "close the rest", do: "unrest"},
		{digit: "0", label: "rest before", do: "rest"},
		{digit: "W", label: "dotted", do: "longer", value: "3/2"},
	}
	fingerKeys = []keyRow{
		{digit: "1", label: "index", do: "finger", value: "1"},
		{digit: "2", label: "middle", do: "finger", value: "2"},
		{digit: "3", label: "ring", do: "finger", value: "3"},
		{digit: "4", label: "little", do: "finger", value: "4"},
		{digit: "5", label: "thumb", do: "finger", value: "T"},
		{digit: "6", label: "barre", do: "mark", value: "bar"},
		{digit: "0", label: "propose", do: "finger"},
	}
	strokeKeys = []keyRow{
		{digit: "1", label: "down", do: "stroke", value: "down"},
		{digit: "2", label: "up", do: "stroke", value: "up"},
		{digit: "3", label: "p", do: "stroke", value: "p"},
		{digit: "4", label: "i", do: "stroke", value: "i"},
		{digit: "5", label: "m", do: "stroke", value: "m"},
		{digit: "6", label: "a", do: "stroke", value: "a"},
		{digit: "7", label: "accent", do: "mark", value: "accent"},
		{digit: "8", label: "dead", do: "mark", value: "mute"},
		{digit: "9", label: "rake", do: "mark", value: "rake"},
		{digit: "W", label: "palm muted", do: "mark", value: "palm"},
		{digit: "X", label: "ghost note", do: "mark", value: "ghost"},
		{digit: "0", label: "propose", do: "stroke"},
	}
	slurKeys = []keyRow{
		{digit: "1", label: "hammer", do: "slur", value: "hammer"},
		{digit: "2", label: "pull", do: "slur", value: "pull"},
		{digit: "3", label: "slide", do: "slur", value: "slide"},
		{digit: "4", label: "shift", do: "slur", value: "shift"},
		{digit: "5", label: "in from below", do: "slidein", value: "below"},
		{digit: "6", label: "in from above", do: "slidein", value: "above"},
		{digit: "0", label: "pick it", do: "slur"},
	}
	bendKeys = []keyRow{
		{digit: "1", label: "half", do: "bend", value: "1"},
		{digit: "2", label: "full", do: "bend", value: "2"},
		{digit: "3", label: "one and a half", do: "bend", value: "3"},
		{digit: "4", label: "curl", do: "bend", value: "0.5"},
		{digit: "5", label: "double", do: "bend", value: "4"},
		{digit: "6", label: "release", do: "bendshape", value: "bend-release"},
		{digit: "7", label: "bent before", do: "bendshape", value: "prebend"},
		{digit: "8", label: "vibrato", do: "vibrato", value: "wide slow"},
		{digit: "9", label: "other way", do: "push", value: "thin"},
		{digit: "0", label: "none", do: "bend"},
	}
	selectionKeys = []keyRow{
		{digit: "1", label: "a tone up", do: "move", value: "1 degrees"},
		{digit: "2", label: "a tone down", do: "move", value: "-1 degrees"},
		{digit: "3", label: "a fret up", do: "move", value: "1 frets"},
		{digit: "4", label: "a fret down", do: "move", value: "-1 frets"},
		{digit: "5", label: "thinner string", do: "move", value: "-1 strings"},
		{digit: "6", label: "thicker string", do: "move", value: "1 strings"},
		{digit: "7", label: "an octave up", do: "move", value: "1 octaves"},
		{digit: "8", label: "an octave down", do: "move", value: "-1 octaves"},
		{digit: "9", label: "twice as long", do: "longer"},
		{digit: "0", label: "half as long", do: "shorter"},
		{digit: "W", label: "palm muted", do: "mark", value: "palm"},
		{digit: "X", label: "ghost notes", do: "mark", value: "ghost"},
	}
	noteActs = []keyRow{
		{digit: "Enter", label: "new note", do: "insert"},
		{digit: "−", label: "delete", do: "remove"},
		{digit: "_", label: "leave a rest", do: "remove", value: "rest"},
		{digit: "S", label: "select", do: "select"},
		{label: "paste", do: "paste"},
	}
	selectionActs = []keyRow{
		{digit: "S", label: "more", do: "select"},
		{label: "copy", do: "copy"},
		{label: "cut", do: "cut"},
		{label: "paste", do: "paste"},
		{digit: "Enter", label: "once more", do: "duplicate"},
		{digit: "−", label: "delete", do: "remove"},
		{digit: "_", label: "leave rests", do: "remove", value: "rest"},
		{digit: "Esc", label: "let go", do: "unselect"},
	}
	emptyActs = []keyRow{{label: "paste", do: "paste"}}
)

// plain says of a key that it is never lit.
func plain(keyRow) bool { return false }

// footOf lists the keys of the lane in which the caret stands.
// The page takes the keys from here: what is not listed is no key.
//
// A caret behind the last note writes the next one: it has a place and a length and nothing to
// finger. A key is lit where the note has its value by the player's own choice; what was only
// proposed lights nothing, and 0 hands a lane back to the proposals.
func footOf(v *benchView, g neck.Guitar) footView {
	f := keysOf(v)
	can := func(k key) bool {
		to, known := edit.TargetOf(k.Do)
		if !known {
			return true // not an edit of the notes
		}
		asked := edit.Words{Note: v.Caret.Note, Do: k.Do, Value: k.Value}
		if to == edit.ToEach || to == edit.ToNotes {
			asked.Notes = v.Caret.selected(v.Lick)
		}
		e, err := edit.Read(g, v.Lick, asked)
		if err == nil {
			_, err = e.Apply(v.Lick)
		}
		return err == nil
	}
	for _, lane := range f.Lanes {
		for i := range lane.Keys {
			lane.Keys[i].Off = !can(lane.Keys[i])
		}
	}
	for i := range f.Acts {
		f.Acts[i].Off = f.Acts[i].Do != "paste" && f.Acts[i].Do != "insert" && !can(f.Acts[i])
	}
	return f
}

// keysOf lists the keys, whether each can be done or not.
func keysOf(v *benchView) footView {
	i := v.Caret.Note - 1
	if i >= len(v.Lick.Notes) {
		return footView{
			Title:  "The next note",
			Detail: "Type a fret on a string, or click the neck.",
			Lanes: []laneKeys{
				{Lane: "place", Title: "Place", Hint: "digits: the fret", Frets: fretKeys(v)},
				nextKeys(v),
			},
			Acts: fixedKeys(emptyActs, plain),
		}
	}
	if rs := v.Caret.selected(v.Lick); rs != nil {
		words := rs.Words()
		keys := fixedKeys(selectionKeys, func(k keyRow) bool {
			return k.do == "mark" && rs.All(func(i int) bool { return v.Lick.Notes[i].Marked(lick.Mark(k.value)) })
		})
		return footView{
			Title:  page.SentenceCase(words),
			Detail: "Selected: what is done here is done to all of them.",
			Lanes:  []laneKeys{{Lane: selectionLane, Title: "Move and stretch", Keys: keys}},
			Acts:   fixedKeys(selectionActs, plain),
		}
	}
	n, filled, rn := v.Lick.Notes[i], v.Report.Lick.Notes[i], v.Report.Notes[i]
	f := footView{Title: fmt.Sprintf("Note %d", i+1)}
	var parts []string
	pitch := v.Lick.Pitch(i)
	p, hasKey := v.Lick.PaletteAt(n.At)
	if hasKey {
		t := p.At(pitch)
		parts = append(parts, t.Name.PrettyWithOctave(pitch), t.Degree.Pretty())
		if t.Role == music.Colour || t.Role == music.Outside {
			parts = append(parts, t.Role.String())
		}
		if rn.Leads != "" {
			parts = append(parts, rn.Leads)
		}
	} else {
		parts = append(parts, music.NameOf(pitch.Class()).PrettyWithOctave(pitch))
	}
	parts = append(parts, fmt.Sprintf("string %d, fret %d", n.String, n.Fret))
	f.Title += " · " + strings.Join(parts, ", ")
	f.Detail = handsLine(n, filled, rn)
	f.Lanes = []laneKeys{
		{Lane: "count", Title: "Length", Keys: fixedKeys(countKeys, func(k keyRow) bool {
			return k.do == "length" && k.value == n.Len.String()
		})},
		{
			Lane:  "place",
			Title: "Place",
			Hint:  "digits: the fret on this string; with Shift it sounds too",
			Frets: fretKeys(v),
		},
		{
			Lane:  "chord",
			Title: "Chord",
			Hint:  "type it from here on: Am7, or 4m7 in the key; Enter takes it, Delete lets it go",
		},
		degreeKeys(p, hasKey, v.Lick, i),
		{Lane: "finger", Title: "Finger", Keys: fixedKeys(fingerKeys, func(k keyRow) bool {
			return k.do == "mark" && n.Barre ||
				k.do == "finger" && k.value == n.Finger.String() && n.Locked(lick.FieldFinger)
		})},
		{Lane: "stroke", Title: "Stroke", Keys: fixedKeys(strokeKeys, func(k keyRow) bool {
			return k.do == "mark" && n.Marked(lick.Mark(k.value)) ||
				k.value != "" && k.value == string(n.Stroke) && n.Locked(lick.FieldStroke)
		})},
		{Lane: "slur", Title: "Slur", Keys: fixedKeys(slurKeys, func(k keyRow) bool {
			return k.value != "" && (k.value == string(n.Slur) || n.SlideIn != nil && k.value == string(n.SlideIn.From))
		})},
		bendLane(n, filled, rn, len(v.Lick.Tuning)),
		meantKeys(v, i),
	}
	f.Acts = fixedKeys(noteActs, plain)
	return f
}

// selectionLane is the lane whose keys are there while notes are selected, whatever lane the caret is in.
const selectionLane = "selection"

// fretKeys are the frets that a finger taps where there are no digits to type: those of this neck.
func fretKeys(v *benchView) []key {
	out := make([]key, 0, v.Frets+1)
	for f := range v.Frets + 1 {
		i := v.Caret.Note - 1
		out = append(out, key{
			Label: strconv.Itoa(f),
			Do:    "fret",
			Value: strconv.Itoa(f),
			On:    i < len(v.Lick.Notes) && v.Lick.Notes[i].Fret == f,
		})
	}
	return out
}

// nextKeys are the lengths that the next note may have.
// The one that is lit is the length it takes without a key: that of the note before.
func nextKeys(v *benchView) laneKeys {
	now := edit.NextLength(v.Lick, v.Caret.Next).String()
	lk := laneKeys{Lane: "count", Title: "Length of the next note"}
	for _, k := range countKeys {
		if k.do == "length" {
			lk.Keys = append(lk.Keys, key{
				Digit: k.digit,
				Label: k.label,
				Do:    "next",
				Value: k.value,
				On:    k.value == now,
			})
		}
	}
	return lk
}

// bendLane lists the keys of the bend lane; W goes through the fingers that may help.
// A bend below a whole step, and one of the index, has no helpers to choose: there is nobody
// behind the index, and less than a step needs none (common practice).
func bendLane(n, filled lick.Note, rn judge.Note, tuned int) laneKeys {
	lane := laneKeys{
		Lane:  "bend",
		Title: "Bend",
		Keys:  fixedKeys(bendKeys, func(k keyRow) bool { return bendKeyOn(n, k) }),
	}
	if n.Bend == nil {
		return lane
	}
	// These change one trait of the bend that is there.
	for k, key := range lane.Keys {
		switch pre, release := n.Bend.Pre(), n.Bend.Release(); {
		case key.Do == "push":
			lane.Keys[k].Value = string(n.Bend.Way(n.String, tuned).Other())
		case key.Digit == "6":
			lane.Keys[k].Value = string(lick.ShapeOf(pre, !release))
		case key.Digit == "7":
			lane.Keys[k].Value = string(lick.ShapeOf(!pre, release))
		}
	}
	if n.Bend.Semitones < 2 || filled.Finger <= lick.Index {
		return lane
	}
	label := "helped by any free: "
	if len(n.Bend.With) > 0 {
		label = "helped by "
	}
	lane.Keys = append(lane.Keys, key{
		Digit: "W",
		Label: label + fingerList(rn.Helpers),
		Do:    "helpers",
		Value: nextHelpers(n.Bend.With, filled.Finger),
		On:    len(n.Bend.With) > 0,
	})
	return lane
}

// nextHelpers names one finger more behind the bending one than now, the nearest first; after all of them it is left
// open again. For the ring finger: none named, 2, 2 1, and open again.
func nextHelpers(now []lick.Finger, bending lick.Finger) string {
	if len(now) >= int(bending-lick.Index) {
		return ""
	}
	var words []string
	for f := bending - 1; len(words) <= len(now); f-- {
		words = append(words, f.String())
	}
	return strings.Join(words, " ")
}

// fingerList names fingers in a sentence.
func fingerList(fingers []lick.Finger) string {
	if len(fingers) == 0 {
		return "none"
	}
	return text.Join(fingers, " and ", lick.Finger.String)
}

// bendKeyOn says whether the note's bend is what a key sets.
func bendKeyOn(n lick.Note, k keyRow) bool {
	switch k.do {
	case "vibrato":
		return n.Vibrato != nil
	case "bend":
		return n.Bend != nil && fmt.Sprintf("%g", n.Bend.Semitones) == k.value
	case "bendshape":
		return n.Bend != nil && (k.digit == "6" && n.Bend.Release() || k.digit == "7" && n.Bend.Pre())
	}
	return false
}

// fixedKeys are the keys that a lane always has. on says which of them the note has.
func fixedKeys(rows []keyRow, on func(keyRow) bool) []key {
	out := make([]key, len(rows))
	for i, r := range rows {
		out[i] = key{Digit: r.digit, Label: r.label, Do: r.do, Value: r.value, On: on(r)}
		if out[i].On {
			out[i].Value = r.again()
		}
	}
	return out
}

// degreeKeys are the chosen tones, from the root. The digit is the tone's rank in the palette, colour notes among them,
// and not its degree: a pentatonic has 1 to 5. Nine tones have a digit; a palette with more is reached by the fret.
func degreeKeys(p music.Palette, hasKey bool, l lick.Lick, i int) laneKeys {
	lk := laneKeys{Lane: "degree", Title: "Degree"}
	if !hasKey {
		lk.Hint = "choose the tones first"
		return lk
	}
	now := p.At(l.Pitch(i)).Degree
	for k, t := range p.Tones {
		if k < 9 {
			lk.Keys = append(lk.Keys,
				key{
					Digit: fmt.Sprint(k + 1),
					Label: t.Degree.Pretty(),
					Do:    "degree",
					Value: t.Degree.String(),
					On:    t.Degree == now,
				})
		}
	}
	return lk
}

// meantKeys mark the note's musical findings as meant. Only what is a matter of taste can be meant. A finding about
// several notes is decided at its last one, where it has been heard.
func meantKeys(v *benchView, i int) laneKeys {
	lk := laneKeys{Lane: "load", Title: "Judgement"}
	for _, f := range v.Report.Findings {
		if f.Severity != judge.Flows || len(f.Notes) == 0 || f.Notes[len(f.Notes)-1] != i+1 || len(lk.Keys) == 9 {
			continue
		}
		value := string(f.Code)
		if f.Meant {
			value += " off"
		}
		lk.Keys = append(lk.Keys, key{
			Digit: fmt.Sprint(len(lk.Keys) + 1),
			Label: f.Title + ": I mean it",
			Do:    "meant",
			Value: value,
			On:    f.Meant,
		})
	}
	if len(lk.Keys) == 0 {
		lk.Hint = "nothing to decide here"
	}
	return lk
}

// handsLine says who set what. As in "finger 3 set by you · up proposed · needs 112 of 125 ms". n is the note as
// written, filled the same with proposals taken.
func handsLine(n, filled lick.Note, rn judge.Note) string {
	by := func(locked bool) string {
		if locked {
			return "set by you"
		}
		return "proposed"
	}
	parts := []string{"open string"}
	if n.Fret > 0 {
		parts[0] = fmt.Sprintf("finger %s %s", view.OrNone(filled.Finger.String()), by(n.Locked(lick.FieldFinger)))
	}
	switch {
	case n.Slur.Slurred():
		parts = append(parts, string(n.Slur))
	case filled.Stroke != "":
		parts = append(parts, fmt.Sprintf("%s %s", filled.Stroke, by(n.Locked(lick.FieldStroke))))
	}
	if len(rn.Helpers) > 0 {
		parts = append(parts, "bent with "+fingerList(rn.Helpers)+" behind it, "+by(len(n.Bend.With) > 0))
	}
	if w := rn.Worst(); w.Need > 0 {
		parts = append(parts, fmt.Sprintf("needs %.0f of %.0f ms", w.Need, w.Have))
		if words := w.Words(); words != "" {
			parts = append(parts, words)
		}
	}
	return strings.Join(parts, " · ")
}
