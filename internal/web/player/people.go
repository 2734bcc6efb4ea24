package player

import (
	"errors"
	"fmt"
	"net/http"
	"net/url"
	"strings"

	"ornamen/core/text"
	"ornamen/internal/refuse"
	"ornamen/internal/store"
	"ornamen/internal/web/page"
)

// choose has this browser go on with another player, on the screen where it was.
func (a Screen) choose(w http.ResponseWriter, r *http.Request) error {
	var f struct {
		Key string `form:"key"`
	}
	if err := a.Decode(r, &f); err != nil {
		return err
	}
	for _, p := range a.Players() {
		if p.Who.Key == f.Key {
			page.Choose(w, r, f.Key)
			return page.Redirect(w, r, back(r))
		}
	}
	return page.Refuse(errors.New("that player is no longer in the notebook"))
}

// back is the page from which a request came, without what it had named a player by.
func back(r *http.Request) string {
	u, err := url.Parse(r.Referer())
	// A browser takes a backslash for a slash, and what begins with two for another site.
	if err != nil || u.Host != r.Host || !strings.HasPrefix(u.Path, "/") || strings.HasPrefix(u.Path, "//") ||
		strings.Contains(u.Path, "\\") {
		return "/player"
	}
	q := u.Query()
	q.Del("player")
	if u.RawQuery = q.Encode(); u.RawQuery != "" {
		return u.Path + "?" + u.RawQuery
	}
	return u.Path
}

// people adds a player, renames or copies one, takes one out or brings one back.
func (a Screen) people(w http.ResponseWriter, r *http.Request) error {
	var f struct {
		Do   string `form:"do"`
		ID   uint   `form:"id"`
		Name string `form:"name"`
		Was  string `form:"was"` // the name that the page shows; empty where it shows none
	}
	if err := a.Decode(r, &f); err != nil {
		return err
	}
	ctx, to := r.Context(), "/player"
	var err error
	var added store.Player
	switch f.Do {
	case "add":
		added, err = a.Store.AddPlayer(ctx, f.Name, 0)
	case "copy":
		name := f.Name
		for _, p := range a.Players() {
			if p.Who.ID == f.ID && strings.TrimSpace(name) == "" {
				name = p.Who.Name + ", copy"
			}
		}
		added, err = a.Store.AddPlayer(ctx, name, f.ID)
	case "rename":
		err = a.Store.RenamePlayer(ctx, f.ID, f.Was, f.Name)
	case "remove":
		err = a.Store.RemovePlayer(ctx, f.ID)
		to = fmt.Sprintf("/player?gone=%d", f.ID)
	case "return":
		err = a.Store.ReturnPlayer(ctx, f.ID)
	default:
		err = refuse.With("%q is nothing that can be done with a player", text.Clip(f.Do, 60))
	}
	if err == nil {
		err = a.LoadPlayers(ctx)
	}
	if err != nil {
		return err
	}
	for _, p := range a.Players() {
		if added.ID != 0 && p.Who.ID == added.ID || f.Do == "return" && p.Who.ID == f.ID {
			page.Choose(w, r, p.Who.Key) // who comes plays
		}
	}
	return page.Redirect(w, r, to)
}

// gone says who was taken out, and offers to bring them back.
func (a Screen) gone(r *http.Request) (*page.Notice, error) {
	var f struct {
		Gone uint `form:"gone"`
	}
	if err := a.Decode(r, &f); err != nil || f.Gone == 0 {
		return nil, err
	}
	all, err := a.Store.AllPlayers(r.Context())
	if err != nil {
		return nil, err
	}
	for _, p := range all {
		if p.ID == f.Gone && p.DeletedAt.Valid {
			return &page.Notice{Text: p.Name + " plays no more from this notebook; log, hand and fingers are kept.",
				Actions: []page.Action{
					{Label: "Bring " + p.Name + " back", Post: fmt.Sprintf("/player/people?do=return&id=%d", p.ID)},
				}}, nil
		}
	}
	return nil, nil
}
