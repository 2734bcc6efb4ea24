package lick

import (
	"slices"
	"strings"

	"ornamen/core/music"
)

// Toggle adds an outside tone, takes a colour away, drops a scale tone or
// brings it back. The receiver is not touched.
func (k Key) Toggle(value string) (Key, error) {
	d, err := music.ParseDegree(value)
	if err != nil {
		return k, err
	}
	same := func(s string) bool {
		o, err := music.ParseDegree(strings.Split(s, "@")[0])
		return err == nil && o.Semitones() == d.Semitones()
	}
	k.Add, k.Drop = slices.Clone(k.Add), slices.Clone(k.Drop)
	switch {
	case slices.ContainsFunc(k.Add, same):
		k.Add = slices.DeleteFunc(k.Add, same)
	case slices.ContainsFunc(k.Drop, same):
		k.Drop = slices.DeleteFunc(k.Drop, same)
	default:
		sc, err := music.ParseScale(k.Scale)
		if err != nil {
			return k, err
		}
		if slices.ContainsFunc(sc.Degrees, func(o music.Degree) bool { return o.Semitones() == d.Semitones() }) {
			k.Drop = append(k.Drop, d.String())
		} else {
			k.Add = append(k.Add, d.String())
		}
	}
	return k, nil
}
