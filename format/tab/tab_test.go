package tab

import (
	"bytes"
	"strings"
	"testing"

	"ornamen/core/lick"
	"ornamen/format/read"
)

func TestHeldRestsAndPickUps(t *testing.T) {
	l, err := lick.Parse([]byte(`{"format":"ornamen-lick","version":1,"pickup":"1/8","loop":true,"tempo":88.5,"notes":[
		{"at":"1/8","len":"1/2","string":6,"fret":0,"finger":0,"stroke":"p"},{"at":"1/8","len":"1/8","string":1,
		"fret":12,"finger":"T","stroke":"a"},
		{"at":"3/8","len":"1/12","string":2,"fret":10,"mute":true},{"at":"3/4","len":"1/16","string":2,"fret":12,
		"bend":{"semitones":0.5,"shape":"prebend-release"},"accent":true}]}`))
	if err != nil {
		t.Fatal(err)
	}
	r, err := Decode(Encode(l), read.Request{})
	back := r.Lick
	if err != nil {
		t.Fatalf("%v\n%s", err, Encode(l))
	}
	if !bytes.Equal(l.Encode(), back.Encode()) {
		t.Errorf("%s\ncame back as\n%s", l.Encode(), back.Encode())
	}
}

// Plain tablature as players write it by hand: no lengths, so all are eighths.
func TestForeignTab(t *testing.T) {
	r, err := Decode([]byte(`
some words about the lick: hello

e|-------------------5--|
B|-------------5-8b10---|
G|-------5h7~-----------|
D|--5/7-----------------|
A|----------------------|
E|----------------------|
`), read.Request{})
	l := r.Lick
	if err != nil {
		t.Fatal(err)
	}
	var got []string
	for _, n := range l.Notes {
		s := n.Place().Notation() + string(n.Slur)
		if n.Bend != nil {
			s += "^"
		}
		if n.Vibrato != nil {
			s += "~"
		}
		got = append(got, s)
	}
	if want := "4:5 4:7slide 3:5 3:7hammer~ 2:5 2:8^ 1:5"; strings.Join(got, " ") != want {
		t.Errorf("%s, want %s", strings.Join(got, " "), want)
	}
	if at := l.Notes[6].At.String(); at != "3/4" {
		t.Errorf("the last note comes at %s", at)
	}
}

func TestTabRefusals(t *testing.T) {
	system := func(first string) string {
		blank := "|" + strings.Repeat("-", len(first)-2) + "\n"
		return first + "\nB" + blank + "G" + blank + "D" + blank + "A" + blank + "E" + blank
	}
	for _, c := range []struct{ tab, says string }{
		{"", "no tab here"},
		{"just words", "no tab here"},
		{system("E|-99---"), "fret 99"},
		{system("E|-12345-"), "fret 123"},
		{strings.Repeat("E|-5-\n", 9), "9 string lines"},
		{system("E|-5--") + "\nG|-5-|\nD|---|\nA|---|\nE|---|\n", "4 string lines"},
	} {
		_, err := Decode([]byte(c.tab), read.Request{})
		if err == nil || !strings.Contains(err.Error(), c.says) || strings.Contains(err.Error(), "\n") {
			t.Errorf("%q: %v, want %q", c.tab, err, c.says)
		}
	}
}

func FuzzDecode(f *testing.F) {
	f.Add([]byte("e|--5h7--|\nB|-------|\nG|-------|\nD|-------|\nA|-------|\nE|-------|\n"))
	f.Add(
		[]byte(
			"Tuning: E4 B3 G3 D3 A2 E2\n  count  1\n     E|5b7r5~~>|\n     B|--------|\n     G|--------|\n     " +
				"D|--------|\n     A|--------|\n     E|--------|\nfinger  3\nstroke  D\nlength  1/8@1/4\n",
		),
	)
	f.Fuzz(func(t *testing.T, data []byte) {
		r, err := Decode(data, read.Request{})
		if err != nil {
			return
		}
		if err := r.Lick.Validate(); err != nil {
			t.Fatal(err)
		}
	})
}

// A page of our own that was changed by hand is refused where it no longer fits.
func TestOwnPageRefusals(t *testing.T) {
	own := "E|-5--|\nB|----|\nG|----|\nD|----|\nA|----|\nE|----|\nlength 1/8\n"
	for _, c := range []struct{ tab, says string }{
		{"Tuning: E4 B3\n" + own, "the tuning names 2"},
		{"Tuning: E4 B3 G3 D3 A2\n" + own, "the tuning has 5"},
		{"Tempo: quick\n" + own, "line 1"},
		{"Meter: 5\n" + own, "not a meter"},
		{strings.Replace(own, "-5--", "-5b3", 1), "bend from fret 5 to 3"},
	} {
		if _, err := Decode([]byte(c.tab), read.Request{}); err == nil || !strings.Contains(err.Error(), c.says) {
			t.Errorf("%q: %v, want %q", c.tab, err, c.says)
		}
	}
}

// Some write a colon after the name of a string; the key and the title above stay what they are.
func TestColonTab(t *testing.T) {
	r, err := Decode([]byte(`Title: A: the weir
Key: A minor pentatonic
e:-5-8p5---------
B:-------8-5-----
G:-----------7-5-
D:---------------
A:---------------
E:---------------
`), read.Request{})
	if err != nil || len(r.Lick.Notes) != 7 || r.Lick.Title != "A: the weir" || r.Lick.Key.Tonic != "A" ||
		r.Lick.Notes[2].Slur != lick.Pull || r.Lick.Notes[5].Place().Notation() != "3:7" {
		t.Errorf("%v %s", err, r.Lick.Encode())
	}
}

// What stands behind the last bar line is no note, and is said.
func TestBehindTheBar(t *testing.T) {
	r, err := Decode([]byte(`e|----------------|  x4
B|--5h8p5----5----|
G|--------7--7----|  twice
D|----------------|
A|----------------|
E|----------------|
`), read.Request{})
	if err != nil || len(r.Lick.Notes) != 4*6 {
		t.Fatalf("%v %s", err, r.Lick.Encode())
	}
	all := strings.Join(r.Remarks, " ")
	for _, want := range []string{`written out, 4 times`, `line 3: "twice" is not read`} {
		if !strings.Contains(all, want) {
			t.Errorf("%q is not said: %s", want, all)
		}
	}
}

// Palm muting and ghost notes go through a mail: spans end where they end, and a note alone has its own.
func TestPalmsInAMail(t *testing.T) {
	l := lick.New()
	for k := range 16 {
		l.Notes = append(
			l.Notes,
			lick.Note{At: lick.NewTime(int64(k), 8), Len: lick.NewTime(1, 8), String: 6 - k/8, Fret: 3 + k%4,
				Palm: k < 5 || k == 7 || k > 12, Ghost: k == 3 || k == 10},
		)
	}
	text := Mail(l)
	r, err := Decode(text, read.Request{})
	if err != nil || len(r.Lick.Notes) != len(l.Notes) {
		t.Fatalf("%v\n%s", err, text)
	}
	for i, n := range r.Lick.Notes {
		if n.Palm != l.Notes[i].Palm || n.Ghost != l.Notes[i].Ghost {
			t.Errorf("note %d: palm %t, ghost %t\n%s", i+1, n.Palm, n.Ghost, text)
		}
	}
}
