package midi

import (
	"fmt"
	"slices"
	"strconv"
	"strings"

	"ornamen/core/lick"
)

// reading is a track under way. Events may leave out a status byte that is the same as before. b is what is left of the
// track's bytes, at the tick that they have come to (from 0, in parts of a quarter).
type reading struct {
	f      *file
	t      track
	b      []byte
	at     int64
	status byte              // of the running events
	on     map[[2]byte][]int // sounding notes by channel and pitch
	wheel  [16]int
	rpn    [16][2]byte // the parameter that data bytes mean
	palm   [16]bool    // the channel's instrument is a muted guitar
}

// readTrack reads the events of a track. The error is a track that ends in the middle, or too many events. A note that
// nobody ended lasts to the track's end.
func (f *file) readTrack(b []byte) error {
	r := reading{f: f, b: b, on: map[[2]byte][]int{}, t: track{slid: map[onString]*lick.SlideIn{},
		written: map[onString][2]lick.Time{}, shaped: map[onString]shape{}}}
	for len(r.b) > 0 {
		d, rest, ok := length(r.b)
		if !ok || len(rest) == 0 {
			return errBroken
		}
		if f.events++; f.events > maxEvents {
			return fmt.Errorf("the MIDI file has more than %d events", maxEvents)
		}
		r.at, r.b = r.at+d, rest
		if err := r.event(); err != nil {
			return err
		}
	}
	for i := range r.t.notes {
		if r.t.notes[i].end < 0 {
			r.t.notes[i].end = r.at
		}
	}
	f.tracks = append(f.tracks, r.t)
	return nil
}

// length reads a number in groups of seven bits, the most significant first, all but the last with their top bit set:
// 81 48 is 200. At most four groups are allowed (Standard MIDI Files 1.0, from memory).
func length(b []byte) (n int64, rest []byte, ok bool) {
	for i := 0; i < 4 && i < len(b); i++ {
		n = n<<7 | int64(b[i]&127)
		if b[i] < 128 {
			return n, b[i+1:], true
		}
	}
	return 0, nil, false
}

// event reads one event; without a status byte it is one of the last one's kind.
//
// Statuses are those of MIDI 1.0 (from memory): 8n and 9n notes, En the wheel, Bn controllers, Cn and Dn of one data
// byte, FF what only files have, F0 and F7 of any length, which are passed over. FF and F0 end a running status.
func (r *reading) event() error {
	if r.b[0] >= 0x80 {
		r.status, r.b = r.b[0], r.b[1:]
	}
	switch {
	case r.status == 0xff:
		if len(r.b) < 1 {
			return errBroken
		}
		kind := r.b[0]
		n, rest, ok := length(r.b[1:])
		if !ok || n > int64(len(rest)) {
			return errBroken
		}
		r.f.meta(&r.t, kind, rest[:n], r.at)
		r.b, r.status = rest[n:], 0
		return nil
	case r.status == 0xf0 || r.status == 0xf7:
		n, rest, ok := length(r.b)
		if !ok || n > int64(len(rest)) {
			return errBroken
		}
		r.b, r.status = rest[n:], 0
		return nil
	case r.status < 0x80 || r.status >= 0xf0:
		return errBroken
	}
	size := 2
	if kind := r.status & 0xf0; kind == 0xc0 || kind == 0xd0 {
		size = 1
	}
	if len(r.b) < size {
		return errBroken
	}
	switch {
	case r.status&0xf0 == 0xc0:
		r.palm[r.status&15] = r.b[0] == palmProgram
	case size == 2:
		r.channelEvent(r.status&0xf0, r.status&15, r.b[0]&127, r.b[1]&127)
	}
	r.b = r.b[size:]
	return nil
}

// channelEvent takes a note, the wheel, or the range declared for it. A note on with velocity 0 is its end; of several
// that sound at one pitch the first to begin is the first to end. The wheel's range is declared by registered parameter
// 0: controllers 101 and 100 name it, 6 sets half steps.
func (r *reading) channelEvent(kind, c, first, second byte) {
	switch kind {
	case 0x90, 0x80:
		key := [2]byte{c, first}
		if kind == 0x90 && second > 0 {
			r.on[key] = append(r.on[key], len(r.t.notes))
			r.t.notes = append(r.t.notes, note{channel: c, pitch: first, velocity: second, at: r.at, end: -1,
				begins: r.wheel[c], palm: r.palm[c]})
		} else if open := r.on[key]; len(open) > 0 {
			r.t.notes[open[0]].end = r.at
			r.on[key] = open[1:]
		}
	case 0xe0:
		r.wheel[c] = (int(first) | int(second)<<7) - wheelMiddle
		// No string sounds more than a note, nor a channel of a guitar more than a few.
		for i := len(r.t.notes) - 1; i >= 0 && i >= len(r.t.notes)-8; i-- {
			if n := &r.t.notes[i]; n.channel == c && n.end < 0 {
				n.wheel = append(n.wheel, wheelAt{r.at, r.wheel[c]})
			}
		}
	case 0xb0:
		switch first {
		case 101:
			r.rpn[c][0] = second
		case 100:
			r.rpn[c][1] = second
		case 6:
			if r.rpn[c] == [2]byte{} && second > 0 && second <= 24 {
				r.f.ranges[c] = float64(second)
			}
		}
	}
}

// meta reads what a file says beside its notes. Kinds: 1 text, 3 name (of the piece on the first track), 6 a marker,
// here a chord, 51 the tempo in µs a quarter, 58 the meter with its unit as a power of two.
func (f *file) meta(t *track, kind byte, b []byte, at int64) {
	switch {
	case kind == 0x03 && len(f.tracks) == 0:
		f.title, t.name = string(b), string(b)
	case kind == 0x03:
		t.name = string(b)
	case kind == 0x51 && len(b) == 3:
		if f.tempos++; f.tempos == 1 {
			if us := int(b[0])<<16 | int(b[1])<<8 | int(b[2]); us > 0 {
				f.tempo = 60e6 / float64(us)
			}
		}
	case kind == 0x58 && len(b) >= 2 && b[0] > 0 && b[0] <= 32 && b[1] <= 5:
		if f.meters++; f.meters == 1 {
			f.meter = lick.Meter{Beats: int(b[0]), Unit: 1 << b[1]}
		}
	case kind == 0x01 && strings.HasPrefix(string(b), ownText):
		name, value, _ := strings.Cut(strings.TrimPrefix(string(b), ownText), ": ")
		f.own(t, name, value, at)
	case kind == 0x06 && len(f.chords) < 1000:
		f.chords = append(f.chords, lick.Chord{At: f.time(at), Name: string(b)})
	}
}

// own reads a text of ours: of a note at its tick, or of the whole. What MIDI cannot hold (times before the swing,
// slides into a note, the tuning) is text that other programs pass over. One that is spoilt is passed over here too.
func (f *file) own(t *track, name, value string, at int64) {
	var str, frets int
	var one, two string
	switch name {
	case "slide-in":
		if n, _ := fmt.Sscan(value, &str, &frets, &one); n == 3 && frets >= 1 && frets <= lick.MaxSlideIn &&
			(one == string(lick.FromBelow) || one == string(lick.FromAbove)) {
			t.slid[onString{at, str}] = &lick.SlideIn{Frets: frets, From: lick.From(one)}
		}
	case "shape":
		var str int
		var semitones, how, width, speed string
		if n, _ := fmt.Sscanf(value, "%d %s %s %s %s", &str, &semitones, &how, &width, &speed); n == 5 {
			var s shape
			if by, err := strconv.ParseFloat(semitones, 64); err == nil && lick.NearestBend(by) == by &&
				slices.Contains(lick.BendShapes(), lick.BendShape(how)) {
				s.bend = &lick.Bend{Semitones: by, Shape: lick.BendShape(how)}
			}
			if (width == string(lick.Narrow) || width == string(lick.Wide)) &&
				(speed == string(lick.Slow) || speed == string(lick.Fast)) {
				s.vibrato = &lick.Vibrato{Width: lick.Width(width), Speed: lick.Speed(speed)}
			}
			t.shaped[onString{at, str}] = s
		}
	case "written":
		if n, _ := fmt.Sscan(value, &str, &one, &two); n != 3 {
			return
		}
		from, err := lick.ParseTime(one)
		length, err2 := lick.ParseTime(two)
		if err == nil && err2 == nil {
			t.written[onString{at, str}] = [2]lick.Time{from, length}
		}
	default:
		f.texts[name] = value
	}
}
