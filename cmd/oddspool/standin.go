package main

import (
	"cmp"
	"context"
	"encoding/json"
	"errors"
	"flag"
	"fmt"
	"io"
	"net"
	"net/http"
	"os"
	"path/filepath"
	"strconv"
	"strings"
	"syscall"
	"time"

	"oddspool/examples"
	"oddspool/internal/demo"
	"oddspool/standin"
)

// standing is what the flags of standin say, and what stands in already.
type standing struct {
	listen, folder, design, plant string
	desk, mailbox, issuer         string
	speed, labels                 int
	printers                      []*standin.Server
	box                           io.Closer // of mail; nil: none
	reached                       demo.Plant
}

func (o *standing) flags(f *flag.FlagSet) {
	f.StringVar(&o.listen, "listen", "127.0.0.1:8631",
		"host:port to listen on; with -plant the first of several, each at the next free port")
	f.StringVar(&o.folder, "folder", "", "`FOLDER` for what came out; empty: a temporary one")
	f.StringVar(&o.design, "design", "", "design `FILE` whose printer and stock it has")
	f.StringVar(&o.plant, "plant", "",
		"stand in for all printers of the demonstration, and write where they are into this `FILE`")
	f.StringVar(&o.desk, "desk", "",
		"host:port at which to stand in for the order desk (docs/order-desk.yaml); with -plant it has the next free "+
			"port without being told")
	f.StringVar(&o.issuer, "issuer", "",
		"host:port at which to stand in for who issues reference packs; with -plant it has the next free port "+
			"without being told")
	f.StringVar(&o.mailbox, "mailbox", "",
		"host:port at which to stand in for a mail server; with -plant it has the next free port without being told")
	f.IntVar(&o.speed, "speed", -1, "mm/s; 0: as fast as it can; -1: as fast as the printer is")
	f.IntVar(&o.labels, "labels", 0, "labels on a new roll; 0: as many as a full one has")
}

// standIn runs simulated printers in a process of their own, as devices are: one with the printer
// and stock of a design, or all of the demonstration's.
func standIn(ctx context.Context, c *console, args []string) error {
	var o standing
	if err := flags(c, "standin", args, o.flags); err != nil {
		return err
	}
	defer o.close()
	devices, err := o.devices(ctx)
	if err != nil {
		return err
	}
	for _, d := range devices {
		if err := o.startPrinter(c, d); err != nil {
			return err
		}
	}
	if err := o.startServices(ctx, c); err != nil {
		return err
	}
	if o.plant != "" {
		if err := to(c, o.plant, func(w io.Writer) error { return json.NewEncoder(w).Encode(o.reached) }); err != nil {
			return err
		}
	}
	<-ctx.Done()
	return nil
}

func (o *standing) close() {
	for _, s := range o.printers {
		_ = s.Close()
	}
	if o.box != nil {
		_ = o.box.Close()
	}
}

// devices returns the printers to stand in for.
func (o *standing) devices(ctx context.Context) ([]demo.Device, error) {
	switch {
	case o.plant != "":
		return demo.Devices(), nil
	case o.design != "":
		l, err := open(ctx, o.design, "", "")
		if err != nil {
			return nil, err
		}
		return []demo.Device{{Printer: l.design.Printer, Stock: l.design.Stock, Left: o.labels}}, nil
	case cmp.Or(o.desk, o.mailbox, o.issuer) == "":
		return nil, &usageError{"-design FILE, -desk ADDRESS, -mailbox ADDRESS, -issuer ADDRESS or -plant FILE " +
			"is needed"}
	}
	return nil, nil
}

func (o *standing) startPrinter(c *console, d demo.Device) error {
	config := standin.Config{Printer: d.Printer, Stock: d.Stock, Labels: d.Left, Speed: o.speed}
	if o.speed < 0 {
		config.Speed = d.Printer.Speed
	}
	if o.folder != "" {
		config.Folder = filepath.Join(o.folder, strings.ReplaceAll(strings.ToLower(d.Printer.Name), " ", "-"))
	}
	s, err := startAt(config, o.listen, o.plant != "")
	if err != nil {
		return err
	}
	o.printers = append(o.printers, s)
	o.reached.Printers = append(o.reached.Printers, demo.Reached{Printer: d.Printer, Address: s.IPP(),
		Camera: s.Camera(), Encoder: s.Encoder()})
	fmt.Fprintf(c.out, "%s prints at %s; its own page is http://%s/\n", d.Printer.Name, s.IPP(), s.Addr)
	return nil
}

// startServices starts what else is stood in for, until ctx ends: the order desk, who issues reference packs, and a
// mail server.
func (o *standing) startServices(ctx context.Context, c *console) error {
	if o.plant != "" || o.desk != "" {
		at, err := startDesk(ctx, cmp.Or(o.desk, o.listen), o.folder)
		if err != nil {
			return err
		}
		o.reached.Desk = "http://" + at
		fmt.Fprintf(c.out, "The order desk answers at %s with the token %s\n", o.reached.Desk, demo.DeskToken)
	}
	if o.plant != "" || o.issuer != "" {
		at, err := startIssuer(ctx, cmp.Or(o.issuer, o.listen))
		if err != nil {
			return err
		}
		o.reached.Issuer = "http://" + at
		fmt.Fprintf(c.out, "Reference packs are issued at %s, signed with the key %s\n", o.reached.Issuer,
			demo.IssuingKey())
	}
	if o.plant != "" || o.mailbox != "" {
		listener, err := listenFrom(cmp.Or(o.mailbox, o.listen))
		if err != nil {
			return err
		}
		kept := filepath.Join(cmp.Or(o.folder, os.TempDir()), "mail")
		box, err := standin.OpenMailbox(listener, kept)
		if err != nil {
			return err
		}
		o.box = box
		o.reached.Mail = "smtp://" + listener.Addr().String()
		fmt.Fprintf(c.out, "Mail that is sent is kept in %s\n", kept)
	}
	return nil
}

// startDesk starts the order desk at an address, or at the next free port after it, until ctx ends, and returns where
// it is.
func startDesk(ctx context.Context, listen, folder string) (at string, err error) {
	data, err := examples.Files.ReadFile("desk.json")
	if err != nil {
		return "", fmt.Errorf("the order desk's data: %w", err)
	}
	if folder == "" {
		folder = os.TempDir()
	}
	if err := os.MkdirAll(filepath.Join(folder, "desk"), 0o755); err != nil {
		return "", fmt.Errorf("the order desk's folder: %w", err)
	}
	desk, err := standin.NewDesk(data, demo.DeskToken, filepath.Join(folder, "desk"))
	if err != nil {
		return "", err
	}
	listener, err := listenFrom(listen)
	if err != nil {
		return "", err
	}
	return serveAt(ctx, listener, desk.Handler()), nil
}

// startIssuer starts who issues reference packs at an address, or at the next free port after it, until ctx ends, and
// returns where it is.
func startIssuer(ctx context.Context, listen string) (at string, err error) {
	pack, err := demo.NewerPack()
	if err != nil {
		return "", err
	}
	listener, err := listenFrom(listen)
	if err != nil {
		return "", err
	}
	return serveAt(ctx, listener, standin.Issuer(demo.NewerVersion, pack)), nil
}

// serveAt serves until ctx ends, and returns where.
func serveAt(ctx context.Context, listener net.Listener, handler http.Handler) string {
	web := &http.Server{Handler: handler, ReadHeaderTimeout: 10 * time.Second}
	go func() { _ = web.Serve(listener) }()
	context.AfterFunc(ctx, func() { _ = web.Close() })
	return listener.Addr().String()
}

// listenFrom listens at an address, or at the next free port after it.
func listenFrom(address string) (net.Listener, error) {
	for {
		listener, err := net.Listen("tcp", address)
		if err == nil || !errors.Is(err, syscall.EADDRINUSE) {
			return listener, err
		}
		if address, err = nextPort(address); err != nil {
			return nil, err
		}
	}
}

func nextPort(address string) (string, error) {
	host, port, err := net.SplitHostPort(address)
	if err != nil {
		return "", err
	}
	n, err := strconv.Atoi(port)
	return net.JoinHostPort(host, strconv.Itoa(n+1)), err
}

// startAt starts a stand-in at an address, or at the next free port after it.
func startAt(config standin.Config, listen string, next bool) (*standin.Server, error) {
	for {
		s, err := standin.Start(config, listen)
		if err == nil || !next || !errors.Is(err, syscall.EADDRINUSE) {
			return s, err
		}
		if listen, err = nextPort(listen); err != nil {
			return nil, err
		}
	}
}
