package changes

import (
	"encoding/json"
	"maps"
	"os"
	"slices"
	"strings"
	"testing"

	"ornamen/core/lick"
	"ornamen/core/music"
	"ornamen/core/neck"
)

// A lick of A7 moves to D7 and E7: the same degrees near by, or the same shape five and seven
// frets on; a minor chord gets its own third (common practice).
func TestEachChord(t *testing.T) {
	g := neck.Standard()
	l := over(t, "A mixolydian", "17 | 47 | 57", "2:10*1/4 3:6*1/4 2:8*1/4 3:7*1/4") // A, C#, G, D
	moved, err := EachChord(g, l, Manner{How: SameShape})
	if err != nil || len(moved.Notes) != 12 {
		t.Fatalf("%v %+v", err, moved.Notes)
	}
	for i, n := range moved.Notes[4:8] {
		if n.Fret != l.Notes[i].Fret+5 || n.String != l.Notes[i].String {
			t.Errorf("over D7 note %d is %v", i+1, n.Place())
		}
	}
	near, err := EachChord(g, l, Manner{How: SameDegrees})
	if err != nil {
		t.Fatal(err)
	}
	r := Read(near)
	for k := range 3 {
		for i := range 4 {
			want := []string{"1", "3", "b7", "4"}[i]
			if got := r.Notes[4*k+i].Degree.String(); got != want {
				t.Errorf("over chord %d note %d is the %s, want %s", k+1, i+1, got, want)
			}
		}
	}
	minor := over(t, "A mixolydian", "17 | 4m7", "2:10*1/2 3:6*1/2")
	m, err := EachChord(g, minor, Manner{How: SameDegrees})
	if err != nil || Read(m).Notes[3].Degree.String() != "b3" {
		t.Errorf("%v: over Dm7 the third is %+v", err, Read(m).Notes)
	}
	if _, err := EachChord(g, over(t, "A mixolydian", "17", "2:10*1/2"), Manner{How: SameShape}); err == nil {
		t.Error("one chord is enough to move to")
	}
}

// Later, doubled, halved: the times do what is said, the chords stay.
func TestTimes(t *testing.T) {
	l := over(t, "A mixolydian", "17 | 47", "2:10*1/8 8*1/8 3:9*1/4")
	later, err := Displace(l, lick.NewTime(1, 4))
	if err != nil || later.Notes[0].At.Cmp(lick.NewTime(1, 4)) != 0 || later.Chords[1].At.Cmp(lick.NewTime(1, 1)) != 0 {
		t.Errorf("%v %+v", err, later)
	}
	if _, err := Displace(l, lick.NewTime(-1, 8)); err == nil {
		t.Error("it begins before the beginning")
	}
	long, err := Stretch(l, 2, 1)
	if err != nil || long.Notes[2].At.Cmp(lick.NewTime(1, 2)) != 0 || long.Notes[2].Len.Cmp(lick.NewTime(1, 2)) != 0 {
		t.Errorf("%v %+v", err, long.Notes)
	}
	if short, err := Stretch(long, 1, 2); err != nil || string(short.Encode()) != string(l.Encode()) {
		t.Errorf("halved again it is not the same: %v", err)
	}
}

// Call and answer in four bars: half of the notes and a rest, then the whole line.
func TestCallAnswer(t *testing.T) {
	l := over(t, "A mixolydian", "17 | 17 | 47 | 17", "2:10*1/8 8*1/8 3:9*1/4 7*1/8 9*1/8 2:8*1/4")
	out, said, err := CallAnswer(l, 4)
	if err != nil || len(out.Notes) != 9 {
		t.Fatalf("%v %d %s", err, len(out.Notes), said)
	}
	if out.Notes[3].At.Cmp(lick.NewTime(2, 1)) != 0 || !strings.HasPrefix(said, "call: 3 notes and ") ||
		!strings.Contains(said, "answer: 6 notes") {
		t.Errorf("the answer begins at %v: %s", out.Notes[3].At, said)
	}
	if _, _, err := CallAnswer(l, 1); err == nil {
		t.Error("it fits into half a bar")
	}
	// The third of each chord, and the seventh of one that has none.
	thirds, err := GuideTones(neck.Standard(), l, 3)
	if err != nil || len(thirds.Notes) != 3 || thirds.Pitch(0).Class() != 1 || thirds.Pitch(1).Class() != 6 {
		t.Errorf("%v %+v", err, thirds.Notes)
	}
	if _, err := GuideTones(neck.Standard(), over(t, "A major", "1 | 4", "2:10"), 7); err == nil {
		t.Error("A has a seventh")
	}
}

// The thumb plays roots on 1 and 2, fifths on 3 and 4, on thick strings that the line leaves
// free, and the line is left to the fingers (common practice).
func TestBass(t *testing.T) {
	g := neck.Standard()
	l := over(t, "E minor pentatonic", "1m7 | 4m7", "1:3*1/4 0*1/4 2:3*1/4 0*1/4 2:1*1/4 1:0*1/4 2:3*1/4 1:0*1/4")
	for pattern, want := range map[Pattern]string{
		Steady: "E E B D A A E G", Alternating: "E B E B A E A E", Walking: "E G B G# A C E C",
	} {
		out, err := Bass(g, l, pattern)
		if err != nil {
			t.Fatal(err)
		}
		var got []string
		for i, n := range out.Notes {
			switch {
			case n.Voice == lick.VoiceBass:
				got = append(got, music.NameOf(out.Pitch(i).Class()).String())
				if n.String < 4 || n.Stroke != lick.PThumb {
					t.Errorf("%s: the thumb plays %v with %s", pattern, n.Place(), n.Stroke)
				}
			case n.Stroke != lick.PRing && n.Stroke != lick.PMid:
				t.Errorf("%s: the line is struck by %q", pattern, n.Stroke)
			}
		}
		if strings.Join(got, " ") != want {
			t.Errorf("%s: %s, want %s", pattern, strings.Join(got, " "), want)
		}
		again, err := Bass(g, out, pattern)
		if err != nil || string(again.Encode()) != string(out.Encode()) {
			t.Errorf("%s laid twice is not the same: %v", pattern, err)
		}
	}
	low := over(t, "E minor pentatonic", "1m7", "6:3*1/4+5:2*1/4+4:2*1/4 6:3*3/4+5:2*3/4+4:2*3/4")
	if _, err := Bass(g, low, Steady); err == nil {
		t.Error("there is room under a line on the thick strings")
	}
	if _, err := Bass(g, l, "boogie"); err == nil {
		t.Error("boogie is a pattern")
	}
}

// Which scale a chord would take, and what a palette shares with it (common practice): a
// dominant seventh the Mixolydian, a half-diminished one the Locrian.
func TestFits(t *testing.T) {
	p, err := music.ParseKey("C major", nil, nil)
	if err != nil {
		t.Fatal(err)
	}
	for chord, want := range map[string]string{"G7": "mixolydian", "Dm7": "dorian", "Bm7b5": "locrian",
		"Fmaj7": "lydian",
		"Am7":   "natural minor", "Em7": "phrygian"} {
		c, err := music.ParseChord(chord)
		if err != nil {
			t.Fatal(err)
		}
		next, _ := music.ParseChord("Cmaj7")
		f := FitOver(p, c, &next)
		if len(f.Scales) == 0 || f.Scales[0] != want || len(f.Tones) != 7 || len(f.Lacks) != 0 {
			t.Errorf("over %s: %v, lacks %v; want %s", chord, f.Scales, f.Lacks, want)
		}
		for _, tone := range f.Shared {
			if _, in := next.Over(tone.Name); !in {
				t.Errorf("%s is no tone of both", tone.Name)
			}
		}
	}
	for _, name := range music.ScaleNames() {
		if music.IsArpeggio(name) {
			break
		}
		text, tone, ok := Vamp(name)
		if !ok {
			t.Errorf("%s has no accompaniment", name)
			continue
		}
		scale, err := music.ParseKey("A "+name, nil, nil)
		if err != nil {
			t.Fatal(err)
		}
		if scale.At(music.Pitch(69+tone.Semitones())).Role == music.Outside {
			t.Errorf("%s has no %s", name, tone)
		}
		if _, err := Parse(text, lick.Meter{Beats: 4, Unit: 4}, lick.Time{}, lick.Key{Tonic: "A"}); err != nil {
			t.Errorf("%s: %v", name, err)
		}
	}
}

// Which scales hold a chord agrees with a general music-theory library (tonal 6.4.3 of the npm
// registry; tools/fixtures/chordscales.mjs writes the fixture), and so do the chords' tones.
func TestAgainstLibrary(t *testing.T) {
	data, err := os.ReadFile("testdata/chordscales.json")
	if err != nil {
		t.Fatal(err)
	}
	var fixture struct {
		Rows []struct {
			Chord         string
			Notes, Scales []string
		}
	}
	if err := json.Unmarshal(data, &fixture); err != nil || len(fixture.Rows) < 10 {
		t.Fatalf("%v, %d rows", err, len(fixture.Rows))
	}
	for _, row := range fixture.Rows {
		c, err := music.ParseChord(row.Chord)
		if err != nil {
			t.Errorf("%s: %v", row.Chord, err)
			continue
		}
		ours, theirs := map[int]bool{}, map[int]bool{}
		for _, d := range c.Degrees {
			ours[d.Over(c.Root).Class()] = true
		}
		for _, s := range row.Notes {
			n, err := music.ParseName(s)
			if err != nil {
				t.Fatal(err)
			}
			theirs[n.Class()] = true
		}
		if !maps.Equal(ours, theirs) {
			t.Errorf("%s: %v, the library has %v", row.Chord, c.Degrees, row.Notes)
		}
		got := holding(c)
		slices.Sort(got)
		want := slices.Clone(row.Scales)
		slices.Sort(want)
		if !slices.Equal(got, want) {
			t.Errorf("%s lies in %v, by the library in %v", row.Chord, got, want)
		}
	}
}

// Rests are filled with three tones of the chord near the hand; a limit keeps only the degrees
// that are named and says what it left out.
func TestFillAndOnly(t *testing.T) {
	l := over(t, "A mixolydian", "17 | 47", "2:5*1/4 8*1/4 3:7*1/4 5*1/4") // E G D C over A7; D7 is at rest
	filled, said, err := Fill(neck.Standard(), l, "")
	if err != nil || len(filled.Notes) != 7 || said != "filled: bar 2 D7" {
		t.Fatalf("%v %d %s", err, len(filled.Notes), said)
	}
	r := Read(filled)
	has := map[Role]bool{}
	for _, n := range r.Notes[4:] {
		has[n.Role] = true
		if f := filled.Notes[n.Note].Fret; f < 1 || f > 9 {
			t.Errorf("the chord lies at fret %d", f)
		}
	}
	if !has[Third] || !has[Seventh] {
		t.Errorf("the partial chord has no third and seventh: %+v", r.Notes[4:])
	}
	if _, _, err := Fill(neck.Standard(), filled, ""); err == nil {
		t.Error("there is a rest left")
	}
	kept, said, err := Only(l, "5 b7")
	if err != nil || len(kept.Notes) != 2 || said != "left out: 2 notes, the 4 ♭3" {
		t.Errorf("%v %d %s", err, len(kept.Notes), said)
	}
	two, _, err := Pairs(neck.Standard(), over(t, "A mixolydian", "17 | 47 | 57 | 1maj7 | 2m7", "2:5"))
	if err != nil {
		t.Fatal(err)
	}
	three, said, err := OnlyPairs(two)
	if err != nil || len(three.Notes) != 6 || said != "left out: 4 notes" {
		t.Errorf("%v %d %s", err, len(three.Notes), said)
	}
	if _, _, err := OnlyPairs(l); err == nil {
		t.Error("single notes are pairs")
	}
	bent := over(t, "A mixolydian", "17", "2:5 8/b2 3:7 7/b1")
	if b, said, err := OnlyBends(bent); err != nil || len(b.Notes) != 2 || said != "left out: 2 notes" {
		t.Errorf("%v %d %s", err, len(b.Notes), said)
	}
	// A box played along one string keeps its pitches: 2:8 is 3:12, 4:5 the open third string,
	// 3:9 the open first.
	box := over(t, "A mixolydian", "17", "3:7 3:9 2:8 4:5")
	one, said, err := Move(neck.Standard(), box, "only:string")
	if err != nil || said != "on string 3" || len(one.Notes) != 4 {
		t.Fatalf("%v %q %d", err, said, len(one.Notes))
	}
	for i, fret := range []int{7, 9, 12, 0} {
		if n := one.Notes[i]; n.String != 3 || n.Fret != fret {
			t.Errorf("note %d lies on %v", i+1, n.Place())
		}
	}
	if thin, said, err := Move(neck.Standard(), box, "only:string 1"); err != nil ||
		said != "on string 1, left out: 2 notes" || thin.Notes[1].Place() != (neck.Place{String: 1, Fret: 3}) {
		t.Errorf("%v %q", err, said)
	}
	for _, bad := range []string{"only:string 0", "only:string 9", "only:string x"} {
		if _, _, err := Move(neck.Standard(), box, bad); err == nil {
			t.Errorf("%q is a string", bad)
		}
	}
	for _, bad := range []string{"", "x", "b2"} {
		if _, _, err := Only(l, bad); err == nil {
			t.Errorf("%q is a limit", bad)
		}
	}
	pairs, said, err := Pairs(neck.Standard(), l)
	if err != nil || len(pairs.Notes) != 4 || !strings.HasPrefix(said, "A7: ") || !strings.Contains(said, ", D7: ") {
		t.Fatalf("%v %d %s", err, len(pairs.Notes), said)
	}
	for _, n := range Read(pairs).Notes {
		if !n.Role.Chordal() {
			t.Errorf("a pair holds the %s", n.Degree)
		}
	}
	for _, m := range Moves() {
		out, _, err := Move(neck.Standard(), l, m.Word)
		if err != nil && m.Word != "later:-1/4" && m.Word != "answer:2" && m.Word != "only:pairs" &&
			m.Word != "only:bends" {
			t.Errorf("%s: %v", m.Word, err)
		}
		if err == nil && out.Validate() != nil {
			t.Errorf("%s makes an invalid line: %v", m.Word, out.Validate())
		}
	}
	for _, bad := range []string{"", "each", "each:way", "later:", "later:x", "answer:9", "tones:0", "tones:x",
		"bass:boogie", "jump"} {
		if _, _, err := Move(neck.Standard(), l, bad); err == nil {
			t.Errorf("%q moves it", bad)
		}
	}
}

// Over no chords a line can be moved by every word that needs none, and by no other.
func TestNeedsChords(t *testing.T) {
	l := over(t, "A mixolydian", "17", "3:7 3:9 2:8/b2 4:5")
	l.Chords = nil
	for _, m := range Moves() {
		_, _, err := Move(neck.Standard(), l, m.Word)
		free := err == nil || m.Word == "later:-1/4" || m.Word == "only:pairs" || strings.HasPrefix(m.Word, "answer:")
		if free == NeedsChords(m.Word) {
			t.Errorf("%s: %v", m.Word, err)
		}
	}
}

// Two tones that are one over the next chord are no longer slurred there: the blue third that is
// hammered to the third of E7 is the same C over Am7.
func TestEachChordFitsSlurs(t *testing.T) {
	l := lick.New()
	l.Chords = []lick.Chord{{Len: lick.NewTime(1, 1), Name: "E7"},
		{At: lick.NewTime(1, 1), Len: lick.NewTime(1, 1), Name: "Am7"}}
	l.Notes = []lick.Note{{Len: lick.NewTime(1, 4), String: 3, Fret: 12},
		{At: lick.NewTime(1, 4), Len: lick.NewTime(1, 4), String: 3, Fret: 13, Slur: lick.Hammer}}
	got, err := EachChord(neck.Standard(), l, Manner{How: SameDegrees})
	if err != nil || len(got.Notes) != 4 {
		t.Fatalf("%v %+v", err, got.Notes)
	}
	if got.Notes[1].Slur != lick.Hammer || got.Notes[3].Slur != "" || got.Pitch(2) != got.Pitch(3) {
		t.Errorf("%+v", got.Notes)
	}
}
