package runs

import (
	"bufio"
	"context"
	"errors"
	"fmt"
	"io"
	"strconv"
	"strings"
	"time"

	"oddspool/internal/api"
	"oddspool/internal/server/handler"
	"oddspool/internal/store"
)

// How a line of signals is read.
const (
	longestSignal  = 8000             // bytes
	signalPatience = 15 * time.Second // that the label before may need to come out
)

// Signals answers an applicator, or whatever else asks for labels one at a time, on a line until that ends. A signal is
// a line with the number of a run and, behind a blank, what was scanned, if anything; its answer a line: "yes", the
// label and the values of its record between tabs, or "no" and why. They are answered in their order, each once the
// label before it is out.
func (s *Runs) Signals(ctx context.Context, line io.ReadWriter, by string) error {
	in := bufio.NewScanner(line)
	in.Buffer(nil, longestSignal)
	for in.Scan() {
		signal := strings.TrimSpace(in.Text())
		if signal == "" {
			continue
		}
		answer := "no\t"
		next, err := s.signalled(ctx, signal, by)
		_, as := handler.PublicError(err)
		switch {
		case err == nil:
			answer = fmt.Sprintf("yes\t%d\t%s", next.Label, strings.Join(next.Values, "\t"))
		case as != nil:
			answer += as.Error()
		case store.IsUnreachable(err):
			answer += handler.DatabaseAway.English
		default:
			s.Log.Error("a signal failed", "signal", signal, "by", by, "error", err)
			answer += "Something went wrong in the server. Look at the page of the run."
		}
		if _, err := io.WriteString(line, strings.NewReplacer("\r", " ", "\n", " ").Replace(answer)+
			"\r\n"); err != nil {
			return err
		}
	}
	return in.Err()
}

// signalled prints the label that a signal asks for.
func (s *Runs) signalled(ctx context.Context, signal, by string) (api.NextLabel, error) {
	number, scanned, _ := strings.Cut(signal, " ")
	run, err := strconv.ParseInt(number, 10, 64)
	if err != nil {
		return api.NextLabel{}, noRun.With(number)
	}
	for since := time.Now(); ; {
		next, err := s.next(ctx, run, scanned, by)
		if !errors.Is(err, store.ErrRunBusy) || time.Since(since) > signalPatience {
			return next, err
		}
		select {
		case <-ctx.Done():
			return next, ctx.Err()
		case <-time.After(20 * time.Millisecond):
		}
	}
}
