package format

import (
	"bytes"
	"encoding/binary"
	"math"
	"math/rand/v2"
	"strings"
	"testing"
	"time"

	"ornamen/core/lick"
)

// MIDI gives back all that it holds, of random licks.
func TestMIDIComesBack(t *testing.T) {
	rng := rand.New(rand.NewPCG(7, 12))
	for done := 0; done < 300; {
		l := randomLick(rng)
		for i := range l.Notes {
			if n := &l.Notes[i]; n.Bend != nil {
				n.Vibrato, n.SlideIn = nil, nil
			}
		}
		l, err := lick.Parse(l.Encode())
		if err != nil {
			continue
		}
		done++
		back, remarks, err := DecodeMIDI(EncodeMIDI(l))
		if err != nil || len(remarks) > 0 || len(back.Notes) != len(l.Notes) {
			t.Fatalf("%v %v, %d notes of %d", err, remarks, len(back.Notes), len(l.Notes))
		}
		if back.Meter != l.Meter || math.Abs(back.Tempo-l.Tempo) > 0.01 || back.Pickup.Cmp(l.Pickup) != 0 || back.Feel != l.Feel ||
			back.Loop != l.Loop || len(back.Tuning) != len(l.Tuning) {
			t.Errorf("%s\ncame back as\n%s", l.Encode(), back.Encode())
		}
		for i, n := range l.Notes {
			b := back.Notes[i]
			if b.Place() != n.Place() || b.At.Cmp(n.At) != 0 || b.Len.Cmp(n.Len) != 0 || b.Accent != n.Accent ||
				(n.SlideIn == nil) != (b.SlideIn == nil) || (n.Bend == nil) != (b.Bend == nil) && n.Vibrato == nil && n.Fret > 0 {
				t.Errorf("note %d: %+v came back as %+v", i+1, n, b)
			}
			if n.Bend != nil && b.Bend != nil && (b.Bend.Semitones != n.Bend.Semitones || b.Bend.Shape != n.Bend.Shape) {
				t.Errorf("note %d: the bend %+v came back as %+v", i+1, *n.Bend, *b.Bend)
			}
		}
	}
}

// midiFile is a file of one track per list of bytes.
func midiFile(kind uint16, division uint16, tracks ...[]byte) []byte {
	b := []byte("MThd\x00\x00\x00\x06")
	b = binary.BigEndian.AppendUint16(b, kind)
	b = binary.BigEndian.AppendUint16(b, uint16(len(tracks)))
	b = binary.BigEndian.AppendUint16(b, division)
	for _, t := range tracks {
		t = append(t, 0, 0xff, 0x2f, 0)
		b = binary.BigEndian.AppendUint32(append(b, "MTrk"...), uint32(len(t)))
		b = append(b, t...)
	}
	return b
}

// A file of others, written byte by byte after the standard: running status, a note-on of
// velocity 0 as an end, drums left out, the busier track taken, times brought onto the grid.
func TestForeignMIDI(t *testing.T) {
	line := []byte{0, 0xff, 0x03, 4, 'L', 'e', 'a', 'd',
		0, 0x90, 64, 90, 48, 64, 0, // E4 for an eighth at 96 a quarter, ended by velocity 0
		2, 67, 90, 46, 67, 0, // two ticks late
		0, 69, 120, 96, 69, 0}
	drums := []byte{0, 0x99, 36, 100, 96, 36, 0, 0, 38, 100, 96, 38, 0, 0, 36, 100, 96, 36, 0, 0, 38, 100, 96, 38, 0}
	bass := []byte{0, 0x91, 40, 90, 96, 40, 0}
	l, remarks, err := DecodeMIDI(midiFile(1, 96, []byte{0, 0xff, 0x51, 3, 0x07, 0xa1, 0x20}, drums, bass, line))
	if err != nil {
		t.Fatal(err)
	}
	if l.Tempo != 120 || len(l.Notes) != 3 || l.Pitch(0) != 64 || l.Pitch(1) != 67 || l.Pitch(2) != 69 {
		t.Errorf("%s", l.Encode())
	}
	if l.Notes[1].At.Cmp(lick.NewTime(1, 8)) != 0 || l.Notes[2].At.Cmp(lick.NewTime(1, 4)) != 0 || !l.Notes[2].Accent {
		t.Errorf("times %v %v", l.Notes[1].At, l.Notes[2].At)
	}
	all := strings.Join(remarks, " ")
	for _, says := range []string{`track "Lead" with 3 notes`, "without a name, 1 notes", "1 notes were moved", "near the hand"} {
		if !strings.Contains(all, says) {
			t.Errorf("%q is not said: %s", says, all)
		}
	}
	// Format 0 is one track.
	if l, _, err := DecodeMIDI(midiFile(0, 480, []byte{0, 0x90, 60, 80, 0x83, 0x60, 0x80, 60, 0})); err != nil || len(l.Notes) != 1 ||
		l.Notes[0].Len.Cmp(lick.NewTime(1, 4)) != 0 {
		t.Errorf("%v %+v", err, l.Notes)
	}
}

// What is no MIDI, or too much of it, is refused in a sentence and within a second.
func TestMIDIRefusals(t *testing.T) {
	flood := bytes.Repeat([]byte{0, 0x90, 60, 80, 1, 0x80, 60, 0}, 500_000)
	for name, data := range map[string][]byte{
		"nothing": nil, "text": []byte("once upon a time, a lick"), "a head alone": []byte("MThd\x00\x00\x00\x06\x00\x01\x00\x01\x01\xe0"),
		"cut":       midiFile(1, 480, []byte{0, 0x90, 60, 80})[:24],
		"format 2":  midiFile(2, 480, []byte{0, 0x90, 60, 80}),
		"film":      midiFile(1, 0xe728, []byte{0, 0x90, 60, 80}),
		"no status": midiFile(1, 480, []byte{0, 60, 80}),
		"drums":     midiFile(1, 480, []byte{0, 0x99, 36, 100, 10, 36, 0}),
		"a million": midiFile(1, 480, flood),
	} {
		began := time.Now()
		_, _, err := DecodeMIDI(data)
		if err == nil || strings.Contains(err.Error(), "\n") {
			t.Errorf("%s: %v", name, err)
		}
		if d := time.Since(began); d > time.Second {
			t.Errorf("%s is refused after %v", name, d)
		}
	}
}

func FuzzDecodeMIDI(f *testing.F) {
	f.Add(midiFile(1, 96, []byte{0, 0x90, 64, 90, 48, 64, 0}))
	f.Add(EncodeMIDI(lick.New()))
	f.Fuzz(func(t *testing.T, data []byte) {
		l, _, err := DecodeMIDI(data)
		if err == nil && l.Validate() != nil {
			t.Errorf("an invalid lick: %v", l.Validate())
		}
	})
}
