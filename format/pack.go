package format

import (
	"archive/zip"
	"cmp"
	"context"
	"errors"
	"fmt"
	"io"
	"path"
	"strings"

	"ornamen/core/lick"
	"ornamen/format/read"
)

// Limits of a zip of licks: it says little of what it unpacks to.
const (
	maxPacked = 2000
	maxTotal  = 32 << 20
)

// Pack writes licks into a zip, each as a file of the formats under its number and title. It ends with the context.
func Pack(ctx context.Context, w io.Writer, licks []lick.Lick, formats ...Format) error {
	z := zip.NewWriter(w)
	for i, l := range licks {
		for _, f := range formats {
			file, err := z.Create(fmt.Sprintf("%03d-%s%s", i+1, cmp.Or(l.FileName(), "lick"), f.Ending))
			if err != nil {
				return err
			}
			if err := f.To(ctx, file, l); err != nil {
				return err
			}
		}
	}
	return z.Close()
}

// Packed is one file of a zip: what it says, or why it was not read.
type Packed struct {
	Name string
	read.Result
	Err error
}

// Unpack reads every file of a zip that may be a lick, folders or not. A file that cannot be
// read is one of the list with its reason, so that one bad file does not keep the others out.
// It ends with the context, between two files. What is too much is refused in a sentence: what
// the zip claims to hold is counted before anything is unpacked, and what it holds again.
func Unpack(ctx context.Context, r io.ReaderAt, size int64, ask read.Request) ([]Packed, error) {
	z, err := zip.NewReader(r, size)
	if err != nil {
		return nil, errors.New("this is no zip file, or a damaged one")
	}
	if len(z.File) > maxPacked {
		return nil, fmt.Errorf("the zip holds more than %d files", maxPacked)
	}
	tooMuch := fmt.Errorf("the zip unpacks to more than %d MB", maxTotal>>20)
	claimed := uint64(0)
	for _, f := range z.File {
		if claimed += min(f.UncompressedSize64, maxTotal+1); claimed > maxTotal {
			return nil, tooMuch
		}
	}
	var out []Packed
	left := int64(maxTotal) // what a zip claims need not be true; of packed scores within it, the same
	ask.Room = &left
	for _, f := range z.File {
		base := path.Base(f.Name)
		if f.FileInfo().IsDir() || strings.HasPrefix(base, ".") || strings.HasPrefix(f.Name, "__MACOSX/") {
			continue
		}
		if err := ctx.Err(); err != nil {
			return nil, err
		}
		p := Packed{Name: read.Clip(base, 80)}
		data, err := read.Unpacked(f, min(lick.MaxBytes, left), "it")
		if left -= int64(len(data)); left <= 0 {
			return nil, tooMuch
		}
		if p.Err = err; err == nil {
			if p.Result, p.Err = Import(base, data, ask); left <= 0 {
				return nil, tooMuch
			}
		}
		out = append(out, p)
	}
	if len(out) == 0 {
		return nil, errors.New("the zip holds no file")
	}
	return out, nil
}
