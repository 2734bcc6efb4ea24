package changes

import (
	"fmt"
	"strings"
	"testing"

	"ornamen/core/lick"
	"ornamen/core/music"
	"ornamen/core/neck"
	"ornamen/core/testline"
)

// over is a line of eighths over changes in a key.
func over(t testing.TB, key, chords, line string) lick.Lick {
	t.Helper()
	l := testline.Build(t, 90, line)
	l.Key.Tonic, l.Key.Scale, _ = strings.Cut(key, " ")
	cs, err := Parse(chords, l.Meter, l.Pickup, l.Key)
	if err != nil {
		t.Fatal(err)
	}
	l.Chords = cs
	return l
}

// landed writes the landings of a line in words.
func landed(l lick.Lick) string {
	r := Read(l)
	var out []string
	for _, x := range r.Landings {
		word := fmt.Sprintf("%s %s", r.Chords[x.Chord].Name, x.Word)
		if !x.OffBy.IsZero() {
			word += " " + x.OffBy.String()
		}
		for _, i := range x.Notes {
			d, _ := Of(r.Chords[x.Chord].Chord, nil, Sounding(l, i))
			word += " " + d.String()
		}
		out = append(out, word)
	}
	return strings.Join(out, "; ")
}

// Landings as players name them (common practice), each line worked out by hand.
func TestLandings(t *testing.T) {
	for _, c := range []struct{ name, chords, line, want string }{
		// 3:14 is A, 1:12 is E: the root and the fifth of A7.
		{
			name:   "a pair a beat early",
			chords: "E7 | A7",
			line:   "2:12*1/2 12*1/4 3:14*1/4+1:12*1/4",
			want:   "A7 early -1/4 1 5",
		},
		{name: "a pair on time", chords: "E7 | A7", line: "2:12*1/2 12*1/2 3:14*1/4+1:12*1/4", want: "A7 on time 1 5"},
		{
			name:   "its third half a beat late",
			chords: "E7 | A7",
			line:   "2:12*1/2 12*1/2 3:11*1/8 2:14*1/8",
			want:   "A7 late 1/8 3",
		},
		{name: "a tone of both is held over", chords: "E7 | A7", line: "2:12*1/2 2:5*1/1", want: "A7 on time 5"},
		{name: "pushed and held", chords: "E7 | A7", line: "2:12*1/2 12*3/8 14*1/2", want: "A7 pushed -1/8 3"},
		{
			name:   "nothing that tells the chord",
			chords: "E7 | A7",
			line:   "2:12*1/2 12*1/2 2:12*1/4 12*1/4",
			want:   "A7 missed",
		},
		{name: "a rest at the change", chords: "E7 | A7", line: "2:12*1/2", want: "A7 rest"},
		{
			name:   "a chord written twice is one",
			chords: "E7 | E7 | A7",
			line:   "2:12*1/1 12*1/1 14*1/4",
			want:   "A7 on time 3",
		},
	} {
		if got := landed(over(t, "A mixolydian", c.chords, c.line)); got != c.want {
			t.Errorf("%s: %s, want %s", c.name, got, c.want)
		}
	}
}

// What tones are over chords, as handbooks of harmony have it (common practice).
func TestRoles(t *testing.T) {
	for _, c := range []struct{ key, chord, tone, want string }{
		{
			key:   "A minor pentatonic",
			chord: "A7",
			tone:  "A",
			want:  "1 root",
		}, {key: "A minor pentatonic", chord: "A7", tone: "C", want: "b3 colour"},
		{
			key:   "A minor pentatonic",
			chord: "A7",
			tone:  "G",
			want:  "b7 seventh",
		}, {key: "A minor pentatonic", chord: "A7", tone: "D", want: "4 colour"},
		{
			key:   "C major",
			chord: "Cmaj7",
			tone:  "F",
			want:  "4 clash",
		}, {key: "C major", chord: "Cmaj7", tone: "D", want: "9 colour"}, {
			key:   "C major",
			chord: "Cmaj7",
			tone:  "A",
			want:  "6 colour",
		},
		{
			key:   "C major",
			chord: "Fmaj7",
			tone:  "B",
			want:  "b5 colour",
		}, {key: "C major", chord: "G7", tone: "C", want: "4 clash"},
		{
			key:   "A natural minor",
			chord: "Bb",
			tone:  "B",
			want:  "b2 clash",
		}, {key: "A harmonic minor", chord: "E7", tone: "F", want: "b2 tension"},
		{
			key:   "A natural minor",
			chord: "Am7",
			tone:  "F",
			want:  "b6 clash",
		}, {key: "A natural minor", chord: "Am7", tone: "F#", want: "6 outside"},
		{
			key:   "A natural minor",
			chord: "Dm6",
			tone:  "B",
			want:  "6 colour",
		}, {key: "C major", chord: "Gsus4", tone: "C", want: "4 colour"},
		// The seventh tells the chord over a plain triad too; the 9 and the 13 are colours everywhere.
		{
			key:   "C major",
			chord: "G",
			tone:  "F",
			want:  "b7 seventh",
		}, {
			key:   "C major",
			chord: "C",
			tone:  "B",
			want:  "7 seventh",
		}, {key: "C major", chord: "Am", tone: "G", want: "b7 seventh"},
		{
			key:   "A harmonic minor",
			chord: "Am",
			tone:  "G#",
			want:  "7 seventh",
		}, {
			key:   "C major",
			chord: "G7",
			tone:  "A",
			want:  "9 colour",
		}, {key: "C major", chord: "G7", tone: "E", want: "6 colour"},
		{
			key:   "C major",
			chord: "Dm7",
			tone:  "B",
			want:  "6 colour",
		}, {
			key:   "C major",
			chord: "Dm7",
			tone:  "G",
			want:  "4 colour",
		}, {key: "C major", chord: "Em7", tone: "F", want: "b2 clash"},
		{
			key:   "C major",
			chord: "Em7",
			tone:  "C",
			want:  "b6 clash",
		}, {
			key:   "C major",
			chord: "Bm7b5",
			tone:  "G",
			want:  "b6 tension",
		}, {key: "A mixolydian", chord: "A7", tone: "D", want: "4 clash"},
		{
			key:   "A blues",
			chord: "D7",
			tone:  "G",
			want:  "4 clash",
		}, {
			key:   "A blues",
			chord: "A",
			tone:  "D",
			want:  "4 colour",
		}, {key: "A minor pentatonic", chord: "A", tone: "C", want: "b3 colour"},
	} {
		p, err := music.ParseKey(c.key, nil, nil)
		if err != nil {
			t.Fatal(err)
		}
		chord, err := music.ParseChord(c.chord)
		if err != nil {
			t.Fatal(err)
		}
		n, err := music.ParseName(c.tone)
		if err != nil {
			t.Fatal(err)
		}
		d, role := Of(chord, &p, music.Pitch(60+n.Class()))
		if got := d.String() + " " + string(role); got != c.want {
			t.Errorf("%s over %s in %s: %s, want %s", c.tone, c.chord, c.key, got, c.want)
		}
	}
}

// Changes are written and read back: degrees, repeats, pick-ups, points.
func TestParse(t *testing.T) {
	for _, c := range []struct{ text, want string }{
		{"C#m7 | F#7 . G#7 . | C#m7", "C#m7 | F#7 G#7 | C#m7"},
		{"1m7 | 47 | b6maj7 57", "C#m7 | F#7 | Amaj7 G#7"},
		{"|: 1m | 4 :| 5", "C#m | F# | C#m | F# | G#"}, {"1m :|x3", "C#m | C#m | C#m"},
		{"1m | % | 5 %", ""}, {"1m 4 . . | %", "C#m F# . . | C#m F# . ."},
		{"57 || 1m7 | 4", ""}, {"", ""}, {"1m | | 4", ""}, {"|: 1m", ""}, {"|: 1m |: 4 :| :|", ""}, {"9m", ""},
		{"1m :|x9 :|x9 :|x9", ""}, {"H7", ""}, {"% | 1m", ""},
	} {
		l := lick.New()
		l.Key = lick.Key{Tonic: "C#", Scale: "natural minor"}
		var err error
		l.Chords, err = Parse(c.text, l.Meter, l.Pickup, lick.Key{Tonic: "C#"})
		if c.want == "" {
			if err == nil && c.text != "1m | % | 5 %" || err != nil && strings.Contains(err.Error(), "\n") {
				t.Errorf("%q is read: %v", c.text, err)
			}
			continue
		}
		if got := Text(l); err != nil || got != c.want {
			t.Errorf("%q: %q %v, want %q", c.text, got, err, c.want)
		}
	}
	l := lick.New()
	l.Pickup = lick.NewTime(1, 4)
	cs, err := Parse("57 || 1m7 | 4", l.Meter, l.Pickup, lick.Key{Tonic: "A"})
	if err != nil || len(cs) != 3 || cs[0].Name != "E7" || cs[0].Len.Cmp(l.Pickup) != 0 || cs[1].At.Cmp(l.Pickup) != 0 {
		t.Errorf("over the pick-up: %v %v", cs, err)
	}
	l.Chords = cs
	if got := Text(l); got != "E7 || Am7 | D" {
		t.Errorf("written %q", got)
	}
}

// Every form of the stock can be read in every key, and comes back from its names.
func TestForms(t *testing.T) {
	bars := map[string]int{
		"twelve-bar blues":         12,
		"twelve-bar, quick change": 12,
		"minor blues":              12,
		"eight-bar blues":          8,
	}
	for _, f := range Forms() {
		for _, tonic := range []string{"C", "C#", "Db", "D", "Eb", "E", "F", "F#", "Gb", "G", "Ab", "A", "Bb", "B"} {
			cs, err := Parse(f.Text, lick.Meter{Beats: 4, Unit: 4}, lick.Time{}, lick.Key{Tonic: tonic})
			if err != nil {
				t.Errorf("%s in %s: %v", f.Name, tonic, err)
				continue
			}
			end := cs[len(cs)-1].At.Add(cs[len(cs)-1].Len)
			if n := bars[f.Name]; n > 0 && end.Cmp(lick.NewTime(int64(n), 1)) != 0 {
				t.Errorf("%s has %s bars", f.Name, end)
			}
			l := lick.New()
			l.Chords = cs
			back, err := Parse(Text(l), l.Meter, l.Pickup, lick.Key{Tonic: tonic})
			if err != nil || fmt.Sprint(back) != fmt.Sprint(cs) {
				t.Errorf("%s: %q comes back as %v, %v", f.Name, Text(l), back, err)
			}
		}
	}
	if _, ok := FormNamed("twelve-bar blues"); !ok {
		t.Error("no twelve-bar blues")
	}
}

// Every fix lands on time: the phrase starts later or earlier, gains or loses notes at its
// head, or its last notes move.
func TestMend(t *testing.T) {
	g := neck.Standard()
	for _, c := range []struct{ name, line, want string }{
		{"early by a beat", "2:9*1/4 10*1/4 12*1/8 10*1/8 3:14*1/4", "Start on beat 2 in bar 1; Add one note at " +
			"its head"},
		{"late by a beat", "2:9*1/4 10*1/4 12*1/4 10*1/4 12*1/4 14*1/4",
			"Drop the first note of the phrase; Note 5 to the 1 of A7, with note 4; " +
				"Note 4 from a half step below, to the 1 of A7 on note 5; Note 4 from a half step above, to the 1 of A7 on note 5"},
	} {
		l := over(t, "A mixolydian", "E7 | A7", c.line)
		r := Read(l)
		var got []string
		for _, f := range Mend(g, l, r, r.Landings[0]) {
			got = append(got, f.Text)
			if landing := Read(f.Lick).Landings[0]; landing.Word != OnTime {
				t.Errorf("%s: after “%s” it is %s", c.name, f.Text, landing.Word)
			}
		}
		if strings.Join(got, "; ") != c.want {
			t.Errorf("%s (%s): %s, want %s", c.name, landed(l), strings.Join(got, "; "), c.want)
		}
	}
}

// BenchmarkRead reads 64 notes over 32 bars of two chords each.
func BenchmarkRead(b *testing.B) {
	l := testline.Wild(64)
	for i := range l.Notes {
		l.Notes[i].At, l.Notes[i].Len = lick.NewTime(int64(i), 2), lick.NewTime(1, 2)
	}
	l.Key = lick.Key{Tonic: "A", Scale: "mixolydian"}
	cs, err := Parse("17 4m7 | 57 b7maj7 :|x9 17 | 4 :|", l.Meter, l.Pickup, lick.Key{Tonic: "A"})
	if err != nil {
		b.Fatal(err)
	}
	l.Chords = cs
	for b.Loop() {
		Read(l)
	}
}
