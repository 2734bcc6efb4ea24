package lick

import (
	"regexp"
	"slices"
	"strings"
	"unicode"
	"unicode/utf8"

	"ornamen/core/music"
	"ornamen/core/neck"
)

// Lick is a line with its setting. Notes are in playing order: by time, and from thick strings
// to thin where they sound together. It is a value: whoever changes one clones it first, as
// every edit does, since the slices are shared by copies.
type Lick struct {
	Title  string
	Tags   []string
	Tuning []music.Pitch // string 1 first; empty means standard
	Key    Key
	Meter  Meter
	Tempo  float64 // quarter notes a minute
	Feel   Feel
	Pickup Time // the part that lies before bar 1
	Loop   bool // the end leads back to the start
	Chords []Chord
	Recipe string    // arguments of the run that made it, if one did
	Keys   []KeySpan // other tones, each from its time on
	Parts  []Part    // grown by recipes of their own
	Notes  []Note
}

// New is an empty lick with the format's defaults.
func New() Lick {
	return Lick{Tuning: neck.StandardTuning(), Meter: Meter{4, 4}, Tempo: DefaultTempo, Feel: Straight}
}

// DefaultTempo is the tempo of a lick that names none.
const DefaultTempo = 100

// Key is the chosen tones as written; an empty Tonic means no key. Add and Drop hold degrees,
// an added one perhaps with where it holds, "b5@down".
type Key struct {
	Tonic string   `json:"tonic"`
	Scale string   `json:"scale"`
	Add   []string `json:"add"`
	Drop  []string `json:"drop"`
}

// Meter is a time signature.
type Meter struct{ Beats, Unit int }

// Bar is the length of one bar.
func (m Meter) Bar() Time { return NewTime(int64(m.Beats), int64(m.Unit)) }

// Feel is how eighths are played.
type Feel string

// The feels.
const (
	Straight Feel = "straight"
	Shuffle  Feel = "shuffle"
)

// Chord is one chord of the changes under the line. Chords do not overlap; between them may be silence.
type Chord struct {
	At   Time   `json:"at"`
	Len  Time   `json:"len"`
	Name string `json:"name"`
}

// End is when the chord stops.
func (c Chord) End() Time { return c.At.Add(c.Len) }

// Finger is a finger of the fretting hand; the zero value is not decided.
type Finger int8

// The fingers.
const (
	NoFinger Finger = iota
	Index
	Middle
	Ring
	Little
	Open
	Thumb
)

// String writes the finger as players do: 1 to 4, 0, T, or "" when not decided.
func (f Finger) String() string { return [...]string{"", "1", "2", "3", "4", "0", "T"}[f] }

// Word names the finger. The article is left to the sentence.
func (f Finger) Word() string {
	return [...]string{"no finger", "index", "middle finger", "ring finger", "little finger", "open string", "thumb"}[f]
}

// Fretting says whether the finger is one of the four.
func (f Finger) Fretting() bool { return f >= Index && f <= Little }

// Stroke is how the string is set going; empty is not decided or none.
type Stroke string

// The strokes: pick down and up, and the picking hand's fingers.
const (
	Down   Stroke = "down"
	Up     Stroke = "up"
	PThumb Stroke = "p"
	PIndex Stroke = "i"
	PMid   Stroke = "m"
	PRing  Stroke = "a"
)

// Other is the opposite stroke of the pick; what is no upstroke counts as a downstroke.
func (s Stroke) Other() Stroke {
	if s == Up {
		return Down
	}
	return Up
}

// Slur is how a note is reached from the note before it on its string.
type Slur string

// The slurs. A shift is silent on the way and picked again.
const (
	Hammer Slur = "hammer"
	Pull   Slur = "pull"
	Slide  Slur = "slide"
	Shift  Slur = "shift"
)

// Slurred says whether the note sounds without a stroke.
func (s Slur) Slurred() bool { return s == Hammer || s == Pull || s == Slide }

// Between is the slur of the same sort that leads from one fret of a string to another: a hammer rises, a pull falls, a
// slide needs two fretted notes; none where the fret stays.
func (s Slur) Between(from, to int) Slur {
	switch {
	case from == to:
		return ""
	case s == Hammer || s == Pull:
		if to > from {
			return Hammer
		}
		return Pull
	case from == 0 || to == 0:
		return ""
	}
	return s
}

// FitSlurs lets go of slurs that cannot sound and turns those round that lead the other way, after
// frets or strings have changed: a hammer that falls is a pull, a slide from an open string a
// picked note. A slur on the first note of its string stays in a loop, where it comes from the end.
func (l *Lick) FitSlurs() {
	for i := range l.Notes {
		l.fitSlur(i)
	}
}

// fitSlur does so for note i.
func (l *Lick) fitSlur(i int) {
	n := &l.Notes[i]
	if n.Slur == "" {
		return
	}
	if j := l.Before(i); j >= 0 {
		n.Slur = n.Slur.Between(l.Notes[j].Fret, n.Fret)
	} else if !l.Loop {
		n.Slur = ""
	}
}

// Vibrato has a width (narrow, wide) and a speed (slow, fast). What each is in cents and hertz is the sound's to say.
type Vibrato struct {
	Width Width `json:"width"`
	Speed Speed `json:"speed"`
}

// SlideIn reaches a note from some frets away on its string, from no note: the finger lands
// there and goes on to the fret at once.
type SlideIn struct {
	Frets int  `json:"frets"` // at least 1
	From  From `json:"from"`
}

// Note is one note of the line: where and when, what each hand does, how it sounds. The zero
// value of a field is what a plain note has, so that the file leaves it out.
type Note struct {
	At      Time     `json:"at"`     // fractions of a whole note from the beginning
	Len     Time     `json:"len"`    // more than 0
	String  int      `json:"string"` // 1 is the thinnest
	Fret    int      `json:"fret"`   // 0 is the open string
	Finger  Finger   `json:"finger,omitempty"`
	Stroke  Stroke   `json:"stroke,omitempty"`
	Slur    Slur     `json:"slur,omitempty"`
	Bend    *Bend    `json:"bend,omitempty"` // nil for none, as the three below
	Vibrato *Vibrato `json:"vibrato,omitempty"`
	Mute    bool     `json:"mute,omitempty"`  // a dead note
	Palm    bool     `json:"palm,omitempty"`  // the palm of the picking hand lies on the strings at the bridge
	Ghost   bool     `json:"ghost,omitempty"` // so soft that it is felt more than heard
	Rake    bool     `json:"rake,omitempty"`  // muted strings swept before it
	SlideIn *SlideIn `json:"slide_in,omitempty"`
	Barre   bool     `json:"bar,omitempty"` // this finger lies flat with the notes around it
	Accent  bool     `json:"accent,omitempty"`
	Voice   Voice    `json:"voice,omitempty"`
	Meant   []Code   `json:"meant,omitempty"` // finding codes wanted as they are
	Lock    LockSet  `json:"lock,omitempty"`  // fields the player has set

	// Own are the hands that single players of a notebook have set otherwise, by their keys; see For.
	Own  map[string]Hand `json:"own,omitempty"`
	seen *seen           // while the note shows what one player has set
}

// End is when the note stops.
func (n Note) End() Time { return n.At.Add(n.Len) }

// Place is where the note is fretted.
func (n Note) Place() neck.Place { return neck.Place{String: n.String, Fret: n.Fret} }

// Locked says whether the player has set the field.
func (n Note) Locked(f Field) bool { return n.Lock.Has(f) }

// WithHands is the note with a finger and a stroke, each locked where there is one.
func (n Note) WithHands(f Finger, s Stroke) Note {
	n.Finger, n.Stroke = f, s
	n.Lock = n.Lock.With(FieldFinger, f != NoFinger).With(FieldStroke, s != "")
	return n
}

// Means says whether the player wants the finding as it is.
func (n Note) Means(code Code) bool { return slices.Contains(n.Meant, code) }

// Palette is the chosen tones; ok is false when the lick has no key.
func (l Lick) Palette() (p music.Palette, ok bool) {
	if l.Key.Tonic == "" {
		return p, false
	}
	p, err := music.NewPalette(l.Key.Tonic, l.Key.Scale, l.Key.Add, l.Key.Drop)
	return p, err == nil
}

// TonesText names the lick's tones in a few words: "C♯ minor pentatonic, 9, ♭5".
func (l Lick) TonesText() string {
	p, ok := l.Palette()
	if !ok {
		return "no key"
	}
	s := p.Pretty()
	for _, t := range p.Colours() {
		s += ", " + t.Degree.Pretty()
	}
	return s
}

// FileName is the title as a file's name: its letters and digits in any script, empty where it has none. Sharps and
// flats are kept as words, so that "A♭" is a-flat and not the same as "A". Nothing in it needs quoting on any system,
// and it is no longer than one allows.
func (l Lick) FileName() string {
	title := signsAsWords.ReplaceAllStringFunc(l.Title, func(s string) string {
		return s[:1] + "♯"
	})
	s := strings.Map(func(r rune) rune {
		if unicode.IsLetter(r) || unicode.IsDigit(r) || unicode.IsMark(r) || r == '-' {
			return r
		}
		return ' '
	}, strings.ToValidUTF8(signNames.Replace(title), " "))
	s = strings.ToLower(strings.Join(strings.Fields(s), "-"))
	for len(s) > maxFileName {
		_, n := utf8.DecodeLastRuneInString(s)
		s = s[:len(s)-n]
	}
	return strings.Trim(s, "-")
}

// signsAsWords finds a typed sharp behind the letter of a note; signNames are the words for the signs.
var (
	signsAsWords = regexp.MustCompile(`[A-Ga-g]#`)
	signNames    = strings.NewReplacer("♯", " sharp ", "♭", " flat ", "♮", " natural ")
)

// maxFileName is how many bytes of a title a file's name has: a system allows 255 with ending and number.
const maxFileName = 160

// Pitch is what note i sounds before any bend.
func (l Lick) Pitch(i int) music.Pitch {
	n := l.Notes[i]
	return l.Tuning[n.String-1] + music.Pitch(n.Fret)
}

// End is where the last note stops.
func (l Lick) End() Time {
	var end Time
	for _, n := range l.Notes {
		end = Later(end, n.End())
	}
	return end
}

// Length is where the line ends, or where the chords do if there are no notes: what a backing by itself lasts.
func (l Lick) Length() Time {
	end := l.End()
	if len(l.Notes) == 0 {
		for _, c := range l.Chords {
			end = Later(end, c.End())
		}
	}
	return end
}

// Columns groups the notes that start together: each is the range [from, to) of Notes.
func (l Lick) Columns() [][2]int {
	var cols [][2]int
	for i := 0; i < len(l.Notes); {
		j := i + 1
		for j < len(l.Notes) && l.Notes[j].At.Cmp(l.Notes[i].At) == 0 {
			j++
		}
		cols = append(cols, [2]int{i, j})
		i = j
	}
	return cols
}

// Before is the note that was last on note i's string before it, or −1. Whether it still sounds
// when note i begins is another question.
func (l Lick) Before(i int) int {
	for j := i - 1; j >= 0; j-- {
		if l.Notes[j].String == l.Notes[i].String && l.Notes[j].At.Before(l.Notes[i].At) {
			return j
		}
	}
	return -1
}

// Clone is a deep copy.
func (l Lick) Clone() Lick {
	l.Tags, l.Tuning, l.Chords = slices.Clone(l.Tags), slices.Clone(l.Tuning), slices.Clone(l.Chords)
	l.Key.Add, l.Key.Drop = slices.Clone(l.Key.Add), slices.Clone(l.Key.Drop)
	l.Keys, l.Parts = slices.Clone(l.Keys), slices.Clone(l.Parts)
	l.Notes = slices.Clone(l.Notes)
	for i := range l.Notes {
		n := &l.Notes[i]
		n.Meant, n.Lock = slices.Clone(n.Meant), slices.Clone(n.Lock)
		n.Bend, n.Vibrato, n.SlideIn = copied(n.Bend), copied(n.Vibrato), copied(n.SlideIn)
		if n.Bend != nil {
			n.Bend.With = slices.Clone(n.Bend.With)
		}
	}
	return l
}

// copied points at a copy of what a pointer points at.
func copied[T any](p *T) *T {
	if p == nil {
		return nil
	}
	v := *p
	return &v
}

// Milliseconds is the time from a to b at the lick's tempo and feel. A whole note lasts four
// quarters, 240,000 ms at one quarter a minute.
func (l Lick) Milliseconds(a, b Time) float64 {
	return (l.warp(b) - l.warp(a)) * 240000 / l.Tempo
}
