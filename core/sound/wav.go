package sound

import (
	"context"
	"encoding/binary"
	"errors"
	"io"
	"math"
)

// WriteWAV renders a line to its end as a WAV file: one channel, 16 bits, Rate samples a second. The length is known
// before, so that the file can be streamed. The error is the writer's, or the context's: who has stopped listening ends
// it. Beyond 4 GB, thirteen hours and a half, the head says less than there is, as the format has no more room.
func WriteWAV(ctx context.Context, w io.Writer, p *Renderer) error {
	n := p.Len()
	head := make([]byte, 0, 44)
	size := uint32(min(2*n, 1<<32-64))
	head = append(head, "RIFF"...)
	head = binary.LittleEndian.AppendUint32(head, 36+size)
	head = append(head, "WAVEfmt "...)
	head = binary.LittleEndian.AppendUint32(head, 16)
	head = binary.LittleEndian.AppendUint16(head, 1) // samples as they are
	head = binary.LittleEndian.AppendUint16(head, 1) // channels
	head = binary.LittleEndian.AppendUint32(head, Rate)
	head = binary.LittleEndian.AppendUint32(head, 2*Rate)
	head = binary.LittleEndian.AppendUint16(head, 2)
	head = binary.LittleEndian.AppendUint16(head, 16)
	head = append(head, "data"...)
	head = binary.LittleEndian.AppendUint32(head, size)
	if _, err := w.Write(head); err != nil {
		return err
	}
	buf := make([]float32, 4096)
	out := make([]byte, 0, 2*len(buf))
	for {
		if err := ctx.Err(); err != nil {
			return err
		}
		k := p.Read(buf)
		if k == 0 {
			return nil
		}
		out = out[:0]
		for _, x := range buf[:k] {
			out = binary.LittleEndian.AppendUint16(out, uint16(int16(x*32767)))
		}
		if _, err := w.Write(out); err != nil {
			return err
		}
	}
}

// ReadWAV reads a recording: a WAV file of 16, 24 or 32 bits, whole numbers or floats, of several channels the first.
// The error is one sentence. Chunks of other kinds are passed over; a length that goes beyond the file is taken as its
// end.
func ReadWAV(data []byte) (samples []float32, rate int, err error) {
	bad := errors.New("that is no recording: a WAV file of 16, 24 or 32 bits is wanted")
	if len(data) < 44 || string(data[:4]) != "RIFF" || string(data[8:12]) != "WAVE" {
		return nil, 0, bad
	}
	channels, wide, float := 0, 2, false
	for at := 12; at+8 <= len(data); {
		size := int(binary.LittleEndian.Uint32(data[at+4:]))
		body := data[at+8 : min(len(data), at+8+max(0, size))]
		switch string(data[at : at+4]) {
		case "fmt ":
			if len(body) < 16 {
				return nil, 0, bad
			}
			kind := binary.LittleEndian.Uint16(body)
			if kind == 0xfffe && len(body) >= 26 { // the kind stands in the extension
				kind = binary.LittleEndian.Uint16(body[24:])
			}
			bits := binary.LittleEndian.Uint16(body[14:])
			wide, float = int(bits)/8, kind == 3
			if kind != 1 && kind != 3 || bits != 16 && bits != 24 && bits != 32 || float && bits != 32 {
				return nil, 0, bad
			}
			channels = int(binary.LittleEndian.Uint16(body[2:]))
			rate = int(binary.LittleEndian.Uint32(body[4:]))
		case "data":
			if channels < 1 || channels > 8 {
				return nil, 0, bad
			}
			for i := 0; i+wide*channels <= len(body); i += wide * channels {
				samples = append(samples, sample(body[i:i+wide], float))
			}
			return samples, rate, nil
		}
		at += 8 + max(0, size) + size%2
	}
	return nil, 0, bad
}

// sample is one sample of a recording, the least byte first.
func sample(b []byte, float bool) float32 {
	switch {
	case float:
		x := math.Float32frombits(binary.LittleEndian.Uint32(b))
		if !(x >= -8 && x <= 8) {
			return 0 // no sound is that loud
		}
		return x
	case len(b) == 2:
		return float32(int16(binary.LittleEndian.Uint16(b))) / (1 << 15)
	case len(b) == 3:
		return float32(int32(b[0])<<8|int32(b[1])<<16|int32(b[2])<<24) / (1 << 31)
	}
	return float32(int32(binary.LittleEndian.Uint32(b))) / (1 << 31)
}
