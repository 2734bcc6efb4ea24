package lick

import (
	"bytes"
	"encoding/json"
	"fmt"

	"ornamen/core/music"
	"ornamen/core/text"
)

// Encode writes the lick file, one note a line. Reading it back gives the same lick. Equal licks give equal bytes,
// which is what revisions are compared by. Fields with their usual value are written around the notes and left out
// within them.
func (l Lick) Encode() []byte {
	var b bytes.Buffer
	field := func(name string, v any) {
		fmt.Fprintf(&b, "  %q: %s,\n", name, compact(v))
	}
	b.WriteString("{\n")
	fmt.Fprintf(&b, "  \"format\": %q, \"version\": %d,\n", Format, Version)
	field("title", l.Title)
	field("tags", orEmpty(l.Tags))
	names := text.Map(l.Tuning, music.Pitch.String)
	field("tuning", names)
	if l.Key.Tonic != "" {
		field("key", l.Key.filled())
	}
	field("meter", l.Meter.String())
	field("tempo", l.Tempo)
	field("feel", string(l.Feel))
	field("pickup", l.Pickup)
	field("loop", l.Loop)
	field("chords", orEmpty(l.Chords))
	if l.Recipe != "" {
		field("recipe", l.Recipe)
	}
	if len(l.Keys) > 0 {
		spans := make([]KeySpan, len(l.Keys))
		for i, s := range l.Keys {
			spans[i] = KeySpan{s.At, s.Key.filled()}
		}
		field("keys", spans)
	}
	if len(l.Parts) > 0 {
		parts := make([]filePart, len(l.Parts))
		for i, p := range l.Parts {
			parts[i] = filePart{[2]int{p.From + 1, p.To}, p.Recipe}
		}
		field("parts", parts)
	}
	b.WriteString("  \"notes\": [")
	for i, n := range l.Notes {
		if i > 0 {
			b.WriteByte(',')
		}
		fmt.Fprintf(&b, "\n    %s", compact(n))
	}
	if len(l.Notes) > 0 {
		b.WriteString("\n  ")
	}
	b.WriteString("]\n}\n")
	return b.Bytes()
}

// compact is JSON of our own types, which cannot fail to encode.
func compact(v any) []byte {
	var b bytes.Buffer
	e := json.NewEncoder(&b)
	e.SetEscapeHTML(false)
	if err := e.Encode(v); err != nil {
		panic("lick: " + err.Error())
	}
	return bytes.TrimRight(b.Bytes(), "\n")
}

// filled is the key with lists that are written even where nothing is in them.
func (k Key) filled() Key {
	k.Add, k.Drop = orEmpty(k.Add), orEmpty(k.Drop)
	return k
}

// orEmpty writes a list that has nothing in it as [], not null.
func orEmpty[T any](s []T) []T {
	if s == nil {
		return []T{}
	}
	return s
}

// MarshalJSON writes the lick file.
func (l Lick) MarshalJSON() ([]byte, error) { return l.Encode(), nil }
