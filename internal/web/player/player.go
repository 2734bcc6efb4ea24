// Package player is the screen of the hand, the guitar and the habits that every judgement rests on.
package player

import (
	"context"
	"embed"
	"errors"
	"fmt"
	"html/template"
	"io/fs"
	"net/http"
	"strconv"
	"strings"

	"github.com/go-chi/chi/v5"

	"ornamen/core/bend"
	"ornamen/core/hand"
	"ornamen/core/judge"
	"ornamen/core/neck"
	"ornamen/core/pick"
	"ornamen/core/player"
	"ornamen/core/say"
	"ornamen/core/text"
	"ornamen/internal/phones"
	"ornamen/internal/refuse"
	"ornamen/internal/store"
	"ornamen/internal/web/draw"
	"ornamen/internal/web/page"
	"ornamen/internal/web/view"
)

// Screen is who plays, on what.
type Screen struct {
	*page.Site
	Phones *phones.Phones // other devices that are let in
}

//go:embed *.html *.js *.css
var files embed.FS

// Menu implements page.Screen.
func (a Screen) Menu() page.MenuEntry {
	return page.MenuEntry{Name: "player", Title: "Player", Address: page.At("/player")}
}

// Files implements page.Screen.
func (a Screen) Files() fs.FS { return files }

// Routes implements page.Screen.
func (a Screen) Routes(r, _ chi.Router) {
	r.Get("/player", a.Handler(a.player))
	r.Post("/player", a.Handler(a.setPlayer))
	r.Post("/player/reset", a.Handler(a.resetPlayer))
	r.Post("/player/undo", a.Handler(a.undoPlayer))
	r.Post("/player/redo", a.Handler(a.redoPlayer))
	r.Post("/player/phones", a.Handler(a.letIn))
	r.Post("/player/choose", a.Handler(a.choose))
	r.Post("/player/people", a.Handler(a.people))
}

// playerForm is the screen's form. Numbers are read as the player wrote them. Its names are those of the profile's
// file, so that a form, a file and a command name a setting alike.
type playerForm struct {
	Tuning     string `form:"tuning"`
	Scale      string `form:"scale"`
	Frets      string `form:"frets"`
	Gauges     string `form:"gauges"`
	Left       bool   `form:"left"`
	Size       string `form:"size"`
	Sixteenths string `form:"sixteenths"`
	Hammering  string `form:"hammering"`
	HoldFrom   string `form:"hold_from"`
	HoldTo     string `form:"hold_to"`
	BendString string `form:"bend_string"`
	BendFret   string `form:"bend_fret"`
	Way        string `form:"way"`
	Angle      string `form:"angle"`
	Boxes      string `form:"boxes"`
	Strict     string `form:"strict"`
	BendFinger string `form:"bend_finger"`
	Helpers    string `form:"helpers"`

	Base     uint     `form:"base"` // the settings that the page shows
	Own      []string `form:"own"`  // habits that are kept
	Declined string   `form:"declined"`
}

// formOf writes a profile into the form's fields. A measurement that was not taken is an empty field.
func formOf(p player.Profile) playerForm {
	num := func(x float64) string {
		if x == 0 {
			return ""
		}
		return strconv.FormatFloat(x, 'f', -1, 64)
	}
	whole := func(n int) string { return num(float64(n)) }
	return playerForm{
		Tuning:     p.Tuning,
		Scale:      num(p.Scale),
		Frets:      whole(p.Frets),
		Gauges:     p.Gauges,
		Left:       p.LeftHanded,
		Size:       p.Size,
		Sixteenths: num(p.Sixteenths),
		Hammering:  num(p.Hammering),
		HoldFrom:   whole(p.HoldFrom),
		HoldTo:     whole(p.HoldTo),
		BendString: whole(p.BendString),
		BendFret:   whole(p.BendFret),
		Way:        p.Way,
		Angle:      p.Angle,
		Boxes:      p.Boxes,
		Strict:     p.Strict,
		BendFinger: p.BendFinger,
		Helpers:    string(helping(p.Helpers)),
		Declined:   p.Declined,
	}
}

// helping is the habit as the form names it.
func helping(word string) player.Helping {
	h, err := player.ParseHelping(word)
	if err != nil {
		return player.HelpMany // an older file's word that is none
	}
	return h
}

// profile reads the form; an error names the field. An empty number is a measurement that was not taken. Whether the
// numbers make a guitar and a hand is player.Profile's to say.
func (f playerForm) profile() (player.Profile, error) {
	p := player.Profile{
		Tuning:     strings.TrimSpace(f.Tuning),
		Gauges:     strings.TrimSpace(f.Gauges),
		LeftHanded: f.Left,
		Size:       f.Size,
		Way:        f.Way,
		Angle:      f.Angle,
		Boxes:      f.Boxes,
		Strict:     f.Strict,
		BendFinger: f.BendFinger,
		Helpers:    f.Helpers,
		Habits:     strings.Join(f.Own, "; "),
		Declined:   strings.TrimSpace(f.Declined),
	}
	for _, n := range []struct {
		what, text string
		real       *float64
		whole      *int
	}{
		{what: "scale length", text: f.Scale, real: &p.Scale}, {what: "frets", text: f.Frets, whole: &p.Frets},
		{
			what: "sixteenths",
			text: f.Sixteenths,
			real: &p.Sixteenths,
		}, {what: "hammering", text: f.Hammering, real: &p.Hammering},
		{
			what:  "index at fret",
			text:  f.HoldFrom,
			whole: &p.HoldFrom,
		}, {what: "little finger at fret", text: f.HoldTo, whole: &p.HoldTo},
		{
			what:  "bend on string",
			text:  f.BendString,
			whole: &p.BendString,
		}, {what: "bend at fret", text: f.BendFret, whole: &p.BendFret},
	} {
		x, err := player.Number(n.what, n.text)
		switch {
		case err != nil:
			return p, err
		case n.real != nil:
			*n.real = x
		case x != float64(int(x)):
			return p, fmt.Errorf("%s: %s is no whole number", n.what, n.text)
		default:
			*n.whole = int(x)
		}
	}
	// Half a measurement waits for its other half.
	if (p.HoldFrom == 0) != (p.HoldTo == 0) {
		p.HoldFrom, p.HoldTo = 0, 0
	}
	if (p.BendString == 0) != (p.BendFret == 0) {
		p.BendString, p.BendFret = 0, 0
	}
	return p, nil
}

// playerPage is what the screen shows. Every setting has its meaning in the model beside it, and the licks below show
// what a change did to them: a measurement is worth taking if something moves.
type playerPage struct {
	Form    playerForm
	Line    string // the hand in a few words
	Base    uint   // the settings that are shown
	CanUndo bool
	CanRedo bool
	Default bool
	Reach   template.HTML
	Means   map[string]string // what a setting comes to, by name
	Habits  []page.Habit      // learned from corrections: kept, and offered
	Licks   []playerLick
	Summary string
	Phones  phones.View
	Notice  *page.Notice
	Here    bool // the page is on the notebook's own machine
}

// playerLick is what the player makes of one lick, and what it was before.
// Before is empty unless the page answers a change.
type playerLick struct {
	ID                 uint
	Title, Word, Class string
	Tempo, Now, Before string
	Changed            bool
}

// player is the page of guitar, hand and habits. GET /player.
func (a Screen) player(w http.ResponseWriter, r *http.Request) error {
	v, err := a.playerPage(r.Context(), nil)
	if err != nil {
		return err
	}
	if v.Notice, err = a.gone(r); err != nil {
		return err
	}
	v.Here = phones.FromHere(r)
	return a.Render(w, r, "player", page.Page{Title: "Player", Where: "player", Data: v})
}

// answerPlayer sends the screen after a change, with what each lick was before.
// A form sent without scripts is led back to the page, which then has no "before".
func (a Screen) answerPlayer(w http.ResponseWriter, r *http.Request, before *page.Player) error {
	v, err := a.playerPage(r.Context(), before)
	if err != nil {
		return err
	}
	if r.Header.Get("HX-Request") == "" {
		return page.Redirect(w, r, "/player")
	}
	v.Here = phones.FromHere(r)
	return a.Render(w, r, "player-partial", page.Page{Data: v})
}

// setPlayer takes the form, or refuses it in a sentence and keeps what was.
// POST /player, all fields. A profile that makes no player changes nothing.
func (a Screen) setPlayer(w http.ResponseWriter, r *http.Request) error {
	var f playerForm
	if err := a.Decode(r, &f); err != nil {
		return err
	}
	p, err := f.profile()
	if err == nil {
		_, err = p.Player()
	}
	if err != nil {
		return page.Refuse(err)
	}
	if r.Header.Get("HX-Request") != "" && p == page.Playing(a.AsPlayerNow(r.Context())).Profile {
		w.WriteHeader(http.StatusNoContent) // what the page shows of the last change stays
		return nil
	}
	return a.changePlayer(w, r, func(ctx context.Context) error { return a.SavePlayer(ctx, p, f.Base) })
}

// resetPlayer takes the defaults again. POST; it is a change like another and can be undone.
func (a Screen) resetPlayer(w http.ResponseWriter, r *http.Request) error {
	return a.changePlayer(w, r, func(ctx context.Context) error {
		return a.SavePlayer(ctx, player.DefaultProfile(), store.Newest)
	})
}

// undoPlayer takes back the last change of the profile.
// POST. The profiles before are kept in the notebook, so that a restart loses none.
func (a Screen) undoPlayer(w http.ResponseWriter, r *http.Request) error {
	return a.moveSettings(w, r, a.Store.UndoSettings)
}

// redoPlayer goes forward again to what was taken back. POST.
func (a Screen) redoPlayer(w http.ResponseWriter, r *http.Request) error {
	return a.moveSettings(w, r, a.Store.RedoSettings)
}

// moveSettings goes back or forward from the settings that the page shows.
func (a Screen) moveSettings(
	w http.ResponseWriter,
	r *http.Request,
	to func(context.Context, uint, uint) error,
) error {
	var f struct {
		Base uint `form:"base"`
	}
	if err := a.Decode(r, &f); err != nil {
		return err
	}
	return a.changePlayer(w, r, func(ctx context.Context) error { return to(ctx, page.Playing(ctx).Who.ID, f.Base) })
}

// changePlayer makes a change and answers with the page and what it did to the ceilings: each
// lick is judged by the player before and the one after, which is why only a dozen are.
func (a Screen) changePlayer(w http.ResponseWriter, r *http.Request, change func(context.Context) error) error {
	before := page.Playing(r.Context())
	err := change(r.Context())
	if err == nil {
		err = a.LoadPlayers(r.Context())
	}
	if err != nil {
		return err
	}
	return a.answerPlayer(w, r.WithContext(a.AsPlayerNow(r.Context())), before)
}

// playerPage gathers the page; before is what was in force until this change.
func (a Screen) playerPage(ctx context.Context, before *page.Player) (*playerPage, error) {
	c := page.Playing(ctx)
	v := &playerPage{
		Form:    formOf(c.Profile),
		Base:    c.Settings.Revision,
		CanUndo: c.Settings.CanUndo,
		CanRedo: c.Settings.CanRedo,
		Default: c.Profile == player.DefaultProfile(),
		Means:   meaningsOf(c),
		Line:    c.Line(),
	}
	g := c.Engine.Player.Guitar
	n := draw.Neck{
		Guitar:     g,
		From:       0,
		To:         g.Frets,
		Width:      1232,
		LeftHanded: g.LeftHanded,
		Label:      "Your neck, to scale",
	}
	v.Reach = draw.ReachSVG(n, c.Engine.Player.Hand)
	counts, _, err := a.Overview(ctx)
	if err != nil {
		return nil, err
	}
	v.Summary = fmt.Sprintf("%d flow, %d tight, %d break", counts.Of[int(judge.Flows)], counts.Of[int(judge.Tight)],
		counts.Of[int(judge.Breaks)])
	if v.Licks, err = a.playerLicks(ctx, before); err != nil {
		return nil, err
	}
	if counts.Judged < counts.All && len(v.Licks) == counts.All {
		// The rows below are judged already; the counts follow in the background.
		of := map[string]int{}
		for _, row := range v.Licks {
			of[row.Class]++
		}
		v.Summary = fmt.Sprintf("%d flow, %d tight, %d break", of[judge.Flows.String()], of[judge.Tight.String()],
			of[judge.Breaks.String()])
	} else if counts.Judged < counts.All {
		v.Summary += fmt.Sprintf("; %d of %d are judged, the rest follows", counts.Judged, counts.All)
	}
	if v.Habits, err = a.habitRows(ctx); err != nil {
		return nil, err
	}
	v.Phones, err = a.Phones.View(ctx)
	return v, err
}

// letIn lets other devices in, shuts them out, or forgets one. It is asked on the notebook's own machine alone.
func (a Screen) letIn(w http.ResponseWriter, r *http.Request) error {
	var f struct {
		Do     string `form:"do"`
		Device uint   `form:"device"`
	}
	if err := a.Decode(r, &f); err != nil {
		return err
	}
	if !phones.FromHere(r) {
		return page.Refuse(errors.New("devices are let in on the notebook’s own machine"))
	}
	var err error
	switch f.Do {
	case "open":
		_, err = a.Phones.Open()
		err = page.Mistake(err)
	case "close":
		a.Phones.Close()
	case "forget":
		err = a.Store.ForgetDevice(r.Context(), f.Device)
	default:
		err = refuse.With("%q is nothing that can be done about phones", text.Clip(f.Do, 60))
	}
	if err != nil {
		return err
	}
	return a.answerPlayer(w, r, nil)
}

// playerRows is how many licks the screen judges at once; the notebook has them all.
const playerRows = 12

// playerLicks are the licks touched last, with what they were for the player before.
// The judgement before is mostly remembered from when the lick was last shown, under the
// generation of the player then; else it is made again with the engine of that time.
func (a Screen) playerLicks(ctx context.Context, before *page.Player) ([]playerLick, error) {
	rows, err := a.Store.List(ctx, store.Query{Limit: playerRows})
	if err != nil {
		return nil, err
	}
	var out []playerLick
	for _, r := range rows {
		e, err := a.Get(ctx, r.ID)
		if err != nil || len(e.Lick.Notes) == 0 || len(e.Lick.Notes) >= page.LongLine {
			continue // what cannot be read, or takes long, is the notebook's to show
		}
		rep, err := a.Report(ctx, e)
		if err != nil {
			return nil, err
		}
		row := playerLick{
			ID:    e.ID,
			Title: view.TitleOf(e.Lick),
			Word:  view.SentenceWord(rep.Verdict),
			Class: rep.Verdict.String(),
			Tempo: fmt.Sprintf("%g", e.Lick.Tempo),
			Now:   view.CeilingWord(rep),
		}
		if before != nil && before.Generation != page.Playing(ctx).Generation {
			was, ok := a.JudgedBy(before, e)
			if !ok {
				if was, err = before.Engine.Check(ctx, e.Lick); err != nil {
					return nil, err
				}
			}
			if row.Before = view.CeilingWord(was); row.Before != row.Now || was.Verdict != rep.Verdict {
				row.Changed = true
			}
		}
		out = append(out, row)
	}
	return out, nil
}

// meaningsOf says in a few words what each setting comes to in the sums. Each is a sum of the same model that judges,
// made for this player: no text here states a number of its own.
func meaningsOf(c *page.Player) map[string]string {
	p := c.Engine.Player
	g := p.Guitar
	m := map[string]string{}
	m["scale"] = fmt.Sprintf("Fret 1 is %.0f mm wide, fret 12 is %.0f.", g.Cell(1), g.Cell(12))
	thin, thick := g.Strings[0].Tension(g.Tuning[0],
		g.Scale), g.Strings[len(g.Strings)-1].Tension(g.Tuning[len(g.Tuning)-1], g.Scale)
	m["gauges"] = fmt.Sprintf("String 1 carries %.0f N, the thickest %.0f: the force of every bend.", thin, thick)
	m["frets"] = "What lies beyond the neck, and which places are free."
	m["tuning"] = "New licks start with it; a lick keeps its own."
	ease, most := p.Hand.Comfort[hand.P14], p.Hand.Limit[hand.P14]
	m["size"] = fmt.Sprintf("Index to little finger: %.0f mm with ease, %.0f at most.", ease, most)
	m["sixteenths"] = fmt.Sprintf("A stroke takes %.0f ms.", pick.TurnNeed/p.Pick.Speed)
	m["hammering"] = fmt.Sprintf("A move takes %.0f %% of the model's time.", 100/p.Hand.Speed)
	m["bend_finger"] = "The ring finger, unless the little one stands better there."
	if p.Hand.Bender.Fretting() {
		m["bend_finger"] = fmt.Sprintf("The %s, wherever it reaches.", p.Hand.Bender.Word())
	}
	m["helpers"] = map[player.Helping]string{
		player.HelpMany: "The more fingers push, the lighter the bend.",
		player.HelpFew:  "Fingers that are not needed stay where they are.",
		player.HelpFlat: "The index keeps its strings while two fingers bend behind it.",
	}[p.Helping]
	m["bend"] = fmt.Sprintf("One finger holds %.1f N, two %.1f, three %.1f.", p.Bends.One, p.Bends.Two, p.Bends.Three)
	m["way"] = "How strokes that you leave open are proposed."
	m["angle"] = fmt.Sprintf("A change that leaves on the other stroke takes %g ms more.", pick.ExitExtra)
	m["boxes"] = "Which box number Tones says first."
	m["strict"] = map[player.Strictness]string{
		player.Easy:  "Bends without a target are not mentioned.",
		player.Usual: "A bend must lead to a chosen tone; a curl may go anywhere.",
		player.Every: "Even a curl must " +
			"lead toward a chosen tone.",
	}[p.Strict]
	if push, ok := bend.Solve(g, neck.Place{String: 1, Fret: 12}, 2); ok {
		m["gauges"] += fmt.Sprintf(" A full bend at fret 12 on string 1 takes %.1f N.", push.Force)
	}
	return m
}

// habitRows are the habits on Player: those that are kept, with a bend's shown by its own setting, and
// those that the corrections offer.
func (a Screen) habitRows(ctx context.Context) ([]page.Habit, error) {
	var out []page.Habit
	for _, h := range page.Playing(ctx).Profile.Own() {
		out = append(out, page.Habit{Value: h.String(), Text: say.HabitOf(h), On: true})
	}
	list, err := a.HabitsOffered(ctx, 0, nil)
	for _, h := range list {
		if h.Situation != player.BendSituation {
			out = append(out,
				page.Habit{Value: h.String(), Text: say.HabitOf(h) + " (you have set it so three times)", On: false})
		}
	}
	return out, err
}
