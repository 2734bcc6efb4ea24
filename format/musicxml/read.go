package musicxml

import (
	"bytes"
	"encoding/xml"
	"errors"
	"fmt"
	"io"
	"maps"
	"math"
	"slices"
	"strconv"
	"strings"

	"golang.org/x/text/encoding/ianaindex"

	"ornamen/core/lick"
	"ornamen/core/music"
	"ornamen/core/neck"
	"ornamen/core/say"
	"ornamen/core/text"
	"ornamen/format/read"
)

// reader reads one part. at is where the bar begins; now, last (where the last note began) and most count from there.
// open are the notes that a tie prolongs, by string and fret.
type reader struct {
	lick      lick.Lick
	guitar    neck.Guitar
	divisions int64
	at        lick.Time // of the bar
	now, last lick.Time // in it
	most      lick.Time // of it
	open      map[[2]int]int
	transpose music.Pitch
	near      neck.Place
	laid      []lick.Note // those whose place was chosen
	octaves   music.Pitch // by which those were moved
	rounded   int         // bends that a lick does not have
	unrolled  bool        // repeats are written out
	capo      int
	signature *xKey
	left      map[string]int
}

// Limits of a MusicXML file. A large orchestra's score has some sixty parts.
const (
	maxNotes    = 20_000
	maxDivision = 1 << 24
	maxParts    = 500
)

// Why a score is refused while it is read.
var (
	errTooManyParts = fmt.Errorf("the score has more than %d parts", maxParts)
	errCharset      = errors.New("it is written in an encoding that is not known here")
)

// Decode reads MusicXML: one staff of one part as one line. Places that the file names are kept, other
// notes are laid where the hand is. The remarks say what was chosen and what was left out.
// A document type is passed over, never fetched.
func Decode(data []byte, ask read.Request) (out read.Result, err error) {
	var score xScore
	d := xml.NewDecoder(source(data))
	d.CharsetReader = fromCharset
	switch err := xml.NewTokenDecoder(&trimmed{d: d}).Decode(&score); {
	case errors.Is(err, errTooManyParts), errors.Is(err, errCharset):
		return out, err
	case err != nil:
		return out, errors.New("that is no MusicXML of one score, or a damaged one")
	}
	names := map[string]string{}
	for _, p := range score.Parts {
		names[p.ID] = p.Name
	}
	var parts []xPart
	for _, p := range score.Part {
		staves := p.staves()
		for _, number := range slices.Sorted(maps.Keys(staves)) {
			if n := staves[number].notes(); n > 0 {
				parts = append(parts, staves[number])
				name := staffName(names[p.ID], number, len(staves))
				out.Lines = append(out.Lines, read.Line{Name: read.Named(name, len(parts)), Notes: n})
			}
		}
	}
	if len(parts) == 0 {
		return out, errors.New("the score holds no notes")
	}
	if out.Line, err = ask.Pick(out.Lines); err != nil {
		return out, err
	}
	out.LeftOut()
	r := reader{lick: lick.New(), guitar: ask.On(), divisions: 1, open: map[[2]int]int{},
		near: neck.Place{String: 3, Fret: 5}, left: map[string]int{}}
	r.lick.Tuning = r.guitar.Tuning
	r.lick.Title = read.Clip(score.Title, read.MaxTitle)
	if err := r.part(parts[out.Line]); err != nil {
		return out, err
	}
	if r.octaves != 0 {
		out.Remark("It lies %s, so that it fits on this guitar.", read.OctavesWord(r.octaves))
	}
	if r.rounded > 0 {
		out.Remark("%s read as the nearest that a lick has: a curl, half, full, one and a half, two.",
			say.Count(r.rounded, "bend"))
	}
	if r.unrolled {
		out.Remark("Repeats are written out as they are played, with their endings.")
	}
	if r.capo > 0 {
		out.Remark("With the capo at fret %d every fret is written so many higher, and what was open is fretted there.",
			r.capo)
	}
	for _, what := range slices.Sorted(maps.Keys(r.left)) {
		out.Remark("Left out: %s.", say.Count(r.left[what], what))
	}
	if len(r.lick.Notes) == 0 {
		return out, errors.New("no note of the part lies on this guitar")
	}
	out.Fit(&r.lick)
	read.Hold(r.lick.Chords, r.at, r.lick.Meter.Bar()) // a score only says where a chord begins
	r.lick.Chords = slices.DeleteFunc(r.lick.Chords, func(c lick.Chord) bool { return c.Name == "" })
	if !r.keyed(score) {
		out.FitKey(&r.lick)
	}
	return out, out.Finish(r.lick, r.laid)
}

// source is a score's text in an encoding that the XML reader can begin with: what is written in
// UTF-16 is turned into UTF-8; for others the score's first line says which it is.
func source(data []byte) io.Reader {
	if len(data) >= 2 && (data[0] == 0 || data[1] == 0 || data[0] >= 0xfe) {
		return read.Text(bytes.NewReader(data))
	}
	return bytes.NewReader(bytes.TrimPrefix(data, []byte{0xef, 0xbb, 0xbf}))
}

// fromCharset reads the encoding that a score's first line names. UTF-16 has been turned into UTF-8 by source already.
func fromCharset(label string, r io.Reader) (io.Reader, error) {
	if strings.HasPrefix(strings.ToLower(label), "utf-16") {
		return r, nil
	}
	e, err := ianaindex.IANA.Encoding(label)
	if err != nil || e == nil {
		return nil, errCharset
	}
	return e.NewDecoder().Reader(r), nil
}

// trimmed reads XML without the space around words, as files break their lines anywhere, and stops at a part too many.
type trimmed struct {
	d     *xml.Decoder
	parts int
}

// Token implements xml.TokenReader.
func (t *trimmed) Token() (xml.Token, error) {
	tok, err := t.d.RawToken()
	switch tok := tok.(type) {
	case xml.CharData:
		return xml.CharData(bytes.TrimSpace(tok)), err
	case xml.StartElement:
		if tok.Name.Local == "part" || tok.Name.Local == "score-part" {
			if t.parts++; t.parts > 2*maxParts { // each is in the list and in the score
				return nil, errTooManyParts
			}
		}
	}
	return tok, err
}

// notes counts the notes of a part, without grace notes and what ties prolong. It is what the choice among several
// lines shows, and what the line with most notes is chosen by.
func (p xPart) notes() (n int) {
	for _, m := range p.Measures {
		for _, i := range m.Items {
			if x := i.Note; x != nil && x.Pitch != nil && x.Duration > 0 && !x.tied("stop") {
				n++
			}
		}
	}
	return n
}

// part reads all bars of a part, its notes moved by octaves where they would not fit. Octaves are found from the notes
// that name no place, before any is read: a line goes down or up as a whole.
func (r *reader) part(p xPart) error {
	var pitches []music.Pitch
	transpose := music.Pitch(0)
	for _, m := range p.Measures {
		for _, i := range m.Items {
			switch {
			case i.Attributes != nil && i.Attributes.Transpose != nil:
				transpose = i.Attributes.Transpose.halfSteps()
			case i.Note != nil && i.Note.Pitch != nil && !i.Note.placed():
				if p, ok := pitchNamed(i.Note.Pitch.Step, i.Note.Pitch.Alter, i.Note.Pitch.Octave); ok {
					pitches = append(pitches, p+transpose)
				}
			}
		}
	}
	r.octaves = read.Octaves(r.guitar, pitches)
	order, loop := p.played()
	r.lick.Loop, r.unrolled = loop, !loop && len(order) != len(p.Measures)
	for i, k := range order {
		if err := r.measure(p.Measures[k], i == 0); err != nil {
			return err
		}
	}
	return nil
}

// tied says whether a tie of a kind ("start", "stop") stands at the note.
func (n xNote) tied(kind string) bool {
	return slices.ContainsFunc(n.Ties, func(t xTie) bool { return t.Type == kind })
}

// placed says whether the note names its string and fret.
func (n xNote) placed() bool {
	return n.Notations != nil && n.Notations.Technical != nil && n.Notations.Technical.Fret != nil &&
		n.Notations.Technical.String > 0
}

// halfSteps is how far the part sounds from where it is written.
func (o xOctave) halfSteps() music.Pitch {
	return music.Pitch(max(-36, min(36, o.Chromatic+12*o.Octave)))
}

// time is so many divisions. As a part of a whole note, which four quarters are.
func (r *reader) time(n int64) lick.Time {
	return lick.NewTime(max(-1<<40, min(1<<40, n)), 4*r.divisions)
}

// measure reads a bar. Its length is how far any voice reaches in it, since files leave rests out at the end; a first
// one that says it is a pick-up, or is called 0, and is shorter than a bar, is one.
func (r *reader) measure(m xMeasure, first bool) error {
	r.now, r.last, r.most = lick.Time{}, lick.Time{}, lick.Time{}
	for _, i := range m.Items {
		switch {
		case i.Attributes != nil:
			if err := r.attributes(*i.Attributes); err != nil {
				return err
			}
		case i.Harmony != nil:
			r.harmony(*i.Harmony)
		case i.Direction != nil:
			r.tempo(i.Direction.Tempo, i.Direction.quarters())
			if s := i.Direction.Sound; s != nil {
				r.sound(*s)
			}
		case i.Sound != nil:
			r.sound(*i.Sound)
		case i.Note != nil:
			if err := r.note(*i.Note); err != nil {
				return err
			}
		case i.XMLName.Local == "backup":
			r.now = lick.Later(lick.Time{}, r.now.Sub(r.time(i.Move)))
		case i.XMLName.Local == "forward":
			r.advance(r.time(i.Move))
		}
	}
	if first && (m.Implicit == "yes" || m.Number == "0") && r.most.Before(r.lick.Meter.Bar()) {
		r.lick.Pickup = r.most
	}
	r.at = r.at.Add(r.most)
	return nil
}

// advance moves on in the bar.
func (r *reader) advance(t lick.Time) {
	r.now = r.now.Add(t)
	r.most = lick.Later(r.most, r.now)
}

// meterOf reads a meter, of which the beats may be added up: "3+2" over 8 is 5/8.
func meterOf(beats, unit string) (lick.Meter, error) {
	sum := 0
	for _, part := range strings.Split(beats, "+") {
		n, err := strconv.Atoi(strings.TrimSpace(part))
		if err != nil || n < 1 || n > 999 {
			sum = 0
			break
		}
		sum += n
	}
	m, err := lick.ParseMeter(fmt.Sprintf("%d/%s", sum, strings.TrimSpace(unit)))
	if err != nil {
		return m, fmt.Errorf("the score’s meter, %s over %s, is none", text.Clip(beats, 20), text.Clip(unit, 20))
	}
	return m, nil
}

// attributes read divisions, meter, tuning, transposition. A meter that changes later is counted as left out: a lick
// has one. Lines of the staff are counted from the thick string, ours from the thin one.
func (r *reader) attributes(a xAttributes) error {
	if a.Divisions != nil {
		if *a.Divisions < 1 || *a.Divisions > maxDivision {
			return errors.New("the score counts in divisions that no bar has")
		}
		r.divisions = *a.Divisions
	}
	if a.Beats != "" {
		m, err := meterOf(a.Beats, a.Unit)
		if err != nil {
			return err
		}
		if r.at.IsZero() {
			r.lick.Meter = m
		} else if m != r.lick.Meter {
			r.left["change of meter"]++
		}
	}
	if t := a.Transpose; t != nil {
		r.transpose = t.halfSteps()
	}
	if a.Key != nil && r.signature == nil {
		r.signature = a.Key
	}
	if s := a.Staff; s != nil && s.Capo > 0 && s.Capo < neck.MaxFrets {
		r.capo = s.Capo
	}
	if s := a.Staff; s != nil && len(s.Tuning) >= neck.MinStrings && len(s.Tuning) <= neck.MaxStrings {
		tuning := make([]music.Pitch, len(s.Tuning))
		for _, t := range s.Tuning {
			k := len(tuning) - t.Line
			p, ok := pitchNamed(t.Step, float64(t.Alter), t.Octave)
			if !ok || k < 0 || k >= len(tuning) {
				return nil
			}
			tuning[k] = p
		}
		r.lick.Tuning, r.guitar = tuning, r.guitar.WithTuning(tuning)
	}
	return nil
}

// pitchNamed is a step with its alteration in an octave.
// Octave 4 begins with middle C, 60. A quarter tone is rounded to the half step.
func pitchNamed(step string, alter float64, octave int) (music.Pitch, bool) {
	class, ok := map[string]int{"C": 0, "D": 2, "E": 4, "F": 5, "G": 7, "A": 9, "B": 11}[step]
	p := class + int(math.Round(alter)) + 12*(octave+1)
	return music.Pitch(p), ok && math.Abs(alter) <= 3 && p >= 0 && p <= int(music.MaxPitch)
}

// tempo reads a number of beats a minute, each of so many quarters.
func (r *reader) tempo(s string, quarters float64) {
	t, err := strconv.ParseFloat(s, 64)
	if t *= quarters; err == nil && t >= lick.MinTempo && t <= lick.MaxTempo && len(r.lick.Notes) == 0 {
		r.lick.Tempo = t
	}
}

// quarters is how many quarters the beat of a metronome mark lasts: a dotted one half as many
// again. A unit that is not known counts as a quarter.
func (d xDirection) quarters() float64 {
	beat, ok := map[string]float64{"whole": 4, "half": 2, "quarter": 1, "eighth": 0.5, "16th": 0.25}[d.Unit]
	if !ok {
		return 1
	}
	if len(d.Dots) > 0 {
		beat *= 1.5
	}
	return beat
}

// sound reads tempo and swing.
func (r *reader) sound(s xSound) {
	r.tempo(s.Tempo, 1) // in quarters
	if s.Swing != nil && s.Swing.First > s.Swing.Second {
		r.lick.Feel = lick.Shuffle
	}
}

// harmony reads a chord's name: its text after the root, the text alone (programs write
// either), or the sign for its kind. The first that is a chord's name holds.
//
// "No chord" ends the one before; it is kept without a name until all lengths are known.
func (r *reader) harmony(h xHarmony) {
	at := r.at.Add(r.now).Add(r.time(h.Offset))
	if h.Kind.Value == noChord || lick.IsNoChord(h.Kind.Text) {
		r.lick.Chords = append(r.lick.Chords, lick.Chord{At: at})
		return
	}
	root, bass := signed(h.Step, h.Alter), ""
	if h.Bass != nil {
		bass = "/" + signed(h.Bass.Step, h.Bass.Alter)
	}
	names := []string{root + h.Kind.Text + bass, h.Kind.Text}
	if h.Kind.Text == "" {
		names = nil
	}
	for sign, kind := range chordKinds {
		if kind == h.Kind.Value {
			names = append(names, root+sign+bass)
		}
	}
	i := slices.IndexFunc(names, func(s string) bool { _, err := music.ParseChord(s); return err == nil })
	if i < 0 {
		r.left["chord name that is not known"]++
		return
	}
	r.lick.Chords = append(r.lick.Chords, lick.Chord{At: at, Name: names[i]})
}

// signed is a step with its signs.
func signed(step string, alter int) string {
	return step + strings.Repeat("#", max(0, min(2, alter))) + strings.Repeat("b", max(0, min(2, -alter)))
}
