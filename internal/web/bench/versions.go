package bench

import (
	"cmp"
	"errors"
	"fmt"
	"net/http"
	"strings"
	"time"

	"ornamen/core/changes"
	"ornamen/core/judge"
	"ornamen/core/lick"
	"ornamen/core/neck"
	"ornamen/core/say"
	"ornamen/internal/store"
	"ornamen/internal/web/page"
	"ornamen/internal/web/view"
)

// shownVersions is how far back the history is listed.
const shownVersions = 60

// judgedVersions is how many of them are judged for the list.
const judgedVersions = 20

// versionsPage shows two versions of a lick side by side.
// A is the older one of the two as a rule; any two can be compared.
type versionsPage struct {
	ID, Head uint
	Title    string
	List     []versionRow
	A, B     versionView
	Changes  []string
	Same     bool
}

// versionRow is one version in the list.
type versionRow struct {
	Name, When, Ceiling string
	Link                string
	On, Head, Aside     bool
}

// versionView is one of the two that stand side by side.
// Its hands are the ones filled in for today's player, as a version keeps only what was set.
type versionView struct {
	ID uint
	view.Offer
	Head bool
}

// versionsForm says which two.
type versionsForm struct {
	A uint `form:"a"` // the version that is compared
	B uint `form:"b"` // with this one; the newest where none is named
}

// versions is the page of a lick's versions. GET; nothing is judged that is remembered.
func (a Screen) versions(w http.ResponseWriter, r *http.Request) error {
	var f versionsForm
	e, err := a.EntryAndForm(r, &f)
	if err != nil {
		return err
	}
	v, err := a.versionsPage(r, e, f)
	if err != nil {
		return err
	}
	return a.Render(w, r, "versions",
		page.Page{Title: "Versions of " + v.Title, Where: "versions", BenchID: e.ID, Data: v})
}

// versionsPage compares two of them: without a choice, the newest with the one before it. The
// first twenty are judged for the list, older ones when they are chosen. A version that cannot
// be read is listed as such and keeps none of the others from being shown.
func (a Screen) versionsPage(r *http.Request, e store.Entry, f versionsForm) (*versionsPage, error) {
	list, err := a.Store.Versions(r.Context(), e.ID, shownVersions)
	if err != nil {
		return nil, err
	}
	v := &versionsPage{ID: e.ID, Head: e.Revision, Title: view.TitleOf(e.Lick)}
	f.B = cmp.Or(f.B, e.Revision)
	for _, x := range list {
		if f.A == 0 && x.ID < f.B {
			f.A = x.ID
		}
	}
	f.A = cmp.Or(f.A, f.B)
	licks := map[uint]lick.Lick{}
	reports := map[uint]*judge.Report{}
	read := func(id uint) error {
		if _, ok := licks[id]; ok {
			return nil
		}
		l, err := a.At(r.Context(), e.ID, id)
		if err != nil {
			return err
		}
		licks[id] = l
		reports[id], err = a.Report(r.Context(), store.Entry{ID: e.ID, Revision: id, Lick: l})
		return err
	}
	for i, x := range list {
		ceiling := ""
		if i < judgedVersions {
			var unread *store.UnreadableError
			switch err := read(x.ID); {
			case errors.As(err, &unread):
				ceiling = "unreadable"
			case err != nil:
				return nil, err
			default:
				ceiling = view.CeilingWord(reports[x.ID])
			}
		}
		v.List = append(v.List, versionRow{Name: page.SentenceCase(x.What), When: whenMade(x.CreatedAt, a.Store.Now()),
			Ceiling: ceiling, Link: fmt.Sprintf("/licks/%d/versions?a=%d&b=%d", e.ID, x.ID, f.B), On: x.ID == f.A,
			Head: x.Head, Aside: x.Aside})
	}
	for _, id := range []uint{f.A, f.B} {
		if err := read(id); err != nil {
			return nil, err
		}
	}
	ra, rb := reports[f.A], reports[f.B]
	v.A = versionView{f.A, view.OfferOf(0, "", "", ra, nil), f.A == e.Revision}
	v.B = versionView{f.B, view.OfferOf(0, "", "", rb, &ra.Lick), f.B == e.Revision}
	v.Changes = differences(licks[f.A], licks[f.B], ra.Lick, rb.Lick)
	v.Same = f.A == f.B
	return v, nil
}

// whenMade says when a version was made, by the player's clock; of another year with its year.
func whenMade(at, now time.Time) string {
	at = at.In(now.Location())
	if at.Year() != now.Year() {
		return at.Format("2 Jan 2006 15:04")
	}
	return at.Format("2 Jan 15:04")
}

// differences says what changed between two versions of a lick, and what it did to notes and hands. The setting is
// compared as it was written, the hands as they are filled in, so that a finger that was open and is now set to the
// same is no difference. With notes added or taken away only their number is said: which is which would be a guess.
func differences(a, b, filledA, filledB lick.Lick) []string {
	var out []string
	changed := func(name, x, y string) {
		if x != y {
			out = append(out, fmt.Sprintf("%s: %s → %s", name, view.OrNone(x), view.OrNone(y)))
		}
	}
	changed("Title", a.Title, b.Title)
	changed("Tones", keyText(a), keyText(b))
	changed("Chords", changes.Text(a), changes.Text(b))
	changed("Tuning", neck.TuningText(a.Tuning), neck.TuningText(b.Tuning))
	changed("Tempo", fmt.Sprintf("%g", a.Tempo), fmt.Sprintf("%g", b.Tempo))
	changed("Meter", a.Meter.String(), b.Meter.String())
	changed("Pick-up", a.Pickup.String(), b.Pickup.String())
	changed("Feel", string(a.Feel), string(b.Feel))
	changed("Tags", strings.Join(a.Tags, ", "), strings.Join(b.Tags, ", "))
	changed("Loop", yesNo(a.Loop), yesNo(b.Loop))
	d := lick.Diff(filledA, filledB)
	if d.Counts[0] != d.Counts[1] {
		return append(out, fmt.Sprintf("Notes: %d → %d", d.Counts[0], d.Counts[1]))
	}
	for _, c := range []struct {
		name  string
		notes []int
	}{{"Other places or times", d.Places}, {"Other hands", d.Hands}, {"Other bends or marks", d.Marks}} {
		if len(c.notes) > 0 {
			word := ": note "
			if len(c.notes) > 1 {
				word = ": notes "
			}
			out = append(out, c.name+word+say.Numbers(c.notes))
		}
	}
	return out
}

// keyText is the key of a version in words. "C♯ minor pentatonic with 9, ♭5".
func keyText(l lick.Lick) string {
	if l.Key.Tonic == "" {
		return ""
	}
	s := l.Key.Tonic + " " + l.Key.Scale
	if len(l.Key.Add) > 0 {
		s += " with " + strings.Join(l.Key.Add, ", ")
	}
	if len(l.Key.Drop) > 0 {
		s += " without " + strings.Join(l.Key.Drop, ", ")
	}
	return view.PrettySigns(s)
}

// yesNo is a mark in words.
func yesNo(b bool) string {
	if b {
		return "loops"
	}
	return "plays once"
}
