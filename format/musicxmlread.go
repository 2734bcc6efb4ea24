package format

import (
	"archive/zip"
	"bytes"
	"encoding/xml"
	"errors"
	"fmt"
	"io"
	"math"
	"strconv"
	"strings"

	"ornamen/core/lick"
	"ornamen/core/music"
	"ornamen/core/neck"
)

// UnmarshalXML reads one element of a measure; what is not known is passed over.
func (i *xmlItem) UnmarshalXML(d *xml.Decoder, start xml.StartElement) error {
	i.XMLName = start.Name
	switch start.Name.Local {
	case "attributes":
		i.Attributes = &xmlAttributes{}
		return d.DecodeElement(i.Attributes, &start)
	case "harmony":
		i.Harmony = &xmlHarmony{}
		return d.DecodeElement(i.Harmony, &start)
	case "direction":
		i.Direction = &xmlDirection{}
		return d.DecodeElement(i.Direction, &start)
	case "sound":
		i.Sound = &xmlSound{}
		return d.DecodeElement(i.Sound, &start)
	case "note":
		i.Note = &xmlNote{}
		return d.DecodeElement(i.Note, &start)
	case "backup", "forward":
		var m struct {
			Duration int64 `xml:"duration"`
		}
		if err := d.DecodeElement(&m, &start); err != nil {
			return err
		}
		i.Move = m.Duration
		return nil
	case "barline":
		var b struct {
			Repeat struct {
				Direction string `xml:"direction,attr"`
			} `xml:"repeat"`
		}
		if err := d.DecodeElement(&b, &start); err != nil {
			return err
		}
		i.Repeat = b.Repeat.Direction
		return nil
	}
	return d.Skip()
}

// xmlReader reads one part.
type xmlReader struct {
	lick      lick.Lick
	guitar    neck.Guitar
	divisions int64
	at        lick.Time // of the bar
	now, last lick.Time // in it
	most      lick.Time // of it
	open      map[[2]int]int
	transpose music.Pitch
	near      neck.Place
	laid      int // notes whose place was chosen
	left      map[string]int
	slid      map[int]bool // strings on which a slide is under way, as hammers and pulls
}

// Limits of a MusicXML file.
const (
	maxXMLNotes    = 20_000
	maxXMLDivision = 1 << 24
)

// DecodeMusicXML reads MusicXML: the part with the most notes as one line. Places that the
// file names are kept, other notes are laid where the hand is. The remarks say what was
// chosen and what was left out.
func DecodeMusicXML(data []byte) (l lick.Lick, remarks []string, err error) {
	var score xmlScore
	d := xml.NewDecoder(bytes.NewReader(data))
	d.CharsetReader = func(string, io.Reader) (io.Reader, error) {
		return nil, errors.New("it is not written in UTF-8")
	}
	if err := d.Decode(&score); err != nil {
		return l, nil, fmt.Errorf("that is no MusicXML of one score: %w", oneLineOf(err))
	}
	part, names := -1, map[string]string{}
	for _, p := range score.Parts {
		names[p.ID] = p.Name
	}
	counts := make([]int, len(score.Part))
	for k, p := range score.Part {
		for _, m := range p.Measures {
			for _, i := range m.Items {
				if i.Note != nil && i.Note.Pitch != nil {
					counts[k]++
				}
			}
		}
		if part < 0 || counts[k] > counts[part] {
			part = k
		}
	}
	if part < 0 || counts[part] == 0 {
		return l, nil, errors.New("the score holds no notes")
	}
	for k, p := range score.Part {
		if k != part && counts[k] > 0 {
			remarks = append(remarks, fmt.Sprintf("Left out: the part %s with %d notes.", named(names[p.ID]), counts[k]))
		}
	}
	r := xmlReader{lick: lick.New(), guitar: neck.Standard(), divisions: 1, open: map[[2]int]int{},
		near: neck.Place{String: 3, Fret: 5}, left: map[string]int{}}
	r.lick.Title = clipTo(score.Title, maxTitle)
	for k, m := range score.Part[part].Measures {
		if err := r.measure(m, k == 0); err != nil {
			return l, nil, err
		}
	}
	if r.laid > 0 {
		remarks = append(remarks, "Strings and frets were chosen near the hand.")
	}
	for what, n := range r.left {
		remarks = append(remarks, fmt.Sprintf("Left out: %s, %d times.", what, n))
	}
	r.chordLengths()
	l, err = lick.Parse(r.lick.Encode())
	return l, remarks, err
}

// oneLineOf is an error in one line.
func oneLineOf(err error) error { return errors.New(strings.Join(strings.Fields(err.Error()), " ")) }

// time is so many divisions.
func (r *xmlReader) time(n int64) lick.Time {
	return lick.NewTime(max(-1<<40, min(1<<40, n)), 4*r.divisions)
}

// measure reads a bar.
func (r *xmlReader) measure(m xmlMeasure, first bool) error {
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
			r.tempo(i.Direction.Tempo)
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
			if r.now = r.now.Sub(r.time(i.Move)); r.now.Before(lick.Time{}) {
				r.now = lick.Time{}
			}
		case i.XMLName.Local == "forward":
			r.advance(r.time(i.Move))
		case i.Repeat == "backward":
			r.lick.Loop = true
		}
	}
	if first && (m.Implicit == "yes" || m.Number == "0") && r.most.Before(r.lick.Meter.Bar()) {
		r.lick.Pickup = r.most
	}
	r.at = r.at.Add(r.most)
	return nil
}

// advance moves on in the bar.
func (r *xmlReader) advance(t lick.Time) {
	if r.now = r.now.Add(t); r.most.Before(r.now) {
		r.most = r.now
	}
}

// attributes read divisions, meter, tuning, transposition.
func (r *xmlReader) attributes(a xmlAttributes) error {
	if a.Divisions != 0 {
		if a.Divisions < 0 || a.Divisions > maxXMLDivision {
			return errors.New("the score counts in divisions that no bar has")
		}
		r.divisions = a.Divisions
	}
	if a.Beats != "" {
		if m, err := lick.ParseMeter(a.Beats + "/" + a.Unit); err == nil {
			r.lick.Meter = m
		}
	}
	if t := a.Transpose; t != nil {
		r.transpose = music.Pitch(max(-36, min(36, t.Chromatic+12*t.Octave)))
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
func pitchNamed(step string, alter float64, octave int) (music.Pitch, bool) {
	class, ok := map[string]int{"C": 0, "D": 2, "E": 4, "F": 5, "G": 7, "A": 9, "B": 11}[step]
	p := class + int(math.Round(alter)) + 12*(octave+1)
	return music.Pitch(p), ok && math.Abs(alter) <= 3 && p >= 0 && p <= int(music.MaxPitch)
}

// tempo reads a number of quarters a minute.
func (r *xmlReader) tempo(s string) {
	if t, err := strconv.ParseFloat(s, 64); err == nil && t >= lick.MinTempo && t <= lick.MaxTempo && len(r.lick.Notes) == 0 {
		r.lick.Tempo = t
	}
}

// sound reads tempo and swing.
func (r *xmlReader) sound(s xmlSound) {
	r.tempo(s.Tempo)
	if s.Swing != nil && s.Swing.First > s.Swing.Second {
		r.lick.Feel = lick.Shuffle
	}
}

// harmony reads a chord's name.
func (r *xmlReader) harmony(h xmlHarmony) {
	name := h.Step + strings.Repeat("#", max(0, min(2, h.Alter))) + strings.Repeat("b", max(0, min(2, -h.Alter)))
	sign := h.Kind.Text
	if h.Kind.Value != "other" {
		for s, kind := range chordKinds {
			if kind == h.Kind.Value {
				sign = s
			}
		}
	}
	if _, err := music.ParseChord(name + sign); err != nil {
		if _, err := music.ParseChord(h.Kind.Text); err != nil {
			r.left["a chord that is not known"]++
			return
		}
		name, sign = h.Kind.Text, ""
	}
	r.lick.Chords = append(r.lick.Chords, lick.Chord{At: r.at.Add(r.now).Add(r.time(h.Offset)), Name: name + sign})
}

// chordLengths has each chord hold until the next one.
func (r *xmlReader) chordLengths() {
	cs := r.lick.Chords
	for i := range cs {
		end := r.at
		if i+1 < len(cs) {
			end = cs[i+1].At
		}
		if cs[i].Len = end.Sub(cs[i].At); !(lick.Time{}).Before(cs[i].Len) {
			cs[i].Len = r.lick.Meter.Bar()
		}
	}
}

// note reads a note or a rest.
func (r *xmlReader) note(x xmlNote) error {
	if x.Duration <= 0 {
		r.left["a grace note"]++
		return nil
	}
	length := r.time(x.Duration)
	at := r.now
	if x.Chord != nil {
		at = r.last
	} else {
		r.last = r.now
		r.advance(length)
	}
	if x.Rest != nil || x.Pitch == nil {
		return nil
	}
	if len(r.lick.Notes) == maxXMLNotes {
		return fmt.Errorf("the score has more than %d notes", maxXMLNotes)
	}
	n := lick.Note{At: r.at.Add(at), Len: length, Mute: x.Head == "x"}
	t := &xmlTechnical{}
	if x.Notations != nil && x.Notations.Technical != nil {
		t = x.Notations.Technical
	}
	pitch, ok := pitchNamed(x.Pitch.Step, x.Pitch.Alter, x.Pitch.Octave)
	if !ok {
		return errors.New("the score names a pitch that is none")
	}
	pitch += r.transpose
	switch {
	case t.Fret != nil && t.String >= 1 && t.String <= len(r.lick.Tuning) && *t.Fret >= 0 && *t.Fret <= neck.MaxFrets:
		n.String, n.Fret = t.String, *t.Fret
	default:
		p, ok := near(r.guitar, &r.lick, n, pitch, r.near)
		if !ok {
			r.left["a note that lies on no string that is free"]++
			return nil
		}
		n.String, n.Fret = p.String, p.Fret
		r.laid++
	}
	r.near = n.Place()
	key := [2]int{n.String, n.Fret}
	starts, stops := false, false
	for _, tie := range x.Ties {
		starts, stops = starts || tie.Type == "start", stops || tie.Type == "stop"
	}
	if k, open := r.open[key]; stops && open {
		r.lick.Notes[k].Len = r.lick.Notes[k].Len.Add(length)
		if !starts {
			delete(r.open, key)
		}
		return nil
	}
	r.techniques(&n, x, t)
	if starts {
		r.open[key] = len(r.lick.Notes)
	}
	r.lick.Notes = append(r.lick.Notes, n)
	return nil
}

// techniques reads fingers, strokes, slurs, bends and the like.
func (r *xmlReader) techniques(n *lick.Note, x xmlNote, t *xmlTechnical) {
	if t.Finger != "" {
		if f, err := lick.ParseFinger(strings.TrimSpace(t.Finger)); err == nil {
			n.Finger = f
		}
	}
	switch {
	case t.Down != nil:
		n.Stroke = lick.Down
	case t.Up != nil:
		n.Stroke = lick.Up
	case strings.Contains(" p i m a ", " "+t.Pluck+" ") && t.Pluck != "":
		n.Stroke = lick.Stroke(t.Pluck)
	}
	stops := func(list []xmlPhase) bool {
		for _, p := range list {
			if p.Type == "stop" {
				return true
			}
		}
		return false
	}
	switch {
	case stops(t.Hammers):
		n.Slur = lick.Hammer
	case stops(t.Pulls):
		n.Slur = lick.Pull
	}
	if x.Notations != nil {
		for _, s := range x.Notations.Slides {
			if s.Type == "stop" {
				n.Slur = lick.Slide
			}
		}
		n.Accent = x.Notations.Articulations != nil && x.Notations.Articulations.Accent != nil
		if o := x.Notations.Ornaments; o != nil && len(o.Wavy) > 0 && o.Wavy[0].Type == "start" {
			n.Vibrato = &lick.Vibrato{Width: lick.Wide, Speed: lick.Slow}
		}
	}
	for _, b := range t.Bends {
		switch {
		case b.Release != nil && n.Bend != nil:
			n.Bend.Shape = lick.ShapeOf(n.Bend.Pre(), true)
		case b.Alter >= 0.25 && b.Alter <= 4:
			n.Bend = &lick.Bend{Semitones: b.Alter, Shape: lick.ShapeOf(b.Pre != nil, false)}
		}
	}
	for _, s := range t.OtherTxt {
		words := strings.Fields(s)
		switch {
		case s == "shift":
			n.Slur = lick.Shift
		case s == "barre":
			n.Barre = true
		case s == "rake":
			n.Rake = true
		case len(words) == 3 && words[0] == "vibrato" && n.Vibrato != nil:
			n.Vibrato = &lick.Vibrato{Width: lick.Width(words[1]), Speed: lick.Speed(words[2])}
			if n.Vibrato.Width != lick.Narrow {
				n.Vibrato.Width = lick.Wide
			}
			if n.Vibrato.Speed != lick.Fast {
				n.Vibrato.Speed = lick.Slow
			}
		case len(words) == 3 && words[0] == "slide-in":
			if frets, err := strconv.Atoi(words[1]); err == nil && frets >= 1 && frets <= 4 &&
				(words[2] == string(lick.FromAbove) || words[2] == string(lick.FromBelow)) {
				n.SlideIn = &lick.SlideIn{Frets: frets, From: lick.From(words[2])}
			}
		}
	}
	if n.Slur.Slurred() {
		n.Stroke = ""
	}
	if n.Fret == 0 {
		n.Bend, n.Vibrato = nil, nil
	}
}

// EncodeMXL is MusicXML packed, as programs hand it over.
func EncodeMXL(l lick.Lick) []byte {
	var b bytes.Buffer
	z := zip.NewWriter(&b)
	for _, f := range []struct {
		name string
		data []byte
	}{
		{"META-INF/container.xml", []byte(xml.Header + `<container><rootfiles><rootfile full-path="lick.musicxml"/>` +
			`</rootfiles></container>` + "\n")},
		{"lick.musicxml", EncodeMusicXML(l)},
	} {
		// A buffer takes all that is written.
		if w, err := z.Create(f.name); err == nil {
			_, _ = w.Write(f.data)
		}
	}
	_ = z.Close()
	return b.Bytes()
}

// DecodeMXL unpacks MusicXML: the file that the container names, or the only one. What would
// grow beyond a lick file's size is refused.
func DecodeMXL(data []byte) (l lick.Lick, remarks []string, err error) {
	z, err := zip.NewReader(bytes.NewReader(data), int64(len(data)))
	if err != nil {
		return l, nil, errors.New("that is no packed MusicXML")
	}
	name := ""
	if c, err := unpacked(z, "META-INF/container.xml"); err == nil {
		var box struct {
			Files []struct {
				Path string `xml:"full-path,attr"`
			} `xml:"rootfiles>rootfile"`
		}
		if xml.Unmarshal(c, &box) == nil && len(box.Files) > 0 {
			name = box.Files[0].Path
		}
	}
	for _, f := range z.File {
		if name == "" && !strings.HasPrefix(f.Name, "META-INF/") &&
			(strings.HasSuffix(f.Name, ".xml") || strings.HasSuffix(f.Name, ".musicxml")) {
			name = f.Name
		}
	}
	score, err := unpacked(z, name)
	if err != nil {
		return l, nil, err
	}
	return DecodeMusicXML(score)
}

// unpacked is a file of a zip, no larger than a lick file may be.
func unpacked(z *zip.Reader, name string) ([]byte, error) {
	for _, f := range z.File {
		if f.Name != name || name == "" {
			continue
		}
		if f.UncompressedSize64 > lick.MaxBytes {
			return nil, errors.New("the packed score is too large")
		}
		r, err := f.Open()
		if err != nil {
			return nil, errors.New("the packed score cannot be opened")
		}
		defer r.Close()
		data, err := io.ReadAll(io.LimitReader(r, lick.MaxBytes+1))
		switch {
		case len(data) > lick.MaxBytes:
			return nil, errors.New("the packed score is too large")
		case err != nil:
			return nil, errors.New("the packed score is damaged")
		}
		return data, nil
	}
	return nil, errors.New("the packed file holds no score")
}
