package view

import (
	"cmp"
	"errors"
	"fmt"
	"log"
	"mime"
	"net/http"
	"net/url"
	"slices"
	"strconv"
	"strings"

	"time"

	"ornamen/core/lick"
	"ornamen/core/neck"
	"ornamen/core/sound"
	"ornamen/core/text"
	"ornamen/internal/web/page"
)

// HeardLick sends a lick that is no entry of the notebook: its samples, or its times where the
// address ends in /sounding. Both come from one player, made anew from the same address.
func HeardLick(w http.ResponseWriter, r *http.Request, l lick.Lick, o sound.Options) error {
	p, err := rendererOf(page.EngineOf(r.Context()).Player.Guitar, l, o)
	if err != nil {
		return page.Refuse(err)
	}
	return SoundForm{Tempo: o.Tempo}.Send(w, r, p, l)
}

// Send sends what was asked for: a line's samples, or its times where the address ends in /sounding.
func (f SoundForm) Send(w http.ResponseWriter, r *http.Request, p *sound.Renderer, l lick.Lick) error {
	if strings.HasSuffix(r.URL.Path, "/sounding") {
		return page.JSON(w, Sounding{Begins: p.Begins(), Round: p.Round(), Tempo: cmp.Or(f.Tempo, l.Tempo),
			Notes: append([]sound.Lit{}, p.Notes()...)})
	}
	return sendWAV(w, r, p, l, f.Save)
}

// Apart takes what is asked of a sound out of a form whose own words have the same names: the sound's begin with
// "sound-".
func Apart(r *http.Request) (asked url.Values, err error) {
	if err := r.ParseForm(); err != nil {
		return nil, page.Refuse(errors.New("the form cannot be read"))
	}
	asked = url.Values{}
	for name, values := range r.Form {
		if own, is := strings.CutPrefix(name, "sound-"); is {
			asked[own] = values
			delete(r.Form, name)
		}
	}
	return asked, nil
}

// BendLick is one bend, a half note long: "2:8^2" is string 2 at fret 8 up by two half steps.
// It is read back from its file form, so that it is valid or an error.
func BendLick(g neck.Guitar, s string) (lick.Lick, error) {
	l := lick.New()
	place, by, _ := strings.Cut(s, "^")
	at, err := neck.ParsePlace(place)
	if err != nil {
		return l, err
	}
	half, err := strconv.ParseFloat(by, 64)
	if err != nil || !(half > 0 && half <= 4) || at.Fret == 0 {
		return l, fmt.Errorf("%q says no bend, as 2:8^2 does", text.Clip(s, 60))
	}
	l.Tuning, l.Tempo = slices.Clone(g.Tuning), 80
	l.Notes = []lick.Note{{Len: lick.NewTime(1, 2), String: at.String, Fret: at.Fret,
		Bend: &lick.Bend{Semitones: half, Shape: lick.BendUp}}}
	return lick.Parse(l.Encode())
}

// SoundForm says what is heard of a lick, and how. The address of a sound says all of it, so that an audio element, a
// link and a saved file are the same thing. All numbers have a default of 0 and are held within limits.
type SoundForm struct {
	Rev    uint    `form:"rev"`   // 0: the one that is shown
	Tempo  float64 `form:"tempo"` // 0: the lick's
	From   int     `form:"from"`  // notes from 1; 0 for all
	Upto   int     `form:"upto"`
	Note   int     `form:"note"` // the caret, for bends and tails
	Rounds int     `form:"rounds"`
	Lead   bool    `form:"lead"` // a loop under way
	Count  bool    `form:"count"`
	Click  bool    `form:"click"`
	Clicks string  `form:"clicks"` // backbeat, drops; empty is every beat
	Fill   string  `form:"fill"`   // bar, beat: to where a round that goes round is filled
	Before int     `form:"before"` // rounds of the loop before this one
	Band   bool    `form:"band"`
	Chords bool    `form:"chords"`
	Target bool    `form:"target"`
	Drive  int     `form:"drive"` // percent, as the loudnesses
	Line   int     `form:"line"`
	Beat   int     `form:"beat"`
	Tick   int     `form:"tick"`
	Turn   string  `form:"turn"` // heard turned, before it is taken
	Back   bool    `form:"back"` // the part alone, backwards
	Take   string  `form:"take"` // heard with proposed hands, and what was asked for them
	Way    string  `form:"way"`
	Free   bool    `form:"free"`
	Save   bool    `form:"save"` // as a file
	Pickup string  `form:"pickup"`
	Style  string  `form:"style"` // of the band; empty is what fits
	Busy   int     `form:"busy"`  // the band, from 1 to 4; 0 is as usual
	Comp   bool    `form:"comp"`  // chords struck short
	Alone  bool    `form:"alone"` // without the line: the band to play over
}

// options are the form's as the sound knows them. The click of a loop that has gone round
// before goes on counting bars, so that "each second bar" stays each second one.
// Loudnesses all 0 are "as usual". The error is a sentence on what the player asked for.
func (f SoundForm) options(l lick.Lick) (sound.Options, error) {
	o := sound.Options{Tempo: f.Tempo, Rounds: max(1, f.Rounds), Lead: f.Lead, CountIn: f.Count, Click: f.Click,
		Band: f.Band, Chords: f.Chords, Target: f.Target, Drive: percent(f.Drive), Comp: f.Comp}
	var err error
	if o.Pickup, err = sound.ParsePickup(f.Pickup); err != nil {
		return o, err
	}
	if o.Style, err = sound.ParseStyle(f.Style); err != nil {
		return o, err
	}
	o.Intensity = max(0, min(4, f.Busy))
	if o.Clicks, err = sound.ParseClicks(f.Clicks); err != nil {
		return o, err
	}
	if o.FillTo, err = sound.ParseFill(f.Fill); err != nil {
		return o, err
	}
	bars, rest := l.Length().Sub(l.Pickup).Div(l.Meter.Bar())
	if !rest.IsZero() {
		bars++
	}
	o.Before = max(0, min(1000, f.Before)) * int(bars)
	if f.From > 0 && f.Upto >= f.From {
		o.From, o.To = f.From-1, min(f.Upto, len(l.Notes))
	}
	if f.Line+f.Beat+f.Tick > 0 {
		o.Levels = &sound.Levels{Line: percent(f.Line), Band: percent(f.Beat), Click: percent(f.Tick)}
	}
	if f.Alone {
		if o.Levels == nil {
			o.Levels = &sound.Levels{Band: 0.5, Click: 0.5}
		}
		o.Levels.Line = 0
	}
	switch {
	case f.Tempo != 0 && !(f.Tempo >= lick.MinTempo && f.Tempo <= lick.MaxTempo):
		return o, fmt.Errorf("a tempo is %d to %d", lick.MinTempo, lick.MaxTempo)
	case o.Rounds > maxRounds:
		return o, fmt.Errorf("at most %d rounds are played at once", maxRounds)
	}
	return o, nil
}

// percent is a part of one.
func percent(n int) float64 { return float64(max(0, min(100, n))) / 100 }

// Renderer plays a line as the form asks; the error is a sentence.
func (f SoundForm) Renderer(g neck.Guitar, l lick.Lick) (*sound.Renderer, error) {
	if len(l.Notes) == 0 && len(l.Chords) == 0 {
		return nil, errors.New("there are no notes and no chords to hear")
	}
	o, err := f.options(l)
	if err != nil {
		return nil, err
	}
	return rendererOf(g, l, o)
}

// rendererOf plays a line. What would go on for too long is refused: it is computed while it is
// heard, and a file's length must fit its head.
func rendererOf(g neck.Guitar, l lick.Lick, o sound.Options) (*sound.Renderer, error) {
	if seconds := o.Seconds(l); seconds > maxSeconds {
		return nil, fmt.Errorf("that would sound for %.0f minutes; at most %d are played at once", seconds/60,
			maxSeconds/60)
	}
	return sound.NewRenderer(g, l, o), nil
}

// sendWAV streams a line; what follows is not computed once the page has gone. The length is in the file's head
// before the first sample is computed, so that a browser can show it and seek.
func sendWAV(w http.ResponseWriter, r *http.Request, p *sound.Renderer, l lick.Lick, save bool) error {
	w.Header().Set("Content-Type", "audio/wav")
	w.Header().Set("Cache-Control", "no-store")
	if save {
		w.Header().Set("Content-Disposition", mime.FormatMediaType("attachment",
			map[string]string{"filename": cmp.Or(l.FileName(), "lick") + ".wav"}))
	}
	// A browser takes a sound in as it plays, which may last longer than any other answer may; one that leaves ends it
	// by its context. Where the deadline cannot be moved the server's own holds.
	_ = http.NewResponseController(w).SetWriteDeadline(time.Time{})
	if err := sound.WriteWAV(r.Context(), w, p); err != nil && r.Context().Err() == nil {
		log.Printf("sound: %v", err) // half of it is sent, so that nothing more can be said
	}
	return nil
}

// Sounding says when the notes of a round sound, in seconds, for the lights.
// Times are those of the samples, so that lights and sound cannot drift apart.
type Sounding struct {
	Begins float64     `json:"begins"` // of the first round
	Round  float64     `json:"round"`
	Tempo  float64     `json:"tempo"`
	Notes  []sound.Lit `json:"notes"`
}

// Limits of what is asked for.
const (
	maxRounds  = 32
	maxSeconds = 20 * 60
)
