// Package localdb runs a private PostgreSQL server on loopback, from the
// binaries that Debian's packages install.
package localdb

import (
	"context"
	"crypto/rand"
	"errors"
	"fmt"
	"io/fs"
	"net"
	"net/url"
	"os"
	"os/exec"
	"os/user"
	"path/filepath"
	"slices"
	"strconv"
	"strings"
	"syscall"
	"time"
)

// ErrNotInstalled means that no PostgreSQL server was found on this machine.
var ErrNotInstalled = errors.New("no PostgreSQL server is installed: install Debian's package “postgresql”, for " +
	"example with `sudo apt-get install postgresql`")

const (
	superuser    = "nephelon"
	startTimeout = 60 * time.Second
	dirMode      = 0o700
	fileMode     = 0o600
)

// Cluster is a running private server.
type Cluster struct {
	URL        string // for database/sql with pgx
	bin        string
	dir        string
	data       string
	run        runner
	port       int
	durability Durability
}

// Durability says what a cluster may lose.
type Durability bool

// A Kept cluster survives a crash; a Scratch one is for tests.
const (
	Kept    Durability = true
	Scratch Durability = false
)

// Start runs the cluster kept in dir, making it first if there is none, on a
// free port of 127.0.0.1. As root it runs under the postgres account, since
// PostgreSQL refuses to run as root; dir must then be reachable by it.
func Start(ctx context.Context, dir string, durability Durability) (*Cluster, error) {
	bin, err := binaries()
	if err != nil {
		return nil, err
	}
	run, err := newRunner()
	if err != nil {
		return nil, err
	}
	if dir, err = filepath.Abs(dir); err != nil {
		return nil, fmt.Errorf("find the database folder: %w", err)
	}
	c := &Cluster{bin: bin, dir: dir, data: filepath.Join(dir, "data"), run: run, durability: durability}
	if err := os.MkdirAll(dir, dirMode); err != nil {
		return nil, fmt.Errorf("make the database folder: %w", err)
	}
	if err := run.own(dir); err != nil {
		return nil, err
	}
	secret := filepath.Join(dir, "password")
	if _, err := os.Stat(filepath.Join(c.data, "PG_VERSION")); errors.Is(err, fs.ErrNotExist) {
		if err := c.create(ctx, secret); err != nil {
			return nil, err
		}
	}
	password, err := os.ReadFile(secret)
	if err != nil {
		return nil, fmt.Errorf("read the database password: %w", err)
	}
	if c.running(ctx) { // left behind by a process that was killed
		if err := c.Stop(ctx); err != nil {
			return nil, err
		}
	}
	if err := c.startAnew(ctx, strings.TrimSpace(string(password))); err != nil {
		return nil, err
	}
	return c, nil
}

// startAnew runs the server on a free port.
func (c *Cluster) startAnew(ctx context.Context, password string) (err error) {
	if c.port, err = freePort(ctx); err != nil {
		return err
	}
	if err := c.start(ctx); err != nil {
		return err
	}
	address := url.URL{
		Scheme: "postgres", User: url.UserPassword(superuser, password),
		Host: net.JoinHostPort("127.0.0.1", strconv.Itoa(c.port)), Path: "postgres", RawQuery: "sslmode=disable",
	}
	c.URL = address.String()
	return nil
}

func (c *Cluster) create(ctx context.Context, secret string) error {
	if err := os.RemoveAll(c.data); err != nil {
		return fmt.Errorf("clear a half-made database: %w", err)
	}
	if err := os.WriteFile(secret, []byte(rand.Text()+"\n"), fileMode); err != nil {
		return fmt.Errorf("write the database password: %w", err)
	}
	if err := c.run.own(secret); err != nil {
		return err
	}
	return c.run.do(ctx, filepath.Join(c.bin, "initdb"), "--pgdata", c.data, "--username", superuser,
		"--pwfile", secret, "--auth", "scram-sha-256", "--encoding", "UTF8", "--locale", "C.UTF-8", "--no-sync",
		"--no-instructions")
}

// running reports whether the server runs.
func (c *Cluster) running(ctx context.Context) bool {
	return c.run.do(ctx, filepath.Join(c.bin, "pg_ctl"), "status", "-D", c.data) == nil
}

// Revive starts the server again, at the address it had, where it does not run any more, and
// tells whether that was so.
func (c *Cluster) Revive(ctx context.Context) (bool, error) {
	if c.running(ctx) {
		return false, nil
	}
	return true, c.start(ctx)
}

// Crash ends the server as a crash does: nothing is finished, nothing written that was not.
func (c *Cluster) Crash(ctx context.Context) error {
	return c.run.do(ctx, filepath.Join(c.bin, "pg_ctl"), "stop", "-w", "-m", "immediate", "-D", c.data)
}

// start runs the server and waits until it answers.
func (c *Cluster) start(ctx context.Context) error {
	settings := []string{
		"-c listen_addresses=127.0.0.1", "-c unix_socket_directories=", fmt.Sprintf("-c port=%d", c.port),
		"-c max_connections=60", "-c shared_buffers=64MB",
	}
	if c.durability == Scratch {
		settings = append(settings, "-c fsync=off", "-c synchronous_commit=off", "-c full_page_writes=off")
	}
	log := filepath.Join(c.dir, "server.log")
	if err := c.run.do(ctx, filepath.Join(c.bin, "pg_ctl"), "start", "-w", "-t", strconv.Itoa(int(startTimeout.Seconds())),
		"-D", c.data,
		"-l", log, "-o", strings.Join(settings, " ")); err != nil {
		return fmt.Errorf("%w; its log is %s", err, log)
	}
	return nil
}

// Stop ends the server, letting go of its clients.
func (c *Cluster) Stop(ctx context.Context) error {
	return c.run.do(ctx, filepath.Join(c.bin, "pg_ctl"), "stop", "-w", "-m", "fast", "-D", c.data)
}

// binaries finds the newest server that Debian installed, or the one on PATH.
func binaries() (string, error) {
	found, err := filepath.Glob("/usr/lib/postgresql/*/bin/pg_ctl")
	if err != nil {
		return "", fmt.Errorf("look for PostgreSQL: %w", err)
	}
	if len(found) > 0 {
		version := func(path string) int {
			n, _ := strconv.Atoi(filepath.Base(filepath.Dir(filepath.Dir(path))))
			return n
		}
		return filepath.Dir(slices.MaxFunc(found, func(a, b string) int { return version(a) - version(b) })), nil
	}
	if path, err := exec.LookPath("pg_ctl"); err == nil {
		return filepath.Dir(path), nil
	}
	return "", ErrNotInstalled
}

func freePort(ctx context.Context) (int, error) {
	l, err := new(net.ListenConfig).Listen(ctx, "tcp", "127.0.0.1:0")
	if err != nil {
		return 0, fmt.Errorf("find a free port: %w", err)
	}
	defer l.Close()
	return l.Addr().(*net.TCPAddr).Port, nil
}

// runner runs programs as an account that PostgreSQL accepts.
type runner struct{ credential *syscall.Credential }

func newRunner() (runner, error) {
	if os.Geteuid() != 0 {
		return runner{}, nil
	}
	account, err := user.Lookup("postgres")
	if err != nil {
		return runner{}, fmt.Errorf("PostgreSQL does not run as root, and %w", err)
	}
	uid, uidErr := strconv.ParseUint(account.Uid, 10, 32)
	gid, gidErr := strconv.ParseUint(account.Gid, 10, 32)
	if err := errors.Join(uidErr, gidErr); err != nil {
		return runner{}, fmt.Errorf("read the postgres account: %w", err)
	}
	return runner{&syscall.Credential{Uid: uint32(uid), Gid: uint32(gid)}}, nil
}

func (r runner) own(path string) error {
	if r.credential == nil {
		return nil
	}
	if err := os.Chown(path, int(r.credential.Uid), int(r.credential.Gid)); err != nil {
		return fmt.Errorf("give %s to the postgres account: %w", path, err)
	}
	return nil
}

// Reachable reports whether the account that runs the server can use a folder.
func Reachable(ctx context.Context, dir string) bool {
	run, err := newRunner()
	return err == nil && run.do(ctx, "test", "-x", dir) == nil
}

// do runs a program to its end. Its output goes to a file, not a pipe, which
// a server it leaves behind would hold open.
func (r runner) do(ctx context.Context, program string, arguments ...string) error {
	output, err := os.CreateTemp("", "nephelon-db-*.log")
	if err != nil {
		return fmt.Errorf("make a log for %s: %w", filepath.Base(program), err)
	}
	defer func() {
		_ = output.Close()
		_ = os.Remove(output.Name())
	}()
	command := exec.CommandContext(ctx, program, arguments...)
	command.Stdout, command.Stderr, command.Dir = output, output, "/"
	// A group of its own keeps a Ctrl-C meant for us away from the server,
	// which is stopped in its turn.
	command.SysProcAttr = &syscall.SysProcAttr{Credential: r.credential, Setpgid: true}
	if err := command.Run(); err != nil {
		said, _ := os.ReadFile(output.Name())
		return fmt.Errorf("%s: %w: %s", filepath.Base(program), err, strings.TrimSpace(string(said)))
	}
	return nil
}
