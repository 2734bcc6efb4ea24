package demo

import (
	"context"
	"encoding/json"
	"fmt"
	"time"

	"ornamen/core/judge"
	"ornamen/core/lick"
	"ornamen/core/player"
	"ornamen/internal/practising"
	"ornamen/internal/store"
)

// The players of the demo: the trio's lead guitarist, whose notebook it is, the second guitarist, who has a small hand,
// and a pupil. All are invented.
const (
	lead   = "Ines Halloran"
	second = "Maro Velt"
	pupil  = "Pim Ostrand"
)

// people adds who else plays from the demo's notebook, with a concert and a week's homework.
func people(ctx context.Context, s *store.Store) error {
	if err := s.RenamePlayer(ctx, 1, "", lead); err != nil {
		return err
	}
	var pupilIs store.Player
	for _, x := range []struct {
		name string
		set  func(*player.Profile)
	}{
		{second, func(p *player.Profile) { p.Size, p.Way = "small", "economy" }},
		{pupil, func(p *player.Profile) { p.Sixteenths, p.Hammering, p.Gauges = 96, 88, "9 11 16 24w 32w 42w" }},
	} {
		p, err := s.AddPlayer(ctx, x.name, 0)
		if err != nil {
			return err
		}
		profile := player.DefaultProfile()
		x.set(&profile)
		data, err := json.Marshal(profile)
		if err == nil {
			err = s.SaveSettings(ctx, p.ID, store.NewSettings{Data: data, Base: store.Newest})
		}
		if err == nil && x.name == second {
			err = locked(ctx, s, p)
		}
		if err != nil {
			return err
		}
		pupilIs = p
	}
	return sets(ctx, s, pupilIs)
}

// locked has the second guitarist play the first note of a lick with another finger than all others.
func locked(ctx context.Context, s *store.Store, p store.Player) error {
	e, err := titledLick(ctx, s, "Lantern turnaround")
	if err != nil {
		return err
	}
	l, err := lick.SetFinger{Note: 0, Finger: lick.Middle}.Apply(e.Lick.For(p.Own()))
	if err == nil {
		_, err = s.Commit(ctx, e.ID, e.Revision, l.Shared(p.Own()), "a finger of "+p.Name+"’s own")
	}
	return err
}

// titledLick finds a lick of the demo.
func titledLick(ctx context.Context, s *store.Store, title string) (store.Entry, error) {
	rows, err := s.List(ctx, store.Query{Find: title, Limit: 20})
	if err != nil {
		return store.Entry{}, err
	}
	for _, r := range rows {
		if r.Title == title {
			return s.Get(ctx, r.ID)
		}
	}
	return store.Entry{}, fmt.Errorf("the demo has no lick %s", title)
}

// demoItem is a lick of one of the demo's sets.
type demoItem struct {
	title  string
	tempo  float64
	days   string
	remark string
}

// sets adds the concert and the homework, and what the pupil has practised of that.
func sets(ctx context.Context, s *store.Store, pupilIs store.Player) error {
	now := s.Now()
	for _, x := range []struct {
		set   store.Set
		items []demoItem
	}{
		{store.Set{
			Name:   "Midwinter Barn",
			Kind:   store.Concert,
			Target: now.AddDate(0, 0, 20).Format(time.DateOnly),
			Remark: "Doors at seven, the barn is cold: warm up in the van.",
		}, []demoItem{
			{title: "Sleet shuffle", tempo: 0, remark: "count it in slowly"}, {title: "Thaw bends", tempo: 88},
			{title: "Lantern turnaround, mended", tempo: 0, remark: "twice, the second time alone"},
			{
				title:  "Slates by moonlight",
				tempo:  0,
				remark: "straight on",
			}, {title: "Barn door ladder", tempo: 0, remark: "last one: all the way up"}}},
		{store.Set{
			Name:   "Pim’s week",
			Kind:   store.Homework,
			Target: now.AddDate(0, 0, 9).Format(time.DateOnly),
			Remark: "Slow is fast. Stop when it pulls.",
		}, []demoItem{
			{
				title:  "Quarry steps",
				tempo:  72,
				remark: "with the click on 2 and 4",
			}, {title: "Cold hands loop", tempo: 66, days: "Mo We Fr Su"},
			{title: "Call from the ferry", tempo: 0, days: "Tu Th Sa", remark: "sing it first"}}},
	} {
		for _, it := range x.items {
			e, err := titledLick(ctx, s, it.title)
			if err != nil {
				return err
			}
			days, err := store.ParseDays(it.days)
			if err != nil {
				return err
			}
			x.set.Items = append(x.set.Items, store.SetItem{Lick: e.ID, Tempo: it.tempo, Days: days, Remark: it.remark})
		}
		if _, err := s.SaveSet(ctx, x.set, store.Newest); err != nil {
			return err
		}
	}
	e, err := titledLick(ctx, s, "Quarry steps")
	if err != nil {
		return err
	}
	profile := player.DefaultProfile()
	profile.Sixteenths, profile.Hammering = 96, 88
	who, err := profile.Player()
	if err != nil {
		return err
	}
	engine := judge.NewEngine(who)
	piece, err := practising.NewPieces().Of(ctx, engine, practising.Who{Own: pupilIs.Own()}, e)
	if err != nil {
		return err
	}
	piece.Wanted = 72
	log := logOf([]work{{e, piece, piece.Parts[len(piece.Parts)-1]}}, engine, now)
	_, err = practising.Add(ctx, s, pupilIs.ID, log[:min(40, len(log))]...)
	return err
}
