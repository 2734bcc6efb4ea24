package practice

import (
	"bufio"
	"bytes"
	"encoding/csv"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"math"
	"slices"
	"strconv"
	"strings"
	"time"

	"ornamen/core/lick"
)

// Comfort is how it felt. An entry with a comfort and no rounds is a word about the hand.
type Comfort string

// The comforts; Hurts stops, and Well says that it no longer does.
const (
	Easy  Comfort = "easy"
	Fine  Comfort = "fine"
	Tense Comfort = "tense"
	Hurts Comfort = "hurts"
	Well  Comfort = "well"
)

// Entry is one line of the log: rounds of a part at a tempo. Its title stays readable when the lick is gone.
//
// The four measures are the model's for this part on the day, so that the calibration needs
// neither the lick nor the hand that it was judged by.
type Entry struct {
	Lick     uint      `json:"lick"` // 0 for a word about the hand alone
	Title    string    `json:"title"`
	Revision uint      `json:"revision"`
	Part     string    `json:"part"` // its name; empty for the whole
	From     int       `json:"from"` // notes, from 1
	To       int       `json:"to"`
	Tempo    float64   `json:"tempo"`
	Clean    int       `json:"clean"` // rounds
	Missed   int       `json:"missed"`
	Note     int       `json:"note,omitempty"` // that was missed, from 1
	Minutes  float64   `json:"minutes"`
	Comfort  Comfort   `json:"comfort,omitempty"`
	Kind     Kind      `json:"kind,omitempty"`     // empty for rounds; warm-up, or a word about the part
	Picking  float64   `json:"picking,omitempty"`  // ceilings of the part at the model's speeds, for the calibration
	Fretting float64   `json:"fretting,omitempty"` // 0 where that hand has nothing to do
	Reach    float64   `json:"reach,omitempty"`    // the model hand's limit over the widest stretch; 0 for none
	Bends    float64   `json:"bends,omitempty"`    // what the model's fingers hold over the hardest bend; 0 for none
	Move     string    `json:"move,omitempty"`     // the kind of the part's hardest move
	Time     time.Time `json:"time"`
}

// Limits of a log that is read. A ladder is climbed round by round, so that rounds must be few;
// names and measures are only beyond what this program writes.
const (
	maxEntries = 200_000
	maxRounds  = 10_000 // of one entry
	maxMinutes = 24 * 60
	maxTempo   = 1000
	maxName    = 5_000 // letters of its names together
	maxMeasure = 1e9
	maxKey     = 1_000_000_000 // of licks and revisions: beyond what any notebook counts to
)

// Check says in one sentence what is wrong with an entry: it may come from a file.
func (e Entry) Check() error {
	if e.Time.IsZero() {
		return errors.New("it has no time")
	}
	if y := e.Time.Year(); y < 1900 || y > 9999 {
		return fmt.Errorf("%s is no day to have practised on", e.Time.Format(time.DateOnly))
	}
	if e.Lick > maxKey || e.Revision > maxKey {
		return errors.New("it names a lick or a revision that no notebook has")
	}
	for _, x := range []struct{ value, most float64 }{
		{e.Tempo, maxTempo}, {e.Minutes, maxMinutes}, {float64(e.Clean), maxRounds}, {float64(e.Missed), maxRounds},
		{float64(e.From), lick.MaxNotes}, {float64(e.To), lick.MaxNotes}, {float64(e.Note), lick.MaxNotes},
		{e.Picking, maxMeasure}, {e.Fretting, maxMeasure}, {e.Reach, maxMeasure}, {e.Bends, maxMeasure},
	} {
		if !(x.value >= 0 && x.value <= x.most) {
			return fmt.Errorf("the entry of %s has a number that cannot be", e.Time.Format(time.DateTime))
		}
	}
	if len(e.Title)+len(e.Part)+len(e.Move) > maxName {
		return fmt.Errorf("the entry of %s has a name that is too long", e.Time.Format(time.DateTime))
	}
	if !slices.Contains(entryKinds, e.Kind) {
		return fmt.Errorf("kind %q is none of a log: leave it out, or write warm-up, ear, set, raised, done, up, out or in",
			e.Kind)
	}
	if (e.Kind == SetTempo || e.Kind == Raised) && e.Tempo < slowest {
		return fmt.Errorf("the entry of %s sets no tempo from %d on", e.Time.Format(time.DateTime), slowest)
	}
	if !slices.Contains([]Comfort{"", Easy, Fine, Tense, Hurts, Well}, e.Comfort) {
		return fmt.Errorf("comfort %q is none: use easy, fine, tense, hurts or well", e.Comfort)
	}
	return nil
}

// columns are the CSV's, in their order.
var columns = []string{"time", "lick", "title", "revision", "part", "from", "to", "tempo", "clean", "missed", "note",
	"minutes", "comfort", "kind", "picking", "fretting", "reach", "bends", "move"}

// WriteCSV writes a log as CSV (RFC 4180) with a head line.
func WriteCSV(w io.Writer, log []Entry) error {
	c := csv.NewWriter(w)
	if err := c.Write(columns); err != nil {
		return err
	}
	number := func(x float64) string { return strconv.FormatFloat(x, 'f', -1, 64) }
	for _, e := range log {
		err := c.Write([]string{e.Time.Format(time.RFC3339), strconv.FormatUint(uint64(e.Lick), 10), e.Title,
			strconv.FormatUint(uint64(e.Revision), 10), e.Part, strconv.Itoa(e.From), strconv.Itoa(e.To),
			number(e.Tempo), strconv.Itoa(e.Clean), strconv.Itoa(e.Missed), strconv.Itoa(e.Note), number(e.Minutes),
			string(e.Comfort), string(e.Kind), number(e.Picking), number(e.Fretting), number(e.Reach), number(e.Bends), e.Move})
		if err != nil {
			return err
		}
	}
	c.Flush()
	return c.Error()
}

// ReadCSV reads such a log, its columns in any order, line by line. An error names the line.
// Columns that are missing are empty, but for time, lick, tempo, clean and missed; those that
// are not known are passed over, as a spreadsheet adds its own. Columns may be parted by semicolons or tabs, as
// spreadsheets write them where the comma parts a number; see comma.
func ReadCSV(r io.Reader) ([]Entry, error) {
	b := bufio.NewReader(r)
	c := csv.NewReader(b)
	c.Comma = comma(b)
	head, err := c.Read()
	if err != nil {
		return nil, errors.New("that is no log: its first line names no columns")
	}
	at := map[string]int{}
	for i, name := range head {
		at[strings.ToLower(strings.TrimSpace(name))] = i
	}
	for _, need := range []string{"time", "lick", "tempo", "clean", "missed"} {
		if _, ok := at[need]; !ok {
			return nil, fmt.Errorf("the log has no column %q", need)
		}
	}
	var out []Entry
	for {
		row, err := c.Read()
		if errors.Is(err, io.EOF) {
			return out, nil
		}
		var bad *csv.ParseError
		switch {
		case errors.As(err, &bad) && errors.Is(err, csv.ErrFieldCount):
			return nil, fmt.Errorf("line %d: it has %d columns, the first line %d", bad.StartLine, len(row), len(head))
		case errors.As(err, &bad):
			return nil, fmt.Errorf("line %d: a quotation mark is not closed, or stands where none may", bad.StartLine)
		case err != nil:
			return nil, err
		}
		line, _ := c.FieldPos(0)
		e, err := entryOf(row, at, c.Comma != ',')
		if err == nil {
			err = e.Check()
		}
		if err != nil {
			return nil, fmt.Errorf("line %d: %w", line, err)
		}
		if len(out) == maxEntries {
			return nil, fmt.Errorf("a log has at most %d entries", maxEntries)
		}
		out = append(out, e)
	}
}

// comma is what parts the columns of a table, as its first line tells: the most frequent of comma, semicolon and tab.
func comma(b *bufio.Reader) rune {
	head, _ := b.Peek(b.Size())
	head, _, _ = bytes.Cut(head, []byte("\n"))
	best := ','
	for _, c := range ";\t" {
		if bytes.Count(head, []byte(string(c))) > bytes.Count(head, []byte(string(best))) {
			best = c
		}
	}
	return best
}

// entryOf reads one line of the CSV. decimalComma says that a number may have a comma for its point.
func entryOf(row []string, at map[string]int, decimalComma bool) (e Entry, err error) {
	text := func(name string) string {
		if i, ok := at[name]; ok {
			return row[i]
		}
		return ""
	}
	bad := func(name, what string) {
		if err == nil {
			err = fmt.Errorf("%s %q is no %s", name, text(name), what)
		}
	}
	float := func(name string) float64 {
		s := text(name)
		if s == "" {
			return 0
		}
		if decimalComma {
			s = strings.Replace(s, ",", ".", 1)
		}
		x, wrong := strconv.ParseFloat(s, 64)
		if wrong != nil || math.IsNaN(x) || math.IsInf(x, 0) {
			bad(name, "number")
		}
		return x
	}
	whole := func(name string) int {
		x := float(name) // a spreadsheet may write 3 as 3.0
		if x != math.Trunc(x) || !(x >= 0 && x <= maxKey) {
			bad(name, "number that it can be")
			return 0
		}
		return int(x)
	}
	if e.Time, err = time.Parse(time.RFC3339, text("time")); err != nil {
		return e, fmt.Errorf("time %q is not written as 2026-11-25T18:00:00Z is", text("time"))
	}
	e.Lick, e.Revision = uint(whole("lick")), uint(whole("revision"))
	e.Title, e.Part, e.Comfort, e.Kind = text("title"), text("part"), Comfort(text("comfort")), Kind(text("kind"))
	e.From, e.To, e.Clean, e.Missed, e.Note = whole("from"), whole("to"), whole("clean"), whole("missed"), whole("note")
	e.Tempo, e.Minutes, e.Picking, e.Fretting = float("tempo"), float("minutes"), float("picking"), float("fretting")
	e.Reach, e.Bends, e.Move = float("reach"), float("bends"), text("move")
	return e, err
}

// ReadJSON reads a log as JSON, a list of entries, one after the other: what is wrong with one
// ends it, and so does one too many. An error names the entry.
func ReadJSON(r io.Reader) ([]Entry, error) {
	none := errors.New("that is no log: it is not a list of entries in JSON")
	d := json.NewDecoder(r)
	if t, err := d.Token(); err != nil || t != json.Delim('[') {
		return nil, none
	}
	var out []Entry
	for d.More() {
		var e Entry
		err := d.Decode(&e)
		var field *json.UnmarshalTypeError
		var when *time.ParseError
		switch {
		case errors.As(err, &field) && field.Field != "":
			err = fmt.Errorf("its %s cannot be read", field.Field)
		case errors.As(err, &when):
			err = errors.New("its time is not written as 2026-11-25T18:00:00Z is")
		case err != nil:
			return nil, fmt.Errorf("entry %d cannot be read as one of a log", len(out)+1)
		default:
			err = e.Check()
		}
		if err != nil {
			return nil, fmt.Errorf("entry %d: %w", len(out)+1, err)
		}
		if len(out) == maxEntries {
			return nil, fmt.Errorf("a log has at most %d entries", maxEntries)
		}
		out = append(out, e)
	}
	if _, err := d.Token(); err != nil {
		return nil, fmt.Errorf("the log breaks off after entry %d", len(out))
	}
	if _, err := d.Token(); err != io.EOF {
		return nil, errors.New("something stands behind the end of the log")
	}
	return out, nil
}

// The words of a log about a part that are no rounds: the player has set its tempo, raised the wanted one, is
// done with it, takes it up again; or keeps a lick out of practice and takes it in again.
const (
	SetTempo      Kind = "set"
	Raised        Kind = "raised"
	Finished      Kind = "done"
	TakenUp       Kind = "up"
	OutOfPractice Kind = "out"
	TakenIn       Kind = "in"
)

// entryKinds are the kinds that an entry may have.
var entryKinds = []Kind{"", WarmUp, Ear, SetTempo, Raised, Finished, TakenUp, OutOfPractice, TakenIn}

// of are the entries of one part of one lick, the oldest first. Words about the hand are no rounds and are left out.
func of(log []Entry, lick uint, part string) (out []Entry) {
	for _, e := range log {
		if e.Lick == lick && e.Part == part &&
			(e.Clean+e.Missed > 0 || e.Kind != "" && e.Kind != OutOfPractice && e.Kind != TakenIn) {
			out = append(out, e)
		}
	}
	slices.SortStableFunc(out, func(a, b Entry) int { return a.Time.Compare(b.Time) })
	return out
}

// Sore says whether the last word about the hand is that it hurts. The log is settled.
func Sore(log []Entry) bool {
	for _, e := range slices.Backward(log) {
		if e.Comfort == Hurts || e.Comfort == Well {
			return e.Comfort == Hurts
		}
	}
	return false
}
