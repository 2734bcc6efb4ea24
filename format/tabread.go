package format

import (
	"errors"
	"fmt"
	"regexp"
	"slices"
	"strconv"
	"strings"

	"ornamen/core/lick"
	"ornamen/core/music"
	"ornamen/core/neck"
)

// DecodeTab reads text tab: its own, and plain tablature of string lines, thin
// string on top. Without a length row every time is an eighth.
func DecodeTab(data []byte) (lick.Lick, error) {
	if len(data) > lick.MaxBytes {
		return lick.Lick{}, errors.New("the tab is too large")
	}
	r := tabReader{l: lick.New(), lastOn: map[int]int{}}
	lines := strings.Split(strings.ReplaceAll(string(data), "\r\n", "\n"), "\n")
	for i := 0; i < len(lines); {
		end := i
		for end < len(lines) && stringLine.MatchString(lines[end]) {
			end++
		}
		if end-i < neck.MinStrings {
			if err := r.header(lines[i]); err != nil {
				return lick.Lick{}, fmt.Errorf("line %d: %w", i+1, err)
			}
			i++
			continue
		}
		if err := r.system(lines, i, end); err != nil {
			return lick.Lick{}, err
		}
		i = end
	}
	if len(r.l.Notes) == 0 {
		return lick.Lick{}, errors.New("there is no tab here: it needs a line for each string, such as E|--5--7--|")
	}
	// Reading the file back checks all that a lick file must keep.
	return lick.Parse(r.l.Encode())
}

// stringLine is a label, a bar line and dashes with signs between them.
var stringLine = regexp.MustCompile(`^\s*[A-Ga-g]?[#b]?[0-9]?\s*\|[-0-9hpbrcxS/\\~>|. ()]*-[-0-9hpbrcxS/\\~>|. ()]*$`)

// sign is one note of a string line: a slur, perhaps x, the fret, what follows.
var sign = regexp.MustCompile(`([hpS/\\]?)(x?)(\d+)(?:(p?)b(\d+|c)(r\d*)?)?(~{0,2})(>?)|x`)

type tabReader struct {
	l      lick.Lick
	at     lick.Time
	lastOn map[int]int // string → last note
	tuned  bool
}

func (r *tabReader) header(line string) (err error) {
	name, value, ok := strings.Cut(line, ":")
	if !ok {
		return nil
	}
	value = strings.TrimSpace(value)
	switch strings.TrimSpace(name) {
	case "Title":
		r.l.Title = value
	case "Key":
		r.l.Key.Tonic, r.l.Key.Scale, _ = strings.Cut(value, " ")
	case "Added":
		r.l.Key.Add = strings.Fields(value)
	case "Dropped":
		r.l.Key.Drop = strings.Fields(value)
	case "Tempo":
		r.l.Tempo, err = strconv.ParseFloat(value, 64)
		if err != nil {
			return fmt.Errorf("tempo %q is no number", value)
		}
	case "Meter":
		r.l.Meter, err = lick.ParseMeter(value)
	case "Feel":
		r.l.Feel = lick.Feel(value)
	case "Pick-up":
		r.l.Pickup, err = lick.ParseTime(value)
	case "Loop":
		r.l.Loop = value == "yes"
	case "Tuning":
		r.l.Tuning, r.tuned = nil, true
		for _, w := range strings.Fields(value) {
			p, err := music.ParsePitch(w)
			if err != nil {
				return err
			}
			r.l.Tuning = append(r.l.Tuning, p)
		}
	}
	return err
}

// mark is a sign found at a column of text.
type mark struct {
	col, str int
	parts    []string
}

func (r *tabReader) system(lines []string, from, to int) error {
	if n := to - from; n != len(r.l.Tuning) {
		if r.tuned {
			return fmt.Errorf("line %d: there are %d string lines, but the tuning has %d", from+1, n, len(r.l.Tuning))
		}
		if n != 6 {
			return fmt.Errorf("line %d: %d string lines need a Tuning line above them, thin string first", from+1, n)
		}
	}
	var marks []mark
	for i := from; i < to; i++ {
		body := strings.IndexByte(lines[i], '|')
		text := strings.Repeat(" ", body) + lines[i][body:]
		for _, m := range sign.FindAllStringSubmatchIndex(text, -1) {
			marks = append(marks, mark{col: m[0], str: i - from + 1, parts: groups(text, m)})
		}
	}
	rows := map[string]string{}
	for i := to; i < min(to+3, len(lines)); i++ {
		name, _, _ := strings.Cut(strings.TrimSpace(lines[i]), " ")
		rows[name] = lines[i]
	}
	if rows["length"] == "" {
		// Tab by other hands lines up the frets, ours the signs before them.
		for i := range marks {
			marks[i].col += len(marks[i].parts[1]) + len(marks[i].parts[2])
		}
	}
	slices.SortStableFunc(marks, func(a, b mark) int { return a.col - b.col })
	for len(marks) > 0 {
		n := 1
		for n < len(marks) && marks[n].col == marks[0].col {
			n++
		}
		if err := r.column(marks[:n], rows); err != nil {
			return fmt.Errorf("line %d, column %d: %w", from+1, marks[0].col+1, err)
		}
		marks = marks[n:]
	}
	return nil
}

func groups(text string, m []int) []string {
	out := make([]string, len(m)/2)
	for g := range out {
		if m[2*g] >= 0 {
			out[g] = text[m[2*g]:m[2*g+1]]
		}
	}
	return out
}

// wordAt is the word of a row that starts at a column.
func wordAt(row string, col int) string {
	if col >= len(row) || row[col] == ' ' || col > 0 && row[col-1] != ' ' {
		return ""
	}
	w, _, _ := strings.Cut(row[col:], " ")
	return w
}

// values spreads a row's word over the notes of a column.
func values(word string, n int) ([]string, error) {
	v := strings.Split(word, ",")
	if len(v) == 1 {
		for len(v) < n {
			v = append(v, v[0])
		}
	}
	if len(v) != n {
		return nil, fmt.Errorf("%q has %d values for %d notes", word, len(v), n)
	}
	return v, nil
}

func (r *tabReader) column(marks []mark, rows map[string]string) error {
	// Rows give a chord's values from the thick string up.
	slices.SortStableFunc(marks, func(a, b mark) int { return b.str - a.str })
	lens, step, err := r.lengths(wordAt(rows["length"], marks[0].col), len(marks))
	if err != nil {
		return err
	}
	fingers, err := values(wordAt(rows["finger"], marks[0].col), len(marks))
	if err != nil {
		return err
	}
	strokes, err := values(wordAt(rows["stroke"], marks[0].col), len(marks))
	if err != nil {
		return err
	}
	for k, m := range marks {
		n := lick.Note{At: r.at, Len: lens[k], String: m.str}
		if err := r.note(&n, m.parts); err != nil {
			return err
		}
		if f := fingers[k]; f != "" && f != "." {
			if n.Finger, err = lick.ParseFinger(f); err != nil {
				return err
			}
		}
		for s, w := range strokeSign {
			if w == strokes[k] {
				n.Stroke = s
			}
		}
		r.lastOn[m.str] = len(r.l.Notes)
		r.l.Notes = append(r.l.Notes, n)
	}
	r.at = r.at.Add(step)
	if len(r.l.Notes) > lick.MaxNotes {
		return fmt.Errorf("a lick has at most %d notes", lick.MaxNotes)
	}
	return nil
}

func (r *tabReader) lengths(word string, n int) (lens []lick.Time, step lick.Time, err error) {
	if word == "" {
		word = "1/8"
	}
	if start, rest, ok := strings.Cut(word, "_"); ok {
		if r.at, err = lick.ParseTime(start); err != nil {
			return nil, step, err
		}
		word = rest
	}
	word, after, ok := strings.Cut(word, "@")
	parts, err := values(word, n)
	if err != nil {
		return nil, step, err
	}
	for _, p := range parts {
		t, err := lick.ParseTime(p)
		if err != nil {
			return nil, step, err
		}
		lens = append(lens, t)
	}
	if !ok {
		return lens, lens[0], nil
	}
	step, err = lick.ParseTime(after)
	return lens, step, err
}

func (r *tabReader) note(n *lick.Note, parts []string) (err error) {
	if parts[0] == "x" {
		n.Mute = true
		return nil
	}
	if len(parts[3]) > 3 {
		return fmt.Errorf("fret %s… is none", parts[3][:3])
	}
	n.Fret, _ = strconv.Atoi(parts[3])
	n.Mute, n.Accent = parts[2] == "x", parts[8] == ">"
	_, has := r.lastOn[n.String]
	switch parts[1] {
	case "h":
		n.Slur = lick.Hammer
	case "p":
		n.Slur = lick.Pull
	case "S":
		n.Slur = lick.Shift
	case "/", `\`:
		switch {
		case has:
			n.Slur = lick.Slide
		case parts[1] == "/":
			n.SlideIn = &lick.SlideIn{Frets: 1, From: "below"}
		default:
			n.SlideIn = &lick.SlideIn{Frets: 1, From: "above"}
		}
	}
	if to := parts[5]; to != "" {
		if n.Bend, err = bendTo(n.Fret, to, parts[4] == "p", parts[6] != ""); err != nil {
			return err
		}
	}
	if v := parts[7]; v != "" {
		n.Vibrato = &lick.Vibrato{Width: "narrow", Speed: "slow"}
		if v == "~~" {
			n.Vibrato.Width = "wide"
		}
	}
	return nil
}

func bendTo(fret int, to string, pre, release bool) (*lick.Bend, error) {
	b := &lick.Bend{Shape: lick.BendUp}
	switch {
	case pre && release:
		b.Shape = lick.PrebendReleased
	case pre:
		b.Shape = lick.Prebend
	case release:
		b.Shape = lick.BendRelease
	}
	if to == "c" {
		b.Semitones = 0.5
		return b, nil
	}
	target, err := strconv.Atoi(to)
	if err != nil || target <= fret || target > fret+4 {
		return nil, fmt.Errorf("a bend from fret %d to %s is none: it goes one to four frets up", fret, to)
	}
	b.Semitones = float64(target - fret)
	return b, nil
}
