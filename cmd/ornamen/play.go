package main

import (
	"bufio"
	"cmp"
	"context"
	"errors"
	"fmt"

	"ornamen/core/lick"
	"ornamen/core/sound"
)

// play writes a line as it sounds: a WAV file on standard output, 16 bits, one channel, 44,100
// samples a second, while it is computed. Nothing else is printed there.
func play(ctx context.Context, e env, args []string) error {
	fs := newFlags()
	o := optionsOf(e, fs, true)
	var ask sound.Options
	fs.Float64Var(&ask.Tempo, "tempo", 0, "`N` plays at this tempo and not the line's")
	fs.IntVar(&ask.Rounds, "loop", 1, "`ROUNDS` how often it is played")
	loopTo := fs.String("loop-to", "bar", "`bar|beat|end` where a loop goes on")
	notes := fs.String("notes", "", "`A-B` only these notes")
	fs.BoolVar(&ask.CountIn, "count-in", false, "a bar of clicks before it")
	fs.BoolVar(&ask.Click, "click", false, "a click on the beats")
	fs.BoolVar(&ask.Band, "band", false, "bass and drums, if the line has chords")
	on := fs.String("click-on", "every",
		"`every|backbeat|drops` on which beats: every one, two and four, or every other bar")
	fs.BoolVar(&ask.Chords, "hold", false, "its chords are held beneath")
	fs.BoolVar(&ask.Target, "target", false, "each bend's target sounds before it")
	tone := fs.String("tone", "clean", "`clean|drive` the amplifier")
	fs.Float64Var(&ask.Drive, "drive", 0, "`0.5` overdrive, from 0 to 1; with --tone drive 0.7")
	pickup := fs.String("pickup", "middle", "`neck|middle|bridge` the guitar's pickup that is heard")
	style := fs.String("style", "auto", "`rock|shuffle|ballad|twelve-eight` how the band plays; what fits the line")
	fs.IntVar(&ask.Intensity, "intensity", 2, "`1-4` how busy the band is")
	fs.BoolVar(&ask.Comp, "comp", false, "its chords struck short")
	alone := fs.Bool("alone", false, "without the line: the band to play over")
	clickOnly := fs.Bool("click-only", false, "the click alone, without the line")
	player, l, err := o.lickOf(ctx, args, "the lick file to play")
	if err != nil {
		return err
	}
	switch {
	case len(l.Notes) == 0 && len(l.Chords) == 0:
		return errors.New("the lick has no notes and no chords")
	case ask.Tempo != 0 && !(ask.Tempo >= lick.MinTempo && ask.Tempo <= lick.MaxTempo):
		return fmt.Errorf("tempo is %d to %d", lick.MinTempo, lick.MaxTempo)
	case ask.Rounds < 1 || ask.Rounds > 1000:
		return errors.New("loop is 1 to 1000 rounds")
	case !(ask.Drive >= 0 && ask.Drive <= 1):
		return errors.New("drive is 0 to 1")
	case *tone != "clean" && *tone != "drive":
		return fmt.Errorf("a tone is clean or drive, not %q", *tone)
	case *tone == "clean" && ask.Drive > 0 && fs.Changed("tone"):
		return errors.New("a clean tone has no drive")
	case ask.Intensity < 1 || ask.Intensity > 4:
		return errors.New("intensity is 1 to 4")
	}
	if *tone == "drive" && !fs.Changed("drive") {
		ask.Drive = 0.7
	}
	var wrong [4]error
	ask.Pickup, wrong[0] = sound.ParsePickup(*pickup)
	ask.Style, wrong[1] = sound.ParseStyle(*style)
	ask.Clicks, wrong[2] = sound.ParseClicks(*on)
	ask.FillTo, wrong[3] = sound.ParseFill(*loopTo)
	if err := cmp.Or(wrong[:]...); err != nil {
		return err
	}
	if ask.Rounds == 1 {
		ask.FillTo = sound.NoFill
	}
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
	rs, err := lick.ParseRanges(s)
	if err != nil || len(rs) != 1 || rs[0].To > notes {
		return 0, 0, fmt.Errorf("%q: write notes as 3-8, from 1 to %d", s, notes)
	}
	return rs[0].From, rs[0].To, nil
}
