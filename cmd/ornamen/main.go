// Command ornamen is the bench for lead guitar lines: the web application and its command line.
//
// # How commands behave
//
// What a command finds goes to standard output, as text for people or with --json as one line of JSON whose fields are
// a contract: none is renamed or changes its meaning. What a reader of a file has chosen or left out, and why a command
// could not, goes to standard error, one line each. Nothing asks back, so that every command can stand in a script.
//
// Exit statuses: 0 done; 1 check, on a lick that breaks; 2 a wrong use, a file that cannot be read, a line that cannot
// be what was asked; 70 a fault of the program, with where it happened; 130 stopped by Ctrl-C.
//
// Flags may stand anywhere among the arguments. Commands on a file leave it as it is and print what became of it; those
// on a notebook (--db, else the player's own) write it as the application does: every change is a version more.
//
// # A new command
//
// A row in commands, a file of its name, its word in the README: a test holds the three together.
// The room is larger than others because every command is a file of it; none knows another.
package main

import (
	"cmp"
	"context"
	"errors"
	"fmt"
	"io"
	"math"
	"os"
	"os/signal"
	"runtime/debug"
	"strings"
	"syscall"
	"text/tabwriter"
	"time"

	"ornamen/core/text"

	"github.com/spf13/pflag"
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
	name  string
	args  string // what it takes beside options
	about string // what it does, in a sentence
	run   func(ctx context.Context, e env, args []string) error
}

// words explain the little language that a command's arguments are in, one a line, below its options.
var words = map[string]func() string{"edit": editWords}

// env is what a command may touch: the tests give it two buffers and a clock. Files and
// notebooks are named by its arguments.
type env struct {
	out, err io.Writer
	now      func() time.Time // in the player's time zone
}

// commands are what the program does, in the order in which help lists them. A new one is
// one row and a file of its name.
var commands = []command{
	{name: "serve", about: "Opens your own notebook in the browser.", run: serve},
	{name: "demo", about: "Opens the demo notebook in a fresh file.", run: demoServe},
	{name: "tones", about: "Lays a palette of tones out on the neck, with the bends it offers.", run: tones},
	{
		name:  "propose",
		args:  "FILE",
		about: "Finds fingers and strokes for a line, around what is locked.",
		run:   proposeCommand,
	},
	{
		name:  "suit",
		args:  "FILE",
		about: "Finds hands, places and keys that suit a player better.",
		run:   suitCommand,
	},
	{name: "run", about: "Grows a line from a recipe.", run: runCommand},
	{name: "ways", args: "FILE", about: "Lists the ways to pick a line with their ceilings.", run: ways},
	{
		name:  "restring",
		args:  "FILE",
		about: "Moves notes to neighbouring strings so that the way of picking comes out clean.",
		run:   restring,
	},
	{name: "recipe", args: "FILE", about: "Finds the shortest recipe of a written line.", run: recipe},
	{name: "turn", args: "FILE", about: "Turns a line round and finds its hands again.", run: turnCommand},
	{
		name:  "join",
		args:  "A [B]",
		about: "Lets one line follow another, from its end or from one of its notes on, and finds the hands again.",
		run:   join,
	},
	{
		name: "edit",
		args: `FILE "[NOTES] DO [VALUE]"...`,
		about: "Changes a line by the words of the bench, one edit after the other: " +
			"\"3 finger 2\", \"3-8 move 2 frets\", \"tempo 120\".",
		run: editCommand,
	},
	{
		name:  "mend",
		args:  "FILE",
		about: "Lists the fixes of a line's findings, or takes one of them.",
		run:   mendCommand,
	},
	{
		name:  "bends",
		args:  "FILE",
		about: "Lists what else the bend of a note could be, or takes one of them.",
		run:   bendsCommand,
	},
	{
		name:  "tails",
		args:  "FILE",
		about: "Lists other ends of a line after a note, or takes one of them.",
		run:   tailsCommand,
	},
	{name: "check", args: "FILE", about: "Judges a line at its tempo; exits with 1 when it breaks.", run: check},
	{
		name:  "play",
		args:  "FILE > FILE.wav",
		about: "Writes a line as it sounds, as WAV: with bass and drums, its chords held, overdriven.",
		run:   play,
	},
	{
		name:  "listen",
		args:  "FILE.wav",
		about: "Writes a line of single notes that was played down as a lick.",
		run:   listen,
	},
	{
		name:  "changes",
		args:  "FILE",
		about: "Reads a line against the chords under it: roles, landings, what fits; or moves it over them.",
		run:   changesCommand,
	},
	{
		name: "players",
		args: "[add NAME|rename NAME|remove NAME]",
		about: "Lists the players of a notebook, adds one, or takes one out; " +
			"what was theirs is kept.",
		run: playersCommand,
	},
	{
		name:  "set",
		args:  "[NAME]",
		about: "Prints a set of licks, a week's homework or a concert, makes one, or changes it.",
		run:   setCommand,
	},
	{
		name: "practice",
		args: "plan|ladder LICK|log|calibrate|read FILE|report FILE",
		about: "Prints the plan of today or another day, " +
			"the practice log, the player's own numbers from it or from a file, adds a log or a student's report from a " +
			"file, or writes a report.",
		run: practiceCommand,
	},
	{name: "recolour", args: "FILE", about: "Moves a line to other tones.", run: recolour},
	{
		name: "convert",
		args: "IN OUT",
		about: "Writes a line in another format, both told by their endings: .json .tab .txt .mid .musicxml " +
			".mxl, and to write also .svg .html .wav.",
		run: convert,
	},
	{
		name:  "backup",
		args:  "FILE",
		about: "Writes the whole notebook as one file; it may be open meanwhile.",
		run:   backup,
	},
	{
		name:  "restore",
		args:  "FILE",
		about: "Puts a backup in the notebook's place and keeps what was there beside it.",
		run:   restore,
	},
	{
		name: "export",
		args: "FILE",
		about: "Writes one lick as a file or, as FILE.zip, the whole notebook: licks with their versions, tones, " +
			"recipes, player.",
		run: exportCommand,
	},
	{
		name:  "import",
		args:  "FILE",
		about: "Adds a lick, or all that an export holds, to the notebook.",
		run:   importCommand,
	},
	{name: "licks", about: "Lists the licks of the notebook.", run: licks},
	{
		name:  "versions",
		args:  "LICK",
		about: "Lists the versions of a lick, named by its number or title, or goes back to one of them.",
		run:   versions,
	},
}

// errBreaks ends check on a lick that breaks; nothing more is printed.
var errBreaks = errors.New("the lick breaks")

// main ends with the status of execute; Ctrl-C ends the context once, a second time the process.
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
			fmt.Fprintf(w, "  %-9s %s\n", c.name, c.about)
		}
		fmt.Fprintln(w, "ornamen COMMAND --help lists the options of one.")
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
		case errors.As(err, new(helpAsked)):
			fmt.Fprint(e.out, c.help())
			return 0
		case errors.As(err, new(fault)):
			fmt.Fprintln(e.err, err)
			return exitFault
		case ctx.Err() != nil:
			fmt.Fprintln(e.err, "ornamen "+c.name+": stopped")
			return exitStopped
		}
		fmt.Fprintln(e.err, "ornamen "+c.name+": "+strings.Join(strings.Fields(err.Error()), " "))
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

// guarded runs a command and tells a fault of the program from a wrong use of it: a panic becomes a fault, which has a
// status of its own, so that a script does not take one for the other.
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
	return text.Map(commands, func(c command) string { return c.name })
}

// helpAsked ends a command that was asked what it knows, with its options.
type helpAsked struct{ options *pflag.FlagSet }

// Error implements error.
func (helpAsked) Error() string { return "help was asked for" }

// options are those that a command declares: it is asked for help, which it answers before anything else.
func (c command) options() *pflag.FlagSet {
	var help helpAsked
	idle := env{io.Discard, io.Discard, func() time.Time { return time.Time{} }}
	if err := c.run(context.Background(), idle, []string{"--help"}); !errors.As(err, &help) {
		panic(c.name + " does not say what it knows") // a command that does not parse its options
	}
	return help.options
}

// help is how a command is used, what it does, and each of its options on a line of its own.
func (c command) help() string {
	text := "ornamen " + c.name
	if c.args != "" {
		text += " " + c.args
	}
	var b strings.Builder
	b.WriteString(text + " [options]\n" + c.about + "\n\n")
	w := tabwriter.NewWriter(&b, 0, 0, 2, ' ', 0)
	c.options().VisitAll(func(f *pflag.Flag) {
		value, what := optionText(f)
		fmt.Fprintf(w, "  --%s\t%s\n", strings.TrimSpace(f.Name+" "+value), what)
	})
	w.Flush() // to memory: it cannot fail
	if explain, ok := words[c.name]; ok {
		b.WriteString(explain())
	}
	return b.String()
}

// optionText is the name of an option's value, as its text gives it between backquotes, and what the
// option does, with its default.
func optionText(f *pflag.Flag) (value, what string) {
	what = f.Usage
	if rest, ok := strings.CutPrefix(what, "`"); ok {
		value, what, _ = strings.Cut(rest, "` ")
	}
	if f.DefValue != "" && f.DefValue != "0" && f.DefValue != "false" {
		what += " (" + f.DefValue + " if left out)"
	}
	return value, what
}

// anyNumber of arguments may stand beside the options.
const anyNumber = math.MaxInt

// parse reads options wherever they stand among the arguments and returns the
// rest, of which there must be want, or at least so many where want is negative.
func parse(fs *pflag.FlagSet, args []string, want int, what string) ([]string, error) {
	if err := fs.Parse(args); errors.Is(err, pflag.ErrHelp) {
		return nil, helpAsked{fs}
	} else if err != nil {
		return nil, misused(err)
	}
	rest := fs.Args()
	switch {
	case want == anyNumber || len(rest) == want || want < 0 && len(rest) >= -want:
		return rest, nil
	case want == 0:
		return nil, fmt.Errorf("%q does not belong here", strings.Join(rest, " "))
	}
	return nil, fmt.Errorf("name %s", what)
}

// misused says in the player's words how an option was used wrongly.
func misused(err error) error {
	var none *pflag.NotExistError
	var invalid *pflag.InvalidValueError
	var empty *pflag.ValueRequiredError
	var syntax *pflag.InvalidSyntaxError
	switch {
	case errors.As(err, &none):
		return fmt.Errorf("there is no option %q; --help lists those there are", none.GetSpecifiedName())
	case errors.As(err, &empty):
		return fmt.Errorf("--%s wants a value", empty.GetSpecifiedName())
	case errors.As(err, &syntax):
		return fmt.Errorf("%q is no option", syntax.GetSpecifiedFlag())
	case errors.As(err, &invalid) && invalid.GetFlag().Value.Type() == "argument":
		return errors.Unwrap(invalid) // of a recipe, in its own words
	case errors.As(err, &invalid):
		words := map[string]string{"bool": "neither true nor false", "float64": "no number"}
		not := words[invalid.GetFlag().Value.Type()]
		return fmt.Errorf("--%s %s: that is %s", invalid.GetFlag().Name, invalid.GetValue(),
			cmp.Or(not, "no whole number"))
	}
	return err
}

// newFlags is a set of options that prints nothing by itself, in the order in which they are declared.
func newFlags() *pflag.FlagSet {
	fs := pflag.NewFlagSet("", pflag.ContinueOnError)
	fs.SortFlags = false
	fs.SetOutput(io.Discard)
	fs.Usage = func() {}
	return fs
}
