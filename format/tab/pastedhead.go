package tab

import (
	"cmp"
	"fmt"
	"regexp"
	"slices"
	"strconv"
	"strings"

	"ornamen/core/lick"
	"ornamen/core/music"
	"ornamen/core/neck"
)

// Headings that say how the page is played, wherever they stand.
var (
	tuningLine = regexp.MustCompile(`(?i)^\s*(?:tuning|tuned|tune)\s*(?:to|is|in)?\s*[:=]?\s*(.+)$`)
	capoLine   = regexp.MustCompile(`(?i)\bcapo\b(.*)$`)
	tempoLine  = regexp.MustCompile(
		`(?i)(?:tempo|bpm|quarter|♩|^\s*q)\s*[:=]?\s*(\d{2,3}(?:\.\d+)?)\b|\b(\d{2,3}(?:\.\d+)?)\s*bpm\b`,
	)
	meterLine = regexp.MustCompile(
		`(?i)^\s*(?:time(?:\s+signature)?|meter|metre)?\s*[:=]?\s*\(?(\d{1,2}/\d{1,2})(?:\s+time)?\)?\s*$`,
	)
	keyLine   = regexp.MustCompile(`(?i)^\s*key\s*(?:of|is)?\s*[:=]?\s*([A-Ga-g][#b]?.*)$`)
	tonesLine = regexp.MustCompile(`(?i)^\s*(added|dropped)\s*[:=]\s*(.+)$`)
	titleLine = regexp.MustCompile(`(?i)^\s*(?:title|song|name|lick)\s*[:=]\s*(.+)$`)
	partLine  = regexp.MustCompile(`^\s*\[([^\]]{1,40})\]\s*$`)
	rule      = regexp.MustCompile(`^[\s\-=_*#~.+|]*$`)
	feelLine  = regexp.MustCompile(`(?i)^\s*(?:feel\s*[:=]\s*)?\(?(shuffle|swing|swung|straight)(?:\s+feel)?\)?\s*$`)
	lowered   = regexp.MustCompile(
		`(?i)^\s*(?:tuned?\s+)?(?:down\s+)?(half|1/2|a half|one half|whole|a whole|full|1)\s*-?\s*step\s*(?:down|lower)?`,
	)
	words = regexp.MustCompile(`[\pL]`)
)

// headings reads the lines that are no tablature: how it is tuned and counted, its title, and what is none of that,
// which is said. They are read when all systems are, since rows of chords and rhythm look like words.
func (p *pasted) headings() {
	first := -1
	for i, line := range p.text {
		if s, _ := looksLikeString(line); s {
			if first < 0 {
				first = i
			}
			continue
		}
		if text := strings.TrimSpace(line); text != "" && !rule.MatchString(line) {
			p.heading(strings.TrimSpace(p.lines[i]), text, i+1, first < 0)
		}
	}
	if p.l.Key.Tonic == "" {
		p.l.Key.Add, p.l.Key.Drop = nil, nil // tones that are added to no key
	}
}

// tonesWords reads the tones that are added to the key's, or left out: "Added: 9 b5@down".
func (p *pasted) tonesWords(line string) bool {
	m := tonesLine.FindStringSubmatch(line)
	words := strings.FieldsFunc(m[2], func(r rune) bool { return r == ' ' || r == ',' })
	for _, w := range words {
		degree, _, _ := strings.Cut(w, "@")
		if _, err := music.ParseDegree(degree); err != nil {
			return false
		}
	}
	if strings.EqualFold(m[1], "added") {
		p.l.Key.Add = words
	} else {
		p.l.Key.Drop = words
	}
	return true
}

// heading reads one line of words; before says that no tablature stands above it.
func (p *pasted) heading(was, line string, number int, before bool) {
	switch {
	case p.tuningWords(line), p.capoWords(line):
	case titleLine.MatchString(was):
		p.l.Title, p.titled = titleLine.FindStringSubmatch(was)[1], true
	case keyLine.MatchString(line) && p.keyWords(keyLine.FindStringSubmatch(line)[1]):
	case tonesLine.MatchString(was) && p.tonesWords(was):
	case meterLine.MatchString(line):
		m, err := lick.ParseMeter(meterLine.FindStringSubmatch(line)[1])
		if err != nil {
			p.unreadLine(number, was)
			return
		}
		p.l.Meter = m
	case feelLine.MatchString(line):
		if !strings.EqualFold(feelLine.FindStringSubmatch(line)[1], "straight") {
			p.l.Feel = lick.Shuffle
		}
	case tempoLine.MatchString(was):
		m := tempoLine.FindStringSubmatch(was)
		t, _ := strconv.ParseFloat(cmp.Or(m[1], m[2]), 64)
		if t < 10 || t > 400 {
			p.unreadLine(number, was)
			return
		}
		p.l.Tempo = t
	case partLine.MatchString(was):
		tag := strings.ToLower(strings.TrimSpace(partLine.FindStringSubmatch(was)[1]))
		if !slices.Contains(p.l.Tags, tag) && len(p.l.Tags) < 8 {
			p.l.Tags = append(p.l.Tags, tag)
		}
	case before && !p.titled && words.MatchString(was) && len(was) <= 120 &&
		!played.MatchString(line) && !strings.HasSuffix(was, ","):
		p.l.Title, p.titled = strings.Trim(was, " \"“”*=-_#~"), true
	default:
		p.unreadLine(number, was)
	}
}

// capoWords reads "Capo: 2", "capo on the 3rd fret", "no capo".
func (p *pasted) capoWords(line string) bool {
	m := capoLine.FindStringSubmatch(line)
	if m == nil {
		return false
	}
	digits := regexp.MustCompile(`\d{1,2}`).FindString(m[1])
	if n, err := strconv.Atoi(digits); err == nil && n > 0 && n <= 12 {
		p.capo = n
		p.remark("With the capo at fret %d every fret is written so many higher, and what was open is fretted there.",
			n)
	}
	return true
}

// tuningByName are tunings that have a name, thick string first; what only lowers the usual one is read by tuningWords.
var tuningByName = map[string]string{"dadgad": "D A D G A D", "double drop d": "D A D G B D", "open g": "D G D G B D",
	"open d": "D A D F# A D", "open e": "E B E G# B E", "open a": "E A E A C# E", "open c": "C G C G C E"}

// loweredByName are tunings that lower the usual one: all strings by so many half steps, the thickest by as many more.
var loweredByName = map[string]struct{ steps, drop int }{"drop d": {0, 2}, "dropped d": {0, 2}, "drop-d": {0, 2},
	"drop c#": {1, 2}, "drop db": {1, 2}, "drop c": {2, 2}, "drop-c": {2, 2}, "drop b": {3, 2}}

// loweredTo are tunings by what the thickest string is lowered to with all others, in half steps.
var loweredTo = map[string]int{
	"":         0,
	"e":        0,
	"normal":   0,
	"usual":    0,
	"standard": 0,
	"eb":       1,
	"d#":       1,
	"d":        2,
	"c#":       3,
	"db":       3,
	"c":        4,
}

// tuningWords reads a heading on the tuning: by name, as so many steps down, dropped, or as a row of notes.
func (p *pasted) tuningWords(line string) bool {
	text := strings.ToLower(strings.TrimSpace(line))
	m := tuningLine.FindStringSubmatch(line)
	if m != nil {
		text = strings.ToLower(strings.TrimSpace(m[1]))
	}
	text = strings.Trim(strings.TrimSuffix(strings.TrimSuffix(text, " tuning"), "."), "()[] ")
	if low := lowered.FindStringSubmatch(text); low != nil {
		p.steps = 1
		if w := low[1]; w == "whole" || w == "a whole" || w == "full" || w == "1" {
			p.steps = 2
		}
		return true
	}
	if row, ok := tuningByName[text]; ok {
		p.names = strings.Fields(row)
		return true
	}
	if low, ok := loweredByName[text]; ok {
		p.steps, p.drop = max(p.steps, low.steps), low.drop
		return true
	}
	if m == nil {
		return false
	}
	text = strings.TrimSpace(strings.TrimSuffix(strings.TrimSuffix(text, "standard"), "(standard"))
	if low, ok := loweredTo[text]; ok {
		p.steps = cmp.Or(low, p.steps)
		return true
	}
	if t, err := neck.ParseTuning(m[1]); err == nil {
		p.whole = t
		return true
	}
	p.names = noteRow(m[1])
	return p.names != nil
}

// noteRow reads a row of note names, with or without spaces between: E A D G B E, EADGBE, Eb Ab Db Gb Bb Eb. An
// octave after a name is passed over. Nil if it is none of four to eight.
func noteRow(text string) []string {
	var out []string
	for f := range strings.FieldsFuncSeq(text, func(r rune) bool { return strings.ContainsRune(" ,-/|()[]", r) }) {
		if !noteWord.MatchString(f) {
			if len(out) >= neck.MinStrings {
				break
			}
			return nil
		}
		for _, n := range noteName.FindAllString(f, -1) {
			out = append(out, strings.ToUpper(n[:1])+strings.TrimRight(n[1:], "0123456789"))
		}
	}
	if len(out) < neck.MinStrings || len(out) > 8 {
		return nil
	}
	return out
}

var (
	noteWord = regexp.MustCompile(`^(?:[A-Ga-g][#b]?\d?)+$`)
	noteName = regexp.MustCompile(`[A-G][#b]?\d?|[a-g][#]?\d?`)
)

// keyWords reads the key of a heading: Am, F# minor, A minor pentatonic, Bb mixolydian.
func (p *pasted) keyWords(text string) bool {
	m := regexp.MustCompile(`^([A-Ga-g][#b]?)\s*(.*)$`).FindStringSubmatch(strings.TrimSpace(text))
	tonic := strings.ToUpper(m[1][:1]) + m[1][1:]
	scale := strings.ToLower(strings.TrimSpace(strings.Trim(m[2], ".")))
	switch scale {
	case "m", "min", "minor", "-":
		scale = "natural minor"
	case "", "maj", "major":
		scale = "major"
	}
	scale = strings.NewReplacer("min ", "minor ", "m pent", "minor pent", "maj ", "major ").Replace(scale)
	if _, err := music.ParseKey(tonic+" "+scale, nil, nil); err != nil {
		return false
	}
	p.keyed = scale
	p.l.Key.Tonic, p.l.Key.Scale = tonic, scale
	return true
}

// tuneBlock takes the tuning of the first block, by heading, by the labels of its strings, or as usual, and finds
// out which string is on top. Later blocks must have as many strings.
func (p *pasted) tuneBlock(labels []string, line int) error {
	n := len(labels)
	if p.tuned {
		if n != len(p.l.Tuning) {
			return fmt.Errorf("line %d: there are %d string lines, but those above have %d", line+1, n, len(p.l.Tuning))
		}
		return nil
	}
	// Headings above the first system say how its labels are meant.
	for i := range line {
		p.tuningWords(strings.TrimSpace(p.text[i]))
	}
	tuning := slices.Clone(usual(n))
	if tuning == nil {
		return fmt.Errorf("line %d: %d string lines are those of no instrument that is known here", line+1, n)
	}
	p.l.Tuning, p.tuned = tuning, true
	lower := func() {
		for i := range tuning {
			tuning[i] -= music.Pitch(p.steps)
		}
		tuning[n-1] -= music.Pitch(p.drop)
	}
	switch {
	case len(p.whole) == n:
		p.l.Tuning = p.whole
	case len(p.names) == n:
		// Thick string first, as most write it, unless that would be far from the usual tuning.
		p.l.Tuning = named(p.names, tuning)
		if thin := named(reversed(p.names), tuning); away(thin, tuning) < away(p.l.Tuning, tuning) {
			p.l.Tuning = thin
		}
	default:
		lower()
	}
	p.upside = numbered(labels) < 0
	if numbered(labels) != 0 {
		return nil
	}
	top, bottom := named(reversed(labels), p.l.Tuning), named(labels, p.l.Tuning)
	if top == nil {
		return nil // not every string is named
	}
	// The reading with less retuning is meant; of two that need none the thin string is on top.
	a, b := away(top, p.l.Tuning), away(bottom, p.l.Tuning)
	p.upside = b < a
	if labelsAre := top; len(p.names) != n && len(p.whole) != n && p.steps == 0 && p.drop == 0 {
		if p.upside {
			labelsAre = bottom
		}
		if falling(labelsAre) {
			p.l.Tuning = labelsAre
		}
	}
	return nil
}

// numbered is 1 for labels 1 to n from the top, −1 from the bottom, 0 for others.
func numbered(labels []string) int {
	up, down := true, true
	for i, w := range labels {
		up, down = up && w == strconv.Itoa(i+1), down && w == strconv.Itoa(len(labels)-i)
	}
	switch {
	case up:
		return 1
	case down:
		return -1
	}
	return 0
}

func reversed(row []string) []string {
	out := slices.Clone(row)
	slices.Reverse(out)
	return out
}

// named are the pitches of names, the thick string first, each the nearest to that of a tuning, whose thin string is
// first. Nil if one is no name.
func named(names []string, near []music.Pitch) []music.Pitch {
	out := make([]music.Pitch, len(names))
	for i, w := range names {
		if w == "" {
			return nil
		}
		n, err := music.ParseName(strings.ToUpper(w[:1]) + w[1:])
		if err != nil {
			return nil
		}
		k := len(names) - 1 - i
		out[k] = near[k] + music.Pitch((n.Class()-near[k].Class()+18)%12-6)
	}
	return out
}

// away is by how many half steps a tuning is another one.
func away(a, b []music.Pitch) (sum int) {
	for i := range a {
		sum += max(int(a[i]-b[i]), int(b[i]-a[i]))
	}
	return sum
}

func falling(t []music.Pitch) bool {
	for i := 1; i < len(t); i++ {
		if t[i] >= t[i-1] {
			return false
		}
	}
	return true
}
