package hear

import (
	"cmp"
	"context"
	"errors"
	"fmt"
	"math"
	"slices"
	"strings"

	"ornamen/core/lick"
	"ornamen/core/music"
)

// Note is a note of a line as it was heard.
type Note struct {
	Note int // from 1
	Word string
	By   float64 // ms late; below 0 early
}

// What a note was.
const (
	OnTime      = "on time"
	Early       = "early"
	Late        = "late"
	Missing     = "missing"
	AnotherTone = "another tone"
)

// How a played line is judged (model defaults; the ear takes some 40 ms for together).
const (
	looseTime = 0.045 // s that a note may be off
	listen    = 0.01  // s between two moments
	rises     = 1.7   // times louder than just before: the string was struck again
)

// sounded is a tone that was heard: where it began, and its pitch.
type sounded struct {
	at    float64
	pitch int
	taken bool
}

// What is listened to: a tone needs about an eighth of a second to tell its pitch, and a minute
// of sound is heard, of which the player needs a little before and after the line.
const (
	shortestHeard = 0.125 // s from note to note: sixteenths at 120
	longestHeard  = 50.0  // s
)

// Hearable says in one sentence why a line could not be listened to at its tempo; nil: it can.
func Hearable(l lick.Lick) error {
	for i := 1; i < len(l.Notes); i++ {
		switch apart := l.Milliseconds(l.Notes[i-1].At, l.Notes[i].At) / 1000; {
		case apart == 0:
			return errors.New("notes that sound together are not told apart; choose a part with single notes")
		case apart < shortestHeard-1e-9:
			return fmt.Errorf("at %.0f the notes come too fast to be told apart; go slower", l.Tempo)
		}
	}
	if l.Milliseconds(lick.Time{}, l.End())/1000 > longestHeard {
		return fmt.Errorf("a line is listened to for %.0f seconds at most; choose a shorter part", longestHeard)
	}
	return nil
}

// errNoTone is a recording in which nothing of a line is heard.
var errNoTone = errors.New("no tone was heard: play the line alone, near the microphone")

// probe is how often a recording is looked into before all of it is listened to, in seconds: a tone that is part of a
// line lasts that long. A minute of noise is told in a twentieth of the time that it takes to listen to it.
const probe = shortestHeard

// isNoise says whether no tone sounds at any of the moments of a first look.
func isNoise(ctx context.Context, samples []float32, rate int) (bool, error) {
	moments, err := Track(ctx, samples, rate, probe)
	return !slices.ContainsFunc(moments, func(m Moment) bool { return m.Hertz > 0 }), err
}

// Line listens to a single-note line that was played at the lick's tempo, its first note taken as on time. It is a help
// with limits: chords, ringing strings and fast notes confuse it, and a note that is struck again very softly is not
// told from one that rings. The error is one sentence.
//
// Tones are cut from the tracked pitch first; then each note of the line takes the nearest tone that is its own within
// a reach that grows with the time to the note before, a quarter of a second at most. A tone that is taken is no other
// note's. What is left within reach is another tone; nothing is a missing note.
func Line(ctx context.Context, samples []float32, rate int, l lick.Lick) ([]Note, error) {
	samples, rate, err := brought(samples, rate, 60)
	if err != nil {
		return nil, err
	}
	if noise, err := isNoise(ctx, samples, rate); noise || err != nil {
		return nil, cmp.Or(err, errNoTone)
	}
	moments, err := Track(ctx, samples, rate, listen)
	if err != nil {
		return nil, err
	}
	heard := tones(moments, samples, rate)
	if len(heard) == 0 {
		return nil, errNoTone
	}
	times := l.Timeline()
	out := make([]Note, len(l.Notes))
	var start float64
	aligned := false
	for i := range l.Notes {
		out[i] = Note{Note: i + 1, Word: Missing}
		if l.Notes[i].Mute {
			out[i].Word = OnTime // a dead note has no tone to hear
			continue
		}
		if !aligned {
			// The first tone of its pitch is the first note's.
			if k := slices.IndexFunc(heard, func(h sounded) bool { return fitsNote(l, i, h.pitch) }); k >= 0 {
				start, aligned, heard[k].taken, out[i].Word = heard[k].at-times[i].At, true, true, OnTime
			}
			continue
		}
		due := start + times[i].At
		reach := 0.22
		if i > 0 {
			reach = min(reach, max(0.06, 0.6*(times[i].At-times[i-1].At)))
		}
		best, other := -1, false
		for k, h := range heard {
			if h.taken || math.Abs(h.at-due) > reach {
				continue
			}
			if !fitsNote(l, i, h.pitch) {
				other = true
				continue
			}
			if best < 0 || math.Abs(h.at-due) < math.Abs(heard[best].at-due) {
				best = k
			}
		}
		switch {
		case best >= 0:
			heard[best].taken = true
			off := heard[best].at - due
			out[i].By, out[i].Word = 1000*off, OnTime
			if off > looseTime {
				out[i].Word = Late
			} else if off < -looseTime {
				out[i].Word = Early
			}
		case other:
			out[i].Word = AnotherTone
		}
	}
	return out, nil
}

// fitsNote says whether a pitch is the note's, or on the way of its bend.
func fitsNote(l lick.Lick, i, pitch int) bool {
	low := int(l.Pitch(i))
	high := low
	if b := l.Notes[i].Bend; b != nil {
		high += int(math.Ceil(b.Semitones))
	}
	return pitch >= low && pitch <= high
}

// tones cuts a sound into tones: where the pitch changes for two moments, or the sound rises by
// more than two thirds within thirty milliseconds, as a string does that is struck again.
func tones(moments []Moment, samples []float32, rate int) (out []sounded) {
	hop := max(1, int(listen*float64(rate)))
	loud := func(k int) float64 {
		return math.Sqrt(power(samples[min(len(samples), k*hop):min(len(samples), (k+1)*hop)]) / float64(hop))
	}
	last, lastAt := 0, -1.0
	for k := 0; k+1 < len(moments); k++ {
		p, next := semitone(moments[k].Hertz), semitone(moments[k+1].Hertz)
		if p == 0 || p != next {
			if moments[k].Hertz == 0 && moments[k+1].Hertz == 0 {
				last = 0
			}
			continue
		}
		// The window of a moment begins a little before its middle; the strike is felt in its first samples.
		struck := k >= 3 && loud(k) > rises*loud(k-3) && moments[k].At-lastAt > 0.06
		if p == last && !struck {
			continue
		}
		last, lastAt = p, moments[k].At
		out = append(out, sounded{at: moments[k].At, pitch: p})
	}
	return out
}

// semitone is the nearest MIDI number, 0 for none.
func semitone(hertz float64) int {
	if hertz <= 0 {
		return 0
	}
	return int(math.Round(69 + 12*math.Log2(hertz/music.Pitch(69).Hertz())))
}

// Words say how a played line went, the worst first.
func Words(heard []Note) string {
	n := map[string]int{}
	for _, h := range heard {
		n[h.Word]++
	}
	if n[OnTime] == len(heard) {
		return "Every note is there and on time."
	}
	var out []string
	for _, w := range []string{Missing, AnotherTone, Late, Early} {
		if n[w] > 0 {
			out = append(out, fmt.Sprintf("%d %s", n[w], w))
		}
	}
	return fmt.Sprintf("%d of %d on time; %s.", n[OnTime], len(heard), strings.Join(out, ", "))
}
