// Command ornamen is the bench for lead guitar lines: the web application and its command line.
//
// # How commands behave
//
// What a command finds goes to standard output, as text for people or with --json as one line
// of JSON whose fields are a contract: none is renamed or changes its meaning. What a reader of
// a file has chosen or left out, and why a command could not, goes to standard error, one line
// each. Nothing asks back, so that every command can stand in a script.
//
// Exit statuses: 0 done; 1 check, on a lick that breaks; 2 a wrong use, a file that cannot be
// read, a line that cannot be what was asked; 70 a fault of the program, with where it
// happened; 130 stopped by Ctrl-C.
//
// Flags may stand anywhere among the arguments. Commands on a file leave it as it is and print
// what became of it; those on a notebook (--db, else the player's own) write it as the
// application does: every change is a version more.
//
// # A new command
//
// A row in commands, a file of its name, a line in the README: a test holds the three together.
// The room is larger than others because every command is a file of it; none knows another.
package main

import (
	"context"
	"errors"
	"flag"
	"fmt"
	"io"
	"os"
	"os/signal"
	"runtime/debug"
	"strings"
	"syscall"
	"time"
)

// Exit statuses: 1 is kept for check on a lick that breaks.
const (
	exitBreaks  = 1
	exitUsage   = 2
	exitFault   = 70  // a fault of the program itself
	exitStopped = 130 // stopped by Ctrl-C
)

// command is one word of the command line.
type command struct {
	name, usage string
	about       string // what it does, in a sentence
	run         func(ctx context.Context, e env, args []string) error
}

// env is what a command may touch: the tests give it two buffers and a clock. Files and
// notebooks are named by its arguments.
type env struct {
	out, err io.Writer
	now      func() time.Time // in the player's time zone
}

// who is what every command knows that makes, judges or draws a line.
const who = "[--instrument NAME] [--tuning T] [--hand small|medium|large] [--bend-finger ring|little] " +
	"[--helpers many|few|flat] [--habits H]"

// commands are what the program does, in the order in which help lists them. A new one is
// one row and a file of its name.
var commands = []command{
	{
		"serve",
		"serve [--addr 127.0.0.1:8080] [--db FILE] [--log FILE]",
		"Opens your own notebook in the browser.",
		serve,
	},
	{
		"demo",
		"demo [--addr 127.0.0.1:8080] [--db FILE] [--log FILE]",
		"Opens the demo notebook in a fresh file.",
		demoServe,
	},
	{
		"tones",
		`tones --key "C# minor pentatonic" [--add 9,b5] [--drop 4] [--layout L] [--at STRING:FRET] [--over "A7 ` +
			`| D7"] ` +
			who + ` [--json]`,
		"Lays a palette of tones out on the neck, with the bends it offers.",
		tones,
	},
	{
		"propose",
		`propose FILE [--pick alternate|economy|legato|free] [--angle down|up|either] [--place] ` +
			`[--best N] ` + who + ` [--chords C] [--json]`,
		"Finds fingers and strokes for a line, around what is locked.",
		proposeCommand,
	},
	{
		"run",
		`run --key "C# natural minor" --cell "3 2 1 4" [--add 9] [--drop 4] [--layout L] [--at ` +
			`STRING:FRET] [--move M] [--times N] [--bars N] [--dir up|down|updown|downup] [--down-cell C] ` +
			`[--mirror] [--loop] [--turn once|twice] [--repeat N] [--even] [--start N] [--rotate N] [--count ` +
			`4|8|8t|16|16t|16q|16s] [--accent N] [--feel straight|shuffle] [--from BEAT] [--displace 1/4] ` +
			`[--chords "1 ` +
			`4 5"] [--follow key|chord] [--scales "A, B"] [--tail CELL] [--pivot DEGREE] [--land ` +
			`DEGREE[@BEAT]] [--pick alternate|economy|legato|free] [--tempo N] ` + who + ` [--json|--tab]`,
		"Grows a line from a recipe.",
		runCommand,
	},
	{
		"ways",
		`ways FILE ` + who + ` [--chords C] [--json]`,
		"Lists the ways to pick a line with their ceilings.",
		ways,
	},
	{
		"restring",
		`restring FILE [--pick alternate|economy|legato|free] ` + who + ` [--chords C] [--json]`,
		"Moves notes to neighbouring strings so that the way of picking comes out clean.",
		restring,
	},
	{
		"recipe",
		`recipe FILE ` + who + ` [--chords C] [--json]`,
		"Finds the shortest recipe of a written line.",
		recipe,
	},
	{
		"turn",
		`turn FILE --how backwards|mirror|rotate:N|octave|-octave|string:N|degree:N ` + who + ` [--chords C] [--json]`,
		"Turns a line round and finds its hands again.",
		turnCommand,
	},
	{
		"join",
		`join A [B] [--run RECIPE] [--cell CELL] [--at NOTE] [--on-beat held|rest] ` + who + ` [--json]`,
		"Lets one line follow another, from its end or from one of its notes on, and finds the hands again.",
		join,
	},
	{
		"edit",
		`edit FILE "[NOTE] DO [VALUE]"... ` + who + ` [--chords C] [--json]`,
		"Changes a line by the words of the bench, one edit after the other: \"3 finger 2\", \"tempo 120\".",
		editCommand,
	},
	{
		"mend",
		`mend FILE [--take N] ` + who + ` [--chords C] [--json]`,
		"Lists the fixes of a line's findings, or takes one of them.",
		mendCommand,
	},
	{
		"bends",
		`bends FILE --note N [--take K] ` + who + ` [--chords C] [--json]`,
		"Lists what else the bend of a note could be, or takes one of them.",
		bendsCommand,
	},
	{
		"tails",
		`tails FILE [--note N] [--take K] ` + who + ` [--chords C] [--json]`,
		"Lists other ends of a line after a note, or takes one of them.",
		tailsCommand,
	},
	{
		"check",
		`check FILE [--tempo N] ` + who + ` [--chords C] [--json]`,
		"Judges a line at its tempo; exits with 1 when it breaks.",
		check,
	},
	{
		"play",
		`play FILE [--tempo N] [--loop ROUNDS] [--notes A-B] [--count-in] [--click] [--click-on every|backbeat|drops] ` +
			`[--band] [--hold] [--target] [--drive 0.5] ` + who + ` [--chords C] > FILE.wav`,
		"Writes a line as it sounds, as WAV: with bass and drums, its chords held, overdriven.",
		play,
	},
	{
		"changes",
		`changes FILE [--over "C#m7 | F#7"] [--follow key|chord] [--move each:degrees|each:shape|later:1/4|` +
			`double|halve|answer:4|tones:3|pairs|fill|only:1 b3 5|bass:steady] ` + who + ` [--json]; changes --forms`,
		"Reads a line against the chords under it: roles, landings, what fits; or moves it over them.",
		changesCommand,
	},
	{
		"practice",
		"practice plan|log|calibrate|read FILE [--minutes N] [--on 2026-12-03] [--from LOG] [--db FILE] [--json|--csv]",
		"Prints the plan of today or another day, the practice log, the player's own numbers from it or from a file, or " +
			"adds a log from a file.",
		practiceCommand,
	},
	{
		"recolour",
		`recolour FILE --to "C# dorian" [--move nearest|same|octave] ` + who + ` [--chords C] [--json]`,
		"Moves a line to other tones.",
		recolour,
	},
	{
		"convert",
		"convert IN OUT [--line N] [--tuning T] [--chords C] (.json .tab .mid .musicxml .mxl; OUT also .svg " +
			".html .wav)",
		"Writes a line in another format.",
		convert,
	},
	{"backup", "backup FILE [--db FILE]", "Writes the whole notebook as one file; it may be open meanwhile.", backup},
	{
		"restore",
		"restore FILE [--db FILE]",
		"Puts a backup in the notebook's place and keeps what was there beside it.",
		restore,
	},
	{
		"export",
		"export FILE [--lick LICK] [--version N] [--as FORMAT] [--tag TAG] [--db FILE]",
		"Writes one lick as a file or, as FILE.zip, the whole notebook: licks with their versions, tones, " +
			"recipes, player.",
		exportCommand,
	},
	{
		"import",
		"import FILE [--line N] [--db FILE]",
		"Adds a lick, or all that an export holds, to the notebook.",
		importCommand,
	},
	{"licks", "licks [--find WORDS] [--db FILE] [--json]", "Lists the licks of the notebook.", licks},
	{
		"versions",
		"versions LICK [--take N] [--db FILE] [--json]",
		"Lists the versions of a lick, named by its number or title, or goes back to one of them.",
		versions,
	},
}

// errBreaks ends check on a lick that breaks; nothing more is printed.
var errBreaks = errors.New("the lick breaks")

// main ends with the status of execute; Ctrl-C ends the context once, a second time the
// process.
func main() {
	ctx, stop := signal.NotifyContext(context.Background(), os.Interrupt, syscall.SIGTERM)
	context.AfterFunc(ctx, stop)
	os.Exit(execute(ctx, env{os.Stdout, os.Stderr, time.Now}, os.Args[1:]))
}

// execute runs one command and says on standard error, in one line, why it could not.
// Help asked for is an answer and goes to standard output; help that was needed is an error.
func execute(ctx context.Context, e env, args []string) int {
	if len(args) == 0 || args[0] == "help" || args[0] == "--help" || args[0] == "-h" {
		w := e.out
		if len(args) == 0 {
			w = e.err
		}
		fmt.Fprintln(w, "ornamen: a bench for lead guitar lines")
		for _, c := range commands {
			fmt.Fprintln(w, "  ornamen "+c.usage)
		}
		if len(args) == 0 {
			return exitUsage
		}
		return 0
	}
	if args[0] == "--version" || args[0] == "version" {
		fmt.Fprintln(e.out, "ornamen", version())
		return 0
	}
	for _, c := range commands {
		if c.name != args[0] {
			continue
		}
		err := guarded(ctx, e, c, args[1:])
		switch {
		case err == nil:
			return 0
		case errors.Is(err, errBreaks):
			return exitBreaks
		case errors.Is(err, flag.ErrHelp):
			fmt.Fprintf(e.out, "ornamen %s\n%s\n", c.usage, c.about)
			return 0
		case errors.As(err, new(fault)):
			fmt.Fprintln(e.err, err)
			return exitFault
		case ctx.Err() != nil:
			fmt.Fprintln(e.err, "ornamen "+c.name+": stopped")
			return exitStopped
		}
		fmt.Fprintln(e.err, "ornamen "+c.name+": "+oneLine(err))
		return exitUsage
	}
	fmt.Fprintf(e.err, "ornamen: %q is no command; use one of %s\n", args[0], strings.Join(names(), ", "))
	return exitUsage
}

// fault is a panic of a command, with where it happened.
type fault struct {
	command string
	what    any
	stack   []byte
}

// Error is the sentence for the player; the status is told apart.
func (f fault) Error() string {
	return fmt.Sprintf("ornamen %s: a fault of the program, not of what was asked: %v\n%s", f.command, f.what, f.stack)
}

// guarded runs a command and tells a fault of the program from a wrong use of it: a panic
// becomes a fault, which has a status of its own, so that a script does not take one for the
// other.
func guarded(ctx context.Context, e env, c command, args []string) (err error) {
	defer func() {
		if v := recover(); v != nil {
			err = fault{c.name, v, debug.Stack()}
		}
	}()
	return c.run(ctx, e, args)
}

// version is what the program was built from.
func version() string {
	info, ok := debug.ReadBuildInfo()
	if !ok {
		return "of unknown build"
	}
	v, changed := info.Main.Version, ""
	for _, s := range info.Settings {
		switch s.Key {
		case "vcs.revision":
			v = s.Value[:min(12, len(s.Value))]
		case "vcs.time":
			changed = " of " + s.Value[:min(10, len(s.Value))]
		}
	}
	return v + changed + ", " + info.GoVersion
}

// names lists the commands.
func names() []string {
	out := make([]string, len(commands))
	for i, c := range commands {
		out[i] = c.name
	}
	return out
}

// oneLine is an error without its line breaks.
func oneLine(err error) string { return strings.Join(strings.Fields(err.Error()), " ") }

// parse reads flags wherever they stand among the arguments and returns the
// rest, of which there must be want, or at least so many where want is negative.
// The flag package stops at the first word that is no flag; it is asked again after each.
func parse(fs *flag.FlagSet, args []string, want int, what string) ([]string, error) {
	fs.SetOutput(io.Discard)
	fs.Usage = func() {}
	var rest []string
	for len(args) > 0 {
		if err := fs.Parse(args); err != nil {
			return nil, err
		}
		args = fs.Args()
		if len(args) > 0 {
			rest, args = append(rest, args[0]), args[1:]
		}
	}
	if len(rest) != want && (want >= 0 || len(rest) < -want) {
		if want == 0 {
			return nil, fmt.Errorf("%q does not belong here", strings.Join(rest, " "))
		}
		return nil, fmt.Errorf("name %s", what)
	}
	return rest, nil
}

// newFlags is a set of flags that prints nothing by itself.
func newFlags() *flag.FlagSet { return flag.NewFlagSet("", flag.ContinueOnError) }
