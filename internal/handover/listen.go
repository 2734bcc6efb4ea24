package handover

import (
	"context"
	"fmt"
	"strings"

	"ornamen/core/hear"
	"ornamen/core/judge"
	"ornamen/core/lick"
	"ornamen/core/music"
	"ornamen/core/neck"
	"ornamen/core/say"
	"ornamen/core/sound"
	"ornamen/format/read"
)

// Listen writes a recording of a single-note line down as a lick: its times at a tempo, or at the one that explains
// them best where it is 0, its places found for the player's hand, its key as given or guessed. Notes that were
// unsure are remarked. The error is one sentence, or the context's.
func Listen(ctx context.Context, e *judge.Engine, wav []byte, tempo float64, key string) (r read.Result, err error) {
	if tempo != 0 && (tempo < lick.MinTempo || tempo > lick.MaxTempo) {
		return r, fmt.Errorf("a tempo of %g is none; use %d to %d", tempo, lick.MinTempo, lick.MaxTempo)
	}
	l := lick.New()
	l.Title = "Played in"
	if key = strings.TrimSpace(key); key != "" {
		if _, err := music.ParseKey(key, nil, nil); err != nil {
			return r, err
		}
		l.Key.Tonic, l.Key.Scale, _ = strings.Cut(key, " ")
	}
	samples, rate, err := sound.ReadWAV(wav)
	if err != nil {
		return r, err
	}
	notes, err := hear.Played(ctx, samples, rate)
	if err != nil {
		return r, err
	}
	g := e.Player.Guitar
	time := hear.OnGrid(notes, tempo)
	l.Tempo, l.Tuning = time.Tempo, g.Tuning
	pitches := make([]music.Pitch, len(notes))
	for i, n := range notes {
		pitches[i] = n.Pitch
	}
	by := read.Octaves(g, pitches)
	last := neck.Place{String: 3, Fret: 5}
	var unsure []string
	for i, n := range notes {
		x := lick.Note{At: time.At[i], Len: time.Len[i]}
		p, ok := read.Near(g, &l, x, n.Pitch+by, last)
		if !ok {
			continue // a tone outside of the guitar's range: a noise
		}
		x.String, x.Fret, last = p.String, p.Fret, p
		if p.Fret > 0 && n.Bend > 0 {
			x.Bend = &lick.Bend{Semitones: n.Bend, Shape: lick.ShapeOf(false, n.Release)}
		}
		if p.Fret > 0 && n.Vibrato {
			x.Vibrato = &lick.Vibrato{Width: lick.Narrow, Speed: lick.Slow}
		}
		l.Notes = append(l.Notes, x)
		if n.Unsure || time.Unsure[i] {
			unsure = append(unsure, fmt.Sprint(len(l.Notes)))
			r.Unsure = append(r.Unsure, len(l.Notes))
		}
	}
	if len(l.Notes) == 0 {
		return r, fmt.Errorf("no tone of this guitar is heard")
	}
	if err := r.Finish(l, l.Notes); err != nil {
		return r, err
	}
	if err := lay(ctx, e, &r); err != nil {
		return r, err
	}
	slurred(&r.Lick, notes)
	r.Remarks = nil
	r.FitKey(&r.Lick)
	how := "at the tempo that was given"
	if tempo == 0 {
		how = "which is guessed"
	}
	r.Remarks = append([]string{fmt.Sprintf("%s written down at %g quarters a minute, %s; the first is taken as beat 1.",
		say.Count(len(l.Notes), "note"), time.Tempo, how)}, r.Remarks...)
	if len(unsure) > 0 {
		which := "notes"
		if len(unsure) == 1 {
			which = "note"
		}
		r.Remark("Unsure: %s %s.", which, strings.Join(unsure, ", "))
	}
	return r, nil
}

// slurred takes notes that had no attack as hammered or pulled where they lie on the string of the note before.
func slurred(l *lick.Lick, notes []hear.PlayedNote) {
	if len(notes) != len(l.Notes) {
		return
	}
	for i := 1; i < len(l.Notes); i++ {
		a, b := l.Notes[i-1], &l.Notes[i]
		if notes[i].Struck || a.String != b.String || a.Fret == b.Fret || a.End().Before(b.At) {
			continue
		}
		switch {
		case b.Fret > a.Fret:
			b.Slur = lick.Hammer
		case a.Fret > 0:
			b.Slur = lick.Pull
		}
	}
}
