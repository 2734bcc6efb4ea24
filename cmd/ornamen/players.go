package main

import (
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"path/filepath"
	"slices"
	"strconv"
	"strings"
	"text/tabwriter"

	"ornamen/core/hand"
	"ornamen/core/judge"
	"ornamen/core/lick"
	"ornamen/core/neck"
	"ornamen/core/player"
	"ornamen/core/say"
	"ornamen/internal/lesson"
	"ornamen/internal/store"
)

// playerRow is a player of the notebook in JSON.
type playerRow struct {
	Name   string `json:"name"`
	Hand   string `json:"hand"`
	Rounds int    `json:"rounds"` // lines of the player's log
}

// playersCommand lists the players of a notebook, adds one, or takes one out of it: with all that was theirs, which
// comes back when one of that name is added again.
func playersCommand(ctx context.Context, e env, args []string) error {
	fs := newFlags()
	size := fs.String("hand", "", "`small|medium|large` the hand of a player who is added; the model's medium one")
	like := fs.String("like", "", "`NAME` a player who is added begins with this one's guitar, hand and habits")
	rename := fs.String("rename", "", "`NAME` with rename: the new name")
	b := bookOf(e, fs)
	asJSON := fs.Bool("json", false, "prints JSON")
	rest, err := parse(fs, args, anyNumber, "")
	if err != nil {
		return err
	}
	if len(rest) == 0 {
		if err := b.read(); err != nil {
			return err
		}
		defer b.Close()
		return b.printPlayers(ctx, *asJSON)
	}
	if len(rest) != 2 || !slices.Contains([]string{"add", "remove", "rename"}, rest[0]) {
		return errors.New("use players, players add NAME, players rename NAME --rename NAME or players remove NAME")
	}
	if *size != "" {
		if _, err := hand.Named(*size); err != nil {
			return err
		}
	}
	if err := b.write(); err != nil {
		return err
	}
	defer b.Close()
	var p store.Player
	if rest[0] == "add" {
		err = b.addPlayer(ctx, rest[1], *like, *size)
	} else if p, err = b.PlayerNamed(ctx, rest[1]); err == nil && rest[0] == "rename" {
		err = b.RenamePlayer(ctx, p.ID, "", *rename)
	} else if err == nil {
		err = b.RemovePlayer(ctx, p.ID)
	}
	if err != nil {
		return err
	}
	return b.printPlayers(ctx, *asJSON)
}

// addPlayer adds a player, or brings back one of that name who was removed, unless settings are asked for.
func (b *book) addPlayer(ctx context.Context, name, like, size string) error {
	if like == "" && size == "" {
		all, err := b.AllPlayers(ctx)
		if err != nil {
			return err
		}
		for _, p := range slices.Backward(all) {
			if p.DeletedAt.Valid && strings.EqualFold(p.Name, strings.TrimSpace(name)) {
				fmt.Fprintf(b.err, "%s was here before and is back with log and hand\n", p.Name)
				return b.ReturnPlayer(ctx, p.ID)
			}
		}
	}
	var from uint
	profile := player.DefaultProfile()
	if like != "" {
		p, err := b.PlayerNamed(ctx, like)
		if err != nil {
			return err
		}
		from = p.ID
		if profile, err = b.profileOf(ctx, p); err != nil {
			return err
		}
	}
	p, err := b.AddPlayer(ctx, name, from)
	if err != nil || size == "" {
		return err
	}
	profile.Size = size
	data, err := json.Marshal(profile)
	if err != nil {
		return err
	}
	return b.SaveSettings(ctx, p.ID, store.NewSettings{Data: data, Base: store.Newest})
}

// printPlayers lists the players.
func (b *book) printPlayers(ctx context.Context, asJSON bool) error {
	list, err := b.Players(ctx)
	if err != nil {
		return err
	}
	rows := []playerRow{}
	for _, p := range list {
		engine, err := b.engineOf(ctx, p)
		if err != nil {
			return err
		}
		log, err := b.Log(ctx, p.ID)
		if err != nil {
			return err
		}
		rows = append(rows, playerRow{p.Name, engine.Player.Hand.Name, len(log)})
	}
	if asJSON {
		return printJSON(b.env, rows)
	}
	w := tabwriter.NewWriter(b.out, 0, 0, 2, ' ', 0)
	for _, r := range rows {
		fmt.Fprintf(w, "%s\t%s hand\t%s in the log\n", r.Name, r.Hand, say.Count(r.Rounds, "line"))
	}
	return w.Flush()
}

// flowsFor is how a lick lies for one player, in JSON.
type flowsFor struct {
	Name    string  `json:"name"`
	Ceiling float64 `json:"ceiling"` // 0 where no tempo will do, or any
	Verdict string  `json:"verdict"`
}

// checkAll judges a lick for all players of a notebook. It ends with status 1 when it breaks for one of them.
func (b *book) checkAll(ctx context.Context, l lick.Lick, asJSON bool) error {
	if err := b.read(); err != nil {
		return err
	}
	defer b.Close()
	list, err := b.Players(ctx)
	if err != nil {
		return err
	}
	rows, broken := []flowsFor{}, false
	for _, p := range list {
		engine, err := b.engineOf(ctx, p)
		if err != nil {
			return err
		}
		r, err := engine.Check(ctx, l.For(p.Own()))
		if err != nil {
			return err
		}
		rows = append(rows, flowsFor{p.Name, float64(r.Ceiling), r.Verdict.String()})
		broken = broken || r.Verdict == judge.Breaks
	}
	if asJSON {
		err = printJSON(b.env, struct {
			Players []flowsFor `json:"players"`
		}{rows})
	} else {
		w := tabwriter.NewWriter(b.out, 0, 0, 2, ' ', 0)
		for _, r := range rows {
			upto := "no tempo will do"
			if r.Ceiling > 0 {
				upto = fmt.Sprintf("clean up to %.0f of %g", r.Ceiling, l.Tempo)
			} else if r.Verdict != judge.Breaks.String() {
				upto = "any tempo will do"
			}
			fmt.Fprintf(w, "%s\t%s\t%s\n", r.Name, r.Verdict, upto)
		}
		err = w.Flush()
	}
	if err == nil && broken {
		return errBreaks
	}
	return err
}

// setJSON is a set as it is printed.
type setJSON struct {
	Name   string        `json:"name"`
	Kind   store.SetKind `json:"kind,omitempty"`
	Target string        `json:"target,omitempty"`
	Remark string        `json:"remark,omitempty"`
	Licks  []setItemJSON `json:"licks"`
}

// setItemJSON is a lick of a set; its tempo is the set's, or else its own.
type setItemJSON struct {
	Lick   uint    `json:"lick"`
	Title  string  `json:"title"`
	Tempo  float64 `json:"tempo"`
	Remark string  `json:"remark,omitempty"`
	Days   string  `json:"days,omitempty"`
}

// setCommand prints a set of the notebook, makes one, or adds licks to it and takes some out. Without a name it lists
// the sets.
func setCommand(ctx context.Context, e env, args []string) error {
	fs := newFlags()
	add := fs.StringArray("add", nil, "`LICK` adds a lick, or a saved run, at the end, by its number or title, as in "+
		"\"Mill wheel\" or \"Mill wheel @ 96 Mo We\"; may be given several times")
	take := fs.IntSlice("remove", nil, "`N` takes out the lick at this place, counted from 1")
	kind := fs.String("kind", "", "`homework|concert` what the set is for")
	target := fs.String("by", "", "`DAY` by which it is wanted, as in 2026-12-12; \"none\" for none")
	remark := fs.String("remark", "", "`TEXT` what stands above the set")
	b := bookOf(e, fs)
	asJSON := fs.Bool("json", false, "prints JSON")
	rest, err := parse(fs, args, anyNumber, "")
	if err != nil {
		return err
	}
	if len(rest) > 1 { // titles behind --add, one after the other
		*add = append(*add, rest[1:]...)
	}
	changes := len(*add)+len(*take) > 0 || fs.Changed("kind") || fs.Changed("by") || fs.Changed("remark")
	if len(rest) == 0 && changes {
		return errors.New("name the set")
	}
	if !changes {
		if err := b.read(); err != nil {
			return err
		}
		defer b.Close()
		if len(rest) == 0 {
			return b.listSets(ctx, *asJSON)
		}
		x, err := b.set(ctx, rest[0], "; --add LICK makes one")
		if err != nil {
			return err
		}
		return b.printSet(ctx, x, *asJSON)
	}
	if err := b.write(); err != nil {
		return err
	}
	defer b.Close()
	x, ok, err := b.SetNamed(ctx, rest[0])
	if err != nil {
		return err
	}
	base := x.Revision
	if !ok {
		x, base = store.Set{Name: rest[0]}, store.Newest
	}
	if fs.Changed("kind") {
		x.Kind = store.SetKind(*kind)
	}
	if fs.Changed("by") {
		x.Target = strings.TrimSpace(strings.Replace(*target, "none", "", 1))
	}
	if fs.Changed("remark") {
		x.Remark = *remark
	}
	slices.Sort(*take)
	for _, n := range slices.Backward(slices.Compact(*take)) {
		if n < 1 || n > len(x.Items) {
			return fmt.Errorf("--remove %d: the set has %s", n, say.Count(len(x.Items), "lick"))
		}
		x.Items = slices.Delete(x.Items, n-1, n)
	}
	for _, word := range *add {
		it, err := b.itemNamed(ctx, word)
		if err != nil {
			return err
		}
		x.Items = append(x.Items, it)
	}
	if x, err = b.SaveSet(ctx, x, base); err != nil {
		return err
	}
	return b.printSet(ctx, x, *asJSON)
}

// itemNamed reads a lick for a set: its number or title and, behind an @, the tempo and the days that it has there.
func (b *book) itemNamed(ctx context.Context, word string) (it store.SetItem, err error) {
	x, err := b.lickNamed(ctx, word)
	if err == nil {
		return store.SetItem{Lick: x.ID}, nil // a title may have an @
	}
	name, rest, _ := cutLast(word, "@")
	if x, err = b.lickNamed(ctx, strings.TrimSpace(name)); err != nil {
		l, ok, e := lesson.Run(ctx, b.Store, neck.Standard(), name)
		if e != nil || !ok {
			return it, errors.Join(e, err)
		}
		if x, err = b.Add(ctx, l, "grown for a set"); err != nil {
			return it, err
		}
	}
	it.Lick = x.ID
	fields := strings.Fields(rest)
	if len(fields) > 0 {
		if tempo, err := strconv.ParseFloat(fields[0], 64); err == nil {
			it.Tempo, fields = tempo, fields[1:]
		}
	}
	it.Days, err = store.ParseDays(strings.Join(fields, " "))
	return it, err
}

// cutLast cuts a text at the last place where sep stands.
func cutLast(s, sep string) (before, after string, found bool) {
	i := strings.LastIndex(s, sep)
	if i < 0 {
		return s, "", false
	}
	return s[:i], s[i+len(sep):], true
}

// listSets lists the sets.
func (b *book) listSets(ctx context.Context, asJSON bool) error {
	list, err := b.Sets(ctx)
	if err != nil {
		return err
	}
	if asJSON {
		rows := []setJSON{}
		for _, x := range list {
			v, err := b.setOf(ctx, x)
			if err != nil {
				return err
			}
			rows = append(rows, v)
		}
		return printJSON(b.env, rows)
	}
	for _, x := range list {
		fmt.Fprintf(b.out, "%s, %s\n", x.Name, say.Count(len(x.Items), "lick"))
	}
	if len(list) == 0 {
		fmt.Fprintln(b.out, "no sets")
	}
	return nil
}

// setOf is a set with the titles of its licks; those that were deleted are left out.
func (b *book) setOf(ctx context.Context, x store.Set) (setJSON, error) {
	v := setJSON{Name: x.Name, Kind: x.Kind, Target: x.Target, Remark: x.Remark, Licks: []setItemJSON{}}
	items, licks, err := lesson.Licks(ctx, b.Store, x, "")
	for i, it := range items {
		v.Licks = append(v.Licks, setItemJSON{
			Lick:   it.Lick,
			Title:  titled(licks[i].Lick.Title),
			Tempo:  licks[i].Lick.Tempo,
			Remark: it.Remark,
			Days:   it.Days.String(),
		})
	}
	return v, err
}

// printSet prints a set.
func (b *book) printSet(ctx context.Context, x store.Set, asJSON bool) error {
	v, err := b.setOf(ctx, x)
	if err != nil {
		return err
	}
	if asJSON {
		return printJSON(b.env, v)
	}
	head := v.Name
	if v.Kind != "" {
		head += ", " + string(v.Kind)
	}
	if v.Target != "" {
		head += ", by " + v.Target
	}
	fmt.Fprintln(b.out, head)
	if v.Remark != "" {
		fmt.Fprintln(b.out, v.Remark)
	}
	for i, it := range v.Licks {
		fmt.Fprintf(b.out, "%3d  %s at %g", i+1, it.Title, it.Tempo)
		for _, more := range []string{it.Days, it.Remark} {
			if more != "" {
				fmt.Fprintf(b.out, ", %s", more)
			}
		}
		fmt.Fprintln(b.out)
	}
	if len(v.Licks) == 0 {
		fmt.Fprintln(b.out, "no licks yet")
	}
	return nil
}

// exportSet writes a set as one file for another notebook.
func (b *book) exportSet(ctx context.Context, file, name string, page bool) error {
	if !strings.EqualFold(filepath.Ext(file), ".zip") {
		return fmt.Errorf("a set goes out as a .zip file, which %s is not", file)
	}
	x, err := b.set(ctx, name, "")
	if err != nil {
		return err
	}
	var data bytes.Buffer
	if err := lesson.Write(ctx, &data, b.Store, b.engine, x, page); err != nil {
		return err
	}
	return b.written(x.Name+" with "+say.Count(len(x.Items), "lick"), file, data.Bytes())
}
