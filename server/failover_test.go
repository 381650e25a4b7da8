//go:build failover

package server_test

import (
	"bufio"
	"bytes"
	"context"
	"database/sql"
	"errors"
	"fmt"
	"net"
	"net/http"
	"os"
	"os/exec"
	"os/user"
	"path/filepath"
	"strconv"
	"strings"
	"syscall"
	"testing"
	"time"

	"github.com/google/uuid"
	_ "github.com/jackc/pgx/v5/stdlib"
)

// Devices log and people save while the machine that holds the database is lost again and again:
// pg_auto_failover makes its synchronous standby the one that is written to, and the lost one comes
// back as the standby. By hand, since each fail-over waits for the pair to be whole again:
//
// apt-get install pg-auto-failover-cli postgresql-15-auto-failover
// NEPHELON_FAILOVERS=30 go test -tags failover -run TestFailOverLosesNothing -v -timeout 60m ./server
func TestFailOverLosesNothing(t *testing.T) {
	p := startPair(t)
	e := endure(t, p.url, often("NEPHELON_DEVICES", 20), often("NEPHELON_PEOPLE", 20))
	heard := e.hears(e.jobs[len(e.jobs)-1])
	longest := time.Duration(0)
	for range often("NEPHELON_FAILOVERS", 3) {
		p.whole()
		for len(heard) > 0 {
			<-heard
		}
		e.some()
		begun, before := time.Now(), e.acknowledged()
		p.lose()
		for e.acknowledged() < before+2*e.clients { // those under way are acknowledged still
			if time.Since(begun) > 2*time.Minute {
				t.Fatal("nothing is acknowledged any more")
			}
			for len(e.taken) > 0 {
				<-e.taken
			}
			time.Sleep(20 * time.Millisecond)
		}
		took := time.Since(begun)
		longest = max(longest, took)
		t.Logf("written to again after %v", took.Round(time.Millisecond))
		select {
		case <-heard:
		case <-time.After(time.Minute):
			t.Error("live updates do not come any more")
		}
		p.revive()
	}
	if longest > 20*time.Second {
		t.Errorf("writing was away for %v", longest)
	}
	e.settle()
}

// hears returns the lines of the stream of changes of a job, as a browser hears them: a stream that
// ends is asked for again.
func (e *endurance) hears(job uuid.UUID) chan string {
	heard := make(chan string, 10_000)
	web := &http.Client{Jar: e.web.Jar}
	ctx, stop := context.WithCancel(context.Background())
	e.t.Cleanup(stop)
	go func() {
		for ctx.Err() == nil {
			request, err := http.NewRequestWithContext(ctx, http.MethodGet,
				"http://"+e.servers[0].address+"/api/jobs/"+job.String()+"/changes", nil)
			if err != nil {
				return
			}
			if answer, err := web.Do(request); err == nil {
				for lines := bufio.NewScanner(answer.Body); lines.Scan(); {
					if strings.HasPrefix(lines.Text(), "data:") {
						heard <- lines.Text()
					}
				}
				_ = answer.Body.Close()
			}
			time.Sleep(time.Second)
		}
	}()
	return heard
}

// pair is two databases, one the synchronous standby of the other, and what watches them.
type pair struct {
	t       *testing.T
	dir     string
	url     string
	monitor string // its address
	account *syscall.Credential
	nodes   []*node
}

// node is a PostgreSQL under pg_autoctl.
type node struct {
	data string
	port int
	run  *exec.Cmd
}

const pgBinaries = "/usr/lib/postgresql/15/bin"

func startPair(t *testing.T) *pair {
	t.Helper()
	p := &pair{t: t}
	if os.Geteuid() == 0 {
		p.account = postgresAccount(t)
	}
	// Not t.TempDir, which only its owner enters.
	p.dir = filepath.Join(os.TempDir(), "nephelon-pair-"+strconv.Itoa(os.Getpid()))
	for _, folder := range []string{p.dir, filepath.Join(p.dir, "run")} {
		if err := os.Mkdir(folder, 0o700); err != nil {
			t.Fatal(err)
		}
		if p.account != nil {
			if err := os.Chown(folder, int(p.account.Uid), int(p.account.Gid)); err != nil {
				t.Fatal(err)
			}
		}
	}
	t.Cleanup(func() { _ = os.RemoveAll(p.dir) })
	watcher := p.node("monitor", "monitor")
	p.monitor = fmt.Sprintf("postgres://autoctl_node@127.0.0.1:%d/pg_auto_failover?sslmode=disable", watcher.port)
	// As quick as one machine allows: a node is lost after two seconds without a word.
	p.settings(watcher, "pgautofailover.health_check_period = 500", "pgautofailover.health_check_timeout = 500",
		"pgautofailover.health_check_max_retries = 1", "pgautofailover.health_check_retry_delay = 200",
		"pgautofailover.node_considered_unhealthy_timeout = 2000", "pgautofailover.primary_demote_timeout = 2000",
		"pgautofailover.startup_grace_period = 2000")
	p.start(watcher)
	p.answers(p.monitor)
	var hosts []string
	for n := range 2 {
		one := p.node("postgres", fmt.Sprintf("node%d", n+1), "--name", fmt.Sprintf("node%d", n+1), "--monitor", p.monitor,
			"--dbname", "nephelon", "--username", "nephelon")
		p.settings(one, "max_connections = 120")
		p.start(one)
		p.nodes = append(p.nodes, one)
		hosts = append(hosts, fmt.Sprintf("127.0.0.1:%d", one.port))
	}
	p.url = "postgres://nephelon@" + strings.Join(hosts, ",") +
		"/nephelon?sslmode=disable&target_session_attrs=read-write&connect_timeout=2"
	p.whole()
	return p
}

func postgresAccount(t *testing.T) *syscall.Credential {
	t.Helper()
	account, err := user.Lookup("postgres")
	if err != nil {
		t.Fatal(err)
	}
	uid, err := strconv.Atoi(account.Uid)
	if err != nil {
		t.Fatal(err)
	}
	gid, err := strconv.Atoi(account.Gid)
	if err != nil {
		t.Fatal(err)
	}
	return &syscall.Credential{Uid: uint32(uid), Gid: uint32(gid)}
}

// command is one of pg_autoctl, as the account that PostgreSQL accepts, in a group of its own.
func (p *pair) command(ctx context.Context, arguments ...string) *exec.Cmd {
	c := exec.CommandContext(ctx, "pg_autoctl", arguments...)
	c.Dir = p.dir
	c.Env = []string{"PATH=" + pgBinaries + ":/usr/bin:/bin", "HOME=" + p.dir, "LANG=C.UTF-8",
		"XDG_CONFIG_HOME=" + filepath.Join(p.dir, "config"), "XDG_DATA_HOME=" + filepath.Join(p.dir, "share"),
		"XDG_RUNTIME_DIR=" + filepath.Join(p.dir, "run"), "PGHOST="}
	c.SysProcAttr = &syscall.SysProcAttr{Credential: p.account, Setpgid: true}
	return c
}

// node makes a database of a kind that pg_autoctl knows.
func (p *pair) node(kind, name string, more ...string) *node {
	p.t.Helper()
	l, err := net.Listen("tcp", "127.0.0.1:0")
	if err != nil {
		p.t.Fatal(err)
	}
	n := &node{data: filepath.Join(p.dir, name), port: l.Addr().(*net.TCPAddr).Port}
	_ = l.Close()
	// Trust serves a trial on loopback only: docs/running.md says what a real pair wants.
	made := p.command(p.t.Context(), append([]string{"create", kind, "--pgdata", n.data, "--pgport", strconv.Itoa(n.port),
		"--hostname", "127.0.0.1", "--auth", "trust", "--no-ssl"}, more...)...)
	if said, err := made.CombinedOutput(); err != nil {
		p.t.Fatalf("make %s: %v\n%s", name, err, said)
	}
	return n
}

// settings adds to the settings of a node; the last one of a name counts.
func (p *pair) settings(n *node, lines ...string) {
	p.t.Helper()
	f, err := os.OpenFile(filepath.Join(n.data, "postgresql.conf"), os.O_APPEND|os.O_WRONLY, 0)
	if err != nil {
		p.t.Fatal(err)
	}
	defer f.Close()
	lines = append(lines, "shared_buffers = 64MB", "listen_addresses = '127.0.0.1'")
	if _, err := f.WriteString("\n" + strings.Join(lines, "\n") + "\n"); err != nil {
		p.t.Fatal(err)
	}
}

func (p *pair) start(n *node) {
	p.t.Helper()
	n.run = p.command(context.Background(), "run", "--pgdata", n.data)
	log, err := os.OpenFile(n.data+".log", os.O_CREATE|os.O_APPEND|os.O_WRONLY, 0o600)
	if err != nil {
		p.t.Fatal(err)
	}
	n.run.Stdout, n.run.Stderr = log, log
	if err := n.run.Start(); err != nil {
		p.t.Fatal(err)
	}
	_ = log.Close()
	p.t.Cleanup(func() { p.kill(n) })
}

// kill ends a node as a power cut does: what watches it and the database, both at once.
func (p *pair) kill(n *node) {
	if n.run == nil {
		return
	}
	lock, err := os.ReadFile(filepath.Join(n.data, "postmaster.pid"))
	_ = syscall.Kill(-n.run.Process.Pid, syscall.SIGKILL)
	if first, _, ok := bytes.Cut(lock, []byte("\n")); err == nil && ok {
		if id, err := strconv.Atoi(string(first)); err == nil {
			_ = syscall.Kill(id, syscall.SIGKILL)
		}
	}
	_ = n.run.Wait()
	n.run = nil
}

// answers waits until a database does.
func (p *pair) answers(url string) {
	p.t.Helper()
	p.until("answers", func(ctx context.Context) error {
		_, err := p.ask(ctx, url, `select 'yes'`)
		return err
	})
}

// until waits for what comes true.
func (p *pair) until(what string, come func(ctx context.Context) error) {
	p.t.Helper()
	ctx, stop := context.WithTimeout(p.t.Context(), 2*time.Minute)
	defer stop()
	for {
		err := come(ctx)
		if err == nil {
			return
		}
		select {
		case <-ctx.Done():
			p.t.Fatalf("the pair of databases is not what it should be: %s: %v", what, err)
		case <-time.After(100 * time.Millisecond):
		}
	}
}

// ask reads one column of texts.
func (p *pair) ask(ctx context.Context, url, question string) ([]string, error) {
	db, err := sql.Open("pgx", url)
	if err != nil {
		return nil, err
	}
	defer db.Close()
	rows, err := db.QueryContext(ctx, question)
	if err != nil {
		return nil, err
	}
	defer rows.Close()
	var all []string
	for rows.Next() {
		var one string
		if err := rows.Scan(&one); err != nil {
			return nil, err
		}
		all = append(all, one)
	}
	return all, rows.Err()
}

// whole waits until one is written to and the other follows it synchronously.
func (p *pair) whole() {
	p.t.Helper()
	p.until("whole", func(ctx context.Context) error {
		states, err := p.ask(ctx, p.monitor, `select reportedstate::text from pgautofailover.node
			where reportedstate = goalstate order by 1`)
		if err == nil && strings.Join(states, " ") != "primary secondary" {
			err = errors.New(strings.Join(states, " "))
		}
		return err
	})
}

// lose kills the one that is written to.
func (p *pair) lose() {
	p.t.Helper()
	ports, err := p.ask(p.t.Context(), p.monitor, `select nodeport::text from pgautofailover.node
		where reportedstate = 'primary'`)
	if err != nil || len(ports) != 1 {
		p.t.Fatalf("which is written to: %v %v", ports, err)
	}
	for _, n := range p.nodes {
		if strconv.Itoa(n.port) == ports[0] {
			p.kill(n)
		}
	}
}

// revive starts what was lost.
func (p *pair) revive() {
	p.t.Helper()
	for _, n := range p.nodes {
		if n.run == nil {
			p.start(n)
		}
	}
}
