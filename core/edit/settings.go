package edit

import (
	"fmt"
	"slices"
	"strconv"
	"strings"

	"ornamen/core/changes"
	"ornamen/core/lick"
	"ornamen/core/music"
)

// settingOf reads the edits of the lick around its notes; ok is false where the words are for a
// note. An error is a value that cannot be read. Whether it is within its limits is for the
// edit to say when it is applied.
func settingOf(w Words, l lick.Lick) (lick.Edit, bool, error) {
	value := strings.TrimSpace(w.Value)
	var s lick.Setting
	switch w.Do {
	case "title":
		s.Title = &value
	case "tags":
		tags := splitTags(value)
		s.Tags = &tags
	case "tempo":
		t, err := strconv.ParseFloat(value, 64)
		if err != nil {
			return nil, true, fmt.Errorf("%q is no tempo: write a number from %d to %d", clip(value), lick.MinTempo,
				lick.MaxTempo)
		}
		s.Tempo = &t
	case "meter":
		m, err := lick.ParseMeter(value)
		if err != nil {
			return nil, true, err
		}
		s.Meter = &m
	case "pickup":
		t, err := lick.ParseTime(value)
		if err != nil {
			return nil, true, err
		}
		s.Pickup = &t
	case "feel":
		feel := lick.Feel(value)
		s.Feel = &feel
	case "loop":
		loop := value == "yes"
		s.Loop = &loop
	case "chords":
		chords, err := changes.Parse(value, l.Meter, l.Pickup, l.Key.Tonic)
		return lick.SetChords{Chords: chords}, true, err
	case "tonic", "scale", "tone":
		k, err := keyOf(w.Do, value, l)
		if err != nil {
			return nil, true, err
		}
		s.Key = &k
	default:
		return nil, false, nil
	}
	return s, true, nil
}

// splitTags reads tags with commas between them.
// A tag that is there already is not added twice; none at all takes the tags away.
func splitTags(s string) []string {
	tags := []string{}
	for _, t := range strings.Split(s, ",") {
		if t = strings.TrimSpace(t); t != "" && !slices.Contains(tags, t) {
			tags = append(tags, t)
		}
	}
	return tags
}

// keyOf is the lick's key with one thing changed. With a new scale the added
// tones that are in it already go, and so do the dropped ones that are not.
// A line without tones gets A minor pentatonic first, so that a click on the rail is an answer
// and no error.
func keyOf(do, value string, l lick.Lick) (lick.Key, error) {
	k := l.Clone().Key
	if k.Tonic == "" {
		k = lick.Key{Tonic: "A", Scale: "minor pentatonic"}
	}
	switch do {
	case "tonic":
		k.Tonic = value
	case "scale":
		sc, err := music.ParseScale(value)
		if err != nil {
			return k, err
		}
		k.Scale = sc.Name
		has := func(s string) bool {
			d, err := music.ParseDegree(strings.Split(s, "@")[0])
			return err == nil &&
				slices.ContainsFunc(sc.Degrees, func(o music.Degree) bool { return o.Semitones() == d.Semitones() })
		}
		k.Add = slices.DeleteFunc(k.Add, has)
		k.Drop = slices.DeleteFunc(k.Drop, func(s string) bool { return !has(s) })
	case "tone":
		return k.Toggle(value)
	}
	return k, nil
}
