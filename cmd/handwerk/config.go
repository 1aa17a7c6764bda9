package main

import (
	"context"
	"errors"
	"fmt"
	"log/slog"
	"net/netip"
	"os"
	"path/filepath"
	"reflect"
	"strings"
	"time"
	_ "time/tzdata" // zones of machines that have none

	"github.com/caarlos0/env/v11"

	"handwerk/postgres"
	"handwerk/postgres/cluster"
)

// config comes from the environment.
type config struct {
	Addr        string     `env:"HANDWERK_ADDR" envDefault:"127.0.0.1:8080" says:"address to serve on"`
	DatabaseURL string     `env:"HANDWERK_DATABASE_URL" says:"a PostgreSQL to use; without it the program runs its own"`
	OwnerURL    string     `env:"HANDWERK_OWNER_URL" says:"the same database as the owner of its tables, for migrations and backups; then HANDWERK_DATABASE_URL may be a role that owns nothing"`
	Dir         string     `env:"HANDWERK_DIR" envDefault:".handwerk" says:"where the own cluster, the shop's key and its checkpoint live; the demo has .handwerk-demo of its own"`
	Book        string     `env:"HANDWERK_BOOK" says:"the shop's own book, over the one that ships (--book)"`
	Secure      bool       `env:"HANDWERK_SECURE" says:"true behind TLS: cookies and headers say so"`
	Hosts       []string   `env:"HANDWERK_HOSTS" says:"names this server is called by, with commas between; by default the loopback's"`
	Proxies     []string   `env:"HANDWERK_PROXIES" says:"addresses or networks of proxies whose X-Forwarded-For counts, with commas between"`
	Gauges      []string   `env:"HANDWERK_GAUGE_NETWORKS" says:"networks besides the private ones in which gauges may speak, with commas between"`
	Zone        string     `env:"HANDWERK_ZONE" says:"the shop's time zone, like Europe/Lisbon; by default the machine's"`
	Key         string     `env:"HANDWERK_KEY" says:"file of the key that signs checkpoints; by default shop.key below HANDWERK_DIR"`
	Checkpoint  string     `env:"HANDWERK_CHECKPOINT" says:"file that the last checkpoint is written to; by default checkpoint below HANDWERK_DIR"`
	LogLevel    slog.Level `env:"HANDWERK_LOG" envDefault:"INFO" says:"DEBUG, INFO, WARN or ERROR; one JSON line a request at INFO"`

	zone    *time.Location
	proxies []netip.Prefix
	gauges  []netip.Prefix
}

func readConfig() (config, error) {
	c, err := env.ParseAs[config]()
	if err != nil {
		return c, fmt.Errorf("environment: %w", err)
	}
	if c.zone, err = zoneOf(c.Zone); err != nil {
		return c, err
	}
	if c.proxies, err = networks("HANDWERK_PROXIES", c.Proxies); err != nil {
		return c, err
	}
	if c.gauges, err = networks("HANDWERK_GAUGE_NETWORKS", c.Gauges); err != nil {
		return c, err
	}
	c.inDir()
	return c, nil
}

// networks reads addresses and networks; an address is a network of one.
func networks(name string, said []string) ([]netip.Prefix, error) {
	var list []netip.Prefix
	for _, one := range said {
		network, err := netip.ParsePrefix(strings.TrimSpace(one))
		if err != nil {
			at, err := netip.ParseAddr(strings.TrimSpace(one))
			if err != nil {
				return nil, fmt.Errorf("%s: %q is no address and no network like 10.0.0.0/8", name, one)
			}
			network = netip.PrefixFrom(at, at.BitLen())
		}
		list = append(list, network)
	}
	return list, nil
}

// inDir sets the files that live below the directory unless they are named.
func (c *config) inDir() {
	if c.Key == "" {
		c.Key = filepath.Join(c.Dir, "shop.key")
	}
	if c.Checkpoint == "" {
		c.Checkpoint = filepath.Join(c.Dir, "checkpoint")
	}
}

// demoDir is where the demo lives unless a directory is named.
const demoDir = ".handwerk-demo"

// forDemo moves everything that is kept into a directory of the demo's own.
func (c *config) forDemo() {
	if os.Getenv("HANDWERK_DIR") != "" {
		return // it was named; a workshop that is there already is not touched
	}
	c.Dir = demoDir
	for name, file := range map[string]*string{"HANDWERK_KEY": &c.Key, "HANDWERK_CHECKPOINT": &c.Checkpoint} {
		if os.Getenv(name) == "" {
			*file = ""
		}
	}
	c.inDir()
}

// zoneOf finds a time zone; without a name, the machine's by its IANA name,
// which browsers want to hear.
func zoneOf(name string) (*time.Location, error) {
	if name == "" {
		name = os.Getenv("TZ")
	}
	if name == "" {
		if link, err := os.Readlink("/etc/localtime"); err == nil {
			_, name, _ = strings.Cut(link, "zoneinfo/")
		}
	}
	zone, err := time.LoadLocation(strings.TrimPrefix(name, ":"))
	if err != nil {
		return nil, fmt.Errorf("HANDWERK_ZONE: %q is no time zone; accepted: a name like Europe/Lisbon", name)
	}
	return zone, nil
}

// variables lists the environment for the help.
func variables() string {
	var b strings.Builder
	t := reflect.TypeFor[config]()
	for i := range t.NumField() {
		f := t.Field(i)
		name, ok := f.Tag.Lookup("env")
		if !ok {
			continue
		}
		_, _ = fmt.Fprintf(&b, "  %-24s %s", name, f.Tag.Get("says"))
		if d := f.Tag.Get("envDefault"); d != "" {
			_, _ = fmt.Fprintf(&b, " (%s)", d)
		}
		b.WriteString("\n")
	}
	return b.String()
}

// logger writes one JSON line an event, its time said as everywhere else.
func (c config) logger() *slog.Logger {
	return slog.New(slog.NewJSONHandler(os.Stderr,
		&slog.HandlerOptions{Level: c.LogLevel, ReplaceAttr: func(groups []string, a slog.Attr) slog.Attr {
			if a.Key == slog.TimeKey && len(groups) == 0 {
				return slog.String(slog.TimeKey, a.Value.Time().In(c.zone).Format("2006-01-02 15:04:05.000"))
			}
			return a
		}}))
}

// database is an open, migrated database: as the role that serves, and how to
// open it as its owner.
type database struct {
	*postgres.Store
	owner func(context.Context) (*postgres.Store, error)
	role  string
	close func()
}

// open opens the database named by the environment, or starts our own, and
// brings its schema up to date.
func (c config) open(ctx context.Context, log *slog.Logger, patient bool) (*database, error) {
	d, o, url, err := c.reach(ctx, log)
	if err != nil {
		return nil, err
	}
	if err := d.migrate(ctx); err != nil {
		d.close()
		return nil, err
	}
	o.Patient = patient
	if d.Store, err = postgres.Open(ctx, url, o); err != nil {
		d.close()
		return nil, err
	}
	stop := d.close
	d.close = func() { _ = d.Store.Close(); stop() }
	if owns, err := d.Owns(ctx); err != nil || owns {
		if err != nil {
			d.close()
			return nil, err
		}
		log.Warn(
			"the program serves as the owner of its tables; give it a role that owns nothing in HANDWERK_DATABASE_URL, and the owner's address in HANDWERK_OWNER_URL",
		)
	}
	return d, nil
}

// reach finds the database without looking into it.
func (c config) reach(ctx context.Context, log *slog.Logger) (d *database, o postgres.Options, url string, err error) {
	d, o = &database{close: func() {}}, postgres.Options{Zone: c.zone, Erased: c.Key + ".erased"}
	url, ownerURL := c.DatabaseURL, c.OwnerURL
	if url == "" {
		if ownerURL != "" {
			return nil, o, "", errors.New("HANDWERK_OWNER_URL is set, HANDWERK_DATABASE_URL is not")
		}
		server, err := cluster.Start(ctx, c.Dir, cluster.Options{Log: log})
		if err != nil {
			return nil, o, "", err
		}
		url, ownerURL, o.Room, o.Stuck = server.URL, server.OwnerURL, server.Room, server.Stuck
		d.close = func() {
			if err := server.Stop(); err != nil {
				log.Error("the database did not close", "error", err.Error())
			}
		}
	}
	if ownerURL == "" {
		ownerURL = url
	}
	if d.role, err = postgres.RoleOf(url); err != nil {
		d.close()
		return nil, o, "", err
	}
	d.owner = func(ctx context.Context) (*postgres.Store, error) {
		return postgres.Open(ctx, ownerURL, postgres.Options{Patient: true, Zone: c.zone})
	}
	return d, o, url, nil
}

// migrate brings the schema up to date as the owner, and gives the serving
// role what it needs.
func (d *database) migrate(ctx context.Context) error {
	owner, err := d.owner(ctx)
	if err != nil {
		return err
	}
	defer func() { _ = owner.Close() }()
	if err := owner.Migrate(ctx); err != nil {
		return err
	}
	if owner.Role() == d.role {
		return nil
	}
	return owner.Grant(ctx, d.role)
}
