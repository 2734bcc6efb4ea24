package main

import (
	"context"
	"errors"
	"strings"

	"github.com/spf13/pflag"

	"ornamen/core/changes"
	"ornamen/core/figure"
	"ornamen/core/hand"
	"ornamen/core/lick"
	"ornamen/core/neck"
	"ornamen/core/player"
)

// options are what every command knows that makes, judges or draws a lick: the
// instrument, its tuning, the hand, the chords under the line.
type options struct {
	env                                                       env
	instrument, tuning, hand, bender, helpers, habits, chords *string
	line                                                      *int    // of a file that holds several
	name, db                                                  *string // the notebook's player, and which notebook
	fs                                                        *pflag.FlagSet
	all                                                       *bool // players of the notebook are asked, none by name
}

// optionsOf adds them to a command's flags. A run names its chords itself.
func optionsOf(e env, fs *pflag.FlagSet, chords bool) options {
	o := options{
		env: e, fs: fs,
		instrument: fs.String("instrument", "guitar", "`guitar|guitar7|guitar8|baritone|bass4|bass5` what it is played on"),
		hand:       fs.String("hand", "medium", "`small|medium|large` the fretting hand"),
		bender:     fs.String("bend-finger", "", "`ring|little` the finger that bends where several could; what stands best"),
		helpers:    fs.String("helpers", "", "`many|few|flat` fingers behind the one that bends; as many as are free"),
		habits:     fs.String("habits", "", "`HABITS` fingers of one's own, as in \"tones 2 4: 1 3 4; fret 3: 3\""),
	}
	if fs.Lookup("tuning") == nil {
		o.tuning = fs.String("tuning", "",
			"`TUNING` another tuning, the thinnest string first, as in \"E4 B3 G3 D3 A2 D2\"")
	}
	o.name = fs.String("player", "", "`NAME` the guitar, hand and habits of this player of the notebook")
	if fs.Lookup("db") == nil {
		o.db = fs.String("db", "", "`FILE` the notebook of --player; the one in the player's own folder")
	}
	if chords {
		o.chords = fs.String("chords", "", "`CHORDS` chords under the line in place of its own")
	}
	return o
}

// player is who plays, on which instrument. Commands on files read no notebook unless one of its players is named:
// the same command gives the same answer on every machine. What else is said goes before that player's settings.
func (o options) player() (player.Player, error) {
	p := player.Default()
	kept := *o.name != ""
	if kept {
		var err error
		if p, err = o.kept(); err != nil {
			return p, err
		}
	} else if o.db != nil && *o.db != "" && (o.all == nil || !*o.all) {
		return p, errors.New("--db names a notebook: say whose hand of it, with --player NAME")
	}
	said := func(name string) bool { return !kept || o.fs.Changed(name) }
	if said("instrument") {
		x, err := neck.ParseInstrument(*o.instrument)
		if err != nil {
			return p, err
		}
		p.Guitar, p.Plucks = x.Guitar, x.Fingers
	}
	if o.tuning != nil && *o.tuning != "" {
		tuning, err := neck.ParseTuning(*o.tuning)
		if err != nil {
			return p, err
		}
		p.Guitar = p.Guitar.WithTuning(tuning)
	}
	if said("hand") {
		h, err := hand.Named(*o.hand)
		if err != nil {
			return p, err
		}
		p.Hand = h
	}
	if said("habits") {
		habits, err := figure.ParseHabits(*o.habits)
		if err != nil {
			return p, err
		}
		p.Hand.Habits = habits.String()
	}
	if said("bend-finger") || said("helpers") {
		return p, p.Bend(*o.bender, *o.helpers)
	}
	return p, nil
}

// kept is the notebook's player who was named.
func (o options) kept() (p player.Player, err error) {
	b := &book{env: o.env, file: o.db}
	if err := b.read(); err != nil {
		return p, err
	}
	defer b.Close()
	if err := b.play(context.Background(), *o.name); err != nil {
		return p, err
	}
	return b.engine.Player, nil
}

// lickOf reads the options of a command that takes one lick file; what names it in an error.
func (o options) lickOf(ctx context.Context, args []string, what string) (p player.Player, l lick.Lick, err error) {
	rest, err := parse(o.fs, args, 1, what)
	if err != nil {
		return p, l, err
	}
	return o.playerAnd(ctx, rest[0])
}

// playerAnd is who plays, and the lick file that is named, with the tuning and the chords that
// were asked for; the frets stay, so that another tuning is other tones.
func (o options) playerAnd(ctx context.Context, name string) (p player.Player, l lick.Lick, err error) {
	if p, err = o.player(); err != nil {
		return p, l, err
	}
	line := 0
	if o.line != nil {
		line = *o.line
	}
	if l, err = read(ctx, o.env, p, name, line); err != nil {
		return p, l, err
	}
	if o.tuning != nil && *o.tuning != "" {
		if l.Tuning, err = neck.ParseTuning(*o.tuning); err != nil {
			return p, l, err
		}
		if err := l.Validate(); err != nil {
			return p, l, err
		}
	}
	if o.chords != nil && strings.TrimSpace(*o.chords) != "" {
		chords, err := changes.Parse(*o.chords, l.Meter, l.Pickup, l.Key)
		if err != nil {
			return p, l, err
		}
		l, err = lick.SetChords{Chords: chords}.Apply(l)
		return p, l, err
	}
	return p, l, nil
}
