package main

import (
	"context"
	"errors"
	"fmt"
	"net"
	"os"
	"path/filepath"
	"time"

	"ornamen/internal/demo"
	"ornamen/internal/store"
	"ornamen/internal/web"
)

func serve(ctx context.Context, e env, args []string) error {
	fs := newFlags()
	addr, db := fs.String("addr", "127.0.0.1:8080", ""), fs.String("db", "", "")
	if _, err := parse(fs, args, 0, ""); err != nil {
		return err
	}
	if *db == "" {
		dir, err := os.UserConfigDir()
		if err != nil {
			return fmt.Errorf("there is no place for the notebook: name one with --db")
		}
		dir = filepath.Join(dir, "ornamen")
		if err := os.MkdirAll(dir, 0o700); err != nil {
			return fmt.Errorf("no place for the notebook: %w", err)
		}
		*db = filepath.Join(dir, "notebook.db")
	}
	return open(ctx, e, *addr, *db, false)
}

func demoServe(ctx context.Context, e env, args []string) error {
	fs := newFlags()
	addr, db := fs.String("addr", "127.0.0.1:8080", ""), fs.String("db", "", "")
	if _, err := parse(fs, args, 0, ""); err != nil {
		return err
	}
	if *db == "" {
		dir, err := os.MkdirTemp("", "ornamen-demo-")
		if err != nil {
			return fmt.Errorf("no place for the demo notebook: %w", err)
		}
		defer os.RemoveAll(dir)
		*db = filepath.Join(dir, "demo.db")
	}
	return open(ctx, e, *addr, *db, true)
}

// open serves a notebook until the context ends, then lets running requests
// finish.
func open(ctx context.Context, e env, addr, db string, fill bool) error {
	ln, err := net.Listen("tcp", addr)
	if err != nil {
		return fmt.Errorf("cannot listen on %s: %w; choose another with --addr", addr, unwrapNet(err))
	}
	defer ln.Close()
	s, err := store.Open(db, time.Now)
	if err != nil {
		return err
	}
	defer s.Close()
	if fill {
		if err := demo.Fill(ctx, s); err != nil {
			return err
		}
	}
	app, err := web.New(ctx, s)
	if err != nil {
		return err
	}
	fmt.Fprintf(e.out, "Ornamen is open at http://%s (stop with Ctrl-C)\n", ln.Addr())
	return app.Serve(ctx, ln)
}

func unwrapNet(err error) error {
	var op *net.OpError
	if errors.As(err, &op) {
		return op.Err
	}
	return err
}
