package httpapi

import (
	"errors"
	"net/http"
	"regexp"
	"strings"

	"handwerk/core/input"
	"handwerk/core/text"
	"handwerk/workshop/people"
	"handwerk/workshop/shop"
)

// firstView tells whether nobody has an account here yet.
type firstView struct {
	Wanted bool `json:"wanted"`
}

// FirstRun opens a workshop: the code that the program printed, what the
// workshop says of itself, and its first lead.
type FirstRun struct {
	Code string    `json:"code"`
	Shop shop.Shop `json:"shop"`
	Lead FirstLead `json:"lead"`
}

// FirstLead is the first person of a workshop.
type FirstLead struct {
	Login    string `json:"login"`
	Name     string `json:"name"`
	Password string `json:"password"`
}

// triesOfFirst in a window, whoever makes them: the code has 80 bits.
const triesOfFirst = 20

func (a benchDesk) firstEndpoints() []endpoint {
	return []endpoint{
		get(a.api, "/first", "isFirst", "whether nobody has an account here yet", anyone,
			func(c call, _ nothing) (firstView, error) {
				wanted, err := a.Accounts.IsFirst(c.Context())
				return firstView{wanted}, err
			}),
		typed(a.api, endpoint{
			method: http.MethodPost, path: "/first", id: "begin", summary: "open a new workshop with its first lead",
			access: anyone, status: http.StatusCreated, limit: maxShort,
		}, a.begin),
	}
}

var loginShape = regexp.MustCompile(`^[a-z][a-z0-9.-]{0,39}$`)

func (in FirstRun) check() error {
	faults := in.Shop.Check("shop")
	if !loginShape.MatchString(in.Lead.Login) {
		faults.Add("lead.login", "a short lower-case name, like ilva", "%q cannot be used as a sign-in name",
			in.Lead.Login)
	}
	if n := text.Length(strings.TrimSpace(in.Lead.Name)); n == 0 || n > 80 {
		faults.Add("lead.name", "your name as it should appear in the record", "missing or too long")
	}
	faults = append(faults, input.Below("lead", JudgePassword(in.Lead.Password, in.Lead.Login, in.Lead.Name))...)
	return faults.Err()
}

// begin opens the workshop to whoever has the code, and signs the lead in.
func (a benchDesk) begin(c call, in FirstRun) (SessionView, error) {
	in.Lead.Login = strings.ToLower(strings.TrimSpace(in.Lead.Login))
	// Wrong codes are counted, whoever sends them; they never keep out the right one.
	if right, err := a.Accounts.IsFirstCode(c.Context(), in.Code, a.Now()); err != nil {
		return SessionView{}, err
	} else if !right {
		if err := a.countTry(c, []bucket{{"first", triesOfFirst}}); err != nil {
			return SessionView{}, err
		}
	}
	if err := in.check(); err != nil {
		return SessionView{}, err
	}
	wanted, err := a.Accounts.IsFirst(c.Context())
	if err != nil {
		return SessionView{}, err
	}
	if !wanted {
		return SessionView{}, problem(http.StatusConflict, "This workshop already has accounts",
			"Sign in; a lead adds people.")
	}
	lead := people.Account{
		Person:       people.Person{Login: in.Lead.Login, Name: strings.TrimSpace(in.Lead.Name), Role: people.Lead},
		PasswordHash: HashPassword(in.Lead.Password),
	}
	in.Shop.Name = strings.TrimSpace(in.Shop.Name)
	err = a.Accounts.Begin(c.Context(), in.Code, a.Now(), in.Shop, lead)
	if errors.Is(err, shop.ErrFirstCode) {
		a.security(c, "first run refused")
		return SessionView{}, input.At(
			"code", "the code printed at start-up; valid once, for 30 minutes",
			"this code is not valid; restart the program to get a new one",
		)
	}
	if err != nil {
		return SessionView{}, err
	}
	a.security(c, "workshop opened", "login", lead.Login, "role", string(lead.Role))
	return a.openSession(c, people.Session{Person: lead.Person})
}
