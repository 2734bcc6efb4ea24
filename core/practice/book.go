package practice

import (
	"cmp"
	"maps"
	"slices"
	"strings"
	"sync"
)

// partKey names a part of a lick in a log.
type partKey struct {
	lick uint
	part string
}

// Book is a settled log with what is looked up in it at every round: the entries of each part, the words about
// the hand, the days. It is made once and grows by what is added, so that a log of ten years costs a round no more
// than one of a week.
type Book struct {
	Entries []Entry // settled: the oldest first
	parts   map[partKey][]Entry
	words   []Entry // about the hand
	out     map[uint]bool
	days    []Point
	lastEar Date
	last    map[uint]Date // that a lick was played
	known   *memory
}

// memory is what was read of parts before: a ladder of ten years is not climbed anew for every key press. Books that
// grew out of each other share it.
type memory struct {
	mu    sync.Mutex
	parts map[memoryKey]remembered
}

// memoryKey names a part's entries as far as they go, and what is asked of them.
type memoryKey struct {
	partKey
	entries         int
	last            int64
	tempo           float64
	clean           int
	ceiling, wanted float64
}

// remembered is where the ladder stood after them, and how long the part may wait.
type remembered struct {
	climber climber
	wait    int
}

// mostRemembered bounds the memory; then it is forgotten at once.
const mostRemembered = 10_000

// read is what a part's entries come to.
func (b *Book) read(p Part, wanted float64, lick uint) remembered {
	entries := b.Part(lick, p.Name)
	key := memoryKey{partKey: partKey{lick, p.Name}, entries: len(entries), ceiling: p.Ceiling, wanted: wanted}
	if n := len(entries); n > 0 {
		e := entries[n-1]
		key.last, key.tempo, key.clean = e.Time.UnixNano(), e.Tempo, e.Clean
	}
	b.known.mu.Lock()
	defer b.known.mu.Unlock()
	if r, ok := b.known.parts[key]; ok {
		return r
	}
	if len(b.known.parts) >= mostRemembered {
		clear(b.known.parts)
	}
	r := remembered{climbed(p, wanted, entries), Wait(entries)}
	b.known.parts[key] = r
	return r
}

// NewBook reads a settled log.
func NewBook(log []Entry) *Book {
	b := &Book{parts: map[partKey][]Entry{}, out: map[uint]bool{}, last: map[uint]Date{},
		known: &memory{parts: map[memoryKey]remembered{}}}
	b.Entries = make([]Entry, 0, len(log)+roomToGrow)
	for _, e := range log {
		b.add(e)
	}
	return b
}

// With is the book with an entry more that is not older than the others; the book itself stays as it is, so that
// others may go on reading it.
func (b *Book) With(e Entry) *Book {
	out := *b
	out.parts, out.out, out.last = maps.Clone(b.parts), maps.Clone(b.out), maps.Clone(b.last)
	out.days, out.words = slices.Clone(b.days), slices.Clone(b.words)
	key := partKey{e.Lick, e.Part}
	out.parts[key] = slices.Clip(out.parts[key])
	out.add(e)
	return &out
}

// add takes in an entry that is not older than the others.
func (b *Book) add(e Entry) {
	b.Entries = append(b.Entries, e)
	day := DateOf(e.Time)
	b.days = addDay(b.days, day, e)
	switch {
	case e.Kind == OutOfPractice || e.Kind == TakenIn:
		b.out[e.Lick] = e.Kind == OutOfPractice
		return
	case e.Clean+e.Missed > 0 || e.Kind != "":
		key := partKey{e.Lick, e.Part}
		b.parts[key] = append(b.parts[key], e)
	}
	if e.Comfort != "" {
		b.words = append(b.words, e)
	}
	if e.Clean+e.Missed > 0 {
		b.last[e.Lick] = day
	}
	if e.Kind == Ear || strings.HasPrefix(e.Part, "bend ") { // a bend that was tried by ear has its own name
		b.lastEar = day
	}
}

// roomToGrow is for how many entries more a book has room at once.
const roomToGrow = 256

// Part are the entries of a part: its rounds, warm-ups among them, and the words about it.
func (b *Book) Part(lick uint, part string) []Entry { return b.parts[partKey{lick, part}] }

// Climb says where a part stands on its ladder.
func (b *Book) Climb(p Part, wanted float64, lick uint, today Date) Rung {
	return b.read(p, wanted, lick).climber.on(today)
}

// Sore says whether the last word about the hand is that it hurts.
func (b *Book) Sore() bool { return Sore(b.words) }

// KeptOut says whether a lick is kept out of practice.
func (b *Book) KeptOut(lick uint) bool { return b.out[lick] }

// Days are the days of practice, of all parts together.
func (b *Book) Days() []Point { return b.days }

// Licks are the licks that were played, those longest ago first.
func (b *Book) Licks() []uint {
	var out []uint
	for lick := range b.last {
		if lick != 0 {
			out = append(out, lick)
		}
	}
	slices.SortFunc(out, func(x, y uint) int { return cmp.Or(int(b.last[x]-b.last[y]), int(x)-int(y)) })
	return out
}

// Until is the book as it was before a day: without what was played on it or later. Words about the hand, which
// count from the moment they are said, stay.
func (b *Book) Until(day Date) *Book {
	k := len(b.Entries)
	for k > 0 && DateOf(b.Entries[k-1].Time) >= day {
		k--
	}
	out := *b
	out.Entries, out.parts = b.Entries[:k], nil
	touched := map[partKey][]Entry{}
	for _, e := range b.Entries[k:] {
		key := partKey{e.Lick, e.Part}
		if _, done := touched[key]; done {
			continue
		}
		all := b.parts[key]
		n := len(all)
		for n > 0 && DateOf(all[n-1].Time) >= day {
			n--
		}
		touched[key] = all[:n:n]
	}
	out.parts = b.parts
	if len(touched) > 0 {
		out.parts = maps.Clone(b.parts)
		maps.Copy(out.parts, touched)
	}
	if out.lastEar >= day {
		out.lastEar = 0
		for _, e := range slices.Backward(out.Entries) {
			if e.Kind == Ear {
				out.lastEar = DateOf(e.Time)
				break
			}
		}
	}
	return &out
}
