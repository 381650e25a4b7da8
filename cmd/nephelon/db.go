package main

import (
	"bufio"
	"context"
	"errors"
	"fmt"
	"io"
	"os"
	"strings"

	"nephelon/core/measure"
	"nephelon/demo"
	"nephelon/server"
	"nephelon/store"
)

const shortestPassword = 10

// runDB adds a company with its owner, whose password is read from standard
// input so that it stays out of the list of processes.
func runDB(ctx context.Context, arguments []string, in io.Reader, out, complain io.Writer) (err error) {
	f := flags("db", "-db URL -company NAME -owner NAME -email ADDRESS < password", complain)
	url := f.String("db", os.Getenv("NEPHELON_DB"), "PostgreSQL `URL` (or the environment's NEPHELON_DB)")
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
	records, err := store.Open(ctx, *url)
	if err != nil {
		return err
	}
	defer func() { err = errors.Join(err, records.Close()) }()
	hash, err := server.HashPassword(password)
	if err != nil {
		return err
	}
	id, err := records.AddCompany(ctx, *company)
	if err != nil {
		return err
	}
	if _, err := records.AddPerson(ctx, store.Person{CompanyID: id, Name: *owner, Email: *email, Role: store.Owner, PasswordHash: hash, Units: measure.Metric}); err != nil {
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
