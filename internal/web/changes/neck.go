package changes

import (
	"fmt"
	"html/template"
	"slices"
	"strings"

	"ornamen/core/changes"
	"ornamen/core/lick"
	"ornamen/core/music"
	"ornamen/core/neck"
	"ornamen/internal/web/draw"
	"ornamen/internal/web/page"
	"ornamen/internal/web/view"
)

// neckOver is one place on the neck with the tones that are played over the chord that is pointed at: those of
// the key, or each chord's own. Tones that come new with the chord are marked.
type neckOver struct {
	Neck   template.HTML
	Where  string        // "frets 5 to 8"
	Tones  string        // "A mixolydian"
	New    string        // "new here: F♯, the 3; gone: F"
	Places []view.Choice // other places, along the neck
	Grips  []gripRow
}

// gripRow is a grip of the chord with the way to carry the line on top of it.
type gripRow struct {
	Text, Name, Strings string
	Move                string // empty where no line can be carried
}

// placeFrets is how many frets of the neck one place has, and places how far apart they lie.
const (
	placeFrets = 5
	placesStep = 3
)

// neckOf draws the place around a fret, of which 0 is where the line lies.
func neckOf(g neck.Guitar, l lick.Lick, r changes.Report, k, fret int, link func(fret int) string) *neckOver {
	p, ok := l.PaletteAt(r.Chords[k].At)
	if !ok {
		return nil
	}
	low := fret
	if low == 0 {
		low = lineFret(l)
	}
	low = max(1, min(low, g.Frets-placeFrets+1))
	high := low + placeFrets - 1
	v := &neckOver{Where: fmt.Sprintf("frets %d to %d", low, high), Tones: p.Pretty()}
	before := map[int]bool{}
	if k > 0 {
		if was, ok := l.PaletteAt(r.Chords[k-1].At); ok {
			for _, t := range was.Tones {
				before[t.Name.Class()] = true
			}
		}
	}
	chord := r.Chords[k].Chord
	n := draw.Neck{
		Guitar: g,
		From:   max(0, low-2),
		To:     min(g.Frets, high+2),
		Area:   [2]int{low, high},
		Width:  908,
		Still:  true,
		Label:  "The tones over " + chord.Name,
	}
	for s := 1; s <= len(g.Tuning); s++ {
		for f := low; f <= high; f++ {
			at := neck.Place{String: s, Fret: f}
			t := p.At(g.Pitch(at))
			if t.Role == music.Outside {
				continue
			}
			d, role := changes.Of(chord, &p, g.Pitch(at))
			m := draw.Mark{Place: at, Label: d.Pretty(), Role: music.ScaleTone, Main: true}
			switch {
			case role == changes.Root:
				m.Role = music.Root
			case k > 0 && !before[t.Name.Class()]:
				m.Role = music.Colour
			}
			n.Marks = append(n.Marks, m)
		}
	}
	v.Neck = draw.NeckSVG(n)
	v.New = turnover(p, before, chord)
	for f := 1; f+placeFrets-1 <= g.Frets && f <= 13; f += placesStep {
		v.Places = append(v.Places, view.Choice{Name: fmt.Sprint(f), Link: link(f), On: f == low})
	}
	for _, thick := range []int{4, 5} {
		for _, x := range changes.Grips(g, chord, thick) {
			row := gripRow{Text: x.Text(), Name: x.Name(), Strings: fmt.Sprintf("strings %d to %d", thick, thick-3)}
			_, _, err := changes.GripUnder(g, l, x.Text())
			if thick == 4 && len(l.Notes) > 0 && err == nil {
				row.Move = "grip:" + x.Text()
			}
			v.Grips = append(v.Grips, row)
		}
	}
	return v
}

// turnover says which tones come with a chord and which go.
func turnover(p music.Palette, before map[int]bool, c music.Chord) string {
	if len(before) == 0 {
		return ""
	}
	var come []string
	has := map[int]bool{}
	for _, t := range p.Tones {
		has[t.Name.Class()] = true
		if !before[t.Name.Class()] {
			d, _ := c.Over(t.Name)
			come = append(come, fmt.Sprintf("%s, its %s", t.Name.Pretty(), d.Pretty()))
		}
	}
	var gone []string
	for class := range 12 {
		if before[class] && !has[class] {
			gone = append(gone, music.NameOf(class).Pretty())
		}
	}
	var parts []string
	if come != nil {
		parts = append(parts, "new: "+strings.Join(come, "; "))
	}
	if gone != nil {
		parts = append(parts, "gone: "+strings.Join(gone, ", "))
	}
	if parts == nil {
		return "the same tones as before"
	}
	return page.SentenceCase(strings.Join(parts, " · "))
}

// lineFret is the lowest fret of the place where most of a line lies.
func lineFret(l lick.Lick) int {
	frets := []int{}
	for _, n := range l.Notes {
		if n.Fret > 0 {
			frets = append(frets, n.Fret)
		}
	}
	if len(frets) == 0 {
		return 5
	}
	slices.Sort(frets)
	return max(1, frets[len(frets)/2]-placeFrets/2)
}
