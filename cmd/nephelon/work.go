package main

import (
	"context"
	"errors"
	"flag"
	"fmt"
	"io"
	"log/slog"
	"os"

	"nephelon/server"
	"nephelon/store"
)

// runWork plans rosters that were asked for at servers on the same database, so that their saves need not share
// processors with it.
func runWork(ctx context.Context, arguments []string, _ io.Reader, out, complain io.Writer) error {
	f := flags("work", "-db URL [-pool URL] [-most N] [-plans SECONDS] [-log LEVEL]", complain)
	at, plans, logger := databaseFlags(f), plansFlag(f), logFlag(f, complain)
	most := f.Int("most", 1, "`number` of rosters planned at a time")
	if err := parse(f, arguments); err != nil {
		return err
	}
	if *most < 1 {
		return refusedError{fmt.Errorf("-most is %d: plan at least one roster at a time", *most)}
	}
	ctx, stop := stoppable(ctx)
	defer stop()
	records, err := at.open(ctx)
	if err != nil {
		return err
	}
	s, err := server.New(server.Options{Store: records, Plans: *plans, Log: logger()})
	if err != nil {
		return errors.Join(err, records.Close())
	}
	fmt.Fprintln(out, "Planning rosters that are asked for")
	s.Work(ctx, *most)
	return records.Close()
}

// database holds where records are.
type database struct{ url, pool *string }

func databaseFlags(f *flag.FlagSet) database {
	return database{
		url: urlFlag(f),
		pool: f.String("pool", os.Getenv("NEPHELON_POOL_URL"), "`URL` of a pool of connections to the database, such as "+
			"pgbouncer in transaction mode (or the environment's NEPHELON_POOL_URL); none when empty"),
	}
}

func (d database) open(ctx context.Context) (*store.Store, error) {
	if *d.url == "" {
		return nil, refusedError{errors.New("name the database with -db")}
	}
	return store.OpenThrough(ctx, *d.pool, *d.url)
}

func urlFlag(f *flag.FlagSet) *string {
	return f.String("db", os.Getenv("NEPHELON_DB"), "PostgreSQL `URL` (or the environment's NEPHELON_DB)")
}

func plansFlag(f *flag.FlagSet) *float64 {
	return f.Float64("plans", 0, "`seconds` that a plan of the roster may take at most; as asked, up to 20, when 0")
}

// logFlag names what is logged; the logger is made once flags are parsed.
func logFlag(f *flag.FlagSet, complain io.Writer) func() *slog.Logger {
	var level slog.Level
	f.TextVar(&level, "log", slog.LevelInfo, "what is logged, as JSON: `LEVEL` DEBUG, INFO, WARN or ERROR")
	return func() *slog.Logger {
		return slog.New(server.Numbering{Handler: slog.NewJSONHandler(complain, &slog.HandlerOptions{Level: level})})
	}
}
