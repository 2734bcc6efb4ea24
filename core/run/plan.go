package run

import (
	"errors"
	"fmt"
	"slices"
	"strconv"
	"strings"

	"ornamen/core/lick"
	"ornamen/core/music"
	"ornamen/core/neck"
	"ornamen/core/phrase"
	"ornamen/core/pick"
	"ornamen/core/shape"
)

// plan is a recipe read and checked: what was text is a value, what was left out is its default. Growing never looks at
// a word again. Fields of the recipe that stay text are those that are printed again.
type plan struct {
	Recipe
	guitar  neck.Guitar
	palette music.Palette // the tones
	layout  shape.Layout  // where they are taken from
	at      neck.Place    // the layout's lowest tone
	phrase  phrase.Phrase
	down    *phrase.Phrase // the cell of the way down
	tail    *phrase.Phrase
	pivot   *phrase.Tone
	move    move
	lengths []lick.Time // of the steps, in turn
	land    *Landing
	before  lick.Time // what the parts before this one take
	offset  lick.Time // silence before the first note
	lead    lick.Time // the pick-up of a run that begins on a beat
	chords  []lineChord
	scales  []music.Palette
	pick    pick.Way
	slurs   string // the rule for slurs besides those of the cell, empty for none
}

// move says how a cell goes on. by counts tones or strings, and is 1 for the other kinds. within is how the cell moves
// inside each scale before it goes to the next: "string", or a number of tones; empty where it is played there once.
type move struct {
	kind   string // tones, string, octave, position, chord, scale, stay
	by     int
	within string
}

// plan reads every word of the recipe; an error names the word.
// Each reader looks after a few words and may use what those before it have read.
func (r Recipe) plan(g neck.Guitar) (*plan, error) {
	g, err := r.tuned(g)
	if err != nil {
		return nil, err
	}
	p := &plan{Recipe: r, guitar: g}
	for _, read := range []func() error{p.readTones, p.readCell, p.readMove, p.readRhythm, p.readEnd, p.readLimits} {
		if err := read(); err != nil {
			return nil, err
		}
	}
	return p, nil
}

// tuned is the guitar in the recipe's tuning.
func (r Recipe) tuned(g neck.Guitar) (neck.Guitar, error) {
	if r.Tuning == "" {
		return g, nil
	}
	tuning, err := neck.ParseTuning(r.Tuning)
	if err != nil {
		return g, err
	}
	return g.WithTuning(tuning), nil
}

// list cuts a word list at commas and spaces.
func list(s string) []string {
	return strings.FieldsFunc(s, func(r rune) bool { return r == ',' || r == ' ' })
}

// readTones reads key, layout, place, scales and chords. A place that the recipe leaves out is where the layout usually
// begins on this guitar. Chords may be written as bars of a line: | and : are passed over, a point goes on with the
// chord before.
func (p *plan) readTones() (err error) {
	if strings.TrimSpace(p.Key) == "" {
		return errors.New(`name a key, such as "C# minor pentatonic"`)
	}
	if p.palette, err = music.ParseKey(p.Key, list(p.Add), list(p.Drop)); err != nil {
		return err
	}
	p.layout = shape.Default(p.palette.Scale)
	if p.Layout != "" {
		if p.layout, err = shape.ParseLayout(ValueOf("layout", p.Layout)); err != nil {
			return err
		}
	}
	p.at = shape.Start(p.guitar, p.palette, p.layout)
	if p.At != "" {
		if p.at, err = neck.ParsePlace(p.At); err != nil {
			return err
		}
		if !p.guitar.Has(p.at) {
			return phrase.Wrong(p.At,
				fmt.Sprintf("this neck has %d strings and %d frets", len(p.guitar.Tuning), p.guitar.Frets))
		}
	}
	for _, s := range strings.Split(p.Scales, ",") {
		if s = strings.TrimSpace(s); s == "" {
			continue
		}
		own, err := p.scaleNamed(s)
		if err != nil {
			return err
		}
		p.scales = append(p.scales, own)
	}
	for _, w := range list(strings.NewReplacer("|", " ", ":", " ").Replace(p.Chords)) {
		if w == "." || w == "%" {
			continue // the chord before goes on
		}
		c, err := p.lineChord(w)
		if err != nil {
			return err
		}
		p.chords = append(p.chords, c)
	}
	return nil
}

// lineChord is a chord of the line: where its root stands in the key, and what it is.
type lineChord struct {
	degree music.Degree
	chord  music.Chord
}

// lineChord reads a chord: a degree of the key with a chord's sign or without, "4" or "47", in Roman
// numbers too, or a name, "D7". A degree without a sign is the key's own triad. A name whose root the
// key does not have is on a chromatic degree.
func (p *plan) lineChord(word string) (lineChord, error) {
	if d, sign, ok := music.OnDegree(word, p.palette.Minor()); ok {
		if sign == "" && strings.ContainsAny(word, "1234567") {
			return p.ownChord(d), nil
		}
		c, err := music.ParseChord(d.Over(p.palette.Tonic).String() + sign)
		return lineChord{d, c}, err
	}
	if d, err := music.ParseDegree(word); err == nil {
		return p.ownChord(d), nil
	}
	c, err := music.ParseChord(word)
	if err != nil {
		return lineChord{}, phrase.Wrong(word, "a chord is a degree of the key, 4 or 47 or IV, or a name, D7")
	}
	half := (c.Root.Class() - p.palette.Tonic.Class() + 12) % 12
	for _, t := range p.palette.Tones {
		if t.Degree.Semitones() == half {
			return lineChord{t.Degree, c}, nil
		}
	}
	return lineChord{music.ChromaticDegree(half), c}, nil
}

// scaleNamed is one of the scales that follow each other: on a root of its own where it names one, "D dorian",
// else on the key's.
func (p *plan) scaleNamed(s string) (music.Palette, error) {
	if root, scale, more := strings.Cut(s, " "); more {
		if _, err := music.ParseName(root); err == nil {
			return music.NewPalette(root, strings.TrimSpace(scale), list(p.Add), list(p.Drop))
		}
	}
	return music.NewPalette(p.palette.Tonic.String(), s, list(p.Add), list(p.Drop))
}

// ownChord is the key's own chord on a degree.
func (p *plan) ownChord(d music.Degree) lineChord {
	return lineChord{degree: d, chord: p.palette.Triad(d)}
}

// readCell reads the cell, the tail and its pivot.
// The way down may have a cell of its own, of the same kind, and the end another of any kind.
func (p *plan) readCell() (err error) {
	if strings.TrimSpace(p.Cell) == "" {
		return errors.New(`name a cell, such as "1 2 3 4"`)
	}
	if p.phrase, err = phrase.ParsePhrase(p.Cell); err != nil {
		return err
	}
	if p.At == "" && p.phrase.Strings != nil && p.phrase.Strings[0] <= len(p.guitar.Tuning) {
		p.at = shape.LowestRoot(p.guitar, p.palette, p.phrase.Strings[0]) // on the string that is named for it
	}
	if p.DownCell != "" {
		d, err := phrase.ParsePhrase(p.DownCell)
		if err != nil {
			return err
		}
		if d.Kind != p.phrase.Kind {
			return phrase.Wrong(p.DownCell, "the cell of the way down names the same sort of steps as the other one")
		}
		p.down = &d
	}
	if p.Tail != "" {
		t, err := phrase.ParsePhrase(p.Tail)
		if err != nil {
			return err
		}
		p.tail = &t
	}
	if p.Pivot != "" {
		t, err := phrase.ParseDegree(p.Pivot)
		if err != nil {
			return err
		}
		if p.tail == nil || p.tail.Kind != phrase.Chord {
			return phrase.Wrong(p.Pivot, "a pivot leads into a tail of chord: steps")
		}
		p.pivot = &t
	}
	return nil
}

// readMove reads how the cell goes on, its kind's usual way where nothing is said, and the
// direction. Moves that cannot be made with such a cell are refused here, before anything is
// laid out: a chord's degrees have no rungs to move along.
func (p *plan) readMove() error {
	if strings.TrimSpace(p.Move) == "" {
		p.move = usualMove[p.phrase.Kind]
	} else if err := p.readSaidMove(); err != nil {
		return err
	}
	if p.move.kind == "scale" && len(p.scales) == 0 {
		return errors.New(`the move to the next scale needs scales, such as "natural minor, dorian"`)
	}
	if err := oneOf("follow", &p.Follow, "key", "chord"); err != nil {
		return err
	}
	return oneOf("dir", &p.Dir, "up", "down", "updown", "downup")
}

// readSaidMove reads a move that is named, by its value or its words.
func (p *plan) readSaidMove() error {
	t, value, ok := termOf("move", p.Move)
	if !ok || !t.goesWith(p.phrase.Kind) {
		return phrase.Wrong(p.Move, fmt.Sprintf("a cell of %s: steps moves by %s", p.phrase.Kind, movesOf(p.phrase.Kind)))
	}
	word, by, more := strings.Cut(value, ":")
	n, err := strconv.Atoi(word)
	switch {
	case err == nil:
		p.move = move{kind: "tones", by: n}
	case word == "scale":
		p.move = move{kind: word, by: 1, within: by}
		if n, err = strconv.Atoi(by); err != nil {
			n = 1
		}
	default:
		p.move = move{kind: word, by: 1}
		if n = 1; more {
			n, _ = strconv.Atoi(by) // digits, by the pattern
			p.move.by = n
		}
	}
	most := phrase.MaxTone
	if word == "string" {
		most = neck.MaxStrings
	}
	if n < 1 || n > most {
		return phrase.Wrong(p.Move, fmt.Sprintf("a move is by 1 to %d; up or down is said apart", most))
	}
	return nil
}

// oneOf reads a word that has few values; the first one is the default.
func oneOf(name string, value *string, allowed ...string) error {
	*value = ValueOf(name, *value)
	if *value == "" {
		*value = allowed[0]
	}
	if slices.Contains(allowed, *value) {
		return nil
	}
	return phrase.Wrong(*value, name+" is "+strings.Join(allowed, ", "))
}

// readRhythm reads the lengths of the steps, the feel, how the turn is played and where the run begins. A run from a
// beat has the time up to the next bar line as its pick-up: from 3& in 4/4 it is 3/8.
func (p *plan) readRhythm() error {
	words := countWords(p.Count)
	if len(words) == 0 {
		words = []string{usualCount}
	}
	for _, w := range words {
		c, ok := countOf(w)
		if !ok {
			return phrase.Wrong(w, "a count is "+countNames())
		}
		p.lengths = append(p.lengths, c.length)
	}
	if err := oneOf("feel", &p.Feel, "straight", "shuffle"); err != nil {
		return err
	}
	if err := oneOf("turn", &p.Turn, "once", "twice"); err != nil {
		return err
	}
	if p.Displace != "" {
		t, err := lick.ParseTime(p.Displace)
		if err != nil || t.Before(lick.Time{}) || lick.NewTime(4, 1).Before(t) {
			return phrase.Wrong(p.Displace, "displace is a fraction of a whole note, such as 1/4")
		}
		p.offset = t
	}
	if p.From != "" {
		if p.Displace != "" {
			return errors.New("from and displace both say where the run begins; name one")
		}
		meter := lick.New().Meter
		t, err := lick.ParseBeat(p.From, meter)
		if err != nil {
			return phrase.Wrong(p.From, err.Error())
		}
		if !t.IsZero() {
			p.lead = meter.Bar().Sub(t)
		}
	}
	return nil
}

// readEnd reads the landing and the way of picking. The landing's degree may be any, in the key or not.
func (p *plan) readEnd() (err error) {
	if p.Land != "" {
		l, err := ParseLanding(p.Land)
		if err != nil {
			return err
		}
		if l.Bar > 0 && p.Bars > 0 {
			return errors.New("bars and a landing in a bar both say how long the run is; name one")
		}
		p.land = &l
	}
	p.slurs = ValueOf("slurs", strings.TrimSpace(p.Slurs))
	if p.slurs != "" && !slices.ContainsFunc(slurRules, func(t Term) bool { return t.Value == p.slurs }) {
		return phrase.Wrong(p.Slurs, "slurs are string, way, up or down")
	}
	p.pick = pick.Alternate
	if p.Pick != "" {
		p.pick, err = pick.ParseWay(ValueOf("pick", p.Pick))
	}
	return err
}

// readLimits refuses numbers that no run has, and two ways of saying how long it is.
// The limits keep a recipe from a file from growing without end; a run has its own on top.
func (p *plan) readLimits() error {
	for _, n := range []struct {
		name  string
		value int
		most  int
	}{{"times", p.Times, maxTimes}, {"repeat", p.Repeat, maxRepeat}, {"bars", p.Bars, maxBars}, {"accent", p.Accent,
		maxTimes}, {"start", p.Start, maxTimes}, {"rotate", p.Rotate, phrase.MaxSteps}} {
		if n.value < 0 || n.value > n.most {
			return phrase.Wrong(strconv.Itoa(n.value), fmt.Sprintf("%s is 1 to %d", n.name, n.most))
		}
	}
	if p.Times > 0 && p.Bars > 0 {
		return errors.New("times and bars both say how long the run is; name one")
	}
	if p.Tempo != 0 && !(p.Tempo >= lick.MinTempo && p.Tempo <= lick.MaxTempo) {
		return phrase.Wrong(strconv.FormatFloat(p.Tempo, 'f', -1, 64),
			fmt.Sprintf("tempo is %g to %g", float64(lick.MinTempo), float64(lick.MaxTempo)))
	}
	for i, c := range p.phrase.Cells {
		if p.Rotate > len(c) {
			return phrase.Wrong(strconv.Itoa(p.Rotate), fmt.Sprintf("rotate: cell %d has %d steps", i+1, len(c)))
		}
	}
	p.Repeat = max(1, p.Repeat)
	return nil
}
