package propose

import (
	"context"
	"testing"

	"ornamen/core/judge"
	"ornamen/core/lick"
	"ornamen/core/player"
	"ornamen/core/testline"
)

// A melody that names no string is laid where it is usually played (common practice: an octave
// of C major from C4 lies under one hand at the fifth fret), what names its place stays, and
// the pitches are those that came.
func TestLay(t *testing.T) {
	e := judge.NewEngine(player.Default())
	scale := testline.Build(t, 90, "2:1 3 5 6 8 10 12 13 3:5*1/4 7")
	laid, err := Lay(context.Background(), e, scale, []int{0, 1, 2, 3, 4, 5, 6, 7})
	if err != nil {
		t.Fatal(err)
	}
	if got, want := testline.Written(laid, nil), "3:5 7 2:5 6 8 1:5 7 8 3:5 7"; got != want {
		t.Errorf("%s, want %s", got, want)
	}
	for i, n := range laid.Notes {
		if laid.Pitch(i) != scale.Pitch(i) || n.Locked(lick.FieldString) {
			t.Errorf("note %d is %v, was %v; locked %v", i+1, laid.Pitch(i), scale.Pitch(i), n.Lock)
		}
	}
}

// BenchmarkLay lays a long melody.
func BenchmarkLay(b *testing.B) { layWild(b, 512) }

// BenchmarkLayAlong lays 3,000 notes.
func BenchmarkLayAlong(b *testing.B) { layWild(b, 3000) }

// layWild lays so many notes.
func layWild(b *testing.B, notes int) {
	e, l := judge.NewEngine(player.Default()), testline.Wild(notes)
	var all []int
	for i := range l.Notes {
		all = append(all, i)
	}
	for b.Loop() {
		if _, err := Lay(context.Background(), e, l, all); err != nil {
			b.Fatal(err)
		}
	}
}

// A long line is laid by positions: the octave that comes again and again lies under one hand, pitches stay, nothing
// that sounds together shares a string, and what names its place keeps it.
func TestLayAlong(t *testing.T) {
	e := judge.NewEngine(player.Default())
	octave := testline.Build(t, 90, "2:1 3 5 6 8 10 12 13")
	long := octave.Clone()
	long.Notes = nil
	var all []int
	for k := range 40 {
		for i, n := range octave.Notes {
			n.At = lick.NewTime(int64(8*k+i), 16)
			if k%10 == 9 && i == 7 { // with the third under it
				low := n
				low.String, low.Fret = 3, 14
				all = append(all, len(long.Notes))
				long.Notes = append(long.Notes, low)
			}
			all = append(all, len(long.Notes))
			long.Notes = append(long.Notes, n)
		}
	}
	laid, err := Lay(context.Background(), e, long, all[1:])
	if err != nil {
		t.Fatal(err)
	}
	if laid.Notes[0].Place() != long.Notes[0].Place() {
		t.Errorf("the note that named its place lies on %v", laid.Notes[0].Place())
	}
	moves := 0
	for i := range laid.Notes {
		if laid.Pitch(i) != long.Pitch(i) {
			t.Fatalf("note %d sounds otherwise", i+1)
		}
		if f := laid.Notes[i].Fret; i > 8 && (f < 4 || f > 10) {
			moves++
		}
	}
	if moves > 0 {
		t.Errorf("%d notes lie outside of one hand's frets: %s", moves, testline.Written(laid, nil))
	}
}

// Notes that are held into others, as a pianist holds them, end where their string sounds the next one; grips of a file
// without strings are laid at once.
func TestLayHeldNotes(t *testing.T) {
	e := judge.NewEngine(player.Default())
	l := testline.Build(t, 90, "3:5 7 2:5 6 8 1:5 7 8 3:5 7")
	for i := range l.Notes {
		l.Notes[i].Len = lick.NewTime(1, 2)
	}
	all := []int{0, 1, 2, 3, 4, 5, 6, 7, 8, 9}
	if laid, err := Lay(context.Background(), e, l, all); err != nil || laid.Pitch(3) != l.Pitch(3) {
		t.Errorf("held notes: %v", err)
	}
	for i := range l.Notes { // two grips of five
		l.Notes[i].At = lick.NewTime(int64(i/5), 4)
		l.Notes[i].String, l.Notes[i].Fret = 5-i%5, []int{3, 2, 0, 1, 0}[i%5]
	}
	if laid, err := Lay(context.Background(), e, l, all); err != nil || len(laid.Columns()) != 2 {
		t.Errorf("grips: %v", err)
	}
}
