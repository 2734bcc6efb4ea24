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
	"strings"
	"syscall"
)

// Exit statuses: 1 is kept for check on a lick that breaks.
const (
	exitBreaks = 1
	exitUsage  = 2
)

// command is one word of the command line.
type command struct {
	name, usage string
	run         func(ctx context.Context, e env, args []string) error
}

// env is what a command may touch.
type env struct {
	out, err io.Writer
}

var commands = []command{
	{"serve", "serve [--addr 127.0.0.1:8080] [--db FILE]", serve},
	{"demo", "demo [--addr 127.0.0.1:8080] [--db FILE]", demoServe},
	{"tones", `tones --key "C# minor pentatonic" [--add 9,b5] [--drop 4] [--layout L] [--at STRING:FRET] [--json]`, tones},
	{"propose", "propose FILE [--pick alternate|economy|legato|free] [--angle down|up|either] [--place] [--best N] [--hand small|medium|large] [--json]", propose},
	{"run", `run --key "C# natural minor" --cell "3 2 1 4" [--add 9] [--drop 4] [--layout L] [--at STRING:FRET] [--move M] [--times N] [--bars N] [--dir up|down|updown|downup] [--turn once|twice] [--repeat N] [--start N] [--rotate N] [--count 4|8|8t|16|16t|16q|16s] [--accent N] [--feel straight|shuffle] [--displace 1/4] [--chords "1 4 5"] [--scales "A, B"] [--tail CELL] [--pivot DEGREE] [--land DEGREE[@BEAT]] [--pick alternate|economy|legato|free] [--tempo N] [--json|--tab]`, runCommand},
	{"ways", "ways FILE [--json]", ways},
	{"restring", "restring FILE [--pick alternate|economy|legato|free] [--json]", restring},
	{"recipe", "recipe FILE [--json]", recipe},
	{"turn", "turn FILE --how backwards|mirror|rotate:N|octave|-octave [--json]", turn},
	{"check", "check FILE [--tempo N] [--hand small|medium|large] [--json]", check},
	{"recolour", `recolour FILE --to "C# dorian" [--move nearest|same|octave] [--json]`, recolour},
	{"convert", "convert IN OUT (.json or .tab, by file name)", convert},
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
	for _, c := range commands {
		if c.name != args[0] {
			continue
		}
		err := c.run(ctx, e, args[1:])
		switch {
		case err == nil:
			return 0
		case errors.Is(err, errBreaks):
			return exitBreaks
		case errors.Is(err, flag.ErrHelp):
			fmt.Fprintln(e.out, "ornamen "+c.usage)
			return 0
		}
		fmt.Fprintln(e.err, "ornamen "+c.name+": "+oneLine(err))
		return exitUsage
	}
	fmt.Fprintf(e.err, "ornamen: %q is no command; use one of %s\n", args[0], strings.Join(names(), ", "))
	return exitUsage
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
