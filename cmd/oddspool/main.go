// Command oddspool designs, checks and prints labels: the server and its tools.
package main

import (
	"context"
	"errors"
	"flag"
	"fmt"
	"io"
	"os"
	"os/signal"
	"syscall"

	"oddspool/core/typefaces"
	"oddspool/core/typeset"
	"oddspool/internal/sandbox"
)

// A command is one verb of the program.
type command struct {
	name, summary string
	run           func(ctx context.Context, c *console, args []string) error
}

// console is where a command reads and writes.
type console struct {
	out, err io.Writer
}

// errFound is the outcome of a check that found errors: exit code 1 without a message of its own.
var errFound = errors.New("errors were found")

// A usageError is a wrong call: exit code 2.
type usageError struct{ text string }

func (e *usageError) Error() string { return e.text }

// A sentenceError says what is wrong with what was looked at, to whoever asked: exit code 1.
type sentenceError struct{ text string }

func (e *sentenceError) Error() string { return e.text }

func commands() []command {
	return []command{
		{"render", "draw labels into PNG, SVG, PDF or PWG raster files", render},
		{"proof", "say what is wrong with the labels of some records", proofCommand},
		{"records", "read a file with records, and say how it was read", recordsCommand},
		{"formula", "compute a formula over records, or list its functions", formulaCommand},
		{"series", "print the numbers that a series gives", seriesCommand},
		{"fit", "say whether a printer takes a stock, and a design on it", fit},
		{"code", "write one code, list the symbologies, or read a picture back", codeCommand},
		{"stock", "look stocks up in the catalogue", stockCommand},
		{"symbol", "list the symbols of the library, or draw one", symbolCommand},
		{"hazard", "say what stands on the label of a chemical, and why", hazardCommand},
		{"pipe", "say how a pipe is marked", pipeCommand},
		{"sign", "say how large a sign is for a distance", signCommand},
		{"reference", "write, check or unpack a reference pack: symbols, hazards, messages", referenceCommand},
		{"epc", "encode an identifier for an RFID tag, or read a tag's memory", epcCommand},
		{"serve", "serve the application", serve},
		{"migrate", "bring a database up to date", migrate},
		{"account", "add an account, or give it a new password", account},
		{"standin", "stand in for a label printer", standIn},
	}
}

func main() {
	sandbox.Main() // the process of a piece of work goes no further
	ctx, stop := signal.NotifyContext(context.Background(), os.Interrupt, syscall.SIGTERM)
	defer stop()
	typeset.Later(func() { // reading them takes longer than a code of one label
		// labels in other scripts than these files' print all the same
		if err := typefaces.AddFolder(typefaces.Beside()); err != nil {
			fmt.Fprintln(os.Stderr, "oddspool: typefaces beside the program are left out:", err)
		}
	})
	os.Exit(run(ctx, &console{os.Stdout, os.Stderr}, os.Args[1:]))
}

// run does what the arguments say and returns the exit code: 0 done, 1 errors found in what was
// looked at, 2 it could not be done.
func run(ctx context.Context, c *console, args []string) int {
	if len(args) == 0 || args[0] == "help" || args[0] == "-h" || args[0] == "--help" {
		usage(c.out)
		return 0
	}
	for _, command := range commands() {
		if command.name != args[0] {
			continue
		}
		err := command.run(ctx, c, args[1:])
		switch {
		case err == nil, errors.Is(err, flag.ErrHelp):
			return 0
		case errors.Is(err, errFound):
			return 1
		case errors.As(err, new(*sentenceError)):
			fmt.Fprintln(c.err, err)
			return 1
		}
		fmt.Fprintf(c.err, "oddspool %s: %v\n", command.name, err)
		return 2
	}
	fmt.Fprintf(c.err, "oddspool: there is no command %q\n\n", args[0])
	usage(c.err)
	return 2
}

func usage(w io.Writer) {
	fmt.Fprintln(w, "oddspool designs, checks and prints labels.\n\nCommands (each with -h):")
	for _, command := range commands() {
		fmt.Fprintf(w, "  %-8s %s\n", command.name, command.summary)
	}
}

// flags parses a command's flags and refuses what is left over.
func flags(c *console, name string, args []string, define func(*flag.FlagSet)) error {
	set := flag.NewFlagSet("oddspool "+name, flag.ContinueOnError)
	set.SetOutput(c.err)
	define(set)
	if err := set.Parse(args); err != nil {
		if errors.Is(err, flag.ErrHelp) {
			return err
		}
		return &usageError{err.Error()}
	}
	if set.NArg() > 0 {
		return &usageError{fmt.Sprintf("%q is not understood; flags come with a dash, such as -out", set.Arg(0))}
	}
	return nil
}
