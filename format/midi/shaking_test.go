package midi

import (
	"bytes"
	"fmt"
	"testing"

	"ornamen/core/lick"
	"ornamen/core/neck"
	"ornamen/format/read"
)

// A bend that shakes comes back as both: to the letter in a file of ours, and from the wheel alone where it has the
// time to be seen.
func TestShakingBends(t *testing.T) {
	written := func(n lick.Note) string {
		s := "-"
		if n.Bend != nil {
			s = fmt.Sprint(n.Bend.Semitones, n.Bend.Shape)
		}
		if n.Vibrato != nil {
			s += fmt.Sprint(" ", n.Vibrato.Width, n.Vibrato.Speed)
		}
		return s
	}
	tried, slower := 0, 0
	for _, semitones := range []float64{0, 0.5, 1, 2, 3, 4} {
		for _, how := range []lick.BendShape{lick.ShapeOf(false, false), lick.ShapeOf(false, true), lick.ShapeOf(true, false),
			lick.ShapeOf(true, true)} {
			for _, v := range []*lick.Vibrato{nil, {Width: lick.Narrow, Speed: lick.Slow},
				{Width: lick.Narrow, Speed: lick.Fast},
				{Width: lick.Wide, Speed: lick.Slow}, {Width: lick.Wide, Speed: lick.Fast}} {
				for _, length := range []lick.Time{lick.NewTime(1, 8), lick.NewTime(1, 2), lick.NewTime(1, 1)} {
					l := lick.New()
					l.Tempo, l.Tuning = 80, neck.Standard().Tuning
					n := lick.Note{Len: length, String: 3, Fret: 7, Vibrato: v}
					if semitones > 0 {
						n.Bend = &lick.Bend{Semitones: semitones, Shape: how}
					}
					l.Notes = []lick.Note{n}
					file := Encode(l)
					r, err := Decode(file, read.Request{})
					if err != nil || written(r.Lick.Notes[0]) != written(n) {
						t.Fatalf("%s of %s comes back as %s (%v)", written(n), length, written(r.Lick.Notes[0]), err)
					}
					if semitones == 0.5 || length.Before(lick.NewTime(1, 2)) {
						continue // a curl, and a note of three tenths of a second, are not told apart by the wheel
					}
					r, err = Decode(bytes.ReplaceAll(file, []byte("Ornamen shape"), []byte("Another shape")),
						read.Request{})
					if err != nil {
						t.Fatal(err)
					}
					back := r.Lick.Notes[0]
					tried++
					if back.Vibrato != nil && v != nil && *back.Vibrato != *v {
						slower++
						back.Vibrato = v
					}
					if written(back) != written(n) {
						t.Errorf("%s of %s is read from the wheel as %s", written(n), length, written(back))
					}
				}
			}
		}
	}
	if tried < 150 || slower > tried/20 {
		t.Errorf("of %d vibratos %d are taken for others", tried, slower)
	}
}
