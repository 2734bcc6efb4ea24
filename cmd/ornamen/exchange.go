package main

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"path/filepath"
	"strings"

	"ornamen/core/lick"
	"ornamen/core/say"
	"ornamen/format"
	"ornamen/format/sheet"
	"ornamen/internal/archive"
	"ornamen/internal/handover"
	"ornamen/internal/lesson"
	"ornamen/internal/store"
)

// exportCommand writes one lick of the notebook as a file, all or some of them as a zip of
// files of one format, or the whole notebook with its versions as a zip. The notebook may be
// open meanwhile. A file that is there is replaced whole, at the end.
func exportCommand(ctx context.Context, e env, args []string) error {
	fs := newFlags()
	named := fs.String("lick", "", "`LICK` one lick, by its number or title")
	version := fs.Uint("version", 0, "`N` in this version")
	as := fs.String("as", "", "`FORMAT` files of this format in the zip, or of several: wav,mail")
	tag := fs.String("tag", "", "`TAG` only licks with this tag")
	bare := fs.Bool("bare", false, "leave out the fingers and strokes that are only proposed")
	set := fs.String("set", "", "`NAME` the licks of a set in their order, for another notebook")
	withPage := fs.Bool("page", false, "with --set: a page that prints and plays goes along in the zip")
	player := fs.String("player", "", "`NAME` for whom hands are proposed; the notebook's first player")
	b := bookOf(e, fs)
	rest, err := parse(fs, args, 1, "the file to write")
	if err != nil {
		return err
	}
	file := rest[0]
	page := *named == "" && *as == "" && *set == "" && strings.EqualFold(filepath.Ext(file), ".html")
	switch {
	case *set != "" && (*named != "" || *as != "" || *tag != ""):
		return errors.New("a set goes out as it is: without --lick, --as and --tag")
	case *withPage && *set == "":
		return errors.New("--page goes with --set")
	}
	if *tag != "" && *as == "" && !page {
		return errors.New("name the format of the files too, as in --as musicxml")
	}
	if err := b.read(); err != nil {
		return err
	}
	defer b.Close()
	if err := b.play(ctx, *player); err != nil {
		return err
	}
	switch {
	case *set != "":
		return b.exportSet(ctx, file, *set, *withPage)
	case *named != "":
		return b.exportLick(ctx, file, *named, *version, *bare)
	case *as != "" || page:
		return b.exportSome(ctx, file, *as, *tag, *bare)
	}
	var data bytes.Buffer
	n, err := archive.Write(ctx, &data, b.Store)
	if err != nil {
		return err
	}
	return b.written(say.Count(n, "lick"), file, data.Bytes())
}

// written puts a file in place and says what is in it.
func (b *book) written(what, file string, data []byte) error {
	if err := write(file, data); err != nil {
		return err
	}
	fmt.Fprintf(b.out, "%s written to %s\n", what, file)
	return nil
}

// exportLick writes one lick, as it is or as a version was, in the format of the file's name.
// The error of a name that has no known ending lists those there are.
func (b *book) exportLick(ctx context.Context, file, name string, version uint, bare bool) error {
	out, err := format.ByFile(file)
	if err != nil {
		return err
	}
	x, err := b.lickNamed(ctx, name)
	if err != nil {
		return err
	}
	l := x.Lick
	if version > 0 {
		if l, err = b.At(ctx, x.ID, version); err != nil {
			return err
		}
	}
	var data bytes.Buffer
	if err := handover.Write(ctx, b.engine, &data, l.For(b.who.Own()).Bare(), out, bare); err != nil {
		return err
	}
	return b.written(titled(l.Title), file, data.Bytes())
}

// exportSome writes licks as a zip of files of one format or several, or, where none is named, as one page that prints
// and plays: all, or those of a tag. They are ordered by title, as their names in the zip are numbered.
func (b *book) exportSome(ctx context.Context, file, as, tag string, bare bool) error {
	onePage := as == "" // the name asks for a page of all of them
	var formats []format.Format
	if !onePage {
		var err error
		if formats, err = format.ByNames(as); err != nil {
			return err
		}
	}
	rows, err := b.List(ctx, store.Query{Tag: tag, Order: store.ByTitle, Limit: maxListed})
	if err != nil {
		return err
	}
	var licks []lick.Lick
	for _, r := range rows {
		x, err := b.Get(ctx, r.ID)
		if err != nil {
			return err
		}
		licks = append(licks, x.Lick.For(b.who.Own()).Bare())
	}
	what := say.Count(len(licks), "lick")
	if onePage {
		page, err := handover.Page(ctx, b.engine, sheet.Head{}, licks)
		if err != nil {
			return err
		}
		return b.written(what, file, page)
	}
	var data bytes.Buffer
	if err := handover.Pack(ctx, b.engine, &data, licks, bare, formats...); err != nil {
		return err
	}
	return b.written(what, file, data.Bytes())
}

// importCommand adds a lick file of any format to the notebook, everything of a notebook's zip
// or nothing of it, or what can be read of a zip of lick files, with the reason for each that
// cannot. The notebook must not be open elsewhere.
func importCommand(ctx context.Context, e env, args []string) error {
	fs := newFlags()
	line := fs.Int("line", 0, "`N` which line of a file that holds several, counted from 1")
	b := bookOf(e, fs)
	rest, err := parse(fs, args, 1, "the file to read")
	if err != nil {
		return err
	}
	file := rest[0]
	if strings.EqualFold(filepath.Ext(file), ".zip") {
		return b.importZip(ctx, file)
	}
	data, err := fileBytes(file, lick.MaxBytes)
	if err != nil {
		return err
	}
	if _, err := format.ByFile(file); err != nil {
		return err
	}
	if err := b.write(); err != nil {
		return err
	}
	defer b.Close()
	if err := b.play(ctx, ""); err != nil {
		return err
	}
	r, err := handover.Read(ctx, b.engine, file, data, *line)
	if err != nil {
		return fmt.Errorf("%s: %w", file, err)
	}
	for _, s := range r.Remarks {
		fmt.Fprintf(e.err, "%s: %s\n", file, s)
	}
	x, err := b.Add(ctx, r.Lick, "imported from "+filepath.Base(file))
	if err != nil {
		return err
	}
	fmt.Fprintf(e.out, "%s added as lick %d\n", titled(r.Lick.Title), x.ID)
	return nil
}

// importZip adds a notebook with all its versions, or a zip of lick files. The two are told apart by notebook.json. A
// file of the zip that is no lick is named on standard error with its reason; none that is one is an error.
func (b *book) importZip(ctx context.Context, file string) error {
	f, err := open(file)
	if err != nil {
		return err
	}
	defer f.Close()
	info, err := f.Stat()
	if err != nil {
		return unreadable(file, err)
	}
	if err := b.write(); err != nil {
		return err
	}
	defer b.Close()
	if lesson.Holds(f, info.Size()) {
		a, err := lesson.Take(ctx, b.Store, f, info.Size())
		if err != nil {
			return fmt.Errorf("%s: %w", file, err)
		}
		fmt.Fprintln(b.out, lesson.Told(a))
		return nil
	}
	if archive.Holds(f, info.Size()) {
		n, err := archive.Read(ctx, f, info.Size(), b.Store, nil)
		if err != nil {
			return fmt.Errorf("%s: %w", file, err)
		}
		fmt.Fprintf(b.out, "%s added\n", say.Count(n, "lick"))
		return nil
	}
	if err := b.play(ctx, ""); err != nil {
		return err
	}
	files, err := handover.Unpack(ctx, b.engine, f, info.Size())
	if err != nil {
		return fmt.Errorf("%s: %w", file, err)
	}
	var w store.Whole
	for _, p := range files {
		if p.Err != nil {
			fmt.Fprintf(b.err, "%s: not read: %v\n", p.Name, p.Err)
			continue
		}
		for _, s := range p.Remarks {
			fmt.Fprintf(b.err, "%s: %s\n", p.Name, s)
		}
		w.Chains = append(w.Chains, store.NewChain(p.Lick, "imported from "+p.Name, b.Now()))
	}
	if len(w.Chains) == 0 {
		return fmt.Errorf("%s: it holds no file that is a lick", file)
	}
	if _, err := b.AddAll(ctx, w); err != nil {
		return err
	}
	fmt.Fprintf(b.out, "%s added\n", say.Count(len(w.Chains), "lick"))
	return nil
}
