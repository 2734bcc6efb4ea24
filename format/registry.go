package format

import (
	"bytes"
	"context"
	"fmt"
	"io"
	"path/filepath"
	"slices"
	"strings"

	"ornamen/core/lick"
	"ornamen/core/text"
	"ornamen/format/midi"
	"ornamen/format/musicxml"
	"ornamen/format/read"
	"ornamen/format/sheet"
	"ornamen/format/tab"
)

// Format is one way to write a lick as a file. A new one is a room below this package and a row of the list.
type Format struct {
	Name   string                                          // as addresses name it: "json"
	Title  string                                          // as menus name it
	Ending string                                          // of file names, as it is written: ".lick.json"
	Other  []string                                        // endings that are read too: ".midi"
	Begins []string                                        // how such a file begins, where that tells
	Kind   string                                          // media type
	Holds  string                                          // what comes back as it went out
	Read   func([]byte, read.Request) (read.Result, error) // nil: it is only written
	Write  func(lick.Lick) []byte                          // nil: it takes long and is streamed
	Stream func(context.Context, io.Writer, lick.Lick) error
	Fits   func([]lick.Lick) error // says in a sentence why these cannot be written together; nil: they can
	Joins  bool                    // several licks make one file; of the others each makes its own
	Policy string                  // what such a page may do in a browser, which shows it; empty: it is saved
}

// To writes a lick to w. What takes long comes bit by bit and ends with the context.
func (f Format) To(ctx context.Context, w io.Writer, l lick.Lick) error {
	if f.Stream != nil {
		return f.Stream(ctx, w, l)
	}
	_, err := w.Write(f.Write(l))
	return err
}

// All is what a format holds that gives every lick back as it was.
const All = "all of a lick"

// formats is every format there is.
var formats = []Format{
	{
		Name:   "json",
		Title:  "Lick file",
		Ending: ".lick.json",
		Begins: []string{"{"},
		Kind:   "application/json",
		Holds:  All,
		Read:   readLick,
		Write:  lick.Lick.Encode,
	},
	pasted,
	{
		Name:   "mail",
		Title:  "Tab for a mail",
		Ending: ".txt",
		Kind:   "text/plain; charset=utf-8",
		Holds: "places, times, fingers, slurs, bends, that there is vibrato, dead and ghost notes, palm muting; " +
			"title, key, tempo, meter, pick-up, feel, chords, tuning",
		Read:  tab.Decode,
		Write: tab.Mail,
	},
	{
		Name:   "musicxml",
		Title:  "MusicXML",
		Ending: ".musicxml",
		Other:  []string{".xml"},
		Begins: []string{"<?xml", "<score-partwise"},
		Kind:   "application/vnd.recordare.musicxml+xml",
		Holds: "places, times, fingers, strokes, slurs, bends, vibrato, slide-ins, accents, dead and ghost notes, " +
			"palm muting, rakes, barres, the bass voice; title, key, tempo, meter, pick-up, feel, loop, chords, tuning",
		Read:  musicxml.Decode,
		Write: musicxml.Encode,
		Fits:  fewBars,
	},
	{
		Name:   "mxl",
		Title:  "MusicXML, packed",
		Ending: ".mxl",
		Begins: []string{"PK"},
		Kind:   "application/vnd.recordare.musicxml",
		Holds:  "as MusicXML",
		Read:   musicxml.DecodePacked,
		Write:  musicxml.EncodePacked,
		Fits:   fewBars,
	},
	{
		Name:   "midi",
		Title:  "MIDI",
		Ending: ".mid",
		Other:  []string{".midi"},
		Begins: []string{"MThd"},
		Kind:   "audio/midi",
		Holds: "places, times, accents, ghost notes, palm muting, bends, vibrato, slide-ins; title, tempo, meter, " +
			"pick-up, feel, loop, key, chords, tuning; a bass and drums beside the line",
		Read:  midi.Decode,
		Write: midi.Encode,
		Fits:  fewBars,
	},
	{
		Name:   "svg",
		Title:  "Drawing",
		Ending: ".svg",
		Kind:   "image/svg+xml",
		Holds:  "what is seen",
		Write:  sheet.Drawing,
	},
	Sheet,
	{
		Name:   "wav",
		Title:  "Sound",
		Ending: ".wav",
		Kind:   "audio/wav",
		Holds:  "what is heard",
		Stream: streamWAV,
		Fits:   soundsShort,
	},
}

// pasted is what a file from elsewhere is taken for that is nothing else: people paste tab.
var pasted = Format{
	Name:   "tab",
	Title:  "Text tab",
	Ending: ".tab",
	Kind:   "text/plain; charset=utf-8",
	Holds:  All,
	Read:   tab.Decode,
	Write:  tab.Encode,
}

// Sheet is the page that prints and plays. It is looked at and printed from the browser.
var Sheet = Format{
	Name:   "page",
	Title:  "Page that prints and plays",
	Ending: ".html",
	Kind:   "text/html; charset=utf-8",
	Holds:  "what is seen and heard",
	Stream: streamPage,
	Fits:   soundsShort,
	Joins:  true,
	Policy: sheet.Policy,
}

// mostBars is how many bars a lick may have that is written bar by bar: two notes may lie years apart.
const mostBars = 20_000

// fewBars refuses licks of more bars than a file of bars should have.
func fewBars(licks []lick.Lick) error {
	for _, l := range licks {
		if bars, _ := l.End().Div(l.Meter.Bar()); bars > mostBars {
			return fmt.Errorf("the line has %d bars; such a file holds at most %d", bars+1, mostBars)
		}
	}
	return nil
}

// readLick reads a lick file, which says all there is or is refused.
func readLick(data []byte, _ read.Request) (r read.Result, err error) {
	r.Lick, err = lick.Parse(data)
	return r, err
}

// Formats lists the formats.
func Formats() []Format { return slices.Clone(formats) }

// Names are the formats' names.
func Names() []string { return text.Map(formats, func(f Format) string { return f.Name }) }

// ByName finds a format as addresses name it.
func ByName(name string) (Format, bool) {
	if i := slices.IndexFunc(formats, func(f Format) bool { return f.Name == name }); i >= 0 {
		return formats[i], true
	}
	return Format{}, false
}

// ByFile finds the format that a file's name ends in. The last ending decides: ".lick.json" and ".json" are both lick
// files. The error lists the endings there are.
func ByFile(name string) (Format, error) {
	ext := strings.ToLower(filepath.Ext(name))
	var endings []string
	for _, f := range formats {
		last := filepath.Ext(f.Ending)
		if ext == last || slices.Contains(f.Other, ext) {
			return f, nil
		}
		endings = append(endings, last)
	}
	return Format{}, fmt.Errorf("%s: the name must end in %s", name, strings.Join(endings, " or "))
}

// ByNames finds formats by a list of their names, "wav,mail".
func ByNames(names string) (out []Format, err error) {
	for name := range strings.SplitSeq(names, ",") {
		f, ok := ByName(strings.TrimSpace(name))
		if !ok {
			return nil, fmt.Errorf("%q is no format; there are %s", strings.TrimSpace(name), strings.Join(Names(), ", "))
		}
		out = append(out, f)
	}
	return out, nil
}

// Detect finds the format of a file from elsewhere: by its name, else by how it
// begins. What is neither is taken for a text tab, the format that people paste.
func Detect(name string, data []byte) Format {
	if f, err := ByFile(name); err == nil {
		return f
	}
	start := bytes.TrimSpace(data[:min(len(data), 64)])
	for _, f := range formats {
		if slices.ContainsFunc(f.Begins, func(s string) bool { return bytes.HasPrefix(start, []byte(s)) }) {
			return f
		}
	}
	return pasted
}

// Import reads a file by its name, else by how it begins. A format that is only written is refused in a sentence. A
// name that lies (a MIDI file called .tab) is read as what it says it is, and refused by that reader.
func Import(name string, data []byte, ask read.Request) (read.Result, error) {
	f := Detect(name, data)
	if len(data) > lick.MaxBytes {
		return read.Result{}, fmt.Errorf("the file has more than %d MB", lick.MaxBytes>>20)
	}
	if f.Read == nil {
		return read.Result{}, fmt.Errorf("%s files are only written, not read", strings.ToLower(f.Title))
	}
	return f.Read(data, ask)
}

// TitleOf is what to call an untitled line from a file: the file's name without its ending.
func TitleOf(file string) string {
	base := filepath.Base(file)
	return read.Clip(strings.TrimSuffix(strings.TrimSuffix(base, filepath.Ext(base)), ".lick"), 60)
}
