package lick

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"strconv"
	"strings"

	"ornamen/core/music"
	"ornamen/core/text"
)

// Format and Version mark a lick file.
const (
	Format  = "ornamen-lick"
	Version = 1
)

// MaxBytes is the largest lick file that is read.
const MaxBytes = 16 << 20

// filePart is a part by its first and last note, counted from 1.
type filePart struct {
	Notes  [2]int `json:"notes"`
	Recipe string `json:"recipe"`
}

// file is the whole lick file. Notes and chords stay raw until each is read alone, so that an error can say which one
// it is in. Pointers tell what is left out from what is empty or 0.
type file struct {
	Format  string            `json:"format"`
	Version int               `json:"version"`
	Title   string            `json:"title"`
	Tags    []string          `json:"tags"`
	Tuning  []string          `json:"tuning"`
	Key     *Key              `json:"key"`
	Meter   *string           `json:"meter"`
	Tempo   *float64          `json:"tempo"`
	Feel    *Feel             `json:"feel"`
	Pickup  Time              `json:"pickup"`
	Loop    bool              `json:"loop"`
	Chords  []json.RawMessage `json:"chords"`
	Recipe  string            `json:"recipe"`
	Keys    []KeySpan         `json:"keys"`
	Parts   []filePart        `json:"parts"`
	Notes   []json.RawMessage `json:"notes"`
}

// byteOrderMark is put before a file by some editors.
var byteOrderMark = []byte("\xef\xbb\xbf")

// checkKeys refuses what encoding/json lets pass: a field named twice in one object, of which it would take the last,
// and one in other letters than ours, which are all small. Fields that are strings are told from values by walking the
// tokens with a stack of the objects that are open.
func checkKeys(data []byte) error {
	d := json.NewDecoder(bytes.NewReader(data))
	var open []map[string]bool // the fields of each object that is open; nil for a list
	key := false               // the next string names a field
	for {
		t, err := d.Token()
		if err != nil {
			return nil // the end, or what the reading that follows says better
		}
		top := func() map[string]bool {
			if len(open) == 0 {
				return nil
			}
			return open[len(open)-1]
		}
		switch t := t.(type) {
		case json.Delim:
			switch t {
			case '{':
				open, key = append(open, map[string]bool{}), true
				continue
			case '[':
				open = append(open, nil)
			default:
				open = open[:len(open)-1]
			}
		case string:
			if seen := top(); key && seen != nil {
				switch {
				case seen[t]:
					return fmt.Errorf("the field %q is there twice", text.Clip(t, 40))
				case strings.ToLower(t) != t:
					return fmt.Errorf("unknown field %q", text.Clip(t, 40))
				}
				seen[t], key = true, false
				continue
			}
		}
		key = top() != nil
	}
}

// Parse reads a lick file strictly: unknown fields, values out of range and notes that overlap on a string are errors
// of one sentence that name the note as it is numbered in the file.
//
// Notes may stand in any order; the lick has them in playing order. Fields that are left out have the values of New. A
// version of this program reads every file that it or an older one wrote.
func Parse(data []byte) (Lick, error) {
	if len(data) > MaxBytes {
		return Lick{}, fmt.Errorf("the file is larger than %d MB", MaxBytes>>20)
	}
	data = bytes.TrimPrefix(data, byteOrderMark)
	if err := checkKeys(data); err != nil {
		return Lick{}, err
	}
	var head struct {
		Format  *string          `json:"format"`
		Version *int             `json:"version"`
		Notes   *json.RawMessage `json:"notes"`
	}
	if err := json.Unmarshal(data, &head); err != nil {
		return Lick{}, plain(err, len(data))
	}
	switch {
	case head.Format == nil || *head.Format != Format:
		return Lick{}, fmt.Errorf("this is not a lick file: \"format\" must be %q", Format)
	case head.Version == nil || *head.Version < 1:
		return Lick{}, fmt.Errorf("\"version\" must be %d", Version)
	case *head.Version > Version:
		return Lick{}, fmt.Errorf("the file has version %d; this program reads up to version %d", *head.Version,
			Version)
	case head.Notes == nil:
		return Lick{}, errors.New("\"notes\" is missing")
	}
	var f file
	if err := strict(data, &f); err != nil {
		return Lick{}, err
	}
	l, err := f.lick()
	if err != nil {
		return Lick{}, err
	}
	if err := l.Validate(); err != nil {
		return Lick{}, err
	}
	l.Sort()
	return l, nil
}

// lick turns the file's parts into a lick; an error names the chord or the note it lies in. It does not yet say whether
// the values fit together; Validate does.
func (f file) lick() (Lick, error) {
	l := New()
	l.Title, l.Tags, l.Pickup, l.Loop, l.Recipe, l.Keys = f.Title, f.Tags, f.Pickup, f.Loop, f.Recipe, f.Keys
	if f.Tuning != nil {
		l.Tuning = nil
		for i, s := range f.Tuning {
			p, err := music.ParsePitch(s)
			if err != nil {
				return l, fmt.Errorf("tuning, string %d: %w", i+1, err)
			}
			l.Tuning = append(l.Tuning, p)
		}
	}
	if f.Key != nil {
		if l.Key = *f.Key; l.Key.Tonic == "" {
			return l, errors.New("the key needs a tonic, such as C#")
		}
	}
	if f.Meter != nil {
		m, err := ParseMeter(*f.Meter)
		if err != nil {
			return l, err
		}
		l.Meter = m
	}
	assign(&l.Tempo, f.Tempo)
	assign(&l.Feel, f.Feel)
	for i, raw := range f.Chords {
		var c Chord
		if err := strict(raw, &c); err != nil {
			return l, fmt.Errorf("chord %d: %w", i+1, err)
		}
		l.Chords = append(l.Chords, c)
	}
	for _, p := range f.Parts {
		l.Parts = append(l.Parts, Part{p.Notes[0] - 1, p.Notes[1], p.Recipe})
	}
	if len(f.Notes) > MaxNotes {
		return l, fmt.Errorf("the lick has %d notes; at most %d are read", len(f.Notes), MaxNotes)
	}
	for i, raw := range f.Notes {
		n, err := parseNote(raw)
		if err != nil {
			return l, fmt.Errorf("note %d: %w", i+1, err)
		}
		l.Notes = append(l.Notes, n)
	}
	return l, nil
}

// parseNote reads one note strictly. Where it sounds and how long cannot be left out, everything else can.
func parseNote(raw json.RawMessage) (Note, error) {
	var need struct {
		At, Len, String, Fret *json.RawMessage
	}
	if err := json.Unmarshal(raw, &need); err != nil {
		return Note{}, plain(err, len(raw))
	}
	for _, f := range []struct {
		name string
		raw  *json.RawMessage
	}{{"at", need.At}, {"len", need.Len}, {"string", need.String}, {"fret", need.Fret}} {
		if f.raw == nil {
			return Note{}, fmt.Errorf("%q is missing", f.name)
		}
	}
	var n Note
	err := strict(raw, &n)
	if n.Voice == "line" {
		n.Voice = ""
	}
	return n, err
}

// strict decodes one JSON value and refuses unknown fields and what follows it. The error is in a player's words.
func strict(data []byte, v any) error {
	d := json.NewDecoder(bytes.NewReader(data))
	d.DisallowUnknownFields()
	if err := d.Decode(v); err != nil {
		return plain(err, len(data))
	}
	if _, err := d.Token(); err != io.EOF {
		return errors.New("something follows the end of the lick")
	}
	return nil
}

// plain turns the decoder's errors into a player's words; size is that of the text in bytes.
func plain(err error, size int) error {
	var syntax *json.SyntaxError
	var typ *json.UnmarshalTypeError
	switch {
	case errors.Is(err, io.ErrUnexpectedEOF) || errors.Is(err, io.EOF):
		return errors.New("the file is cut off")
	case errors.As(err, &syntax):
		if syntax.Offset >= int64(size) {
			return errors.New("the file is cut off")
		}
		return fmt.Errorf("this is not a lick file: it stops making sense at byte %d", syntax.Offset)
	case errors.As(err, &typ):
		field := typ.Field
		if field == "" {
			return fmt.Errorf("a %s stands where it does not belong", typ.Value)
		}
		return fmt.Errorf("%q cannot be a %s", field, typ.Value)
	}
	return errors.New(strings.TrimPrefix(err.Error(), "json: "))
}

// ParseMeter reads "4/4", "6/8".
func ParseMeter(s string) (Meter, error) {
	b, u, ok := strings.Cut(s, "/")
	beats, err1 := strconv.Atoi(b)
	unit, err2 := strconv.Atoi(u)
	m := Meter{beats, unit}
	if !ok || err1 != nil || err2 != nil || !m.valid() {
		return Meter{}, fmt.Errorf("%q is not a meter: write one such as 4/4 or 6/8", text.Clip(s, 40))
	}
	return m, nil
}

// valid says whether the meter can be written and counted: 1 to 32 beats of a power of two.
func (m Meter) valid() bool {
	return m.Beats >= 1 && m.Beats <= 32 && m.Unit >= 1 && m.Unit <= 32 && m.Unit&(m.Unit-1) == 0
}

// String writes "4/4".
func (m Meter) String() string { return fmt.Sprintf("%d/%d", m.Beats, m.Unit) }

// MarshalJSON writes 0 to 4 or "T".
func (f Finger) MarshalJSON() ([]byte, error) {
	if f == Thumb {
		return []byte(`"T"`), nil
	}
	return []byte(f.String()), nil
}

// UnmarshalJSON reads 0 to 4 or "T".
func (f *Finger) UnmarshalJSON(b []byte) error {
	v, err := ParseFinger(strings.Trim(string(b), `"`))
	if err != nil || (b[0] == '"') != (v == Thumb) {
		return fmt.Errorf("finger %s is none: use 0 to 4 or \"T\"", text.Clip(string(b), 40))
	}
	*f = v
	return nil
}

// ParseFinger reads what String writes, "" excepted.
func ParseFinger(s string) (Finger, error) {
	for f := Index; f <= Thumb; f++ {
		if f.String() == s {
			return f, nil
		}
	}
	return NoFinger, fmt.Errorf("finger %q is none: use 0 to 4 or T", text.Clip(s, 40))
}
