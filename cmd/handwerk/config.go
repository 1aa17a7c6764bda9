package main

import (
	"context"
	"fmt"
	"log/slog"
	"os"

	"github.com/caarlos0/env/v11"

	"handwerk/postgres"
)

// config comes from the environment.
type config struct {
	Addr        string     `env:"HANDWERK_ADDR" envDefault:"127.0.0.1:8080"`
	DatabaseURL string     `env:"HANDWERK_DATABASE_URL"`
	Dir         string     `env:"HANDWERK_DIR" envDefault:".handwerk"`
	Secure      bool       `env:"HANDWERK_SECURE"` // served over TLS
	Book        string     `env:"HANDWERK_BOOK"`   // the shop's own directory
	LogLevel    slog.Level `env:"HANDWERK_LOG" envDefault:"INFO"`
}

func readConfig() (config, error) {
	c, err := env.ParseAs[config]()
	if err != nil {
		return c, fmt.Errorf("environment: %w", err)
	}
	return c, nil
}

// database opens the one named by the environment, or starts our own. done
// closes what was opened.
func (c config) database(ctx context.Context) (store *postgres.Store, done func(), err error) {
	url := c.DatabaseURL
	stop := func() {}
	if url == "" {
		cluster, err := postgres.StartCluster(ctx, c.Dir, postgres.ClusterOptions{})
		if err != nil {
			return nil, nil, err
		}
		url = cluster.URL
		stop = func() {
			if err := cluster.Stop(); err != nil {
				fmt.Fprintln(os.Stderr, err)
			}
		}
	}
	store, err = postgres.Open(ctx, url)
	if err != nil {
		stop()
		return nil, nil, err
	}
	return store, func() { _ = store.Close(); stop() }, nil
}

// migrated is database with its schema up to date.
func (c config) migrated(ctx context.Context) (*postgres.Store, func(), error) {
	store, done, err := c.database(ctx)
	if err != nil {
		return nil, nil, err
	}
	if err := store.Migrate(ctx); err != nil {
		done()
		return nil, nil, err
	}
	return store, done, nil
}
