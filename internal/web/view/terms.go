package view

import (
	"fmt"
	"html/template"
	"regexp"
	"slices"
	"strings"
)

// terms are the words that a newcomer may not know, each with one sentence that says what it means. They explain
// themselves where they stand (Explain). A word is written in small letters, and is found with either at its beginning.
var terms = map[string]string{
	"clean up to": "The ceiling: the fastest tempo at which every move still has the time that it needs, for " +
		"this hand and this guitar.",
	"ceiling": "The fastest tempo at which every move still has the time that it needs, for this hand " +
		"and this guitar.",
	"best possible": "The ceiling that the same frets and strings could have, with the best fingers and strokes for them.",
	"bottleneck":    "The one move that is the first to fail when the line gets faster.",
	"held back by":  "The one move that is the first to fail when the line gets faster.",
	"inside": "An inside change: the pick turns back between the two strings, as on an upstroke and " +
		"then a downstroke on the next thinner string.",
	"outside": "An outside change: the pick goes round the two strings, as on a downstroke and then an " +
		"upstroke on the next thinner string.",
	"sweep":     "One stroke that is carried on from a string into the next one.",
	"sweeps":    "A sweep is one stroke that is carried on from a string into the next one.",
	"against":   "The same stroke twice, away from the next string: the pick has to come back over both.",
	"economy":   "Economy picking: where the stroke already moves towards the next string, it goes on into it.",
	"alternate": "Alternate picking: down and up in turn, whatever the strings.",
	"legato":    "Few notes are picked, the others are hammered on or pulled off.",
	"leaves on": "The stroke after which the pick leaves a string for another one. If it is always the " +
		"same, one slant of the pick serves the whole line.",
	"pick angles": "The slant that lets the pick clear the strings after a downstroke, or after an upstroke: " +
		"it cannot do both at once.",
	"pick angle": "The slant that lets the pick clear the strings after a downstroke, or after an upstroke: " +
		"it cannot do both at once.",
	"the cell": "A cell is a small figure that is repeated from one tone of the scale after another; 1 2 " +
		"3 is three tones on.",
	"the tail":     "What is played after the last cell, to end the run.",
	"land on":      "The tone that the run ends on, and its beat.",
	"roll":         "One finger lies on two strings and tips from the one to the other.",
	"shift":        "The whole hand moves along the neck.",
	"widest hold":  "The widest that the hand has to be open, measured along the neck.",
	"clash":        "A note a half step above a tone of the chord that rubs against it while both sound.",
	"enclosure":    "A chord’s tone reached from both its neighbours, above and below.",
	"anticipation": "A note that already belongs to the chord that comes.",
	"pushed":       "Played shortly before its beat, as part of what comes.",
	"ladder":       "The tempos of a part: each time it is clean three times in a row the next one is faster.",
}

// termPattern finds a term as a whole word.
var termPattern = func() *regexp.Regexp {
	var words []string
	for w := range terms {
		words = append(words, w)
	}
	slices.SortFunc(words, func(a, b string) int { return len(b) - len(a) }) // the longest is meant
	return regexp.MustCompile(`(?i)\b(?:` + strings.Join(words, "|") + `)\b`)
}()

// Explain writes a sentence so that the first of each word of ours in it says what it means, by pointer,
// focus or tap. What is no term is escaped and stays as it is.
func Explain(text any) template.HTML {
	s := fmt.Sprint(text)
	var b strings.Builder
	seen, last := map[string]bool{}, 0
	for _, at := range termPattern.FindAllStringIndex(s, -1) {
		word := s[at[0]:at[1]]
		says := terms[strings.ToLower(word)]
		if seen[says] {
			continue
		}
		seen[says] = true
		b.WriteString(template.HTMLEscapeString(s[last:at[0]]))
		fmt.Fprintf(&b, `<button type="button" class="term" data-bs-title="%s">%s</button>`,
			template.HTMLEscapeString(says), template.HTMLEscapeString(word))
		last = at[1]
	}
	b.WriteString(template.HTMLEscapeString(s[last:]))
	return template.HTML(b.String())
}
