package main

// mutant is one change of one line, and the tests that should notice.
type mutant struct {
	name, file   string
	was, becomes string
	tests        []string
}

// The tests of the rooms that a change is felt in.
var (
	fretting  = []string{"./core/hand", "./core/judge", "./core/propose"}
	picking   = []string{"./core/pick", "./core/judge", "./core/propose"}
	judging   = []string{"./core/judge"}
	figures   = []string{"./core/figure", "./core/hand"}
	searching = []string{"./core/layers", "./core/hand"}
	chords    = []string{"./core/changes", "./core/judge"}
	habits    = []string{"./core/practice", "./internal/practising"}
	bending   = []string{"./core/bend", "./core/shape", "./core/judge"}
	lines     = []string{"./core/run", "./core/find", "./core/turn", "./core/phrase"}
	guitar    = []string{"./core/neck", "./core/bend", "./core/hand"}
	tones     = []string{"./core/music", "./core/shape", "./core/changes"}
	hearing   = []string{"./core/hear"}
	keeping   = []string{"./internal/store", "./internal/archive"}
	readers   = []string{"./format", "./format/midi", "./format/musicxml", "./format/tab"}
)

// mutants are the changes: in rules, in defaults, in formulas, in what is kept and read.
var mutants = []mutant{
	// What is found, and where.
	{"exits-mixed names the other notes", "core/judge/rules_pick.go", "if s.Exit == odd {", "if s.Exit != odd {", judging},
	{"exits-mixed takes the other angle", "core/judge/rules_pick.go", "if j.picked.Angle == pick.LeavesUp {",
		"if j.picked.Angle != pick.LeavesUp {", judging},
	{"a jump is warned of later", "core/judge/rules_move.go", "const JumpWarning = 0.6", "const JumpWarning = 0.8",
		judging},
	{"a move names its end alone", "core/judge/rules.go", "if l.From >= 0 && l.From != i {",
		"if l.From >= 0 && l.From == i {", judging},
	{"the edge without its millimetre", "core/judge/rules_bend.go", "b.push.Way+bend.EdgeSpare <= b.room {",
		"b.push.Way <= b.room {", bending},
	{"the edge's millimetre in the model", "core/bend/strength.go", "EdgeSpare neck.MM = 1",
		"EdgeSpare neck.MM = 0", bending},
	{"weak and heavy bends change places", "core/judge/rules_bend.go", "(len(b.helpers) > 0) != helped",
		"(len(b.helpers) > 0) == helped", bending},
	{"a heavy bend breaks at once", "core/judge/rules_bend.go", "if b.push.Force > b.holds*bend.Breaking {",
		"if b.push.Force > b.holds {", bending},
	{"crowded from a wider cell", "core/judge/rules_move.go", "cell < hand.Fingertip {",
		"cell < hand.Fingertip+2 {", judging},
	{"an aimless bend is one in the palette", "core/judge/rules_bend.go", "b.target.Role != music.Outside {",
		"b.target.Role == music.Outside {", judging},
	{"an approach over two notes", "core/judge/rules_ear.go", "const enclosure = 4", "const enclosure = 2", judging},
	{"an approach by a whole step", "core/judge/rules_ear.go", "return k, d == 1 || d == -1",
		"return k, d == 1 || d == -1 || d == 2", judging},
	{"the turn of a loop goes unnamed", "core/judge/rules.go", "j.Written.Loop && l.From > i && f.Severity > Flows",
		"j.Written.Loop && l.From > i && f.Severity < Flows", judging},
	{"the least grave finding first", "core/judge/rules.go", "cmp.Compare(b.Severity, a.Severity)",
		"cmp.Compare(a.Severity, b.Severity)", judging},
	{"a remark's fix may cost more", "core/judge/fixes.go", "const remarkCost = 0.97", "const remarkCost = 0.9", judging},
	{"a fix is offered for any rise", "core/judge/fixes.go", "const rises = 1.01", "const rises = 0.99", judging},
	{"a fix may bring a new break", "core/judge/fixes.go", "gone && f.Severity == Breaks && now < w.breaks",
		"gone && f.Severity == Breaks", judging},
	// Over chords.
	{"a landing is early by less", "core/changes/landing.go", "mostEarly = lick.NewTime(1, 2)",
		"mostEarly = lick.NewTime(1, 4)", chords},
	{"the b13 over a dominant", "core/changes/role.go", "(half == 1 || half == 8)", "(half == 1)", chords},
	{"the blues' third is no colour", "core/changes/role.go", "(half == 3 || half == 6 && kind.fifth)",
		"(half == 6 && kind.fifth)", chords},
	{"the fifth is no landing", "core/changes/role.go", "r == Root || r == Third || r == Fifth || r == Seventh",
		"r == Root || r == Third || r == Seventh", chords},
	{"clashes are tensions", "core/changes/role.go", "case clashes:", "case clashes && role == music.Outside:", chords},
	{"a tone that sounds on does not land", "core/changes/landing.go", "sounds && held != nil && r.both(l, held, before)",
		"sounds && held == nil && r.both(l, held, before)", chords},
	// The fretting hand.
	{"a jump is as easy as a roll", "core/hand/hand.go", "jumpFinger   = 95.0", "jumpFinger   = 40.0", fretting},
	{"another finger is slower", "core/hand/hand.go", "placeFinger  = 75.0", "placeFinger  = 90.0", fretting},
	{"Fitts' slope of the wrist", "core/hand/hand.go", "wristSlope  = 43.0", "wristSlope  = 30.0", fretting},
	{"a barre is no easier than a roll", "core/hand/hand.go", "barreBase    = 55.0", "barreBase    = 95.0", fretting},
	{"strain costs nothing", "core/hand/hand.go", "strainCost = 40.0", "strainCost = 0.0", fretting},
	{"a departure costs nothing", "core/hand/effort.go", "departure = 4.0", "departure = 0.0", fretting},
	{"a bend by the middle finger is welcome", "core/hand/effort.go", "bendByMiddle = 110.0",
		"bendByMiddle = -18.0", fretting},
	{"a bend by the little finger is a last resort", "core/hand/effort.go", "bendByLittle = 6.0",
		"bendByLittle = 90.0", fretting},
	{"a habit of bending is no habit", "core/hand/effort.go", "bendOther = 150.0", "bendOther = 1.0", fretting},
	{"a string's shape costs nothing", "core/hand/effort.go", "departsOnString   = 6.0", "departsOnString   = 0.0",
		fretting},
	{"a position costs nothing", "core/hand/effort.go", "departsInPosition = 3.0", "departsInPosition = 0.0", fretting},
	{"a held note does not rest the pick", "core/judge/line.go", "var heldNote = lick.NewTime(1, 2)",
		"var heldNote = lick.NewTime(9, 1)", judging},
	{"a guided shift is a jump", "core/hand/move.go", "	case strings == 0:\n", "	case strings == 0 && tb.Slur != \"\":\n",
		fretting},
	{"a hand creeps along its string", "core/hand/effort.go", "departsAlong = 20.0", "departsAlong = 0.0", fretting},
	{"octaves have no shape", "core/hand/effort.go", "departsFromShape = 30.0", "departsFromShape = 0.0", fretting},
	{"a habit is not the player's own", "core/hand/effort.go", "departsFromHabit = 30.0",
		"departsFromHabit = 0.0", fretting},
	{"figures have no room", "core/hand/teacher.go", "FigureSlack = 1.5", "FigureSlack = 1.0", fretting},
	{"the first frets of a bass are a guitar's", "core/figure/figure.go", "[3]int{1, 2, 4}", "[3]int{1, 2, 3}", figures},
	{"a cell may begin anywhere in its shape", "core/figure/cell.go", "byte(n.Place.Fret-from.Place.Fret)",
		"byte(0)", figures},
	{"habits are declined in vain", "core/player/habits.go", "range []string{p.Habits, p.Declined}",
		"range []string{p.Habits}", []string{"./core/player", "./internal/web"}},
	{"any proposal is worth a look", "core/propose/propose.go", "	return faster\n", "	return true\n", fretting},
	// The search.
	{"a loop ends anywhere", "core/layers/loop.go", "r.rest[n][at] = 0", "clear(r.rest[n])", searching},
	{"a loop forgets a cheaper state", "core/layers/loop.go", "case way <= limit:", "case way <= 0.9*limit:", searching},
	{"a limit is no limit", "core/layers/layers.go", "case load > k.Limit ||", "case", searching},
	{"states pay nothing beside", "core/layers/table.go", "t.Effort[i][j] + stateCost[j]", "t.Effort[i][j]", searching},
	{"first states are not told apart", "core/layers/loop.go", "total[f] = max(total[f], promised[c][f])",
		"total[f] = promised[c][f] + 1", fretting},
	{"the bound of a loop is not its own", "core/hand/splice.go", "ok && !turns && bound > most {",
		"ok && !turns {", fretting},
	// The picking hand.
	{"inside is as easy as outside", "core/pick/pick.go", "insideExtra     = 15.0", "insideExtra     = 10.0", picking},
	{"a sweep is slow", "core/pick/pick.go", "sweepNeed       = 60.0", "sweepNeed       = 120.0", picking},
	{"the same stroke again costs nothing", "core/pick/pick.go", "againNeed       = 150.0",
		"againNeed       = 85.0", picking},
	{"a breach is as good as none", "core/pick/solve.go", "> fewest+0.5 {", "> fewest+9 {", picking},
	{"a new start sweeps", "core/pick/pick.go", "case y.Begins && before == after:",
		"case y.Begins && before == after && false:", picking},
	{"an upstroke may begin", "core/pick/solve.go", "const upStart = 50.0", "const upStart = 0.0", picking},
	// Strings, frets, tones.
	{"the strain of a bent string", "core/bend/bend.go", "strain := (back+front)/s.length - 1",
		"strain := (back+front)/s.length - 0.999", bending},
	{"the mass of a stretched string", "core/bend/bend.go", "mu := s.mass / (1 + strain)", "mu := s.mass", bending},
	{"a release takes no time", "core/bend/strength.go", "		t *= 2\n", "		t *= 1\n", bending},
	{"a bend takes less a mm", "core/bend/strength.go", "mmTime    = 4.5", "mmTime    = 3.5", bending},
	{"vibrato in a short note", "core/bend/strength.go", "VibratoTime = 300.0", "VibratoTime = 200.0", bending},
	{"the finger presses on the wire", "core/neck/guitar.go", "pressBehind MM = 6", "pressBehind MM = 0", guitar},
	{"A is 432", "core/music/pitch.go", "return 440 *", "return 432 *", append(tones, "./core/sound")},
	{"a cent is a hundredth of an octave", "core/music/pitch.go", "Cents(1200 *", "Cents(100 *",
		append(tones, bending...)},
	{"a cell of tones moves by two", "core/run/walk.go", "	by := 1\n", "	by := 2\n", lines},
	// Practice.
	{"the wait is tripled", "core/practice/plan.go", "wait = min(longest, 2*wait)", "wait = min(longest, 3*wait)", habits},
	{"half clean is good", "core/practice/plan.go", "case clean <= missed:", "case clean < missed:", habits},
	{"heavy things come back at once", "core/practice/plan.go", "soreDays  = 3 ", "soreDays  = 1 ", habits},
	{"a miss does not break the row", "core/practice/ladder.go", "missDown  = 2 ", "missDown  = 3 ", habits},
	{"a day begins in Greenwich", "core/practice/day.go", "t.Unix() + int64(east)", "t.Unix() + 0*int64(east)", habits},
	{"a warm-up is a rung", "core/practice/ladder.go", "case WarmUp, Ear:", "case Ear:", habits},
	{"a miss raises the tempo", "core/practice/ladder.go", "faster && e.Clean > 0", "faster", habits},
	{"a pause is no pause", "core/practice/ladder.go", "{7, 0.04}", "{8, 0.04}", habits},
	{"the future holds the log", "core/practice/day.go", "case e.Time.After(now):", "case e.Time.IsZero():", habits},
	{"a rest is never due", "core/practice/breaks.go", "next.Sub(e.Time) > restGap",
		"next.Sub(e.Time) > 10*restGap", habits},
	{"calibration is surer than it is", "core/practice/calibrate.go", "quantile(&mixed, 0.025)",
		"quantile(&mixed, 0.25)", habits},
	{"calibration knows no lapses", "core/practice/calibrate.go", "c := (1 - lapse) * a.others", "c := a.others", habits},
	// Hearing.
	{"flat by twenty is in tune", "core/hear/bend.go", "inTune     = 12.0", "inTune     = 30.0", hearing},
	{"the next period is heard", "core/hear/track.go", "period += (a - c) / (2 * bow)",
		"period -= (a - c) / (2 * bow)", hearing},
	{"a recording is not filtered", "core/hear/resample.go", "const lobes = 8", "const lobes = 0", hearing},
	// What is kept and what is read.
	{"a deleted log goes unseen", "internal/store/open.go", "(s.log == nil || err2 == nil && os.SameFile(log, s.log))",
		"(s.log == nil || err2 == nil || log == nil)", keeping},
	{"another program's database is taken", "internal/store/open.go", "licks == 0 && others > 0",
		"licks == 0 && others > 9", keeping},
	{"a place in a position keeps the tone of its string", "core/figure/figure.go",
		`out[k][0].at, out[k][0].tone = situation{"fret", f - 1, 0}, 0`, `out[k][0].at = situation{"fret", f - 1, 0}`,
		figures},
	{"copies of the future stay", "internal/store/copies.go", "a > today != (b > today)", "false != (b > today)", keeping},
	{"the zone of a round is lost", "internal/store/played.go", "p.Zone = &seconds", "_ = seconds", keeping},
	{"one string sounds two notes", "format/read/read.go", "kept[k].Len = n.At.Sub(kept[k].At)\n", "_ = k\n", readers},
	{"a lone CR ends no line", "format/read/text.go", "c = '\\n'\n", "c = ' '\n", readers},
}
