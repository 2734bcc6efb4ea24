package format

import (
	"bytes"

	"ornamen/core/lick"
	"ornamen/core/neck"
	"ornamen/core/sound"
)

// encodeWAV is a lick as it sounds on a guitar of its tuning, once through, without click or
// band.
func encodeWAV(l lick.Lick) []byte {
	var b bytes.Buffer
	// A buffer takes all that is written.
	_ = sound.WriteWAV(&b, sound.NewPlayer(neck.Standard().WithTuning(l.Tuning), l, sound.Options{}))
	return b.Bytes()
}
