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
	"runtime/debug"
	"sync"
	"syscall"
	"time"

	"github.com/gofiber/fiber/v3"
	"github.com/spf13/cobra"

	"handwerk/book"
	"handwerk/book/files"
	bookshop "handwerk/book/shop"
	"handwerk/httpapi"
	"handwerk/httpapi/follow"
	"handwerk/httpapi/news"
	"handwerk/postgres"
	"handwerk/postgres/conn"
	"handwerk/web"
	"handwerk/workshop"
	"handwerk/workshop/kinds"
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
			c, err := readConfig()
			if err != nil {
				return err
			}
			return run(cmd.Context(), cmd.OutOrStdout(), c, layers, nil)
		},
	}
	cmd.Flags().
		StringVar(&dir, "book", "", "directory with the shop's own spec sheets, instruments and routes (or HANDWERK_BOOK)")
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
	layers := []fs.FS{bookshop.Files}
	if dir == "" {
		return layers, nil
	}
	if info, err := os.Stat(dir); err != nil || !info.IsDir() {
		return nil, fmt.Errorf(
			"the book's directory %s cannot be read; accepted: a directory with sheets/, routes/, instruments.yaml or cautions.yaml",
			dir,
		)
	}
	return append(layers, os.DirFS(dir)), nil
}

// run serves until ctx ends; prepare, if given, fills the database first and
// says what to print.
func run(
	ctx context.Context, out io.Writer, c config, layers []fs.FS,
	prepare func(context.Context, *postgres.Store, book.Book) (string, error),
) error {
	if prepare != nil && os.Getenv("HANDWERK_LOG") == "" {
		c.LogLevel = slog.LevelWarn // the sign-in stays in sight
	}
	log := c.logger()
	listener, err := listen(ctx, c.Addr)
	if err != nil {
		return err
	}
	defer func() { _ = listener.Close() }()
	b, remarks, err := files.LoadWithRemarks(kinds.Natures(), layers...)
	if err != nil {
		return err
	}
	for _, r := range remarks {
		log.Warn("the book", "remark", r.Error())
	}
	d, err := c.open(ctx, log, false)
	if err != nil {
		return err
	}
	defer d.close()
	if prepare == nil {
		prepare = c.prepareOwn
	}
	said, err := prepare(ctx, d.Store, b)
	if err != nil {
		return err
	}
	unfit, err := workshop.New(d.Store, b, time.Now).Routes.Unfit(ctx)
	if err != nil {
		return err
	}
	for _, r := range unfit {
		log.Warn("what the shop does otherwise on a route does not fit the book any more", "route", r)
	}
	return serve(ctx, out, c, log, listener, d, b, said)
}

// prepareOwn goes by the clock of the workshop, and where nobody works yet
// prints the way in.
func (c config) prepareOwn(ctx context.Context, store *postgres.Store, _ book.Book) (string, error) {
	if err := store.KeepTime(ctx, c.Zone != ""); err != nil {
		return "", err
	}
	first, err := store.IsFirst(ctx)
	if err != nil || !first {
		return "", err
	}
	code, err := store.FirstCode(ctx, time.Now())
	if err != nil {
		return "", err
	}
	return fmt.Sprintf(
		// words: the address stands by itself on its line
		"No accounts yet. Set up the workshop within %d minutes at\n  http://%s/?code=%s\n",
		int(postgres.CodeLife.Minutes()), c.Addr, code,
	), nil
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

func serve(ctx context.Context, out io.Writer, c config, log *slog.Logger, listener net.Listener, d *database,
	b book.Book, said string) error {
	store := d.Store
	shelf, err := c.shelf(ctx, store.Checkpoint)
	var lost keyLost
	switch {
	case errors.As(err, &lost): // the work goes on; what it lacks is said on the board
		store.StopLog(lost.Error())
		log.Error("the log of heads is not written", "error", lost.Error())
	case err != nil:
		return err
	}
	useMemory()
	hub := news.NewHub()
	listening, stopListening := context.WithCancel(ctx)
	defer stopListening()
	var beside sync.WaitGroup
	beside.Go(func() { store.Listen(listening, log, func(e conn.Event) { pass(hub, e) }) })
	beside.Go(func() { store.WriteBackups(listening, log, d.owner, time.Now) })
	if shelf != nil {
		beside.Go(func() { store.WriteLog(listening, log, shelf) })
	}
	defer func() { // a backup or a head that is being written is written to its end, or not begun
		stopListening()
		beside.Wait()
	}()
	app := newApp(c, store, b, hub, log)
	failed := make(chan error, 1)
	go func() {
		failed <- app.Listener(httpapi.Listener(listener), fiber.ListenConfig{DisableStartupMessage: true})
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
	err = app.ShutdownWithContext(closing)
	if errors.Is(err, context.DeadlineExceeded) {
		// A browser that keeps its connection open is no reason to fail: every
		// answer was sent, and entries were kept before they were answered.
		log.Info("closed with connections still open")
		return nil
	}
	return err
}

// useMemory lets garbage gather longer than usual while there is little of it,
// and keeps a ceiling: an append makes much less work for the collector so.
// GOGC and GOMEMLIMIT, where they are set, have the last word.
func useMemory() {
	if os.Getenv("GOGC") == "" {
		debug.SetGCPercent(400)
	}
	if os.Getenv("GOMEMLIMIT") == "" {
		debug.SetMemoryLimit(140 << 20)
	}
}

// pass tells the open screens of this process what was kept or ended in any.
func pass(hub *news.Hub, e conn.Event) {
	if e.Session != "" {
		hub.EndSession(e.Session)
		return
	}
	hub.Tell(e.Rebuild, news.Event{Seq: e.Seq, Step: e.Step})
}

func newApp(c config, store *postgres.Store, b book.Book, hub *news.Hub, log *slog.Logger) *fiber.App {
	return httpapi.New(httpapi.Options{
		Workshop:   workshop.New(store, b, time.Now),
		Accounts:   store,
		Photos:     store.Photos,
		Checkpoint: store.Checkpoint,
		Ready:      store.Ready,
		LogStopped: store.LogStopped,
		IsLost:     conn.IsLost,
		IsFull:     conn.IsFull,
		WhyStuck:   postgres.WhyStuck,
		Hub:        hub,
		Lines:      &follow.Gauges{Networks: c.gauges},
		Log:        log,
		Now:        time.Now,
		Zone:       store.Zone,
		Currency:   store.Currency,
		Front:      web.Dist(),
		Secure:     c.Secure,
		Hosts:      c.Hosts,
		Proxies:    c.proxies,
	})
}
