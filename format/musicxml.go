package format

import (
	"bytes"
	"cmp"
	"encoding/xml"
	"fmt"
	"math"
	"slices"
	"strconv"

	"ornamen/core/lick"
	"ornamen/core/music"
)

// MusicXML 4.0, score-partwise, one part on a tablature staff: strings, frets, fingers, down
// and up, hammer-on and pull-off, slide, bend with release and pre-bend, vibrato, ties over bar
// lines, tuplets, swing, chord names. What it has no element for stays behind.

// The elements that are written and read; encoding/xml keeps their order, which is the
// standard's.
type (
	xmlScore struct {
		XMLName xml.Name   `xml:"score-partwise"`
		Version string     `xml:"version,attr"`
		Title   string     `xml:"work>work-title,omitempty"`
		Parts   []xmlParts `xml:"part-list>score-part"`
		Part    []xmlPart  `xml:"part"`
	}
	xmlParts struct {
		ID   string `xml:"id,attr"`
		Name string `xml:"part-name"`
	}
	xmlPart struct {
		ID       string       `xml:"id,attr"`
		Measures []xmlMeasure `xml:"measure"`
	}
	xmlMeasure struct {
		Number   string    `xml:"number,attr"`
		Implicit string    `xml:"implicit,attr,omitempty"`
		Items    []xmlItem `xml:",any"`
	}
	// xmlItem is any element of a measure; those of one kind are set.
	xmlItem struct {
		XMLName    xml.Name
		Attributes *xmlAttributes
		Harmony    *xmlHarmony
		Direction  *xmlDirection
		Sound      *xmlSound
		Note       *xmlNote
		Move       int64 // backup and forward
		Repeat     string
	}
	xmlAttributes struct {
		Divisions int64      `xml:"divisions,omitempty"`
		Beats     string     `xml:"time>beats,omitempty"`
		Unit      string     `xml:"time>beat-type,omitempty"`
		Sign      string     `xml:"clef>sign,omitempty"`
		Line      string     `xml:"clef>line,omitempty"`
		Staff     *xmlStaff  `xml:"staff-details"`
		Transpose *xmlOctave `xml:"transpose"`
	}
	xmlOctave struct {
		Chromatic int `xml:"chromatic"`
		Octave    int `xml:"octave-change"`
	}
	xmlStaff struct {
		Lines  int         `xml:"staff-lines"`
		Tuning []xmlTuning `xml:"staff-tuning"`
	}
	xmlTuning struct {
		Line   int    `xml:"line,attr"`
		Step   string `xml:"tuning-step"`
		Alter  int    `xml:"tuning-alter,omitempty"`
		Octave int    `xml:"tuning-octave"`
	}
	xmlHarmony struct {
		Step   string  `xml:"root>root-step"`
		Alter  int     `xml:"root>root-alter,omitempty"`
		Kind   xmlKind `xml:"kind"`
		Offset int64   `xml:"offset,omitempty"`
	}
	xmlKind struct {
		Text  string `xml:"text,attr,omitempty"`
		Value string `xml:",chardata"`
	}
	xmlDirection struct {
		Unit  string    `xml:"direction-type>metronome>beat-unit"`
		Tempo string    `xml:"direction-type>metronome>per-minute"`
		Sound *xmlSound `xml:"sound"`
	}
	xmlSound struct {
		Tempo string    `xml:"tempo,attr,omitempty"`
		Swing *xmlSwing `xml:"swing"`
	}
	xmlSwing struct {
		First  int    `xml:"first,omitempty"`
		Second int    `xml:"second,omitempty"`
		Type   string `xml:"swing-type,omitempty"`
	}
	xmlNote struct {
		Chord     *struct{}    `xml:"chord"`
		Pitch     *xmlPitch    `xml:"pitch"`
		Rest      *struct{}    `xml:"rest"`
		Duration  int64        `xml:"duration"`
		Ties      []xmlTie     `xml:"tie"`
		Voice     string       `xml:"voice,omitempty"`
		Type      string       `xml:"type,omitempty"`
		Dots      []struct{}   `xml:"dot"`
		Tuplet    *xmlTuplet   `xml:"time-modification"`
		Head      string       `xml:"notehead,omitempty"`
		Notations *xmlNotation `xml:"notations"`
	}
	xmlPitch struct {
		Step   string  `xml:"step"`
		Alter  float64 `xml:"alter,omitempty"`
		Octave int     `xml:"octave"`
	}
	xmlTie struct {
		Type string `xml:"type,attr"`
	}
	xmlTuplet struct {
		Actual int `xml:"actual-notes"`
		Normal int `xml:"normal-notes"`
	}
	xmlNotation struct {
		Tied          []xmlTie          `xml:"tied"`
		Slides        []xmlLine         `xml:"slide"`
		Ornaments     *xmlOrnaments     `xml:"ornaments"`
		Technical     *xmlTechnical     `xml:"technical"`
		Articulations *xmlArticulations `xml:"articulations"`
	}
	xmlLine struct {
		Type   string `xml:"type,attr"`
		Number int    `xml:"number,attr,omitempty"`
	}
	xmlOrnaments struct {
		Wavy []xmlLine `xml:"wavy-line"`
	}
	xmlArticulations struct {
		Accent *struct{} `xml:"accent"`
	}
	xmlTechnical struct {
		Up       *struct{}  `xml:"up-bow"`
		Down     *struct{}  `xml:"down-bow"`
		Finger   string     `xml:"fingering,omitempty"`
		Pluck    string     `xml:"pluck,omitempty"`
		Fret     *int       `xml:"fret"`
		String   int        `xml:"string,omitempty"`
		Hammers  []xmlPhase `xml:"hammer-on"`
		Pulls    []xmlPhase `xml:"pull-off"`
		Bends    []xmlBend  `xml:"bend"`
		Thumb    *struct{}  `xml:"thumb-position"`
		OtherTxt []string   `xml:"other-technical"`
	}
	xmlPhase struct {
		Type   string `xml:"type,attr"`
		Number int    `xml:"number,attr,omitempty"`
		Text   string `xml:",chardata"`
	}
	xmlBend struct {
		Alter   float64   `xml:"bend-alter"`
		Pre     *struct{} `xml:"pre-bend"`
		Release *struct{} `xml:"release"`
	}
)

// MarshalXML writes the one element that the item is.
func (i xmlItem) MarshalXML(e *xml.Encoder, _ xml.StartElement) error {
	name := func(s string) xml.StartElement { return xml.StartElement{Name: xml.Name{Local: s}} }
	switch {
	case i.Attributes != nil:
		return e.EncodeElement(i.Attributes, name("attributes"))
	case i.Harmony != nil:
		return e.EncodeElement(i.Harmony, name("harmony"))
	case i.Direction != nil:
		return e.EncodeElement(i.Direction, name("direction"))
	case i.Sound != nil:
		return e.EncodeElement(i.Sound, name("sound"))
	case i.Note != nil:
		return e.EncodeElement(i.Note, name("note"))
	case i.Repeat != "":
		type repeat struct {
			Direction string `xml:"direction,attr"`
		}
		type barline struct {
			Location string `xml:"location,attr"`
			Repeat   repeat `xml:"repeat"`
		}
		side := map[string]string{"forward": "left", "backward": "right"}[i.Repeat]
		return e.EncodeElement(barline{side, repeat{i.Repeat}}, name("barline"))
	}
	type move struct {
		Duration int64 `xml:"duration"`
	}
	return e.EncodeElement(move{i.Move}, name(i.XMLName.Local))
}

// noteNames are the steps of the twelve classes, sharps where there is a choice.
var noteNames = [12]xmlPitch{{Step: "C"}, {Step: "C", Alter: 1}, {Step: "D"}, {Step: "D", Alter: 1}, {Step: "E"}, {Step: "F"},
	{Step: "F", Alter: 1}, {Step: "G"}, {Step: "G", Alter: 1}, {Step: "A"}, {Step: "A", Alter: 1}, {Step: "B"}}

// xmlPitchOf spells a pitch, by the lick's tones where they name it.
func xmlPitchOf(l lick.Lick, p music.Pitch) *xmlPitch {
	out := noteNames[p.Class()]
	out.Octave = int(p)/12 - 1
	if tones, ok := l.Palette(); ok && tones.At(p).Role != music.Outside {
		name := tones.At(p).Name.String()
		alter := 0
		for _, c := range name[1:] {
			alter += map[rune]int{'#': 1, 'b': -1}[c]
		}
		out.Step, out.Alter = name[:1], float64(alter)
		out.Octave = (int(p)-alter)/12 - 1
	}
	return &out
}

// chordKinds are the standard's words for the commonest chords; another is "other" with its
// sign.
var chordKinds = map[string]string{"": "major", "m": "minor", "7": "dominant", "maj7": "major-seventh", "m7": "minor-seventh",
	"dim": "diminished", "aug": "augmented", "m7b5": "half-diminished", "6": "major-sixth", "m6": "minor-sixth",
	"9": "dominant-ninth", "m9": "minor-ninth", "maj9": "major-ninth", "sus4": "suspended-fourth", "sus2": "suspended-second",
	"5": "power", "13": "dominant-13th", "m11": "minor-11th"}

// segment is a note, or a part of one that bar lines cut, in a bar.
type segment struct {
	note     int // −1 for a rest
	at, len  lick.Time
	from, to bool // tied from the one before, to the one after
}

// EncodeMusicXML writes a lick as MusicXML 4.0.
func EncodeMusicXML(l lick.Lick) []byte {
	w := xmlWriter{lick: l, divisions: divisionsOf(l)}
	score := xmlScore{Version: "4.0", Title: cleared(l.Title), Parts: []xmlParts{{"P1", "Guitar"}},
		Part: []xmlPart{{ID: "P1", Measures: w.measures()}}}
	var b bytes.Buffer
	b.WriteString(xml.Header)
	b.WriteString(`<!DOCTYPE score-partwise PUBLIC "-//Recordare//DTD MusicXML 4.0 Partwise//EN" ` +
		`"http://www.musicxml.org/dtds/partwise.dtd">` + "\n")
	e := xml.NewEncoder(&b)
	e.Indent("", " ")
	// A buffer takes all that is written, and the elements are plain values.
	_ = e.Encode(score)
	b.WriteByte('\n')
	return b.Bytes()
}

// xmlWriter writes one lick.
type xmlWriter struct {
	lick      lick.Lick
	divisions int64 // of a quarter
}

// divisionsOf is the least common multiple of all times' parts of a quarter, within reason.
func divisionsOf(l lick.Lick) int64 {
	out := int64(1)
	add := func(t lick.Time) {
		_, den := t.Times(4).Parts()
		a, b := out, den
		for b > 0 {
			a, b = b, a%b
		}
		if m := out / a * den; m <= 1<<24 {
			out = m
		}
	}
	for _, n := range l.Notes {
		add(n.At)
		add(n.Len)
	}
	add(l.Pickup)
	add(l.Meter.Bar())
	for _, c := range l.Chords {
		add(c.At)
		add(c.Len)
	}
	return out
}

// duration is a time in divisions.
func (w *xmlWriter) duration(t lick.Time) int64 {
	num, den := t.Parts()
	return int64(math.Round(float64(4*num*w.divisions) / float64(den)))
}

// measures cuts the line into bars.
func (w *xmlWriter) measures() []xmlMeasure {
	l := w.lick
	voices := w.voices()
	end := l.End()
	if end.IsZero() {
		end = l.Meter.Bar()
	}
	var out []xmlMeasure
	at, size, number := lick.Time{}, l.Pickup, 0
	if l.Pickup.IsZero() {
		size, number = l.Meter.Bar(), 1
	}
	for first := true; at.Before(end); first = false {
		m := xmlMeasure{Number: strconv.Itoa(number)}
		if number == 0 {
			m.Implicit = "yes"
		}
		if first {
			m.Items = w.head()
		}
		if first && l.Loop {
			m.Items = append(m.Items, xmlItem{Repeat: "forward"})
		}
		stop := at.Add(size)
		for _, c := range l.Chords {
			if !c.At.Before(at) && c.At.Before(stop) {
				m.Items = append(m.Items, xmlItem{Harmony: w.harmony(c, at)})
			}
		}
		for k, notes := range voices {
			if k > 0 {
				m.Items = append(m.Items, xmlItem{XMLName: xml.Name{Local: "backup"}, Move: w.duration(size)})
			}
			m.Items = append(m.Items, w.bar(notes, k+1, at, stop)...)
		}
		if at = stop; l.Loop && !at.Before(end) {
			m.Items = append(m.Items, xmlItem{Repeat: "backward"})
		}
		out = append(out, m)
		size, number = l.Meter.Bar(), number+1
	}
	return out
}

// head is what stands in the first bar: divisions, meter, tuning, tempo, swing.
func (w *xmlWriter) head() []xmlItem {
	l := w.lick
	staff := &xmlStaff{Lines: len(l.Tuning)}
	for i, p := range slices.Backward(l.Tuning) {
		n := noteNames[p.Class()]
		staff.Tuning = append(staff.Tuning, xmlTuning{len(l.Tuning) - i, n.Step, int(n.Alter), int(p)/12 - 1})
	}
	sound := &xmlSound{Tempo: strconv.FormatFloat(l.Tempo, 'f', -1, 64)}
	if l.Feel == lick.Shuffle {
		sound.Swing = &xmlSwing{2, 1, "eighth"}
	}
	return []xmlItem{
		{Attributes: &xmlAttributes{Divisions: w.divisions, Beats: strconv.Itoa(l.Meter.Beats), Unit: strconv.Itoa(l.Meter.Unit),
			Sign: "TAB", Line: "5", Staff: staff}},
		{Direction: &xmlDirection{Unit: "quarter", Tempo: sound.Tempo, Sound: sound}},
	}
}

// harmony is a chord's name at its place in the bar.
func (w *xmlWriter) harmony(c lick.Chord, bar lick.Time) *xmlHarmony {
	h := &xmlHarmony{Kind: xmlKind{Text: c.Name, Value: "other"}, Step: "C", Offset: w.duration(c.At.Sub(bar))}
	if chord, err := music.ParseChord(c.Name); err == nil {
		root := chord.Root.String()
		h.Step = root[:1]
		for _, s := range root[1:] {
			h.Alter += map[rune]int{'#': 1, 'b': -1}[s]
		}
		sign := c.Name[len(root):]
		if kind, ok := chordKinds[sign]; ok {
			h.Kind = xmlKind{Text: sign, Value: kind}
		} else {
			h.Kind.Text = sign
		}
	}
	return h
}

// voices are the notes in voices in which none begins before another has ended, but for those
// that begin and end together.
func (w *xmlWriter) voices() (out [][]int) {
	l := w.lick
	for i, n := range l.Notes {
		k := slices.IndexFunc(out, func(v []int) bool {
			last := l.Notes[v[len(v)-1]]
			return !n.At.Before(last.End()) || n.At.Cmp(last.At) == 0 && n.Len.Cmp(last.Len) == 0
		})
		if k < 0 {
			out, k = append(out, nil), len(out)
		}
		out[k] = append(out[k], i)
	}
	if out == nil {
		out = [][]int{nil}
	}
	return out
}

// bar is a voice's notes and rests in a bar.
func (w *xmlWriter) bar(notes []int, voice int, at, stop lick.Time) (items []xmlItem) {
	rest := func(from, to lick.Time) {
		if from.Before(to) {
			n := &xmlNote{Rest: &struct{}{}, Duration: w.duration(to.Sub(from)), Voice: strconv.Itoa(voice)}
			w.value(n, to.Sub(from))
			items = append(items, xmlItem{Note: n})
		}
	}
	now, last := at, lick.Time{}
	begun := false
	for _, i := range notes {
		n := w.lick.Notes[i]
		if !n.At.Before(stop) || !at.Before(n.End()) {
			continue
		}
		s := segment{note: i, at: n.At, from: n.At.Before(at), to: stop.Before(n.End())}
		end := n.End()
		if s.from {
			s.at = at
		}
		if s.to {
			end = stop
		}
		s.len = end.Sub(s.at)
		chord := begun && s.at.Cmp(last) == 0
		if !chord {
			rest(now, s.at)
		}
		items = append(items, xmlItem{Note: w.note(s, voice, chord)})
		now, last, begun = end, s.at, true
	}
	rest(now, stop)
	return items
}

// value writes a length as the symbol of a note: its type, dots, tuplet; none where there is
// no symbol.
func (w *xmlWriter) value(n *xmlNote, t lick.Time) {
	names := []string{"whole", "half", "quarter", "eighth", "16th", "32nd", "64th"}
	for _, tuplet := range []xmlTuplet{{1, 1}, {3, 2}, {5, 4}, {7, 4}} {
		for k, name := range names {
			plain := lick.NewTime(int64(tuplet.Normal), int64(tuplet.Actual)<<k)
			for dots, by := range []lick.Time{plain, plain.Add(lick.NewTime(int64(tuplet.Normal), int64(tuplet.Actual)<<(k+1)))} {
				if t.Cmp(by) != 0 {
					continue
				}
				if n.Type = name; dots > 0 {
					n.Dots = []struct{}{{}}
				}
				if tuplet.Actual > 1 {
					n.Tuplet = &xmlTuplet{tuplet.Actual, tuplet.Normal}
				}
				return
			}
		}
	}
}

// note writes a segment with all that is known of its note.
func (w *xmlWriter) note(s segment, voice int, chord bool) *xmlNote {
	l, n := w.lick, w.lick.Notes[s.note]
	out := &xmlNote{Pitch: xmlPitchOf(l, l.Pitch(s.note)), Duration: w.duration(s.len), Voice: strconv.Itoa(voice)}
	if chord {
		out.Chord = &struct{}{}
	}
	w.value(out, s.len)
	if n.Mute {
		out.Head = "x"
	}
	notation := &xmlNotation{Technical: &xmlTechnical{Fret: &n.Fret, String: n.String}}
	for _, tie := range []struct {
		on   bool
		kind string
	}{{s.from, "stop"}, {s.to, "start"}} {
		if tie.on {
			out.Ties = append(out.Ties, xmlTie{tie.kind})
			notation.Tied = append(notation.Tied, xmlTie{tie.kind})
		}
	}
	out.Notations = notation
	if s.from {
		return out // the rest was said where it begins
	}
	w.techniques(s.note, notation)
	return out
}

// techniques writes fingers, strokes, slurs, bends and the like.
func (w *xmlWriter) techniques(i int, out *xmlNotation) {
	n, t := w.lick.Notes[i], out.Technical
	switch {
	case n.Finger == lick.Thumb:
		t.Finger = "T"
	case n.Finger != lick.NoFinger:
		t.Finger = n.Finger.String()
	}
	switch n.Stroke {
	case "":
	case lick.Down:
		t.Down = &struct{}{}
	case lick.Up:
		t.Up = &struct{}{}
	default:
		t.Pluck = string(n.Stroke)
	}
	begins := lick.Slur("") // of the next note on the string: the line begins here
	for k := i + 1; k < len(w.lick.Notes); k++ {
		if m := w.lick.Notes[k]; m.String == n.String && n.At.Before(m.At) {
			begins = m.Slur
			break
		}
	}
	line := func(kind string, slur lick.Slur) {
		switch slur {
		case lick.Hammer:
			t.Hammers = append(t.Hammers, xmlPhase{kind, n.String, "H"})
		case lick.Pull:
			t.Pulls = append(t.Pulls, xmlPhase{kind, n.String, "P"})
		case lick.Slide, lick.Shift:
			out.Slides = append(out.Slides, xmlLine{kind, n.String})
		}
	}
	line("stop", n.Slur)
	line("start", begins)
	if n.Slur == lick.Shift {
		t.OtherTxt = append(t.OtherTxt, "shift")
	}
	if b := n.Bend; b != nil {
		x := xmlBend{Alter: b.Semitones}
		if b.Pre() {
			x.Pre = &struct{}{}
		}
		t.Bends = append(t.Bends, x)
		if b.Release() {
			t.Bends = append(t.Bends, xmlBend{Alter: -b.Semitones, Release: &struct{}{}})
		}
	}
	if n.Vibrato != nil {
		out.Ornaments = &xmlOrnaments{Wavy: []xmlLine{{Type: "start", Number: 1}, {Type: "stop", Number: 1}}}
		t.OtherTxt = append(t.OtherTxt, fmt.Sprintf("vibrato %s %s", n.Vibrato.Width, n.Vibrato.Speed))
	}
	if n.Accent {
		out.Articulations = &xmlArticulations{Accent: &struct{}{}}
	}
	if n.Barre {
		t.OtherTxt = append(t.OtherTxt, "barre")
	}
	if n.Rake {
		t.OtherTxt = append(t.OtherTxt, "rake")
	}
	if s := n.SlideIn; s != nil {
		t.OtherTxt = append(t.OtherTxt, fmt.Sprintf("slide-in %d %s", s.Frets, s.From))
	}
	t.OtherTxt = slices.DeleteFunc(t.OtherTxt, func(s string) bool { return cmp.Compare(s, "") == 0 })
}
