package main

import (
	"context"
	"fmt"
	"time"

	"github.com/spf13/pflag"

	"ornamen/core/judge"
	"ornamen/core/player"
	"ornamen/internal/store"
)

// book is the notebook that a command works on: which file it is, what is in it once it is open, and whose hands are
// meant.
type book struct {
	env
	*store.Store
	file   *string // of --db
	who    store.Player
	engine *judge.Engine // judges as who plays
}

// bookOf adds the option that names the notebook.
func bookOf(e env, fs *pflag.FlagSet) *book {
	return &book{env: e, file: fs.String("db", "", "`FILE` the notebook; the one in the player's own folder")}
}

// read opens the notebook to be read only.
func (b *book) read() error { return b.open(store.OpenToRead) }

// write opens the notebook to be changed.
func (b *book) write() error { return b.open(store.Open) }

// open opens the notebook that is named, or the player's own.
func (b *book) open(how func(string, func() time.Time) (*store.Store, error)) error {
	db, err := notebookFile(*b.file)
	if err == nil {
		b.Store, err = how(db, b.now)
	}
	if err == nil && b.Partial {
		fmt.Fprintf(b.err, "%s: %v\n", db, store.ErrPartial)
	}
	return err
}

// play has a player of the notebook play, the first where none is named: what is handed out has the hands that the
// application shows.
func (b *book) play(ctx context.Context, name string) (err error) {
	if b.who, err = b.PlayerNamed(ctx, name); err == nil {
		b.engine, err = b.engineOf(ctx, b.who)
	}
	return err
}

// engineOf judges as a player of the notebook plays.
func (b *book) engineOf(ctx context.Context, who store.Player) (*judge.Engine, error) {
	profile, err := b.profileOf(ctx, who)
	if err != nil {
		return nil, err
	}
	p, err := profile.Player()
	if err != nil {
		return nil, err
	}
	return judge.NewEngine(p), nil
}

// profileOf are a player's settings.
func (b *book) profileOf(ctx context.Context, who store.Player) (player.Profile, error) {
	settings, err := b.Settings(ctx, who.ID)
	if err != nil {
		return player.Profile{}, err
	}
	p, err := player.ParseProfile(settings.Data)
	if err != nil {
		return p, fmt.Errorf("the player in the notebook cannot be read: %w", err)
	}
	return p, nil
}

// set finds a set by its name; the error says what to do where there is none.
func (b *book) set(ctx context.Context, name, what string) (store.Set, error) {
	x, ok, err := b.SetNamed(ctx, name)
	if err == nil && !ok {
		err = fmt.Errorf("the notebook has no set %q%s", name, what)
	}
	return x, err
}

// backup copies the whole notebook into one file while it may be in use: one state of it, whatever is written
// meanwhile. A file that is there is not replaced.
func backup(ctx context.Context, e env, args []string) error {
	fs := newFlags()
	b := bookOf(e, fs)
	rest, err := parse(fs, args, 1, "the file to write")
	if err == nil {
		err = b.read()
	}
	if err != nil {
		return err
	}
	defer b.Close()
	if err := b.Backup(ctx, rest[0]); err != nil {
		return err
	}
	fmt.Fprintln(b.out, "the notebook is backed up to", rest[0])
	return nil
}

// restore puts a copy in the notebook's place and keeps what was there beside it.
func restore(_ context.Context, e env, args []string) error {
	fs := newFlags()
	b := bookOf(e, fs)
	rest, err := parse(fs, args, 1, "the backup to put back")
	if err != nil {
		return err
	}
	db, err := notebookFile(*b.file)
	if err != nil {
		return err
	}
	kept, err := store.Restore(rest[0], db, b.now)
	if err != nil {
		return err
	}
	fmt.Fprintln(b.out, "the notebook is", rest[0], "now")
	if kept != "" {
		fmt.Fprintln(b.out, "what was there before is kept as", kept)
	}
	return nil
}
