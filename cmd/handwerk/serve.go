package main

import (
	"context"
	"errors"
	"fmt"
	"io"
	"io/fs"
	"log/slog"
	"net"
	"os"
	"syscall"
	"time"

	"github.com/gofiber/fiber/v3"
	"github.com/spf13/cobra"

	"handwerk/book"
	"handwerk/core/plan"
	"handwerk/httpapi"
	"handwerk/postgres"
	"handwerk/web"
	"handwerk/workshop"
)

func serveCommand() *cobra.Command {
	var dir string
	cmd := &cobra.Command{
		Use: "serve", Short: "Serve the workshop's record", Args: cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			layers, err := shopLayers(dir)
			if err != nil {
				return err
			}
			return run(cmd.Context(), cmd.OutOrStdout(), layers, nil)
		},
	}
	cmd.Flags().StringVar(&dir, "book", "", "directory with the shop's own spec sheets, instruments and routes (or HANDWERK_BOOK)")
	return cmd
}

// shopLayers are the book that ships and, over it, the shop's own directory.
func shopLayers(dir string) ([]fs.FS, error) {
	c, err := readConfig()
	if err != nil {
		return nil, err
	}
	if dir == "" {
		dir = c.Book
	}
	layers := []fs.FS{book.Shop()}
	if dir == "" {
		return layers, nil
	}
	if info, err := os.Stat(dir); err != nil || !info.IsDir() {
		return nil, fmt.Errorf("the book's directory %s cannot be read; accepted: a directory with sheets/, routes/, instruments.yaml or cautions.yaml", dir)
	}
	return append(layers, os.DirFS(dir)), nil
}

// run serves until ctx ends; prepare, if given, fills the database first and
// says what to print.
func run(ctx context.Context, out io.Writer, layers []fs.FS, prepare func(context.Context, *postgres.Store, plan.Book) (string, error)) error {
	c, err := readConfig()
	if err != nil {
		return err
	}
	if prepare != nil && os.Getenv("HANDWERK_LOG") == "" {
		c.LogLevel = slog.LevelWarn // the sign-in stays in sight
	}
	listener, err := listen(ctx, c.Addr)
	if err != nil {
		return err
	}
	defer func() { _ = listener.Close() }()
	b, remarks, err := book.LoadWithRemarks(layers...)
	if err != nil {
		return err
	}
	for _, r := range remarks {
		slog.Warn("the book", "remark", r.Error())
	}
	store, done, err := c.migrated(ctx)
	if err != nil {
		return err
	}
	defer done()
	said := ""
	if prepare != nil {
		if said, err = prepare(ctx, store, b); err != nil {
			return err
		}
	}
	return serve(ctx, out, c, listener, store, b, said)
}

// listen takes the address before anything slow happens, so that a taken
// port is said at once.
func listen(ctx context.Context, addr string) (net.Listener, error) {
	var config net.ListenConfig
	listener, err := config.Listen(ctx, "tcp", addr)
	switch {
	case errors.Is(err, syscall.EADDRINUSE):
		return nil, fmt.Errorf("%s is taken by another program; choose another with HANDWERK_ADDR=127.0.0.1:8081", addr)
	case err != nil:
		return nil, fmt.Errorf("HANDWERK_ADDR=%s cannot be used: %w", addr, err)
	}
	return listener, nil
}

func serve(ctx context.Context, out io.Writer, c config, listener net.Listener, store *postgres.Store, b plan.Book, said string) error {
	log := slog.New(slog.NewJSONHandler(os.Stderr, &slog.HandlerOptions{Level: c.LogLevel}))
	hub := httpapi.NewHub()
	listening, stopListening := context.WithCancel(ctx)
	defer stopListening()
	go store.Listen(listening, log, func(e postgres.Event) { hub.Tell(e.Rebuild, httpapi.Event{Seq: e.Seq, Step: e.Step}) })
	app := newApp(c, store, b, hub, log)
	failed := make(chan error, 1)
	go func() {
		failed <- app.Listener(listener, fiber.ListenConfig{DisableStartupMessage: true})
	}()
	_, _ = fmt.Fprintf(out, "Handwerk is open at http://%s\n%s", listener.Addr(), said)
	select {
	case err := <-failed:
		return err
	case <-ctx.Done():
	}
	_, _ = fmt.Fprintln(out, "Closing.")
	hub.Close()
	closing, cancel := context.WithTimeout(context.Background(), 5*time.Second)
	defer cancel()
	err := app.ShutdownWithContext(closing)
	if errors.Is(err, context.DeadlineExceeded) {
		// A browser that keeps its connection open is no reason to fail: every
		// answer was sent, and entries were kept before they were answered.
		log.Info("closed with connections still open")
		return nil
	}
	return err
}

func newApp(c config, store *postgres.Store, b plan.Book, hub *httpapi.Hub, log *slog.Logger) *fiber.App {
	return httpapi.New(httpapi.Options{
		Workshop: workshop.New(store, b, time.Now), Accounts: store, Photos: store.Photos, Ready: store.Ready,
		IsLost: postgres.IsLost, Hub: hub, Log: log, Now: time.Now, Front: web.Dist(), Secure: c.Secure,
	})
}
