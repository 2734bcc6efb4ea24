package main

import (
	"bufio"
	"context"
	"errors"
	"fmt"
	"strconv"
	"strings"

	"ornamen/core/lick"
	"ornamen/core/sound"
)

// play writes a line as it sounds: a WAV file on standard output, 16 bits, one channel, 44,100
// samples a second, while it is computed. Nothing else is printed there.
func play(ctx context.Context, e env, args []string) error {
	fs := newFlags()
	o := optionsOf(e, fs, true)
	tempo := fs.Float64("tempo", 0, "`N` plays at this tempo and not the line's")
	rounds := fs.Int("loop", 1, "`ROUNDS` how often it is played")
	loopTo := fs.String("loop-to", "bar", "`bar|beat|end` where a loop goes on")
	notes := fs.String("notes", "", "`A-B` only these notes")
	count := fs.Bool("count-in", false, "a bar of clicks before it")
	click := fs.Bool("click", false, "a click on the beats")
	band := fs.Bool("band", false, "bass and drums, if the line has chords")
	on := fs.String("click-on", "every",
		"`every|backbeat|drops` on which beats: every one, two and four, or every other bar")
	hold := fs.Bool("hold", false, "its chords are held beneath")
	target := fs.Bool("target", false, "each bend's target sounds before it")
	tone := fs.String("tone", "clean", "`clean|drive` the amplifier")
	drive := fs.Float64("drive", 0, "`0.5` overdrive, from 0 to 1; with --tone drive 0.7")
	pickup := fs.String("pickup", "middle", "`neck|middle|bridge` the guitar's pickup that is heard")
	style := fs.String("style", "auto", "`rock|shuffle|ballad|twelve-eight` how the band plays; what fits the line")
	busy := fs.Int("intensity", 2, "`1-4` how busy the band is")
	comp := fs.Bool("comp", false, "its chords struck short")
	alone := fs.Bool("alone", false, "without the line: the band to play over")
	clickOnly := fs.Bool("click-only", false, "the click alone, without the line")
	rest, err := parse(fs, args, 1, "the lick file to play")
	if err != nil {
		return err
	}
	player, l, err := o.playerAnd(ctx, rest[0])
	if err != nil {
		return err
	}
	switch {
	case len(l.Notes) == 0 && len(l.Chords) == 0:
		return errors.New("the lick has no notes and no chords")
	case *tempo != 0 && !(*tempo >= lick.MinTempo && *tempo <= lick.MaxTempo):
		return fmt.Errorf("tempo is %d to %d", lick.MinTempo, lick.MaxTempo)
	case *rounds < 1 || *rounds > 1000:
		return errors.New("loop is 1 to 1000 rounds")
	case !(*drive >= 0 && *drive <= 1):
		return errors.New("drive is 0 to 1")
	case *tone != "clean" && *tone != "drive":
		return fmt.Errorf("a tone is clean or drive, not %q", *tone)
	case *tone == "clean" && *drive > 0 && fs.Changed("tone"):
		return errors.New("a clean tone has no drive")
	case *busy < 1 || *busy > 4:
		return errors.New("intensity is 1 to 4")
	}
	if *tone == "drive" && !fs.Changed("drive") {
		*drive = 0.7
	}
	coil, err := sound.ParsePickup(*pickup)
	if err != nil {
		return err
	}
	manner, err := sound.ParseStyle(*style)
	if err != nil {
		return err
	}
	clicks, err := sound.ParseClicks(*on)
	if err != nil {
		return err
	}
	fill, err := sound.ParseFill(*loopTo)
	if err != nil {
		return err
	}
	if *rounds == 1 {
		fill = sound.NoFill
	}
	ask := sound.Options{
		Clicks:  clicks,
		Tempo:   *tempo,
		Rounds:  *rounds,
		CountIn: *count,
		Click:   *click,
		Band:    *band,
		Chords:  *hold,
		Target:  *target,
		Drive:   *drive,
		FillTo:  fill,
		Pickup:  coil,
		Style:   manner,
		Comp:    *comp,
	}
	ask.Intensity = *busy
	if *alone || *clickOnly {
		ask.Levels = &sound.Levels{Band: 0.5, Click: 0.5}
		ask.Band = ask.Band || *alone
	}
	if *clickOnly {
		ask.Click, ask.Band, ask.Chords, ask.Comp = true, false, false, false
	}
	if *notes != "" {
		if ask.From, ask.To, err = span(*notes, len(l.Notes)); err != nil {
			return err
		}
	}
	if seconds := ask.Seconds(l); seconds > sound.Longest {
		return fmt.Errorf("that would sound for %.0f hours; a file of sound has room for %d", seconds/3600,
			sound.Longest/3600)
	}
	w := bufio.NewWriter(e.out)
	if err := sound.WriteWAV(ctx, w, sound.NewRenderer(player.Guitar, l, ask)); err != nil {
		return fmt.Errorf("the sound cannot be written: %w", err)
	}
	return w.Flush()
}

// span reads "3-8", notes counted from 1, as a range counted from 0.
// "5" is the fifth note alone. The error names how many notes there are.
func span(s string, notes int) (from, to int, err error) {
	a, b, ok := strings.Cut(s, "-")
	if !ok {
		b = a
	}
	from, err1 := strconv.Atoi(a)
	to, err2 := strconv.Atoi(b)
	if err1 != nil || err2 != nil || from < 1 || to < from || to > notes {
		return 0, 0, fmt.Errorf("%q: write notes as 3-8, from 1 to %d", s, notes)
	}
	return from - 1, to, nil
}
