package testline

import (
	"math/rand/v2"

	"ornamen/core/lick"
	"ornamen/core/music"
)

// Random is a lick with all that a lick may carry; some are invalid, where notes overlap on a string.
//
// It is what the round trips of every format are tried on: odd titles, seven strings, a recipe
// or parts, keys that change, chords, rests, notes that sound together, each note with some of
// all that a note can have. The same source of chance gives the same licks, so that a failure
// can be seen again. Callers go on with another one where lick.Parse refuses it.
func Random(rng *rand.Rand) lick.Lick {
	l := lick.New()
	pick := func(words ...string) string { return words[rng.IntN(len(words))] }
	l.Title = pick("", "Weir", " two  spaces ", "a: colon", "line\nbreak", `"quoted"`, "Sleet, and more")
	for range rng.IntN(3) {
		l.Tags = append(l.Tags, pick("bends", "warm up", "a, b", " x"))
	}
	if rng.IntN(3) == 0 {
		l.Tuning = []music.Pitch{64, 59, 55, 50, 45, 40, 35}[:4+rng.IntN(4)]
	}
	l.Tempo = []float64{60, 92.5, 133.3333}[rng.IntN(3)]
	l.Meter = lick.Meter{Beats: 3 + rng.IntN(4), Unit: []int{4, 8}[rng.IntN(2)]}
	l.Feel = lick.Feel(pick("straight", "shuffle"))
	l.Loop = rng.IntN(3) == 0
	if rng.IntN(2) == 0 {
		l.Key = lick.Key{Tonic: pick("C#", "Bb", "A"), Scale: pick("minor pentatonic", "1 9 b3 4 5 b7"),
			Add: []string{"b5@down"}}
		if rng.IntN(2) == 0 {
			l.Keys = []lick.KeySpan{
				{At: lick.NewTime(1, 4), Key: lick.Key{Tonic: "F#", Scale: "phrygian", Drop: []string{"4"}}}}
		}
	}
	if rng.IntN(3) == 0 {
		l.Pickup = lick.NewTime(1, 8)
	}
	if rng.IntN(3) == 0 {
		l.Chords = []lick.Chord{
			{Len: lick.NewTime(1, 2), Name: "C#m7"},
			{At: lick.NewTime(1, 2), Len: lick.NewTime(1, 1), Name: "F#7"},
		}
	}
	lengths := []lick.Time{lick.NewTime(1, 16), lick.NewTime(1, 8), lick.NewTime(1, 12), lick.NewTime(3, 16)}
	at := lick.Time{}
	if rng.IntN(3) == 0 {
		at = lick.NewTime(1, 8)
	}
	for range 1 + rng.IntN(14) {
		length := lengths[rng.IntN(len(lengths))]
		strs := rng.Perm(len(l.Tuning))
		for _, s := range strs[:1+rng.IntN(2)] {
			l.Notes = append(l.Notes, randomNote(rng, at, length, s+1))
		}
		if at = at.Add(length); rng.IntN(5) == 0 {
			at = at.Add(lick.NewTime(1, 8))
		}
	}
	l.Sort()
	switch rng.IntN(4) {
	case 0:
		l.Recipe = `--key "A minor" --cell "1 2"`
	case 1:
		l.Parts = []lick.Part{{From: 0, To: len(l.Notes), Recipe: `--cell "\\3 ha2"`}}
	}
	return l
}

// randomNote is a note at a place with traits by chance, each rare enough that most notes are
// plain; not all of them can be played.
func randomNote(rng *rand.Rand, at, length lick.Time, str int) lick.Note {
	one := func(n int) bool { return rng.IntN(n) == 0 }
	n := lick.Note{At: at, Len: length, String: str, Fret: rng.IntN(24), Mute: one(8), Palm: one(8), Ghost: one(8),
		Rake: one(8), Barre: one(8), Accent: one(6)}
	n.Finger = lick.Finger(rng.IntN(7))
	n.Stroke = []lick.Stroke{"", lick.Down, lick.Up, lick.PThumb, lick.PIndex, lick.PMid, lick.PRing}[rng.IntN(7)]
	if one(3) {
		n.Slur = []lick.Slur{lick.Hammer, lick.Pull, lick.Slide, lick.Shift}[rng.IntN(4)]
		if n.Slur.Slurred() {
			n.Stroke = ""
		}
	}
	if one(4) {
		n.Bend = &lick.Bend{Semitones: []float64{0.5, 1, 2, 3, 4}[rng.IntN(5)], Shape: lick.BendShapes()[rng.IntN(4)]}
		if one(2) {
			n.Bend.Push = []lick.Push{lick.ToThick, lick.ToThin}[rng.IntN(2)]
		}
		if one(2) {
			n.Bend.With = []lick.Finger{lick.Middle, lick.Index}[:1+rng.IntN(2)]
		}
	}
	if one(5) {
		n.Vibrato = &lick.Vibrato{Width: []lick.Width{lick.Narrow, lick.Wide}[rng.IntN(2)],
			Speed: []lick.Speed{lick.Slow, lick.Fast}[rng.IntN(2)]}
	}
	if one(6) {
		n.SlideIn = &lick.SlideIn{Frets: 1 + rng.IntN(lick.MaxSlideIn),
			From: []lick.From{lick.FromBelow, lick.FromAbove}[rng.IntN(2)]}
	}
	if one(6) {
		n.Voice = lick.VoiceBass
	}
	if one(6) {
		n.Meant = []lick.Code{"note-outside", `odd, "one"`}[:1+rng.IntN(2)]
	}
	fields := []lick.Field{lick.FieldFinger, lick.FieldStroke, lick.FieldSlur, lick.FieldBend, lick.FieldString,
		lick.FieldLen}
	for _, k := range rng.Perm(len(fields))[:rng.IntN(3)] {
		n.Lock = append(n.Lock, fields[k])
	}
	return n
}
