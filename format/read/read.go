// Package read is what the readers of all formats share: what is asked of a file, what comes
// out of it, and how a pitch that names no string is laid on the neck.
//
// A reader gives a valid lick or an error of one sentence. What it chose, moved or left out
// stands among the remarks, one sentence each, so that nothing is dropped in silence.
package read

import (
	"archive/zip"
	"errors"
	"fmt"
	"io"
	"slices"
	"strings"

	"ornamen/core/key"
	"ornamen/core/lick"
	"ornamen/core/music"
	"ornamen/core/neck"
	"ornamen/core/say"
	"ornamen/core/text"
)

// Request is what the one who reads has chosen; the zero value chooses nothing.
type Request struct {
	Line   int         // which of the lines that the file holds, from 1; 0 is the one with the most notes
	Guitar neck.Guitar // for lines that say no tuning; without strings it is the standard one
	Room   *int64      // bytes that may still be unpacked, of several files together; nil: as many as one may have
}

// On is the guitar to lay a line on.
func (a Request) On() neck.Guitar {
	if len(a.Guitar.Tuning) == 0 {
		return neck.Standard()
	}
	return a.Guitar
}

// Line is one melody of a file.
type Line struct {
	Name  string
	Notes int
}

// Pick is which of the lines to read, from 0: the one asked for, else the first of those with the most notes.
func (a Request) Pick(lines []Line) (int, error) {
	if a.Line > len(lines) || a.Line < 0 {
		return 0, fmt.Errorf("there is no line %d: the file holds %d", a.Line, len(lines))
	}
	if a.Line > 0 {
		return a.Line - 1, nil
	}
	best := 0
	for i, x := range lines {
		if x.Notes > lines[best].Notes {
			best = i
		}
	}
	return best, nil
}

// Result is what a file says.
type Result struct {
	Lick    lick.Lick
	Remarks []string // a sentence each
	Lines   []Line   // to choose from
	Line    int      // which was read, from 0
	Chosen  []int    // notes, from 0, whose place the file does not say
	Unsure  []int    // notes, from 1, of a recording that were not clear
}

// Finish checks the lick as a lick file is checked, and finds the notes whose place was chosen in it again.
func (r *Result) Finish(l lick.Lick, chosen []lick.Note) (err error) {
	if r.Lick, err = lick.Parse(l.Encode()); err != nil {
		return err
	}
	type spot struct {
		at  lick.Time
		str int
	}
	is := map[spot]bool{}
	for _, n := range chosen {
		is[spot{n.At, n.String}] = true
	}
	for i, n := range r.Lick.Notes {
		if is[spot{n.At, n.String}] {
			r.Chosen = append(r.Chosen, i)
		}
	}
	return nil
}

// Fit has one string sound one note at a time, as files of several voices need not: a note ends where the next one on
// its string begins, and of two that begin together there the first stays. It says what it did.
func (r *Result) Fit(l *lick.Lick) {
	slices.SortStableFunc(l.Notes, func(a, b lick.Note) int { return a.At.Cmp(b.At) })
	last := map[int]int{} // string → its note before
	cut, gone := 0, 0
	kept := l.Notes[:0]
	for _, n := range l.Notes {
		if k, ok := last[n.String]; ok && n.At.Before(kept[k].End()) {
			if kept[k].At.Cmp(n.At) == 0 {
				gone++
				continue
			}
			kept[k].Len = n.At.Sub(kept[k].At)
			cut++
		}
		last[n.String] = len(kept)
		kept = append(kept, n)
	}
	l.Notes = kept
	if cut > 0 {
		r.Remark("%s shortened, as the next one on the same string begins before the end.", say.Count(cut, "note"))
	}
	if gone > 0 {
		r.Remark("Left out: %s whose string sounds another one at that moment.", say.Count(gone, "note"))
	}
}

// Remark adds a sentence.
func (r *Result) Remark(format string, args ...any) {
	r.Remarks = append(r.Remarks, fmt.Sprintf(format, args...))
}

// LeftOut says which lines of the file were not read.
func (r *Result) LeftOut() {
	var others []string
	for i, x := range r.Lines {
		if i != r.Line {
			others = append(others, fmt.Sprintf("%s with %s", x.Name, say.Count(x.Notes, "note")))
		}
	}
	if len(others) > 0 {
		r.Remark("The line is %s with %s; left out: %s.", r.Lines[r.Line].Name,
			say.Count(r.Lines[r.Line].Notes, "note"), strings.Join(others, ", "))
	}
}

// FitKey gives a line without a key the one that its notes fit best, and says how sure that is.
func (r *Result) FitKey(l *lick.Lick) {
	if l.Key.Tonic != "" {
		return
	}
	g, ok := key.Of(*l)
	k := lick.Key{Tonic: g.Tonic.String(), Scale: g.Scale, Add: g.Add}
	if ok {
		_, err := music.NewPalette(k.Tonic, k.Scale, k.Add, nil)
		ok = err == nil
	}
	if !ok {
		r.Remark("No key is written, and the tones are too few to guess one.")
		return
	}
	l.Key = k
	says := g.Tonic.Pretty() + " " + g.Scale
	if len(g.Add) > 0 {
		says += " with " + strings.ReplaceAll(strings.Join(g.Add, ", "), "b", "♭")
	}
	switch g.Sure {
	case key.Clear:
		r.Remark("No key is written; the notes are those of %s.", says)
	case key.Likely:
		r.Remark("No key is written; %s is likely, %s fits nearly as well.", says, g.Other)
	default:
		r.Remark("No key is written; %s is a guess, %s fits as well.", says, g.Other)
	}
}

// Unpacked is a file of a zip, no larger than a limit, by what it claims and by what comes out; the error calls it
// what. With an error comes what was unpacked.
func Unpacked(f *zip.File, limit int64, what string) ([]byte, error) {
	if limit < 0 || f.UncompressedSize64 > uint64(limit) {
		return nil, errors.New(what + " is too large")
	}
	r, err := f.Open()
	if err != nil {
		return nil, errors.New(what + " cannot be unpacked")
	}
	defer r.Close()
	data, err := io.ReadAll(io.LimitReader(r, limit+1))
	switch {
	case int64(len(data)) > limit:
		return data, errors.New(what + " is too large")
	case err != nil:
		return data, errors.New(what + " is damaged")
	}
	return data, nil
}

// Hold has each chord of a file that says where chords begin hold until the next one, the last one until the end; one
// that would last for no time lasts for a bar.
func Hold(chords []lick.Chord, end, bar lick.Time) {
	for i := range chords {
		until := end
		if i+1 < len(chords) {
			until = chords[i+1].At
		}
		if chords[i].Len = until.Sub(chords[i].At); !(lick.Time{}).Before(chords[i].Len) {
			chords[i].Len = bar
		}
	}
}

// MaxTitle is how many characters of a title are kept.
const MaxTitle = 200

// Clip shortens text to n characters and takes out what cannot be printed.
func Clip(s string, n int) string {
	return text.Cut(strings.Map(func(r rune) rune {
		if r < ' ' || r == 0xfffd || r == 0xfffe || r == 0xffff {
			return -1
		}
		return r
	}, strings.ToValidUTF8(s, "")), n)
}

// Named is a line's name, or what stands for none: "the third line".
func Named(name string, number int) string {
	if s := strings.TrimSpace(Clip(name, 40)); s != "" {
		return "“" + s + "”"
	}
	return fmt.Sprintf("line %d", number)
}

// Octaves is by how many half steps, whole octaves and as few as will do, pitches move so that
// the most of them lie on a guitar.
func Octaves(g neck.Guitar, pitches []music.Pitch) music.Pitch {
	best, most := music.Pitch(0), -1
	for _, by := range []music.Pitch{0, -12, 12, -24, 24, -36, 36} {
		n := 0
		for _, p := range pitches {
			if len(g.Places(p+by)) > 0 {
				n++
			}
		}
		if n > most {
			best, most = by, n
		}
	}
	return best
}

// OctavesWord says such a move: "two octaves lower".
func OctavesWord(by music.Pitch) string {
	way := "higher"
	if by < 0 {
		by, way = -by, "lower"
	}
	return []string{"", "an octave ", "two octaves ", "three octaves "}[by/12] + way
}

// Near is the place of a pitch nearest to the last one, on a string that no note of the line begins on then; what still
// sounds there ends, as one string sounds one note. Nearest is neck.Apart: a greedy walk that costs nothing and is good
// enough to be heard; the engine finds better places where there is one.
func Near(g neck.Guitar, l *lick.Lick, n lick.Note, pitch music.Pitch, last neck.Place) (best neck.Place, ok bool) {
	recent := l.Notes[max(0, len(l.Notes)-neck.MaxStrings):]
	best, ok = g.Best(pitch, func(p neck.Place) int {
		if slices.ContainsFunc(recent, func(m lick.Note) bool { return m.String == p.String && !m.At.Before(n.At) }) {
			return neck.OutOfReach
		}
		return neck.Apart(p, last)
	})
	for i := range recent {
		if m := &recent[i]; ok && m.String == best.String && n.At.Before(m.End()) {
			m.Len = n.At.Sub(m.At)
		}
	}
	return best, ok
}
