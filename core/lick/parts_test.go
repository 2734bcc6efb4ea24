package lick

import (
	"strings"
	"testing"

	"ornamen/core/neck"
)

// spanned is a lick of eight notes in two keys, grown in two parts.
func spanned(t *testing.T) Lick {
	t.Helper()
	l := New()
	l.Key = Key{Tonic: "A", Scale: "minor pentatonic"}
	for i := range 8 {
		l.Notes = append(l.Notes, Note{At: NewTime(int64(i), 8), Len: NewTime(1, 8), String: 1 + i%3, Fret: 5 + i})
	}
	l.Keys = []KeySpan{{At: NewTime(1, 2), Key: Key{Tonic: "A", Scale: "dorian", Add: []string{"b5"}}}}
	l.Parts = []Part{{0, 4, "--key A"}, {4, 8, "--key B"}}
	out, err := Parse(l.Encode())
	if err != nil {
		t.Fatal(err)
	}
	return out
}

// Tones by span and parts come back from the file, hold where they should, and follow the
// edits of the line.
func TestSpansAndParts(t *testing.T) {
	l := spanned(t)
	if p, ok := l.PaletteAt(NewTime(3, 8)); !ok || p.Scale.Name != "minor pentatonic" {
		t.Errorf("before the span: %v", p.Scale.Name)
	}
	if p, ok := l.PaletteAt(NewTime(1, 2)); !ok || p.Scale.Name != "dorian" || len(p.Colours()) != 1 {
		t.Errorf("in the span: %v", p.Scale.Name)
	}
	for _, c := range []struct {
		name string
		edit Edit
		want []Part
		at   Time
	}{
		{
			name: "a note put in",
			edit: Insert{After: 1, Place: neck.Place{String: 6, Fret: 5}, Len: NewTime(1, 8)},
			want: []Part{{0, 5, "--key A"}, {5, 9, "--key B"}},
			at:   NewTime(5, 8),
		},
		{
			name: "a note at the seam",
			edit: Insert{After: 3, Place: neck.Place{String: 6, Fret: 5}, Len: NewTime(1, 8)},
			want: []Part{{0, 4, "--key A"}, {5, 9, "--key B"}},
			at:   NewTime(5, 8),
		},
		{
			name: "a note sounding along",
			edit: Add{Note: 3, Place: neck.Place{String: 6, Fret: 5}},
			want: []Part{{0, 5, "--key A"}, {5, 9, "--key B"}},
			at:   NewTime(1, 2),
		},
		{
			name: "a note taken out",
			edit: Remove{Note: 5},
			want: []Part{{0, 4, "--key A"}, {4, 7, "--key B"}},
			at:   NewTime(1, 2),
		},
		{
			name: "a note made longer",
			edit: Length{Note: 0, Len: NewTime(1, 4)},
			want: []Part{{0, 4, "--key A"}, {4, 8, "--key B"}},
			at:   NewTime(5, 8),
		},
	} {
		got, err := c.edit.Apply(l)
		if err != nil {
			t.Errorf("%s: %v", c.name, err)
			continue
		}
		if len(got.Parts) != 2 || got.Parts[0] != c.want[0] || got.Parts[1] != c.want[1] ||
			got.Keys[0].At.Cmp(c.at) != 0 {
			t.Errorf("%s: %v and %v, want %v and %v", c.name, got.Parts, got.Keys[0].At, c.want, c.at)
		}
	}
	if _, k, ok := l.PartOf(5); !ok || k != 1 {
		t.Error("note 6 is in no part")
	}
	for _, c := range []struct{ from, to, says string }{
		{`"notes":[5,8]`, `"notes":[4,8]`, "part 2 does not lie after"},
		{`"notes":[5,8]`, `"notes":[5,9]`, "part 2"},
		{`"scale":"dorian"`, `"scale":"x"`, "span 1"},
		{`"at":"1/2","tonic"`, `"at":"1/2","colour":"x","tonic"`, "unknown field"},
	} {
		text := strings.Replace(string(l.Encode()), c.from, c.to, 1)
		if _, err := Parse([]byte(text)); err == nil || !strings.Contains(err.Error(), c.says) {
			t.Errorf("%s: %v, want %q", c.to, err, c.says)
		}
	}
}
