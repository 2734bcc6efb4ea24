package tones

import (
	"fmt"
	"html/template"
	"net/http"
	"strings"

	"ornamen/core/hand"
	"ornamen/core/judge"
	"ornamen/core/music"
	"ornamen/core/neck"
	"ornamen/core/run"
	"ornamen/core/shape"
	"ornamen/core/text"
	"ornamen/internal/store"
	"ornamen/internal/web/page"
	"ornamen/internal/web/view"
)

// tonesPage is all that the page shows. The rails choose the tones, the neck shows where they lie, the rows below what
// each place offers. Every choice is a link with the whole state of the page in its address, so that a page can be
// kept, shared and gone back from.
type tonesPage struct {
	Form    tonesForm
	BenchID uint
	Title   string
	Added   string // "with 9 and ♭5"
	Tonics  []string
	ToRuns  string // the way to a run from these tones
	Rail    []view.RailTone
	Beside  []view.RailTone
	Over    []view.RailTone // what each tone is over the chord
	OverSay string          // which scales the chord would take by itself
	Reasons []string        // why each colour note fits
	Layouts []view.Choice
	Labels  []view.Choice
	Looks   []view.Choice
	Steps   []view.Choice // the neighbouring positions
	Query   string        // the form as an address has it, for the sound
	Where   string        // the position in words
	Shape   string        // symmetry, joins, colours outside the shape
	Neck    template.HTML
	Force   template.HTML
	Amounts []view.Choice
	Bends   []bendRow
	KeysOf  []view.Choice
	Spots   []spotRow
	Licks   []store.Row
	Saved   []savedPalette
}

// savedPalette is a palette kept by name.
type savedPalette struct {
	ID         uint
	Name, Link string
}

// bendRow is one bend in words. Hear is where else on the neck the target can be heard before bending to it; Bar is the
// force as a length.
type bendRow struct {
	Place, From, To, Push, Force, Fingers, Rating, Class, Hear string
	Sound                                                      string // "2:8^2", as the sound knows it
	Bar                                                        template.HTML
}

// spotRow is one place along the neck. Numbers are the hardest common full bend and the widest hold there, which is
// what a guitarist weighs when choosing where to play.
type spotRow struct {
	From, Key, Numbers, Words, Link string
	Bar                             template.HTML
	On                              bool
}

// tonesView lays the palette out and judges it. A click on the neck (Touch, a place) is carried out before anything is
// drawn, so that the page shows what came of it: it starts the layout there, or takes the place into a layout of one's
// own. The error is the player's: a word of the form that cannot be read.
func (a Screen) tonesView(r *http.Request, f tonesForm) (*tonesPage, error) {
	p, err := f.palette()
	if err != nil {
		return nil, err
	}
	e := page.EngineOf(r.Context())
	g := e.Player.Guitar
	layout, at, placed, err := a.layoutFor(&f, g, p)
	if err != nil {
		return nil, err
	}
	if f.Touch != "" {
		f.touch(g, p, layout, placed)
		if layout, at, placed, err = a.layoutFor(&f, g, p); err != nil {
			return nil, err
		}
	}
	f.At = at.Notation()
	f.Labels = oneOf(f.Labels, "degrees", "notes", "fingers", "frets", "none")
	f.Bends = oneOf(f.Bends, "full", "half", "any")
	f.Keys = oneOf(f.Keys, "this", "any")
	up := shape.Finger(e.Hand(g), placed)
	shape.AddBends(g, e.Player, p, placed)
	v := &tonesPage{Form: f, Title: p.Pretty(), Tonics: view.Tonics}
	v.ToRuns = view.RunsURL(run.Begin(run.Recipe{
		Key:    f.Tonic + " " + f.Scale,
		Add:    strings.Join(page.WordsOf(f.Add), ","),
		Drop:   strings.Join(page.WordsOf(f.Drop), ","),
		Layout: f.Layout,
		At:     f.At,
	}, g))
	_, v.Query, _ = strings.Cut(f.address(), "?")
	names := text.Map(p.Colours(), func(t music.Tone) string { return t.Degree.Pretty() })
	if len(names) > 0 {
		v.Added = "with " + listWords(names)
	}
	if err := v.overRail(f, p); err != nil {
		return nil, err
	}
	if err := v.rails(f, p); err != nil {
		return nil, err
	}
	v.choices(f, g, p, layout, at, placed)
	v.words(e, page.Playing(r.Context()).Profile.Boxes, g, p, layout, placed, up)
	v.draw(f, g, p, placed)
	v.bendRows(g, f, placed)
	v.spots(&e.Player, g, p, layout, at)
	return v, a.tonesStore(r, v)
}

// recolourLicks is how many licks are offered for recolouring: those touched last.
// Any other is recoloured from its bench.
const recolourLicks = 20

// tonesStore reads what the notebook adds: licks to recolour, saved tones.
func (a Screen) tonesStore(r *http.Request, v *tonesPage) error {
	licks, err := a.Store.List(r.Context(), store.Query{Limit: recolourLicks})
	if err != nil {
		return err
	}
	v.Licks = licks
	if len(licks) > 0 {
		v.BenchID = licks[0].ID
	}
	saved, err := a.Store.Palettes(r.Context())
	for _, s := range saved {
		v.Saved = append(v.Saved, savedPalette{s.ID, s.Name, v.Form.with(func(f *tonesForm) {
			f.Tonic, f.Scale, f.Add, f.Drop, f.At = s.Tonic, s.Scale, s.Added, s.Dropped, ""
		})})
	}
	return err
}

// listWords lists words in a sentence.
func listWords(w []string) string {
	if len(w) < 2 {
		return strings.Join(w, "")
	}
	return strings.Join(w[:len(w)-1], ", ") + " and " + w[len(w)-1]
}

// schools are the layouts in players' words.
var schools = []struct{ name, layout string }{
	{"boxes", "box"}, {"three a string", "3nps"}, {"one string", "string:3"}, {"an area", "frets:5-9"},
	{"arpeggio", "arp"}, {"spread", "spread"}, {"sixths", "pairs:3,1:6"}, {"two strings", "strings:2,1"},
	{"joined up the neck", "joined"}, {"two boxes", "boxes:1+2"},
}

// choices are the links to what else could be chosen, each the page's address with one thing changed. A layout with
// places of its own begins without the start of another one. The steps lower and higher go to the next fret on which
// the whole layout can be laid, and are missing at the ends of the neck.
func (v *tonesPage) choices(f tonesForm, g neck.Guitar, p music.Palette, layout shape.Layout, at neck.Place,
	placed []shape.Placed) {
	now := layout.Name()
	kind := strings.SplitN(now, ":", 2)[0]
	for _, s := range schools {
		link := f.with(func(f *tonesForm) {
			f.Layout = s.layout
			if strings.Contains(s.layout, ":") || strings.Contains(now, ":") {
				f.At = ""
			}
		})
		v.Layouts = append(v.Layouts,
			view.Choice{Name: s.name, Link: link, On: strings.SplitN(s.layout, ":", 2)[0] == kind})
	}
	v.Layouts = append(v.Layouts, view.Choice{
		Name: "my own",
		Link: f.with(func(f *tonesForm) {
			f.Layout = "places:" + text.Join(placed, ",", func(t shape.Placed) string { return t.Place.Notation() })
		}),
		On: kind == "places",
	})
	v.Labels = f.choices(func(f *tonesForm, s string) { f.Labels = s }, f.Labels, "",
		"degrees", "notes", "fingers", "frets", "none")
	side, low := "left", "top"
	if f.leftHanded(g) {
		side = "right"
	}
	if f.Low == low {
		low = ""
	}
	v.Looks = []view.Choice{
		{Name: "thick strings on top", Link: f.with(func(f *tonesForm) { f.Low = low }), On: low == ""},
		{Name: "left-handed", Link: f.with(func(f *tonesForm) { f.Side = side }), On: side == "right"},
	}
	v.Amounts = f.choices(func(f *tonesForm, s string) { f.Bends = s }, f.Bends, "", "half", "full", "any")
	v.KeysOf = f.choices(func(f *tonesForm, s string) { f.Keys = s }, f.Keys, " key", "this", "any")
	for k, name := range []string{"lower", "higher"} {
		by := 2*k - 1
		for fret := at.Fret + by; fret >= 0 && fret <= g.Frets; fret += by {
			start := neck.Place{String: at.String, Fret: fret}
			if _, err := shape.Lay(g, p, layout, start); err == nil {
				to := f.with(func(f *tonesForm) { f.At = start.Notation() })
				v.Steps = append(v.Steps, view.Choice{Name: name, Link: to})
				break
			}
		}
	}
}

// boxWords says both numbers of a box, the player's first.
func boxWords(pos shape.Position, first string) string {
	if first == "major" {
		return fmt.Sprintf("box %d from the major root, %d from the minor root", pos.Major, pos.Minor)
	}
	return fmt.Sprintf("box %d from the minor root, %d from the major root", pos.Minor, pos.Major)
}

// words says what position this is and what is special about the shape. As in "From fret 9 on string 6; box 1 from the
// minor root, 2 from the major root; root on string 6". boxes is which number the player says first.
func (v *tonesPage) words(e *judge.Engine, boxes string, g neck.Guitar, p music.Palette, layout shape.Layout,
	placed []shape.Placed, up hand.Path) {
	pos := shape.PositionOf(g, p, layout, placed)
	parts := []string{fmt.Sprintf("from fret %d on string %d", placed[0].Place.Fret, placed[0].Place.String)}
	if pos.Minor > 0 {
		parts = append(parts, boxWords(pos, boxes))
	} else if pos.Degree != "" {
		starts := "starts on " + pos.Degree
		if pos.Mode != "" {
			starts = "the " + pos.Mode + " shape, which " + starts
		}
		parts = append(parts, starts)
	}
	if pos.RootString > 0 {
		parts = append(parts, fmt.Sprintf("root on string %d", pos.RootString))
	}
	if pos.ChordShape != "" {
		parts = append(parts, "around the "+pos.ChordShape+" shape")
	}
	v.Where = page.Sentence(strings.Join(parts, "; "))
	var said []string
	if s := shape.Symmetry(placed); s != "" {
		said = append(said, page.Sentence(s))
	}
	for _, j := range shape.Slides(placed) {
		said = append(said, fmt.Sprintf("Slide finger %s on string %d from fret %d to %d, onto %s.", j.Finger,
			j.From.String, j.From.Fret, j.To.Fret, j.Lands.Degree.Pretty()))
	}
	said = append(said, outsideColours(e, g, layout, placed, up)...)
	v.Shape = strings.Join(said, " ")
}

// outsideColours says how the colour notes beyond the shape's frets are reached, up and down apart, as the hand comes
// from different places: the way down is fingered only where there is such a tone.
func outsideColours(e *judge.Engine, g neck.Guitar, layout shape.Layout, placed []shape.Placed, up hand.Path) []string {
	lo, hi := neck.MaxFrets, 0
	for _, t := range placed {
		if t.Tone.Role != music.Colour {
			lo, hi = min(lo, t.Place.Fret), max(hi, t.Place.Fret)
		}
	}
	if layout.Name() != "box" && layout.Name() != "3nps" || len(up.Steps) != len(placed) {
		return nil
	}
	var out []string
	var down []shape.Placed
	for i := len(placed) - 1; i >= 0; i-- {
		down = append(down, placed[i])
		down[len(down)-1].Step = len(down)
	}
	var back hand.Path
	for i, t := range placed {
		if t.Tone.Role != music.Colour || t.Place.Fret >= lo && t.Place.Fret <= hi {
			continue
		}
		if back.Steps == nil {
			back = shape.Finger(e.Hand(g), down)
		}
		k := len(placed) - 1 - i
		out = append(out, fmt.Sprintf("%s at fret %d lies outside: going up finger %s, %s; going down finger %s, %s.",
			t.Tone.Degree.Pretty(), t.Place.Fret, t.Finger, reachWord(up.Steps[i]), down[k].Finger,
			reachWord(back.Steps[k])))
	}
	return out
}

// reachWord says what a step of the shape asks of the hand. It is the hand's own path along the shape that is asked, so
// that a colour far off may still be "the finger reaches over" where the hand stands well.
func reachWord(s hand.Step) string {
	switch {
	case s.Kind == hand.Move || s.Kind == hand.Jump || s.Kind == hand.Guided:
		return "the hand shifts"
	case s.Stretch.Strain() > 0:
		return "a stretch"
	}
	return "the finger reaches over"
}
