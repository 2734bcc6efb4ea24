package format

import (
	"cmp"
	"encoding/binary"
	"errors"
	"fmt"
	"math"
	"slices"
	"strings"

	"ornamen/core/lick"
	"ornamen/core/music"
	"ornamen/core/neck"
)

// Limits of a MIDI file: more is refused at once.
const (
	maxMIDIEvents = 200_000
	maxMIDITracks = 256
)

// midiNote is a note of a MIDI file with what its wheel did.
type midiNote struct {
	channel, pitch, velocity byte
	at, end                  int64
	wheel                    []wheelAt
	begins                   int // the wheel when it began
}

// wheelAt is a position of the pitch wheel.
type wheelAt struct {
	at    int64
	value int
}

// midiRead is what a file says.
type midiRead struct {
	division int64
	tempo    float64
	tempos   int
	meter    lick.Meter
	title    string
	texts    map[string]string
	chords   []lick.Chord
	tracks   []midiTrackRead
	events   int
	ranges   [16]float64
}

// midiTrackRead is one track's notes.
type midiTrackRead struct {
	name  string
	notes []midiNote
	slid  map[slidAt]*lick.SlideIn // by our own text
}

// slidAt is a string at a tick.
type slidAt struct {
	at  int64
	str int
}

var errMIDI = errors.New("the MIDI file ends in the middle or holds what is no MIDI")

// DecodeMIDI reads a Standard MIDI File of format 0 or 1: the track with the most notes that
// is not the drums', as one line. A file of this package comes back with its strings and
// frets; notes of others are laid where the hand is, on a grid of thirty-seconds and triplet
// sixteenths. The remarks say what was chosen, moved or left out.
func DecodeMIDI(data []byte) (l lick.Lick, remarks []string, err error) {
	m := midiRead{tempo: lick.DefaultTempo, meter: lick.Meter{Beats: 4, Unit: 4}, texts: map[string]string{}}
	for i := range m.ranges {
		m.ranges[i] = 2
	}
	if err := m.file(data); err != nil {
		return l, nil, err
	}
	t, others := m.line()
	if len(t.notes) == 0 {
		return l, nil, errors.New("the MIDI file holds no notes but the drums'")
	}
	l = lick.New()
	l.Title, l.Meter = clipTo(m.title, maxTitle), m.meter
	l.Tempo = math.Round(max(lick.MinTempo, min(lick.MaxTempo, m.tempo))*100) / 100
	own := m.setting(&l)
	if len(others) > 0 {
		remarks = append(remarks, fmt.Sprintf("The line is track %q with %d notes; left out: %s.", named(t.name), len(t.notes),
			strings.Join(others, ", ")))
	}
	if m.tempos > 1 {
		remarks = append(remarks, "The tempo changes in the file; the first one is taken.")
	}
	moved, err := m.lay(&l, t, own)
	if err != nil {
		return l, nil, err
	}
	if moved > 0 {
		remarks = append(remarks, fmt.Sprintf("%d notes were moved onto thirty-seconds or triplets.", moved))
	}
	if !own {
		remarks = append(remarks, "Strings and frets were chosen near the hand.")
	}
	if own {
		l.Chords = m.chords
	}
	l, err = lick.Parse(l.Encode())
	return l, remarks, err
}

// maxTitle is how much of a title is kept.
const maxTitle = 200

// clipTo shortens text and takes out what cannot be printed.
func clipTo(s string, n int) string {
	s = strings.Map(func(r rune) rune {
		if r < ' ' || r == 0xfffd {
			return -1
		}
		return r
	}, strings.ToValidUTF8(s, ""))
	if r := []rune(s); len(r) > n {
		return string(r[:n])
	}
	return s
}

// named is a track's name, or what stands for none.
func named(s string) string { return cmp.Or(clipTo(s, 40), "without a name") }

// file reads header and tracks.
func (m *midiRead) file(data []byte) error {
	if len(data) < 14 || string(data[:4]) != "MThd" {
		return errors.New("that is no MIDI file")
	}
	kind, n := binary.BigEndian.Uint16(data[8:]), int(binary.BigEndian.Uint16(data[10:]))
	m.division = int64(int16(binary.BigEndian.Uint16(data[12:])))
	size := binary.BigEndian.Uint32(data[4:])
	switch {
	case kind > 1:
		return errors.New("a MIDI file of format 2 holds several pieces; save it as format 0 or 1")
	case m.division <= 0:
		return errors.New("the MIDI file counts in frames of film, not in beats")
	case n > maxMIDITracks || size < 6 || int64(size) > int64(len(data)-8):
		return errMIDI
	}
	data = data[8+size:]
	for len(data) >= 8 {
		size := int64(binary.BigEndian.Uint32(data[4:]))
		if size > int64(len(data)-8) {
			return errMIDI
		}
		if string(data[:4]) == "MTrk" {
			if len(m.tracks) == maxMIDITracks {
				return errMIDI
			}
			if err := m.track(data[8 : 8+size]); err != nil {
				return err
			}
		}
		data = data[8+size:]
	}
	return nil
}

// track reads the events of a track.
func (m *midiRead) track(b []byte) error {
	var t midiTrackRead
	on := map[[2]byte][]int{} // sounding notes by channel and pitch
	var wheel [16]int
	var rpn [16][2]byte
	at, status := int64(0), byte(0)
	for len(b) > 0 {
		d, rest, ok := length(b)
		if !ok || len(rest) == 0 {
			return errMIDI
		}
		if m.events++; m.events > maxMIDIEvents {
			return fmt.Errorf("the MIDI file has more than %d events", maxMIDIEvents)
		}
		at, b = at+d, rest
		if b[0] >= 0x80 {
			status, b = b[0], b[1:]
		}
		switch {
		case status == 0xff:
			if len(b) < 1 {
				return errMIDI
			}
			kind := b[0]
			n, rest, ok := length(b[1:])
			if !ok || n > int64(len(rest)) {
				return errMIDI
			}
			m.metaEvent(&t, kind, rest[:n], at)
			b, status = rest[n:], 0
			continue
		case status == 0xf0 || status == 0xf7:
			n, rest, ok := length(b)
			if !ok || n > int64(len(rest)) {
				return errMIDI
			}
			b, status = rest[n:], 0
			continue
		case status < 0x80 || status >= 0xf0:
			return errMIDI
		}
		size := 2
		if kind := status & 0xf0; kind == 0xc0 || kind == 0xd0 {
			size = 1
		}
		if len(b) < size {
			return errMIDI
		}
		c := status & 15
		switch status & 0xf0 {
		case 0x90, 0x80:
			key := [2]byte{c, b[0] & 127}
			if status&0xf0 == 0x90 && b[1] > 0 {
				on[key] = append(on[key], len(t.notes))
				t.notes = append(t.notes, midiNote{channel: c, pitch: b[0] & 127, velocity: b[1], at: at, end: -1, begins: wheel[c]})
			} else if open := on[key]; len(open) > 0 {
				t.notes[open[0]].end = at
				on[key] = open[1:]
			}
		case 0xe0:
			wheel[c] = (int(b[0]&127) | int(b[1]&127)<<7) - wheelMiddle
			for i := len(t.notes) - 1; i >= 0 && i >= len(t.notes)-8; i-- {
				if n := &t.notes[i]; n.channel == c && n.end < 0 {
					n.wheel = append(n.wheel, wheelAt{at, wheel[c]})
				}
			}
		case 0xb0:
			switch b[0] {
			case 101:
				rpn[c][0] = b[1]
			case 100:
				rpn[c][1] = b[1]
			case 6:
				if rpn[c] == [2]byte{} && b[1] > 0 && b[1] <= 24 {
					m.ranges[c] = float64(b[1])
				}
			}
		}
		b = b[size:]
	}
	for i := range t.notes {
		if t.notes[i].end < 0 {
			t.notes[i].end = at
		}
	}
	m.tracks = append(m.tracks, t)
	return nil
}

// length reads a number in groups of seven bits.
func length(b []byte) (n int64, rest []byte, ok bool) {
	for i := 0; i < 4 && i < len(b); i++ {
		n = n<<7 | int64(b[i]&127)
		if b[i] < 128 {
			return n, b[i+1:], true
		}
	}
	return 0, nil, false
}

// metaEvent reads what a file says beside its notes.
func (m *midiRead) metaEvent(t *midiTrackRead, kind byte, b []byte, at int64) {
	switch {
	case kind == 0x03 && len(m.tracks) == 0:
		m.title = string(b)
		t.name = string(b)
	case kind == 0x03:
		t.name = string(b)
	case kind == 0x51 && len(b) == 3:
		if m.tempos++; m.tempos == 1 {
			if us := int(b[0])<<16 | int(b[1])<<8 | int(b[2]); us > 0 {
				m.tempo = 60e6 / float64(us)
			}
		}
	case kind == 0x58 && len(b) >= 2 && b[0] > 0 && b[0] <= 32 && b[1] <= 5:
		if at == 0 {
			m.meter = lick.Meter{Beats: int(b[0]), Unit: 1 << b[1]}
		}
	case kind == 0x01 && strings.HasPrefix(string(b), midiText):
		name, value, _ := strings.Cut(strings.TrimPrefix(string(b), midiText), ": ")
		if name != "slide-in" {
			m.texts[name] = value
			return
		}
		var str, frets int
		var side string
		if n, _ := fmt.Sscan(value, &str, &frets, &side); n == 3 && frets >= 1 && frets <= 4 &&
			(side == string(lick.FromBelow) || side == string(lick.FromAbove)) {
			if t.slid == nil {
				t.slid = map[slidAt]*lick.SlideIn{}
			}
			t.slid[slidAt{at, str}] = &lick.SlideIn{Frets: frets, From: lick.From(side)}
		}
	case kind == 0x06 && len(m.chords) < 1000:
		m.chords = append(m.chords, lick.Chord{At: m.time(at), Name: string(b)})
	}
}

// time is a tick as a fraction of a whole note.
func (m *midiRead) time(tick int64) lick.Time { return lick.NewTime(tick, 4*m.division) }

// line is the track with the most notes that are not drums, and what the others are.
func (m *midiRead) line() (best midiTrackRead, others []string) {
	at := -1
	for i := range m.tracks {
		t := &m.tracks[i]
		t.notes = slices.DeleteFunc(t.notes, func(n midiNote) bool { return n.channel == 9 })
		if at < 0 || len(t.notes) > len(m.tracks[at].notes) {
			at = i
		}
	}
	for i, t := range m.tracks {
		if i != at && len(t.notes) > 0 {
			others = append(others, fmt.Sprintf("%s, %d notes", named(t.name), len(t.notes)))
		}
	}
	if at < 0 {
		return best, others
	}
	return m.tracks[at], others
}

// setting takes what our own text says; own says that the channels are strings.
func (m *midiRead) setting(l *lick.Lick) (own bool) {
	if tuning, err := neck.ParseTuning(m.texts["tuning"]); err == nil {
		l.Tuning, own = tuning, true
	}
	if t, err := lick.ParseTime(m.texts["pick-up"]); err == nil {
		l.Pickup = t
	}
	if m.texts["feel"] == "shuffle" {
		l.Feel = lick.Shuffle
	}
	l.Loop = m.texts["loop"] == "yes"
	if tonic, scale, ok := strings.Cut(m.texts["key"], " "); ok {
		l.Key = lick.Key{Tonic: tonic, Scale: scale}
		if _, is := l.Palette(); !is {
			l.Key = lick.Key{}
		}
	}
	if own {
		for i := range m.chords {
			end := m.time(0)
			if i+1 < len(m.chords) {
				end = m.chords[i+1].At
			}
			if m.chords[i].Len = end.Sub(m.chords[i].At); !(lick.Time{}).Before(m.chords[i].Len) {
				m.chords[i].Len = l.Meter.Bar()
			}
		}
	}
	return own
}

// lay puts the notes onto the neck; moved counts those that did not lie on the grid.
func (m *midiRead) lay(l *lick.Lick, t midiTrackRead, own bool) (moved int, err error) {
	g := neck.Standard().WithTuning(l.Tuning)
	slices.SortStableFunc(t.notes, func(a, b midiNote) int {
		return cmp.Or(cmp.Compare(a.at, b.at), cmp.Compare(a.pitch, b.pitch))
	})
	first := t.notes[0].at
	if own {
		first = 0
	}
	last := neck.Place{String: 3, Fret: 5}
	for _, x := range t.notes {
		n := lick.Note{At: m.time(x.at - first), Len: m.time(max(1, x.end-x.at)), Accent: x.velocity >= accented}
		if !own {
			at, shifted := onGrid(n.At)
			end, _ := onGrid(n.At.Add(n.Len))
			if shifted {
				moved++
			}
			if n.At = at; !n.At.Before(end) {
				end = n.At.Add(lick.NewTime(1, 32))
			}
			n.Len = end.Sub(n.At)
		}
		if own {
			n.SlideIn = t.slid[slidAt{x.at, stringOf(x.channel)}]
		} else {
			n.SlideIn = m.slideIn(x)
		}
		if n.SlideIn == nil {
			n.Bend, n.Vibrato = m.bent(x)
		}
		ok := false
		if own {
			if str := stringOf(x.channel); str <= len(l.Tuning) {
				n.String, n.Fret, ok = str, int(pitchOf(x.pitch)-l.Tuning[str-1]), true
				ok = n.Fret >= 0
			}
		}
		if !ok {
			at, found := near(g, l, n, pitchOf(x.pitch), last)
			if !found {
				return moved, fmt.Errorf("the note %s lies on no string that is free there", pitchOf(x.pitch))
			}
			n.String, n.Fret = at.String, at.Fret
		}
		last = n.Place()
		l.Notes = append(l.Notes, n)
	}
	return moved, nil
}

// stringOf is the string of a channel of ours.
func stringOf(channel byte) int {
	if channel > 9 {
		return int(channel)
	}
	return int(channel) + 1
}

// onGrid is the nearest thirty-second or triplet sixteenth.
func onGrid(t lick.Time) (on lick.Time, moved bool) {
	near := func(parts int64) lick.Time {
		num, den := t.Parts()
		return lick.NewTime((2*num*parts+den)/(2*den), parts)
	}
	a, b := near(32), near(24)
	away := func(x lick.Time) float64 { return math.Abs(x.Float() - t.Float()) }
	if on = a; away(b) < away(a)-1e-9 {
		on = b
	}
	return on, on.Cmp(t) != 0
}

// near is the place of a pitch nearest to the last one, on a string that nothing begins on
// then; what sounds there ends, as one string sounds one note.
func near(g neck.Guitar, l *lick.Lick, n lick.Note, pitch music.Pitch, last neck.Place) (best neck.Place, ok bool) {
	recent := l.Notes[max(0, len(l.Notes)-neck.MaxStrings):]
	for _, p := range g.Places(pitch) {
		taken := slices.ContainsFunc(recent, func(m lick.Note) bool { return m.String == p.String && !m.At.Before(n.At) })
		if !taken && (!ok || neck.Apart(p, last) < neck.Apart(best, last)) {
			best, ok = p, true
		}
	}
	for i := range recent {
		if m := &recent[i]; ok && m.String == best.String && n.At.Before(m.End()) {
			m.Len = n.At.Sub(m.At)
		}
	}
	return best, ok
}

// bent reads what the wheel did in a note: a bend, a vibrato, or nothing.
func (m *midiRead) bent(x midiNote) (*lick.Bend, *lick.Vibrato) {
	half := func(v int) float64 { return float64(v) / 8191 * m.ranges[x.channel] }
	if len(x.wheel) == 0 && x.begins == 0 {
		return nil, nil
	}
	values := []float64{half(x.begins)}
	for _, w := range x.wheel {
		if w.at < x.end {
			if w.at == x.at {
				values[0] = half(w.value)
				continue
			}
			values = append(values, half(w.value))
		}
	}
	top, turns, way := 0.0, 0, 0.0
	for i, v := range values {
		top = max(top, v)
		if i == 0 {
			continue
		}
		if d := v - values[i-1]; d*way < 0 {
			turns, way = turns+1, d
		} else if d != 0 {
			way = d
		}
	}
	amount := math.Round(top*2) / 2
	var vibrato *lick.Vibrato
	if turns >= 3 {
		vibrato = &lick.Vibrato{Width: lick.Wide, Speed: lick.Slow}
		if top < 0.5 {
			vibrato.Width = lick.Narrow
		}
		if top < 1.2 {
			return nil, vibrato
		}
	}
	if amount < 0.5 || amount > 4 {
		return nil, vibrato
	}
	return &lick.Bend{Semitones: amount,
		Shape: lick.ShapeOf(values[0] > 0.8*top, values[len(values)-1] < 0.4*top)}, vibrato
}

// slideIn is a slide into the note, where the wheel begins away from it and is there within
// a tenth of a second.
func (m *midiRead) slideIn(x midiNote) *lick.SlideIn {
	begins := x.begins
	for _, w := range x.wheel {
		if w.at == x.at {
			begins = w.value
		}
	}
	from := float64(begins) / 8191 * m.ranges[x.channel]
	frets := int(math.Round(math.Abs(from)))
	if frets < 1 || frets > 4 {
		return nil
	}
	soon := x.at + int64(0.1*m.tempo/60*float64(m.division))
	there := false
	for _, w := range x.wheel {
		if w.at <= soon && math.Abs(float64(w.value)) < 8191/m.ranges[x.channel]/20 {
			there = true
		}
	}
	switch {
	case !there:
		return nil
	case from < 0:
		return &lick.SlideIn{Frets: frets, From: lick.FromBelow}
	}
	return &lick.SlideIn{Frets: frets, From: lick.FromAbove}
}
