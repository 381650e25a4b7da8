package main

import (
	"archive/zip"
	"bufio"
	"context"
	"errors"
	"flag"
	"fmt"
	"io"
	"strconv"
	"strings"
	"time"

	"github.com/google/uuid"

	"nephelon/core/measure"
	"nephelon/core/record/ledger"
	"nephelon/demo"
	"nephelon/exchange"
	"nephelon/server/photos"
	"nephelon/server/sessions"
	"nephelon/store"
)

const shortestPassword = 12

// runDB adds a company with its owner, whose password is read from standard
// input so that it stays out of the list of processes.
func runDB(ctx context.Context, arguments []string, in io.Reader, out, complain io.Writer) (err error) {
	f := flags("db", "-db URL -company NAME -owner NAME -email ADDRESS < password", complain)
	url := urlFlag(f)
	company := f.String("company", "", "`name` of the company")
	owner := f.String("owner", "", "`name` of its owner")
	email := f.String("email", "", "`address` the owner signs in with")
	shelf := f.Bool("demo-shelf", false, "put the invented demo products on its shelf")
	if err := parse(f, arguments); err != nil {
		return err
	}
	if *url == "" || *company == "" || *owner == "" || !strings.Contains(*email, "@") {
		f.Usage()
		return refusedError{errors.New("name the database, the company, its owner and the owner's address")}
	}
	fmt.Fprintln(complain, "Password for the owner, one line:")
	line, err := bufio.NewReader(in).ReadString('\n')
	if err != nil && !errors.Is(err, io.EOF) {
		return fmt.Errorf("read the password: %w", err)
	}
	password := strings.TrimRight(line, "\r\n")
	if len(password) < shortestPassword {
		return refusedError{fmt.Errorf("the password needs at least %d characters", shortestPassword)}
	}
	if text := sessions.Weak(password, *company, *owner, *email); text != "" {
		return refusedError{errors.New(text)}
	}
	records, err := store.Open(ctx, *url)
	if err != nil {
		return err
	}
	defer func() { err = errors.Join(err, records.Close()) }()
	hash, err := sessions.HashPassword(password)
	if err != nil {
		return err
	}
	id, err := records.Found(ctx, *company, store.Person{Name: *owner, Email: *email, Role: store.Owner,
		PasswordHash: hash, Units: measure.Metric})
	if errors.Is(err, store.ErrEmailTaken) {
		return refusedError{fmt.Errorf("somebody signs in with %s already; name another address. Nothing was added", *email)}
	}
	if err != nil {
		return err
	}
	if *shelf {
		if err := demo.FillShelf(ctx, records, id); err != nil {
			return err
		}
	}
	fmt.Fprintf(out, "Added %s. %s signs in as %s.\n", *company, *owner, *email)
	return nil
}

// runCompany sets what whoever runs Nephelon decides of a company.
func runCompany(ctx context.Context, arguments []string, _ io.Reader, out, complain io.Writer) (err error) {
	f := flags("company", "-db URL -of ADDRESS [-bridge URL] [-quota GIGABYTES]", complain)
	of := f.String("of", "", "`address` that somebody of the company signs in with")
	var bridge *string
	f.Func("bridge", "`URL` of its instruments and weather, see docs/instruments.md; none when empty",
		func(text string) error {
			bridge = &text
			return nil
		})
	var quota *int64
	f.Func("quota", "how many `gigabytes` it may keep", func(text string) error {
		n, err := strconv.ParseFloat(text, 64)
		const least, most, giga = 0.001, 1e6, 1e9
		if err != nil || n < least || n > most {
			return fmt.Errorf("enter gigabytes between %g and %g", least, most)
		}
		bytes := int64(n * giga)
		quota = &bytes
		return nil
	})
	records, err := databaseOf(ctx, f, arguments)
	if err != nil {
		return err
	}
	defer func() { err = errors.Join(err, records.Close()) }()
	err = records.SetCompany(ctx, *of, bridge, quota)
	if errors.Is(err, store.ErrNotFound) {
		return nobody(*of)
	}
	if err == nil {
		fmt.Fprintf(out, "Set for the company of %s.\n", *of)
	}
	return err
}

func nobody(of string) error {
	return refusedError{fmt.Errorf("nobody signs in with %q; name somebody of the company with -of", of)}
}

// withCompany opens the database that the arguments name, finds the company of the person named by -of
// and calls do with both.
func withCompany(ctx context.Context, f *flag.FlagSet, arguments []string,
	do func(records *store.Store, company uuid.UUID, of string) error) (err error) {
	of := f.String("of", "", "`address` that somebody of the company signs in with")
	records, err := databaseOf(ctx, f, arguments)
	if err != nil {
		return err
	}
	defer func() { err = errors.Join(err, records.Close()) }()
	company, err := records.CompanyOf(ctx, *of)
	if errors.Is(err, store.ErrNotFound) {
		return nobody(*of)
	}
	if err != nil {
		return err
	}
	return do(records, company, *of)
}

// runExport writes all data of a company as one archive.
func runExport(ctx context.Context, arguments []string, _ io.Reader, out, complain io.Writer) error {
	f := flags("export", "-db URL -of ADDRESS > file.zip", complain)
	return withCompany(ctx, f, arguments, func(records *store.Store, company uuid.UUID, _ string) error {
		return records.Export(ctx, company, out)
	})
}

// runImport imports such an archive into an empty company.
func runImport(ctx context.Context, arguments []string, _ io.Reader, out, complain io.Writer) error {
	f := flags("import", "-db URL -of ADDRESS FILE.zip", complain)
	return withCompany(ctx, f, arguments, func(records *store.Store, company uuid.UUID, of string) error {
		archive, err := zip.OpenReader(f.Arg(0))
		if err != nil {
			return refusedError{fmt.Errorf("the archive cannot be read: %w", err)}
		}
		defer archive.Close()
		reader, err := exchange.NewReader()
		if err != nil {
			return err
		}
		report, err := records.Import(ctx, company, &archive.Reader, store.Checks{Plan: reader.Today, Photo: photos.Kept})
		if errors.Is(err, store.ErrNotEmpty) {
			err = errors.New("the company holds jobs, sheets, systems or stock already; import an archive into an empty one")
		}
		if err != nil {
			return refusedError{err}
		}
		fmt.Fprintf(out, "Imported into the company of %s. An owner opens the accounts of its people.\n", of)
		if report.Entries > 0 {
			fmt.Fprintln(out, "Records against their log: "+report.Words())
		}
		return nil
	})
}

// runBackup writes all records of a database as one file.
func runBackup(ctx context.Context, arguments []string, _ io.Reader, out, complain io.Writer) (err error) {
	f := flags("backup", "-db URL > file", complain)
	records, err := databaseOf(ctx, f, arguments)
	if err != nil {
		return err
	}
	defer func() { err = errors.Join(err, records.Close()) }()
	made, err := records.Backup(ctx, out)
	if err != nil {
		return err
	}
	tell(complain, "Written", made)
	return nil
}

// runRestore brings such a file into an empty database.
func runRestore(ctx context.Context, arguments []string, in io.Reader, _, complain io.Writer) (err error) {
	f := flags("restore", "-db URL < file", complain)
	records, err := databaseOf(ctx, f, arguments)
	if err != nil {
		return err
	}
	defer func() { err = errors.Join(err, records.Close()) }()
	made, err := records.Restore(ctx, bufio.NewReader(in))
	if err != nil {
		return refusedError{err}
	}
	tell(complain, "Restored", made)
	companies, err := records.Unchecked(ctx, time.Now())
	if err != nil {
		return err
	}
	for _, company := range companies {
		evidence, err := records.Evidence(ctx, company)
		if err != nil {
			return err
		}
		fmt.Fprintf(complain, "Company %s against its log: %s\n", company, ledger.Check(evidence, nil, nil).Words())
	}
	return nil
}

// databaseOf opens the database that the arguments name.
func databaseOf(ctx context.Context, f *flag.FlagSet, arguments []string) (*store.Store, error) {
	url := urlFlag(f)
	if err := parse(f, arguments); err != nil {
		return nil, err
	}
	if *url == "" {
		f.Usage()
		return nil, refusedError{errors.New("name the database with -db")}
	}
	return store.Open(ctx, *url)
}

// tell says what a backup holds.
func tell(to io.Writer, what string, m store.Manifest) {
	rows := int64(0)
	for _, t := range m.Tables {
		rows += t.Rows
	}
	fmt.Fprintf(to, "%s: %d rows of %d tables, as they stood at %s.\n", what, rows, len(m.Tables),
		m.At.Format(time.RFC3339))
}
