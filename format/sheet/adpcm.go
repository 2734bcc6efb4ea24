package sheet

import "encoding/base64"

// The tables of the IMA's ADPCM (Interactive Multimedia Association, "Recommended practices for enhancing digital
// audio compatibility in multimedia systems", 1992; from memory): four bits a sample, each a step up or down of a
// size that follows the sound.
var (
	adpcmSteps = [89]int{
		7, 8, 9, 10, 11, 12, 13, 14, 16, 17, 19, 21, 23, 25, 28, 31, 34, 37, 41, 45, 50, 55, 60, 66, 73, 80,
		88, 97, 107, 118, 130, 143, 157, 173, 190, 209, 230, 253, 279, 307, 337, 371, 408, 449, 494, 544,
		598, 658, 724, 796, 876, 963, 1060, 1166, 1282, 1411, 1552, 1707, 1878, 2066, 2272, 2499, 2749, 3024,
		3327, 3660, 4026, 4428, 4871, 5358, 5894, 6484, 7132, 7845, 8630, 9493, 10442, 11487, 12635, 13899,
		15289, 16818, 18500, 20350, 22385, 24623, 27086, 29794, 32767,
	}
	adpcmIndex = [8]int{-1, -1, -1, -1, 2, 4, 6, 8}
)

// packed is a sound in four bits a sample, as text that a page can hold: two samples a byte, the first in the low
// half. The page's script unpacks it.
func packed(samples []float32) string {
	out := make([]byte, (len(samples)+1)/2)
	last, index := 0, 0
	for i, x := range samples {
		step := adpcmSteps[index]
		want := int(max(-1, min(1, x))*32767) - last
		code := 0
		if want < 0 {
			code, want = 8, -want
		}
		by := step >> 3
		for bit, part := 4, step; bit > 0; bit, part = bit>>1, part>>1 {
			if want >= part {
				code |= bit
				want -= part
				by += part
			}
		}
		if code&8 != 0 {
			by = -by
		}
		last = max(-32768, min(32767, last+by))
		index = max(0, min(len(adpcmSteps)-1, index+adpcmIndex[code&7]))
		out[i/2] |= byte(code) << (4 * (i % 2))
	}
	return base64.StdEncoding.EncodeToString(out)
}
