package main

import (
	"archive/zip"
	"bytes"
	"context"
	"errors"
	"fmt"
	"io"
	"maps"
	"os"
	"slices"

	"nephelon/core/record/ledger"
	"nephelon/exchange"
	"nephelon/store"
)

// runVerify checks an exported record, an archive of a company or a backup against the log in it,
// and against heads that were kept outside. It needs no server.
func runVerify(_ context.Context, arguments []string, _ io.Reader, out, complain io.Writer) error {
	f := flags("verify", "[-key KEY]… [-head FILE]… FILE", complain)
	var keys, headFiles []string
	f.Func("key", "public `key` that may have signed, as a hand-over prints it; those that the file names when left out",
		into(&keys))
	f.Func("head", "`file` with heads that were kept outside, one after the other", into(&headFiles))
	if err := parse(f, arguments); err != nil {
		return err
	}
	text, err := os.ReadFile(f.Arg(0))
	if err != nil {
		return refusedError{fmt.Errorf("name an exported record, an archive or a backup: %w", err)}
	}
	var outside []string
	for _, name := range headFiles {
		kept, err := os.ReadFile(name)
		if err != nil {
			return refusedError{fmt.Errorf("read the heads: %w", err)}
		}
		outside = append(outside, ledger.Notes(string(kept))...)
	}
	of, err := evidenceIn(text)
	if err != nil {
		return refusedError{err}
	}
	faults := 0
	for _, company := range slices.Sorted(maps.Keys(of)) {
		report := ledger.Check(of[company], keys, outside)
		faults += len(report.Faults)
		if company != "" {
			fmt.Fprintf(out, "Company %s\n", company)
		}
		fmt.Fprintln(out, report.Words())
		for _, fault := range report.Faults {
			fmt.Fprintf(out, "  %s  job %s: %s\n", fault.Kind, fault.Job, fault.Text)
		}
		if h := report.Head; h != nil {
			fmt.Fprintf(out, "Checked against the head of %s, %d entries, signed by %s, and %d heads from outside.\n",
				h.At.Format("2 Jan 2006 15:04 UTC"), h.Size, report.Key, report.Outside)
		}
	}
	if len(keys) == 0 || len(outside) == 0 {
		fmt.Fprintln(out, "Whoever holds the server's key can write a whole log anew: only a head kept outside (-head) and "+
			"the key from a hand-over (-key) show that.")
	}
	if faults > 0 {
		return errors.New("the records do not fit their log")
	}
	return nil
}

// evidenceIn reads what a check looks at from a file, by company; a record names none.
func evidenceIn(text []byte) (map[string]ledger.Evidence, error) {
	switch {
	case bytes.HasPrefix(text, []byte("PK")):
		z, err := zip.NewReader(bytes.NewReader(text), int64(len(text)))
		if err != nil {
			return nil, fmt.Errorf("the archive cannot be read: %w", err)
		}
		e, err := store.ArchiveEvidence(z)
		return map[string]ledger.Evidence{"": e}, err
	case bytes.HasPrefix(text, []byte{0x1f, 0x8b}):
		return store.BackupEvidence(bytes.NewReader(text))
	}
	e, err := exchange.RecordEvidence(text)
	return map[string]ledger.Evidence{"": e}, err
}

// into adds what a flag is given to a list, each time it is.
func into(all *[]string) func(string) error {
	return func(text string) error {
		*all = append(*all, text)
		return nil
	}
}
