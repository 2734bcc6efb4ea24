package store

import (
	"bytes"
	"encoding/json"
	"maps"
	"slices"
)

// merged is JSON objects that were changed in two places put together: is, with the fields of mine that differ from
// was. Nil is an object without fields; a field that is not there is as one that was never set. both names the fields
// that were changed in both places, each to something else; then there is nothing to put together.
//
// As an example, was {size: medium, frets: 22}, mine {size: small, frets: 22} and is {size: medium, frets: 24} come to
// {size: small, frets: 24}.
func merged(was, mine, is []byte) (out []byte, both []string, err error) {
	var a, b, c map[string]json.RawMessage
	for _, x := range []struct {
		data []byte
		to   *map[string]json.RawMessage
	}{{was, &a}, {mine, &b}, {is, &c}} {
		if x.data == nil {
			continue
		}
		if err := json.Unmarshal(x.data, x.to); err != nil {
			return nil, nil, err
		}
	}
	if c == nil {
		c = map[string]json.RawMessage{}
	}
	fields := maps.Clone(b)
	maps.Copy(fields, a)
	for _, f := range slices.Sorted(maps.Keys(fields)) {
		switch {
		case bytes.Equal(a[f], b[f]), bytes.Equal(b[f], c[f]):
		case !bytes.Equal(a[f], c[f]):
			both = append(both, f)
		case b[f] == nil:
			delete(c, f)
		default:
			c[f] = b[f]
		}
	}
	if len(both) > 0 {
		return nil, both, nil
	}
	out, err = json.Marshal(c)
	return out, nil, err
}

// SettingsStaleError is a change of a player's settings that were changed elsewhere in the meantime. Fields are those
// that were set in both places; none where the whole was to go back or forward.
type SettingsStaleError struct{ Fields []string }

// Error is one sentence for the player.
func (e *SettingsStaleError) Error() string {
	if len(e.Fields) == 0 {
		return "the settings were changed elsewhere in the meantime; look at them again"
	}
	return "the same setting was changed elsewhere in the meantime; look at it again and repeat the change"
}
