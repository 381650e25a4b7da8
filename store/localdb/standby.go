package localdb

import (
	"context"
	"fmt"
	"net/url"
	"os"
	"path/filepath"
)

// Standby starts a second server that follows this one: what is acknowledged here is written there too.
func (c *Cluster) Standby(ctx context.Context, dir string) (*Cluster, error) {
	s := &Cluster{bin: c.bin, dir: dir, data: filepath.Join(dir, "data"), run: c.run, durability: c.durability}
	if err := os.MkdirAll(dir, dirMode); err != nil {
		return nil, fmt.Errorf("make the folder of the standby: %w", err)
	}
	if err := s.run.own(dir); err != nil {
		return nil, err
	}
	if err := s.run.do(ctx, filepath.Join(c.bin, "pg_basebackup"), "--dbname", c.URL, "--pgdata", s.data,
		"--wal-method", "stream", "--checkpoint", "fast", "--write-recovery-conf", "--no-sync"); err != nil {
		return nil, err
	}
	address, err := url.Parse(c.URL)
	if err != nil {
		return nil, fmt.Errorf("read the address of the database: %w", err)
	}
	password, _ := address.User.Password()
	if err := s.startAnew(ctx, password); err != nil {
		return nil, err
	}
	for _, statement := range []string{"alter system set synchronous_standby_names = '*'", "select pg_reload_conf()"} {
		if err := c.run.do(ctx, filepath.Join(c.bin, "psql"), "--no-psqlrc", "--command", statement, c.URL); err != nil {
			return nil, err
		}
	}
	return s, nil
}

// Promote makes a standby a server that is written to.
func (c *Cluster) Promote(ctx context.Context) error {
	return c.run.do(ctx, filepath.Join(c.bin, "pg_ctl"), "promote", "-w", "-D", c.data)
}
