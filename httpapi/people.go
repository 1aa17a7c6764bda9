package httpapi

import (
	"errors"
	"net/http"
	"slices"
	"strings"
	"time"

	"handwerk/core/input"
	"handwerk/core/text"
	"handwerk/workshop/people"
)

// PersonView is somebody who works or worked here.
type PersonView struct {
	people.Person
	ClosedAt  *time.Time `json:"closed_at,omitempty"`
	PINAsleep bool       `json:"pin_asleep,omitempty"` // wrong too often; the password wakes it
}

// peopleView are who works here.
type peopleView struct {
	People []PersonView `json:"people"`
}

// NewPerson is somebody who begins here.
type NewPerson struct {
	Login    string      `json:"login"`
	Name     string      `json:"name"`
	Role     people.Role `json:"role" enum:"reader,mechanic,lead"`
	Password string      `json:"password"`
}

// PersonChange is what a lead changes of a person; what is not said stays.
type PersonChange struct {
	Login    string      `path:"login" json:"-"`
	Name     string      `json:"name,omitempty"`
	Role     people.Role `json:"role,omitempty" enum:"reader,mechanic,lead"`
	Password string      `json:"password,omitempty"`
	Closed   *bool       `json:"closed,omitempty"`
}

func (a staffDesk) peopleEndpoints() []endpoint {
	return []endpoint{
		get(a.api, "/people", "people", "who works here, and who did", leads, a.people),
		post(a.api, "/people", "addPerson", "somebody begins here", leads, http.StatusCreated, a.addPerson),
		post(a.api, "/people/:login", "changePerson", "a person's name, role or password; close or open the account",
			leads, http.StatusOK, a.changePerson),
	}
}

func (a staffDesk) people(c call, _ nothing) (peopleView, error) {
	accounts, err := a.Accounts.People(c.Context())
	view := peopleView{[]PersonView{}}
	for _, x := range accounts {
		view.People = append(view.People, PersonView{x.Person, x.ClosedAt, x.PINAsleep})
	}
	return view, err
}

var roles = []people.Role{people.Reader, people.Mechanic, people.Lead}

func checkName(faults *input.Fields, name string) string {
	name = strings.TrimSpace(name)
	if n := text.Length(name); n == 0 || n > 100 || text.Bad(name) != "" {
		faults.Add("name", "the name as it will stand in the record, up to 100 letters",
			"missing, too long, or contains characters that cannot be printed")
	}
	return name
}

func checkRole(faults *input.Fields, role people.Role) {
	if !slices.Contains(roles, role) {
		faults.Add("role", "reader, mechanic, lead", "%q is not a role", role)
	}
}

func (a staffDesk) addPerson(c call, in NewPerson) (PersonView, error) {
	var faults input.Fields
	person := people.Person{Login: strings.ToLower(strings.TrimSpace(in.Login)), Name: checkName(&faults, in.Name),
		Role: in.Role}
	if !loginShape.MatchString(person.Login) {
		faults.Add("login", "a short name in small letters, like odo", "%q cannot be signed in with", in.Login)
	}
	checkRole(&faults, in.Role)
	faults = append(faults, input.Below("", JudgePassword(in.Password, person.Login, person.Name))...)
	if err := faults.Err(); err != nil {
		return PersonView{}, err
	}
	added, err := a.Accounts.AddPerson(c.Context(),
		people.Account{Person: person, PasswordHash: HashPassword(in.Password)})
	if err != nil {
		return PersonView{}, err
	}
	if !added {
		return PersonView{}, input.At("login", "another name to sign in with",
			"%s is taken; people who have left keep their sign-in name", person.Login)
	}
	a.security(c, "account added", "login", person.Login, "role", string(person.Role), "by", c.person().Login)
	return PersonView{Person: person}, nil
}

func (a staffDesk) changePerson(c call, in PersonChange) (PersonView, error) {
	before, known, err := a.Accounts.Account(c.Context(), in.Login)
	if err != nil {
		return PersonView{}, err
	}
	if !known {
		return PersonView{}, problem(http.StatusNotFound, "Not found", "There is nobody called "+in.Login+" here.")
	}
	after, err := in.applyTo(before, a.Now())
	if err != nil {
		return PersonView{}, err
	}
	if err := a.Accounts.ChangePerson(c.Context(), after, in.Password != "" || in.Closed != nil &&
		*in.Closed); err != nil {
		if errors.Is(err, people.ErrLastLead) {
			return PersonView{}, problem(http.StatusConflict, "Last lead",
				"A workshop needs a lead. Make someone else a lead first.")
		}
		return PersonView{}, err
	}
	a.sayPersonChange(c, before, after, in.Password != "")
	return PersonView{Person: after.Person, ClosedAt: after.ClosedAt}, nil
}

func (in PersonChange) applyTo(x people.Account, now time.Time) (people.Account, error) {
	var faults input.Fields
	if in.Name != "" {
		x.Name = checkName(&faults, in.Name)
	}
	if in.Role != "" {
		checkRole(&faults, in.Role)
		x.Role = in.Role
	}
	if in.Password != "" {
		faults = append(faults, input.Below("", JudgePassword(in.Password, x.Login, x.Name))...)
	}
	if err := faults.Err(); err != nil {
		return x, err
	}
	if in.Password != "" {
		x.PasswordHash = HashPassword(in.Password)
	}
	switch {
	case in.Closed == nil:
	case *in.Closed && x.ClosedAt == nil:
		x.ClosedAt = &now
	case !*in.Closed:
		x.ClosedAt = nil
	}
	return x, nil
}

// sayPersonChange writes what a lead changed to the log, a line each.
func (a staffDesk) sayPersonChange(c call, before, after people.Account, password bool) {
	by := c.person().Login
	if before.Role != after.Role {
		a.security(c, "role changed", "login", after.Login, "role", string(after.Role), "was", string(before.Role),
			"by", by)
	}
	if password {
		a.security(c, "password changed", "login", after.Login, "by", by)
	}
	if (before.ClosedAt == nil) != (after.ClosedAt == nil) {
		a.security(c, map[bool]string{true: "account closed", false: "account opened again"}[after.ClosedAt != nil],
			"login", after.Login, "by", by)
	}
}
