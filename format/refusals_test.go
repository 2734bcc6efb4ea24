package format

import (
	"archive/zip"
	"bytes"
	"strings"
	"testing"
	"time"

	"ornamen/format/read"
)

// What is too much is refused in a sentence, and soon, whichever reader it meets: 50 MB, a tab
// without end, a zip of what unpacks without end, or of more files than anyone has licks.
func TestTooMuch(t *testing.T) {
	flood := bytes.Repeat(
		[]byte(
			"e|--5--7--5--7|\nB|------------|\nG|------------|\nD|------------|\nA|------------|\nE|------------|\n\n",
		),
		15<<20/100,
	)
	zipped := func(files, each int) []byte {
		var b bytes.Buffer
		z := zip.NewWriter(&b)
		for i := range files {
			w, err := z.Create(strings.Repeat("x", 1+i%7) + ".tab")
			if err != nil {
				t.Fatal(err)
			}
			w.Write(make([]byte, each))
		}
		z.Close()
		return b.Bytes()
	}
	unpack := func(data []byte) func() error {
		return func() error {
			_, err := Unpack(t.Context(), bytes.NewReader(data), int64(len(data)), read.Request{})
			return err
		}
	}
	tries := map[string]func() error{
		"a tab without end":  func() error { _, err := Import("x.tab", flood, read.Request{}); return err },
		"a zip bomb":         unpack(zipped(9, 15<<20)),
		"a zip of thousands": unpack(zipped(2100, 1)),
		"an empty zip":       unpack(zipped(0, 0)),
		"no zip":             unpack([]byte("PK")),
	}
	large := make([]byte, 50<<20)
	for _, f := range Formats() {
		tries["50 MB as "+f.Name] = func() error { _, err := Import("x"+f.Ending, large, read.Request{}); return err }
	}
	for name, try := range tries {
		began := time.Now()
		err := try()
		if err == nil || strings.Contains(err.Error(), "\n") {
			t.Errorf("%s: %v", name, err)
		}
		if took := time.Since(began); took > time.Minute { // it hangs, not: it is slow
			t.Errorf("%s took %v", name, took)
		}
	}
}
