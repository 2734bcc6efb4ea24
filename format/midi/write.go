package midi

import (
	"cmp"
	"encoding/binary"
	"fmt"
	"math"
	"slices"

	"ornamen/core/lick"
	"ornamen/core/neck"
	"ornamen/core/sound"
)

// division is how many ticks a quarter has: all that a lick is usually counted in fits.
const division = 6720

// What a MIDI file says in numbers.
const (
	guitarProgram = 27 // clean electric guitar, counted from 0
	palmProgram   = 28 // … muted
	bassProgram   = 33 // fingered electric bass
	drumChannel   = 9
	bassChannel   = 15
	bendRange     = 12 // half steps each way, declared by RPN 0
	wheelMiddle   = 8192
	bendStep      = 0.012 // s between two positions of the wheel
	velocity      = 84
	accented      = 112
	slurred       = 64
	ghostly       = 36
)

// drumKeys are the drums of the General MIDI percussion map (from memory).
var drumKeys = map[sound.Drum]byte{sound.Kick: 36, sound.Snare: 38, sound.Hat: 42,
	sound.OpenHat: 46, sound.Rim: 37, sound.Tom: 45, sound.Crash: 49}

// Names of our tracks.
const (
	lineTrack  = "Line"
	bassTrack  = "Bass"
	drumsTrack = "Drums"
)

// ownText begins a text event of ours.
const ownText = "Ornamen "

// event is one MIDI event at a tick; order keeps what falls together in its order.
type event struct {
	tick  int64
	order int // ends before wheels before beginnings
	data  []byte
}

// ticks are a written time in ticks, rounded. Exact for every length whose denominator divides 4 × 6720: two, three,
// five and seven of anything down to 1/128.
func ticks(t lick.Time) int64 {
	num, den := t.Parts()
	return int64(math.Round(4 * division * float64(num) / float64(den)))
}

// Encode writes a lick as a Standard MIDI File: the line as it is played, swing included, over a bass and drums.
func Encode(l lick.Lick) []byte {
	bass, drums := bandEvents(l)
	tracks := [][]event{settingEvents(l), lineEvents(l), bass, drums}
	out := []byte("MThd\x00\x00\x00\x06\x00\x01")
	out = binary.BigEndian.AppendUint16(out, uint16(len(tracks)))
	out = binary.BigEndian.AppendUint16(out, division)
	for _, t := range tracks {
		out = append(out, trackOf(t)...)
	}
	return out
}

// settingEvents are title, tempo, meter, and what only text can say.
func settingEvents(l lick.Lick) []event {
	tempo := uint32(math.Round(60e6 / l.Tempo))
	unit := byte(0)
	for 1<<unit < l.Meter.Unit {
		unit++
	}
	out := []event{
		{data: meta(0x03, l.Title)},
		{data: append([]byte{0xff, 0x51, 3}, byte(tempo>>16), byte(tempo>>8), byte(tempo))},
		{data: []byte{0xff, 0x58, 4, byte(l.Meter.Beats), unit, 24, 8}},
		{data: meta(0x01, ownText+"tuning: "+neck.TuningText(l.Tuning))},
	}
	if !l.Pickup.IsZero() {
		out = append(out, event{data: meta(0x01, ownText+"pick-up: "+l.Pickup.String())})
	}
	if l.Feel == lick.Shuffle {
		out = append(out, event{data: meta(0x01, ownText+"feel: shuffle")})
	}
	if l.Loop {
		out = append(out, event{data: meta(0x01, ownText+"loop: yes")})
	}
	if l.Key.Tonic != "" {
		out = append(out, event{data: meta(0x01, ownText+"key: "+l.Key.Tonic+" "+l.Key.Scale)})
	}
	for _, c := range l.Chords {
		out = append(out, event{tick: ticks(c.At), data: meta(0x06, c.Name)})
	}
	return out
}

// meta is a text event of a kind.
func meta(kind byte, text string) []byte {
	return append(appendLength([]byte{0xff, kind}, int64(len(text))), text...)
}

// lineEvents are the notes with their bends.
func lineEvents(l lick.Lick) []event {
	g := neck.Standard().WithTuning(l.Tuning)
	out := []event{{data: meta(0x03, lineTrack)}}
	for s := range l.Tuning {
		c := channel(s + 1)
		out = append(out, event{data: []byte{0xc0 | c, guitarProgram}})
		for _, x := range [][2]byte{{101, 0}, {100, 0}, {6, bendRange}, {38, 0}} {
			out = append(out, event{data: []byte{0xb0 | c, x[0], x[1]}})
		}
	}
	var palm [neck.MaxStrings]bool
	played := l.Timeline()
	for i, n := range l.Notes {
		c, pitch := channel(n.String), byte(max(0, min(127, int(l.Pitch(i)))))
		loud := byte(velocity)
		switch {
		case n.Accent:
			loud = accented
		case n.Ghost:
			loud = ghostly
		case n.Slur.Slurred():
			loud = slurred
		}
		at, end := ticks(n.At), max(ticks(n.At)+1, ticks(n.End()))
		if a, e := swung(l, played[i]); a != at || e != end {
			at, end = a, max(a+1, e)
			out = append(out,
				event{at, 1, meta(0x01, fmt.Sprintf("%swritten: %d %s %s", ownText, n.String, n.At, n.Len))})
		}
		if cents, bent := sound.Course(g, n, played[i].Len); bent {
			out = append(out, wheels(c, at, end, played[i].Len, cents)...)
		}
		if text := shapeText(n); text != "" {
			out = append(out, event{at, 1, meta(0x01, ownText+text)})
		}
		if on := &palm[n.String-1]; *on != n.Palm {
			*on = n.Palm
			program := byte(guitarProgram)
			if n.Palm {
				program = palmProgram
			}
			out = append(out, event{at, 1, []byte{0xc0 | c, program}})
		}
		if s := n.SlideIn; s != nil {
			text := fmt.Sprintf("%sslide-in: %d %d %s", ownText, n.String, s.Frets, s.From)
			out = append(out, event{at, 1, meta(0x01, text)})
		}
		out = append(out, event{at, 2, []byte{0x90 | c, pitch, loud}}, event{end, 0, []byte{0x80 | c, pitch, 0}})
	}
	return out
}

// shapeText says the bend and the vibrato of a note in words, "shape: 3 2 bend-release wide fast", as a wheel alone
// does not tell a slow one on a short note; empty where there is neither.
func shapeText(n lick.Note) string {
	if n.Bend == nil && n.Vibrato == nil {
		return ""
	}
	semitones, shape, width, speed := "-", "-", "-", "-"
	if b := n.Bend; b != nil {
		semitones, shape = fmt.Sprint(b.Semitones), string(b.Shape)
	}
	if v := n.Vibrato; v != nil {
		width, speed = string(v.Width), string(v.Speed)
	}
	return fmt.Sprintf("shape: %d %s %s %s %s", n.String, semitones, shape, width, speed)
}

// swung is a note's beginning and end in ticks as it is played; without a swing they are as written.
func swung(l lick.Lick, s lick.Sounding) (at, end int64) {
	tick := func(seconds float64) int64 { return int64(math.Round(seconds * l.Tempo / 60 * division)) }
	return tick(s.At), tick(s.At + s.Len)
}

// bandEvents are the band's bass under the line, and its drums, each hit a thirty-second long.
func bandEvents(l lick.Lick) (bass, drums []event) {
	bass = []event{{data: meta(0x03, bassTrack)}, {data: []byte{0xc0 | bassChannel, bassProgram}}}
	drums = []event{{data: meta(0x03, drumsTrack)}}
	for _, h := range sound.Band(l) {
		at, end := swung(l, lick.Sounding{At: h.At, Len: h.Len})
		if key, is := drumKeys[h.Drum]; is {
			drums = append(drums, event{at, 2, []byte{0x90 | drumChannel, key, velocity}},
				event{at + division/8, 0, []byte{0x80 | drumChannel, key, 0}})
		} else {
			bass = append(bass, event{at, 2, []byte{0x90 | bassChannel, byte(h.Pitch), velocity}},
				event{max(at+1, end), 0, []byte{0x80 | bassChannel, byte(h.Pitch), 0}})
		}
	}
	return bass, drums
}

// channel is a string's, from 0: nine strings at most, below the drums' own channel.
func channel(str int) byte { return byte(str - 1) }

// wheels are the positions of the pitch wheel along a note, and back at its end. cents gives the course over the note's
// seconds; positions that repeat are left out. The wheel has 14 bits around 8192, of which 8191 up are the whole range.
func wheels(c byte, at, end int64, seconds float64, cents func(float64) float64) []event {
	var out []event
	last := -1
	steps := max(1, int(seconds/bendStep))
	for k := range steps {
		t := seconds * float64(k) / float64(steps)
		v := max(0, min(16383, wheelMiddle+int(math.Round(cents(t)/100/bendRange*8191))))
		if v == last {
			continue
		}
		last = v
		out = append(out, event{at + int64(float64(end-at)*float64(k)/float64(steps)), 1,
			[]byte{0xe0 | c, byte(v & 127), byte(v >> 7)}})
	}
	return append(out, event{end, 0, []byte{0xe0 | c, 0, 64}})
}

// trackOf writes events as a track.
func trackOf(events []event) []byte {
	slices.SortStableFunc(events, func(a, b event) int {
		return cmp.Or(cmp.Compare(a.tick, b.tick), cmp.Compare(a.order, b.order))
	})
	var body []byte
	at := int64(0)
	for _, e := range events {
		body = append(appendLength(body, e.tick-at), e.data...)
		at = e.tick
	}
	body = append(body, 0, 0xff, 0x2f, 0)
	out := binary.BigEndian.AppendUint32([]byte("MTrk"), uint32(len(body)))
	return append(out, body...)
}

// appendLength writes a number in groups of seven bits, the last one without its top bit: 200 is 81 48.
func appendLength(b []byte, n int64) []byte {
	var groups []byte
	for groups = append(groups, byte(n&127)); n > 127; {
		n >>= 7
		groups = append(groups, byte(n&127)|128)
	}
	slices.Reverse(groups)
	return append(b, groups...)
}
