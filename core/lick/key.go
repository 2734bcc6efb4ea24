package lick

import (
	"slices"
	"strings"

	"ornamen/core/music"
)

// With is the key with a tone among the chosen ones, or without it: an outside tone is added or let go,
// a tone of the scale brought back or dropped. The receiver is not touched.
func (k Key) With(value string, in bool) (Key, error) {
	d, err := music.ParseDegree(value)
	if err != nil {
		return k, err
	}
	sc, err := music.ParseScale(k.Scale)
	if err != nil {
		return k, err
	}
	same := func(s string) bool {
		o, err := music.ParseDegree(strings.Split(s, "@")[0])
		return err == nil && o.Semitones() == d.Semitones()
	}
	ofScale := slices.ContainsFunc(sc.Degrees, func(o music.Degree) bool { return o.Semitones() == d.Semitones() })
	k.Add, k.Drop = slices.Clone(k.Add), slices.Clone(k.Drop)
	list, listed := &k.Add, in // the list that says something of the tone, and whether it has to be on it
	if ofScale {
		list, listed = &k.Drop, !in
	}
	switch has := slices.ContainsFunc(*list, same); {
	case listed && !has:
		*list = append(*list, d.String())
	case !listed:
		*list = slices.DeleteFunc(*list, same)
	}
	return k, nil
}

// Same says whether two keys are the same tones under the same name.
func (k Key) Same(o Key) bool {
	return k.Tonic == o.Tonic && k.Scale == o.Scale && slices.Equal(k.Add, o.Add) && slices.Equal(k.Drop, o.Drop)
}

// Has says whether a tone is among the chosen ones.
func (k Key) Has(value string) bool {
	d, err := music.ParseDegree(value)
	if err != nil {
		return false
	}
	p, ok := Lick{Key: k}.Palette()
	return ok && p.Has(d)
}
