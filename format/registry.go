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
	Name   string // as addresses name it: "json"
	Title  string // as menus name it
	Ending string // of file names, as it is written: ".lick.json"
	Kind   string // media type
	Holds  string // what comes back as it went out
	Read   func([]byte) (lick.Lick, error)
	Write  func(lick.Lick) []byte
}

// formats is every format there is.
var formats = []Format{
	{"json", "Lick file", ".lick.json", "application/json", "all of a lick", lick.Parse, lick.Lick.Encode},
	{
		"tab",
		"Text tab",
		".tab",
		"text/plain; charset=utf-8",
		"places, rhythm, hands, slurs and bends",
		DecodeTab,
		EncodeTab,
	},
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
		if ext == last {
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
	if bytes.HasPrefix(bytes.TrimSpace(data[:min(len(data), 64)]), []byte("{")) {
		return formats[0]
	}
	return formats[1]
}
