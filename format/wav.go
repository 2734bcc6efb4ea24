package format

import (
	"bytes"
	"context"
	"fmt"

	"ornamen/core/lick"
	"ornamen/core/neck"
	"ornamen/core/sound"
	"ornamen/format/sheet"
)

// mostSounding is for how many minutes the licks of a file may sound: the file is made whole in
// memory, five megabytes a minute.
const mostSounding = 30

// soundsShort refuses licks that would sound for longer than a file of sound has room for.
func soundsShort(licks []lick.Lick) error {
	seconds := 0.0
	for _, l := range licks {
		seconds += l.Milliseconds(lick.Time{}, l.End()) / 1000
	}
	if minutes := seconds / 60; minutes > mostSounding {
		return fmt.Errorf("that would sound for %.0f minutes; a file of sound holds at most %d", minutes, mostSounding)
	}
	return nil
}

// encodeWAV is a lick as it sounds on a guitar of its tuning, once through, without click or band.
func encodeWAV(l lick.Lick) []byte {
	var b bytes.Buffer
	// A buffer takes all that is written.
	_ = sound.WriteWAV(context.Background(), &b,
		sound.NewRenderer(neck.Standard().WithTuning(l.Tuning), l, sound.Options{}))
	return b.Bytes()
}

// pageSpeeds are the speeds at which a page plays, in percent of the tempo.
var pageSpeeds = []int{50, 75, 100}

// encodePage is a lick as a page that prints and plays.
func encodePage(l lick.Lick) []byte { return Page(sheet.Head{}, []lick.Lick{l}) }

// Page is licks as one page that prints and plays by itself, each at three speeds, under a head. Of a lick that sounds
// for more than a minute nothing is heard, as the page would grow too large.
func Page(head sheet.Head, licks []lick.Lick) []byte {
	var all []sheet.Sounding
	for _, l := range licks {
		x := sheet.Sounding{Lick: l, Rate: sound.Rate / 2}
		if len(l.Notes) > 0 && l.Milliseconds(lick.Time{}, l.End()) < 60_000 {
			for _, speed := range pageSpeeds {
				x.Takes = append(x.Takes, takeOf(l, speed))
			}
		}
		all = append(all, x)
	}
	return sheet.Page(head, all...)
}

// takeOf renders a lick at a speed, with every second sample of the mean of two.
func takeOf(l lick.Lick, speed int) sheet.Take {
	p := sound.NewRenderer(neck.Standard().WithTuning(l.Tuning), l,
		sound.Options{Tempo: l.Tempo * float64(speed) / 100})
	whole := make([]float32, p.Len())
	whole = whole[:p.Read(whole)]
	t := sheet.Take{Speed: speed, Round: p.Begins() + p.Round(), Samples: make([]float32, len(whole)/2)}
	for i := range t.Samples {
		t.Samples[i] = (whole[2*i] + whole[2*i+1]) / 2
	}
	lit := map[int]float64{}
	for _, n := range p.Notes() {
		lit[n.Note] = p.Begins() + n.At
	}
	for _, c := range l.Columns() {
		t.At = append(t.At, lit[c[0]+1])
	}
	return t
}
