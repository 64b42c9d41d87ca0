// Package testkit gives tests a real PostgreSQL of their own: a throw-away cluster in memory, and
// for each test a database copied from one that was migrated once.
package testkit

import (
	"context"
	"fmt"
	"net"
	"os"
	"os/exec"
	"os/user"
	"path/filepath"
	"strconv"
	"strings"
	"sync/atomic"
	"testing"
	"time"

	"github.com/jackc/pgx/v5"
	"github.com/stretchr/testify/require"

	"oddspool/internal/sandbox"
	"oddspool/internal/store"
)

// A Cluster is a PostgreSQL server of the tests of one package.
type Cluster struct {
	folder  string
	port    int
	process *exec.Cmd
	serve   func() *exec.Cmd // its server, to be started
	count   atomic.Int64
}

var cluster *Cluster

// Main runs a package's tests with a cluster, and what is to be done after them; call it from TestMain.
func Main(m *testing.M, after ...func()) {
	sandbox.Main()
	c, err := start()
	if err != nil {
		fmt.Fprintln(os.Stderr, "PostgreSQL for the tests:", err)
		os.Exit(1)
	}
	cluster = c
	code := m.Run()
	c.stop()
	for _, do := range after {
		do()
	}
	os.Exit(code)
}

// start makes a cluster that forgets everything quickly: nothing of it outlives the tests.
func start() (*Cluster, error) {
	bins, _ := filepath.Glob("/usr/lib/postgresql/*/bin")
	if len(bins) == 0 {
		return nil, fmt.Errorf("it is not installed; run script/setup")
	}
	bin := bins[len(bins)-1]
	base := "/dev/shm"
	if _, err := os.Stat(base); err != nil {
		base = os.TempDir()
	}
	folder, err := os.MkdirTemp(base, "oddspool-test-")
	if err != nil {
		return nil, err
	}
	c := &Cluster{folder: folder}
	as := []string{}
	if os.Geteuid() == 0 { // PostgreSQL will not run as root
		owner, err := user.Lookup("postgres")
		if err != nil {
			return nil, err
		}
		uid, _ := strconv.Atoi(owner.Uid)
		gid, _ := strconv.Atoi(owner.Gid)
		if err := os.Chown(folder, uid, gid); err != nil {
			return nil, err
		}
		as = []string{"runuser", "-u", "postgres", "--"}
	}
	run := func(args ...string) *exec.Cmd {
		args = append(as, args...)
		command := exec.Command(args[0], args[1:]...)
		command.Dir = folder
		return command
	}
	data := filepath.Join(folder, "data")
	if out, err := run(bin+"/initdb", "-D", data, "-U", "app", "--auth=trust", "--encoding=UTF8", "--locale=C.UTF-8",
		"--no-sync").CombinedOutput(); err != nil {
		return nil, fmt.Errorf("initdb: %w\n%s", err, out)
	}
	listener, err := net.Listen("tcp", "127.0.0.1:0")
	if err != nil {
		return nil, err
	}
	c.port = listener.Addr().(*net.TCPAddr).Port
	if err := listener.Close(); err != nil {
		return nil, err
	}
	c.serve = func() *exec.Cmd {
		return run(bin+"/postgres", "-D", data, "-p", strconv.Itoa(c.port), "-c", "listen_addresses=127.0.0.1",
			"-c", "unix_socket_directories="+data, "-c", "fsync=off", "-c", "synchronous_commit=off", "-c",
			"full_page_writes=off",
			"-c", "autovacuum=off", "-c", "max_connections=200")
	}
	ctx := context.Background()
	if err := c.launch(ctx, `create database template_oddspool`); err != nil {
		c.stop()
		return nil, err
	}
	s, err := store.Open(ctx, c.address("template_oddspool"), 0)
	if err != nil {
		return nil, err
	}
	if err := s.Migrate(ctx); err != nil {
		return nil, err
	}
	return c, s.Close()
}

// launch starts the server and asks it something until it answers.
func (c *Cluster) launch(ctx context.Context, first string) error {
	for deadline := time.Now().Add(30 * time.Second); ; {
		// at first, or it gave up: another's memory is still there
		if c.process == nil || c.process.ProcessState != nil {
			c.process = c.serve()
			if err := c.process.Start(); err != nil {
				return err
			}
			go func(process *exec.Cmd) { _ = process.Wait() }(c.process)
		}
		conn, err := pgx.Connect(ctx, c.plain("postgres"))
		if err == nil {
			_, err = conn.Exec(ctx, first)
			conn.Close(ctx)
		}
		if err == nil || time.Now().After(deadline) {
			return err
		}
		time.Sleep(20 * time.Millisecond) // the server tells of its readiness only by answering
	}
}

// Crash kills the server of the tests, as a power cut of its machine would but for what its disk was told, and starts
// it anew. What is to outlive that is written by connections to Durable.
func Crash(t testing.TB) {
	require.NoError(t, cluster.signal(os.Kill))
	require.NoError(t, os.Remove(filepath.Join(cluster.folder, "data", "postmaster.pid")))
	cluster.process = nil
	require.NoError(t, cluster.launch(context.Background(), `select 1`))
}

// Durable returns an address of a database of the tests on which what is committed is told to the disk at once.
func Durable(address string) string { return address + "&synchronous_commit=on" }

// signal tells the server's first process something.
func (c *Cluster) signal(what os.Signal) error {
	pid, err := os.ReadFile(filepath.Join(c.folder, "data", "postmaster.pid"))
	if err != nil {
		return err
	}
	line, _, _ := strings.Cut(string(pid), "\n")
	n, err := strconv.Atoi(line)
	if err != nil {
		return err
	}
	p, err := os.FindProcess(n)
	if err != nil {
		return err
	}
	return p.Signal(what)
}

func (c *Cluster) stop() {
	_ = c.signal(os.Interrupt) // fast shutdown
	for deadline := time.Now().Add(10 * time.Second); time.Now().Before(deadline); time.Sleep(5 * time.Millisecond) {
		if _, err := os.Stat(filepath.Join(c.folder, "data", "postmaster.pid")); err != nil {
			break
		}
	}
	_ = os.RemoveAll(c.folder)
}

func (c *Cluster) plain(database string) string {
	return fmt.Sprintf("postgres://app@127.0.0.1:%d/%s?sslmode=disable", c.port, database)
}

func (c *Cluster) address(database string) string { return c.plain(database) + "&pool_max_conns=20" }

// Address makes a migrated database and returns its address.
func Address(t testing.TB) string {
	ctx := context.Background()
	name := fmt.Sprintf("test_%d", cluster.count.Add(1))
	conn, err := pgx.Connect(ctx, cluster.plain("postgres"))
	require.NoError(t, err)
	defer conn.Close(ctx)
	_, err = conn.Exec(ctx, "create database "+name+" template template_oddspool strategy file_copy")
	require.NoError(t, err)
	return cluster.address(name)
}

// Store makes a migrated database and opens it until the test ends.
func Store(t testing.TB) *store.Store {
	s, err := store.Open(context.Background(), Address(t), 0)
	require.NoError(t, err)
	t.Cleanup(func() { _ = s.Close() })
	return s
}

// SameAddress returns the address of the database that a store of the tests has open.
func SameAddress(t testing.TB, s *store.Store) string {
	var name string
	require.NoError(t, s.DB.Get(&name, `select current_database()`))
	return cluster.address(name)
}
