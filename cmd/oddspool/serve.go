package main

import (
	"bufio"
	"context"
	"errors"
	"flag"
	"fmt"
	"log/slog"
	"net"
	"net/http"
	"os"
	"time"

	"oddspool/core/design"
	"oddspool/examples"
	"oddspool/internal/api"
	"oddspool/internal/demo"
	"oddspool/internal/runner"
	"oddspool/internal/server"
	"oddspool/internal/store"
	"oddspool/standin"
)

// database opens and migrates the database at an address.
func database(ctx context.Context, address string) (*store.Store, error) {
	if address == "" {
		return nil, &usageError{"-database ADDRESS is needed, or ODDSPOOL_DATABASE in the environment"}
	}
	s, err := store.Open(ctx, address)
	if err != nil {
		return nil, err
	}
	if err := s.Migrate(ctx); err != nil {
		return nil, errors.Join(err, s.Close())
	}
	return s, nil
}

func databaseFlag(f *flag.FlagSet, address *string) {
	f.StringVar(address, "database", os.Getenv("ODDSPOOL_DATABASE"), "PostgreSQL `ADDRESS`, such as postgres://app@127.0.0.1:5432/oddspool")
}

// stopTime is how long requests and the work on prints may take to end.
const stopTime = 10 * time.Second

func serve(ctx context.Context, c *console, args []string) error {
	var address, listen, demoPrinter, demoCamera string
	var secure bool
	err := flags(c, "serve", args, func(f *flag.FlagSet) {
		databaseFlag(f, &address)
		f.StringVar(&listen, "listen", "127.0.0.1:8080", "host:port to listen on; loopback unless told otherwise")
		f.BoolVar(&secure, "secure", false, "it is reached through TLS: mark cookies so")
		f.StringVar(&demoPrinter, "demo-printer", "", "fill an empty database with the demonstration, whose printer is at this `ADDRESS`")
		f.StringVar(&demoCamera, "demo-camera", "", "`ADDRESS` of the camera of the demonstration's printer")
	})
	if err != nil {
		return err
	}
	s, err := database(ctx, address)
	if err != nil {
		return err
	}
	defer s.Close()
	log := slog.New(slog.NewTextHandler(c.err, &slog.HandlerOptions{Level: slog.LevelWarn}))
	options := server.Options{Log: log, Secure: secure}
	if demoPrinter != "" {
		if err := demo.Seed(ctx, s, demoPrinter, demoCamera); err != nil {
			return fmt.Errorf("fill the demonstration: %w", err)
		}
		options.Demo = &api.SignIn{Name: demo.Name, Password: demo.Password}
	}
	runs, err := runner.New(s, log)
	if err != nil {
		return err
	}
	handler, err := server.New(s, runs, options)
	if err != nil {
		return err
	}
	listener, err := net.Listen("tcp", listen)
	if err != nil {
		return fmt.Errorf("listen on %s: %w; choose another with -listen", listen, err)
	}
	if err := runs.Start(context.WithoutCancel(ctx)); err != nil {
		return err
	}
	web := &http.Server{Handler: handler, ReadHeaderTimeout: 10 * time.Second, IdleTimeout: 2 * time.Minute, ErrorLog: slog.NewLogLogger(log.Handler(), slog.LevelDebug)}
	failed := make(chan error, 1)
	go func() { failed <- web.Serve(listener) }()
	fmt.Fprintf(c.out, "Odd Spool is at http://%s/\n", listener.Addr())
	select {
	case <-ctx.Done():
	case err = <-failed:
	}
	end, cancel := context.WithTimeout(context.WithoutCancel(ctx), stopTime)
	defer cancel()
	return errors.Join(err, web.Shutdown(end), runs.Stop(end))
}

func migrate(ctx context.Context, c *console, args []string) error {
	var address string
	if err := flags(c, "migrate", args, func(f *flag.FlagSet) { databaseFlag(f, &address) }); err != nil {
		return err
	}
	s, err := database(ctx, address)
	if err != nil {
		return err
	}
	return s.Close()
}

func account(ctx context.Context, c *console, args []string) error {
	var address, name string
	err := flags(c, "account", args, func(f *flag.FlagSet) {
		databaseFlag(f, &address)
		f.StringVar(&name, "name", "", "`NAME` to sign in with; the password is read from standard input")
	})
	if err != nil {
		return err
	}
	input := bufio.NewScanner(os.Stdin)
	if name == "" || !input.Scan() || len(input.Text()) < 8 {
		return &usageError{"-name NAME is needed, and a password of at least 8 letters on standard input"}
	}
	s, err := database(ctx, address)
	if err != nil {
		return err
	}
	return errors.Join(s.AddAccount(ctx, name, input.Text()), s.Close())
}

// standIn runs the simulated printer of the demonstration in a process of its own, as a device is.
func standIn(ctx context.Context, c *console, args []string) error {
	var listen, folder, designPath string
	var speed, labels int
	err := flags(c, "standin", args, func(f *flag.FlagSet) {
		f.StringVar(&listen, "listen", "127.0.0.1:8631", "host:port to listen on")
		f.StringVar(&folder, "folder", "", "`FOLDER` for what came out; empty: a temporary one")
		f.StringVar(&designPath, "design", "", "design `FILE` whose printer and stock it has; empty: the demonstration's")
		f.IntVar(&speed, "speed", 152, "mm/s; 0: as fast as it can")
		f.IntVar(&labels, "labels", 0, "labels on a new roll; 0: as many as a full one has")
	})
	if err != nil {
		return err
	}
	data, err := examples.Files.ReadFile("bin-label.json")
	if designPath != "" {
		data, err = os.ReadFile(designPath)
	}
	if err != nil {
		return err
	}
	d, err := design.Parse(data)
	if err != nil {
		return err
	}
	printer, err := standin.Start(standin.Config{Printer: d.Printer, Stock: d.Stock, Labels: labels, Speed: speed, Folder: folder}, listen)
	if err != nil {
		return err
	}
	fmt.Fprintf(c.out, "%s prints at %s; its own page is http://%s/\n", d.Printer.Name, printer.IPP(), printer.Addr)
	<-ctx.Done()
	return printer.Close()
}
