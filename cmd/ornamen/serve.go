package main

import (
	"context"
	"crypto/tls"
	"errors"
	"fmt"
	"log"
	"net"
	"os"
	"path/filepath"
	"time"

	"github.com/spf13/pflag"

	"ornamen/core/say"
	"ornamen/internal/demo"
	"ornamen/internal/store"
	"ornamen/internal/web"
)

// serve opens the player's own notebook and answers pages until the context ends: an edit that
// was answered is on the disk by then.
func serve(ctx context.Context, e env, args []string) error {
	fs := newFlags()
	o := servingFlags(fs)
	if _, err := parse(fs, args, 0, ""); err != nil {
		return err
	}
	db, err := notebookFile(*o.db)
	if err != nil {
		return err
	}
	*o.db = db
	return o.open(ctx, e, false)
}

// demoServe does the same with a notebook of invented licks, in a file that goes with it unless
// one is named: what is changed there is gone at the end.
func demoServe(ctx context.Context, e env, args []string) error {
	fs := newFlags()
	o := servingFlags(fs)
	if _, err := parse(fs, args, 0, ""); err != nil {
		return err
	}
	if *o.db == "" {
		dir, err := os.MkdirTemp("", "ornamen-demo-")
		if err != nil {
			return fmt.Errorf("no place for the demo notebook: %w", err)
		}
		defer os.RemoveAll(dir)
		*o.db = filepath.Join(dir, "demo.db")
	}
	return o.open(ctx, e, true)
}

// serving is how a notebook is opened in the browser.
type serving struct {
	addr, db, log, cert, key *string
	phone                    *bool
}

// servingFlags adds what both have in common.
func servingFlags(fs *pflag.FlagSet) serving {
	return serving{
		addr: fs.String("addr", "127.0.0.1:8080", "`HOST:PORT` where the pages are served"),
		db:   fs.String("db", "", "`FILE` the notebook; the one in the player's own folder"),
		log:  fs.String("log", "", "`FILE` writes what happens there; to standard error"),
		cert: fs.String("cert", "",
			"`FILE` a certificate, with which phones are served over TLS, as their microphones ask for"),
		key:   fs.String("key", "", "`FILE` the key of the certificate"),
		phone: fs.Bool("phone", false, "lets phones of the house in, by the link that is printed"),
	}
}

// notebookFile is where the player's notebook lies, unless a file is named: in the folder that
// the system keeps settings in, which is made for its owner alone.
func notebookFile(named string) (string, error) {
	if named != "" {
		return named, nil
	}
	dir, err := os.UserConfigDir()
	if err != nil {
		return "", errors.New("there is no place for the notebook: name one with --db")
	}
	dir = filepath.Join(dir, "ornamen")
	if err := os.MkdirAll(dir, 0o700); err != nil {
		return "", fmt.Errorf("no place for the notebook: %w", err)
	}
	return filepath.Join(dir, "notebook.db"), nil
}

// open opens the notebook, fills it if it is a demo and empty, and serves. The address is taken
// first, so that a second start fails before it touches the notebook. Whatever it is, only this machine
// is answered, and devices that were let in.
func (o serving) open(ctx context.Context, e env, fill bool) error {
	ln, err := net.Listen("tcp", *o.addr)
	if err != nil {
		return fmt.Errorf("--addr %s: %w", *o.addr, unwrapNet(err))
	}
	defer ln.Close()
	if tcp, ok := ln.Addr().(*net.TCPAddr); ok && !tcp.IP.IsLoopback() && !*o.phone {
		fmt.Fprintln(e.err,
			"ornamen: only this machine is answered; --phone, or a button on Player, lets other devices in")
	}
	var cert *tls.Certificate
	if *o.cert != "" || *o.key != "" {
		pair, err := tls.LoadX509KeyPair(*o.cert, *o.key)
		if err != nil {
			return fmt.Errorf("--cert and --key: %w", err)
		}
		cert = &pair
	}
	s, err := store.Open(*o.db, e.now)
	if err != nil {
		return err
	}
	defer s.Close()
	if fill {
		if err := demo.Fill(ctx, s); err != nil {
			return err
		}
	}
	ctx, stop := context.WithCancel(ctx)
	defer stop()
	app, err := web.New(ctx, s)
	if err != nil {
		return err
	}
	if *o.log != "" {
		f, err := os.OpenFile(*o.log, os.O_WRONLY|os.O_APPEND|os.O_CREATE, 0o600)
		if err != nil {
			return fmt.Errorf("--log %s: %w", *o.log, unwrapPath(err))
		}
		defer f.Close()
		app.LogTo(f)
	}
	if s.ReadOnly {
		fmt.Fprintln(e.err, "ornamen: this notebook cannot be written; it is open for reading")
	}
	if aside, err := s.SetAside(ctx); err == nil && len(aside) > 0 {
		fmt.Fprintf(e.err, "ornamen: %s of the practice log could not be read and were set aside; the rest is whole\n",
			say.Count(len(aside), "line"))
	}
	fmt.Fprintf(e.out, "Ornamen is open at http://%s (stop with Ctrl-C)\n", ln.Addr())
	if !fill {
		go housekeep(ctx, s)
	}
	if cert != nil {
		app.Phones().UseCertificate(*cert)
	}
	if *o.phone {
		app.WhenOpen(func() {
			link, err := app.Phones().Open()
			if err != nil {
				fmt.Fprintf(e.err, "ornamen: no phone is let in: %v\n", err)
				return
			}
			fmt.Fprintln(e.out, link)
		})
	}
	return app.Serve(ctx, ln)
}

// housekeep keeps the daily copies of a notebook that stays open.
func housekeep(ctx context.Context, s *store.Store) {
	for {
		if err := s.Housekeep(ctx); err != nil && ctx.Err() == nil {
			log.Printf("keeping copies of the notebook: %v", err)
		}
		select {
		case <-ctx.Done():
			return
		case <-time.After(time.Hour):
		}
	}
}

// unwrapNet is what went wrong with an address, without the operation's name.
func unwrapNet(err error) error {
	var op *net.OpError
	if errors.As(err, &op) {
		return op.Err
	}
	return err
}
