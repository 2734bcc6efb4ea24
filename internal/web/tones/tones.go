// Package tones is the screen of chosen tones: where they lie on the neck, in which shapes, which
// bends lead to them, and a lick recoloured by them.
package tones

import (
	"cmp"
	"embed"
	"errors"
	"fmt"
	"io/fs"
	"net/http"
	"net/url"
	"slices"
	"strings"
	"unicode/utf8"

	"github.com/go-chi/chi/v5"

	"ornamen/core/lick"
	"ornamen/core/music"
	"ornamen/core/neck"
	"ornamen/core/shape"
	"ornamen/core/sound"
	"ornamen/core/text"
	"ornamen/core/turn"
	"ornamen/internal/store"
	"ornamen/internal/web/page"
	"ornamen/internal/web/view"
)

// Screen shows chosen tones on the neck.
type Screen struct{ *page.Site }

//go:embed *.html *.js *.css
var files embed.FS

// Menu implements page.Screen.
func (a Screen) Menu() page.MenuEntry {
	return page.MenuEntry{Name: "tones", Title: "Tones", Address: page.At("/tones")}
}

// Files implements page.Screen.
func (a Screen) Files() fs.FS { return files }

// Routes implements page.Screen.
func (a Screen) Routes(r, work chi.Router) {
	r.Get("/tones", a.Handler(a.tones))
	r.Get("/lists/{kind}", a.Handler(a.list))
	work.Get("/tones/sound.wav", a.Handler(a.tonesSound))
	work.Get("/tones/sounding", a.Handler(a.tonesSound))
	r.Post("/tones/lick", a.Handler(a.buildLick))
	r.Post("/tones/saved", a.Handler(a.savePalette))
	r.Post("/tones/saved/{id}/forget", a.Does(a.Store.ForgetPalette, "/tones"))
	work.Get("/licks/{id}/recolour", a.Handler(a.recolourPreview))
	r.Post("/licks/{id}/recolour", a.Handler(a.recolour))
}

// tonesForm is all that the Tones screen shows; it lives in the address, so that going back is undo. Empty fields are
// the usual ones; what is not known in a field is refused in words or, where it is only a way to look, as if it were
// empty.
type tonesForm struct {
	Tonic  string `form:"tonic"`
	Scale  string `form:"scale"`
	Add    string `form:"add"` // as typed: "9, b5@down"
	Drop   string `form:"drop"`
	Beside string `form:"beside"` // a scale to compare with
	Chord  string `form:"chord"`  // to see the colours over
	Layout string `form:"layout"`
	At     string `form:"at"`
	Labels string `form:"labels"` // degrees, notes, fingers, frets, none
	Bends  string `form:"bends"`  // half, full, any
	Keys   string `form:"keys"`   // this, any
	Low    string `form:"low"`    // top: the thick strings above
	Side   string `form:"side"`   // left, right: how the neck is drawn; empty as the player is
	Touch  string `form:"touch"`  // a place just clicked
}

// usual fills in what the address leaves out.
func (f tonesForm) usual() tonesForm {
	for _, d := range []struct {
		field *string
		value string
	}{{&f.Tonic, "A"}, {&f.Scale, "minor pentatonic"}, {&f.Labels, "degrees"}, {&f.Bends, "full"}, {&f.Keys, "this"}} {
		if strings.TrimSpace(*d.field) == "" {
			*d.field = d.value
		}
	}
	return f
}

// address writes the form as a link, leaving out what is usual. Links of the page are all made
// here, so that every one of them carries the whole state and Back goes one choice back.
func (f tonesForm) address() string {
	q := url.Values{}
	for k, v := range map[string]string{"tonic": f.Tonic, "scale": f.Scale, "add": f.Add, "drop": f.Drop,
		"beside": f.Beside, "chord": f.Chord, "layout": f.Layout, "at": f.At,
		"labels": f.Labels, "bends": f.Bends, "keys": f.Keys, "low": f.Low, "side": f.Side} {
		if v != "" {
			q.Set(k, v)
		}
	}
	return "/tones?" + q.Encode()
}

// with is the address with one thing changed.
func (f tonesForm) with(change func(*tonesForm)) string {
	change(&f)
	return f.address()
}

// palette reads the chosen tones; a saved name stands for its tones. The error names the word that is none.
func (f tonesForm) palette() (music.Palette, error) {
	return music.NewPalette(f.Tonic, f.Scale, page.WordsOf(f.Add), page.WordsOf(f.Drop))
}

// tones is the page of a palette; the address is all of its state. A word that cannot be read
// is refused in a sentence, and the page that is open stays as it was. The address that is
// answered is the one that was understood: a start that the layout cannot use is moved.
func (a Screen) tones(w http.ResponseWriter, r *http.Request) error {
	var f tonesForm
	if err := a.Decode(r, &f); err != nil {
		return err
	}
	f = f.usual()
	// A key that is typed where the scale stands names both.
	if tonic, scale, err := music.KeyOf(f.Scale, f.Tonic); err == nil {
		f.Tonic, f.Scale = tonic, scale
	}
	v, err := a.tonesView(r, f)
	if err != nil {
		return page.Refuse(err)
	}
	w.Header().Set("HX-Replace-Url", v.Form.address())
	return a.RenderBody(w, r, "tones", page.Page{Title: v.Title, Where: "tones", BenchID: v.BenchID, Data: v})
}

// layoutFor reads the form's layout and start. What cannot be laid out from the start it had moves to the nearest start
// that works. The error is that no start on that string or on the usual one works, in the layout's words.
func (a Screen) layoutFor(f *tonesForm, g neck.Guitar,
	p music.Palette) (shape.Layout, neck.Place, []shape.Placed, error) {
	layout := shape.Default(p.Scale)
	var err error
	if f.Layout != "" {
		if layout, err = shape.ParseLayout(f.Layout); err != nil {
			return nil, neck.Place{}, nil, err
		}
	}
	at := shape.Begin(g, p, layout)
	asked := f.At != ""
	if asked {
		if at, err = neck.ParsePlace(f.At); err != nil {
			return nil, at, nil, fmt.Errorf("start: %w", err)
		}
	}
	placed, err := shape.Lay(g, p, layout, at)
	if err == nil {
		return layout, at, placed, nil
	}
	// The tones or the layout changed under the start: take the nearest one.
	for _, start := range []neck.Place{at, shape.Begin(g, p, layout)} {
		if near, ok := shape.NearestStart(g, p, layout, start); ok {
			placed, err := shape.Lay(g, p, layout, near)
			return layout, near, placed, err
		}
	}
	return nil, at, nil, err
}

// touch answers a click on the neck: a tone of the shape's starting string becomes the start; in an own selection the
// place comes or goes. A place that the layout cannot start from changes nothing, and the last place of a selection
// stays.
func (f *tonesForm) touch(g neck.Guitar, p music.Palette, layout shape.Layout, placed []shape.Placed) {
	at, err := neck.ParsePlace(f.Touch)
	f.Touch = ""
	if err != nil || !g.Has(at) {
		return
	}
	if !strings.HasPrefix(f.Layout, "places:") {
		if start, ok := shape.NearestStart(g, p, layout, at); ok && start == at {
			f.At = at.Notation()
		}
		return
	}
	list := text.Map(placed, func(t shape.Placed) string { return t.Place.Notation() })
	if k := slices.Index(list, at.Notation()); k >= 0 {
		list = slices.Delete(list, k, k+1)
	} else {
		list = append(list, at.Notation())
	}
	if len(list) > 0 {
		f.Layout = "places:" + strings.Join(list, ",")
	}
}

// buildLick makes a lick from the palette and opens it; its first note stands where the shape starts. POST, with the
// page's fields. The note is the shape's lowest root, an eighth; the caret stands behind it.
func (a Screen) buildLick(w http.ResponseWriter, r *http.Request) error {
	var f tonesForm
	if err := a.Decode(r, &f); err != nil {
		return err
	}
	f = f.usual()
	p, err := f.palette()
	if err != nil {
		return page.Refuse(err)
	}
	_, _, placed, err := a.layoutFor(&f, page.EngineOf(r.Context()).Player.Guitar, p)
	if err != nil {
		return page.Refuse(err)
	}
	l := lick.New()
	l.Tuning = slices.Clone(page.EngineOf(r.Context()).Player.Guitar.Tuning)
	l.Title, l.Key = "New lick in "+p.Pretty(), f.key(p)
	root := max(0, slices.IndexFunc(placed, func(t shape.Placed) bool { return t.Tone.Role == music.Root }))
	first := placed[root].Place
	if l, err = (lick.Insert{After: -1, Place: first, Len: lick.NewTime(1, 8)}).Apply(l); err != nil {
		return page.Refuse(err)
	}
	e, err := a.Add(r.Context(), l, "from Tones")
	if err != nil {
		return err
	}
	return page.Redirect(w, r, fmt.Sprintf("/licks/%d?note=2&lane=place&string=%d", e.ID, first.String))
}

// key is the palette as a lick has it.
func (f tonesForm) key(p music.Palette) lick.Key {
	return lick.Key{Tonic: p.Tonic.String(), Scale: p.Scale.Name, Add: page.WordsOf(f.Add), Drop: page.WordsOf(f.Drop)}
}

// savePalette keeps a palette by name.
// POST. A name that is taken is written over; the answer leads back to the same page.
func (a Screen) savePalette(w http.ResponseWriter, r *http.Request) error {
	var f struct {
		tonesForm
		Name string `form:"name"`
	}
	if err := a.Decode(r, &f); err != nil {
		return err
	}
	f.tonesForm = f.tonesForm.usual()
	name := strings.TrimSpace(f.Name)
	if n := utf8.RuneCountInString(name); n == 0 || n > 40 {
		return page.Refuse(errors.New("give the tones a name of 1 to 40 letters"))
	}
	if _, err := f.palette(); err != nil {
		return page.Refuse(err)
	}
	saved := store.Palette{Name: name, Tonic: f.Tonic, Scale: f.Scale, Added: f.Add, Dropped: f.Drop}
	if err := a.Store.SavePalette(r.Context(), saved); err != nil {
		return err
	}
	return page.Redirect(w, r, f.address())
}

// recolourForm asks for a lick in other tones.
type recolourForm struct {
	Tonic string `form:"tonic"`
	Scale string `form:"scale"`
	Add   string `form:"add"`
	Drop  string `form:"drop"`
	Move  string `form:"move"` // where the tones go on the neck: nearest, same, octave
	How   string `form:"how"`  // edit, or a new lick
	Rev   uint   `form:"rev"`
}

// recoloured is a lick in the tones of the form.
// The error is a tone or a manner that is none, or a line that this neck has no room for.
func recoloured(g neck.Guitar, f recolourForm, l lick.Lick) (shape.Recoloured, music.Palette, error) {
	p, err := music.NewPalette(f.Tonic, f.Scale, page.WordsOf(f.Add), page.WordsOf(f.Drop))
	if err != nil {
		return shape.Recoloured{}, p, err
	}
	manner := shape.NearestPlace
	if f.Move != "" {
		if manner, err = shape.ParseManner(f.Move); err != nil {
			return shape.Recoloured{}, p, err
		}
	}
	if l.Key.Tonic == "" {
		// There is nothing to recolour from: the line keeps its notes.
		r, err := onlyTones(l, p)
		return r, p, err
	}
	r, err := turn.Recolour(l, g.WithTuning(l.Tuning), p, manner)
	return r, p, err
}

// onlyTones gives a lick other tones and leaves its notes.
func onlyTones(l lick.Lick, p music.Palette) (shape.Recoloured, error) {
	out := shape.Recoloured{Changes: make([]shape.NoteChange, len(l.Notes))}
	for i, n := range l.Notes {
		d := p.At(l.Pitch(i)).Degree.Pretty()
		out.Changes[i] = shape.NoteChange{Note: i + 1, Before: d, After: d, From: n.Place(), To: n.Place()}
	}
	key := shape.KeyOf(p)
	var err error
	out.Lick, err = (lick.Setting{Key: &key}).Apply(l)
	return out, err
}

// recolour takes the recoloured lick in: as one edit of the revision that was shown, so that undo brings the old tones
// back, or as a new lick beside it. With How "tones" the notes stay and only what they are judged by changes.
func (a Screen) recolour(w http.ResponseWriter, r *http.Request) error {
	var f recolourForm
	n, err := a.IDAndForm(r, &f)
	if err != nil {
		return err
	}
	base, err := a.WholeAt(r.Context(), n, f.Rev)
	if err != nil {
		return err
	}
	got, p, err := recoloured(page.EngineOf(r.Context()).Player.Guitar, f, base)
	if err != nil {
		return page.Refuse(err)
	}
	if f.How == "tones" {
		if got, err = onlyTones(base, p); err != nil {
			return page.Refuse(err)
		}
	}
	if f.How == "new" {
		got.Lick.Title = text.Cut(view.TitleOf(base)+" in "+p.Pretty(), 200)
		return a.Begin(w, r, got.Lick, "recoloured from "+view.TitleOf(base))
	}
	return a.Change(w, r, n, f.Rev, got.Lick, "recoloured to "+p.Pretty())
}

// toggled adds or drops a tone of the form, as the bench does. A tone that cannot go, the root,
// leaves the address as it is.
func (f tonesForm) toggled(p music.Palette, degree string) string {
	k := lick.Key{Tonic: f.Tonic, Scale: f.Scale, Add: page.WordsOf(f.Add), Drop: page.WordsOf(f.Drop)}
	k, err := k.With(degree, !k.Has(degree))
	if err != nil {
		return f.address()
	}
	return f.with(func(g *tonesForm) { g.Add, g.Drop = strings.Join(k.Add, ", "), strings.Join(k.Drop, ", ") })
}

// stringNames names the strings in short for the tables.
func stringNames(g neck.Guitar) []string {
	l := lick.New()
	l.Tuning = g.Tuning
	out := make([]string, len(g.Tuning))
	for i := range out {
		out[i] = view.ShortString(l, i+1)
	}
	return out
}

// choices are what may be said of one field, each with the address that says it.
func (f tonesForm) choices(set func(*tonesForm, string), now, after string, values ...string) []view.Choice {
	out := make([]view.Choice, len(values))
	for i, v := range values {
		out[i] = view.Choice{Name: v + after, Link: f.with(func(f *tonesForm) { set(f, v) }), On: now == v}
	}
	return out
}

// oneOf is v where it is allowed, else the first that is.
func oneOf(v string, allowed ...string) string {
	if slices.Contains(allowed, v) {
		return v
	}
	return allowed[0]
}

// leftHanded says how the neck is drawn.
func (f tonesForm) leftHanded(g neck.Guitar) bool {
	return f.Side == "left" || f.Side != "right" && g.LeftHanded
}

// tonesSound is the shape that the Tones screen shows, from low to high, or one of its bends after the tone that it
// leads to. GET, with the page's own fields, so that what is heard is what is seen.
func (a Screen) tonesSound(w http.ResponseWriter, r *http.Request) error {
	var f struct {
		tonesForm
		Bend string `form:"bend"` // "6:9^2": the place and how many half steps
	}
	if err := a.Decode(r, &f); err != nil {
		return err
	}
	f.tonesForm = f.usual()
	g := page.EngineOf(r.Context()).Player.Guitar
	l, o, err := lick.Lick{}, sound.Options{}, error(nil)
	if f.Bend != "" {
		l, err = view.BendLick(g, f.Bend)
		o.Target = true
	} else {
		l, err = a.shapeLick(&f.tonesForm, g)
	}
	if err != nil {
		return page.Refuse(err)
	}
	return view.HeardLick(w, r, l, o)
}

// shapeLick is a shape as a line in eighths, its tones from low to high, those of one step together.
func (a Screen) shapeLick(f *tonesForm, g neck.Guitar) (lick.Lick, error) {
	l := lick.New()
	p, err := f.palette()
	if err != nil {
		return l, err
	}
	_, _, placed, err := a.layoutFor(f, g, p)
	if err != nil {
		return l, err
	}
	l.Tuning, l.Tempo = slices.Clone(g.Tuning), 100
	placed = slices.Clone(placed)
	slices.SortStableFunc(placed, func(a, b shape.Placed) int {
		return cmp.Or(cmp.Compare(a.Step, b.Step), cmp.Compare(a.Pitch, b.Pitch))
	})
	at, eighth := lick.Time{}, lick.NewTime(1, 8)
	for i, t := range placed {
		if i > 0 && (t.Step == 0 || t.Step != placed[i-1].Step) {
			at = at.Add(eighth)
		}
		l.Notes = append(l.Notes, lick.Note{At: at, Len: eighth, String: t.Place.String, Fret: t.Place.Fret})
	}
	l.Sort()
	return l, l.Validate()
}
