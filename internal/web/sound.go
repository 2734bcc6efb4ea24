package web

import (
	"cmp"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"log"
	"mime"
	"net/http"
	"strings"

	"ornamen/core/lick"
	"ornamen/core/neck"
	"ornamen/core/sound"
	"ornamen/core/turn"
	"ornamen/internal/store"
)

// soundForm says what is heard of a lick, and how.
// The address of a sound says all of it, so that an audio element, a link and a saved file are
// the same thing. All numbers have a default of 0 and are held within limits.
type soundForm struct {
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
}

// Limits of what is asked for.
const (
	maxRounds  = 32
	maxSeconds = 20 * 60
)

// options are the form's as the sound knows them. The click of a loop that has gone round
// before goes on counting bars, so that "each second bar" stays each second one.
// Loudnesses all 0 are "as usual". The error is a sentence on what the player asked for.
func (f soundForm) options(l lick.Lick) (sound.Options, error) {
	o := sound.Options{
		Tempo:   f.Tempo,
		Rounds:  max(1, f.Rounds),
		Lead:    f.Lead,
		CountIn: f.Count,
		Click:   f.Click,
		Band:    f.Band,
		Chords:  f.Chords,
		Target:  f.Target,
		Drive:   percent(f.Drive),
	}
	var err error
	if o.Clicks, err = sound.ParseClicks(f.Clicks); err != nil {
		return o, err
	}
	if whole, rest := l.End().Sub(l.Pickup).Div(l.Meter.Bar()); !rest.IsZero() {
		o.Before = max(0, min(1000, f.Before)) * int(whole+1)
	} else {
		o.Before = max(0, min(1000, f.Before)) * int(whole)
	}
	if f.From > 0 && f.Upto >= f.From {
		o.From, o.To = f.From-1, min(f.Upto, len(l.Notes))
	}
	if f.Line+f.Beat+f.Tick > 0 {
		o.Levels = &sound.Levels{Line: percent(f.Line), Band: percent(f.Beat), Click: percent(f.Tick)}
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

// heard is the lick that is to be heard, turned where that is asked, and its player; ok is
// false where the answer is given.
func (a benchScreen) heard(
	w http.ResponseWriter,
	r *http.Request,
) (p *sound.Player, l lick.Lick, f soundForm, ok bool) {
	e, ok := a.entry(w, r)
	if !ok {
		return nil, l, f, false
	}
	err := a.decode(r, &f)
	if err == nil && f.Rev != 0 && f.Rev != e.Revision {
		e.Lick, err = a.at(r.Context(), e.ID, f.Rev)
	}
	if err == nil {
		p, l, err = a.playing(r.Context(), e, f)
	}
	if err != nil {
		a.fail(w, r, mistake(err))
		return nil, l, f, false
	}
	return p, l, f, true
}

// playing makes the player.
// The three are ways to hear a line before it is taken: turned (the same words as the turn), a
// part backwards as it is practised, or with hands that were offered.
func (a benchScreen) playing(ctx context.Context, e store.Entry, f soundForm) (*sound.Player, lick.Lick, error) {
	l := e.Lick
	if f.Turn != "" {
		var err error
		b := benchForm{Value: f.Turn}
		b.From, b.Upto, b.Note = f.From, f.Upto, f.Note
		if l, err = a.turnedLick(ctx, e, b); err != nil {
			return nil, l, err
		}
		f.From, f.Upto = 0, 0
	}
	if f.Back {
		var err error
		if l, err = turn.Turn(engineOf(ctx).Player.Guitar, l, "backwards", max(0, f.From-1), f.Upto); err != nil {
			return nil, l, invalid{err}
		}
	}
	if f.Take != "" {
		var err error
		if l, err = a.offered(ctx, e, f); err != nil {
			return nil, l, err
		}
	}
	p, err := f.player(engineOf(ctx).Player.Guitar, l)
	return p, l, err
}

// player plays a line as the form asks; the error is a sentence.
func (f soundForm) player(g neck.Guitar, l lick.Lick) (*sound.Player, error) {
	if len(l.Notes) == 0 {
		return nil, errors.New("there are no notes to hear")
	}
	o, err := f.options(l)
	if err != nil {
		return nil, err
	}
	return playerOf(g, l, o)
}

// playerOf plays a line. What would go on for too long is refused: it is computed while it is
// heard, and a file's length must fit its head.
func playerOf(g neck.Guitar, l lick.Lick, o sound.Options) (*sound.Player, error) {
	if seconds := o.Seconds(l); seconds > maxSeconds {
		return nil, fmt.Errorf("that would sound for %.0f minutes; at most %d are played at once", seconds/60,
			maxSeconds/60)
	}
	return sound.NewPlayer(g, l, o), nil
}

// soundFile sends the lick as it sounds, while it is computed.
// GET /licks/ID/sound.wav. Nothing is computed ahead of what the page has read, so that a long
// loop costs what is heard of it.
func (a benchScreen) soundFile(w http.ResponseWriter, r *http.Request) {
	p, l, f, ok := a.heard(w, r)
	if !ok {
		return
	}
	sendWAV(w, r, p, l, f.Save)
}

// sendWAV streams a player; what follows is not computed once the page has gone. The length is
// in the file's head before the first sample is computed, so that a browser can show it and
// seek.
func sendWAV(w http.ResponseWriter, r *http.Request, p *sound.Player, l lick.Lick, save bool) {
	w.Header().Set("Content-Type", "audio/wav")
	w.Header().Set("Cache-Control", "no-store")
	if save {
		w.Header().Set("Content-Disposition", mime.FormatMediaType("attachment",
			map[string]string{"filename": cmp.Or(l.FileName(), "lick") + ".wav"}))
	}
	if err := sound.WriteWAV(r.Context(), w, p); err != nil && r.Context().Err() == nil {
		log.Printf("sound: %v", err)
	}
}

// sounding says when the notes of a round sound, in seconds, for the lights.
// Times are those of the samples, so that lights and sound cannot drift apart.
type sounding struct {
	Begins float64     `json:"begins"` // of the first round
	Round  float64     `json:"round"`
	Tempo  float64     `json:"tempo"`
	Notes  []sound.Lit `json:"notes"`
}

// soundTimes answers with them.
// GET /licks/ID/sounding, with the same form as the sound itself.
func (a benchScreen) soundTimes(w http.ResponseWriter, r *http.Request) {
	p, l, f, ok := a.heard(w, r)
	if !ok {
		return
	}
	sendTimes(w, p, cmp.Or(f.Tempo, l.Tempo))
}

// sendTimes writes a player's times as JSON.
func sendTimes(w http.ResponseWriter, p *sound.Player, tempo float64) {
	w.Header().Set("Content-Type", "application/json")
	w.Header().Set("Cache-Control", "no-store")
	s := sounding{Begins: p.Begins(), Round: p.Round(), Tempo: tempo, Notes: p.Notes()}
	if err := json.NewEncoder(w).Encode(s); err != nil {
		log.Printf("sound: %v", err)
	}
}

// runHeard is the run of the Runs screen as it sounds; what is asked of the sound stands in
// the address beside the recipe.
func (a runsScreen) runHeard(
	w http.ResponseWriter,
	r *http.Request,
) (p *sound.Player, l lick.Lick, f soundForm, ok bool) {
	// The recipe's words and the sound's have some names in common: the sound's begin with
	// "sound-".
	asked := map[string][]string{}
	if err := r.ParseForm(); err == nil {
		for name, values := range r.Form {
			if own, is := strings.CutPrefix(name, "sound-"); is {
				asked[own] = values
				delete(r.Form, name)
			}
		}
	}
	form, err := readRuns(r)
	if err == nil {
		l, err = a.runLick(r.Context(), form)
	}
	if err == nil {
		r.Form = asked
		err = a.decode(r, &f)
	}
	if err == nil {
		p, err = f.player(engineOf(r.Context()).Player.Guitar, l)
	}
	if err != nil {
		a.fail(w, r, mistake(err))
		return nil, l, f, false
	}
	return p, l, f, true
}

// runSound sends the run as it sounds.
func (a runsScreen) runSound(w http.ResponseWriter, r *http.Request) {
	if p, l, f, ok := a.runHeard(w, r); ok {
		sendWAV(w, r, p, l, f.Save)
	}
}

// runTimes says when its notes sound.
func (a runsScreen) runTimes(w http.ResponseWriter, r *http.Request) {
	if p, l, f, ok := a.runHeard(w, r); ok {
		sendTimes(w, p, cmp.Or(f.Tempo, l.Tempo))
	}
}
