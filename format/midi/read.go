package midi

import (
	"encoding/binary"
	"errors"
	"fmt"
	"math"
	"regexp"
	"strings"

	"ornamen/core/lick"
	"ornamen/core/neck"
	"ornamen/format/read"
)

// Limits of a MIDI file: more is refused at once.
const (
	maxEvents = 200_000
	maxTracks = 256
)

// note is a note of a MIDI file with what its wheel did.
// Times in ticks; end is −1 while it sounds. begins is the wheel when it was struck.
type note struct {
	channel, pitch, velocity byte
	at, end                  int64
	wheel                    []wheelAt
	begins                   int // the wheel when it began
	palm                     bool
}

// wheelAt is a position of the pitch wheel. The position is off the middle, −8192 to 8191.
type wheelAt struct {
	at    int64
	value int
}

// file is what a file says. division is how many ticks a quarter has; tempos and meters count how often the file
// changes them, kind is its format.
type file struct {
	kind     uint16
	division int64
	tempo    float64
	tempos   int
	meters   int
	meter    lick.Meter
	title    string
	texts    map[string]string
	chords   []lick.Chord
	tracks   []track
	events   int
	ranges   [16]float64
}

// track is one track's notes, with what our own text says of them.
// slid, written and shaped are ours, by the tick and the string of the note that they belong to.
type track struct {
	name    string
	notes   []note
	slid    map[onString]*lick.SlideIn
	written map[onString][2]lick.Time // time and length before the swing
	shaped  map[onString]shape
}

// shape is the bend and the vibrato of a note, as our own text says them.
type shape struct {
	bend    *lick.Bend
	vibrato *lick.Vibrato
}

// onString is a string at a tick.
type onString struct {
	at  int64
	str int
}

var errBroken = errors.New("the MIDI file ends in the middle or holds what is no MIDI")

// Decode reads a Standard MIDI File of format 0 or 1: one track as one line, or one channel of a file that has but one
// track. A file of this package comes back with its strings and frets; notes of others are laid where the hand is, on a
// grid of thirty-seconds and triplet sixteenths. The remarks say what was chosen, moved or left out. The first tempo
// and meter hold for all of it.
//
// Bytes are read once and in bounds; a file that ends early, counts in frames, or has more
// events than a line could have is an error of one sentence.
func Decode(data []byte, ask read.Request) (read.Result, error) {
	f := file{tempo: lick.DefaultTempo, meter: lick.Meter{Beats: 4, Unit: 4}, texts: map[string]string{}}
	for i := range f.ranges {
		f.ranges[i] = 2 // half steps, where nothing is declared
	}
	if err := f.read(data); err != nil {
		return read.Result{}, err
	}
	l := lick.New()
	l.Title, l.Meter = read.Clip(f.title, read.MaxTitle), f.meter
	l.Tempo = math.Round(max(lick.MinTempo, min(lick.MaxTempo, f.tempo))*100) / 100
	l.Tuning = ask.On().Tuning
	own := f.setting(&l)
	tracks := f.lines(own)
	if len(tracks) == 0 {
		return read.Result{}, errors.New("the MIDI file holds no notes but the drums'")
	}
	var r read.Result
	for i, t := range tracks {
		r.Lines = append(r.Lines, read.Line{Name: read.Named(t.name, i+1), Notes: len(t.notes)})
	}
	var err error
	if r.Line, err = ask.Pick(r.Lines); err != nil {
		return r, err
	}
	if ask.Line == 0 {
		r.Line = melody(tracks)
	}
	r.LeftOut()
	if f.tempos > 1 {
		r.Remark("The tempo changes in the file; the first one is taken.")
	}
	if f.meters > 1 {
		r.Remark("The meter changes in the file; the first one is taken.")
	}
	if own {
		l.Chords = f.chords
		if err := f.layOwn(&l, tracks[r.Line]); err != nil {
			return r, err
		}
		r.Fit(&l)
		return r, r.Finish(l, nil)
	}
	f.layForeign(&l, tracks[r.Line], ask.On(), &r)
	if len(l.Notes) == 0 {
		return r, errors.New("no note of the line lies on this guitar")
	}
	r.Fit(&l)
	r.FitKey(&l)
	return r, r.Finish(l, l.Notes)
}

// read reads header and tracks. Chunks of other kinds are passed over, as the specification
// asks. A length beyond the file's end is an error before anything is read of it.
func (f *file) read(data []byte) error {
	if len(data) < 14 || string(data[:4]) != "MThd" {
		return errors.New("that is no MIDI file")
	}
	f.kind = binary.BigEndian.Uint16(data[8:])
	n := int(binary.BigEndian.Uint16(data[10:]))
	f.division = int64(int16(binary.BigEndian.Uint16(data[12:])))
	size := binary.BigEndian.Uint32(data[4:])
	switch {
	case f.kind > 1:
		return errors.New("a MIDI file of format 2 holds several pieces; save it as format 0 or 1")
	case f.division <= 0:
		return errors.New("the MIDI file counts in frames of film, not in beats")
	case n > maxTracks || size < 6 || int64(size) > int64(len(data)-8):
		return errBroken
	}
	data = data[8+size:]
	for len(data) >= 8 {
		size := int64(binary.BigEndian.Uint32(data[4:]))
		if size > int64(len(data)-8) {
			return errBroken
		}
		if string(data[:4]) == "MTrk" {
			if len(f.tracks) == maxTracks {
				return errBroken
			}
			if err := f.readTrack(data[8 : 8+size]); err != nil {
				return err
			}
		}
		data = data[8+size:]
	}
	return nil
}

// lines are the tracks that hold notes other than the drums'. A file of ours has one; a file
// of one track with several channels has a line for each channel.
func (f *file) lines(own bool) (out []track) {
	for _, t := range f.tracks {
		if own && t.name != lineTrack {
			continue
		}
		byChannel := map[byte][]note{}
		var channels []byte
		for _, n := range t.notes {
			if n.channel == drumChannel {
				continue
			}
			c := n.channel
			if own || f.kind == 1 {
				c = 0
			}
			if byChannel[c] == nil {
				channels = append(channels, c)
			}
			byChannel[c] = append(byChannel[c], n)
		}
		for _, c := range channels {
			line := t
			line.notes = byChannel[c]
			if len(channels) > 1 {
				line.name = fmt.Sprintf("channel %d", c+1)
			}
			out = append(out, line)
		}
	}
	return out
}

// melody is the track that looks most like a line for a guitar: single notes, in its range, enough of them, and a name
// that says so. The longest track is often an accompaniment.
func melody(tracks []track) int {
	best, most := 0, math.Inf(-1)
	for i, t := range tracks {
		t.sort()
		together, inRange := 0, 0
		for k, n := range t.notes {
			if k > 0 && (n.at == t.notes[k-1].at || n.at < t.notes[k-1].end-(t.notes[k-1].end-t.notes[k-1].at)/3) {
				together++
			}
			if n.pitch >= 40 && n.pitch <= 88 {
				inRange++
			}
		}
		n := float64(len(t.notes))
		score := 2*(1-float64(together)/n) + float64(inRange)/n + min(n, 64)/64
		switch name := strings.ToLower(t.name); {
		case melodyName.MatchString(name):
			score += 1
		case otherName.MatchString(name):
			score--
		}
		if score > most+1e-9 {
			best, most = i, score
		}
	}
	return best
}

// What tracks are called that hold a line, and that hold something else (common practice).
var (
	melodyName = regexp.MustCompile(`lead|solo|melod|vocal|voice|tune|theme`)
	otherName  = regexp.MustCompile(`bass|drum|perc|pad|chord|rhythm|string|piano|organ|comp|click|metronome`)
)

// setting takes what our own text says; own says that the channels are strings.
// A text of ours that cannot be read, as by another program's hand, is as if it were not there.
func (f *file) setting(l *lick.Lick) (own bool) {
	if tuning, err := neck.ParseTuning(f.texts["tuning"]); err == nil {
		l.Tuning, own = tuning, true
	}
	if t, err := lick.ParseTime(f.texts["pick-up"]); err == nil {
		l.Pickup = t
	}
	if f.texts["feel"] == "shuffle" {
		l.Feel = lick.Shuffle
	}
	l.Loop = f.texts["loop"] == "yes"
	if tonic, scale, ok := strings.Cut(f.texts["key"], " "); ok {
		l.Key = lick.Key{Tonic: tonic, Scale: scale}
		if _, is := l.Palette(); !is {
			l.Key = lick.Key{}
		}
	}
	if own {
		read.Hold(f.chords, lick.Time{}, l.Meter.Bar())
	}
	return own
}

// time is a tick as a fraction of a whole note.
func (f *file) time(tick int64) lick.Time { return lick.NewTime(tick, 4*f.division) }
