package httpapi

import (
	"crypto/rand"
	"net/http"
	"strings"

	"handwerk/core/input"
	"handwerk/workshop/people"
	"handwerk/workshop/say"
)

// NewProgram is another program that is to work here.
type NewProgram struct {
	Name   string `json:"name"`
	Writes bool   `json:"writes"`          // as a mechanic does; else it reads
	Board  bool   `json:"board,omitempty"` // it reads the board and nothing else
}

// ProgramAdded says the token, once.
type ProgramAdded struct {
	people.Program
	Token string `json:"token"`
}

// programsView are the programs that have a token.
type programsView struct {
	Programs []people.Program `json:"programs"`
}

type programIn struct {
	Login string `path:"login" json:"-"`
}

// tokenMark begins every token, so that one that lies about is known for what it is.
const tokenMark = "handwerk_"

func (a staffDesk) programEndpoints() []endpoint {
	return []endpoint{
		get(a.api, "/programs", "programs", "other programs that work here by a token", leads,
			func(c call, _ nothing) (programsView, error) {
				list, err := a.Accounts.Programs(c.Context())
				return programsView{list}, err
			}),
		post(a.api, "/programs", "addProgram", "give a program a token; it is said once", leads, http.StatusCreated,
			a.addProgram),
		post(a.api, "/programs/:login/end", "endProgram", "end a program's token", leads, http.StatusNoContent, func(
			c call, in programIn,
		) (nothing, error) {
			ended, err := a.Accounts.EndProgram(c.Context(), in.Login, a.Now())
			if err == nil && !ended {
				err = problem(http.StatusNotFound, "Not here", "There is no such program.")
			}
			if err == nil {
				a.security(c, "token ended", "program", in.Login, "by", c.person().Login)
			}
			return nothing{}, err
		}),
	}
}

func (a staffDesk) addProgram(c call, in NewProgram) (ProgramAdded, error) {
	var faults input.Fields
	p := people.Person{Login: "program-" + strings.ToLower(rand.Text()[:8]), Name: checkName(&faults, in.Name),
		Role: people.Reader}
	if in.Board && in.Writes {
		faults.Add("board", "false, where it writes", "who only reads the board writes nothing")
	}
	if err := faults.Err(); err != nil {
		return ProgramAdded{}, err
	}
	if in.Writes {
		p.Role = people.Mechanic
	}
	token, now := tokenMark+rand.Text(), a.Now()
	session := people.Session{ID: say.NewID(), Digest: DigestOf(token), Started: now, Board: in.Board}
	if err := a.Accounts.AddProgram(c.Context(), p, session); err != nil {
		return ProgramAdded{}, err
	}
	a.security(c, "token given", "program", p.Login, "by", c.person().Login)
	return ProgramAdded{people.Program{Person: p, Board: in.Board, Since: &now, Used: &now}, token}, nil
}
