package httpapi

import (
	"crypto/hmac"
	"crypto/rand"
	"crypto/sha256"
	"encoding/hex"
	"fmt"
	"net/http"
	"strings"
	"time"

	"github.com/gofiber/fiber/v3"
)

// Tries to sign in are counted before they are made, in windows of a quarter
// of an hour, so that two hundred at once are two hundred. A stranger is
// limited at a name, at his address and with all others together. A browser
// in which this very person signed in before has counts of its own: strangers
// who use theirs up, at the same address too, do not lock it out. Each try at a
// name counts there, whoever makes it.
const (
	tryWindow = 15 * time.Minute

	triesAtNameAndAddress = 5
	triesAtName           = 20
	triesAtAddress        = 30
	triesInAll            = 300
	triesOfKnownAtName    = 5
	triesAtNameByAll      = 60
)

type bucket struct {
	name  string
	limit int
}

func (a *door) buckets(c fiber.Ctx, login string) ([]bucket, error) {
	key, err := a.known(c.Context())
	if err != nil {
		return nil, err
	}
	name := DigestOf("name", login)
	if id := knownID(c.Cookies(a.cookieName(knownCookie)), login, key); id != "" {
		return []bucket{{DigestOf("known at name", id, login), triesOfKnownAtName}, {name, triesAtNameByAll}}, nil
	}
	at := a.address(c).String()
	return []bucket{
		{DigestOf("name and address", login, at), triesAtNameAndAddress}, {name, triesAtName},
		{DigestOf("address", at), triesAtAddress}, {"all", triesInAll},
	}, nil
}

// countTry counts a try in all its buckets, or says how long to wait.
func (a *door) countTry(c fiber.Ctx, list []bucket) error {
	now := a.Now()
	for i, b := range list {
		tries, since, err := a.Accounts.CountTry(c.Context(), b.name, now, tryWindow)
		if err != nil {
			return err
		}
		if i == 0 && tries == 1 { // a new window; as good a time as any
			if err := a.Accounts.ForgetTries(c.Context(), now.Add(-2*tryWindow)); err != nil {
				return err
			}
		}
		if tries > b.limit {
			wait := since.Add(tryWindow).Sub(now)
			p := problem(
				http.StatusTooManyRequests, "Too many tries",
				fmt.Sprintf("Try again in %d minutes, or ask the lead for a new password.", int(wait.Minutes())+1),
			)
			p.RetryAfter = int(wait.Seconds()) + 1
			return p
		}
	}
	return nil
}

// takeBack uncounts a try that was no guess.
func (a *door) takeBack(c fiber.Ctx, list []bucket) error {
	for _, b := range list {
		if err := a.Accounts.TakeBackTry(c.Context(), b.name); err != nil {
			return err
		}
	}
	return nil
}

// knownCookie says who signed in with this browser before, and nothing else: an
// id of the browser, and a mark for each login that earned it.
const (
	knownCookie = "handwerk_known"
	knownLife   = 400 * 24 * time.Hour
	knownMost   = 12 // people at one browser
)

// knownID is the id in a cookie that this login earned; empty for any other.
func knownID(cookie, login string, key []byte) string {
	parts := strings.Split(cookie, ".")
	for _, mark := range parts[1:] {
		if hmac.Equal([]byte(mark), []byte(knownMark(parts[0], login, key))) {
			return parts[0]
		}
	}
	return ""
}

func knownMark(id, login string, key []byte) string {
	m := hmac.New(sha256.New, key)
	_, _ = fmt.Fprintf(m, "%d:%s%s", len(id), id, login)
	return hex.EncodeToString(m.Sum(nil))
}

// makeKnown marks a browser for a login, beside those it is marked for.
func (a *door) makeKnown(c fiber.Ctx, login string) error {
	key, err := a.known(c.Context())
	cookie := c.Cookies(a.cookieName(knownCookie))
	if err != nil || knownID(cookie, login, key) != "" {
		return err
	}
	id, marks := rand.Text(), []string(nil)
	if parts := strings.Split(cookie, "."); len(parts) > 1 && len(parts) <= knownMost {
		id, marks = parts[0], parts[1:]
	}
	a.setCookie(c, knownCookie, strings.Join(append([]string{id, knownMark(id, login, key)}, marks...), "."),
		a.Now().Add(knownLife))
	return nil
}

// DigestOf is what is kept of a secret, and of what tries have in common.
func DigestOf(parts ...string) string {
	h := sha256.New()
	for _, p := range parts {
		_, _ = fmt.Fprintf(h, "%d:%s", len(p), p)
	}
	return hex.EncodeToString(h.Sum(nil))
}
