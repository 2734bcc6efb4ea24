// Package lesson carries what a teacher and a student hand each other: a set goes out as one file and is taken into
// another notebook, and what was practised there comes back as one small file, into the log of that student alone.
// Nothing of anybody's log leaves with a set, and reading either twice changes nothing twice.
package lesson

import (
	"archive/zip"
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"path"
	"slices"
	"strings"
	"time"

	"ornamen/core/judge"
	"ornamen/core/lick"
	"ornamen/core/say"
	"ornamen/core/text"
	"ornamen/format/read"
	"ornamen/format/sheet"
	"ornamen/internal/handover"
	"ornamen/internal/store"
)

// The head of a set's file, and the version that is written.
const (
	setFormat  = "ornamen-set"
	setVersion = 1
	setFile    = "set.json"
	pageFile   = "index.html"
)

// Bounds of a file that is read: a zip says little of what it unpacks to.
const (
	maxFiles = 500
	maxTotal = 64 << 20
)

// setJSON is a set as its file has it.
type setJSON struct {
	Format  string        `json:"format"`
	Version int           `json:"version"`
	Key     string        `json:"key"`
	Name    string        `json:"name"`
	Kind    store.SetKind `json:"kind,omitempty"`
	Target  string        `json:"target,omitempty"`
	Remark  string        `json:"remark,omitempty"`
	Licks   []itemJSON    `json:"licks"`
}

// itemJSON is a lick of a set in its order.
type itemJSON struct {
	File   string  `json:"file"`
	Key    string  `json:"key"`
	Tempo  float64 `json:"tempo,omitempty"`
	Remark string  `json:"remark,omitempty"`
	Days   string  `json:"days,omitempty"` // "Mo We Fr"; every day where it is left out
}

// Licks are the licks of a set that are still in the notebook, as one plays them there: at the set's tempo. An item
// whose lick was deleted is left out.
func Licks(ctx context.Context, s *store.Store, x store.Set, own string) (items []store.SetItem, licks []store.Entry,
	err error) {
	for _, it := range x.Items {
		e, err := s.Get(ctx, it.Lick)
		if errors.Is(err, store.ErrNotFound) {
			continue
		}
		if err != nil {
			return nil, nil, err
		}
		e.Lick = e.Lick.For(own)
		if it.Tempo > 0 {
			e.Lick.Tempo = it.Tempo
		}
		items, licks = append(items, it), append(licks, e)
	}
	return items, licks, nil
}

// Write writes a set as a zip: set.json with its order, remarks and tempos, a lick file for each lick, and with page
// one page that prints and plays all of them, with the hands that the engine proposes. A lick that stands in it twice
// is one file.
func Write(ctx context.Context, w io.Writer, s *store.Store, e *judge.Engine, x store.Set, page bool) error {
	items, entries, err := Licks(ctx, s, x, "")
	if err != nil {
		return err
	}
	keys, err := s.LickKeys(ctx)
	if err != nil {
		return err
	}
	v := setJSON{
		Format:  setFormat,
		Version: setVersion,
		Key:     x.Key,
		Name:    x.Name,
		Kind:    x.Kind,
		Target:  x.Target,
		Remark:  x.Remark,
		Licks:   []itemJSON{},
	}
	z := zip.NewWriter(w)
	put := func(name string, data []byte) error {
		f, err := z.Create(name)
		if err == nil {
			_, err = f.Write(data)
		}
		return err
	}
	files := map[uint]string{}
	var sounding []lick.Lick
	for i, it := range items {
		id := entries[i].ID
		sounding = append(sounding, entries[i].Lick)
		if files[id] == "" {
			whole, err := s.Get(ctx, id) // with its own tempo
			if err != nil {
				return err
			}
			files[id] = strings.TrimSuffix(fmt.Sprintf("%02d-%s", i+1, whole.Lick.FileName()), "-") + ".lick.json"
			if err := put(files[id], whole.Lick.Bare().Encode()); err != nil {
				return err
			}
		}
		v.Licks = append(v.Licks, itemJSON{
			File:   files[id],
			Key:    keys[id],
			Tempo:  it.Tempo,
			Remark: it.Remark,
			Days:   it.Days.String(),
		})
	}
	data, err := json.MarshalIndent(v, "", "  ")
	if err == nil {
		err = put(setFile, append(data, '\n'))
	}
	if err == nil && page && len(sounding) > 0 {
		var html []byte
		if html, err = handover.Page(ctx, e, Head(x, items, false), sounding); err == nil {
			err = put(pageFile, html)
		}
	}
	if err != nil {
		return err
	}
	return z.Close()
}

// Head is what stands above a set on paper: what it is for, by when, the remark, and beside each lick its days and
// remark.
func Head(x store.Set, items []store.SetItem, oneSheet bool) sheet.Head {
	h := sheet.Head{Title: x.Name, OneSheet: oneSheet}
	by := ""
	if day, err := time.Parse(time.DateOnly, x.Target); err == nil {
		by = " by " + day.Format("Monday, 2 January 2006")
	}
	switch {
	case x.Kind == store.Homework:
		h.Text = append(h.Text, "To practise"+by+".")
	case x.Kind == store.Concert:
		h.Text = append(h.Text, "To play, in this order"+strings.Replace(by, " by ", " on ", 1)+".")
	case by != "":
		h.Text = append(h.Text, "Wanted"+by+".")
	}
	if x.Remark != "" {
		h.Text = append(h.Text, x.Remark)
	}
	for _, it := range items {
		note := it.Remark
		if days := it.Days.String(); days != "" {
			note = strings.TrimSpace(days + "  " + note)
		}
		h.Notes = append(h.Notes, note)
	}
	return h
}

// Holds says whether a zip is a set that Write wrote.
func Holds(r io.ReaderAt, size int64) bool {
	z, err := zip.NewReader(r, size)
	return err == nil && slices.ContainsFunc(z.File, func(f *zip.File) bool { return f.Name == setFile })
}

// Take takes a set into a notebook, all of it or nothing. The error is a sentence.
func Take(ctx context.Context, s *store.Store, r io.ReaderAt, size int64) (store.Arrived, error) {
	none := store.Arrived{}
	z, err := zip.NewReader(r, size)
	if err != nil {
		return none, errors.New("this is no zip file, or a damaged one")
	}
	if len(z.File) > maxFiles {
		return none, fmt.Errorf("it holds more than %d files", maxFiles)
	}
	files := map[string]*zip.File{}
	for _, f := range z.File {
		files[f.Name] = f
	}
	left := int64(maxTotal)
	load := func(name string) ([]byte, error) {
		f := files[name]
		if f == nil || path.Base(name) != name {
			return nil, fmt.Errorf("%s is missing", text.Clip(name, 60))
		}
		data, err := read.Unpacked(f, min(left, lick.MaxBytes), text.Clip(name, 60))
		left -= int64(len(data))
		return data, err
	}
	data, err := load(setFile)
	if err != nil {
		return none, err
	}
	var v setJSON
	d := json.NewDecoder(bytes.NewReader(data))
	d.DisallowUnknownFields()
	switch err := d.Decode(&v); {
	case err != nil || v.Format != setFormat:
		return none, errors.New("its set.json cannot be read as a set")
	case v.Version > setVersion:
		return none, errors.New("it was written by a later Ornamen")
	case !keyed(v.Key):
		return none, errors.New("its set.json does not say which set it is")
	}
	x := store.Set{Key: v.Key, Name: v.Name, Kind: v.Kind, Target: v.Target, Remark: v.Remark}
	var licks []store.Arriving
	place := map[string]uint{}
	for i, it := range v.Licks {
		if !keyed(it.Key) {
			return none, fmt.Errorf("number %d of the set does not say which lick it is", i+1)
		}
		if place[it.Key] == 0 {
			data, err := load(it.File)
			if err != nil {
				return none, err
			}
			l, err := lick.Parse(data)
			if err != nil {
				return none, fmt.Errorf("%s: %w", text.Clip(it.File, 60), err)
			}
			licks = append(licks, store.Arriving{Key: it.Key, Lick: l.Bare()})
			place[it.Key] = uint(len(licks))
		}
		days, err := store.ParseDays(it.Days)
		if err != nil {
			return none, fmt.Errorf("number %d of the set: %w", i+1, err)
		}
		x.Items = append(x.Items, store.SetItem{Lick: place[it.Key], Tempo: it.Tempo, Remark: it.Remark, Days: days})
	}
	return s.TakeSet(ctx, x, licks)
}

// keyed says whether a key can be one: it is made of small letters and digits.
func keyed(key string) bool {
	return len(key) >= 8 && len(key) <= 64 &&
		!strings.ContainsFunc(key, func(r rune) bool { return (r < 'a' || r > 'z') && (r < '0' || r > '9') })
}

// Told says in one sentence what became of a set that was taken in.
func Told(a store.Arrived) string {
	name := a.Set.Name
	if a.Same() {
		return fmt.Sprintf("%s was here already, all of it; nothing changed.", name)
	}
	text := fmt.Sprintf("%s is here", name)
	var more []string
	for _, x := range []struct {
		n    int
		what string
	}{{a.Added, "new"}, {a.Changed, "in a newer version"},
		{a.Beside, "changed here too, so what came is kept among the versions"}} {
		if x.n > 0 {
			more = append(more, say.Count(x.n, "lick")+" "+x.what)
		}
	}
	if len(more) > 0 {
		text += ": " + strings.Join(more, ", ")
	}
	return text + "."
}
