// Package httpapi serves the record over HTTP: one file per resource, typed
// endpoints from which routes and the OpenAPI document are both made.
package httpapi

import (
	"context"
	"fmt"
	"io/fs"
	"iter"
	"log/slog"
	"net/http"
	"net/netip"
	"runtime/debug"
	"strings"
	"sync"
	"time"

	"github.com/gofiber/fiber/v3"
	"github.com/gofiber/fiber/v3/middleware/compress"
	"github.com/gofiber/fiber/v3/middleware/requestid"
	lru "github.com/hashicorp/golang-lru/v2"
	"github.com/hashicorp/golang-lru/v2/expirable"

	"handwerk/httpapi/follow"
	"handwerk/httpapi/news"
	"handwerk/workshop"
	"handwerk/workshop/people"
	"handwerk/workshop/seal"
	"handwerk/workshop/shop"
)

// Accounts keeps people, sessions and what counts tries to sign in.
type Accounts interface {
	Account(ctx context.Context, login string) (people.Account, bool, error)
	RenewPassword(ctx context.Context, login, hash, exceptSession string) error

	KeepSession(ctx context.Context, n people.Session) error
	Session(ctx context.Context, digest string, now time.Time) (people.Session, bool, error)
	UseSession(ctx context.Context, digest string, now time.Time) error
	Sessions(ctx context.Context, login string, now time.Time, most int) ([]people.Session, error)
	EndSession(ctx context.Context, login, id string) (bool, error)

	// IsFirst tells whether nobody has an account; Begin opens the workshop then.
	IsFirstCode(ctx context.Context, code string, now time.Time) (bool, error)
	IsFirst(ctx context.Context) (bool, error)
	Begin(ctx context.Context, code string, now time.Time, shop shop.Shop, lead people.Account) error

	// Tablets at the bench, and the PINs said there.
	Tablets(ctx context.Context) ([]people.Tablet, error)
	Tablet(ctx context.Context, digest string) (people.Tablet, bool, error)
	Enrol(ctx context.Context, t people.Tablet, digest string, by people.Person) error
	EndTablet(ctx context.Context, id string, at time.Time) (bool, error)
	WithPIN(ctx context.Context) ([]people.Person, error)
	PIN(ctx context.Context, login string) (people.Person, string, error)
	KeepPIN(ctx context.Context, login, hash string) error
	TryPIN(ctx context.Context, login string) (awake bool, err error)
	WakePIN(ctx context.Context, login string) error

	// Shop is what the workshop says of itself; each saying is kept, the last holds.
	Shop(ctx context.Context) (shop.Shop, bool, error)
	KeepShop(ctx context.Context, shop shop.Shop, by people.Person, now time.Time) error
	// BackupRuns are the last backup that succeeded and the last that was tried.
	BackupRuns(ctx context.Context) (good, last *shop.BackupRun, err error)

	// People are all who work or worked here; a change that would leave no lead
	// is workshop.ErrLastLead.
	People(ctx context.Context) ([]people.Account, error)
	AddPerson(ctx context.Context, a people.Account) (added bool, err error)
	ChangePerson(ctx context.Context, a people.Account, signedOut bool) error

	// EndDigest ends the session of a token, whoever's it is.
	EndDigest(ctx context.Context, digest string) error

	// Programs work here by a token, until it is ended; false when none has that login.
	Programs(ctx context.Context) ([]people.Program, error)
	AddProgram(ctx context.Context, p people.Person, n people.Session) error
	EndProgram(ctx context.Context, login string, at time.Time) (bool, error)

	CountTry(ctx context.Context, bucket string, now time.Time, window time.Duration) (tries int, since time.Time,
		err error)
	TakeBackTry(ctx context.Context, bucket string) error
	ForgetTries(ctx context.Context, before time.Time) error
	// Secret is a random text under a name, made once for all processes.
	Secret(ctx context.Context, name string) (string, error)
}

// Options are what the API needs of the rest of the program.
type Options struct {
	Workshop   *workshop.Workshop
	Accounts   Accounts
	Photos     func(ctx context.Context, rebuild string) iter.Seq2[workshop.Photo, error]
	Checkpoint func(ctx context.Context) (seal.Checkpoint, error)
	Ready      func(ctx context.Context) error
	LogStopped func() string // why the log over all records is not written; empty while it is
	IsLost     func(error) bool
	IsFull     func(error) bool   // no room on the database's disk
	WhyStuck   func(error) string // why the database does not come back by itself; empty where it is another error
	Hub        *news.Hub
	Lines      *follow.Gauges // to gauges that speak; nil allows the private networks
	Log        *slog.Logger
	Now        func() time.Time
	Zone       func() *time.Location // of the shop; nil is UTC
	Currency   func() string         // of the shop, three letters; nil is none
	Front      fs.FS                 // the built front end
	Secure     bool                  // served over TLS: the cookie says so
	Hosts      []string              // accepted names of this server; empty: loopback
	Proxies    []netip.Prefix        // whose forwarded address counts
}

// The desks of the API: each serves the operations of its resources.
type (
	sessionDesk struct{ *api } // who signs in, with what
	staffDesk   struct{ *api } // people and programs
	benchDesk   struct{ *api } // tablets, and the first day
	shopDesk    struct{ *api } // what the shop has: fleet, sheets, routes, drawers, gauges
	rebuildDesk struct{ *api } // rebuilds, their records and pictures
	calcDesk    struct{ *api } // calculators
)

// door is what every request comes through: who it is, from where, and how often.
type door struct {
	Options
	hosts   map[string]bool
	hashing hashing
	// sessions found good a moment ago, by the digest of their token.
	sessions *expirable.LRU[string, people.Session]
	known    func(context.Context) ([]byte, error)
}

type api struct {
	*door
	uploads  chan struct{} // pictures that are being read
	notice   notice
	previews *lru.Cache[string, []byte] // by the picture's id
}

const (
	maxJSON  = 1 << 20
	maxShort = 8 << 10 // what a stranger may send

	// requestTime is what a request may take, the database included. It reaches
	// the database through the context.
	requestTime = 8 * time.Second
	readTime    = 30 * time.Second
	uploadTime  = 3 * time.Minute
	writeTime   = 30 * time.Second
	// uploadsAtOnce bounds the memory of pictures on their way in.
	uploadsAtOnce = 4
)

// New makes the application.
func New(o Options) *fiber.App {
	if o.Zone == nil {
		o.Zone = func() *time.Location { return time.UTC }
	}
	if o.Currency == nil {
		o.Currency = func() string { return "" }
	}
	if o.Lines == nil {
		o.Lines = &follow.Gauges{}
	}
	a := &api{door: &door{Options: o, hosts: hostNames(o.Hosts), hashing: newHashing(),
		sessions: expirable.NewLRU[string, people.Session](1000, nil, remembered)},
		uploads: make(chan struct{}, uploadsAtOnce)}
	a.known = a.onceKnown()
	a.previews, _ = lru.New[string, []byte](previews) // a positive size never fails
	app := fiber.New(fiber.Config{
		AppName: "Handwerk", ErrorHandler: a.onError, ReadBufferSize: 16 << 10,
		// Bodies are read by whoever wants them, after looking who sends them.
		BodyLimit: maxJSON, StreamRequestBody: true, DisablePreParseMultipartForm: true,
		ReadTimeout: readTime, WriteTimeout: writeTime, IdleTimeout: 2 * time.Minute,
	})
	app.Server().HeaderReceived = headReceived
	app.Use(
		requestid.New(requestid.Config{Generator: requestID}), bodyWaits, a.logged, a.guarded, a.headers, lingering,
		a.hostKnown, a.unpacked, hurried,
	)
	app.Use(compress.New(compress.Config{Level: compress.LevelBestSpeed, Next: unpressed}))
	app.Get("/healthz", func(c fiber.Ctx) error { return c.SendString("ok\n") })
	app.Get("/readyz", a.ready)
	v1 := app.Group(prefix)
	for _, e := range a.endpoints() {
		v1.Add([]string{e.method}, e.path, e.serve)
	}
	v1.Get("/openapi.json", func(c fiber.Ctx) error {
		document, err := Document()
		if err != nil {
			return err
		}
		return c.Type("json").Send(document)
	})
	v1.Use(a.nowhere)
	app.Use(a.front())
	return app
}

const prefix = "/api/v1"

// unpressed answers are sent as they are: small ones, for packing takes longer
// than sending, and those that stream, which packing would first hold whole.
func unpressed(c fiber.Ctx) bool {
	return isStream(c) || c.Method() != http.MethodGet || strings.HasSuffix(c.Path(), archiveEnding)
}

func isStream(c fiber.Ctx) bool { return c.Get(fiber.HeaderAccept) == "text/event-stream" }

func (a *api) ready(c fiber.Ctx) error {
	ctx, cancel := context.WithTimeout(c.Context(), 2*time.Second)
	defer cancel()
	err := a.Ready(ctx)
	switch {
	case a.IsFull(err):
		return diskFull()
	case a.WhyStuck(err) != "":
		return problem(http.StatusServiceUnavailable, "Not ready", a.WhyStuck(err))
	case err != nil:
		return problem(http.StatusServiceUnavailable, "Not ready", "The database does not respond.")
	}
	if a.logStopped() != "" {
		return c.SendString("ready; the log over all records has stopped\n")
	}
	return c.SendString("ready\n")
}

// headers sets what every answer carries. Scripts, styles and fonts come from
// this server only.
func (a *api) headers(c fiber.Ctx) error {
	c.Set("Content-Security-Policy", "default-src 'none'; script-src 'self'; style-src 'self'; "+
		"font-src 'self'; img-src 'self' blob:; connect-src 'self'; manifest-src 'self'; base-uri 'none'; form-action 'self'; frame-ancestors 'none'")
	c.Set("X-Content-Type-Options", "nosniff")
	c.Set("X-Frame-Options", "DENY")
	c.Set("Referrer-Policy", "no-referrer")
	c.Set("Permissions-Policy", "geolocation=(), microphone=(), payment=()")
	c.Set("Cross-Origin-Opener-Policy", "same-origin")
	c.Set("Cross-Origin-Resource-Policy", "same-origin")
	c.Set(fiber.HeaderCacheControl, "no-store") // unless the handler knows better
	if a.Secure {
		c.Set(fiber.HeaderStrictTransportSecurity, "max-age=31536000")
	}
	return c.Next()
}

// hurried gives a request its deadline.
func hurried(c fiber.Ctx) error {
	ctx, cancel := context.WithTimeout(c.Context(), requestTime)
	defer cancel()
	c.SetContext(ctx)
	return c.Next()
}

// logged writes one line per request; no bodies, no cookies, no queries.
func (a *api) logged(c fiber.Ctx) error {
	began := time.Now()
	err := c.Next()
	if err != nil {
		err = a.onError(c, err)
	}
	a.Log.Info("request", "request_id", requestid.FromContext(c), "method", c.Method(), "path", c.Path(),
		"status", c.Response().StatusCode(), "ms", time.Since(began).Milliseconds())
	return err
}

// security writes one line about what somebody who watches over the shop wants
// to see, and never a secret.
func (a *door) security(c fiber.Ctx, what string, args ...any) {
	a.Log.Warn("security", append([]any{"event", what, "request_id", requestid.FromContext(c), "address",
		a.address(c).String()}, args...)...)
}

// guarded turns a panic into a problem, with its trace in the log.
func (a *api) guarded(c fiber.Ctx) (err error) {
	defer func() {
		if r := recover(); r != nil {
			a.Log.Error("panic", "trace", string(debug.Stack()))
			err = fmt.Errorf("panic: %v", r)
		}
	}()
	return c.Next()
}

// nowhere answers for addresses that are none: with the methods that there
// are, if the address is one.
func (a *api) nowhere(c fiber.Ctx) error {
	if methods := methodsAt(a.endpoints(), c.Path()); methods != "" {
		c.Set(fiber.HeaderAllow, methods)
		return problem(http.StatusMethodNotAllowed, "Not possible here", "This address takes "+methods+".")
	}
	return problem(http.StatusNotFound, "Not here", "This page does not exist.")
}

// onceKnown reads the key of the cookie of known browsers when it is first needed.
func (a *api) onceKnown() func(context.Context) ([]byte, error) {
	var mu sync.Mutex
	var key []byte
	return func(ctx context.Context) ([]byte, error) {
		mu.Lock()
		defer mu.Unlock()
		if key != nil {
			return key, nil
		}
		secret, err := a.Accounts.Secret(ctx, "known browsers")
		if err != nil {
			return nil, err
		}
		key = []byte(secret)
		return key, nil
	}
}
