package page

import (
	"context"
	"encoding/json"
	"fmt"
	"hash/fnv"
	"net"
	"net/http"
	"runtime/debug"
	"slices"
	"strconv"

	"ornamen/core/judge"
	"ornamen/core/player"
	"ornamen/core/propose"
	"ornamen/internal/refuse"
	"ornamen/internal/store"
)

// WithPlayer gives a request its player as they are at the moment it came, so that all of its answer is judged by the
// same one: the player whose page sent it, else the one whom this browser chose last, else the notebook's first. A page
// that is open stays with its player, whoever is chosen in another.
func (a *Site) WithPlayer(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		list := a.Players()
		who := list[0]
		if c, err := r.Cookie(choiceCookie(r)); err == nil {
			if p := keyed(list, c.Value); p != nil {
				who = p
			}
		}
		key := r.Header.Get("Ornamen-Player")
		if key == "" {
			key = r.URL.Query().Get("player")
		}
		p := keyed(list, key)
		if p == nil && key != "" {
			a.Say(w, r.WithContext(AsPlayer(r.Context(), who)), http.StatusConflict,
				"The player of this page is no longer in the notebook, so nothing was changed; load the page anew.")
			return
		}
		if p != nil {
			who = p
		}
		if a.last.Swap(uint64(who.Who.ID)) != uint64(who.Who.ID) {
			a.Wake() // whoever is looked at is judged first
		}
		next.ServeHTTP(w, r.WithContext(AsPlayer(r.Context(), who)))
	})
}

// InTurn are the players in the order in which the notebook is judged for them: the one who was there last, then the
// others.
func (a *Site) InTurn() []*Player {
	list := slices.Clone(a.Players())
	i := slices.IndexFunc(list, func(p *Player) bool { return uint64(p.Who.ID) == a.last.Load() })
	if i > 0 {
		p := list[i]
		list = slices.Insert(slices.Delete(list, i, i+1), 0, p)
	}
	return list
}

// keyed finds a player by their key; nil where there is none.
func keyed(list []*Player, key string) *Player {
	return firstOf(list, func(p *Player) bool { return key != "" && p.Who.Key == key })
}

// firstOf is the first player of whom something is so; nil where there is none.
func firstOf(list []*Player, is func(*Player) bool) *Player {
	if i := slices.IndexFunc(list, is); i >= 0 {
		return list[i]
	}
	return nil
}

// choiceCookie is the cookie in which a browser keeps who plays. It names the port, as browsers share cookies between
// the ports of a machine, and each may be another notebook.
func choiceCookie(r *http.Request) string {
	_, port, err := net.SplitHostPort(r.Host)
	if err != nil {
		port = "0"
	}
	return "ornamen-player-" + port
}

// Choose has this browser begin with a player from now on.
func Choose(w http.ResponseWriter, r *http.Request, key string) {
	http.SetCookie(w, &http.Cookie{Name: choiceCookie(r), Value: key, Path: "/", MaxAge: 400 * 24 * 3600, HttpOnly: true,
		SameSite: http.SameSiteLaxMode})
}

// AsPlayer is a context in which a player plays.
func AsPlayer(ctx context.Context, p *Player) context.Context {
	return context.WithValue(ctx, playerKey{}, p)
}

// LoadPlayers reads the players from the notebook. One who changed begins a generation: what was judged for them before
// is not shown any more, and their engine is built anew, with no memory of moves, as all of them may differ. Settings
// that cannot be read are an error.
func (a *Site) LoadPlayers(ctx context.Context) error {
	a.loading.Lock()
	defer a.loading.Unlock()
	rows, err := a.Store.Players(ctx)
	if err != nil {
		return err
	}
	var list []*Player
	for _, row := range rows {
		settings, err := a.Store.Settings(ctx, row.ID)
		if err != nil {
			return err
		}
		profile, err := player.ParseProfile(settings.Data)
		if err != nil {
			return fmt.Errorf("the player %s in the notebook cannot be read: %w", row.Name, err)
		}
		p := &Player{Who: row, Profile: profile, Settings: settings, Key: summaryKey(profile)}
		if old := a.playerOf(row.ID); old != nil && old.Profile == profile {
			p.Engine, p.Generation = old.Engine, old.Generation
		} else {
			who, err := profile.Player()
			if err != nil {
				return fmt.Errorf("the player %s in the notebook: %w", row.Name, err)
			}
			a.generations++
			p.Engine, p.Generation = judge.NewEngine(who), a.generations
		}
		list = append(list, p)
	}
	a.players.Store(&list)
	a.Wake()
	return nil
}

// Players are those who play from the notebook, as they are now.
func (a *Site) Players() []*Player {
	if list := a.players.Load(); list != nil {
		return *list
	}
	return nil
}

// playerOf is a player by the number; nil where there is none.
func (a *Site) playerOf(id uint) *Player {
	return firstOf(a.Players(), func(p *Player) bool { return p.Who.ID == id })
}

// AsPlayerNow is a context with its player as they are now; one who was removed stays as they were.
func (a *Site) AsPlayerNow(ctx context.Context) context.Context {
	if p := a.playerOf(Playing(ctx).Who.ID); p != nil {
		return AsPlayer(ctx, p)
	}
	return ctx
}

// Player is one of those for whom licks are judged.
type Player struct {
	Who        store.Player
	Profile    player.Profile
	Engine     *judge.Engine
	Generation uint64         // counts changes of all players, so that no report of another player is shown
	Settings   store.Settings // as they are kept
	Key        string         // names what the notebook's summaries are judged by
}

// playerKey is under which a request carries who plays.
type playerKey struct{}

// Playing is the player of a request.
func Playing(ctx context.Context) *Player { return ctx.Value(playerKey{}).(*Player) }

// EngineOf is the engine of a request's player.
func EngineOf(ctx context.Context) *judge.Engine { return Playing(ctx).Engine }

// summaryKey names a player by what the sums come from: the settings, the model's own values,
// and the program that computes, draws and words them. So a later Ornamen judges a notebook anew
// by itself, in the background, and no row says what an earlier one thought.
func summaryKey(p player.Profile) string {
	h := fnv.New64a()
	p.Declined = "" // changes no judgement
	fmt.Fprintf(h, "%+v %v %s", p, propose.Defaults(), buildOf())
	return strconv.FormatUint(h.Sum64(), 36)
}

// buildOf names the source that this program was built from, as far as the build says it.
func buildOf() string {
	info, ok := debug.ReadBuildInfo()
	if !ok {
		return ""
	}
	name := info.Main.Version
	for _, s := range info.Settings {
		if s.Key == "vcs.revision" || s.Key == "vcs.modified" {
			name += " " + s.Value
		}
	}
	return name
}

// SavePlayer keeps the profile of the request's player for the next start and for undo. base is the revision that it
// was made on; see store.SaveSettings. One that changes nothing is no step to go back over. Lists are judged anew when
// LoadPlayers has taken it.
func (a *Site) SavePlayer(ctx context.Context, p player.Profile, base uint) error {
	who := Playing(a.AsPlayerNow(ctx))
	if p == who.Profile {
		return nil
	}
	data, err := json.Marshal(p)
	if err != nil {
		return fmt.Errorf("keep the player: %w", err)
	}
	defaults, err := json.Marshal(player.DefaultProfile())
	if err != nil {
		return fmt.Errorf("keep the player: %w", err)
	}
	return a.Store.SaveSettings(ctx, who.Who.ID, store.NewSettings{
		Data:     data,
		Base:     base,
		Defaults: defaults,
		Check:    plays,
	})
}

// plays refuses settings that make no player, as two changes that are each possible may come to together.
func plays(data []byte) error {
	p, err := player.ParseProfile(data)
	if err == nil {
		_, err = p.Player()
	}
	return refuse.Of(err)
}

// Line says in a few words on what a player plays. "Medium hand · 648 mm, 10–46, 22 frets": the numbers that every
// judgement rests on, on every page.
func (p *Player) Line() string {
	g := p.Engine.Player.Guitar
	thin, thick := g.Strings[0], g.Strings[len(g.Strings)-1]
	return fmt.Sprintf("%s hand · %g mm, %.0f–%.0f, %d frets", SentenceCase(p.Engine.Player.Hand.Name),
		float64(g.Scale), float64(thin.Inches)*1000, float64(thick.Inches)*1000, g.Frets)
}
