package practice

import (
	"context"
	"math"
	"strings"
	"testing"

	"ornamen/core/judge"
	"ornamen/core/lick"
	"ornamen/core/player"
	"ornamen/core/testline"
	"ornamen/core/turn"
)

// A part is offered backwards where the way back has a lower ceiling, which is that of the
// turned line by itself; never where it holds a slur or two notes together, nor where back is as
// easy as forth.
func TestBackwards(t *testing.T) {
	e, ctx := judge.NewEngine(player.Default()), context.Background()
	paid := 0
	for _, c := range []struct {
		line  string
		never bool
	}{
		{"6:5 7 8 5:5 7 8 4:5 7 9 3:5 7 9 2:6 8 10 1:6 8 10", false},
		{"6:8 10 11 5:8 6:10 11 5:8 10 6:11 5:8 10 11 5:8 10 11 4:8", false},
		{"6:12 11 9 5:9 9 6:12 11 5:11 11 9 6:12 5:12 12 11 9 4:9", false},
		{"3:5 7 5 7 5 7 5 7", true}, // the same both ways
		{"6:5 7/h 8/h 5:5 7/h 8/h 4:5 7/h 9/h", true},
	} {
		l := testline.Build(t, 120, c.line)
		r, err := e.Check(ctx, l)
		if err != nil {
			t.Fatal(err)
		}
		parts, err := PartsBothWays(ctx, e, l, r)
		if err != nil {
			t.Fatal(err)
		}
		if whole := parts[len(parts)-1]; whole.Name != "" || whole.Backwards {
			t.Errorf("%s: the last part is %+v", c.line, whole)
		}
		for i, p := range parts {
			if !p.Backwards {
				continue
			}
			paid++
			forth := Part{From: p.From, To: p.To}
			for k, o := range parts {
				if !o.Backwards && o.From == p.From && o.To == p.To && (k == i-1 || k == i+1) {
					forth = o
				}
			}
			alone := Line(e.Player.Guitar, l, Part{From: p.From, To: p.To})
			turned, err := turn.Turn(e.Player.Guitar, alone, "backwards", 0, 0)
			if err != nil {
				t.Fatal(err)
			}
			back, err := e.Check(ctx, turned)
			if err != nil {
				t.Fatal(err)
			}
			if c.never || p.Ceiling >= forth.Ceiling || math.Abs(float64(back.Ceiling)-p.Ceiling) > 1e-6 {
				t.Errorf("%s: %+v; the turned line is clean up to %v, forth up to %g", c.line, p, back.Ceiling,
					forth.Ceiling)
			}
		}
	}
	if paid == 0 {
		t.Error("no line pays backwards")
	}
	// Backwards twice is the line.
	l := testline.Build(t, 120, "6:5 7 8 5:5 7 8")
	p := Part{From: 2, To: 6, Backwards: true}
	back := Line(e.Player.Guitar, l, p)
	again := Line(e.Player.Guitar, back, Part{From: 1, To: 5, Backwards: true})
	for i, n := range again.Notes {
		if n.Place() != l.Notes[i+1].Place() || n.At.Cmp(lick.NewTime(int64(i), 8)) != 0 &&
			n.At.Cmp(lick.NewTime(int64(i), 16)) != 0 {
			t.Errorf("note %d: %+v", i+1, n)
		}
	}
}

// The tones of a line offer bends beside its own: a full step from the 4 of A minor pentatonic
// to the 5 and from the ♭7 to the root (common practice) are among what a box's upper tones give,
// never one that is written, and none without tones.
func TestTargets(t *testing.T) {
	e := judge.NewEngine(player.Default())
	l := testline.Build(t, 100, "3:5 3:7 2:5 2:8 1:5 1:8")
	whole := Part{From: 1, To: len(l.Notes)}
	if got := Targets(e, l, whole); got != nil {
		t.Errorf("without tones: %+v", got)
	}
	l.Key = lick.Key{Tonic: "A", Scale: "minor pentatonic"}
	full := func() (out []string) {
		for _, b := range Targets(e, l, whole) {
			if b.Semitones == 2 {
				out = append(out, b.From.Notation()+" to "+b.To.Degree.String())
			}
		}
		return out
	}
	first := full()
	if len(first) != 1 || first[0] != "3:7 to 5" && first[0] != "2:8 to 1" {
		t.Fatalf("%v", first)
	}
	for i, n := range l.Notes {
		if strings.HasPrefix(first[0], n.Place().Notation()+" ") {
			l.Notes[i].Bend = &lick.Bend{Semitones: 2, Shape: lick.BendUp}
		}
	}
	if again := full(); len(again) == 1 && again[0] == first[0] {
		t.Errorf("%v is written already", again)
	}
}
