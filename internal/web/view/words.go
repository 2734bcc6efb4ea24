package view

import (
	"cmp"
	"fmt"
	"net/url"
	"strings"

	"ornamen/core/judge"
	"ornamen/core/lick"
	"ornamen/core/run"
)

// TitleOf is a lick's title, or what it is called without one.
func TitleOf(l lick.Lick) string {
	if strings.TrimSpace(l.Title) == "" {
		return "Untitled"
	}
	return l.Title
}

// lengthNames names note lengths as players count them.
var lengthNames = map[lick.Time]string{
	lick.NewTime(1, 1): "wholes", lick.NewTime(1, 2): "halves", lick.NewTime(1, 4): "quarters",
	lick.NewTime(1, 8): "eighths", lick.NewTime(1, 12): "triplets", lick.NewTime(1, 16): "sixteenths",
	lick.NewTime(1, 20): "quintuplets", lick.NewTime(1, 24): "sextuplets", lick.NewTime(1, 28): "septuplets",
	lick.NewTime(1, 32): "thirty-seconds",
}

// usualLength is the length that most notes have.
// Of two that are as frequent it is the one that reaches that number first.
func usualLength(l lick.Lick) (lick.Time, bool) {
	counts := map[lick.Time]int{}
	var best lick.Time
	for _, n := range l.Notes {
		if counts[n.Len]++; counts[n.Len] > counts[best] {
			best = n.Len
		}
	}
	return best, len(l.Notes) > 0
}

// CountOf says how a lick is counted: "sixteenths, shuffle, loops".
func CountOf(l lick.Lick) string {
	var parts []string
	if usual, ok := usualLength(l); ok {
		parts = append(parts, cmp.Or(lengthNames[usual], "notes of "+usual.String()))
	}
	if l.Feel == lick.Shuffle {
		parts = append(parts, "shuffle")
	}
	if l.Meter != (lick.Meter{Beats: 4, Unit: 4}) {
		parts = append(parts, l.Meter.String())
	}
	if l.Loop {
		parts = append(parts, "loops")
	}
	return strings.Join(parts, ", ")
}

// noteNumbers writes notes: "12 → 13", "4", "4, 7 and 3 more".
// Two notes are a move, from one to the other; three or more in a row are written as a stretch.
func noteNumbers(notes []int) string {
	switch len(notes) {
	case 0:
		return ""
	case 1:
		return fmt.Sprint(notes[0])
	case 2:
		return fmt.Sprintf("%d → %d", notes[0], notes[1])
	}
	if run := notes[len(notes)-1] - notes[0]; run == len(notes)-1 {
		return fmt.Sprintf("%d to %d", notes[0], notes[len(notes)-1])
	}
	if len(notes) <= 4 {
		return strings.Trim(strings.Join(strings.Fields(fmt.Sprint(notes)), ", "), "[]")
	}
	return fmt.Sprintf("%d, %d, %d and %d more", notes[0], notes[1], notes[2], len(notes)-3)
}

// FineLine says in one sentence what is in order.
// It stands under the findings, so that a player also reads what needs no work.
func FineLine(r *judge.Report) string {
	bad, moves := 0, 0
	for _, n := range r.Notes {
		if len(n.Loads) == 0 {
			continue
		}
		moves++
		if n.Severity > judge.Flows {
			bad++
		}
	}
	if moves == 0 {
		return ""
	}
	s := fmt.Sprintf("All %d moves flow.", moves)
	switch {
	case bad == moves:
		return ""
	case moves == 1:
		s = "The move flows."
	case bad > 0 && moves-bad == 1:
		s = "The other move flows."
	case bad > 0:
		s = fmt.Sprintf("%d other moves flow.", moves-bad)
	}
	if r.Reach > 0 {
		s += fmt.Sprintf(" Widest hold %.0f mm.", r.Reach)
	}
	switch c := r.StringChanges.Inside + r.StringChanges.Outside; {
	case c > 0 && r.Exits == "down":
		s += " Every string change leaves on a downstroke."
	case c > 0 && r.Exits == "up":
		s += " Every string change leaves on an upstroke."
	}
	return s
}

// VerdictLine says in one sentence how far a line is clean, or why there is no such tempo. A line can break with a
// ceiling above its tempo: its moves are clean, and something else (a bend off the edge) is not.
func VerdictLine(l lick.Lick, r *judge.Report) string {
	switch {
	case len(l.Notes) == 0:
		return "Put the first note down: click the neck, or type a fret in the ledger."
	case r.Ceiling > 0 && r.Verdict == judge.Breaks && float64(r.Ceiling) >= r.Tempo:
		return fmt.Sprintf("Every move is clean up to %d.", r.Ceiling.Whole())
	case r.Ceiling > 0 && len(r.Bottleneck) > 1:
		return fmt.Sprintf("Clean up to %d; %s sets it.", r.Ceiling.Whole(), noteNumbers(r.Bottleneck))
	case r.Ceiling > 0:
		return fmt.Sprintf("Clean up to %d; note %s sets it.", r.Ceiling.Whole(), noteNumbers(r.Bottleneck))
	case r.Verdict == judge.Breaks:
		return "Not at any tempo, as it stands."
	}
	return "Nothing moves, so there is no ceiling."
}

// PrettySigns turns # and b after a note letter or before a degree into music signs: "Bb" and
// "b7", but not the b of "blues" or "bends".
func PrettySigns(s string) string {
	var b strings.Builder
	for i, r := range s {
		after := i > 0 && s[i-1] >= 'A' && s[i-1] <= 'G'
		switch {
		case r == '#':
			b.WriteString("♯")
		case r == 'b' && (after || i+1 < len(s) && s[i+1] >= '0' && s[i+1] <= '9'):
			b.WriteString("♭")
		default:
			b.WriteRune(r)
		}
	}
	return b.String()
}

// SentenceWord is a verdict at the head of a sentence.
func SentenceWord(s judge.Severity) string {
	return map[judge.Severity]string{judge.Flows: "Flows", judge.Tight: "Tight", judge.Breaks: "Breaks"}[s]
}

// CeilingWord is a ceiling as a row shows it. A whole tempo, rounded down, as a ceiling is one that is still clean.
func CeilingWord(r *judge.Report) string {
	switch {
	case r.Ceiling > 0:
		return fmt.Sprint(r.Ceiling.Whole())
	case r.Verdict == judge.Breaks:
		return "at no tempo"
	}
	return "at any tempo"
}

// StringChangeWords counts the string changes: "3 inside, 10 outside; leaves on down and up".
// Exits are said where there is a change that leaves the strings.
func StringChangeWords(r *judge.Report) string {
	parts := r.StringChanges.Words()
	if len(parts) == 0 {
		return "no string changes"
	}
	s := strings.Join(parts, ", ")
	switch r.Exits {
	case "down", "up":
		s += "; leaves on " + r.Exits
	case "mixed":
		s += "; leaves on down and up"
	}
	return s
}

// OrNone says "none" for what is empty.
func OrNone(s string) string { return cmp.Or(s, "none") }

// ShortString names a string in the ledger.
func ShortString(l lick.Lick, s int) string { return l.StringName(s) }

// Choice is one of several links of which one is on.
type Choice struct {
	Name, Link string
	On         bool
}

// RunsURL is the address of a recipe on Runs, whose words are its parameters.
func RunsURL(r run.Recipe) string {
	q := url.Values{}
	for _, name := range run.Names() {
		if v := r.Get(name); v != "" {
			q.Set(name, v)
		}
	}
	return "/runs?" + q.Encode()
}
