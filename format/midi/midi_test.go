package midi

import (
	"bytes"
	"encoding/binary"
	"math"
	"math/rand/v2"
	"slices"
	"strings"
	"testing"
	"time"

	gomidi "gitlab.com/gomidi/midi/v2"
	"gitlab.com/gomidi/midi/v2/smf"

	"ornamen/core/lick"
	"ornamen/core/testline"
	"ornamen/format/read"
)

// MIDI gives back all that it holds, of random licks.
func TestComesBack(t *testing.T) {
	rng := rand.New(rand.NewPCG(7, 12))
	for done := 0; done < 300; {
		l := testline.Random(rng)
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
		r, err := Decode(Encode(l), read.Request{})
		back := r.Lick
		if err != nil || len(r.Remarks) > 0 || len(r.Chosen) > 0 || len(back.Notes) != len(l.Notes) {
			t.Fatalf("%v %v, %d notes of %d", err, r.Remarks, len(back.Notes), len(l.Notes))
		}
		if back.Meter != l.Meter || math.Abs(back.Tempo-l.Tempo) > 0.01 || back.Pickup.Cmp(l.Pickup) != 0 ||
			back.Feel != l.Feel ||
			back.Loop != l.Loop ||
			len(back.Tuning) != len(l.Tuning) {
			t.Errorf("%s\ncame back as\n%s", l.Encode(), back.Encode())
		}
		for i, n := range l.Notes {
			same(t, i, n, back.Notes[i])
		}
	}
}

// same compares what MIDI holds of a note.
func same(t *testing.T, i int, n, b lick.Note) {
	t.Helper()
	if b.Place() != n.Place() || b.At.Cmp(n.At) != 0 || b.Len.Cmp(n.Len) != 0 || b.Accent != n.Accent ||
		b.Palm != n.Palm || b.Ghost != n.Ghost && !n.Accent ||
		(n.SlideIn == nil) != (b.SlideIn == nil) || (n.Bend == nil) != (b.Bend == nil) && n.Vibrato == nil &&
		n.Fret > 0 {
		t.Errorf("note %d: %+v came back as %+v", i+1, n, b)
	}
	if n.SlideIn != nil && b.SlideIn != nil && *n.SlideIn != *b.SlideIn {
		t.Errorf("note %d: slid into %+v, came back as %+v", i+1, *n.SlideIn, *b.SlideIn)
	}
	if n.Bend != nil && b.Bend != nil && (b.Bend.Semitones != n.Bend.Semitones || b.Bend.Shape != n.Bend.Shape) {
		t.Errorf("note %d: the bend %+v came back as %+v", i+1, *n.Bend, *b.Bend)
	}
}

// A general MIDI library (gitlab.com/gomidi/midi v2.3.16) reads what we write: the pitches on
// their ticks, the tempo, the pitch wheel at the top of a full bend, bass and drums.
func TestReadByALibrary(t *testing.T) {
	l := testline.Build(t, 96, "3:9 11/b2*1/4 2:9 12*1/8 9*1/8")
	l.Feel, l.Key = lick.Shuffle, lick.Key{Tonic: "C#", Scale: "minor pentatonic"}
	song, err := smf.ReadFrom(bytes.NewReader(Encode(l)))
	if err != nil {
		t.Fatal(err)
	}
	if song.Format() != 1 || len(song.Tracks) != 4 || song.TimeFormat.(smf.MetricTicks).Resolution() != division {
		t.Errorf("format %d, %d tracks, %v", song.Format(), len(song.Tracks), song.TimeFormat)
	}
	if bpm := song.TempoChanges()[0].BPM; math.Abs(bpm-96) > 0.001 {
		t.Errorf("tempo %g", bpm)
	}
	type begun struct {
		tick int64
		key  uint8
	}
	notes := make([][]begun, len(song.Tracks))
	top := int16(0)
	for k, track := range song.Tracks {
		at := int64(0)
		for _, e := range track {
			at += int64(e.Delta)
			var c, key, vel uint8
			var bent int16
			var abs uint16
			switch {
			case e.Message.GetNoteStart(&c, &key, &vel):
				notes[k] = append(notes[k], begun{at, key})
			case e.Message.GetPitchBend(&c, &bent, &abs):
				top = max(top, bent)
			}
		}
	}
	const q = division // the last eighth is the off-beat of a shuffle: two thirds into its quarter
	want := []begun{{0, 64}, {q / 4, 66}, {q + q/4, 68}, {q + q/2, 71}, {2 * q, 68}}
	if !slices.Equal(notes[1], want) {
		t.Errorf("the line is %v, want %v", notes[1], want)
	}
	if half := float64(top) / 8191 * bendRange; math.Abs(half-2) > 0.02 {
		t.Errorf("a full bend goes %g half steps up", half)
	}
	if len(notes[2]) == 0 || notes[2][0].key%12 != 1 || len(notes[3]) == 0 {
		t.Errorf("bass %v, drums %v", notes[2], notes[3])
	}
	off := testline.Build(t, 96, "3:9*1/8 11*1/8")
	off.Feel = lick.Shuffle
	song, err = smf.ReadFrom(bytes.NewReader(Encode(off)))
	if err != nil {
		t.Fatal(err)
	}
	at, starts := int64(0), []int64(nil)
	for _, e := range song.Tracks[1] {
		at += int64(e.Delta)
		var c, key, vel uint8
		if e.Message.GetNoteStart(&c, &key, &vel) {
			starts = append(starts, at)
		}
	}
	if !slices.Equal(starts, []int64{0, 2 * q / 3}) {
		t.Errorf("swung eighths begin at %v", starts)
	}
}

// A file that the library writes is read: two melodies to choose from, one of them two octaves
// too low for a guitar, which is moved and said.
func TestWrittenByALibrary(t *testing.T) {
	song := smf.New()
	song.TimeFormat = smf.MetricTicks(480)
	for k, first := range []uint8{72, 14} {
		var tr smf.Track
		tr.Add(0, smf.MetaTrackSequenceName([]string{"Flute", "Tuba"}[k]))
		for i := range 3 + k {
			tr.Add(0, gomidi.NoteOn(uint8(k), first+2*uint8(i), 90))
			tr.Add(240, gomidi.NoteOff(uint8(k), first+2*uint8(i)))
		}
		tr.Close(0)
		if err := song.Add(tr); err != nil {
			t.Fatal(err)
		}
	}
	var b bytes.Buffer
	if _, err := song.WriteTo(&b); err != nil {
		t.Fatal(err)
	}
	flute, err := Decode(b.Bytes(), read.Request{Line: 1})
	if err != nil || len(flute.Lick.Notes) != 3 || flute.Lick.Pitch(1) != 74 || len(flute.Lines) != 2 ||
		len(flute.Chosen) != 3 {
		t.Errorf("%v %+v", err, flute)
	}
	// The flute is the line, though the tuba has more notes.
	if r, err := Decode(b.Bytes(), read.Request{}); err != nil || r.Line != 0 {
		t.Errorf("line %d is taken, %v", r.Line, err)
	}
	tuba, err := Decode(b.Bytes(), read.Request{Line: 2})
	if err != nil || len(tuba.Lick.Notes) != 4 || tuba.Lick.Pitch(0) != 50 {
		t.Errorf("%v %+v", err, tuba)
	}
	all := strings.Join(tuba.Remarks, " ")
	for _, says := range []string{"“Tuba” with 4 notes; left out: “Flute” with 3 notes", "three octaves higher"} {
		if !strings.Contains(all, says) {
			t.Errorf("%q is not said: %s", says, all)
		}
	}
	if _, err := Decode(b.Bytes(), read.Request{Line: 3}); err == nil {
		t.Error("there is a third line")
	}
}

// A bend of others that a lick does not have is read as the nearest that it has: one and a half
// half steps as one, and a hair's breadth as none.
func TestForeignBends(t *testing.T) {
	const halfRange = 8191 / 2 // of the wheel, a half step at the usual range of two
	for _, c := range []struct {
		wheel int16
		want  float64
	}{{halfRange * 3 / 2, 1}, {halfRange, 1}, {8191, 2}, {halfRange * 5 / 9, 0.5}, {halfRange / 6, 0}} {
		var tr smf.Track
		tr.Add(0, gomidi.NoteOn(0, 69, 90))
		tr.Add(120, gomidi.Pitchbend(0, c.wheel))
		tr.Add(360, gomidi.NoteOff(0, 69))
		tr.Add(0, gomidi.Pitchbend(0, 0))
		tr.Close(0)
		song := smf.New()
		song.TimeFormat = smf.MetricTicks(480)
		if err := song.Add(tr); err != nil {
			t.Fatal(err)
		}
		var b bytes.Buffer
		if _, err := song.WriteTo(&b); err != nil {
			t.Fatal(err)
		}
		r, err := Decode(b.Bytes(), read.Request{})
		if err != nil || len(r.Lick.Notes) != 1 {
			t.Fatalf("wheel at %d: %v", c.wheel, err)
		}
		got := 0.0
		if bent := r.Lick.Notes[0].Bend; bent != nil {
			got = bent.Semitones
		}
		if got != c.want {
			t.Errorf("wheel at %d: a bend of %g, want %g", c.wheel, got, c.want)
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
func TestForeign(t *testing.T) {
	line := []byte{0, 0xff, 0x03, 4, 'L', 'e', 'a', 'd',
		0, 0x90, 64, 90, 48, 64, 0, // E4 for an eighth at 96 a quarter, ended by velocity 0
		2, 67, 90, 46, 67, 0, // two ticks late
		0, 69, 120, 96, 69, 0}
	drums := []byte{0, 0x99, 36, 100, 96, 36, 0, 0, 38, 100, 96, 38, 0, 0, 36, 100, 96, 36, 0, 0, 38, 100, 96, 38, 0}
	bass := []byte{0, 0x91, 40, 90, 96, 40, 0}
	r, err := Decode(midiFile(1, 96, []byte{0, 0xff, 0x51, 3, 0x07, 0xa1, 0x20}, drums, bass, line), read.Request{})
	if err != nil {
		t.Fatal(err)
	}
	l, remarks := r.Lick, r.Remarks
	if l.Tempo != 120 || len(l.Notes) != 3 || l.Pitch(0) != 64 || l.Pitch(1) != 67 || l.Pitch(2) != 69 {
		t.Errorf("%s", l.Encode())
	}
	if l.Notes[1].At.Cmp(lick.NewTime(1, 8)) != 0 || l.Notes[2].At.Cmp(lick.NewTime(1, 4)) != 0 || !l.Notes[2].Accent {
		t.Errorf("times %v %v", l.Notes[1].At, l.Notes[2].At)
	}
	all := strings.Join(remarks, " ")
	for _, says := range []string{"“Lead” with 3 notes", "line 1 with 1 note.", "1 beginning moved onto"} {
		if !strings.Contains(all, says) {
			t.Errorf("%q is not said: %s", says, all)
		}
	}
	// Format 0 is one track.
	zero := midiFile(0, 480, []byte{0, 0x90, 60, 80, 0x83, 0x60, 0x80, 60, 0})
	if r, err := Decode(zero, read.Request{}); err != nil || len(r.Lick.Notes) != 1 ||
		r.Lick.Notes[0].Len.Cmp(lick.NewTime(1, 4)) != 0 {
		t.Errorf("%v %+v", err, l.Notes)
	}
}

// A first note that was played a few ticks late, or early, is on its beat, and the bar line stays where it was.
func TestPlayedLate(t *testing.T) {
	for _, late := range []int{0, 3, 5} {
		data := []byte{
			byte(late),
			0x90,
			64,
			90,
			48,
			64,
			0,
			byte(48 - late + 2),
			67,
			90,
			46,
			67,
			0,
			48,
			69,
			90,
			48,
			69,
			0,
		}
		r, err := Decode(midiFile(0, 96, data), read.Request{})
		if err != nil || !r.Lick.Pickup.IsZero() || len(r.Lick.Notes) != 3 || !r.Lick.Notes[0].At.IsZero() ||
			r.Lick.Notes[1].At.Cmp(lick.NewTime(1, 4)) != 0 || r.Lick.Notes[2].At.Cmp(lick.NewTime(1, 2)) != 0 {
			t.Errorf("%d ticks late: %v %s", late, err, r.Lick.Encode())
		}
	}
}

// What is no MIDI, or too much of it, is refused in a sentence and within a second.
func TestRefusals(t *testing.T) {
	flood := bytes.Repeat([]byte{0, 0x90, 60, 80, 1, 0x80, 60, 0}, 500_000)
	for name, data := range map[string][]byte{
		"nothing": nil, "text": []byte("once upon a time, a lick"),
		"a head alone": []byte("MThd\x00\x00\x00\x06\x00\x01\x00\x01\x01\xe0"),
		"cut":          midiFile(1, 480, []byte{0, 0x90, 60, 80})[:24],
		"format 2":     midiFile(2, 480, []byte{0, 0x90, 60, 80}),
		"film":         midiFile(1, 0xe728, []byte{0, 0x90, 60, 80}),
		"no status":    midiFile(1, 480, []byte{0, 60, 80}),
		"drums":        midiFile(1, 480, []byte{0, 0x99, 36, 100, 10, 36, 0}),
		"a million":    midiFile(1, 480, flood),
	} {
		began := time.Now()
		_, err := Decode(data, read.Request{})
		if err == nil || strings.Contains(err.Error(), "\n") {
			t.Errorf("%s: %v", name, err)
		}
		if d := time.Since(began); d > time.Minute { // it hangs, not: it is slow
			t.Errorf("%s is refused after %v", name, d)
		}
	}
}

func FuzzDecode(f *testing.F) {
	f.Add(midiFile(1, 96, []byte{0, 0x90, 64, 90, 48, 64, 0}))
	f.Add(Encode(lick.New()))
	f.Fuzz(func(t *testing.T, data []byte) {
		r, err := Decode(data, read.Request{})
		if err == nil && r.Lick.Validate() != nil {
			t.Errorf("an invalid lick: %v", r.Lick.Validate())
		}
	})
}
