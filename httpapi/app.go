// Package httpapi serves the record over HTTP: one file per resource, typed
// endpoints from which routes and the OpenAPI document are both made.
package httpapi

import (
	"context"
	"fmt"
	"io/fs"
	"log/slog"
	"net/http"
	"runtime/debug"
	"time"

	"github.com/gofiber/fiber/v3"
	"github.com/gofiber/fiber/v3/middleware/compress"
	"github.com/gofiber/fiber/v3/middleware/requestid"

	"handwerk/workshop"
)

// Accounts keeps people, sessions and failed sign-ins.
type Accounts interface {
	Account(ctx context.Context, login string) (workshop.Account, bool, error)
	KeepSession(ctx context.Context, digest string, n workshop.Session, now time.Time) error
	Session(ctx context.Context, digest string, now time.Time) (workshop.Session, bool, error)
	EndSession(ctx context.Context, digest string) error
	LoginFailures(ctx context.Context, login string, since time.Time) (int, error)
	NoteLoginFailure(ctx context.Context, login string, at time.Time) error
	ForgetLoginFailures(ctx context.Context, login string) error
}

// Options are what the API needs of the rest of the program.
type Options struct {
	Workshop *workshop.Workshop
	Accounts Accounts
	Photos   func(ctx context.Context, rebuild string) ([]workshop.Photo, error)
	Ready    func(ctx context.Context) error
	IsLost   func(error) bool
	Hub      *Hub
	Log      *slog.Logger
	Now      func() time.Time
	Front    fs.FS // the built front end
	Secure   bool  // served over TLS: the cookie says so
}

type api struct {
	Options
	hashing chan struct{} // bounds how many passwords are hashed at once
}

const (
	maxBody = 12 << 20 // a picture
	maxJSON = 1 << 20
)

// New makes the application.
func New(o Options) *fiber.App {
	a := &api{Options: o, hashing: make(chan struct{}, 2)}
	app := fiber.New(fiber.Config{
		AppName: "Handwerk", BodyLimit: maxBody, ErrorHandler: a.onError,
		ReadTimeout: 30 * time.Second, IdleTimeout: 2 * time.Minute, ReadBufferSize: 16 << 10,
	})
	app.Use(requestid.New(), a.logged, a.guarded, headers)
	app.Use(compress.New(compress.Config{Level: compress.LevelBestSpeed, Next: isStream}))
	app.Get("/healthz", func(c fiber.Ctx) error { return c.SendString("ok\n") })
	app.Get("/readyz", a.ready)
	v1 := app.Group(prefix)
	for _, e := range a.endpoints() {
		v1.Add([]string{e.method}, e.path, e.serve)
	}
	document, err := openAPI(a.endpoints())
	if err != nil {
		panic(err) // the types of this package; any test would have failed
	}
	v1.Get("/openapi.json", func(c fiber.Ctx) error { return c.Type("json").Send(document) })
	v1.Use(func(fiber.Ctx) error { return problem(http.StatusNotFound, "Not here", "There is no such address.") })
	app.Use(a.front())
	return app
}

const prefix = "/api/v1"

func isStream(c fiber.Ctx) bool { return c.Get(fiber.HeaderAccept) == "text/event-stream" }

func (a *api) ready(c fiber.Ctx) error {
	ctx, cancel := context.WithTimeout(c.Context(), 2*time.Second)
	defer cancel()
	if err := a.Ready(ctx); err != nil {
		return problem(http.StatusServiceUnavailable, "Not ready", "The database does not answer.")
	}
	return c.SendString("ready\n")
}

// headers sets what every answer carries. Scripts, styles and fonts come from
// this server only.
func headers(c fiber.Ctx) error {
	c.Set("Content-Security-Policy", "default-src 'none'; script-src 'self'; style-src 'self'; font-src 'self'; img-src 'self' blob:; connect-src 'self'; manifest-src 'self'; base-uri 'none'; form-action 'self'; frame-ancestors 'none'")
	c.Set("X-Content-Type-Options", "nosniff")
	c.Set("X-Frame-Options", "DENY")
	c.Set("Referrer-Policy", "no-referrer")
	c.Set("Permissions-Policy", "geolocation=(), microphone=(), payment=()")
	c.Set("Cross-Origin-Opener-Policy", "same-origin")
	c.Set("Cross-Origin-Resource-Policy", "same-origin")
	c.Set(fiber.HeaderCacheControl, "no-store") // unless the handler knows better
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
