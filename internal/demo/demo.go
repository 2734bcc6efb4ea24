package demo

import (
	"context"
	"fmt"

	"ornamen/core/judge"
	"ornamen/core/lick"
	"ornamen/core/player"
	"ornamen/internal/practising"
	"ornamen/internal/store"
)

// sheets are the licks, the last one on top of the notebook. Together they show what a notebook comes to hold: runs and
// lines, warm-ups, loops, bends, double stops, fingers with a bass, lines over changes, joined runs, seven to the beat,
// a line before and after it was mended. Several break or are tight at their tempo on purpose. They are our own.
var sheets = []sheet{
	{title: "Weir blues", tags: "changes", key: "A minor pentatonic", add: "3 6", tempo: 96, len: "1/8",
		feel: lick.Shuffle, changes: "twelve-bar blues", mend: judge.LandingEarly,
		notes: `4:7/1/4 3:5 6/h 2:5/1/4 8/1/4 5/1/4 3:7 5/p 4:7/1/2
			3:5/1/4/./1/8 6/h 2:5/1/4 8/1/4 5/1/4 8/1/4 5 8 7/1/4
			3:5/1/2/./1/4 7/1/4 2:7/1/4 5/1/4 3:7/1/2
			4:7/1/4 3:5 6/h 2:5/1/2 8/1/4 5/1/4 3:7 5/p 4:7/1/4
			2:9/1/4 5/1/4 3:7/1/2 2:7/1/4 5/1/4 3:7 5/p 4:7/1/4
			3:6/1/4 2:5/1/4 8 5 3:7/1/4 4/1/2 2:5/1/2`},
	{title: "Sluice in sixths", tags: "changes, double stops", tempo: 72,
		runs: []string{
			`--key "G mixolydian" --layout pairs:4,2:6 --at 4:9 --cell "2 1 4 3" --move chord --chords "1 5 4" ` +
				`--follow chord --count 8 --tempo 72`,
		},
		changes: "17 57 | 47"},
	{title: "Gatepost with a thumb", tags: "changes, fingers", key: "E minor pentatonic", add: "9", tempo: 84,
		len:     "1/4",
		changes: "1m7 | 4 | 1m7 | b7", moves: []string{"bass:steady"},
		notes: "1:3 0 2:3 0 2:2 0/1/8 3:2/1/8 1:0 2:3 1:3 0 2:3 1:2 2:3/1/2 1:2/1/2"},
	{title: "Call from the ferry", tags: "changes", key: "C minor pentatonic", tempo: 88, len: "1/8",
		changes: "1m7 | 4m7 | 1m7 | 57", moves: []string{"answer:4"},
		notes: "3:5 8 2:6/1/4 8/1/4 6/1/4 3:8/./1/8 5/p 4:8/1/4 5/3/8"},
	{title: "Up the silo and down", tags: "runs, joined", tempo: 72,
		runs: []string{
			`--key "G minor pentatonic" --at 6:3 --cell "1 2 3" --times 8 --count 16t --tempo 72`,
			`--key "G minor pentatonic" --at 6:3 --cell "1 2 1 0" --move stay --times 2 --start 11`,
			`--key "G minor pentatonic" --layout box --at 6:3 --cell "strings: a2 pa1" --dir down --count 16t`,
		}},
	{title: "Mill wheel", tags: "warm-up, loops", key: "C# minor pentatonic", tempo: 104, len: "1/16", loop: true,
		notes: "1:9/f1 12/f4 2:9/f1 12/f4 3:9 11 4:11 14/f1"},
	{title: "Thumb under snow", tags: "fingers, double stops", key: "E minor pentatonic", add: "b5", tempo: 76,
		len: "1/8", chords: "Em 1, Em 1",
		notes: `6:0/@p/bass/1/4+1:3/@m 1:0/@i 6:0/@p/bass/1/4+2:3/@m 2:0/@i 5:2/@p/bass/1/4+1:0/@m 2:3/@i
			5:2/@p/bass/1/4+2:0/@m 3:2/@i
			6:0/@p/bass/1/4+3:3/@m 3:2/p 6:0/@p/bass/1/4+3:0/@m 4:2/@i 6:0/@p/bass/1/2+4:2/@m/1/2`},
	{title: "Attic sevens", tags: "runs, warm-up", key: "Ab major", tempo: 64, len: "1/28",
		notes: "6:4/> 6 8 5:4 6 8 4:5 5/> 6 3:5 6 8 2:6 8 6/> 8 9 1:6 8 9 8 9/> 8 6 2:9 8 6 3:8 2:6/1/4"},
	{title: "Barn door ladder", tags: "runs, barn set", key: "C minor", tempo: 92, len: "1/16",
		notes: `6:8/> 10 11 5:8 6:10/> 11 5:8 10 6:11/> 5:8 10 11 8/> 10 11 4:8 5:10/> 11 4:8 10 5:11/>
		4:8 10 12 8/> 10 12 3:8
			4:10/> 12 3:8 10 4:12/> 3:8 10 12 8/> 10 12 2:9 3:10/> 12 2:9 11 3:12/> 2:9 11 13 9/>
			11 13 1:10 2:11/> 13 1:10 11
			2:13/> 1:10 11 13 11 10 2:13 11`},
	{title: "Sleet shuffle", tags: "barn set", key: "Bb blues", add: "3", tempo: 108, len: "1/8", feel: lick.Shuffle,
		pickup: "3/8", chords: "Bb7 1, Eb7 1, Bb7 1",
		notes: "3:7 8/h 2:6/> 3:8 2:6 3:8 6/p 4:8 3:6 7/h/f2 2:6/1/4 3:8/./b1 6 4:8 3:6/1/4/v"},
	{title: "Slates by moonlight", tags: "double stops, barn set", key: "F mixolydian", tempo: 92, len: "1/8",
		notes: "4:10+2:10/1/4 4:8+2:8 4:7+2:6 4:12+2:11/1/4 4:10+2:10 3:8+1:8/1/4 3:10+1:10 3:12+1:11 3:10+1:10/1/4 " +
			"4:8+2:8 4:10+2:10/1/2"},
	{title: "Cold hands loop", tags: "warm-up, runs", key: "Bb major", tempo: 88, len: "1/16", loop: true,
		notes: "1:10 8/p 6/p 2:10 8/p 6/p 3:8/U 2:6 8/h 10/h 1:6 8/h"},
	{title: "Ferry economy", tags: "runs, restrung", key: "C minor pentatonic", tempo: 104, len: "1/16",
		chords: "Cm7 1",
		notes:  "5:3/D 6/U 8/D 4:5/D 3:3/D 5/U 8/D 2:6/D 1:3/D 6/U 8/1/4/D/v"},
	{title: "Thaw bends", tags: "bends, barn set", key: "F# minor pentatonic", add: "b5 9", tempo: 84, len: "1/8",
		chords: "F#m 1, D 1/2, E 1/2",
		notes:  "3:4/r2/1/4 2 4:4 3:4/b1/1/4 2/p 4:4 2:5/b2/1/4 2 3:4 2 4:4/1/4/v"},
	{title: "Quarry steps", tags: "warm-up, runs", key: "C# natural minor", tempo: 100, len: "1/16",
		chords: "C#m7 1, A 1",
		notes: "6:12/> 11 9 5:9 9/> 6:12 11 5:11 11/> 9 6:12 5:12 12/> 11 9 4:9 9/> 5:12 11 4:11 11/> 9 5:12 4:13 " +
			"13/> 11 9 3:9 9/> 4:13 11 3:11 11/1/4"},
	{title: "Lantern turnaround, mended", tags: "barn set", key: "C# minor pentatonic", add: "9 b5", tempo: 112,
		len: "1/16", chords: "C#m7 1",
		notes: "3:11 1:9 2:12 9/p 3:11 9/p 4:11 9/p 3:8 9/h 11 2:9 1:12/f3 14/h 2:14 12/p"},
	{title: "Lantern turnaround", tags: "barn set", key: "C# minor pentatonic", add: "9 b5", tempo: 112, len: "1/16",
		chords: "C#m7 1",
		notes:  "3:11/f3 1:9 2:12 9/p 3:11/f3 9/p 4:11/f3 9/p/f1 3:8 9/h 11/f4 2:9/f1 1:12/f1 14/h 2:14 12/p"},
}

// Recipes are the runs of the demo, one of each kind. Together they use every kind of cell (tones, strings, chord
// degrees), every move and most options, so that the Runs screen can be learned by opening one and changing a word.
// Each is read by run.Parse when it is opened, like a player's own; the tests grow them all.
var Recipes = []store.Recipe{
	{Name: "Quarry ladder",
		Line: `--key "C# natural minor" --layout 3nps --at 6:9 --cell "3 2 1 4" --times 8 --accent 4 --land 4 ` +
			`--tempo 112`},
	{Name: "Threes up and down the barn",
		Line: `--key "F# minor pentatonic" --at 6:2 --cell "1 2 3" --dir updown --count 8t --land 1@1 --tempo 96`},
	{Name: "Thirds for cold fingers",
		Line: `--key "Bb major" --at 6:6 --cell "1 3" --count 8 --times 10 --land 1 --tempo 88`},
	{Name: "Hinges in fives",
		Line: `--key "G minor pentatonic" --at 6:3 --cell "strings: Da2 pa1 Ub1 hb2 Da1" --count 16q --tempo 66`},
	{Name: "Five up, four down",
		Line: `--key "E natural minor" --layout counts:3,4,3,4,3 --at 6:7 --cell "strings: a1 ha2 sa3 b1 hb2 | a3 ` +
			`pa2 b3 pb1" --count 8t --tempo 84`},
	{Name: "Every string twice",
		Line: `--key "Ab major" --layout 3nps --at 6:4 --cell "strings: a1 a2 a3 b1 b2 b3" --count 16t --tempo 80`},
	{Name: "Down, each cell twice",
		Line: `--key "Eb major" --layout 3nps --at 6:11 --cell "4 3 2 1" --dir down --repeat 2 --times 16 --tempo 92`},
	{Name: "Weathervane",
		Line: `--key "D major" --at 5:5 --cell "chord@5,4,3,2,2,3: 1 3 5 1' s2' 7" --chords "1 2 4 5" ` +
			`--count 8t --tempo 84`},
	{Name: "One, four, five",
		Line: `--key "Bb mixolydian" --at 6:6 --cell "chord: 1 3 5 b7 5 3" --chords "1 4 5" --count 8t --tempo 100`},
	{Name: "Octaves up the stair",
		Line: `--key "F# natural minor" --at 6:2 --layout 3nps --cell "1 h2 h3 4 h5 h6" --move octave --count 16t ` +
			`--tempo 66`},
	{Name: "Along the neck",
		Line: `--key "C# minor pentatonic" --at 6:4 --cell "1 2 3 4 3 2" --move position --times 4 --count 16t ` +
			`--tempo 90`},
	{Name: "One turn, three scales",
		Line: `--key "D natural minor" --at 6:10 --cell "3 1 4 2 5 3" --move scale --scales "natural minor, dorian, ` +
			`harmonic minor" --count 8t --tempo 88`},
	{Name: "Gutter drip",
		Line: `--key "F mixolydian" --layout pairs:3,1:6 --at 3:10 --cell "3 <2 4 1" --times 3 --count 8t --tempo 80`},
	{Name: "Woven boxes",
		Line: `--key "E minor pentatonic" --layout frets:7-12 --cell "strings: a2 b1 b3 a1 b2" --tempo 88`},
	{Name: "Over two boxes in fives",
		Line: `--key "A minor pentatonic" --layout boxes:1+2 --at 6:5 --cell "strings: a1 a3 b2 b3 b1" ` +
			`--count 16q --tempo 60`},
	{Name: "Thirds through the lock gates",
		Line: `--key "D mixolydian" --layout pairs:2,1:3 --at 2:7 --cell "2 4 1" --move chord --chords "1 5 4" ` +
			`--follow chord --count 8 --tempo 88`},
	{Name: "Up one way, down another",
		Line: `--key "F# minor pentatonic" --at 6:2 --cell "1 2 3" --down-cell "2 1" --dir updown --count 8t ` +
			`--tempo 120`},
	{Name: "Loft loop, mirrored",
		Line: `--key "A natural minor" --layout 3nps --at 4:5 --cell "strings: a1 ha2 sa3 b2 b3" --move stay ` +
			`--mirror --loop --times 1 --tempo 104`},
	{Name: "A run with a tail",
		Line: `--key "C# minor pentatonic" --add b5@down --at 6:9 --cell "1 2 3" --times 7 --tail "3 2 1 0 -1" ` +
			`--land 1@1 --tempo 104`},
	{Name: "Into the third",
		Line: `--key "F# natural minor" --layout 3nps --at 6:2 --cell "1 2 3 4" --times 5 --tail "chord: 3 5 1' 5" ` +
			`--pivot 3 --tempo 100`},
	{Name: "Mill wheel, turned",
		Line: `--key "C# minor pentatonic" --at 6:9 --cell "1 2 3 2" --rotate 2 --move stay --times 4 --displace ` +
			`1/4 --tempo 104`},
}

// Licks builds the demo licks. Without hands but for those the sheet locks: they are proposed when a lick is opened. An
// error is a mistake in a sheet and names the lick.
func Licks() ([]lick.Lick, error) {
	out := make([]lick.Lick, 0, len(sheets))
	for _, s := range sheets {
		l, err := s.build()
		if err != nil {
			return nil, fmt.Errorf("demo: %w", err)
		}
		out = append(out, l)
	}
	return out, nil
}

// Fill puts the demo's licks, recipes and practice log into an empty notebook. One that holds a
// lick already is left as it is, so that the demo can be stopped and opened again.
//
// The log is written as of today, as a player would have kept it over the last weeks. A fill
// that is stopped half way leaves the licks it had added, each whole.
func Fill(ctx context.Context, s *store.Store) error {
	have, err := s.Count(ctx, store.Query{})
	if err != nil || have.All > 0 {
		return err
	}
	licks, err := Licks()
	if err != nil {
		return err
	}
	for i, l := range licks {
		e, err := s.Add(ctx, l, "from the demo")
		if err != nil {
			return err
		}
		if err := mended(ctx, s, e, sheets[i].mend); err != nil {
			return err
		}
	}
	for _, r := range Recipes {
		if err := s.SaveRecipe(ctx, r); err != nil {
			return err
		}
	}
	engine := judge.NewEngine(player.Default())
	all, err := worked(ctx, s, engine)
	if err != nil {
		return err
	}
	if _, err := practising.Add(ctx, s, 1, logOf(all, engine, s.Now())...); err != nil {
		return err
	}
	return people(ctx, s)
}

// mended takes the first fix of a finding, so that the lick has its mistake among its versions.
// The player is the default one, whom the demo begins with. A code that is not found, or that
// nothing mends, is an error: the sheet promises one.
func mended(ctx context.Context, s *store.Store, e store.Entry, code lick.Code) error {
	if code == "" {
		return nil
	}
	engine := judge.NewEngine(player.Default())
	r, err := engine.Check(ctx, e.Lick)
	if err == nil {
		err = engine.Mend(ctx, e.Lick, r)
	}
	if err != nil {
		return err
	}
	for _, f := range r.Findings {
		if f.Code != code || len(f.Fixes) == 0 {
			continue
		}
		edit, err := engine.Take(ctx, e.Lick, f.Fixes[0].Edit, f.Fixes[0].Small())
		if err != nil {
			return err
		}
		next, err := edit.Apply(e.Lick)
		if err != nil {
			return err
		}
		_, err = s.Commit(ctx, e.ID, e.Revision, next, edit.What())
		return err
	}
	return fmt.Errorf("%s: nothing mends %s", e.Lick.Title, code)
}
