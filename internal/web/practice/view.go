package practice

import (
	"cmp"
	"context"
	"fmt"
	"html/template"
	"math"
	"net/url"
	"slices"
	"time"

	"ornamen/core/player"
	"ornamen/core/practice"
	"ornamen/core/say"
	"ornamen/internal/practising"
	"ornamen/internal/store"
	"ornamen/internal/web/draw"
	"ornamen/internal/web/page"
	"ornamen/internal/web/view"
)

// practicePage is today: the plan and the stand. Items is the plan of the day, in the order to play it; Stand is the
// part that is being practised, nil where the plan is empty. AskNote opens the choice of which of Notes was missed.
type practicePage struct {
	Day     string
	Minutes int
	Used    string
	Choices []view.Choice
	Items   []planRow
	Sore    bool
	Set     uint // to which the plan is limited, 0 for none
	SetName string
	Sets    []view.Choice
	Paces   []practising.Paces
	Rest    bool // it is time for a break
	Played  int  // minutes since the last one
	Stand   *standView
	Out     bool // the lick on the stand is kept out of practice
	AskNote bool
	Notes   []int
	Reading string // the address to look at again while the log is read; empty once it is
	Rounds  uint   // about how many it has
	Last    string // what was written last, that can be taken back
	Line    uint   // its number
	Back    uint   // a line that was just taken back, and can be put back
}

// planRow is one thing of the plan. On is on the stand, Done played today. A row without a link is a break.
type planRow struct {
	Title, Why, Tempo, Kind, Link string
	Minutes                       int
	On, Done                      bool
	kind                          practice.Kind
	tempo                         float64
}

// standView is the part on the stand. Wanted is the lick's own tempo, Rung where the ladder stands on the way there.
// Hands is the part alone with its fingers and strokes, the note missed last marked.
type standView struct {
	Lick     uint
	Title    string
	Part     practice.Part
	Name     string
	Wanted   float64
	Rung     practice.Rung
	Kind     string  // warm-up or ear; empty on the ladder
	Tempo    float64 // to play now: the ladder's, or of a warm-up and for the ear the plan's
	Asks     bool    // the wanted tempo is reached and clean: raise it, keep it, be done
	Raise    float64
	Pips     []bool // clean rounds at this step
	Ceiling  int
	Hands    template.HTML
	Parts    []view.Choice
	Bends    []bendEar
	Targets  []bendEar // beside them
	Curve    template.HTML
	Forecast string
	Minutes  int
	Today    string // minutes on this part today, of those planned
	Spent    int    // seconds of them
	Planned  int    // minutes; 0 for a part that is not in the plan
}

// practiceView reads the log and plans the day.
//
// The plan is made from the log as it was this morning, or every round would change what comes
// next; what has been played since is marked as done, and the first thing that is not goes on
// the stand. Cautions are not: soreness counts from the moment it is said.
//
// A form without a lick gets the first thing of the plan that is not done. Parts of every lick
// come from what package practising remembers; licks never seen by this player are judged
// first, which is why this waits its turn like every long work.
func (a Screen) practiceView(ctx context.Context, f practiceForm) (*practicePage, error) {
	if f.Minutes < 1 || f.Minutes > mostMinutes {
		f.Minutes = usualMinutes
	}
	now := a.Store.Now()
	book, err := a.logs.Of(who(ctx)).Of(ctx, a.Store)
	if err != nil {
		return nil, err
	}
	log := book.Entries
	set, err := a.setOf(ctx, f)
	if err != nil {
		return nil, err
	}
	pieces, err := page.Queued(ctx, a.Site, 0, func(ctx context.Context) ([]practice.Piece, error) {
		if set != nil {
			return a.pieces.In(ctx, page.EngineOf(ctx), pieceOf(ctx), a.Store, set.Due(now.Weekday()))
		}
		return a.pieces.All(ctx, page.EngineOf(ctx), pieceOf(ctx), a.Store, book.Licks())
	})
	if err != nil {
		return nil, err
	}
	// The plan is this morning's: what is played in the meantime stays on it, as done.
	today := practice.DateOf(now)
	v := &practicePage{Day: now.Format("Monday"), Minutes: f.Minutes, Sore: book.Sore(), Set: f.Set}
	if v.Sets, err = a.setChoices(ctx, f); err != nil {
		return nil, err
	}
	if set != nil {
		v.SetName, v.Paces = set.Name, practising.Paced(*set, pieces, book, today)
	}
	items := practice.Plan(f.Minutes, pieces, book.Until(today), now)
	used, marked := 0, false
	for _, x := range items {
		used += x.Minutes
		row := planRow{Title: x.Title, Why: x.Why, Kind: string(x.Kind), Minutes: x.Minutes}
		if x.Part.Name != "" {
			row.Title += ", " + x.Part.Name
		}
		if x.Kind == practice.WarmUp {
			row.Title = "Warm-up: " + row.Title
		}
		if x.Lick != 0 {
			row.Tempo = fmt.Sprintf("%.0f", x.Tempo)
			row.kind, row.tempo = ladderKind(x.Kind), x.Tempo
			row.Link = standLink(x.Lick, x.Part.Name, f.Minutes, f.Set, string(row.kind))
			row.Done = slices.ContainsFunc(book.Part(x.Lick, x.Part.Name), func(e practice.Entry) bool {
				return practice.DateOf(e.Time) >= today && e.Kind == row.kind && e.Clean+e.Missed > 0
			})
			if f.Lick == 0 && !row.Done {
				f.Lick, f.Part, f.Kind = x.Lick, x.Part.Name, string(row.kind)
			}
			row.On = !marked && f.Lick == x.Lick && f.Part == x.Part.Name && f.Kind == string(row.kind)
			marked = marked || row.On
		}
		v.Items = append(v.Items, row)
	}
	v.Used = say.Count(used, "minute") + ", " + say.Count(len(items), "thing")
	for _, n := range []int{10, 20, 30, 45, 60} {
		v.Choices = append(v.Choices, view.Choice{
			Name: fmt.Sprint(n),
			Link: fmt.Sprintf("/practice?minutes=%d", n) + setQuery(f.Set),
			On:   n == f.Minutes,
		})
	}
	v.Played = practice.PlayedSince(log, now)
	v.Rest = v.Played >= practice.RestAfter
	last, line, err := practising.LastLine(ctx, a.Store, who(ctx))
	if err != nil {
		return nil, err
	}
	if line > 0 && now.Sub(last.Time) < time.Hour {
		v.Last, v.Line = lastWord(last), line
	}
	if f.Lick != 0 {
		if err := a.stand(ctx, v, f, book); err != nil {
			return nil, err
		}
	}
	return v, nil
}

// ladderKind is how rounds of an item of the plan are logged.
func ladderKind(k practice.Kind) practice.Kind {
	if k == practice.WarmUp || k == practice.Ear {
		return k
	}
	return ""
}

// lastWord says what was written last.
func lastWord(e practice.Entry) string {
	switch {
	case e.Kind == practice.SetTempo:
		return fmt.Sprintf("the tempo set to %.0f", e.Tempo)
	case e.Kind == practice.Raised:
		return fmt.Sprintf("wanted at %.0f", e.Tempo)
	case e.Kind == practice.Finished:
		return "done with this part"
	case e.Kind == practice.TakenUp:
		return "taken up again"
	case e.Kind == practice.OutOfPractice:
		return e.Title + " kept out of practice"
	case e.Kind == practice.TakenIn:
		return e.Title + " taken in again"
	case e.Comfort == practice.Well:
		return "it is well again"
	case e.Comfort == practice.Easy || e.Comfort == practice.Tense:
		return "it feels " + string(e.Comfort)
	case e.Comfort == practice.Hurts:
		return "it hurts"
	case e.Comfort != "":
		return "a rest"
	case e.Clean > 0:
		return fmt.Sprintf("clean at %.0f", e.Tempo)
	case e.Note > 0:
		return fmt.Sprintf("missed note %d at %.0f", e.Note, e.Tempo)
	}
	return fmt.Sprintf("missed at %.0f", e.Tempo)
}

// standLink is the screen with a part on the stand.
func standLink(id uint, part string, minutes int, set uint, kind string) string {
	q := url.Values{"lick": {fmt.Sprint(id)}, "part": {part}, "minutes": {fmt.Sprint(minutes)}}
	if kind != "" {
		q.Set("kind", kind)
	}
	return "/practice?" + q.Encode() + setQuery(set)
}

// setQuery is the part of an address that keeps to a set.
func setQuery(set uint) string {
	if set == 0 {
		return ""
	}
	return fmt.Sprintf("&set=%d", set)
}

// setOf is the set to which the plan is limited; nil for none.
func (a Screen) setOf(ctx context.Context, f practiceForm) (*store.Set, error) {
	if f.Set == 0 {
		return nil, nil
	}
	x, err := a.Store.SetOf(ctx, f.Set)
	if err != nil {
		return nil, err
	}
	return &x, nil
}

// setChoices are the sets that the plan can be limited to; none where there is no set.
func (a Screen) setChoices(ctx context.Context, f practiceForm) (out []view.Choice, err error) {
	list, err := a.Store.Sets(ctx)
	if err != nil || len(list) == 0 {
		return nil, err
	}
	out = append(out,
		view.Choice{Name: "everything", Link: fmt.Sprintf("/practice?minutes=%d", f.Minutes), On: f.Set == 0})
	for _, x := range list {
		out = append(out, view.Choice{
			Name: x.Name,
			Link: fmt.Sprintf("/practice?minutes=%d", f.Minutes) + setQuery(x.ID),
			On:   f.Set == x.ID,
		})
	}
	return out, nil
}

// stand puts a part on the stand: its notes with both hands, where it stands on its ladder, how
// it went so far. A lick that has been deleted leaves the stand empty; a part that the line no
// longer has gives way to the whole, which stands last.
func (a Screen) stand(ctx context.Context, v *practicePage, f practiceForm, book *practice.Book) error {
	e, ok, err := a.onStand(ctx, f.Lick)
	if err != nil || !ok {
		return err
	}
	p, err := a.pieceFor(ctx, f, e)
	if err != nil || len(p.Parts) == 0 {
		return err
	}
	part := p.Parts[len(p.Parts)-1]
	for _, x := range p.Parts {
		if x.Name == f.Part {
			part = x
		}
	}
	s := &standView{
		Lick:    e.ID,
		Title:   p.Title,
		Part:    part,
		Name:    cmp.Or(part.Name, "the whole"),
		Minutes: v.Minutes,
		Rung:    book.Climb(part, p.Wanted, e.ID, practice.DateOf(a.Store.Now())),
		Ceiling: int(part.Ceiling),
		Kind:    f.Kind,
	}
	s.Wanted, s.Tempo, s.Raise = s.Rung.Wanted, s.Rung.Tempo, practice.RaiseTo(s.Rung.Wanted)
	s.Asks = s.Rung.Top && !s.Rung.Done && f.Kind == ""
	v.Out = book.KeptOut(e.ID)
	if f.Kind != "" {
		s.Tempo = practice.Start(part, p.Wanted)
		if f.Do == "set" || f.Tempo > 0 && f.Do != "" {
			s.Tempo = f.Tempo // a warm-up is played as the player likes, and is no rung
		}
	}
	for k := range 3 {
		s.Pips = append(s.Pips, k < 3-s.Rung.Left)
	}
	shown := practice.Line(page.EngineOf(ctx).Player.Guitar, e.Lick, part)
	if !part.Backwards {
		rep, err := page.EngineOf(ctx).Check(ctx, e.Lick)
		if err != nil {
			return err
		}
		shown = practice.Line(page.EngineOf(ctx).Player.Guitar, rep.Lick, part)
	} else if shown, err = page.Handed(ctx, shown); err != nil {
		return err
	}
	var missed []int
	if s.Rung.Note >= part.From && s.Rung.Note <= part.To {
		missed = []int{s.Rung.Note - part.From + 1}
	}
	s.Hands = draw.StandSVG(shown, missed, part.From)
	if part.Backwards {
		s.Hands = draw.HandsSVG(shown, nil, missed)
	}
	for _, x := range p.Parts {
		s.Parts = append(s.Parts, view.Choice{
			On:   x.Name == part.Name,
			Name: fmt.Sprintf("%s: clean up to %.0f", cmp.Or(x.Name, "the whole"), x.Ceiling),
			Link: standLink(e.ID, x.Name, v.Minutes, f.Set, ""),
		})
	}
	today, spent := practice.DateOf(a.Store.Now()), 0.0
	entries := book.Part(e.ID, part.Name)
	for _, x := range entries {
		if practice.DateOf(x.Time) >= today &&
			(x.Kind == practice.Kind(f.Kind) || f.Kind == "" && x.Kind != practice.WarmUp && x.Kind != practice.Ear) {
			spent += x.Minutes
		}
	}
	clock := fmt.Sprintf("%d:%02d", int(60*spent)/60, int(60*spent)%60)
	s.Today, s.Spent = clock+" today", int(60*spent)
	for _, row := range v.Items {
		if row.On {
			s.Today, s.Planned = fmt.Sprintf("%s of %d minutes", clock, row.Minutes), row.Minutes
			if spent >= float64(row.Minutes) {
				s.Today += ": enough for today, go on with the next"
			}
		}
	}
	s.Bends = bendsOf(e.Lick, part, book, e.ID)
	if len(s.Bends) > 0 {
		s.Targets = targetBends(e.Lick, practice.Targets(page.EngineOf(ctx), e.Lick, part), book, e.ID)
	}
	days := practice.Days(entries, e.ID, part.Name)
	s.Forecast = "Not played yet: its curve begins with the first round."
	if len(days) > 0 {
		f := practice.Predict(days, s.Wanted)
		s.Forecast, s.Curve = f.Words(s.Wanted), draw.ProgressSVG(practice.Thinned(days, drawnDays), s.Wanted, f, 420)
	}
	for n := part.From; n <= part.To && len(v.Notes) < 24; n++ {
		v.Notes = append(v.Notes, n)
	}
	v.Stand = s
	return nil
}

// logPage is progress: curves with their numbers, minutes, and the player's own numbers. The log is there to decide by:
// what is clean how fast, how long it still takes, and whether the model's player is this player.
type logPage struct {
	Notice    *page.Notice
	Empty     bool
	Aside     int // lines that could not be read when the notebook was opened
	Summary   string
	Curves    []curveView
	Minutes   template.HTML
	Table     []practice.Point
	Abilities []abilityView
	Kinds     []abilityView // by kind of move
	Shown     bool          // at least one of them says something
	Taken     bool
}

// curveView is one part over the weeks.
// Days are the numbers behind the drawing. Forecast is empty for a lick that is gone.
type curveView struct {
	Title, Forecast, Rate, Link string
	Curve                       template.HTML
	Days                        []practice.Point
}

// abilityView is one of the player's own numbers beside the default.
// Word is "not from this log" until the rounds say more than what was assumed before them.
type abilityView struct {
	Name, Word, Range string
	Rounds            int
	Differs           bool
	Weeks             template.HTML // its curve with the band
}

// How many days a curve is drawn by, a table lists and the bars of minutes show: more are not told apart.
const (
	drawnDays   = 240
	listedDays  = 60
	minutesDays = 90
)

// mostCurves is how many parts the log shows.
const mostCurves = 6

// logView reads the whole log.
// Curves are of the parts played last. Numbers stand beside every curve, for a screen reader.
func (a Screen) logView(ctx context.Context) (*logPage, error) {
	book, err := a.logs.Of(who(ctx)).Of(ctx, a.Store)
	if err != nil {
		return nil, err
	}
	log := book.Entries
	aside, err := a.Store.SetAside(ctx)
	if err != nil {
		return nil, err
	}
	v := &logPage{Empty: len(log) == 0, Aside: len(aside)}
	type key struct {
		lick uint
		part string
	}
	var order []key
	title := map[key]string{}
	total := 0.0
	for _, e := range slices.Backward(log) {
		total += e.Minutes
		k := key{e.Lick, e.Part}
		if e.Lick == 0 || e.Clean+e.Missed == 0 || title[k] != "" {
			continue
		}
		title[k] = e.Title
		if e.Part != "" {
			title[k] += ", " + e.Part
		}
		order = append(order, k)
	}
	all := book.Days()
	v.Table = all
	v.Summary = say.Count(len(all), "day") + ", " + say.Count(int(math.Round(total)), "minute")
	if week, best := practice.BestWeek(all); best > 0 {
		v.Summary += fmt.Sprintf("; the best week, from %s, had %.0f", week.Word(practice.DateOf(a.Store.Now())), best)
	}
	for _, k := range order[:min(mostCurves, len(order))] {
		days := practice.Days(book.Part(k.lick, k.part), k.lick, k.part)
		wanted := 0.0
		if e, ok, err := a.onStand(ctx, k.lick); err == nil && ok {
			wanted = e.Lick.Tempo
		}
		clean, rounds := 0, 0
		for _, d := range days {
			clean, rounds = clean+d.Clean, rounds+d.Clean+d.Missed
		}
		c := curveView{
			Title: title[k],
			Days:  days,
			Link:  standLink(k.lick, k.part, usualMinutes, 0, ""),
			Rate:  fmt.Sprintf("%d of %d rounds clean", clean, rounds),
		}
		f := practice.Predict(days, wanted)
		if wanted > 0 {
			c.Forecast = f.Words(wanted)
		}
		c.Curve = draw.ProgressSVG(practice.Thinned(days, drawnDays), wanted, f, 380)
		c.Days = days[max(0, len(days)-listedDays):]
		v.Curves = append(v.Curves, c)
	}
	v.Minutes = draw.MinutesSVG(all[max(0, len(all)-minutesDays):], 340)
	numbers, err := a.logs.Of(who(ctx)).Numbers(ctx, a.Store)
	if err != nil {
		return nil, err
	}
	now, shown := page.Playing(ctx).Profile, practising.ShownOf(numbers.Abilities())
	taken, err := now.With(shown)
	v.Shown = shown != player.Shown{}
	v.Taken = v.Shown && err == nil && taken == now
	for k, x := range numbers.Abilities() {
		row := abilityView{Name: x.Name, Word: "not from this log", Rounds: x.Rounds, Differs: x.Differs()}
		if x.Shown() {
			row.Word, row.Range = x.Words(x.Value), x.Words(x.Low)+" to "+x.Words(x.High)
			row.Weeks = draw.AbilitySVG(numbers.Weeks(), k, 300)
		}
		v.Abilities = append(v.Abilities, row)
	}
	for _, x := range numbers.Kinds() {
		v.Kinds = append(v.Kinds, abilityView{
			Name:    x.Name,
			Word:    x.Words(x.Value),
			Range:   x.Words(x.Low) + " to " + x.Words(x.High),
			Rounds:  x.Rounds,
			Differs: x.Differs(),
		})
	}
	return v, nil
}
