package handover

import (
	"context"
	"errors"
	"io"

	"ornamen/core/judge"
	"ornamen/core/lick"
	"ornamen/core/propose"
	"ornamen/core/say"
	"ornamen/format"
	"ornamen/format/read"
	"ornamen/format/sheet"
)

// Read reads a file for a player: as format.Import does, on the player's guitar, with the places that the file does not
// name found by the engine. The error is a sentence, or the context's.
func Read(ctx context.Context, e *judge.Engine, name string, data []byte, line int) (read.Result, error) {
	r, err := format.Import(name, data, ask(e, line))
	if err != nil {
		return r, err
	}
	return r, lay(ctx, e, &r)
}

// ask lays what comes in on the player's guitar.
func ask(e *judge.Engine, line int) read.Request {
	return read.Request{Line: line, Guitar: e.Player.Guitar}
}

// lay finds the places that were chosen near the hand anew, and says so.
func lay(ctx context.Context, e *judge.Engine, r *read.Result) error {
	if len(r.Chosen) == 0 {
		return nil
	}
	laid, err := propose.Lay(ctx, e, r.Lick, r.Chosen)
	if err != nil {
		return err
	}
	r.Lick = laid
	if n := len(r.Chosen); n > propose.LaidWell {
		r.Remark("For %s the file names no string: of so many the places were found by positions of the hand alone.",
			say.Count(n, "note"))
	} else if n == len(r.Lick.Notes) {
		r.Remark("The file names no strings: the places were found for your hand.")
	} else {
		r.Remark("For %s the file names no string: those places were found for your hand.", say.Count(n, "note"))
	}
	return nil
}

// maxLaid is how many notes of a zip are laid by the engine; those of the files after stay where they are nearest.
const maxLaid = 1500

// Unpack reads every lick file of a zip for a player.
func Unpack(ctx context.Context, e *judge.Engine, r io.ReaderAt, size int64) ([]format.Packed, error) {
	files, err := format.Unpack(ctx, r, size, ask(e, 0))
	if err != nil {
		return nil, err
	}
	laid := 0
	for i := range files {
		f := &files[i]
		if f.Err != nil || len(f.Chosen) == 0 {
			continue
		}
		if laid += len(f.Chosen); laid > maxLaid {
			f.Remark("The file names no strings: the places are the nearest to each other.")
			continue
		}
		if err := lay(ctx, e, &f.Result); err != nil {
			return nil, err
		}
	}
	return files, nil
}

// Write writes a lick in a format as it is shown: with the fingers and strokes that are proposed where none are set.
// The lick file keeps them open, and so does every format that is asked for bare.
// What takes long comes bit by bit and ends with the context.
func Write(ctx context.Context, e *judge.Engine, w io.Writer, l lick.Lick, f format.Format, bare bool) error {
	if err := fits(f, l); err != nil {
		return err
	}
	l, err := ready(ctx, e, l, f, bare)
	if err != nil {
		return err
	}
	return f.To(ctx, w, l)
}

// Pack writes licks as files of formats into a zip, each as Write does.
// The error of one lick keeps all of them back: half a zip would be taken for the whole.
func Pack(ctx context.Context, e *judge.Engine, w io.Writer, licks []lick.Lick, bare bool,
	formats ...format.Format) error {
	if len(licks) == 0 {
		return errors.New("there is no lick to export")
	}
	for _, f := range formats {
		if err := fits(f, licks...); err != nil {
			return err
		}
	}
	filled, err := shown(ctx, e, licks, formats[0], bare)
	if err != nil {
		return err
	}
	return format.Pack(ctx, w, filled, formats...)
}

// Page writes licks as one page that prints and plays, under a head, with the hands that are shown.
func Page(ctx context.Context, e *judge.Engine, head sheet.Head, licks []lick.Lick) ([]byte, error) {
	f := format.Sheet
	if len(licks) == 0 {
		return nil, errors.New("there is no lick to export")
	}
	if err := fits(f, licks...); err != nil {
		return nil, err
	}
	filled, err := shown(ctx, e, licks, f, false)
	if err != nil {
		return nil, err
	}
	return format.Page(ctx, head, filled)
}

// Sheet is a set to be printed, without its sound.
func Sheet(ctx context.Context, e *judge.Engine, head sheet.Head, licks []lick.Lick) ([]byte, error) {
	f := format.Sheet
	filled, err := shown(ctx, e, licks, f, false)
	if err != nil {
		return nil, err
	}
	out := make([]sheet.Sounding, len(filled))
	for i, l := range filled {
		out[i].Lick = l
	}
	return sheet.Page(head, out...), nil
}

// shown are licks as a format wants them.
func shown(ctx context.Context, e *judge.Engine, licks []lick.Lick, f format.Format, bare bool) ([]lick.Lick, error) {
	filled := make([]lick.Lick, len(licks))
	for i, l := range licks {
		var err error
		if filled[i], err = ready(ctx, e, l, f, bare); err != nil {
			return nil, err
		}
	}
	return filled, nil
}

// fits says whether a format has room for the licks, before any of them is looked at.
func fits(f format.Format, licks ...lick.Lick) error {
	if f.Fits == nil {
		return nil
	}
	return f.Fits(licks)
}

// ready is the lick as the format wants it. A drawing shows hands whatever is asked.
func ready(ctx context.Context, e *judge.Engine, l lick.Lick, f format.Format, bare bool) (lick.Lick, error) {
	l = l.Bare() // what single players have set of it stays in the notebook
	if f.Name == "json" || bare && f.Read != nil || len(l.Notes) == 0 {
		return l, ctx.Err()
	}
	r, err := e.Check(ctx, l)
	if err != nil {
		return l, err
	}
	return r.Lick, nil
}
