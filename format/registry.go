package format

import (
	"bytes"
	"fmt"
	"path/filepath"
	"slices"
	"strings"

	"ornamen/core/lick"
)

// Format is one way to write a lick as a file. A new one is a file of this package
// and a row of the list.
type Format struct {
	Name   string                                                  // as addresses name it: "json"
	Title  string                                                  // as menus name it
	Ending string                                                  // of file names, as it is written: ".lick.json"
	Kind   string                                                  // media type
	Holds  string                                                  // what comes back as it went out
	Read   func([]byte) (l lick.Lick, remarks []string, err error) // remarks: what was read otherwise, or not; nil: it is only written
	Write  func(lick.Lick) []byte
}

// formats is every format there is.
var formats = []Format{
	{"json", "Lick file", ".lick.json", "application/json", "all of a lick", readLick, lick.Lick.Encode},
	{
		"tab",
		"Text tab",
		".tab",
		"text/plain; charset=utf-8",
		"all of a lick",
		DecodeTab,
		EncodeTab,
	},
	{
		"midi",
		"MIDI",
		".mid",
		"audio/midi",
		"places, times, accents, bends, vibrato; title, tempo, meter, pick-up, feel, loop, key, chords, tuning",
		DecodeMIDI,
		EncodeMIDI,
	},
	{
		"musicxml",
		"MusicXML",
		".musicxml",
		"application/vnd.recordare.musicxml+xml",
		"places, times, fingers, strokes, slurs, bends, vibrato, slide-ins, accents, dead notes, rakes, barres; title, " +
			"tempo, meter, pick-up, feel, loop, chords, tuning",
		DecodeMusicXML,
		EncodeMusicXML,
	},
	{"mxl", "MusicXML, packed", ".mxl", "application/vnd.recordare.musicxml", "as MusicXML", DecodeMXL, EncodeMXL},
	{"svg", "Drawing", ".svg", "image/svg+xml", "what is seen", nil, EncodeSVG},
	{"page", "Page to print", ".html", "text/html; charset=utf-8", "what is seen", nil, EncodePage},
	{"wav", "Sound", ".wav", "audio/wav", "what is heard", nil, EncodeWAV},
}

// readLick reads a lick file, which says all there is or is refused.
func readLick(data []byte) (lick.Lick, []string, error) {
	l, err := lick.Parse(data)
	return l, nil, err
}

// Formats lists the formats.
func Formats() []Format { return slices.Clone(formats) }

// ByName finds a format as addresses name it.
func ByName(name string) (Format, bool) {
	i := slices.IndexFunc(formats, func(f Format) bool { return f.Name == name })
	if i < 0 {
		return Format{}, false
	}
	return formats[i], true
}

// ByFile finds the format that a file's name ends in.
func ByFile(name string) (Format, error) {
	ext := strings.ToLower(filepath.Ext(name))
	var endings []string
	for _, f := range formats {
		last := filepath.Ext(f.Ending)
		if ext == last || ext == ".midi" && last == ".mid" || ext == ".xml" && last == ".musicxml" {
			return f, nil
		}
		endings = append(endings, last)
	}
	return Format{}, fmt.Errorf("%s: the name must end in %s", name, strings.Join(endings, " or "))
}

// Detect finds the format of a file from elsewhere: by its name, else by how it
// begins. What is neither is taken for a text tab, the format that people paste.
func Detect(name string, data []byte) Format {
	if f, err := ByFile(name); err == nil {
		return f
	}
	for _, x := range []struct{ begins, name string }{{"MThd", "midi"}, {"PK", "mxl"}, {"<?xml", "musicxml"},
		{"<score-partwise", "musicxml"}} {
		if bytes.HasPrefix(data, []byte(x.begins)) {
			f, _ := ByName(x.name)
			return f
		}
	}
	if bytes.HasPrefix(bytes.TrimSpace(data[:min(len(data), 64)]), []byte("{")) {
		return formats[0]
	}
	return formats[1]
}

// Import reads a file by its name, else by how it begins. A format that is only written is
// refused in a sentence.
func Import(name string, data []byte) (lick.Lick, []string, error) {
	f := Detect(name, data)
	if len(data) > lick.MaxBytes {
		return lick.Lick{}, nil, fmt.Errorf("the file has more than %d MB", lick.MaxBytes>>20)
	}
	if f.Read == nil {
		return lick.Lick{}, nil, fmt.Errorf("%s files are only written, not read", strings.ToLower(f.Title))
	}
	return f.Read(data)
}
