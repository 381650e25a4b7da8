// Nephelon plans coating work: from a tape measure to a mix card.
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
	_ "time/tzdata" // time zones on machines that have none
)

const usage = `nephelon plans multi-coat resin systems.

  nephelon demo      start everything on this machine, with demo data
  nephelon serve     serve the application on a given PostgreSQL
  nephelon work      plan rosters that are asked for, apart from the servers
  nephelon plan F    print the plan of a plan file as JSON (- reads standard input)
  nephelon buy F…    print what several plan files buy in one purchase as JSON
  nephelon pour F    print who does what when in the pour of a coat, and the odds, as JSON
  nephelon roster F  schedule the tasks of many jobs over crews and days as JSON
  nephelon cure F    print how a bucket of mix cures as JSON (- reads standard input)
  nephelon db        add a company and its owner to a database
  nephelon company   set a company's instruments, weather and quota
  nephelon export    write all data of a company as one archive
  nephelon import F  bring such an archive into a company that holds nothing yet
  nephelon backup    write all records of a database as one file
  nephelon restore   bring such a file into an empty database
  nephelon verify F  check a record, archive or backup against its log and heads kept outside
  nephelon sheet F   read a maker's data sheet, PDF or text, as JSON (- reads standard input)
  nephelon generate  write what the interface is built from

Run one with -h for what it takes.
`

// Exit codes.
const (
	exitFailed  = 1
	exitRefused = 2
	exitNoPlan  = 3
)

// refusedError is bad input: the message is for the person who gave it.
type refusedError struct{ error }

func main() {
	os.Exit(run(context.Background(), os.Args[1:], os.Stdin, os.Stdout, os.Stderr))
}

// stoppable ends a context by Ctrl-C and SIGTERM, for what has to put things away
// first. All other commands just end.
func stoppable(ctx context.Context) (context.Context, context.CancelFunc) {
	return signal.NotifyContext(ctx, os.Interrupt, syscall.SIGTERM)
}

func run(ctx context.Context, arguments []string, in io.Reader, out, complain io.Writer) int {
	command := map[string]func(context.Context, []string, io.Reader, io.Writer, io.Writer) error{
		"demo": runDemo, "serve": runServe, "work": runWork, "plan": runPlan, "buy": runBuy, "cure": runCure, "pour": runPour,
		"roster": runRoster, "db": runDB, "company": runCompany, "export": runExport, "import": runImport,
		"backup": runBackup, "restore": runRestore, "verify": runVerify, "sheet": runSheet, pdfLines: runPDFLines,
		"generate": runGenerate,
	}
	if len(arguments) == 0 || command[arguments[0]] == nil {
		fmt.Fprint(complain, usage)
		return exitRefused
	}
	err := command[arguments[0]](ctx, arguments[1:], in, out, complain)
	var refused refusedError
	switch {
	case err == nil, errors.Is(err, flag.ErrHelp):
		return 0
	case errors.As(err, &refused):
		fmt.Fprintln(complain, err)
		return exitRefused
	}
	if none := (conflictError{}); errors.As(err, &none) {
		fmt.Fprintln(complain, err)
		return exitNoPlan
	}
	fmt.Fprintln(complain, "nephelon:", err)
	return exitFailed
}

// flags makes the flag set of a command.
func flags(name, synopsis string, complain io.Writer) *flag.FlagSet {
	f := flag.NewFlagSet(name, flag.ContinueOnError)
	f.SetOutput(complain)
	f.Usage = func() {
		fmt.Fprintf(complain, "usage: nephelon %s %s\n", name, synopsis)
		f.PrintDefaults()
	}
	return f
}

// parse reads the flags; a bad one is a refusal already told.
func parse(f *flag.FlagSet, arguments []string) error {
	err := f.Parse(arguments)
	if err == nil || errors.Is(err, flag.ErrHelp) {
		return err
	}
	return refusedError{err}
}
