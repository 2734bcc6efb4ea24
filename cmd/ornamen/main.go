// Command ornamen is the bench for lead guitar lines: the web application and
// its command line.
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

// env is what a command may touch.
type env struct {
	out, err io.Writer
}

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
		`tones --key "C# minor pentatonic" [--add 9,b5] [--drop 4] [--layout L] [--at STRING:FRET] [--instrument ` +
			`NAME] [--tuning T] [--hand small|medium|large] [--json]`,
		"Lays a palette of tones out on the neck, with the bends it offers.",
		tones,
	},
	{
		"propose",
		"propose FILE [--pick alternate|economy|legato|free] [--angle down|up|either] [--place] [--best N] " +
			"[--instrument NAME] [--tuning T] [--hand small|medium|large] [--chords C] [--json]",
		"Finds fingers and strokes for a line, around what is locked.",
		proposeCommand,
	},
	{
		"run",
		`run --key "C# natural minor" --cell "3 2 1 4" [--add 9] [--drop 4] [--layout L] [--at STRING:FRET] [--move ` +
			`M] [--times N] [--bars N] [--dir up|down|updown|downup] [--turn once|twice] [--repeat N] [--start N] ` +
			`[--rotate N] [--count 4|8|8t|16|16t|16q|16s] [--accent N] [--feel straight|shuffle] [--displace ` +
			`1/4] [--chords "1 4 5"] [--scales "A, B"] [--tail CELL] [--pivot DEGREE] [--land ` +
			`DEGREE[@BEAT]] [--pick alternate|economy|legato|free] [--tempo N] [--instrument NAME] ` +
			`[--tuning T] [--hand small|medium|large] [--json|--tab]`,
		"Grows a line from a recipe.",
		runCommand,
	},
	{
		"ways",
		"ways FILE [--instrument NAME] [--tuning T] [--hand small|medium|large] [--chords C] [--json]",
		"Lists the ways to pick a line with their ceilings.",
		ways,
	},
	{
		"restring",
		"restring FILE [--pick alternate|economy|legato|free] [--instrument NAME] [--tuning T] [--hand " +
			"small|medium|large] [--chords C] [--json]",
		"Moves notes to neighbouring strings so that the way of picking comes out clean.",
		restring,
	},
	{
		"recipe",
		"recipe FILE [--instrument NAME] [--tuning T] [--hand small|medium|large] [--chords C] [--json]",
		"Finds the shortest recipe of a written line.",
		recipe,
	},
	{
		"turn",
		"turn FILE --how backwards|mirror|rotate:N|octave|-octave [--instrument NAME] [--tuning T] [--hand " +
			"small|medium|large] [--chords C] [--json]",
		"Turns a line round and finds its hands again.",
		turnCommand,
	},
	{
		"check",
		"check FILE [--tempo N] [--instrument NAME] [--tuning T] [--hand small|medium|large] [--chords C] [--json]",
		"Judges a line at its tempo; exits with 1 when it breaks.",
		check,
	},
	{
		"recolour",
		`recolour FILE --to "C# dorian" [--move nearest|same|octave] [--instrument NAME] [--tuning T] [--hand ` +
			`small|medium|large] [--chords C] [--json]`,
		"Moves a line to other tones.",
		recolour,
	},
	{
		"convert",
		"convert IN OUT [--tuning T] [--chords C] (.json or .tab, by file name)",
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
		"export FILE.zip [--db FILE]",
		"Writes the whole notebook as plain files in a zip: licks with their versions, tones, recipes, player.",
		exportAll,
	},
	{"import", "import FILE.zip [--db FILE]", "Adds what an export holds to the notebook.", importAll},
}

// errBreaks ends check on a lick that breaks; nothing more is printed.
var errBreaks = errors.New("the lick breaks")

func main() {
	ctx, stop := signal.NotifyContext(context.Background(), os.Interrupt, syscall.SIGTERM)
	defer stop()
	os.Exit(execute(ctx, env{os.Stdout, os.Stderr}, os.Args[1:]))
}

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

func (f fault) Error() string {
	return fmt.Sprintf("ornamen %s: a fault of the program, not of what was asked: %v\n%s", f.command, f.what, f.stack)
}

// guarded runs a command and tells a fault of the program from a wrong use of it.
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

func names() []string {
	out := make([]string, len(commands))
	for i, c := range commands {
		out[i] = c.name
	}
	return out
}

func oneLine(err error) string { return strings.Join(strings.Fields(err.Error()), " ") }

// parse reads flags wherever they stand among the arguments and returns the
// rest, of which there must be want.
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
	if len(rest) != want {
		if want == 0 {
			return nil, fmt.Errorf("%q does not belong here", strings.Join(rest, " "))
		}
		return nil, fmt.Errorf("name %s", what)
	}
	return rest, nil
}

func newFlags() *flag.FlagSet { return flag.NewFlagSet("", flag.ContinueOnError) }
