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
// in which somebody signed in before has counts of its own: strangers who use
// theirs up, at the same address too, do not lock it out.
const (
	tryWindow = 15 * time.Minute

	triesAtNameAndAddress = 5
	triesAtName           = 20
	triesAtAddress        = 30
	triesInAll            = 300
	triesOfKnownAtName    = 5
	triesOfKnown          = 15
)

type bucket struct {
	name  string
	limit int
}

func (a *api) buckets(c fiber.Ctx, login string) ([]bucket, error) {
	key, err := a.known(c.Context())
	if err != nil {
		return nil, err
	}
	if id := knownID(c.Cookies(a.cookieName(knownCookie)), key); id != "" {
		return []bucket{{DigestOf("known at name", id, login), triesOfKnownAtName}, {DigestOf("known", id), triesOfKnown}}, nil
	}
	at := a.address(c).String()
	return []bucket{
		{DigestOf("name and address", login, at), triesAtNameAndAddress}, {DigestOf("name", login), triesAtName},
		{DigestOf("address", at), triesAtAddress}, {"all", triesInAll},
	}, nil
}

// countTry counts a try in all its buckets, or says how long to wait.
func (a *api) countTry(c fiber.Ctx, list []bucket) error {
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
			p := problem(http.StatusTooManyRequests, "Too many tries", fmt.Sprintf("Try again in %d minutes, or ask the lead for a new password.", int(wait.Minutes())+1))
			p.RetryAfter = int(wait.Seconds()) + 1
			return p
		}
	}
	return nil
}

// takeBack uncounts a try that was no guess.
func (a *api) takeBack(c fiber.Ctx, list []bucket) error {
	for _, b := range list {
		if err := a.Accounts.TakeBackTry(c.Context(), b.name); err != nil {
			return err
		}
	}
	return nil
}

// knownCookie says that somebody signed in with this browser before, and
// nothing else.
const (
	knownCookie = "handwerk_known"
	knownLife   = 400 * 24 * time.Hour
)

// knownID is the id in a cookie that we signed; empty for any other.
func knownID(cookie string, key []byte) string {
	id, mac, ok := strings.Cut(cookie, ".")
	if !ok || !hmac.Equal([]byte(mac), []byte(knownMAC(id, key))) {
		return ""
	}
	return id
}

func knownMAC(id string, key []byte) string {
	m := hmac.New(sha256.New, key)
	m.Write([]byte(id))
	return hex.EncodeToString(m.Sum(nil))
}

// makeKnown gives a browser its cookie, unless it has one.
func (a *api) makeKnown(c fiber.Ctx) error {
	key, err := a.known(c.Context())
	if err != nil || knownID(c.Cookies(a.cookieName(knownCookie)), key) != "" {
		return err
	}
	id := rand.Text()
	a.setCookie(c, knownCookie, id+"."+knownMAC(id, key), a.Now().Add(knownLife))
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
