package judge

import (
	"math"
	"strings"
	"testing"

	"ornamen/core/lick"
	"ornamen/core/player"
	"ornamen/core/testline"
)

// triedFor is everything that is tried for any finding of a line.
func triedFor(l lick.Lick) (out []candidate) {
	r := check(usual, l)
	for _, f := range r.Findings {
		out = append(out, candidates(l, r, f, usual.Guitar(l))...)
	}
	return out
}

// A figure of one fret over two strings may be barred: both notes take one finger
// that lies flat.
func TestBarFix(t *testing.T) {
	l := testline.Build(t, 260, "2:5/f1 1:5/f1 2:5 1:5")
	for _, c := range triedFor(l) {
		if !strings.HasPrefix(c.text, "Lay a barre at fret 5") {
			continue
		}
		got := l
		var err error
		for _, e := range c.edits(func(i int) int { return i }) {
			if got, err = e.Apply(got); err != nil {
				t.Fatal(err)
			}
		}
		bars := 0
		for _, n := range got.Notes {
			if n.Barre {
				bars++
			}
		}
		if bars != 2 {
			t.Errorf("%d notes are barred", bars)
		}
		return
	}
	t.Errorf("no bar is tried")
}

// A stretch low on the neck is offered where the frets are narrower: the same
// pitches one string over (common practice: move the figure up the neck).
func TestFigureElsewhere(t *testing.T) {
	l := testline.Build(t, 60, "2:1/f1 3/f2/h 5/f4/h 1/f1/p")
	written := string(l.Encode())
	edit := nextStrings{usual.Guitar(l), 1}
	got, err := edit.Apply(l)
	if err != nil {
		t.Fatal(err)
	}
	for i, n := range got.Notes {
		if got.Pitch(i) != l.Pitch(i) || n.String != 3 || n.Slur != l.Notes[i].Slur || n.Locked(lick.FieldFinger) {
			t.Errorf("note %d: %+v", i+1, n)
		}
	}
	before, after := check(usual, l), check(usual, got)
	if before.Verdict == Flows || after.Verdict != Flows {
		t.Errorf("%s at the first fret, %s at the fifth", before.Verdict, after.Verdict)
	}
	if _, err := (nextStrings{usual.Guitar(l), -1}).Apply(l); err == nil {
		t.Error("the figure is moved below the nut")
	}
	if _, err := (nextStrings{usual.Guitar(l), 1}).Apply(testline.Build(t, 60, "6:5 7")); err == nil {
		t.Error("the figure is moved beyond the last string")
	}
	if written != string(l.Encode()) || edit.What() == "" {
		t.Error("the edit changes what it was made on, or says nothing")
	}
}

// Every fix that is offered was tried: it carries the mended lick, whose ceiling is
// the one it names, and the finding's break is gone or the ceiling is higher.
func TestOfferedFixesHold(t *testing.T) {
	for _, text := range []string{"3:11/f3 1:9 2:12 9/p 2:9/f1 1:12/f1 14/h", "2:1/f1 3/f2/h 5/f4/h 1/f1/p",
		"5:5 7 4:5 7 3:5/D 7/D 5/D", "3:7/f1/b2*1/4 2:5", "2:5/f1 1:8/f1 2:5/f1 1:8/f1"} {
		l := testline.Build(t, 140, text)
		r := check(usual, l)
		mend(usual, l, r)
		for _, f := range r.Findings {
			for k, x := range f.Fixes {
				after := check(usual, x.Edit.Lick)
				if math.Abs(float64(after.Ceiling-x.Ceiling)) > 1e-9*float64(x.Ceiling) {
					t.Errorf("%s, %q: says %v, checked %v", text, x.Text, x.Ceiling, after.Ceiling)
				}
				if !(after.Ceiling > r.Ceiling) && !(after.Breaking() < r.Breaking()) {
					t.Errorf("%s, %q helps nothing: %v before, %v after", text, x.Text, r.Ceiling, after.Ceiling)
				}
				if k > 0 && x.scope == f.Fixes[k-1].scope && x.Ceiling > f.Fixes[k-1].Ceiling {
					t.Errorf("%s: the fixes are not in order", text)
				}
			}
		}
	}
}

// Of a line where everything breaks the worst findings get fixes, and it is said that
// the others did not.
func TestFixesAreLimited(t *testing.T) {
	l := testline.Wild(128)
	r := check(usual, l)
	mend(usual, l, r)
	if !strings.HasPrefix(r.LeftOut, "Fixes were tried for 10 of ") {
		t.Errorf("%q", r.LeftOut)
	}
	offered := map[string]bool{}
	mended := 0
	for _, f := range r.Findings {
		if len(f.Fixes) > 0 {
			mended++
		}
		for _, x := range f.Fixes {
			if offered[x.ID] {
				t.Errorf("%q is offered twice", x.Text)
			}
			offered[x.ID] = true
		}
	}
	if mended > mendedFindings {
		t.Errorf("%d findings have fixes", mended)
	}
}

// What is found again and again is one group, with its worst first and all its notes.
func TestGrouped(t *testing.T) {
	l := testline.Build(t, 146, "6:9 11 12 5:9 11 12 4:9 11 13 3:9 11 13 2:10 12 14 1:11 12 14")
	r := check(usual, l)
	mend(usual, l, r)
	groups := Grouped(r.Findings)
	if len(r.Findings) < 12 || len(groups) > 5 {
		t.Fatalf("%d findings in %d groups", len(r.Findings), len(groups))
	}
	seen, notes := map[lick.Code]bool{}, 0
	for _, g := range groups {
		notes += 1 + len(g.Others)
		if seen[g.Code] {
			t.Errorf("%s stands in two groups", g.Code)
		}
		seen[g.Code] = true
		for _, f := range g.Others {
			if f.Code != g.Code || f.Severity > g.Severity {
				t.Errorf("%s %s lies under %s %s", f.Code, f.Severity, g.Code, g.Severity)
			}
		}
	}
	if notes != len(r.Findings) {
		t.Errorf("%d of %d findings are in a group", notes, len(r.Findings))
	}
	offered := map[string]bool{}
	for _, g := range groups {
		for _, x := range g.Fixes {
			if offered[x.Text] {
				t.Errorf("%q is offered twice", x.Text)
			}
			offered[x.Text] = true
		}
	}
}

// A hand that is too small for a figure gets the same figure further up, where the frets
// lie closer, with the key it then is in.
func TestSmallHandGoesUp(t *testing.T) {
	small := player.DefaultProfile()
	small.Size = "small"
	who, err := small.Player()
	if err != nil {
		t.Fatal(err)
	}
	e := NewEngine(who)
	l := testline.InKey(testline.Build(t, 60, "6:1/f1+5:5/f4 6:3/f1+5:7/f4"), "A", "natural minor")
	l.Chords = []lick.Chord{{Len: lick.NewTime(1, 1), Name: "Am7/E"}}
	r := check(e, l)
	mend(e, l, r)
	for _, f := range r.Findings {
		for _, x := range f.Fixes {
			if x.Text != "Five frets up, in D natural minor" {
				continue
			}
			got := x.Edit.Lick
			if after := check(e, got); after.Verdict == Breaks || math.Abs(float64(after.Ceiling-x.Ceiling)) > 1e-9 {
				t.Errorf("%s, %v, was to be %v", after.Verdict, after.Ceiling, x.Ceiling)
			}
			if got.Key.Tonic != "D" || got.Chords[0].Name != "Dm7/A" || got.Notes[0].Fret != 6 {
				t.Errorf("%+v %+v", got.Key, got.Chords)
			}
			return
		}
	}
	t.Errorf("no way out: %v", codes(r))
}

// A fix names every finger that it changes.
func TestFixSaysAllThatChanges(t *testing.T) {
	tried := 0
	for _, line := range []string{"2:9/f1 1:12/f1 14 12 2:12 9", "3:9/f1 2:9/f2 1:12 10 2:12 10",
		"1:7 5/h 8 5/h 2:8 5"} {
		l := testline.Build(t, 200, line)
		r := check(usual, l)
		mend(usual, l, r)
		for _, f := range r.Findings {
			for _, x := range f.Fixes {
				if x.scope != around {
					continue
				}
				tried++
				own, err := x.Small().Apply(r.Lick.Clone())
				if err != nil {
					t.Fatal(err)
				}
				others := 0
				for i, n := range x.Edit.Lick.Notes {
					if own.Notes[i].Finger != lick.NoFinger && n.Finger != own.Notes[i].Finger {
						others++
					}
				}
				if (others > 0) != strings.Contains(x.Text, ", with ") {
					t.Errorf("%s, %q changes %d other fingers", line, x.Text, others)
				}
			}
		}
	}
	if tried < 4 {
		t.Errorf("only %d fixes were looked at", tried)
	}
}

// Where the index hops one fret over to the next string it is said, without a verdict, and
// another finger is offered (common practice).
func TestIndexHop(t *testing.T) {
	l := testline.Build(t, 60, "2:9/f1*1/8 3:8/f1*1/8 3:9*1/8 2:9*1/8")
	r := check(usual, l)
	mend(usual, l, r)
	for _, f := range r.Findings {
		if f.Title != "the index hops" {
			continue
		}
		if f.Severity != Flows || r.Verdict != Flows {
			t.Errorf("%s, the line %s", f.Severity, r.Verdict)
		}
		if len(f.Fixes) == 0 {
			t.Fatal("nothing is offered for it")
		}
		for _, g := range check(usual, f.Fixes[0].Edit.Lick).Findings {
			if g.Title == f.Title {
				t.Errorf("%s leaves the hop", f.Fixes[0].Text)
			}
		}
		return
	}
	t.Errorf("no word about it: %v", codes(r))
}
