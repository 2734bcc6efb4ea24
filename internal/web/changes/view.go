package changes

import (
	"cmp"
	"context"
	"fmt"
	"html/template"
	"slices"
	"strings"

	"ornamen/core/changes"
	"ornamen/core/judge"
	"ornamen/core/lick"
	"ornamen/core/music"
	"ornamen/core/propose"
	"ornamen/core/say"
	"ornamen/core/text"
	"ornamen/internal/store"
	"ornamen/internal/web/draw"
	"ornamen/internal/web/page"
	"ornamen/internal/web/view"
)

// changesPage is all that the Changes screen shows. The screen answers, from the top: do the landings arrive, what does
// each tone mean over the chord that is pointed at, what could be done to the line.
type changesPage struct {
	ID, Rev  uint
	Ref      string           // that addresses name the lick by
	Window   *page.WindowView // of a long one
	Title    string
	Text     string // the changes as they are typed
	Tempo    float64
	Clean    int
	By       string
	Drawing  template.HTML
	Line     template.HTML // without chords
	Legend   []legendRow
	Verdict  string // "Two landings miss"
	Class    string // flows, tight: how it is coloured
	Count    string
	Found    []view.Finding
	Over     string // the chord that is pointed at
	Added    string // the tones added to the key over it
	Tones    []overRow
	Shared   string
	Scales   string
	Lacks    string
	Movable  bool // there is a way to move the line over its chords
	Forms    []view.Choice
	Saved    []savedChanges
	Vamp     string // an accompaniment that shows the scale
	VampText string
	Schools  []view.Choice // by which scale the tones are judged
	Rests    []restRow
	Landings []landingRow
	Said     []string // of the last move, of the bass
	OnNeck   *neckOver
	Licks    []view.Choice // to open instead
	Alone    *backingForm  // chords without a lick
	AloneURL string        // the same chords without the lick
	Fret     int
	Previous string
	Next     string
}

// legendRow explains a mark.
type legendRow struct{ Role, Word string }

// overRow is a tone of the palette over the chord. Degree is the tone's in the key, Over the same tone's over the
// chord: the ♭3 of A minor is the ♭7 of D7.
type overRow struct{ Degree, Name, Over, Words, Role string }

// savedChanges are chords kept by name.
type savedChanges struct {
	ID         uint
	Name, Line string
}

// changesView reads the lick against its chords: by the key's palette, or with By "chord" by
// each chord's own scale. Without chords it shows the line and the moves that need none.
//
// The chord of the form counts from 1 and is held within those there are, so that an address
// outlives a chord that was taken away. The error is the notebook's.
func (a Screen) changesView(ctx context.Context, e store.Entry, f changesForm,
	to func(chord int, by string, fret int) string) (*changesPage, error) {
	l := e.Lick
	var rep *judge.Report
	var err error
	if e.ID > 0 {
		rep, err = a.Mended(ctx, e)
	} else {
		rep, err = page.EngineOf(ctx).Check(ctx, l)
	}
	if err != nil {
		return nil, err
	}
	judged := l
	if f.By == "chord" {
		judged = changes.FollowChords(l)
	}
	r := changes.Read(judged)
	ref := page.RefOf(ctx, e.ID)
	v := &changesPage{
		ID:    e.ID,
		Ref:   ref,
		Rev:   e.Revision,
		Title: view.TitleOf(l),
		Text:  changes.Text(l),
		Tempo: l.Tempo,
		Clean: rep.Ceiling.Whole(),
		By:    f.By,
		Fret:  f.Fret,
	}
	chosen := min(max(0, f.Chord-1), len(r.Chords)-1)
	link := func(k int) string { return to(k+1, f.By, f.Fret) }
	for _, by := range [][2]string{{"the key’s scale", ""}, {"each chord’s own", "chord"}} {
		v.Schools = append(v.Schools, view.Choice{Name: by[0], Link: to(chosen+1, by[1], f.Fret), On: by[1] == f.By})
	}
	if len(r.Chords) == 0 && len(l.Notes) > 0 {
		v.Line = draw.HandsSVG(rep.Lick, nil, nil)
	}
	if len(r.Chords) > 0 {
		v.Drawing = draw.ChangesSVG(draw.ChangesView{Lick: judged, Report: r, Chosen: chosen, Link: link})
		if chosen > 0 {
			v.Previous = link(chosen - 1)
		}
		if chosen+1 < len(r.Chords) {
			v.Next = link(chosen + 1)
		}
		v.over(judged, r, chosen)
		v.OnNeck = neckOf(page.EngineOf(ctx).Player.Guitar.WithTuning(l.Tuning), judged, r, chosen, f.Fret,
			func(fret int) string { return to(chosen+1, f.By, fret) })
	}
	rows, err := a.Store.List(ctx, store.Query{Limit: pickedLicks})
	if err != nil {
		return nil, err
	}
	v.Licks = choicesOf(rows, e.ID)
	key := strings.TrimSpace(l.Key.Tonic + " " + l.Key.Scale)
	v.AloneURL = backingForm{Over: v.Text, Key: key, Tempo: l.Tempo}.address()
	for _, role := range []changes.Role{changes.Root, changes.Third, changes.Seventh, changes.Colour, changes.Tension,
		changes.Clash, changes.Outside} {
		word := string(role)
		if role == changes.Third {
			word = "third, fifth"
		}
		v.Legend = append(v.Legend, legendRow{string(role), word})
	}
	v.rests(judged, r)
	v.landings(l, r)
	busy, err := propose.Busy(ctx, page.EngineOf(ctx), l)
	if err != nil {
		return nil, err
	}
	if busy != "" {
		v.Said = append(v.Said, busy)
	}
	for _, g := range judge.Grouped(rep.Findings) {
		if g.OfChanges() && len(v.Found) < view.Cards {
			fv := view.FindingOf(g)
			if len(fv.Fixes) > 0 && len(v.Found) == 0 {
				fv.Fixes[0].Main = true
			}
			v.Found = append(v.Found, fv)
		}
	}
	v.Movable = len(l.Notes) > 0
	for _, m := range changes.Forms() {
		v.Forms = append(v.Forms, view.Choice{Name: m.Name, Link: m.Name, On: false})
	}
	saved, err := a.Store.AllChanges(ctx)
	for _, s := range saved {
		v.Saved = append(v.Saved, savedChanges{s.ID, s.Name, s.Line})
	}
	if p, ok := l.Palette(); ok {
		if text, tone, ok := changes.Vamp(p.Scale.Name); ok {
			v.VampText = text
			v.Vamp = fmt.Sprintf("%s sounds by its %s", p.Scale.Name, tone.Pretty())
		}
	}
	return v, err
}

// restRow is where a phrase comes to rest, in words. Bad says that it does not.
type restRow struct {
	Where, On, Word, Role string
	Bad                   bool
	worth                 int
}

// rests lists where the phrases come to rest, the worst last.
func (v *changesPage) rests(l lick.Lick, r changes.Report) {
	worst := []changes.Role{changes.Root, changes.Third, changes.Fifth, changes.Seventh, changes.Colour,
		changes.Tension, changes.Clash, changes.Outside}
	for _, x := range r.Rests {
		if x.Chord < 0 {
			continue
		}
		row := restRow{Where: fmt.Sprintf("bar %d", l.Position(l.Notes[x.Notes[0]].At).Bar)}
		var on []string
		for _, i := range x.Notes {
			d, role := r.Tone(l, x, i)
			on = append(on, d.Pretty())
			if k := slices.Index(worst, role); k >= row.worth {
				row.worth, row.Word, row.Role = k, role.Meaning(), string(role)
			}
		}
		row.Bad = row.worth >= slices.Index(worst, changes.Tension)
		row.On = fmt.Sprintf("the %s of %s", strings.Join(on, " and "), r.Chords[x.Chord].Name)
		v.Rests = append(v.Rests, row)
	}
	slices.SortStableFunc(v.Rests, func(a, b restRow) int { return cmp.Compare(a.worth, b.worth) })
}

// restless counts the phrases that do not come to rest.
func (v *changesPage) restless() (n int) {
	for _, x := range v.Rests {
		if x.Bad {
			n++
		}
	}
	return n
}

// pickedLicks is how many licks the picker lists, those touched last first.
const pickedLicks = 30

// landings says how many of the landings arrive, and lists them, the worst last. A landing at rest, over a
// chord without a note, is neither. Where a phrase comes to rest counts for more than where it lands.
func (v *changesPage) landings(l lick.Lick, r changes.Report) {
	n := map[changes.Word]int{}
	for _, x := range r.Landings {
		n[x.Word]++
	}
	miss := n[changes.Early] + n[changes.Late] + n[changes.Missed]
	v.Class = "flows"
	switch {
	case len(r.Chords) == 0:
		v.Verdict, v.Class = "No chords yet", ""
	case len(l.Notes) == 0:
		v.Verdict, v.Class = "Nothing is written over them yet", ""
		return
	case v.restless() == 1:
		v.Verdict, v.Class = "One phrase does not come to rest", "tight"
	case v.restless() > 1:
		v.Verdict, v.Class = fmt.Sprintf("%d phrases do not come to rest", v.restless()), "tight"
	case len(r.Landings) == 0 && len(v.Rests) > 0:
		v.Verdict = "It comes to rest"
	case len(r.Landings) == 0:
		v.Verdict = "One chord, no change"
	case miss == 0 && n[changes.OnTime]+n[changes.Pushed] == 0:
		v.Verdict = "Nothing lands yet"
	case miss == 0:
		v.Verdict = "Every landing arrives"
	case miss == 1:
		v.Verdict, v.Class = "One landing misses", "tight"
	default:
		v.Verdict, v.Class = fmt.Sprintf("%d landings miss", miss), "tight"
	}
	var words []string
	for _, w := range []changes.Word{changes.OnTime, changes.Pushed, changes.Early, changes.Late, changes.Missed,
		changes.Rest} {
		if n[w] > 0 {
			word := string(w)
			if w == changes.Rest {
				word = "at rest"
			}
			words = append(words, fmt.Sprintf("%d %s", n[w], word))
		}
	}
	v.Count = strings.Join(words, ", ")
	order := []changes.Word{changes.OnTime, changes.Pushed, changes.Rest, changes.Late, changes.Early, changes.Missed}
	sorted := slices.Clone(r.Landings)
	slices.SortStableFunc(sorted, func(a, b changes.Landing) int {
		return cmp.Compare(slices.Index(order, a.Word), slices.Index(order, b.Word))
	})
	for _, x := range sorted {
		c := r.Chords[x.Chord]
		row := landingRow{Where: fmt.Sprintf("bar %d", l.Position(c.At).Bar), Chord: c.Name, Word: string(x.Word)}
		var on []string
		for _, i := range x.Notes {
			d, _ := changes.Of(c.Chord, nil, changes.Sounding(l, i))
			on = append(on, d.Pretty())
		}
		if len(on) > 0 {
			row.On = "on its " + strings.Join(on, ", ")
		}
		if x.HasWay {
			row.Way = wayWord(int(x.Way))
		}
		v.Landings = append(v.Landings, row)
	}
}

// wayWord says how far a landing lies from the one before. Guide tones move by a step or not at all (common practice);
// the number shows where they do not.
func wayWord(half int) string {
	switch {
	case half == 0:
		return "the same tone"
	case half > 0:
		return say.Some(half, "half step") + " up"
	}
	return say.Some(-half, "half step") + " down"
}

// changesLink is the screen with a chord pointed at. The chord counts from 1.
func changesLink(ref string, chord int, by string, fret int) string {
	s := fmt.Sprintf("/licks/%s/changes?chord=%d", ref, chord)
	if by != "" {
		s += "&by=" + by
	}
	if fret > 0 {
		s += fmt.Sprintf("&fret=%d", fret)
	}
	return s
}

// landingRow is one landing in words. Way is how far it lies from the landing before, empty for the first.
type landingRow struct{ Where, Chord, Word, On, Way string }

// over judges the palette over one chord: what each of its tones is there, which it shares with
// the next chord, which scales the chord takes by itself, and what the palette lacks of it.
// Without chosen tones nothing can be said but the chord's name.
func (v *changesPage) over(l lick.Lick, r changes.Report, k int) {
	c := r.Chords[k]
	v.Over = c.Name
	p, ok := l.PaletteAt(c.At)
	if !ok {
		return
	}
	var next *music.Chord
	if k+1 < len(r.Chords) {
		next = &r.Chords[k+1].Chord
	}
	v.Added = strings.Join(l.KeyAt(c.At).Add, ", ")
	f := changes.FitOver(p, c.Chord, next)
	for _, t := range f.Tones {
		v.Tones = append(v.Tones, overRow{
			Degree: t.Tone.Degree.Pretty(),
			Name:   t.Tone.Name.Pretty(),
			Over:   t.Degree.Pretty(),
			Words:  t.Role.Meaning(),
			Role:   string(t.Role),
		})
	}
	if next != nil {
		names := text.Map(f.Shared, func(t music.Tone) string { return t.Name.Pretty() })
		if v.Shared = "no tone shared with " + next.Name; len(names) > 0 {
			v.Shared = "shared with " + next.Name + ": " + strings.Join(names, ", ")
		}
	}
	if len(f.Scales) > 0 {
		v.Scales = "by itself: " + c.Chord.Root.Pretty() + " " + strings.Join(f.Scales, ", ")
	}
	lacks := text.Map(f.Lacks, music.Degree.Pretty)
	if len(lacks) > 0 {
		v.Lacks = "the palette lacks its " + strings.Join(lacks, ", ")
	}
}
