package sandbox_test

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"runtime"
	"strings"
	"syscall"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"oddspool/internal/sandbox"
)

func TestMain(m *testing.M) {
	sandbox.Main()
	os.Exit(m.Run())
}

var limits = sandbox.Limits{Step: time.Second, Total: 10 * time.Second, Time: 30 * time.Second, Memory: 512 << 20,
	Written: 1 << 20}

// deeds does what a broken reader may do.
var deeds = sandbox.Register("deeds", limits, func(deed string, files []*os.File, emit func(string) error) error {
	if err := sandbox.Bound(limits); err != nil {
		return err
	}
	if err := emit("begun"); err != nil {
		return err
	}
	switch deed {
	case "spin":
		for {
			runtime.Gosched()
		}
	case "eat":
		for whole := bytes.Repeat([]byte{1}, 16<<20); ; {
			whole = append(whole, whole...)
		}
	case "write":
		_, err := files[0].Write(make([]byte, 2<<20))
		return err
	case "sleep":
		select {}
	case "start another":
		return exec.Command("sleep", "1000").Run()
	case "panic":
		panic("kelp in the gears")
	case "babble":
		fmt.Println("I am a library that prints")
		return nil
	case "fail":
		return errors.New("the kelp is wet")
	}
	return emit("done: " + deed)
})

func do(ctx context.Context, deed string, files ...*os.File) (said []string, err error) {
	err = deeds.Do(ctx, deed, func(text string) error { said = append(said, text); return nil }, files...)
	return said, err
}

func TestWorkGivesWhatItMakes(t *testing.T) {
	said, err := do(t.Context(), "nothing much")
	require.NoError(t, err)
	require.Equal(t, []string{"begun", "done: nothing much"}, said)
}

// Whatever the work does, it ends alone, with the limit named.
func TestWorkIsBounded(t *testing.T) {
	for deed, limit := range map[string]string{"spin": "processor time", "eat": "memory"} {
		_, err := do(t.Context(), deed)
		var over *sandbox.LimitError
		require.ErrorAs(t, err, &over, deed)
		require.Equal(t, limit, over.Limit, deed)
	}
	file, err := os.Create(filepath.Join(t.TempDir(), "large"))
	require.NoError(t, err)
	defer file.Close()
	_, err = do(t.Context(), "write", file)
	require.Equal(t, &sandbox.LimitError{Limit: "size"}, err)
}

func TestBrokenWorkIsTold(t *testing.T) {
	for deed, says := range map[string]string{"panic": "kelp in the gears", "babble": "cannot be read",
		"fail": "the kelp is wet"} {
		_, err := do(t.Context(), deed)
		var broken *sandbox.BrokenError
		require.ErrorAs(t, err, &broken, deed)
		require.Contains(t, broken.Text, says, deed)
	}
}

// Who leaves ends the work, and what it started.
func TestWorkEndsWithItsAsker(t *testing.T) {
	for _, deed := range []string{"sleep", "start another"} {
		ctx, leave := context.WithCancel(t.Context())
		err := deeds.Do(ctx, deed, func(string) error { leave(); return nil })
		require.ErrorIs(t, err, context.Canceled, deed)
	}
	require.Eventually(t, func() bool { return len(children(t)) == 0 }, 10*time.Second, 10*time.Millisecond)
	wrong := errors.New("no room for it")
	require.ErrorIs(t, deeds.Do(t.Context(), "sleep", func(string) error { return wrong }), wrong)
}

// A program that is killed leaves no work behind.
func TestWorkDiesWithItsProgram(t *testing.T) {
	if os.Getenv("TEST_WORK_DIES") != "" {
		_ = deeds.Do(t.Context(), "sleep", func(string) error { fmt.Println("begun"); return nil })
		return
	}
	program := exec.Command("/proc/self/exe", "-test.run=^TestWorkDiesWithItsProgram$", "-test.v")
	program.Env = append(os.Environ(), "TEST_WORK_DIES=1")
	out, err := program.StdoutPipe()
	require.NoError(t, err)
	require.NoError(t, program.Start())
	for said := ""; !strings.Contains(said, "begun"); {
		part := make([]byte, 512)
		n, err := out.Read(part)
		require.NoError(t, err)
		said += string(part[:n])
	}
	works := childrenOf(t, program.Process.Pid)
	require.Len(t, works, 1)
	require.NoError(t, program.Process.Kill())
	_ = program.Wait() // killed
	require.Eventually(t, func() bool { return errors.Is(syscall.Kill(works[0], 0), syscall.ESRCH) }, 10*time.Second,
		10*time.Millisecond)
}

func children(t *testing.T) []int { return childrenOf(t, os.Getpid()) }

func childrenOf(t *testing.T, parent int) (pids []int) {
	files, err := filepath.Glob(fmt.Sprintf("/proc/%d/task/*/children", parent))
	require.NoError(t, err)
	for _, file := range files {
		data, _ := os.ReadFile(file) // a thread that has ended has none
		for _, field := range strings.Fields(string(data)) {
			pid := 0
			_, err := fmt.Sscan(field, &pid)
			require.NoError(t, err)
			pids = append(pids, pid)
		}
	}
	return pids
}
