package judge

import (
	"context"
	"encoding/json"
	"math"
	"slices"
	"strings"
	"testing"

	"ornamen/core/lick"
	"ornamen/core/neck"
	"ornamen/core/player"
	"ornamen/core/testline"
)

var usual = NewEngine(player.Default())

// codes lists what a report found, with severities.
func codes(r *Report) []string {
	var out []string
	for _, f := range r.Findings {
		out = append(out, string(f.Code)+" "+f.Severity.String())
	}
	return out
}

// ruleLine is a line in which a rule finds what it is about, and the same line mended.
type ruleLine struct {
	name     string
	l        lick.Lick
	want     string // code and severity
	notes    []int
	without  lick.Lick // the same line, mended
	anyTempo bool
}

// ruleLines has a row for every rule of the hands and of the ear.
func ruleLines(t testing.TB) []ruleLine {
	return []ruleLine{
		{
			name:     "slur over strings",
			l:        testline.Build(t, 90, "1:5 2:7/h"),
			want:     "slur-changes-string breaks",
			notes:    []int{2},
			without:  testline.Build(t, 90, "1:5 2:7"),
			anyTempo: true,
		},
		{
			name:     "hammer down",
			l:        testline.Build(t, 90, "1:7 5/h"),
			want:     "hammer-falls breaks",
			notes:    []int{1, 2},
			without:  testline.Build(t, 90, "1:7 5/p"),
			anyTempo: true,
		},
		{
			name:     "pull up",
			l:        testline.Build(t, 90, "1:5 7/p"),
			want:     "pull-rises breaks",
			notes:    []int{1, 2},
			without:  testline.Build(t, 90, "1:5 7/h"),
			anyTempo: true,
		},
		{
			name:     "one finger hammers",
			l:        testline.Build(t, 90, "1:5/f1 7/h/f1"),
			want:     "slur-same-finger breaks",
			notes:    []int{1, 2},
			without:  testline.Build(t, 90, "1:5/f1 7/h/f3"),
			anyTempo: true,
		},
		{
			name:     "slide with two fingers",
			l:        testline.Build(t, 90, "1:5/f1 7/s/f3"),
			want:     "slide-changes-finger breaks",
			notes:    []int{1, 2},
			without:  testline.Build(t, 90, "1:5/f1 7/s/f1"),
			anyTempo: true,
		},
		{
			name:     "slide from an open string",
			l:        testline.Build(t, 90, "1:0 7/s"),
			want:     "slide-changes-finger breaks",
			notes:    []int{1, 2},
			without:  testline.Build(t, 90, "1:5/f1 7/s/f1"),
			anyTempo: true,
		},
		{
			name:     "crossed fingers",
			l:        testline.Build(t, 90, "1:5/f3 7/h/f1"),
			want:     "fingers-cross breaks",
			notes:    []int{1, 2},
			without:  testline.Build(t, 90, "1:5/f1 7/h/f3"),
			anyTempo: true,
		},
		{
			name:     "too wide",
			l:        testline.Build(t, 90, "1:3/f1 9/h/f4"),
			want:     "reach breaks",
			notes:    []int{1, 2},
			without:  testline.Build(t, 90, "1:3/f1 6/h/f4"),
			anyTempo: true,
		},
		{
			name:     "strained",
			l:        testline.Build(t, 60, "1:1/f1 3/f2/h 5/h/f4 1/f1/p"),
			want:     "reach tight",
			notes:    []int{1, 2, 3, 4},
			without:  testline.Build(t, 60, "1:12/f1 14/f2 16/h/f4"),
			anyTempo: true,
		},
		{
			name:     "one finger, two frets",
			l:        testline.Build(t, 90, "3:5/f1+2:7/f1"),
			want:     "bar-conflict breaks",
			notes:    []int{1, 2},
			without:  testline.Build(t, 90, "3:5/f1+2:7/f3"),
			anyTempo: true,
		},
		{
			name:     "one finger, two strings",
			l:        testline.Build(t, 90, "3:5/f1+1:5/f1"),
			want:     "bar-conflict breaks",
			notes:    []int{1, 2},
			without:  testline.Build(t, 90, "3:5/f1/B+2:5/f1/B"),
			anyTempo: true,
		},
		{
			name:    "jump",
			l:       testline.Build(t, 120, "2:9/f1 1:12/f1"),
			want:    "finger-jump breaks",
			notes:   []int{1, 2},
			without: testline.Build(t, 120, "2:9/f1 1:12/f3"),
		},
		{
			name:    "shift",
			l:       testline.Build(t, 110, "1:5/f1 1:12/f2"),
			want:    "shift breaks",
			notes:   []int{1, 2},
			without: testline.Build(t, 60, "1:5/f1 1:12/f2"),
		},
		{
			name:    "fast fingers",
			l:       testline.Build(t, 200, "1:5/f1 8/h/f4"),
			want:    "finger-fast breaks",
			notes:   []int{1, 2},
			without: testline.Build(t, 100, "1:5/f1 8/h/f4"),
		},
		{
			name:    "crowded",
			l:       testline.Build(t, 60, "1:19 20 21"),
			want:    "crowded flows",
			notes:   []int{1, 2, 3},
			without: testline.Build(t, 60, "1:9 10 11"),
		},
		{
			name:    "stroke again",
			l:       testline.Build(t, 110, "1:5/D 5/D"),
			want:    "stroke-repeats breaks",
			notes:   []int{1, 2},
			without: testline.Build(t, 110, "1:5/D 5/U"),
		},
		{
			name:    "inside",
			l:       testline.Build(t, 140, "2:5/U 1:5/D"),
			want:    "change-inside tight",
			notes:   []int{1, 2},
			without: testline.Build(t, 120, "2:5/D 1:5/U"),
		},
		{
			name:    "against",
			l:       testline.Build(t, 120, "2:5/U 1:5/U"),
			want:    "change-against breaks",
			notes:   []int{1, 2},
			without: testline.Build(t, 120, "2:5/D 1:5/D"),
		},
		{
			name:    "a skipping sweep",
			l:       testline.Build(t, 140, "3:5/D 1:5/D"),
			want:    "sweep-turns breaks",
			notes:   []int{1, 2},
			without: testline.Build(t, 140, "2:5/D 1:5/D"),
		},
		{
			name:    "picked too fast",
			l:       testline.Build(t, 190, "1:0/D 0/U"),
			want:    "stroke-fast breaks",
			notes:   []int{1, 2},
			without: testline.Build(t, 140, "1:0/D 0/U"),
		},
		{
			name:    "mixed exits",
			l:       testline.Build(t, 60, "2:5/D 1:5/U 2:5/D"),
			want:    "exits-mixed flows",
			notes:   []int{3},
			without: testline.Build(t, 60, "2:5/D 1:5/U 1:5/D 2:5/U"),
		},
		{
			name:     "down and up at once",
			l:        testline.Build(t, 60, "3:8/D+2:8/U"),
			want:     "pair-needs-fingers breaks",
			notes:    []int{1, 2},
			without:  testline.Build(t, 60, "3:8/D+2:8/D"),
			anyTempo: true,
		},
		{
			name:     "one picking finger, two strings",
			l:        testline.Build(t, 60, "3:8/m+2:8/m"),
			want:     "pair-needs-fingers breaks",
			notes:    []int{1, 2},
			without:  testline.Build(t, 60, "3:8/i+2:8/m"),
			anyTempo: true,
		},
		{
			name:     "one stroke apart",
			l:        testline.Build(t, 60, "3:8/D+1:8/D"),
			want:     "pair-needs-fingers breaks",
			notes:    []int{1, 2},
			without:  testline.Build(t, 60, "3:8/D+1:8/m"),
			anyTempo: true,
		},
		{
			name:     "beyond the neck",
			l:        testline.Build(t, 60, "1:23"),
			want:     "beyond-neck breaks",
			notes:    []int{1},
			without:  testline.Build(t, 60, "1:22"),
			anyTempo: true,
		},
		{
			name:     "no finger",
			l:        testline.Build(t, 60, "1:5/f0"),
			want:     "open-string-finger breaks",
			notes:    []int{1},
			without:  testline.Build(t, 60, "1:5/f1"),
			anyTempo: true,
		},
		{
			name:     "open string bent",
			l:        testline.Build(t, 60, "1:0/b2*1/4"),
			want:     "bend-open-string breaks",
			notes:    []int{1},
			without:  testline.Build(t, 60, "1:5/b2*1/4"),
			anyTempo: true,
		},
		{
			name:     "off the edge",
			l:        testline.Build(t, 60, "1:12/f3/b2thin*1/4"),
			want:     "bend-off-edge breaks",
			notes:    []int{1},
			without:  testline.Build(t, 60, "1:12/f3/b2*1/4"),
			anyTempo: true,
		},
		{
			name:     "weak",
			l:        testline.Build(t, 60, "1:1/f1/b2*1/4"),
			want:     "bend-weak breaks",
			notes:    []int{1},
			without:  testline.Build(t, 60, "1:12/f3/b2*1/4"),
			anyTempo: true,
		},
		{
			name:     "heavy",
			l:        testline.Build(t, 60, "1:2/f3/b2*1/4"),
			want:     "bend-heavy tight",
			notes:    []int{1},
			without:  testline.Build(t, 60, "1:12/f3/b2*1/4"),
			anyTempo: true,
		},
		{
			name:    "late",
			l:       testline.Build(t, 170, "3:7/f3/b2"),
			want:    "bend-late breaks",
			notes:   []int{1},
			without: testline.Build(t, 120, "3:7/f3/b2*1/4"),
		},
		{
			name:    "aimless",
			l:       testline.InKey(testline.Build(t, 60, "3:7/f3/b1*1/4"), "A", "minor pentatonic"),
			want:    "bend-aimless flows",
			notes:   []int{1},
			without: testline.InKey(testline.Build(t, 60, "3:7/f3/b2*1/4"), "A", "minor pentatonic"),
		},
		{
			name:    "short vibrato",
			l:       testline.Build(t, 120, "3:7/v"),
			want:    "vibrato-short breaks",
			notes:   []int{1},
			without: testline.Build(t, 120, "3:7/v*1/2"),
		},
		{
			name:    "the turn of a loop",
			l:       looped(testline.Build(t, 120, "2:9/f1*1/4 9/f1*1/4 1:12/f1")),
			want:    "loop-turn breaks",
			notes:   []int{3, 1},
			without: testline.Build(t, 120, "2:9/f1*1/4 9/f1*1/4 1:12/f1"),
		},
		{
			name:    "outside",
			l:       testline.InKey(testline.Build(t, 60, "1:5 1:9"), "A", "minor pentatonic"),
			want:    "note-outside flows",
			notes:   []int{2},
			without: testline.InKey(testline.Build(t, 60, "1:5 1:9 1:10"), "A", "minor pentatonic"),
		},
	}
}

// Every rule finds what it is about, and leaves the line beside it alone.
func TestRules(t *testing.T) {
	for _, c := range ruleLines(t) {
		r := check(usual, c.l)
		i := slices.Index(codes(r), c.want)
		if i < 0 {
			t.Errorf("%s: found %v, want %s", c.name, codes(r), c.want)
			continue
		}
		f := r.Findings[i]
		if len(c.notes) == 0 || !slices.Equal(f.Notes, c.notes) {
			t.Errorf("%s: names notes %v, want %v", c.name, f.Notes, c.notes)
		}
		if f.Always != c.anyTempo || f.Text == "" || f.Title == "" {
			t.Errorf("%s: %+v", c.name, f)
		}
		if f.Unit == "ms" && f.Severity == Breaks && !(f.Need > f.Have) {
			t.Errorf("%s breaks with need %v and have %v", c.name, f.Need, f.Have)
		}
		code := strings.Fields(c.want)[0]
		for _, g := range check(usual, c.without).Findings {
			if string(g.Code) == code {
				t.Errorf("%s: the mended line still has %s on %v: %s", c.name, g.Code, g.Notes, g.Text)
			}
		}
	}
}

// Every rule finds something in one of the lines above, whose code and notes those tests assert.
func TestEveryRuleIsTested(t *testing.T) {
	var lines []lick.Lick
	for _, c := range ruleLines(t) {
		lines = append(lines, c.l)
	}
	for _, c := range changeLines {
		lines = append(lines, c.over(t))
	}
	found := make([]int, len(rules))
	for _, l := range lines {
		task := usual
		j := task.checked(t.Context(), l)
		for i, r := range rules {
			found[i] += len(r.find(j))
		}
	}
	for i, n := range found {
		if n == 0 {
			t.Errorf("no line of the tables has what rule %d finds, %s", i, rules[i].code)
		}
	}
}

// Common practice, entered as fingers: the usual shapes flow at a moderate tempo.
func TestUsualFingersFlow(t *testing.T) {
	for _, c := range []struct{ line, fingers string }{
		{"1:5 6 7 8", "1 2 3 4"}, {"1:5 7 8", "1 3 4"}, {"1:5 7 9", "1 2 4"}, {"1:5 6 8", "1 2 4"}, {"1:12 14 16",
			"1 2 4"}, {"6:1 3 4", "1 3 4"},
		{"6:5 8 5:5 7 4:5 7 3:5 7 2:5 8 1:5 8", "1 4 1 3 1 3 1 3 1 4 1 4"},
		{"6:8 10 5:7 10 4:7 10 3:7 9 2:8 10 1:8 10", "2 4 1 4 1 4 1 3 2 4 2 4"},
		{"6:5 7 8 5:5 7 8 4:5 7 9 3:5 7 9 2:6 8 10 1:7 8 10", "1 3 4 1 3 4 1 2 4 1 2 4 1 2 4 1 2 4"},
		{"1:10 8 7 2:10 8 6 3:9 7 5 4:9 7 5 5:8 7 5 6:8 7 5", "4 2 1 4 2 1 4 2 1 4 2 1 4 3 1 4 3 1"},
		{"6:8 10 5:7 8 10 4:7 9 10 3:7 9 10 2:8 10 1:7 8", "2 4 1 2 4 1 3 4 1 3 4 2 4 1 2"},
	} {
		l := testline.Build(t, 90, c.line)
		for i, f := range strings.Fields(c.fingers) {
			l.Notes[i].Finger, _ = lick.ParseFinger(f)
		}
		r := check(usual, l)
		if r.Verdict != Flows {
			t.Errorf("%s with %s at 90: %s, %v", c.line, c.fingers, r.Verdict, codes(r))
		}
		if open := check(usual, testline.Build(t, 90, c.line)); fingersOf(open.Lick) != c.fingers {
			t.Errorf("%s is proposed %s, want %s", c.line, fingersOf(open.Lick), c.fingers)
		}
	}
}

func fingersOf(l lick.Lick) string {
	var out []string
	for _, n := range l.Notes {
		out = append(out, n.Finger.String())
	}
	return strings.Join(out, " ")
}

func TestCeiling(t *testing.T) {
	l := testline.Build(t, 100, "1:5 8/h 5/p 2:8 5 1:5")
	r := check(usual, l)
	if r.Ceiling <= 0 || r.BestPossible < r.Ceiling {
		t.Fatalf("ceiling %v, best possible %v", r.Ceiling, r.BestPossible)
	}
	for _, c := range []struct {
		factor float64
		want   Severity
	}{{1.001, Breaks}, {1, Tight}, {0.86, Tight}, {0.84, Flows}} {
		at := l
		at.Tempo = float64(r.Ceiling) * c.factor
		if got := check(usual, at); got.Verdict != c.want || math.Abs(float64(got.Ceiling-r.Ceiling)) > 1e-6 {
			t.Errorf("at %.3f of the ceiling: %s, ceiling %v (was %v)", c.factor, got.Verdict, got.Ceiling, r.Ceiling)
		}
	}
	for _, still := range []string{"", "1:5", "3:5+2:5"} {
		if r := check(usual, testline.Build(t, 100, still)); r.Verdict != Flows || r.Ceiling != 0 ||
			len(r.Bottleneck) != 0 {
			t.Errorf("%q: %s, ceiling %v, bottleneck %v", still, r.Verdict, r.Ceiling, r.Bottleneck)
		}
	}
}

func TestJSON(t *testing.T) {
	r := check(usual, testline.Build(t, 240, "2:9/f1 1:12/f1 14/h"))
	mend(usual, testline.Build(t, 240, "2:9/f1 1:12/f1 14/h"), r)
	data, err := json.Marshal(r)
	if err != nil {
		t.Fatal(err)
	}
	var back map[string]any
	if err := json.Unmarshal(data, &back); err != nil {
		t.Fatal(err)
	}
	for _, k := range strings.Fields("verdict tempo ceiling best_possible bottleneck reach_mm strokes slurs changes " +
		"exits findings") {
		if _, ok := back[k]; !ok {
			t.Errorf("%s is missing", k)
		}
	}
	if back["verdict"] != "breaks" || back["strokes"] != 2.0 || back["slurs"] != 1.0 {
		t.Errorf("%s", data)
	}
	empty, err := json.Marshal(check(usual, lick.New()))
	if err != nil ||
		strings.Contains(
			strings.ReplaceAll(strings.ReplaceAll(string(empty), `"ceiling":null`, ""), `"best_possible":null`, ""),
			"null",
		) {
		t.Errorf("a list is null: %s", empty)
	}
}

// A loop is judged at its turn too, and the turn has its own code.
func TestLoopTurn(t *testing.T) {
	l := testline.Build(t, 110, "1:5/f1 7/f3 8/f4 12/f4/S")
	once := check(usual, l)
	l.Loop = true
	r := check(usual, l)
	if r.Ceiling >= once.Ceiling && once.Ceiling > 0 {
		t.Errorf("the loop is clean up to %v, played once up to %v", r.Ceiling, once.Ceiling)
	}
	i := slices.IndexFunc(r.Findings, func(f Finding) bool { return f.Code == "loop-turn" })
	if i < 0 || !slices.Equal(r.Findings[i].Notes, []int{4, 1}) {
		t.Errorf("the turn is not named: %v", codes(r))
	}
}

func TestMeant(t *testing.T) {
	l := testline.InKey(testline.Build(t, 60, "1:5 1:9"), "A", "minor pentatonic")
	l.Notes[1].Meant = []lick.Code{"note-outside"}
	r := check(usual, l)
	if len(r.Findings) != 1 || !r.Findings[0].Meant || r.Verdict != Flows {
		t.Errorf("%+v", r.Findings)
	}
}

// Fixes were applied and help: each breaks nothing worse and its ceiling is the
// one that checking its lick gives.
func TestFixesHelp(t *testing.T) {
	for _, c := range []struct{ line, want string }{
		{"2:9/f1 1:12/f1", "Finger"}, {"1:7 5/h", "Pull"}, {"1:5 7/p", "Hammer"}, {"1:5/D 5/D", "Upstroke"},
		{"1:5/f1 7/h/f1", "Finger"}, {"3:7/f3/b2", "Twice as long"}, {"2:23", "Note 1 at"},
	} {
		l := testline.Build(t, 120, c.line)
		if strings.Contains(c.line, "/b") {
			l.Tempo = 170 // a bend is late sooner
		}
		r := check(usual, l)
		mend(usual, l, r)
		if len(r.Findings) == 0 || len(r.Findings[0].Fixes) == 0 {
			t.Errorf("%s: %v, no fix", c.line, codes(r))
			continue
		}
		found := false
		for _, x := range r.Findings[0].Fixes {
			found = found || strings.Contains(x.Text, c.want)
			after := check(usual, x.Edit.Lick)
			if math.Abs(float64(after.Ceiling-x.Ceiling)) > 1e-9 {
				t.Errorf("%s, %s: says %v, is %v", c.line, x.Text, x.Ceiling, after.Ceiling)
			}
			if !(after.Ceiling > r.Ceiling) && after.Breaking() >= r.Breaking() {
				t.Errorf("%s, %s does not help: %v → %v", c.line, x.Text, r.Ceiling, after.Ceiling)
			}
		}
		if !found {
			t.Errorf("%s: %+v, want one with %q", c.line, r.Findings[0].Fixes, c.want)
		}
	}
}

func TestOtherTunings(t *testing.T) {
	l := testline.Build(t, 60, "1:5 7 8")
	l.Tuning = append(neck.StandardTuning(), 35)
	l.Notes[0].String = 7
	l, err := lick.Parse(l.Encode())
	if err != nil {
		t.Fatal(err)
	}
	if r := check(usual, l); r.Verdict == Breaks {
		t.Errorf("seven strings: %v", codes(r))
	}
}

// What the engine answers when nobody stops it.

func check(e *Engine, l lick.Lick) *Report {
	r, err := e.Check(context.Background(), l)
	if err != nil {
		panic(err)
	}
	return r
}

func mend(e *Engine, l lick.Lick, r *Report) {
	if err := e.Mend(context.Background(), l, r); err != nil {
		panic(err)
	}
}

// looped is a line as a loop.
func looped(l lick.Lick) lick.Lick {
	l.Loop = true
	return l
}
