package format

import (
	"context"
	"fmt"
	"io"

	"ornamen/core/lick"
	"ornamen/core/neck"
	"ornamen/core/sound"
	"ornamen/format/sheet"
)

// mostSounding is for how many minutes the licks of a file may sound, at five megabytes a minute.
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

// streamWAV writes a lick as it sounds on a guitar of its tuning, once through, without click or band.
func streamWAV(ctx context.Context, w io.Writer, l lick.Lick) error {
	return sound.WriteWAV(ctx, w, sound.NewRenderer(neck.Standard().WithTuning(l.Tuning), l, sound.Options{}))
}

// pageSpeeds are the speeds at which a page plays, in percent of the tempo.
var pageSpeeds = []int{50, 75, 100}

// streamPage writes a lick as a page that prints and plays.
func streamPage(ctx context.Context, w io.Writer, l lick.Lick) error {
	page, err := Page(ctx, sheet.Head{}, []lick.Lick{l})
	if err == nil {
		_, err = w.Write(page)
	}
	return err
}

// Page is licks as one page that prints and plays by itself, each at three speeds, under a head. Of a lick that sounds
// for more than a minute nothing is heard, as the page would grow too large. The error is the context's.
func Page(ctx context.Context, head sheet.Head, licks []lick.Lick) ([]byte, error) {
	var all []sheet.Sounding
	for _, l := range licks {
		x := sheet.Sounding{Lick: l, Rate: sound.Rate / 2}
		if len(l.Notes) > 0 && l.Milliseconds(lick.Time{}, l.End()) < 60_000 {
			for _, speed := range pageSpeeds {
				t, err := takeOf(ctx, l, speed)
				if err != nil {
					return nil, err
				}
				x.Takes = append(x.Takes, t)
			}
		}
		all = append(all, x)
	}
	return sheet.Page(head, all...), nil
}

// takeOf renders a lick at a speed, with every second sample of the mean of two.
func takeOf(ctx context.Context, l lick.Lick, speed int) (sheet.Take, error) {
	p := sound.NewRenderer(neck.Standard().WithTuning(l.Tuning), l,
		sound.Options{Tempo: l.Tempo * float64(speed) / 100})
	t := sheet.Take{Speed: speed, Round: p.Begins() + p.Round(), Samples: make([]float32, 0, p.Len()/2)}
	buffer := make([]float32, 4096)
	for {
		if err := ctx.Err(); err != nil {
			return t, err
		}
		n := p.Read(buffer)
		if n == 0 {
			break
		}
		for i := 0; i+1 < n; i += 2 {
			t.Samples = append(t.Samples, (buffer[i]+buffer[i+1])/2)
		}
	}
	lit := map[int]float64{}
	for _, n := range p.Notes() {
		lit[n.Note] = p.Begins() + n.At
	}
	for _, c := range l.Columns() {
		t.At = append(t.At, lit[c[0]+1])
	}
	return t, nil
}
