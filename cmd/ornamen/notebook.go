package main

import (
	"context"
	"errors"
	"fmt"
	"strconv"
	"strings"
	"time"

	"ornamen/internal/store"
)

// maxListed is how many licks or versions are listed at most.
const maxListed = 100_000

// lickRow is one lick of the notebook in JSON.
type lickRow struct {
	Lick    uint      `json:"lick"`
	Title   string    `json:"title"`
	Touched time.Time `json:"touched"`
}

// licks lists the notebook, the last touched first: number and title, in JSON also when. The
// number names the lick to other commands.
func licks(ctx context.Context, e env, args []string) error {
	fs := newFlags()
	find := fs.String("find", "", "`WORDS` only licks in which all of these occur")
	b := bookOf(e, fs)
	asJSON := fs.Bool("json", false, "prints JSON")
	if _, err := parse(fs, args, 0, ""); err != nil {
		return err
	}
	if err := b.read(); err != nil {
		return err
	}
	defer b.Close()
	rows, err := b.List(ctx, store.Query{Find: *find, Limit: maxListed})
	if err != nil {
		return err
	}
	list := make([]lickRow, len(rows))
	for i, r := range rows {
		list[i] = lickRow{r.ID, r.Title, r.Touched}
	}
	if *asJSON {
		return printJSON(e, list)
	}
	for _, r := range list {
		fmt.Fprintf(e.out, "%4d  %s\n", r.Lick, titled(r.Title))
	}
	if len(list) == 0 {
		fmt.Fprintln(e.out, "no licks")
	}
	return nil
}

// titled is a title, or what stands where there is none.
func titled(s string) string {
	if s == "" {
		return "untitled"
	}
	return s
}

// lickNamed finds a lick by its number or its title, in any case. Two of one title are an error
// that asks for the number, never a guess.
func (b *book) lickNamed(ctx context.Context, name string) (store.Entry, error) {
	if n, err := strconv.ParseUint(name, 10, 32); err == nil {
		return b.Get(ctx, uint(n))
	}
	rows, err := b.List(ctx, store.Query{Find: name, Limit: maxListed})
	if err != nil {
		return store.Entry{}, err
	}
	var found []store.Row
	for _, r := range rows {
		if strings.EqualFold(r.Title, strings.TrimSpace(name)) {
			found = append(found, r)
		}
	}
	switch len(found) {
	case 0:
		return store.Entry{}, fmt.Errorf("the notebook has no lick %q", name)
	case 1:
		return b.Get(ctx, found[0].ID)
	}
	return store.Entry{}, fmt.Errorf("%d licks have the title %q; name one by its number", len(found), name)
}

// versionRow is one version of a lick in JSON. Aside marks one that undo left and a later edit went past.
type versionRow struct {
	Version uint      `json:"version"`
	What    string    `json:"what"`
	Made    time.Time `json:"made"`
	Shown   bool      `json:"shown"`
	Aside   bool      `json:"aside,omitempty"`
}

// versions lists the versions of a lick, the newest first, or goes back to one of them: it
// becomes the newest, so that nothing is lost.
func versions(ctx context.Context, e env, args []string) error {
	fs := newFlags()
	take := fs.Uint("take", 0, "`N` goes back to this version")
	asJSON := fs.Bool("json", false, "prints JSON")
	b := bookOf(e, fs)
	rest, err := parse(fs, args, 1, "the lick, by its number or title")
	if err != nil {
		return err
	}
	open := b.read
	if *take > 0 {
		open = b.write
	}
	if err := open(); err != nil {
		return err
	}
	defer b.Close()
	x, err := b.lickNamed(ctx, rest[0])
	if err != nil {
		return err
	}
	if *take > 0 {
		l, err := b.At(ctx, x.ID, *take)
		if err != nil {
			return err
		}
		if *take == x.Revision {
			return errors.New("that is the version that is shown")
		}
		if _, err := b.Commit(ctx, x.ID, x.Revision, l, fmt.Sprintf("back to version %d", *take)); err != nil {
			return err
		}
		fmt.Fprintf(e.out, "%s is as version %d was\n", titled(l.Title), *take)
		return nil
	}
	found, err := b.Versions(ctx, x.ID, maxListed)
	if err != nil {
		return err
	}
	list := make([]versionRow, len(found))
	for i, v := range found {
		list[i] = versionRow{Version: v.ID, What: v.What, Made: v.CreatedAt, Shown: v.Head, Aside: v.Aside}
	}
	if *asJSON {
		return printJSON(e, list)
	}
	for _, v := range list {
		mark := ""
		switch {
		case v.Shown:
			mark = "  (shown)"
		case v.Aside:
			mark = "  (kept aside)"
		}
		fmt.Fprintf(e.out, "%4d  %s  %s%s\n", v.Version, v.Made.Format("2006-01-02 15:04"), v.What, mark)
	}
	return nil
}
