package player

import (
	"context"
	"encoding/json"
	"fmt"
	"strconv"
	"strings"

	"ornamen/core/bend"
	"ornamen/core/figure"
	"ornamen/core/hand"
	"ornamen/core/lick"
	"ornamen/core/neck"
	"ornamen/core/pick"
)

// Profile is the player as settings: what a screen shows and a file keeps. A measurement of 0 was not taken.
type Profile struct {
	Tuning     string  `json:"tuning"` // "E4 B3 G3 D3 A2 E2", string 1 first
	Scale      float64 `json:"scale_mm"`
	Frets      int     `json:"frets"`
	Gauges     string  `json:"gauges"` // "10 13 17 26w 36w 46w", thousandths of an inch
	LeftHanded bool    `json:"left_handed"`

	Size       string  `json:"size"`        // small, medium, large
	Sixteenths float64 `json:"sixteenths"`  // fastest clean sixteenths on one string, quarters a minute
	Hammering  float64 `json:"hammering"`   // fastest clean 1–2–4 hammering in sixteenths, quarters a minute
	HoldFrom   int     `json:"hold_from"`   // widest comfortable hold of index and little finger, two frets
	HoldTo     int     `json:"hold_to"`     //
	BendString int     `json:"bend_string"` // hardest full bend that still feels good
	BendFret   int     `json:"bend_fret"`

	Way    string `json:"way"`
	Angle  string `json:"angle"`
	Boxes  string `json:"boxes"`  // box numbers from the minor or the major root
	Strict string `json:"strict"` // about bends without a target

	BendFinger string `json:"bend_finger"` // that bends where several could: ring, little, or empty
	Helpers    string `json:"helpers"`     // behind it: many, few, flat; empty is many

	Habits   string `json:"habits,omitempty"`   // other fingers of the player's own, see figure.ParseHabits
	Declined string `json:"declined,omitempty"` // habits that were offered and are none
}

// ParseProfile reads settings as JSON; those that it does not name, or nothing at all, are the default's.
func ParseProfile(data []byte) (Profile, error) {
	p := DefaultProfile()
	if data == nil {
		return p, nil
	}
	err := json.Unmarshal(data, &p)
	return p, err
}

// DefaultProfile is Default as settings.
func DefaultProfile() Profile {
	return Profile{Tuning: "E4 B3 G3 D3 A2 E2", Scale: 648, Frets: 22, Gauges: "10 13 17 26w 36w 46w",
		Size: "medium", Way: string(pick.Alternate), Angle: string(pick.Either), Boxes: "minor", Strict: string(Usual),
		Helpers: string(HelpMany)}
}

// Limits of what is measured: beyond them a number is a slip, not a hand.
const (
	minTapped, maxTapped   = 40.0, 330.0 // quarters a minute
	minReach, maxReach     = 0.6, 1.5    // of the medium hand's
	minForce, maxForce     = 0.4, 2.5    // of the model player's strength
	minTension, maxTension = neck.Newtons(15), neck.Newtons(250)
)

// Where 1–2–4 is hammered to measure it, in sixteenths: pick, hammer, hammer, and again.
const (
	hammerString = 3
	hammerFret   = 9
)

// Player builds the player, or says in one sentence what is impossible.
//
// The order matters: the hand is measured on the guitar's frets, the hammering with that hand, the bend on that
// guitar's strings. Measurements that were not taken leave the model's player there.
func (p Profile) Player() (Player, error) {
	pl := Default()
	var err error
	if pl.Guitar, err = p.guitar(); err != nil {
		return pl, err
	}
	if pl.Hand, err = p.hand(pl.Guitar); err != nil {
		return pl, err
	}
	if err = p.habits(&pl); err != nil {
		return pl, err
	}
	if p.Sixteenths != 0 {
		if err := tapped("sixteenths on one string", p.Sixteenths); err != nil {
			return pl, err
		}
		pl.Pick.Speed = p.Sixteenths / sixteenthTempo(pick.TurnNeed)
	}
	if p.Hammering != 0 {
		if err := tapped("hammering", p.Hammering); err != nil {
			return pl, err
		}
		pl.Hand.Speed = p.Hammering / hammerCeiling(pl)
	}
	pl.Bends, err = p.strength(pl.Guitar)
	return pl, err
}

// sixteenthTempo is the tempo at which a sixteenth lasts so many ms.
func sixteenthTempo(ms float64) float64 { return 15000 / ms }

// tapped refuses a tempo that no hand taps.
func tapped(what string, tempo float64) error {
	if !(tempo >= minTapped && tempo <= maxTapped) {
		return fmt.Errorf("%s at %g is no tempo a hand plays: use %g to %g", what, tempo, minTapped, maxTapped)
	}
	return nil
}

// hammerCeiling is the tempo up to which the model hammers 1–2–4 with this hand at speed 1. It is computed by the model
// itself on a loop of three notes, so that a player who taps that tempo has a ceiling of just that tempo on just this
// exercise, whatever the model's numbers are. A load is need over have; with a sixteenth of 1 ms it is the need in ms.
// It is 15,000 over the need in ms of the loop's hardest move.
func hammerCeiling(pl Player) float64 {
	pl.Hand.Speed = 1
	sixteenth := 1.0 // ms: a load is how much longer the hand needs
	var events []hand.Event
	for i, fret := range []int{hammerFret, hammerFret + 1, hammerFret + 3} {
		t := hand.Touch{Place: neck.Place{String: hammerString, Fret: fret},
			Finger: []lick.Finger{lick.Index, lick.Middle, lick.Little}[i]}
		if i > 0 {
			t.Slur = lick.Hammer
		}
		events = append(events, hand.Event{Touches: []hand.Touch{t}, Have: sixteenth})
	}
	bound, _ := hand.NewModel(pl.Hand, pl.Guitar).Bound(context.Background(), events, true)
	return sixteenthTempo(bound * sixteenth)
}

// guitar is the profile's instrument: a preset, and what is set beside it.
func (p Profile) guitar() (neck.Guitar, error) {
	g := neck.Standard()
	tuning, err := neck.ParseTuning(p.Tuning)
	if err != nil {
		return g, err
	}
	g = g.WithTuning(tuning)
	g.Scale, g.Frets, g.LeftHanded = neck.MM(p.Scale), p.Frets, p.LeftHanded
	gauges, err := neck.ParseGauges(p.Gauges)
	if err != nil {
		return g, err
	}
	if len(gauges) != len(tuning) {
		return g, fmt.Errorf("there are %d strings in the tuning but %d gauges", len(tuning), len(gauges))
	}
	g.Strings = gauges
	if err := g.Validate(); err != nil {
		return g, err
	}
	for i, s := range g.Strings {
		if t := s.Tension(tuning[i], g.Scale); t < minTension || t > maxTension {
			return g, fmt.Errorf("string %d at %s would carry %.0f N with that gauge and scale length; strings carry "+
				"%.0f to %.0f", i+1, strings.Fields(p.Tuning)[i], t, minTension, maxTension)
		}
	}
	return g, nil
}

// hand is the profile's fretting hand: a size, or the lengths that were measured.
func (p Profile) hand(g neck.Guitar) (hand.Hand, error) {
	h, err := hand.Named(p.Size)
	if err != nil || p.HoldFrom == 0 && p.HoldTo == 0 {
		return h, err
	}
	if p.HoldFrom < 1 || p.HoldTo <= p.HoldFrom || p.HoldTo > g.Frets {
		return h, fmt.Errorf("a hold goes from a lower to a higher fret of this neck, not from %d to %d", p.HoldFrom,
			p.HoldTo)
	}
	scale := (g.Press(p.HoldTo) - g.Press(p.HoldFrom)) / hand.Medium().Comfort[hand.P14]
	if scale < minReach || scale > maxReach {
		return h, fmt.Errorf("a hold from fret %d to %d spans %.0f mm; comfortable holds span %.0f to %.0f", p.HoldFrom,
			p.HoldTo, g.Press(p.HoldTo)-g.Press(p.HoldFrom), minReach*hand.Medium().Comfort[hand.P14],
			maxReach*hand.Medium().Comfort[hand.P14])
	}
	h = hand.Medium().Scaled(scale)
	h.Name = "measured"
	return h, nil
}

// habits reads how the player picks, bends and what counts as outside.
func (p Profile) habits(pl *Player) (err error) {
	if pl.Way, err = pick.ParseWay(p.Way); err != nil {
		return err
	}
	if pl.Pick.Angle, err = pick.ParseAngle(p.Angle); err != nil {
		return err
	}
	if pl.Strict, err = ParseStrictness(p.Strict); err != nil {
		return err
	}
	if err := pl.Bend(p.BendFinger, p.Helpers); err != nil {
		return err
	}
	own, err := figure.ParseHabits(p.Habits)
	if err != nil {
		return err
	}
	pl.Hand.Habits = own.String()
	if p.Boxes != "minor" && p.Boxes != "major" {
		return fmt.Errorf("boxes are counted from the minor or the major root, not from %q", p.Boxes)
	}
	return nil
}

// strength scales what the fingers hold by the hardest full bend that still feels good: the ring finger with two behind
// it. A bend that feels good is one at the limit of "tight", not of "breaks".
func (p Profile) strength(g neck.Guitar) (bend.Strength, error) {
	s := bend.DefaultStrength()
	if p.BendString == 0 && p.BendFret == 0 {
		return s, nil
	}
	at := neck.Place{String: p.BendString, Fret: p.BendFret}
	if !g.Has(at) || at.Fret == 0 {
		return s, fmt.Errorf("a bend on string %d at fret %d is not on this neck", p.BendString, p.BendFret)
	}
	push, ok := bend.Solve(g, at, 2)
	by := push.Force / s.Three
	if !ok || by < minForce || by > maxForce {
		return s, fmt.Errorf("a full bend on string %d at fret %d takes %.0f N; a bend that feels good takes %.0f to %.0f",
			p.BendString, p.BendFret, push.Force, minForce*s.Three, maxForce*s.Three)
	}
	return s.Scaled(by), nil
}

// Number reads a number of a form; an empty one is 0.
func Number(what, text string) (float64, error) {
	text = strings.TrimSpace(text)
	if text == "" {
		return 0, nil
	}
	x, err := strconv.ParseFloat(text, 64)
	if err != nil || x != x || x < 0 || x > 1e6 {
		return 0, fmt.Errorf("%s: %q is no number", what, text)
	}
	return x, nil
}
