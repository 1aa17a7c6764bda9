package httpapi

import (
	"context"
	"crypto/rand"
	"crypto/subtle"
	"errors"
	"mime"
	"net/http"
	"net/url"
	"slices"
	"strings"
	"time"

	"github.com/gofiber/fiber/v3"

	"handwerk/core/input"
	"handwerk/core/quantity"
	"handwerk/core/text"
	"handwerk/workshop/people"
	"handwerk/workshop/say"
)

const (
	sessionCookie = "handwerk_session"
	csrfHeader    = "X-CSRF-Token"
	// usedEvery is how exactly the last use of a session is noted.
	usedEvery = 2 * time.Minute
)

// Credentials are what a person signs in with.
type Credentials struct {
	Login    string `json:"login"`
	Password string `json:"password"`
}

// SessionView is what a signed-in browser may know of its session.
type SessionView struct {
	Person  people.Person   `json:"person"`
	CSRF    string          `json:"csrf"`
	Expires time.Time       `json:"expires"`
	Zone    string          `json:"zone"`  // the shop's time zone, by its IANA name
	Units   []quantity.Unit `json:"units"` // all there are, with their factors to SI
	// Currency is the shop's, three letters; money is said with it.
	Currency string `json:"currency,omitempty"`
	// IdleMinutes of a session at the bench: after so long a rest it ends.
	IdleMinutes int `json:"idle_minutes,omitempty"`
}

// OpenSession is one of the places where a person is signed in.
type OpenSession struct {
	ID      string    `json:"id"`
	Started time.Time `json:"started"`
	Used    time.Time `json:"used"`
	Browser string    `json:"browser"`
	Address string    `json:"address"`
	This    bool      `json:"this"`
}

// openSessions are the sessions a person has open.
type openSessions struct {
	Sessions []OpenSession `json:"sessions"`
	More     bool          `json:"more,omitempty"`
}

// NewPassword is a change of one's own password.
type NewPassword struct {
	Current  string `json:"current"`
	Password string `json:"password"`
}

type sessionIn struct {
	ID string `path:"id"`
}

func (a sessionDesk) sessionEndpoints() []endpoint {
	return []endpoint{
		typed(a.api, endpoint{
			method: http.MethodPost, path: "/session", id: "signIn", summary: "sign in", access: anyone,
			status: http.StatusOK, limit: maxShort,
		}, a.signIn),
		get(a.api, "/session", "whoAmI", "who is signed in", signedIn,
			func(c call, _ nothing) (SessionView, error) { return a.view(c.session), nil }),
		post(a.api, "/session/end", "signOut", "sign out", signedIn, http.StatusNoContent, a.signOut),
		post(
			a.api,
			"/session/password",
			"changePassword",
			"change one's own password; all other sessions end",
			signedIn,
			http.StatusNoContent,
			a.changePassword,
		),
		get(a.api, "/sessions", "sessions", "where one is signed in", signedIn, a.openSessions),
		post(a.api, "/sessions/:id/end", "endSession", "end one of one's sessions", signedIn, http.StatusNoContent,
			a.endSession),
	}
}

func (a *door) view(s people.Session) SessionView {
	return SessionView{
		s.Person, s.CSRF, s.Expires(), a.Zone().String(), quantity.Units(), a.Currency(), s.IdleMinutes,
	}
}

func (a sessionDesk) signIn(c call, in Credentials) (SessionView, error) {
	var faults input.Fields
	login := strings.ToLower(strings.TrimSpace(in.Login))
	if login == "" || text.Length(login) > 60 {
		faults.Add("login", "your name at this workshop", "missing or too long")
	}
	if in.Password == "" || text.Length(in.Password) > longestPassword {
		faults.Add("password", "your password", "missing or too long")
	}
	if len(faults) > 0 {
		return SessionView{}, faults
	}
	account, err := a.verified(c, login, in.Password)
	if err != nil {
		return SessionView{}, err
	}
	return a.openSession(c, people.Session{Person: account.Person})
}

// openSession signs a person in at this browser, or at this tablet.
func (a *door) openSession(c call, session people.Session) (SessionView, error) {
	if old := c.Cookies(a.cookieName(sessionCookie)); old != "" {
		if err := a.Accounts.EndDigest(c.Context(), DigestOf(old)); err != nil {
			return SessionView{}, err
		}
	}
	token, now := rand.Text()+rand.Text(), a.Now()
	session.ID, session.Digest, session.CSRF = say.NewID(), DigestOf(token), rand.Text()
	session.Started, session.Used = now, now
	session.Browser, session.Address = browserOf(c), a.address(c).String()
	if err := a.Accounts.KeepSession(c.Context(), session); err != nil {
		return SessionView{}, err
	}
	a.setCookie(c, sessionCookie, token, now.Add(people.SessionLife))
	return a.view(session), a.makeKnown(c, session.Person.Login)
}

// verified counts the try, then looks at the password.
func (a *door) verified(c call, login, password string) (people.Account, error) {
	tries, err := a.buckets(c, login)
	if err != nil {
		return people.Account{}, err
	}
	if err := a.countTry(c, tries); err != nil {
		a.security(c, "sign-in held back", "login", login)
		return people.Account{}, err
	}
	account, ok, err := a.Accounts.Account(c.Context(), login)
	if err != nil {
		return account, err
	}
	hash := account.PasswordHash
	if !ok || account.ClosedAt != nil {
		hash = ""
	}
	fits, err := a.hashing.check(c.Context(), hash, password)
	if err != nil {
		return account, err
	}
	if !fits {
		a.security(c, "sign-in failed", "login", login)
		return account, problem(http.StatusUnauthorized, "Not signed in", "Wrong name or password.")
	}
	return account, errors.Join(a.takeBack(c, tries), a.Accounts.WakePIN(c.Context(), login))
}

// browserOf is what a browser calls itself, short enough to be listed.
func browserOf(c fiber.Ctx) string {
	said := strings.ToValidUTF8(c.Get(fiber.HeaderUserAgent), "")
	if text.Bad(said) != "" {
		return ""
	}
	return string([]rune(said)[:min(text.Length(said), 160)])
}

func (a *door) signOut(c call, _ nothing) (nothing, error) {
	if c.session.Lasting {
		return nothing{}, problem(http.StatusForbidden, "A token stays", "A lead ends a program's token, under Shop.")
	}
	_, err := a.Accounts.EndSession(c.Context(), c.session.Person.Login, c.session.ID)
	a.setCookie(c, sessionCookie, "", time.Unix(0, 0))
	return nothing{}, err
}

func (a sessionDesk) changePassword(c call, in NewPassword) (nothing, error) {
	person := c.person()
	if err := JudgePassword(in.Password, person.Login, person.Name); err != nil {
		return nothing{}, err
	}
	if err := a.ownPassword(c, "current", in.Current); err != nil {
		return nothing{}, err
	}
	hash := HashPassword(in.Password)
	if err := a.Accounts.RenewPassword(c.Context(), person.Login, hash, c.session.Digest); err != nil {
		return nothing{}, err
	}
	a.security(c, "password changed", "login", person.Login)
	return nothing{}, nil
}

// ownPassword asks who is signed in for the password again, under a field's name.
func (a *door) ownPassword(c call, field, password string) error {
	if text.Length(password) > longestPassword {
		return input.At(field, "your password", "too long")
	}
	_, err := a.verified(c, c.person().Login, password)
	var p Problem
	if asProblem(err, &p) && p.Status == http.StatusUnauthorized {
		return input.At(field, "your password", "wrong password")
	}
	return err
}

// mostSessions of a person are listed.
const mostSessions = 100

func (a sessionDesk) openSessions(c call, _ nothing) (openSessions, error) {
	list, err := a.Accounts.Sessions(c.Context(), c.person().Login, a.Now(), mostSessions+1)
	list, more := say.Cut(list, mostSessions)
	view := openSessions{[]OpenSession{}, more}
	for _, s := range list {
		view.Sessions = append(view.Sessions, OpenSession{s.ID, s.Started, s.Used, s.Browser, s.Address,
			s.ID == c.session.ID})
	}
	return view, err
}

func (a sessionDesk) endSession(c call, in sessionIn) (nothing, error) {
	ended, err := a.Accounts.EndSession(c.Context(), c.person().Login, in.ID)
	if err == nil && !ended {
		return nothing{}, problem(http.StatusNotFound, "Not here",
			"That sign-in has already ended.")
	}
	return nothing{}, err
}

// cookieName under TLS binds the cookie to this very host.
func (a *door) cookieName(name string) string {
	if a.Secure {
		return "__Host-" + name
	}
	return name
}

func (a *door) setCookie(c fiber.Ctx, name, value string, expires time.Time) {
	c.Cookie(&fiber.Cookie{
		Name: a.cookieName(name), Value: value, Path: "/", Expires: expires, HTTPOnly: true,
		SameSite: fiber.CookieSameSiteStrictMode, Secure: a.Secure,
	})
}

// boardPaths are what a token for the board alone opens.
var boardPaths = []string{"/board", "/board/events"}

// admit lets a request in: same origin for anything that writes, a session
// where one is asked for, with it the token no other site can read, and the
// hands that the endpoint is for. Nothing of the body is read before.
func (a *door) admit(c fiber.Ctx, e endpoint) (call, error) {
	writes := e.method != http.MethodGet
	if writes && !a.sameOrigin(c) {
		return call{}, problem(http.StatusForbidden, "Foreign origin",
			"This request did not come from this application.")
	}
	if e.access == anyone {
		return call{Ctx: c}, nil
	}
	session, err := a.sessionOf(c, e.rechecks)
	if err != nil {
		return call{}, err
	}
	if writes && !session.Lasting && subtle.ConstantTimeCompare([]byte(c.Get(csrfHeader)), []byte(session.CSRF)) != 1 {
		return call{}, problem(http.StatusForbidden, "Token missing", "The write carried no valid "+csrfHeader+".")
	}
	switch {
	case session.Board && !slices.Contains(boardPaths, e.path):
		err = problem(http.StatusForbidden, "The board only", "This token opens the board and its news, nothing else.")
	case e.access == hands:
		err = workingHand(session.Person)
	case e.access == leads && session.Tablet != "":
		err = problem(http.StatusForbidden, "Not at the bench",
			"For this, sign in with your password at a desk screen.")
	case e.access == leads && session.Person.Role != people.Lead:
		err = problem(http.StatusForbidden, "Leads only", "Only a lead can do this.")
	}
	return call{c, session}, err
}

func workingHand(p people.Person) error {
	if p.Role != people.Mechanic && p.Role != people.Lead {
		return say.Refusal{Reason: say.Forbidden, Why: say.ReadersLook}
	}
	return nil
}

// admitAnew asks for the session as it is now: it may have ended, or its person
// may have another role.
func (a *door) admitAnew(c call) (call, error) {
	a.sessions.Remove(c.session.Digest)
	session, err := a.sessionOf(c, false)
	if err != nil {
		return c, err
	}
	return call{c.Ctx, session}, workingHand(session.Person)
}

// refused tells an error that is a rule's no for this reason.
func refused(err error, reason say.Reason) bool {
	refusal, is := errors.AsType[say.Refusal](err)
	return is && refusal.Reason == reason
}

// remembered is how long a valid session is cached for writes, which check it again
// in their own statement. Everything else asks each time.
const remembered = 2 * time.Second

func (a *door) sessionOf(c fiber.Ctx, rechecked bool) (people.Session, error) {
	token, program := strings.CutPrefix(c.Get(fiber.HeaderAuthorization), "Bearer ")
	if !program {
		token = c.Cookies(a.cookieName(sessionCookie))
	}
	if token == "" {
		return people.Session{}, problem(http.StatusUnauthorized, "Not signed in", "Sign in first.")
	}
	now, digest := a.Now(), DigestOf(token)
	if session, ok := a.sessions.Get(digest); ok && rechecked && session.Lasting == program &&
		now.Before(session.Expires()) {
		return session, nil
	}
	session, ok, err := a.Accounts.Session(c.Context(), digest, now)
	if err != nil {
		return session, err
	}
	if !ok || session.Lasting != program { // a session cookie must not work as a token
		a.sessions.Remove(digest)
		if program {
			a.security(c, "token refused")
			return session, problem(http.StatusUnauthorized, "Token not known",
				"This token is unknown or has been revoked.")
		}
		return session, ranOut()
	}
	if workingHand(session.Person) == nil { // who writes nothing has nothing that looks again
		a.sessions.Add(digest, session)
	} else {
		a.sessions.Remove(digest)
	}
	if now.Sub(session.Used) > usedEvery && !isStream(c) { // an open event stream does not count as use
		err = a.Accounts.UseSession(c.Context(), session.Digest, now)
		if a.IsFull(err) {
			err = nil // looking goes on when nothing can be written
		}
	}
	return session, err
}

func ranOut() Problem {
	return problem(http.StatusUnauthorized, "You have been signed out", "Sign in again; what you typed is still here.")
}

// holds tells whether a session still is one; while nobody can tell, it is.
func (a *door) holds(ctx context.Context, s people.Session) bool {
	_, ok, err := a.Accounts.Session(ctx, s.Digest, a.Now())
	return ok || err != nil
}

// sameOrigin refuses what a browser sends on behalf of another site. Programs
// send neither header; they need the token all the same.
func (a *door) sameOrigin(c fiber.Ctx) bool {
	if site := c.Get("Sec-Fetch-Site"); site != "" && site != "same-origin" && site != "none" {
		return false
	}
	origin := c.Get(fiber.HeaderOrigin)
	if origin == "" {
		return true
	}
	u, err := url.Parse(origin)
	return err == nil && u.Host == string(c.Request().Host()) &&
		u.Scheme == map[bool]string{true: "https", false: "http"}[a.Secure]
}

func mediaType(c fiber.Ctx) string {
	t, _, err := mime.ParseMediaType(c.Get(fiber.HeaderContentType))
	if err != nil {
		return ""
	}
	return t
}
