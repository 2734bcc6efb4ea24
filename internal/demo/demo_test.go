package demo

import (
	"bytes"
	"slices"
	"strings"
	"testing"

	"ornamen/core/judge"
	"ornamen/core/key"
	"ornamen/core/lick"
	"ornamen/core/neck"
	"ornamen/core/player"
	"ornamen/core/propose"
	"ornamen/core/run"
	"ornamen/format/read"
	"ornamen/format/tab"
)

// The notebook shows each verdict, a lick that breaks with the lick that mends
// it, and a loop whose turn breaks.
func TestLicks(t *testing.T) {
	licks, err := Licks()
	if err != nil {
		t.Fatal(err)
	}
	engine := judge.NewEngine(player.Default())
	verdicts := map[judge.Severity][]string{}
	for _, l := range licks {
		r, err := engine.Check(t.Context(), l)
		if err != nil {
			t.Fatal(err)
		}
		verdicts[r.Verdict] = append(verdicts[r.Verdict], l.Title)
	}
	if got := strings.Join(verdicts[judge.Breaks], ", "); got != "Mill wheel, Lantern turnaround" {
		t.Errorf("these break: %s", got)
	}
	if len(verdicts[judge.Flows]) < 3 || len(verdicts[judge.Tight]) < 2 {
		t.Errorf("%v", verdicts)
	}
}

// Every demo lick comes back from text tab as it was.
func TestDemoComesBack(t *testing.T) {
	licks, err := Licks()
	if err != nil {
		t.Fatal(err)
	}
	for _, l := range licks {
		text := tab.Encode(l)
		r, err := tab.Decode(text, read.Request{})
		back := r.Lick
		if err != nil {
			t.Errorf("%s: %v\n%s", l.Title, err, text)
			continue
		}
		if !bytes.Equal(l.Encode(), back.Encode()) {
			t.Errorf("%s:\n%s\ncame back as\n%s\nwant\n%s", l.Title, text, back.Encode(), l.Encode())
		}
		if again := tab.Encode(back); !bytes.Equal(text, again) {
			t.Errorf("%s is written differently the second time:\n%s\n%s", l.Title, text, again)
		}
	}
}

// The turn of the loop breaks, and its first fix mends it.
func TestLoopTurnBreaks(t *testing.T) {
	licks, err := Licks()
	if err != nil {
		t.Fatal(err)
	}
	engine := judge.NewEngine(player.Default())
	wheel := licks[slices.IndexFunc(licks, func(l lick.Lick) bool { return l.Title == "Mill wheel" })]
	r, err := engine.Check(t.Context(), wheel)
	if err != nil {
		t.Fatal(err)
	}
	if err := engine.Mend(t.Context(), wheel, r); err != nil {
		t.Fatal(err)
	}
	f := r.Findings[0]
	if f.Code != "loop-turn" || f.Severity != judge.Breaks || len(f.Fixes) == 0 {
		t.Fatalf("the first finding is %+v", f)
	}
	if got, err := engine.Check(t.Context(), f.Fixes[0].Edit.Lick); err != nil || got.Verdict == judge.Breaks {
		t.Errorf("mended by %q it still breaks", f.Fixes[0].Text)
	}
}

// The joined line keeps the recipes of its parts, and each gives its notes back.
func TestJoinedLine(t *testing.T) {
	licks, err := Licks()
	if err != nil {
		t.Fatal(err)
	}
	l := licks[slices.IndexFunc(licks, func(l lick.Lick) bool { return len(l.Parts) > 0 })]
	if len(l.Parts) != 3 || l.Parts[2].To != len(l.Notes) {
		t.Fatalf("parts %v of %d notes", l.Parts, len(l.Notes))
	}
	for _, p := range l.Parts {
		r, err := run.Parse(p.Recipe)
		if err != nil {
			t.Fatal(err)
		}
		grown, err := run.Grow(r, neck.Standard())
		if err != nil {
			t.Fatal(err)
		}
		for i, n := range grown.Lick.Notes {
			if w := l.Notes[p.From+i]; n.Place() != w.Place() || n.Slur != w.Slur {
				t.Errorf("%s: note %d is %v, in the line %v", p.Recipe, i+1, n.Place(), w.Place())
			}
		}
	}
}

// Every recipe grows, and its line has a way to be played.
func TestRecipes(t *testing.T) {
	engine := judge.NewEngine(player.Default())
	for _, r := range Recipes {
		known, err := run.Parse(r.Line)
		if err != nil {
			t.Errorf("%s: %v", r.Name, err)
			continue
		}
		grown, err := run.Grow(known, neck.Standard())
		if err != nil {
			t.Errorf("%s: %v", r.Name, err)
			continue
		}
		if w, err := propose.Ways(t.Context(), engine, grown.Lick); err != nil || len(w) == 0 ||
			w[0].Report.Verdict == judge.Breaks {
			t.Errorf("%s breaks every way it is played, clean up to %v", r.Name, w[0].Ceiling)
		}
	}
}

// The keys of the demo's licks are guessed from their notes: the root of most, and never called clear where it is
// another.
func TestKeysAreGuessed(t *testing.T) {
	all, err := Licks()
	if err != nil {
		t.Fatal(err)
	}
	right, asked := 0, 0
	for _, l := range all {
		g, ok := key.Of(l)
		if !ok || l.Key.Tonic == "" {
			continue
		}
		asked++
		p, _ := l.Palette()
		if g.Tonic.Class() == p.Tonic.Class() {
			right++
			continue
		}
		t.Logf("%s: %s %s is guessed as %s %s (%s, or %s)", l.Title, l.Key.Tonic, l.Key.Scale, g.Tonic, g.Scale, g.Sure,
			g.Other)
		if g.Sure == key.Clear {
			t.Errorf("%s is called clear", l.Title)
		}
	}
	if asked < 12 || 10*right < 8*asked {
		t.Errorf("%d of %d roots are right", right, asked)
	}
}

// A lick that goes out as tablature for a mail is read again with its places, its times and its chords, from the
// spacing alone.
func TestMailsComeBack(t *testing.T) {
	all, err := Licks()
	if err != nil {
		t.Fatal(err)
	}
	for _, l := range all {
		r, err := tab.Decode(tab.Mail(l), read.Request{})
		if err != nil {
			t.Errorf("%s: %v\n%s", l.Title, err, tab.Mail(l))
			continue
		}
		back := r.Lick
		same := len(back.Notes) == len(l.Notes) && back.Title == l.Title && back.Tempo == l.Tempo && back.Meter == l.Meter &&
			len(back.Chords) == len(l.Chords) &&
			back.Pickup.Cmp(l.Pickup) == 0
		for i := 0; same && i < len(l.Notes); i++ {
			a, b := l.Notes[i], back.Notes[i]
			same = a.Place() == b.Place() && a.At.Cmp(b.At) == 0 && (a.Bend == nil) == (b.Bend == nil) &&
				(a.Vibrato == nil) == (b.Vibrato == nil) && (a.Slur == b.Slur || a.Slur == lick.Shift)
		}
		for i := 0; same && i < len(l.Chords); i++ {
			same = l.Chords[i].At.Cmp(back.Chords[i].At) == 0 && l.Chords[i].Name == back.Chords[i].Name
		}
		if !same {
			t.Errorf("%s:\n%sis read as\n%s\n%s", l.Title, tab.Mail(l), tab.Mail(back), strings.Join(r.Remarks, "\n"))
		}
	}
}
