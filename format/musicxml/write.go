package musicxml

import (
	"bytes"
	"encoding/xml"
	"math"
	"slices"
	"strconv"
	"strings"

	"ornamen/core/lick"
	"ornamen/core/music"
	"ornamen/format/read"
)

// noteNames are the steps of the twelve classes, sharps where there is a choice.
// Tunings and tones outside a lick's key are spelled by it.
var noteNames = [12]xPitch{{Step: "C"}, {Step: "C", Alter: 1}, {Step: "D"}, {Step: "D", Alter: 1}, {Step: "E"},
	{Step: "F"}, {Step: "F", Alter: 1}, {Step: "G"}, {Step: "G", Alter: 1}, {Step: "A"}, {Step: "A", Alter: 1},
	{Step: "B"}}

// pitchOf spells a pitch, by the lick's tones where they name it. The octave belongs to the letter and not to the
// pitch: B♯3 sounds like C4, C♭4 like B3. The standard's octaves begin at C, 4 with middle C.
func pitchOf(l lick.Lick, p music.Pitch) *xPitch {
	out := noteNames[p.Class()]
	out.Octave = int(p)/12 - 1
	if tones, ok := l.Palette(); ok && tones.At(p).Role != music.Outside {
		step, alter := stepOf(tones.At(p).Name)
		out.Step, out.Alter, out.Octave = step, float64(alter), (int(p)-alter)/12-1
	}
	return &out
}

// chordKinds are the standard's words for the commonest chords; another is "other" with its sign.
var chordKinds = map[string]string{
	"":     "major",
	"m":    "minor",
	"7":    "dominant",
	"maj7": "major-seventh",
	"m7":   "minor-seventh",
	"dim":  "diminished",
	"aug":  "augmented",
	"m7b5": "half-diminished",
	"6":    "major-sixth",
	"m6":   "minor-sixth",
	"9":    "dominant-ninth",
	"m9":   "minor-ninth",
	"maj9": "major-ninth",
	"sus4": "suspended-fourth",
	"sus2": "suspended-second",
	"5":    "power",
	"13":   "dominant-13th",
	"m11":  "minor-11th",
}

// segment is a note, or a part of one that bar lines cut, in a bar.
// at is where the part begins, len how long it lasts within the bar.
type segment struct {
	note     int // −1 for a rest
	at, len  lick.Time
	from, to bool // tied from the one before, to the one after
}

// Encode writes a lick as MusicXML 4.0. The document names the standard's public identifier, which no reader here ever
// fetches. Two equal licks give equal bytes.
func Encode(l lick.Lick) []byte {
	w := writer{lick: l, divisions: divisionsOf(l)}
	score := xScore{
		Version: "4.0",
		Title:   read.Clip(l.Title, read.MaxTitle),
		Misc:    []xMisc{{keyField, keyText(l.Key)}},
		Parts:   []xParts{{"P1", "Guitar"}},
		Part:    []xPart{{ID: "P1", Measures: w.measures()}},
	}
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

// writer writes one lick. Every time of the lick is a whole number of divisions.
type writer struct {
	lick      lick.Lick
	divisions int64 // of a quarter
}

// divisionsOf is the least common multiple of all times' parts of a quarter, up to 2^24:
// sixteenths and triplets together need 12.
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

// duration is a time in divisions. Rounded only where the divisions had to stop at 2^24.
func (w *writer) duration(t lick.Time) int64 {
	num, den := t.Parts()
	return int64(math.Round(float64(4*num*w.divisions) / float64(den)))
}

// measures cuts the line into bars. A pick-up is bar 0, marked implicit as the standard asks. A loop is a repeat from
// the first bar to the last. Voices after the first begin with a step back over the bar.
func (w *writer) measures() []xMeasure {
	l := w.lick
	voices := w.voices()
	end := l.End()
	if end.IsZero() {
		end = l.Meter.Bar()
	}
	var out []xMeasure
	at, size, number := lick.Time{}, l.Pickup, 0
	if l.Pickup.IsZero() {
		size, number = l.Meter.Bar(), 1
	}
	for first := true; at.Before(end); first = false {
		m := xMeasure{Number: strconv.Itoa(number)}
		if number == 0 {
			m.Implicit = "yes"
		}
		if first {
			m.Items = w.head()
		}
		if first && l.Loop {
			m.Items = append(m.Items, xItem{Repeat: "forward"})
		}
		stop := at.Add(size)
		for _, c := range w.signs() {
			if !c.At.Before(at) && c.At.Before(stop) {
				m.Items = append(m.Items, xItem{Harmony: w.harmony(c, at)})
			}
		}
		for k, notes := range voices {
			if k > 0 {
				m.Items = append(m.Items, xItem{XMLName: xml.Name{Local: "backup"}, Move: w.duration(size)})
			}
			m.Items = append(m.Items, w.bar(notes, k+1, at, stop)...)
		}
		if at = stop; l.Loop && !at.Before(end) {
			m.Items = append(m.Items, xItem{Repeat: "backward"})
		}
		out = append(out, m)
		size, number = l.Meter.Bar(), number+1
	}
	return out
}

// head is what stands in the first bar: divisions, meter, tuning, tempo, swing.
// The clef is the tablature's; the staff has a line and a tuning for each string.
func (w *writer) head() []xItem {
	l := w.lick
	staff := &xStaff{Lines: len(l.Tuning)}
	for i, p := range slices.Backward(l.Tuning) {
		n := noteNames[p.Class()]
		staff.Tuning = append(staff.Tuning, xTuning{
			Line:   len(l.Tuning) - i,
			Step:   n.Step,
			Alter:  int(n.Alter),
			Octave: int(p)/12 - 1,
		})
	}
	sound := &xSound{Tempo: strconv.FormatFloat(l.Tempo, 'f', -1, 64)}
	if l.Feel == lick.Shuffle {
		sound.Swing = &xSwing{2, 1, "eighth"}
	}
	return []xItem{
		{Attributes: &xAttributes{
			Divisions: &w.divisions,
			Key:       signatureOf(l.Key),
			Beats:     strconv.Itoa(l.Meter.Beats),
			Unit:      strconv.Itoa(l.Meter.Unit),
			Sign:      "TAB",
			Line:      "5",
			Staff:     staff,
		}},
		{Direction: &xDirection{Unit: "quarter", Tempo: sound.Tempo, Sound: sound}},
	}
}

// noChord is the standard's kind for a harmony that is none.
const noChord = "none"

// signs are the chords, and silence where one ends before the next begins.
func (w *writer) signs() (out []lick.Chord) {
	for i, c := range w.lick.Chords {
		out = append(out, c)
		if over := c.End(); i+1 < len(w.lick.Chords) && over.Before(w.lick.Chords[i+1].At) {
			out = append(out, lick.Chord{At: over, Name: lick.NoChord})
		}
	}
	return out
}

// harmony is a chord's name at its place in the bar. A chord that cannot be read any more keeps its name as text, on C.
func (w *writer) harmony(c lick.Chord, bar lick.Time) *xHarmony {
	h := &xHarmony{Kind: xKind{Text: c.Name, Value: "other"}, Step: "C", Offset: w.duration(c.At.Sub(bar))}
	if c.Name == lick.NoChord {
		h.Kind.Value = noChord
		return h
	}
	chord, err := music.ParseChord(c.Name)
	if err != nil {
		return h
	}
	h.Step, h.Alter = stepOf(chord.Root)
	if strings.ContainsAny(c.Name, "♭♯") {
		return h // its text is the name as it was typed
	}
	sign := c.Name[len(chord.Root.String()):]
	if chord.Bass != nil {
		h.Bass = &xBass{}
		h.Bass.Step, h.Bass.Alter = stepOf(*chord.Bass)
		sign = sign[:strings.LastIndex(sign, "/")]
	}
	h.Kind.Text = sign
	if kind, ok := chordKinds[sign]; ok {
		h.Kind.Value = kind
	}
	return h
}

// stepOf is a name as step and alteration.
func stepOf(n music.Name) (step string, alter int) {
	name := n.String()
	for _, s := range name[1:] {
		alter += map[rune]int{'#': 1, 'b': -1}[s]
	}
	return name[:1], alter
}
