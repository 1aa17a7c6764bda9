package httpapi

import (
	"crypto/rand"
	"crypto/sha256"
	"crypto/subtle"
	"encoding/hex"
	"mime"
	"net/http"
	"net/url"
	"strings"
	"time"

	"github.com/gofiber/fiber/v3"

	"handwerk/core/fault"
	"handwerk/workshop"
)

const (
	cookieName  = "handwerk_session"
	csrfHeader  = "X-CSRF-Token"
	sessionLife = 14 * time.Hour // a working day and some
	failWindow  = 15 * time.Minute
	failLimit   = 5
)

// Credentials are what a person signs in with.
type Credentials struct {
	Login    string `json:"login"`
	Password string `json:"password"`
}

// SessionView is what a signed-in browser may know of its session.
type SessionView struct {
	Person  workshop.Person `json:"person"`
	CSRF    string          `json:"csrf"`
	Expires time.Time       `json:"expires"`
}

func (a *api) sessionEndpoints() []endpoint {
	return []endpoint{
		post(a, "/session", "signIn", "sign in", anyone, http.StatusOK, a.signIn),
		get(a, "/session", "whoAmI", "who is signed in", signedIn, func(c call, _ nothing) (SessionView, error) {
			return SessionView{c.session.Person, c.session.CSRF, c.session.Expires}, nil
		}),
		post(a, "/session/end", "signOut", "sign out", signedIn, http.StatusNoContent, a.signOut),
	}
}

func (a *api) signIn(c call, in Credentials) (SessionView, error) {
	var faults fault.Fields
	if in.Login == "" || len(in.Login) > 60 {
		faults.Add("login", "your name at this workshop", "missing or too long")
	}
	if in.Password == "" || len(in.Password) > 200 {
		faults.Add("password", "your password", "missing or too long")
	}
	if len(faults) > 0 {
		return SessionView{}, faults
	}
	ctx, now := c.Context(), a.Now()
	who := strings.ToLower(in.Login) + " " + c.IP()
	failures, err := a.Accounts.LoginFailures(ctx, who, now.Add(-failWindow))
	if err != nil {
		return SessionView{}, err
	}
	if failures >= failLimit {
		return SessionView{}, problem(http.StatusTooManyRequests, "Too many tries", "Wait a quarter of an hour, or ask the lead for a new password.")
	}
	account, ok, err := a.Accounts.Account(ctx, strings.ToLower(in.Login))
	if err != nil {
		return SessionView{}, err
	}
	a.hashing <- struct{}{}
	ok = CheckPassword(account.PasswordHash, in.Password) && ok
	<-a.hashing
	if !ok {
		if err := a.Accounts.NoteLoginFailure(ctx, who, now); err != nil {
			return SessionView{}, err
		}
		return SessionView{}, problem(http.StatusUnauthorized, "Not signed in", "Name or password is wrong.")
	}
	if err := a.Accounts.ForgetLoginFailures(ctx, who); err != nil {
		return SessionView{}, err
	}
	token := rand.Text() + rand.Text()
	session := workshop.Session{Person: account.Person, CSRF: rand.Text(), Expires: now.Add(sessionLife)}
	if err := a.Accounts.KeepSession(ctx, tokenDigest(token), session, now); err != nil {
		return SessionView{}, err
	}
	a.setCookie(c, token, session.Expires)
	return SessionView{session.Person, session.CSRF, session.Expires}, nil
}

func (a *api) signOut(c call, _ nothing) (nothing, error) {
	err := a.Accounts.EndSession(c.Context(), tokenDigest(c.Cookies(cookieName)))
	a.setCookie(c, "", time.Unix(0, 0))
	return nothing{}, err
}

func (a *api) setCookie(c fiber.Ctx, value string, expires time.Time) {
	c.Cookie(&fiber.Cookie{Name: cookieName, Value: value, Path: "/", Expires: expires, HTTPOnly: true, SameSite: fiber.CookieSameSiteStrictMode, Secure: a.Secure})
}

func tokenDigest(token string) string {
	sum := sha256.Sum256([]byte(token))
	return hex.EncodeToString(sum[:])
}

// admit lets a request in: same origin for anything that writes, a session
// where one is asked for, and with it the token no other site can read.
func (a *api) admit(c fiber.Ctx, e endpoint) (call, error) {
	writes := e.method != http.MethodGet
	if writes && !sameOrigin(c) {
		return call{}, problem(http.StatusForbidden, "Foreign origin", "Writes come from this application's own pages only.")
	}
	if e.access == anyone {
		return call{Ctx: c}, nil
	}
	token := c.Cookies(cookieName)
	if token == "" {
		return call{}, problem(http.StatusUnauthorized, "Not signed in", "Sign in first.")
	}
	session, ok, err := a.Accounts.Session(c.Context(), tokenDigest(token), a.Now())
	if err != nil {
		return call{}, err
	}
	if !ok {
		return call{}, problem(http.StatusUnauthorized, "Session has run out", "Sign in again; what you typed is still here.")
	}
	if writes && subtle.ConstantTimeCompare([]byte(c.Get(csrfHeader)), []byte(session.CSRF)) != 1 {
		return call{}, problem(http.StatusForbidden, "Token missing", "The write carried no valid "+csrfHeader+".")
	}
	return call{c, session}, nil
}

// sameOrigin refuses what a browser sends on behalf of another site. Programs
// send neither header; they need the token all the same.
func sameOrigin(c fiber.Ctx) bool {
	if site := c.Get("Sec-Fetch-Site"); site != "" && site != "same-origin" && site != "none" {
		return false
	}
	origin := c.Get(fiber.HeaderOrigin)
	if origin == "" {
		return true
	}
	u, err := url.Parse(origin)
	return err == nil && u.Host == c.Host()
}

func mediaType(c fiber.Ctx) string {
	t, _, err := mime.ParseMediaType(c.Get(fiber.HeaderContentType))
	if err != nil {
		return ""
	}
	return t
}
