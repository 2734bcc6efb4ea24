package sound

import (
	"context"
	"encoding/binary"
	"io"
)

// WriteWAV renders a player to its end as a WAV file: one channel, 16 bits, Rate samples a
// second. The length is known before, so that the file can be streamed. The error is the
// writer's, or the context's: who has stopped listening ends it. Beyond 4 GB, thirteen hours
// and a half, the head says less than there is, as the format has no more room.
func WriteWAV(ctx context.Context, w io.Writer, p *Player) error {
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
