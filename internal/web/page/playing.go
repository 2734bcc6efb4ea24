package page

import (
	"context"
	"encoding/json"
	"fmt"
	"hash/fnv"
	"net/http"
	"runtime/debug"
	"strconv"

	"ornamen/core/judge"
	"ornamen/core/player"
	"ornamen/core/propose"
)

// WithPlayer gives a request the player of the moment it came, so that all of its
// answer is judged by the same one.
func (a *Site) WithPlayer(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		next.ServeHTTP(w, r.WithContext(a.AsNow(r.Context())))
	})
}

// AsNow is a context with the player as it is now.
func (a *Site) AsNow(ctx context.Context) context.Context {
	return context.WithValue(ctx, playerKey{}, a.Current())
}

// LoadPlayer reads the player from the notebook, or takes the defaults, and begins a
// generation: what was judged for the player before is not shown any more. An engine is built
// anew, with no memory of moves, as all of them may differ.
func (a *Site) LoadPlayer(ctx context.Context) error {
	data, before, err := a.Store.Player(ctx)
	if err != nil {
		return err
	}
	profile := player.DefaultProfile()
	if data != nil {
		before++ // the defaults lie before the first settings
		if err := json.Unmarshal(data, &profile); err != nil {
			return fmt.Errorf("the player in the notebook cannot be read: %w", err)
		}
	}
	p, err := profile.Player()
	if err != nil {
		return fmt.Errorf("the player in the notebook: %w", err)
	}
	var generation uint64
	if c := a.now.Load(); c != nil {
		generation = c.Generation + 1
	}
	a.now.Store(&Player{profile, judge.NewEngine(p), generation, before, summaryKey(profile)})
	a.Wake()
	return nil
}

// Player is the player that every lick is judged by now.
type Player struct {
	Profile    player.Profile
	Engine     *judge.Engine
	Generation uint64 // counts changes, so that no report of an earlier player is shown
	Before     int    // settings that undo can go back to
	Key        string // names the player in the notebook's summaries
}

// Current is who plays now; a request has its own, see playing.
func (a *Site) Current() *Player { return a.now.Load() }

// playerKey is under which a request carries who plays.
type playerKey struct{}

// Playing is the player of a request.
func Playing(ctx context.Context) *Player { return ctx.Value(playerKey{}).(*Player) }

// EngineOf is the engine of a request's player.
func EngineOf(ctx context.Context) *judge.Engine { return Playing(ctx).Engine }

// summaryKey names a player by what the sums come from: the settings, the model's own values,
// and the program that reckons, draws and words them. So a later Ornamen judges a notebook anew
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

// SavePlayer keeps a profile for the next start and for undo. One that changes nothing is no
// step to go back over. Lists are judged anew when loadPlayer has taken it.
func (a *Site) SavePlayer(ctx context.Context, p player.Profile) error {
	if p == a.Current().Profile {
		return nil
	}
	data, err := json.Marshal(p)
	if err != nil {
		return fmt.Errorf("keep the player: %w", err)
	}
	return a.Store.SavePlayer(ctx, data)
}

// PlayerLine says in a few words who plays on what.
// "Medium hand · 648 mm, 10–46, 22 frets": the numbers that every judgement rests on, on every
// page.
func (a *Site) PlayerLine() string {
	p := a.Current().Engine.Player
	thin, thick := p.Guitar.Strings[0], p.Guitar.Strings[len(p.Guitar.Strings)-1]
	return fmt.Sprintf("%s hand · %g mm, %.0f–%.0f, %d frets", SentenceCase(p.Hand.Name), float64(p.Guitar.Scale),
		float64(thin.Inches)*1000, float64(thick.Inches)*1000, p.Guitar.Frets)
}
