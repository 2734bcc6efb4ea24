package musicxml

import (
	"archive/zip"
	"bytes"
	"math/rand/v2"
	"os"
	"strconv"
	"strings"
	"testing"
	"time"

	"ornamen/core/lick"
	"ornamen/core/testline"
	"ornamen/format/read"
)

// held is a lick as MusicXML can hold it: without what the standard has no element for.
func held(l lick.Lick) lick.Lick {
	l = l.Clone()
	l.Tags, l.Keys, l.Parts, l.Recipe = nil, nil, nil, ""
	l.Title = read.Clip(l.Title, read.MaxTitle)
	for i := range l.Notes {
		n := &l.Notes[i]
		n.Lock, n.Meant = nil, nil
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
		l, err := lick.Parse(testline.Random(rng).Encode())
		if err != nil {
			continue
		}
		l.Title = strings.TrimSpace(strings.ReplaceAll(l.Title, "\n", " "))
		l.Chords = nil
		if rng.IntN(2) == 0 {
			names := []string{"C#m7", "C/E", "B♭m7♭5", "E7#9", "Cadd9", "G5", "Bb13", "F#m7b5/C"}
			l.Chords = []lick.Chord{{Name: names[rng.IntN(len(names))]}}
		}
		want := held(l)
		done++
		data := Encode(want)
		r, err := Decode(data, read.Request{})
		back, remarks := r.Lick, r.Remarks
		if err != nil || len(remarks) > 0 {
			t.Fatalf("%v %v\n%s", err, remarks, data)
		}
		if len(back.Chords) != len(want.Chords) ||
			len(back.Chords) > 0 && back.Chords[0].Name != want.Chords[0].Name {
			t.Errorf("chords %v came back as %v", want.Chords, back.Chords)
		}
		want.Chords, back.Chords = nil, nil
		if again, err := lick.Parse(want.Encode()); err != nil || !bytes.Equal(again.Encode(), back.Encode()) {
			t.Fatalf("%s\nis written\n%s\nand comes back as\n%s", want.Encode(), data, back.Encode())
		}
		if packed, err := DecodePacked(EncodePacked(l), read.Request{}); err != nil ||
			len(packed.Lick.Notes) != len(l.Notes) {
			t.Errorf("packed: %v", err)
		}
	}
}

// What is written of a lick with all techniques is the file that an independent library, built
// from the standard's schema, has read and written again unchanged (tools/fixtures/musicxml.mjs;
// @stringsync/musicxml 0.3.0 of the npm registry). Who changes what is written runs it again.
func TestWrittenAsChecked(t *testing.T) {
	source, err := os.ReadFile("testdata/everything.lick.json")
	if err != nil {
		t.Fatal(err)
	}
	l, err := lick.Parse(source)
	if err != nil {
		t.Fatal(err)
	}
	checked, err := os.ReadFile("testdata/everything.musicxml")
	if err != nil {
		t.Fatal(err)
	}
	if !bytes.Equal(Encode(l), checked) {
		t.Errorf("the file that was checked is another:\n%s", Encode(l))
	}
	r, err := Decode(checked, read.Request{})
	if err != nil || len(r.Remarks) > 0 {
		t.Fatalf("%v %v", err, r.Remarks)
	}
	if !bytes.Equal(r.Lick.Encode(), l.Encode()) {
		t.Errorf("it comes back as\n%s", r.Lick.Encode())
	}
}

// A melody of others: no strings and frets, written an octave higher, a tie over the bar line,
// a grace note, an unknown element, another part.
func TestForeignMusicXML(t *testing.T) {
	const score = `<?xml version="1.0"?>
<!DOCTYPE score-partwise PUBLIC "-//Recordare//DTD MusicXML 3.1 Partwise//EN" "partwise.dtd">
<score-partwise version="3.1"><part-list><score-part id="P1"><part-name>Flute</part-name></score-part>
<score-part id="P2"><part-name>Drum</part-name></score-part></part-list>
<part id="P1"><measure number="1"><attributes><divisions>2</divisions><time><beats>3</beats><beat-type>
4</beat-type></time>
<transpose><chromatic>0</chromatic><octave-change>-1</octave-change></transpose></attributes>
<harmony><root><root-step>A</root-step></root><kind text="m7">minor-seventh</kind></harmony>
<note><grace/><pitch><step>B</step><octave>4</octave></pitch></note>
<note><pitch><step>A</step><octave>4</octave></pitch><duration>2</duration></note>
<note><rest/><duration>2</duration></note><wobble><deep/></wobble>
<note><pitch><step>C</step><alter>1</alter><octave>5</octave></pitch><duration>2</duration><tie type="start"/>
</note></measure>
<measure number="2"><note><pitch><step>C</step><alter>1</alter><octave>5</octave></pitch><duration>4</duration>
<tie type="stop"/></note></measure></part>
<part id="P2"><measure number="1"><note><pitch><step>C</step><octave>2</octave></pitch><duration>2</duration>
</note></measure></part>
</score-partwise>`
	r, err := Decode([]byte(score), read.Request{})
	l, remarks := r.Lick, r.Remarks
	if err != nil {
		t.Fatal(err)
	}
	if len(l.Notes) != 2 || l.Pitch(0) != 57 || l.Pitch(1) != 61 || l.Notes[1].Len.Cmp(lick.NewTime(3, 4)) != 0 ||
		l.Notes[1].At.Cmp(lick.NewTime(1, 2)) != 0 || l.Meter.String() != "3/4" || l.Chords[0].Name != "Am7" {
		t.Errorf("%s", l.Encode())
	}
	if len(r.Chosen) != 2 {
		t.Errorf("places chosen for %v", r.Chosen)
	}
	all := strings.Join(remarks, " ")
	for _, says := range []string{"“Flute” with 2 notes", "“Drum” with 1 note.", "1 grace note."} {
		if !strings.Contains(all, says) {
			t.Errorf("%q is not said: %s", says, all)
		}
	}
}

// A part in notation and in tablature is one line, that of the tablature; one of two staves of
// notation is two. A metronome mark counts in its own unit.
func TestStaves(t *testing.T) {
	note := func(step, octave, staff, technical string) string {
		return `<note><pitch><step>` + step + `</step><octave>` + octave + `</octave></pitch><duration>1</duration>` +
			`<staff>` + staff + `</staff>` + technical + `</note>`
	}
	at := func(str, fret string) string {
		return `<notations><technical><string>` + str + `</string><fret>` + fret + `</fret></technical></notations>`
	}
	score := func(second string) []byte {
		return []byte(`<score-partwise version="4.0"><part-list><score-part id="P1"><part-name>Guitar</part-name>` +
			`</score-part></part-list><part id="P1"><measure number="1"><attributes><divisions>1</divisions>` +
			`<staves>2</staves></attributes><direction><direction-type><metronome><beat-unit>quarter</beat-unit>` +
			`<beat-unit-dot/><per-minute>80</per-minute></metronome></direction-type></direction>` +
			note("A", "4", "1", "") + note("C", "5", "1", "") + `<backup><duration>2</duration></backup>` + second +
			`</measure></part></score-partwise>`)
	}
	r, err := Decode(score(note("A", "4", "2", at("3", "14"))+note("C", "5", "2", at("3", "17"))), read.Request{})
	if err != nil || len(r.Lines) != 1 || len(r.Lick.Notes) != 2 || r.Lick.Notes[1].Place().Notation() != "3:17" ||
		r.Lick.Notes[1].At.Cmp(lick.NewTime(1, 4)) != 0 || r.Lick.Tempo != 120 {
		t.Errorf("with tablature: %v %+v %s", err, r.Lines, r.Lick.Encode())
	}
	r, err = Decode(score(note("E", "3", "2", "")), read.Request{Line: 2})
	if err != nil || len(r.Lines) != 2 || r.Lines[1].Name != "“Guitar, staff 2”" || len(r.Lick.Notes) != 1 ||
		r.Lick.Pitch(0) != 52 || !r.Lick.Notes[0].At.IsZero() {
		t.Errorf("two staves: %v %+v %s", err, r.Lines, r.Lick.Encode())
	}
}

// Silence among chords comes back, and so does a sign of others for it.
func TestNoChord(t *testing.T) {
	l := testline.Build(t, 100, "2:8*1/1 5*1/1 3:7*1/1")
	l.Chords = []lick.Chord{{Len: lick.NewTime(1, 1), Name: "Am7"},
		{At: lick.NewTime(2, 1), Len: lick.NewTime(1, 1), Name: "D7"}}
	data := string(Encode(l))
	if !strings.Contains(data, `<kind text="N.C.">none</kind>`) {
		t.Fatal(data)
	}
	for _, text := range []string{data, strings.Replace(data, `<kind text="N.C.">`, `<kind>`, 1)} {
		r, err := Decode([]byte(text), read.Request{})
		if err != nil || len(r.Remarks) > 0 || len(r.Lick.Chords) != 2 ||
			r.Lick.Chords[0].Len.Cmp(lick.NewTime(1, 1)) != 0 || r.Lick.Chords[1].At.Cmp(lick.NewTime(2, 1)) != 0 {
			t.Errorf("%v %v %v", err, r.Remarks, r.Lick.Chords)
		}
	}
}

// A bend that a lick does not have is read as the nearest that it has, which is said; the rest of
// the score is not lost for it.
func TestForeignBends(t *testing.T) {
	l := testline.Build(t, 100, "2:8/b2 5 3:7")
	data := strings.Replace(string(Encode(l)), "<bend-alter>2<", "<bend-alter>1.5<", 1)
	r, err := Decode([]byte(data), read.Request{})
	if err != nil || len(r.Lick.Notes) != 3 || r.Lick.Notes[0].Bend == nil || r.Lick.Notes[0].Bend.Semitones != 1 {
		t.Fatalf("%v %s", err, r.Lick.Encode())
	}
	if all := strings.Join(r.Remarks, " "); !strings.Contains(all, "1 bend read as the nearest") {
		t.Errorf("not said: %s", all)
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
		"nothing": func() error { _, err := Decode(nil, read.Request{}); return err },
		"text":    func() error { _, err := Decode([]byte("la la la"), read.Request{}); return err },
		"cut":     func() error { _, err := Decode(wrap(note)[:80], read.Request{}); return err },
		"silence": func() error { _, err := Decode(wrap(""), read.Request{}); return err },
		"an entity from outside": func() error {
			_, err := Decode([]byte(`<!DOCTYPE x [<!ENTITY e SYSTEM `+
				`"file:///etc/passwd">]><score-partwise><work><work-title>&e;`+
				`</work-title></work></score-partwise>`), read.Request{})
			return err
		},
		"too many notes": func() error { _, err := Decode(wrap(strings.Repeat(note, 20_001)), read.Request{}); return err },
		"a bomb":         func() error { _, err := DecodePacked(bomb.Bytes(), read.Request{}); return err },
		"no zip":         func() error { _, err := DecodePacked([]byte("PK no"), read.Request{}); return err },
	} {
		began := time.Now()
		err := try()
		if err == nil || strings.Contains(err.Error(), "\n") {
			t.Errorf("%s: %v", name, err)
		}
		if d := time.Since(began); d > time.Minute { // it hangs, not: it is slow
			t.Errorf("%s is refused after %v", name, d)
		}
	}
}

func FuzzDecode(f *testing.F) {
	f.Add(Encode(lick.New()))
	l := testline.Build(f, 100, "3:7/b2 5/p 2:5*1/4 6:0+3:2 2:8/v")
	l.Chords = []lick.Chord{
		{Len: lick.NewTime(1, 4), Name: "Am7"},
		{At: lick.NewTime(1, 2), Len: lick.NewTime(1, 4), Name: "D7/F#"},
	}
	f.Add(Encode(l))
	f.Add([]byte(strings.ReplaceAll(string(Encode(l)), "<voice>", "<staff>2</staff><voice>")))
	f.Fuzz(func(t *testing.T, data []byte) {
		r, err := Decode(data, read.Request{})
		if err == nil && r.Lick.Validate() != nil {
			t.Errorf("an invalid lick: %v", r.Lick.Validate())
		}
	})
}

// Repeats are written out with their endings, a whole that goes round is a loop, frets stand over a capo, a signature
// that names its mode is the key, and the bass voice comes back.
func TestRepeatsAndCapo(t *testing.T) {
	bar := func(fret int, marks string) string {
		return `<measure number="1">` + marks + `<note><pitch><step>E</step><octave>4</octave></pitch><duration>4</duration><notations>` +
			`<technical><string>1</string><fret>` + strconv.Itoa(
			fret,
		) + `</fret></technical></notations></note></measure>`
	}
	mark := func(inside string) string { return `<barline>` + inside + `</barline>` }
	score := func(attributes string, bars ...string) string {
		bars[0] = strings.Replace(
			bars[0],
			`<measure number="1">`,
			`<measure number="1"><attributes><divisions>1</divisions>`+attributes+
				`</attributes>`,
			1,
		)
		return `<score-partwise version="4.0"><part-list><score-part id="P1"><part-name>G</part-name></score-part></part-list><part id="P1">` +
			strings.Join(
				bars,
				"",
			) + `</part></score-partwise>`
	}
	forward, backward := mark(`<repeat direction="forward"/>`), mark(`<repeat direction="backward"/>`)
	thrice := mark(`<repeat direction="backward" times="3"/>`)
	ending := func(n, kind string) string { return mark(`<ending number="` + n + `" type="` + kind + `"/>`) }
	for _, x := range []struct {
		name  string
		bars  []string
		frets string
		loop  bool
	}{
		{name: "as it stands", bars: []string{bar(1, ""), bar(2, "")}, frets: "1 2"},
		{name: "the whole", bars: []string{bar(1, ""), bar(2, backward)}, frets: "1 2", loop: true},
		{name: "a middle", bars: []string{bar(1, ""), bar(2, forward+backward), bar(3, "")}, frets: "1 2 2 3"},
		{name: "from the beginning", bars: []string{bar(1, ""), bar(2, backward), bar(3, "")}, frets: "1 2 1 2 3"},
		{name: "three times", bars: []string{bar(1, forward), bar(2, thrice), bar(3, "")}, frets: "1 2 1 2 1 2 3"},
		{
			name: "two endings",
			bars: []string{bar(1, forward), bar(2, ending("1", "start")+ending("1", "stop")+backward),
				bar(3, ending("2", "start")+ending("2", "stop")), bar(4, "")},
			frets: "1 2 1 3 4",
		},
		{
			name: "an ending twice",
			bars: []string{bar(1, forward), bar(2, ending("1, 2", "start")+ending("1, 2", "stop")+backward),
				bar(3, ending("3", "start")+ending("3", "discontinue"))},
			frets: "1 2 1 2 1 3",
		},
		{
			name:  "two sections",
			bars:  []string{bar(1, forward), bar(2, backward), bar(3, forward), bar(4, backward)},
			frets: "1 2 1 2 3 4 3 4",
		},
	} {
		r, err := Decode([]byte(score("", x.bars...)), read.Request{})
		if err != nil {
			t.Fatalf("%s: %v", x.name, err)
		}
		var frets []string
		for _, n := range r.Lick.Notes {
			frets = append(frets, strconv.Itoa(n.Fret))
		}
		if got := strings.Join(frets, " "); got != x.frets || r.Lick.Loop != x.loop {
			t.Errorf("%s: %s, a loop %v", x.name, got, r.Lick.Loop)
		}
		said := strings.Contains(strings.Join(r.Remarks, " "), "written out")
		if said != (!x.loop && len(frets) != len(x.bars)) {
			t.Errorf("%s: %q", x.name, r.Remarks)
		}
	}
	r, err := Decode(
		[]byte(score(`<key><fifths>-3</fifths><mode>minor</mode></key><staff-details><capo>2</capo></staff-details>`,
			bar(0, ""), bar(3, ""))),
		read.Request{},
	)
	if err != nil || r.Lick.Notes[0].Fret != 2 || r.Lick.Notes[1].Fret != 5 || r.Lick.Key.Tonic != "C" ||
		r.Lick.Key.Scale != "natural minor" ||
		!strings.Contains(strings.Join(r.Remarks, " "), "capo at fret 2") {
		t.Errorf("%v %s %q", err, r.Lick.Encode(), r.Remarks)
	}
	l := testline.Read(t, "C# dorian", "6:9 4:11 3:11")
	l.Notes[0].Voice = lick.VoiceBass
	if back, err := Decode(Encode(l), read.Request{}); err != nil || back.Lick.Notes[0].Voice != lick.VoiceBass ||
		!bytes.Contains(Encode(l), []byte("<fifths>5</fifths>")) {
		t.Errorf("%v %s", err, back.Lick.Encode())
	}
}
