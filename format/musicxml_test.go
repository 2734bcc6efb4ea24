package format

import (
	"archive/zip"
	"bytes"
	"math/rand/v2"
	"strings"
	"testing"
	"time"

	"ornamen/core/lick"
)

// held is a lick as MusicXML can hold it: without what the standard has no element for.
func held(l lick.Lick) lick.Lick {
	l = l.Clone()
	l.Tags, l.Key, l.Keys, l.Parts, l.Recipe = nil, lick.Key{}, nil, nil, ""
	l.Title = clipTo(l.Title, maxTitle)
	for i := range l.Notes {
		n := &l.Notes[i]
		n.Lock, n.Meant, n.Voice = nil, nil, ""
		if n.Bend != nil {
			n.Bend.Push, n.Bend.With = "", nil
		}
		if n.Fret == 0 {
			n.Bend, n.Vibrato = nil, nil
		}
		if n.Slur != "" && l.Before(i) < 0 {
			n.Slur = ""
		}
	}
	return l
}

// MusicXML gives back all that it holds, packed or not, of random licks.
func TestMusicXMLComesBack(t *testing.T) {
	rng := rand.New(rand.NewPCG(4, 20))
	for done := 0; done < 300; {
		l, err := lick.Parse(randomLick(rng).Encode())
		if err != nil {
			continue
		}
		l.Title = strings.TrimSpace(strings.ReplaceAll(l.Title, "\n", " "))
		l.Chords = nil
		if rng.IntN(2) == 0 {
			l.Chords = []lick.Chord{{Name: "C#m7"}}
		}
		want := held(l)
		done++
		data := EncodeMusicXML(want)
		wellFormed(t, data)
		back, remarks, err := DecodeMusicXML(data)
		if err != nil || len(remarks) > 0 {
			t.Fatalf("%v %v\n%s", err, remarks, data)
		}
		if len(back.Chords) != len(want.Chords) || len(back.Chords) > 0 && back.Chords[0].Name != want.Chords[0].Name {
			t.Errorf("chords %v came back as %v", want.Chords, back.Chords)
		}
		want.Chords, back.Chords = nil, nil
		if again, err := lick.Parse(want.Encode()); err != nil || !bytes.Equal(again.Encode(), back.Encode()) {
			t.Fatalf("%s\nis written\n%s\nand comes back as\n%s", want.Encode(), data, back.Encode())
		}
		if packed, _, err := DecodeMXL(EncodeMXL(l)); err != nil || len(packed.Notes) != len(l.Notes) {
			t.Errorf("packed: %v", err)
		}
	}
}

// A melody of others: no strings and frets, written an octave higher, a tie over the bar line,
// a grace note, an unknown element, another part.
func TestForeignMusicXML(t *testing.T) {
	const score = `<?xml version="1.0"?>
<!DOCTYPE score-partwise PUBLIC "-//Recordare//DTD MusicXML 3.1 Partwise//EN" "partwise.dtd">
<score-partwise version="3.1"><part-list><score-part id="P1"><part-name>Flute</part-name></score-part>
<score-part id="P2"><part-name>Drum</part-name></score-part></part-list>
<part id="P1"><measure number="1"><attributes><divisions>2</divisions><time><beats>3</beats><beat-type>4</beat-type></time>
<transpose><chromatic>0</chromatic><octave-change>-1</octave-change></transpose></attributes>
<harmony><root><root-step>A</root-step></root><kind text="m7">minor-seventh</kind></harmony>
<note><grace/><pitch><step>B</step><octave>4</octave></pitch></note>
<note><pitch><step>A</step><octave>4</octave></pitch><duration>2</duration></note>
<note><rest/><duration>2</duration></note><wobble><deep/></wobble>
<note><pitch><step>C</step><alter>1</alter><octave>5</octave></pitch><duration>2</duration><tie type="start"/></note></measure>
<measure number="2"><note><pitch><step>C</step><alter>1</alter><octave>5</octave></pitch><duration>4</duration><tie type="stop"/></note></measure></part>
<part id="P2"><measure number="1"><note><pitch><step>C</step><octave>2</octave></pitch><duration>2</duration></note></measure></part>
</score-partwise>`
	l, remarks, err := DecodeMusicXML([]byte(score))
	if err != nil {
		t.Fatal(err)
	}
	if len(l.Notes) != 2 || l.Pitch(0) != 57 || l.Pitch(1) != 61 || l.Notes[1].Len.Cmp(lick.NewTime(3, 4)) != 0 ||
		l.Notes[1].At.Cmp(lick.NewTime(1, 2)) != 0 || l.Meter.String() != "3/4" || l.Chords[0].Name != "Am7" {
		t.Errorf("%s", l.Encode())
	}
	all := strings.Join(remarks, " ")
	for _, says := range []string{"the part Drum with 1 notes", "a grace note, 1 times", "near the hand"} {
		if !strings.Contains(all, says) {
			t.Errorf("%q is not said: %s", says, all)
		}
	}
}

// What is no score, names something outside itself or would grow without end is refused in a
// sentence and at once.
func TestMusicXMLRefusals(t *testing.T) {
	var bomb bytes.Buffer
	z := zip.NewWriter(&bomb)
	w, _ := z.Create("score.xml")
	for range 64 {
		w.Write(make([]byte, 1<<20))
	}
	z.Close()
	note := `<note><pitch><step>C</step><octave>4</octave></pitch><duration>1</duration></note>`
	wrap := func(s string) []byte {
		return []byte(`<score-partwise><part id="P1"><measure number="1">` + s + `</measure></part></score-partwise>`)
	}
	for name, try := range map[string]func() error{
		"nothing": func() error { _, _, err := DecodeMusicXML(nil); return err },
		"text":    func() error { _, _, err := DecodeMusicXML([]byte("la la la")); return err },
		"cut":     func() error { _, _, err := DecodeMusicXML(wrap(note)[:80]); return err },
		"silence": func() error { _, _, err := DecodeMusicXML(wrap("")); return err },
		"an entity from outside": func() error {
			_, _, err := DecodeMusicXML([]byte(`<!DOCTYPE x [<!ENTITY e SYSTEM "file:///etc/passwd">]><score-partwise><work><work-title>&e;` +
				`</work-title></work></score-partwise>`))
			return err
		},
		"too many notes": func() error { _, _, err := DecodeMusicXML(wrap(strings.Repeat(note, 20_001))); return err },
		"a bomb":         func() error { _, _, err := DecodeMXL(bomb.Bytes()); return err },
		"no zip":         func() error { _, _, err := DecodeMXL([]byte("PK no")); return err },
		"50 MB":          func() error { _, _, err := Import("x.musicxml", make([]byte, 50<<20)); return err },
	} {
		began := time.Now()
		err := try()
		if err == nil || strings.Contains(err.Error(), "\n") {
			t.Errorf("%s: %v", name, err)
		}
		if d := time.Since(began); d > time.Second {
			t.Errorf("%s is refused after %v", name, d)
		}
	}
}

func FuzzDecodeMusicXML(f *testing.F) {
	f.Add(EncodeMusicXML(lick.New()))
	f.Fuzz(func(t *testing.T, data []byte) {
		l, _, err := DecodeMusicXML(data)
		if err == nil && l.Validate() != nil {
			t.Errorf("an invalid lick: %v", l.Validate())
		}
	})
}
