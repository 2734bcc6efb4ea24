package format

import (
	"bytes"
	"context"
	"fmt"

	"ornamen/core/lick"
	"ornamen/core/neck"
	"ornamen/core/sound"
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

// encodeWAV is a lick as it sounds on a guitar of its tuning, once through, without click or
// band.
func encodeWAV(l lick.Lick) []byte {
	var b bytes.Buffer
	// A buffer takes all that is written.
	_ = sound.WriteWAV(context.Background(), &b,
		sound.NewPlayer(neck.Standard().WithTuning(l.Tuning), l, sound.Options{}))
	return b.Bytes()
}
