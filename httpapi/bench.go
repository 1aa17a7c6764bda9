package httpapi

import (
	"crypto/rand"
	"errors"
	"net/http"
	"regexp"
	"slices"
	"strings"
	"time"

	"github.com/gofiber/fiber/v3"

	"handwerk/core/input"
	"handwerk/workshop/people"
	"handwerk/workshop/say"
)

// A tablet at the bench belongs to nobody. A lead enrols it once; from then on
// whoever stands there says who he is by name and PIN. A PIN opens the bench and
// nothing that is a lead's desk work: that takes the password.

// BenchView says whether this screen is a bench's, and who may stand there.
type BenchView struct {
	Tablet string          `json:"tablet,omitempty"` // its name; empty: this screen is none
	People []people.Person `json:"people"`
}

// PINGiven is who stands at the bench.
type PINGiven struct {
	Login string `json:"login"`
	PIN   string `json:"pin"`
}

// NewPIN is a person's own; an empty one takes it away.
type NewPIN struct {
	Password string `json:"password"`
	PIN      string `json:"pin"`
}

// NewTablet names this screen.
type NewTablet struct {
	Name string `json:"name"`
}

// tabletsView are the screens that stand at the benches.
type tabletsView struct {
	Tablets []people.Tablet `json:"tablets"`
}

const (
	tabletCookie = "handwerk_tablet"
	tabletLife   = 400 * 24 * time.Hour

	// Tries of a PIN in a window: four figures are guessed in thousands.
	triesOfPIN    = 5
	triesAtTablet = 20
	triesOfName   = 10
)

var pinShape = regexp.MustCompile(`^[0-9]{4,8}$`)

func (a benchDesk) benchEndpoints() []endpoint {
	return []endpoint{
		get(a.api, "/bench", "bench", "whether this screen is a bench's, and who may stand there", anyone, a.benchOf),
		typed(a.api, endpoint{
			method: http.MethodPost, path: "/bench/session", id: "atTheBench",
			summary: "say by PIN who stands at the bench", access: anyone, status: http.StatusOK, limit: maxShort,
		}, a.atTheBench),
		post(a.api, "/session/pin", "changePIN", "one's own PIN for the bench", signedIn, http.StatusNoContent,
			a.changePIN),
		get(a.api, "/tablets", "tablets", "the screens that are a bench's", leads,
			func(c call, _ nothing) (tabletsView, error) {
				list, err := a.Accounts.Tablets(c.Context())
				return tabletsView{list}, err
			}),
		post(a.api, "/tablets", "enrolTablet", "make this screen a bench's", leads, http.StatusCreated, a.enrol),
		post(a.api, "/tablets/:id/end", "endTablet", "make a screen no bench's any more", leads, http.StatusNoContent,
			func(c call, in idIn) (nothing, error) {
				ended, err := a.Accounts.EndTablet(c.Context(), in.ID, a.Now())
				if err == nil && !ended {
					err = problem(http.StatusNotFound, "Not here", "There is no such tablet.")
				}
				return nothing{}, err
			}),
	}
}

// tabletOf is the tablet this screen is; ok is false where it is none.
func (a benchDesk) tabletOf(c fiber.Ctx) (people.Tablet, bool, error) {
	token := c.Cookies(a.cookieName(tabletCookie))
	if token == "" {
		return people.Tablet{}, false, nil
	}
	return a.Accounts.Tablet(c.Context(), DigestOf("tablet", token))
}

func (a benchDesk) benchOf(c call, _ nothing) (BenchView, error) {
	view := BenchView{People: []people.Person{}}
	t, ok, err := a.tabletOf(c.Ctx)
	if err != nil || !ok {
		return view, err // who works here is not for strangers
	}
	people, err := a.Accounts.WithPIN(c.Context())
	return BenchView{t.Name, append(view.People, people...)}, err
}

func (a benchDesk) atTheBench(c call, in PINGiven) (SessionView, error) {
	t, ok, err := a.tabletOf(c.Ctx)
	if err != nil {
		return SessionView{}, err
	}
	if !ok {
		return SessionView{}, problem(http.StatusForbidden, "Not a bench tablet",
			"A lead must first set this screen up as a bench tablet. Until then, sign in with your password.")
	}
	if !pinShape.MatchString(in.PIN) || in.Login == "" || len(in.Login) > 60 {
		return SessionView{}, input.At("pin", "four to eight digits", "this is not a PIN")
	}
	tries := []bucket{
		{DigestOf("pin", t.ID, in.Login), triesOfPIN}, {DigestOf("pin at", t.ID), triesAtTablet},
		{DigestOf("pin of", in.Login), triesOfName},
	}
	if err := a.countTry(c, tries); err != nil {
		a.security(c, "PIN held back", "login", in.Login, "tablet", t.ID)
		return SessionView{}, err
	}
	person, hash, err := a.Accounts.PIN(c.Context(), in.Login)
	if err != nil {
		return SessionView{}, err
	}
	if awake, err := a.Accounts.TryPIN(c.Context(), in.Login); err != nil {
		return SessionView{}, err
	} else if !awake && hash != "" {
		a.security(c, "PIN asleep", "login", in.Login, "tablet", t.ID)
		return SessionView{}, problem(
			http.StatusForbidden, "This PIN sleeps",
			"It was wrong too often. Sign in with the password once, and it wakes.",
		)
	}
	fits, err := a.hashing.check(c.Context(), hash, in.PIN)
	if err != nil {
		return SessionView{}, err
	}
	if !fits {
		a.security(c, "PIN failed", "login", in.Login, "tablet", t.ID)
		return SessionView{}, problem(http.StatusUnauthorized, "Not signed in", "Wrong PIN for that name.")
	}
	if err := errors.Join(a.takeBack(c, tries), a.Accounts.WakePIN(c.Context(), in.Login)); err != nil {
		return SessionView{}, err
	}
	shop, _, err := a.Accounts.Shop(c.Context())
	if err != nil {
		return SessionView{}, err
	}
	return a.openSession(c, people.Session{Person: person, Tablet: t.ID, IdleMinutes: shop.Idle()})
}

func (a benchDesk) changePIN(c call, in NewPIN) (nothing, error) {
	if in.PIN != "" && (!pinShape.MatchString(in.PIN) || isPlainPIN(in.PIN)) {
		return nothing{}, input.At("pin", "four to eight digits; no year, not all the same, not in sequence",
			"this PIN is too easy to guess")
	}
	if err := a.ownPassword(c, "password", in.Password); err != nil {
		return nothing{}, err
	}
	hash := ""
	if in.PIN != "" {
		hash = HashPassword(in.PIN)
	}
	err := a.Accounts.KeepPIN(c.Context(), c.person().Login, hash)
	if err == nil {
		a.security(c, "PIN changed", "login", c.person().Login)
	}
	return nothing{}, err
}

// plainPINs are among those most often taken, down the middle of the keys and in
// pairs; from memory of published lists.
var plainPINs = []string{
	"1212", "1313", "2020", "2121", "2580", "0852", "1004", "1010", "1122", "6969", "4321", "7777", "0007", "5683",
	"112233", "121212", "123123", "159753", "147258", "12344321",
}

// isPlainPIN: one of those many take, a year, all the same, or one step up or down
// from figure to figure.
func isPlainPIN(pin string) bool {
	isYear := len(pin) == 4 && (strings.HasPrefix(pin, "19") || strings.HasPrefix(pin, "20"))
	if isYear || slices.Contains(plainPINs, pin) {
		return true
	}
	step := int(pin[1]) - int(pin[0])
	if step < -1 || step > 1 {
		return false
	}
	for i := 1; i < len(pin); i++ {
		if int(pin[i])-int(pin[i-1]) != step {
			return false
		}
	}
	return true
}

func (a benchDesk) enrol(c call, in NewTablet) (tabletsView, error) {
	var faults input.Fields
	t := people.Tablet{ID: say.NewID(), Name: checkName(&faults, in.Name), Since: a.Now()}
	if err := faults.Err(); err != nil {
		return tabletsView{}, err
	}
	token := rand.Text() + rand.Text()
	if err := a.Accounts.Enrol(c.Context(), t, DigestOf("tablet", token), c.person()); err != nil {
		return tabletsView{}, err
	}
	a.setCookie(c, tabletCookie, token, a.Now().Add(tabletLife))
	a.security(c, "tablet enrolled", "tablet", t.ID, "name", strings.TrimSpace(t.Name), "by", c.person().Login)
	// Whoever made it a bench's leaves it: the next to come says who he is.
	if _, err := a.signOut(c, nothing{}); err != nil {
		return tabletsView{}, err
	}
	list, err := a.Accounts.Tablets(c.Context())
	return tabletsView{list}, err
}
