package localdb

import (
	"context"
	"errors"
	"fmt"
	"net"
	"net/url"
	"os"
	"os/exec"
	"path/filepath"
	"strconv"
	"syscall"
	"time"
)

// Pool is a pgbouncer in front of a cluster, which gives each transaction any connection that is free.
type Pool struct {
	URL     string
	program *exec.Cmd
}

// Pool starts a pgbouncer in front of a cluster.
func (c *Cluster) Pool(ctx context.Context) (*Pool, error) {
	address, err := url.Parse(c.URL)
	if err != nil {
		return nil, fmt.Errorf("read the address of the database: %w", err)
	}
	port, err := freePort(ctx)
	if err != nil {
		return nil, err
	}
	password, _ := address.User.Password()
	users, settings := filepath.Join(c.dir, "pool-users"), filepath.Join(c.dir, "pool.ini")
	for file, text := range map[string]string{
		users: fmt.Sprintf("%q %q\n", address.User.Username(), password),
		settings: fmt.Sprintf("[databases]\n* = host=127.0.0.1 port=%d\n[pgbouncer]\nlisten_addr = 127.0.0.1\n"+
			"listen_port = %d\nunix_socket_dir =\nauth_type = plain\nauth_file = %s\npool_mode = transaction\n"+
			"default_pool_size = 12\nmax_client_conn = 200\nlogfile = %s\n", c.port, port, users,
			filepath.Join(c.dir, "pool.log")),
	} {
		if err := os.WriteFile(file, []byte(text), fileMode); err != nil {
			return nil, fmt.Errorf("write the settings of the pool: %w", err)
		}
		if err := c.run.own(file); err != nil {
			return nil, err
		}
	}
	p := &Pool{program: exec.Command("pgbouncer", "-q", settings)}
	if _, err := exec.LookPath("pgbouncer"); err != nil { // Debian keeps it where only root looks
		p.program = exec.Command("/usr/sbin/pgbouncer", "-q", settings)
	}
	p.program.Dir = "/"
	p.program.SysProcAttr = &syscall.SysProcAttr{Credential: c.run.credential, Setpgid: true}
	if err := p.program.Start(); err != nil {
		return nil, fmt.Errorf("start pgbouncer: %w", err)
	}
	address.Host = net.JoinHostPort("127.0.0.1", strconv.Itoa(port))
	p.URL = address.String()
	until := time.Now().Add(startTimeout)
	for {
		conn, err := new(net.Dialer).DialContext(ctx, "tcp", address.Host)
		if err == nil {
			return p, conn.Close()
		}
		if time.Now().After(until) || ctx.Err() != nil {
			return nil, errors.Join(fmt.Errorf("reach pgbouncer: %w", err), p.Stop())
		}
		time.Sleep(20 * time.Millisecond)
	}
}

// Stop ends the pool, with what goes through it.
func (p *Pool) Stop() error {
	if err := p.program.Process.Signal(syscall.SIGTERM); err != nil {
		return fmt.Errorf("stop pgbouncer: %w", err)
	}
	_ = p.program.Wait() // it ends by the signal
	return nil
}
