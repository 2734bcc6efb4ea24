package musicxml

import (
	"archive/zip"
	"bytes"
	"encoding/xml"
	"errors"
	"strings"

	"ornamen/core/lick"
	"ornamen/format/read"
)

// EncodePacked is MusicXML packed, as programs hand it over.
func EncodePacked(l lick.Lick) []byte {
	var b bytes.Buffer
	z := zip.NewWriter(&b)
	for _, f := range []struct {
		name string
		data []byte
	}{
		{"META-INF/container.xml", []byte(xml.Header + `<container><rootfiles><rootfile full-path="lick.musicxml"/>` +
			`</rootfiles></container>` + "\n")},
		{"lick.musicxml", Encode(l)},
	} {
		// A buffer takes all that is written.
		if w, err := z.Create(f.name); err == nil {
			_, _ = w.Write(f.data)
		}
	}
	_ = z.Close()
	return b.Bytes()
}

// DecodePacked unpacks MusicXML: the file that the container names, or the only one. What would
// grow beyond a lick file's size is refused.
func DecodePacked(data []byte, ask read.Request) (out read.Result, err error) {
	z, err := zip.NewReader(bytes.NewReader(data), int64(len(data)))
	if err != nil {
		return out, errors.New("that is no packed MusicXML")
	}
	name := ""
	left := int64(lick.MaxBytes)
	if ask.Room == nil {
		ask.Room = &left
	}
	if c, err := unpacked(z, "META-INF/container.xml", ask.Room); err == nil {
		var box struct {
			Files []struct {
				Path string `xml:"full-path,attr"`
			} `xml:"rootfiles>rootfile"`
		}
		if xml.Unmarshal(c, &box) == nil && len(box.Files) > 0 {
			name = box.Files[0].Path
		}
	}
	for _, f := range z.File {
		if name == "" && !strings.HasPrefix(f.Name, "META-INF/") &&
			(strings.HasSuffix(f.Name, ".xml") || strings.HasSuffix(f.Name, ".musicxml")) {
			name = f.Name
		}
	}
	score, err := unpacked(z, name, ask.Room)
	if err != nil {
		return out, err
	}
	return Decode(score, ask)
}

// unpacked is a file of a zip, no larger than a lick file may be and than there is room left for,
// which it takes. What the zip claims is checked first, what comes out again.
func unpacked(z *zip.Reader, name string, room *int64) ([]byte, error) {
	for _, f := range z.File {
		if f.Name != name || name == "" {
			continue
		}
		data, err := read.Unpacked(f, min(lick.MaxBytes, *room), "the packed score")
		*room -= int64(len(data))
		return data, err
	}
	return nil, errors.New("the packed file holds no score")
}
