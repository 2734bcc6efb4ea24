package notebook

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"log"
	"net/http"
	"runtime/debug"
	"time"

	"ornamen/core/judge"
	"ornamen/core/lick"
	"ornamen/internal/store"
	"ornamen/internal/web/draw"
	"ornamen/internal/web/page"
	"ornamen/internal/web/view"
)

// Judging goes in small steps, so that it gives way to requests and a change of the player is followed at once.
const (
	judgeStep  = 16
	judgePause = 30 * time.Second // after a fault of the store
	pageBudget = 30 * time.Millisecond
	fewBudget  = time.Second // where all that there is stands on one page
)

// Judge judges in the background what has no judgement yet, a few licks after the other, until the
// context ends, so that pages read what they show and compute nothing. Woken while at work it goes on
// looking, so that no wake is lost: the channel holds one.
func (a Screen) Judge(ctx context.Context) {
	a.Wake()
	go func() {
		for {
			select {
			case <-ctx.Done():
				return
			case <-a.News():
			}
			for more := true; more; {
				var err error
				if more, err = a.judgeNext(ctx); err == nil {
					continue
				}
				if ctx.Err() != nil {
					return
				}
				// A full disk may have room again, so it is tried again by itself.
				log.Printf("judging the notebook: %v", err)
				select {
				case <-ctx.Done():
					return
				case <-time.After(judgePause):
					more = true
				}
			}
		}
	}()
}

// judgeNext judges a few licks for the first of the players for whom there are some left, the one who was
// there last before all others, and says whether there may be more.
func (a Screen) judgeNext(ctx context.Context) (more bool, err error) {
	for _, p := range a.InTurn() {
		if more, err = a.judgeSome(page.AsPlayer(ctx, p)); more || err != nil {
			return more, err
		}
	}
	return false, nil
}

// judgeSome judges a few licks and says whether there may be more. What is done is kept even if
// the player changes meanwhile: the summaries name the player whom they are of.
func (a Screen) judgeSome(ctx context.Context) (more bool, err error) {
	if a.Store.ReadOnly {
		return false, nil
	}
	who, turn := page.Playing(ctx), a.InTurn()[0].Who.ID
	rows, err := a.Store.Unjudged(ctx, who.Who.ID, who.Key, judgeStep)
	if err != nil {
		return false, err
	}
	var done []store.Summary
	for _, r := range rows {
		if page.Playing(a.AsPlayerNow(ctx)).Generation != who.Generation || a.InTurn()[0].Who.ID != turn {
			break // the player has changed, or another one waits: what is done is kept
		}
		s, err := a.summary(ctx, r)
		if err != nil {
			return false, err
		}
		done = append(done, s)
	}
	return len(rows) > 0, a.Store.Summarise(ctx, done)
}

// rowData is what a row of the notebook shows, kept with the lick's summary as JSON, the
// drawing too: a page of fifty rows reads them and computes nothing.
type rowData struct {
	Tones, Count string
	Tempo        float64
	Ceiling      float64 // 0 for none
	Word         string
	Reason, Upto string
	Line         string // SVG
}

// summary judges one lick for the notebook. One that cannot be read is a row too, and so is one at which the judgement
// has a fault of ours: it is logged, and keeps neither the other licks nor the notebook from being opened. Margin is
// the ceiling over the wanted tempo, by which the notebook sorts what breaks worst first.
func (a Screen) summary(ctx context.Context, r store.Row) (s store.Summary, err error) {
	who := page.Playing(ctx)
	s = store.Summary{LickID: r.ID, PlayerID: who.Who.ID, RevisionID: r.Revision, Player: who.Key}
	defer func() {
		if fault := recover(); fault != nil {
			log.Printf("judging lick %d: %v\n%s", r.ID, fault, debug.Stack())
			s.Severity = int(judge.Breaks)
			s.Data = packRow(rowData{Word: "Not judged", Reason: "a fault of Ornamen’s, which is in its log"})
			err = nil
		}
	}()
	l, err := a.WholeAt(ctx, r.ID, r.Revision)
	var unread *store.UnreadableError
	if errors.As(err, &unread) {
		s.Severity = int(judge.Breaks)
		s.Data = packRow(rowData{Word: "Unreadable", Reason: "this version cannot be read"})
		return s, nil
	}
	if err != nil {
		return s, err
	}
	rep, err := a.Report(ctx, store.Entry{ID: r.ID, Revision: r.Revision, Lick: l})
	if err != nil {
		return s, err
	}
	d := rowOf(l)
	d.Ceiling, d.Word = float64(rep.Ceiling), view.SentenceWord(rep.Verdict)
	d.Line = string(draw.LineSVG(l, rep.Bottleneck, rep.Verdict == judge.Breaks))
	d.Reason, d.Upto = reasonOf(rep)
	if len(l.Notes) == 0 {
		d.Word, d.Reason, d.Upto = "Empty", "no notes yet", ""
	}
	s.Severity, s.Notes, s.Data = int(rep.Verdict), len(l.Notes), packRow(d)
	if s.Corrected, err = page.CorrectedText(ctx, l, rep); err != nil {
		return s, err
	}
	switch {
	case rep.Ceiling > 0:
		s.Margin = float64(rep.Ceiling) / l.Tempo
	case rep.Verdict != judge.Breaks:
		s.Margin = 1e9
	}
	return s, nil
}

// rowOf is what a row shows before it is judged.
func rowOf(l lick.Lick) rowData {
	return rowData{Tones: l.TonesText(), Count: view.CountOf(l), Tempo: l.Tempo,
		Line: string(draw.LineSVG(l, nil, false))}
}

// packRow writes a row for the store's summary.
func packRow(d rowData) []byte {
	b, err := json.Marshal(d)
	if err != nil {
		panic(err) // a row of words and numbers always packs
	}
	return b
}

// judgedSoFar answers a page that shows licks without a judgement yet: how far it
// is, and the rows again when there is news.
func (a Screen) judgedSoFar(w http.ResponseWriter, r *http.Request) error {
	v, _, err := a.asked(r)
	if err != nil {
		return err
	}
	return a.Render(w, r, "judged-partial", page.Page{Data: v})
}

// progress says how far the judging is, or nothing when it is done.
func progress(c store.Counts) string {
	if c.Judged >= c.All {
		return ""
	}
	return fmt.Sprintf("%d of %d judged", c.Judged, c.All)
}
