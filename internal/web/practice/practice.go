// Package practice is the screen of the day: the plan, the stand with its ladder, the ear, and the log
// with what it says of the player.
package practice

import (
	"bytes"
	"context"
	"embed"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"io/fs"
	"net/http"
	"slices"
	"strings"
	"time"

	"github.com/go-chi/chi/v5"

	"ornamen/core/lick"
	"ornamen/core/practice"
	"ornamen/core/say"
	"ornamen/core/text"
	"ornamen/internal/lesson"
	"ornamen/internal/practising"
	"ornamen/internal/store"
	"ornamen/internal/web/page"
)

// Screen is the day's practice and its log.
type Screen struct {
	*page.Site
	pieces *practising.Pieces // the parts of licks, by version and player
	logs   *practising.Logs   // the players' logs as they were read last
}

// New shares what is remembered of parts and logs with the sets.
// The log is read at once in the background: one of ten years takes a second or two, which nobody should wait for.
func New(site *page.Site, pieces *practising.Pieces, logs *practising.Logs) Screen {
	a := Screen{site, pieces, logs}
	go func() {
		for _, p := range site.Players() {
			a.logs.Of(p.Who.ID).Numbers(context.Background(), site.Store) // what is wrong is told where it is asked for
		}
	}()
	return a
}

//go:embed *.html *.js *.css
var files embed.FS

// Menu implements page.Screen.
func (a Screen) Menu() page.MenuEntry {
	return page.MenuEntry{Name: "practice", Title: "Practice", Address: func(lick uint, from string) string {
		if lick == 0 || from != "bench" && from != "changes" {
			return "/practice"
		}
		return fmt.Sprintf("/practice?lick=%d", lick)
	}}
}

// Files implements page.Screen.
func (a Screen) Files() fs.FS { return files }

// Routes implements page.Screen.
func (a Screen) Routes(r, work chi.Router) {
	r.Get("/practice", a.Handler(a.today))
	r.Post("/practice", a.Handler(a.practise))
	r.Post("/practice/bend", a.Handler(a.hearBend))
	r.Post("/practice/line", a.Handler(a.hearLine))
	r.Get("/practice/log", a.Handler(a.logPage))
	work.Get("/practice/log.csv", a.Handler(a.logFile))
	work.Get("/practice/log.json", a.Handler(a.logFile))
	work.Get("/practice/report.json", a.Handler(a.report))
	r.Post("/practice/log/import", a.Handler(a.takeLog))
	r.Post("/practice/log/readings/{id}/back", a.Handler(a.takeReadingBack))
	r.Post("/practice/numbers", a.Handler(a.takeNumbers))
}

// practiceForm is a request of the Practice screen. Lick and part say what stands on the stand; without a lick it is
// the first thing of today's plan. Tempo is that of the round that was played, which the page was given by the ladder;
// it is in quarters a minute.
type practiceForm struct {
	Minutes int     `form:"minutes"`
	Lick    uint    `form:"lick"`
	Set     uint    `form:"set"` // to which the plan is limited; 0 for none
	Part    string  `form:"part"`
	Kind    string  `form:"kind"` // warm-up or ear, of an item of the plan; empty on the ladder
	Tempo   float64 `form:"tempo"`
	Do      string  `form:"do"` // clean, miss, note, undo, redo, hurts, well, rested, easy, fine, tense, set, raised, keep, done, up, out, in
	Note    int     `form:"note"`
	Line    uint    `form:"line"`    // of the log, that the page shows as written last: it is corrected or taken back
	Seconds float64 `form:"seconds"` // since the round before
}

// who is the number of the player whose practice a request is about.
func who(ctx context.Context) uint { return page.Playing(ctx).Who.ID }

// pieceOf names the request's player for the parts of licks.
func pieceOf(ctx context.Context) practising.Who {
	p := page.Playing(ctx)
	return practising.Who{Key: p.Key, Own: p.Who.Own()}
}

// usualMinutes is how long a day's practice is unless the player says otherwise.
const usualMinutes = 30

// mostMinutes bounds a plan, and mostSeconds what one round may have taken.
const (
	mostMinutes = 240
	mostSeconds = 300
)

// today is the page: the plan, and what stands on the stand. The plan is computed from the log
// at every look and kept nowhere, so that it cannot go stale.
func (a Screen) today(w http.ResponseWriter, r *http.Request) error {
	var f practiceForm
	if err := a.Decode(r, &f); err != nil {
		return err
	}
	if rounds, reading := a.stillReading(r.Context()); reading {
		again := r.URL.RequestURI()
		v := &practicePage{Day: a.Store.Now().Format("Monday"), Reading: again, Rounds: rounds}
		return a.RenderBody(w, r, "practice", page.Page{Title: "Practice", Where: "practice", Data: v})
	}
	return a.answerPractice(w, r, f, false, 0)
}

// readSoon is how long a page waits for a log to be read before it shows that it is.
const readSoon = 400 * time.Millisecond

// stillReading says whether the player's log takes longer to read than a page should wait for, as one of ten years does
// after it was read in, and about how many rounds it has.
func (a Screen) stillReading(ctx context.Context) (rounds uint, reading bool) {
	if a.logs.Of(who(ctx)).Within(ctx, a.Store, readSoon) {
		return 0, false
	}
	rounds, err := a.Store.LastPlayed(ctx, who(ctx))
	return rounds, err == nil
}

// answerPractice sends the page, or to a page that is open its body. After a miss it asks which note it was; after a
// line was taken back it offers to put that one back.
func (a Screen) answerPractice(w http.ResponseWriter, r *http.Request, f practiceForm, missed bool, back uint) error {
	v, err := a.practiceView(r.Context(), f)
	if err != nil {
		return err
	}
	v.AskNote, v.Back = missed && v.Stand != nil, back
	return a.RenderBody(w, r, "practice", page.Page{Title: "Practice", Where: "practice", Data: v})
}

// practise takes what a player says: a round that was clean or not, the note that was missed,
// that it hurts or is well again, a rest that was taken. Each is written at once, so that a page
// that is closed loses no more than the round under way.
func (a Screen) practise(w http.ResponseWriter, r *http.Request) error {
	var f practiceForm
	if err := a.Decode(r, &f); err != nil {
		return err
	}
	ctx, now := r.Context(), a.Store.Now()
	var err error
	switch f.Do {
	case "clean", "miss":
		err = a.round(ctx, f, now)
	case "note":
		err = a.missedNote(ctx, f)
	case "undo":
		_, err = a.Store.TakeBack(ctx, who(ctx), f.Line)
	case "redo":
		_, err = a.Store.PutBack(ctx, who(ctx), f.Line)
	case "hurts", "well", "rested", "easy", "fine", "tense":
		comfort := map[string]practice.Comfort{"hurts": practice.Hurts, "well": practice.Well,
			"rested": practice.Fine, "easy": practice.Easy, "fine": practice.Fine, "tense": practice.Tense}[f.Do]
		_, err = practising.Add(ctx, a.Store, who(ctx), practice.Entry{Title: f.Do, Comfort: comfort, Time: now})
	case "set", "raised", "keep", "done", "up", "out", "in":
		err = a.word(ctx, f, now)
	default:
		err = page.Refuse(fmt.Errorf("%q is nothing that can be said here", text.Clip(f.Do, 60)))
	}
	if err != nil {
		return err
	}
	back := uint(0)
	if f.Do == "undo" {
		back = f.Line
	}
	return a.answerPractice(w, r, f, f.Do == "miss", back)
}

// word writes what the player says of the part on the stand, or of its lick: a tempo that is set, a wanted tempo
// that is raised or kept, that one is done with the part or takes it up again, keeps the lick out of practice or
// takes it in.
func (a Screen) word(ctx context.Context, f practiceForm, now time.Time) error {
	e, p, part, err := a.partOf(ctx, f)
	if err != nil {
		return err
	}
	if !(f.Tempo >= 20 && f.Tempo <= 400) && (f.Do == "set" || f.Do == "raised") {
		return page.Refuse(errors.New("a tempo of the stand is 20 to 400"))
	}
	x := practice.Entry{Lick: e.ID, Title: p.Title, Revision: e.Revision, Part: part.Name, From: part.From, To: part.To,
		Tempo: f.Tempo, Kind: practice.Kind(f.Do), Time: now}
	switch f.Do {
	case "keep": // the wanted tempo stays what it is, and is climbed to again
		x.Kind = practice.Raised
	case "raised":
		x.Tempo = practice.RaiseTo(f.Tempo)
	}
	_, err = practising.Add(ctx, a.Store, who(ctx), x)
	return err
}

// partOf is the part on the stand.
func (a Screen) partOf(ctx context.Context, f practiceForm) (e store.Entry, p practice.Piece, part practice.Part,
	err error) {
	if e, err = a.Get(ctx, f.Lick); err != nil {
		return e, p, part, err
	}
	if p, err = a.pieceFor(ctx, f, e); err != nil {
		return e, p, part, err
	}
	for _, x := range p.Parts {
		if x.Name == f.Part {
			return e, p, x, nil
		}
	}
	return e, p, part, page.Refuse(errors.New("that part is no longer there, as the line has changed; choose another"))
}

// pieceFor is a lick as something to practise, up to the tempo that the set wants, if the plan is limited to one.
func (a Screen) pieceFor(ctx context.Context, f practiceForm, e store.Entry) (practice.Piece, error) {
	p, err := a.pieces.Of(ctx, page.EngineOf(ctx), pieceOf(ctx), e)
	if err != nil || f.Set == 0 {
		return p, err
	}
	x, err := a.Store.SetOf(ctx, f.Set)
	if errors.Is(err, store.ErrNotFound) {
		return p, nil // put aside meanwhile
	}
	if k := slices.IndexFunc(x.Items, func(it store.SetItem) bool { return it.Lick == e.ID && it.Tempo > 0 }); k >= 0 {
		p.Wanted = x.Items[k].Tempo
	}
	return p, err
}

// round writes a round of the part on the stand, with what the part asks of each hand at that
// tempo, so that the log can say later which hand failed. A page that was left open for an hour
// does not claim that hour: a round counts for five minutes at most.
func (a Screen) round(ctx context.Context, f practiceForm, now time.Time) error {
	e, _, part, err := a.partOf(ctx, f)
	if err != nil {
		return err
	}
	if !(f.Tempo >= 10 && f.Tempo <= 400) {
		return page.Refuse(errors.New("a tempo is 10 to 400"))
	}
	minutes := max(0, min(mostSeconds, f.Seconds)) / 60
	x := practising.Round(page.EngineOf(ctx), e, part, f.Tempo, f.Do == "clean", f.Note, minutes, now)
	if k := practice.Kind(f.Kind); k == practice.WarmUp || k == practice.Ear {
		x.Kind = k
	}
	_, err = practising.Add(ctx, a.Store, who(ctx), x)
	return err
}

// missedNote says which note was missed of the round that the page has logged: one write, which names the line that it
// corrects. A note beyond the part is as if none was said.
func (a Screen) missedNote(ctx context.Context, f practiceForm) error {
	_, err := a.Store.Correct(ctx, who(ctx), f.Line, func(p *store.Played) {
		if p.Missed > 0 && f.Note >= p.First && f.Note <= p.Last {
			p.Note = f.Note
		}
	})
	return err
}

// logPage shows progress and the player's own numbers.
func (a Screen) logPage(w http.ResponseWriter, r *http.Request) error {
	var f struct {
		Added   int  `form:"added"`
		Of      int  `form:"of"`      // lines of a file that was just read
		Reading uint `form:"reading"` // that can be taken back
		Back    int  `form:"back"`    // lines that were just taken back
	}
	if err := a.Decode(r, &f); err != nil {
		return err
	}
	v, err := a.logView(r.Context())
	if err != nil {
		return err
	}
	if f.Of > 0 {
		text := fmt.Sprintf("%s added to the log of %s.", page.SentenceCase(say.Count(f.Added, "line")),
			page.Playing(r.Context()).Who.Name)
		if had := f.Of - f.Added; had > 0 {
			were := fmt.Sprint(had, " were")
			if had == 1 {
				were = "One was"
			}
			text += " " + were + " there already."
		}
		v.Notice = &page.Notice{Text: text}
		if f.Reading > 0 {
			v.Notice.Actions = []page.Action{{
				Label: "Take it back as a whole",
				Post:  fmt.Sprintf("/practice/log/readings/%d/back", f.Reading),
			}}
		}
	}
	if f.Back > 0 {
		v.Notice = &page.Notice{
			Text: page.SentenceCase(
				say.Count(f.Back, "line"),
			) + " taken back. The file can be read again, into this log or another.",
		}
	}
	return a.Render(w, r, "practice-log", page.Page{Title: "Log", Where: "practice", Data: v})
}

// logFile hands the log over as CSV or JSON. GET /practice/log.csv or .json: what takeLog reads.
func (a Screen) logFile(w http.ResponseWriter, r *http.Request) error {
	log, err := practising.Written(r.Context(), a.Store, who(r.Context()))
	if err != nil {
		return err
	}
	var b bytes.Buffer
	kind, name := "text/csv; charset=utf-8", "practice.csv"
	if strings.HasSuffix(r.URL.Path, ".json") {
		kind, name = "application/json", "practice.json"
		if log == nil {
			log = []practice.Entry{}
		}
		err = json.NewEncoder(&b).Encode(log)
	} else {
		err = practice.WriteCSV(&b, log)
	}
	if err != nil {
		return err
	}
	return page.Send(w, kind, name, b.Bytes())
}

// report hands over what the player practised, of a set alone where one is named: the file that a teacher reads.
func (a Screen) report(w http.ResponseWriter, r *http.Request) error {
	var f practiceForm
	if err := a.Decode(r, &f); err != nil {
		return err
	}
	ctx := r.Context()
	set, err := a.setOf(ctx, f)
	if err != nil {
		return err
	}
	var b bytes.Buffer
	if _, err := lesson.WriteReport(ctx, &b, a.Store, page.Playing(ctx).Who, set); err != nil {
		return err
	}
	name := lick.Lick{Title: "practice " + page.Playing(ctx).Who.Name}.FileName() + ".json"
	return page.Send(w, "application/json", name, b.Bytes())
}

// takeLog adds a log from a file, all of it or nothing, or what a student reports. POST, a file. What is read in twice
// is there once. A report goes into the log of the student whom it is of; whose that is, is asked once.
func (a Screen) takeLog(w http.ResponseWriter, r *http.Request) error {
	f, head, err := r.FormFile("file")
	if err != nil {
		return page.Refuse(errors.New("choose a log to read, as CSV or JSON"))
	}
	defer f.Close()
	ctx, name := r.Context(), text.Clip(head.Filename, 60)
	data, err := io.ReadAll(io.LimitReader(f, lesson.MaxReport+1))
	if err != nil {
		return err
	}
	practised, err := lesson.ReadPractised(head.Filename, data)
	if err != nil {
		return page.Refuse(fmt.Errorf("“%s” was not read: %w", name, err))
	}
	to, reading, err := practised.Take(ctx, a.Store, page.Playing(ctx).Who, r.FormValue("who"))
	if err != nil {
		return err
	}
	page.Choose(w, r, to.Key) // the log that has grown is the one that is shown
	return page.Redirect(
		w,
		r,
		fmt.Sprintf("/practice/log?added=%d&of=%d&reading=%d", reading.Added, practised.Rounds, reading.ID),
	)
}

// takeReadingBack takes back what a file added to a log, and whom it bound the log to.
func (a Screen) takeReadingBack(w http.ResponseWriter, r *http.Request) error {
	id, err := a.IDAndForm(r, &struct{}{})
	if err != nil {
		return err
	}
	_, lines, err := a.Store.TakeReadingBack(r.Context(), id)
	if err != nil {
		return err
	}
	return page.Redirect(w, r, fmt.Sprintf("/practice/log?back=%d", lines))
}

// takeNumbers makes the player's own numbers those that all lines are judged by: what the log
// shows of an ability, as the measurement that would have given it. It can be undone on Player.
func (a Screen) takeNumbers(w http.ResponseWriter, r *http.Request) error {
	log, err := practising.Log(r.Context(), a.Store, who(r.Context()))
	if err != nil {
		return err
	}
	profile, err := page.Playing(r.Context()).Profile.With(practising.Shown(log))
	err = page.Mistake(err)
	if err == nil {
		err = a.SavePlayer(r.Context(), profile, store.Newest)
	}
	if err == nil {
		err = a.LoadPlayers(r.Context())
	}
	if err != nil {
		return err
	}
	return page.Redirect(w, r, "/practice/log")
}

// onStand finds the lick of the stand; ok is false where it is gone.
func (a Screen) onStand(ctx context.Context, lick uint) (e store.Entry, ok bool, err error) {
	e, err = a.Get(ctx, lick)
	if errors.Is(err, store.ErrNotFound) {
		return e, false, nil
	}
	return e, err == nil, err
}
