package testkit

import (
	"database/sql"
	"net"
	"os"
	"os/exec"
	"os/user"
	"path/filepath"
	"strconv"
	"testing"
	"time"

	"github.com/go-sql-driver/mysql"
	"github.com/stretchr/testify/require"
)

// MariaDB starts a server that forgets everything with the test, and returns its port and a connection that may do all.
// Its user "app" has the password "salt" and may read the database "plant".
func MariaDB(t testing.TB) (port int, admin *sql.DB) {
	base := "/dev/shm"
	if _, err := os.Stat(base); err != nil {
		base = os.TempDir()
	}
	folder, err := os.MkdirTemp(base, "oddspool-mariadb-")
	require.NoError(t, err)
	t.Cleanup(func() { _ = os.RemoveAll(folder) })
	as := "--user=root"
	if os.Geteuid() != 0 {
		me, err := user.Current()
		require.NoError(t, err)
		as = "--user=" + me.Username
	}
	data := "--datadir=" + filepath.Join(folder, "data")
	out, err := exec.Command("mariadb-install-db", "--no-defaults", as, data,
		"--auth-root-authentication-method=normal", "--skip-test-db").CombinedOutput()
	require.NoError(t, err, "run script/setup: %s", out)
	listener, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	port = listener.Addr().(*net.TCPAddr).Port
	require.NoError(t, listener.Close())
	server := exec.Command("mariadbd", "--no-defaults", as, data, "--bind-address=127.0.0.1",
		"--port="+strconv.Itoa(port), "--socket="+filepath.Join(folder, "socket"), "--innodb-flush-log-at-trx-commit=0")
	require.NoError(t, server.Start())
	t.Cleanup(func() {
		_ = server.Process.Signal(os.Interrupt)
		_ = server.Process.Kill()
		_ = server.Wait()
	})
	config := mysql.NewConfig()
	config.Net, config.Addr, config.User, config.MultiStatements, config.Logger = "unix",
		filepath.Join(folder, "socket"), "root", true, quiet{}
	connector, err := mysql.NewConnector(config)
	require.NoError(t, err)
	admin = sql.OpenDB(connector)
	t.Cleanup(func() { _ = admin.Close() })
	require.Eventually(t, func() bool { return admin.Ping() == nil }, 30*time.Second, 20*time.Millisecond,
		"MariaDB does not start")
	_, err = admin.Exec(`create database plant character set utf8mb4; create user app@'127.0.0.1' identified by 'salt'; grant select on plant.* to app@'127.0.0.1'`)
	require.NoError(t, err)
	return port, admin
}

type quiet struct{}

func (quiet) Print(...any) {}
