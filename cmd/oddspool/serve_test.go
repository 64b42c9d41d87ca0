package main

import (
	"bufio"
	"bytes"
	"encoding/json"
	"fmt"
	"io"
	"net/http"
	"net/http/cookiejar"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"oddspool/internal/demo"
	"oddspool/internal/press/pwg"
	"oddspool/internal/testkit"
	"oddspool/standin"
)

func TestMain(m *testing.M) {
	testkit.Main(m, func() { _ = os.RemoveAll(programFolder) })
}

var programFolder string

var built = sync.OnceValues(func() (binary string, err error) {
	if programFolder, err = os.MkdirTemp("", "oddspool-program-"); err != nil {
		return "", err
	}
	binary = filepath.Join(programFolder, "oddspool")
	if out, err := exec.Command("go", "build", "-o", binary, ".").CombinedOutput(); err != nil {
		return "", fmt.Errorf("%w: %s", err, out)
	}
	return binary, nil
})

// program returns the real program, built once for all tests.
func program(t *testing.T) string {
	binary, err := built()
	require.NoError(t, err)
	return binary
}

// A process is the real program, as a person starts it.
type process struct {
	command *exec.Cmd
	url     string
}

func startServer(t *testing.T, binary, database string, printer *standin.Server, more ...string) *process {
	return startServerOf(t, binary, database,
		[]demo.Reached{{Printer: demo.Devices()[0].Printer, Address: printer.IPP(), Camera: printer.Camera()}}, more...)
}

func startServerOf(t *testing.T, binary, database string, printers []demo.Reached, more ...string) *process {
	plant := filepath.Join(t.TempDir(), "plant.json")
	data, err := json.Marshal(demo.Plant{Printers: printers})
	require.NoError(t, err)
	require.NoError(t, os.WriteFile(plant, data, 0o600))
	command := exec.Command(binary, append([]string{"serve", "-listen", "127.0.0.1:0", "-database", database, "-demo",
		plant, "-key", filepath.Join(t.TempDir(), "key")}, more...)...)
	command.Stderr = os.Stderr
	out, err := command.StdoutPipe()
	require.NoError(t, err)
	require.NoError(t, command.Start())
	t.Cleanup(func() { _ = command.Process.Kill(); _ = command.Wait() })
	line, err := bufio.NewReader(out).ReadString('\n')
	require.NoError(t, err)
	_, url, _ := strings.Cut(strings.TrimSpace(line), "at ")
	return &process{command, strings.TrimSuffix(url, "/")}
}

// The server is killed again and again in the middle of a run, and so is the printer once: every
// label comes out, none twice.
func TestKillingTheServerLosesNothing(t *testing.T) {
	t.Parallel()
	binary := program(t)
	config := standin.Config{Printer: demo.Devices()[0].Printer, Stock: demo.Devices()[0].Stock, Speed: 4000,
		Folder: t.TempDir()}
	printer, err := standin.Start(config, "")
	require.NoError(t, err)
	database := testkit.Address(t)
	server := startServer(t, binary, database, printer)
	jar, err := cookiejar.New(nil)
	require.NoError(t, err)
	client := &http.Client{Jar: jar}
	call := func(method, path, body string, answer any) int {
		request, err := http.NewRequest(method, server.url+path, bytes.NewBufferString(body))
		require.NoError(t, err)
		request.Header.Set("Content-Type", "application/json")
		response, err := client.Do(request)
		require.NoError(t, err)
		defer response.Body.Close()
		if answer != nil {
			require.NoError(t, json.NewDecoder(response.Body).Decode(answer))
		}
		return response.StatusCode
	}
	signIn := func() {
		require.Equal(t, 200, call("POST", "/api/session", fmt.Sprintf(`{"name": %q, "password": %q}`, demo.Name,
			demo.Password), nil))
	}
	signIn()
	require.Equal(t, 200, call("POST", "/api/runs", `{"designId": 2, "recordSetId": 2}`, nil))
	require.Equal(t, 200, call("POST", "/api/runs/1/prints", `{"kind": "all"}`, nil))

	for kill, at := range []int{1, 40, 75, 120, 200} {
		require.Eventually(t, func() bool { return printer.Out() >= at }, 30*time.Second, time.Millisecond)
		require.NoError(t, server.command.Process.Kill())
		_ = server.command.Wait()
		if kill == 2 {
			require.NoError(t, printer.Close())
			printer, err = standin.Start(config, printer.Addr)
			require.NoError(t, err)
		}
		server = startServer(t, binary, database, printer)
	}
	t.Cleanup(func() { _ = printer.Close() })
	signIn()
	var run struct {
		Printed int
		Prints  []struct {
			State             string
			Printed, ReadBack int
		}
	}
	require.Eventually(t, func() bool {
		require.Equal(t, 200, call("GET", "/api/runs/1", "", &run))
		return run.Prints[0].State == "done"
	}, 60*time.Second, 20*time.Millisecond)
	require.Equal(t, []int{240, 240, 240}, []int{run.Printed, run.Prints[0].Printed, run.Prints[0].ReadBack})

	// What came out are the labels of the run, each once.
	response, err := http.Get(printer.Camera() + ".pwg?most=5000")
	require.NoError(t, err)
	defer response.Body.Close()
	reader := pwg.NewReader(response.Body)
	seen := map[string]bool{}
	for {
		page, err := reader.Next()
		if err == io.EOF {
			break
		}
		require.NoError(t, err)
		seen[fmt.Sprint(page.Layers[0].Bits)] = true
	}
	require.Equal(t, 240, printer.Out())
	require.Len(t, seen, 240)
}

func TestServeSaysWhatIsMissing(t *testing.T) {
	t.Setenv("ODDSPOOL_DATABASE", "")
	for _, args := range [][]string{{"serve"}, {"migrate"}} {
		code, _, message := do(args...)
		require.Equal(t, 2, code)
		require.Contains(t, message, "-database ADDRESS is needed")
	}
	code, _, message := do("serve", "-database", "postgres://app@127.0.0.1:1/none")
	require.Equal(t, 2, code)
	require.Contains(t, message, "does not answer")
	code, _, message = do("account", "-database", testkit.Address(t))
	require.Equal(t, 2, code)
	require.Contains(t, message, "-name NAME is needed")
	code, _, message = do("standin", "-design", "none.json")
	require.Equal(t, 2, code)
	require.Contains(t, message, "no such file")
	code, _, message = do("standin")
	require.Equal(t, 2, code)
	require.Contains(t, message, "-plant FILE is needed")
	code, _, message = do("serve", "-database", testkit.Address(t), "-listen", "192.0.2.1:1")
	require.Equal(t, 2, code)
	require.Contains(t, message, "choose another with -listen")
	code, _, _ = do("migrate", "-database", testkit.Address(t))
	require.Zero(t, code)
}
