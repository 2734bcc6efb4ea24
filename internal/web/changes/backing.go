package changes

import (
	"cmp"
	"fmt"
	"net/http"
	"net/url"
	"strings"

	"ornamen/core/changes"
	"ornamen/core/lick"
	"ornamen/core/music"
	"ornamen/core/shape"
	"ornamen/core/text"
	"ornamen/internal/store"
	"ornamen/internal/web/page"
	"ornamen/internal/web/view"
)

// backingForm is chords by themselves, without a lick: a form or a player's own changes to hear, loop and play
// over. All of it lives in the address.
type backingForm struct {
	Over  string  `form:"over"`
	Key   string  `form:"key"`
	Tempo float64 `form:"tempo"`
	Chord int     `form:"chord"`
	By    string  `form:"by"`
	Fret  int     `form:"fret"`
}

// usualBacking is what one sees who comes without chords.
var usualBacking = backingForm{Over: "1m7 | 47 | 1m7 | 5m7", Key: "A minor pentatonic", Tempo: 90}

// address writes the form as a link.
func (f backingForm) address() string { return "/backing?" + f.query().Encode() }

// query is the form as an address has it.
func (f backingForm) query() url.Values {
	q := url.Values{"over": {f.Over}, "key": {f.Key}, "tempo": {fmt.Sprintf("%g", f.Tempo)}}
	if f.Chord > 0 {
		q.Set("chord", fmt.Sprint(f.Chord))
	}
	if f.By != "" {
		q.Set("by", f.By)
	}
	if f.Fret > 0 {
		q.Set("fret", fmt.Sprint(f.Fret))
	}
	return q
}

// readBacking reads the address: the form with its defaults, and the lick without notes that it says.
func (a Screen) readBacking(r *http.Request) (f backingForm, l lick.Lick, err error) {
	if err := a.Decode(r, &f); err != nil {
		return f, l, err
	}
	if f.Over = strings.TrimSpace(f.Over); f.Over == "" && f.Key == "" {
		f.Over = usualBacking.Over
	}
	f.Key, f.Tempo = cmp.Or(strings.TrimSpace(f.Key), usualBacking.Key), cmp.Or(f.Tempo, usualBacking.Tempo)
	l = lick.New()
	l.Tuning = page.EngineOf(r.Context()).Player.Guitar.Tuning
	l.Loop = true
	p, err := music.ParseKey(f.Key, nil, nil)
	if err != nil {
		return f, l, page.Mistake(err)
	}
	l.Key, l.Tempo, l.Title = shape.KeyOf(p), f.Tempo, "Chords alone"
	if f.Over != "" {
		if l.Chords, err = changes.Parse(f.Over, l.Meter, l.Pickup, l.Key); err != nil {
			return f, l, page.Mistake(err)
		}
	}
	if err := l.Validate(); err != nil {
		return f, l, page.Mistake(err)
	}
	return f, l, nil
}

// backing is the page of chords by themselves. GET.
func (a Screen) backing(w http.ResponseWriter, r *http.Request) error {
	f, l, err := a.readBacking(r)
	if err != nil {
		return err
	}
	v, err := a.changesView(r.Context(), store.Entry{Lick: l}, changesForm{Chord: f.Chord, By: f.By, Fret: f.Fret},
		f.with)
	if err != nil {
		return page.Mistake(err)
	}
	v.Alone = &f
	w.Header().Set("HX-Replace-Url", f.address())
	return a.RenderBody(w, r, "changes", page.Page{Title: "Chords alone", Where: "changes", Data: v})
}

// with is the address with another chord pointed at, judged otherwise, or seen elsewhere on the neck.
func (f backingForm) with(chord int, by string, fret int) string {
	f.Chord, f.By, f.Fret = chord, by, fret
	return f.address()
}

// backingSound is what the chords sound like, or when: GET /backing/sound.wav and /backing/sounding. What is asked
// of the sound has names that begin with "sound-", as on Runs.
func (a Screen) backingSound(w http.ResponseWriter, r *http.Request) error {
	asked, err := view.Apart(r)
	if err != nil {
		return err
	}
	_, l, err := a.readBacking(r)
	if err != nil {
		return err
	}
	r.Form = asked
	var f view.SoundForm
	if err := a.Decode(r, &f); err != nil {
		return err
	}
	p, err := f.Renderer(page.EngineOf(r.Context()).Player.Guitar, l)
	if err != nil {
		return page.Mistake(err)
	}
	return f.Send(w, r, p, l)
}

// keepBacking puts the chords into the notebook as a lick without notes, to write over. POST.
func (a Screen) keepBacking(w http.ResponseWriter, r *http.Request) error {
	f, l, err := a.readBacking(r)
	if err != nil {
		return err
	}
	l.Title, l.Loop = "Over "+f.Over, false
	if form, ok := changes.FormNamed(strings.ToLower(f.Over)); ok {
		l.Title = page.SentenceCase(form.Name) + " in " + l.Key.Tonic
	}
	l.Title = text.Cut(l.Title, 80)
	e, err := a.Add(r.Context(), l, "from chords alone")
	if err != nil {
		return err
	}
	return page.Redirect(w, r, fmt.Sprintf("/licks/%d/changes", e.ID))
}

// choicesOf are the licks that the screen can be opened on.
func choicesOf(rows []store.Row, id uint) (out []view.Choice) {
	for _, row := range rows {
		out = append(out, view.Choice{Name: cmp.Or(row.Title, "Untitled"),
			Link: fmt.Sprintf("/licks/%d/changes", row.ID), On: row.ID == id})
	}
	return out
}
