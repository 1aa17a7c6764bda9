// Package people says who works here: persons and roles, accounts, sessions,
// tablets, programs.
package people

import (
	"slices"

	"handwerk/workshop/say"
)

// Role is what a person may do.
type Role string

// Readers look, mechanics work, leads also sign.
const (
	Reader   Role = "reader"
	Mechanic Role = "mechanic"
	Lead     Role = "lead"
)

// Person is who did it, as written into the record.
type Person struct {
	Login string `json:"login"`
	Name  string `json:"name"`
	Role  Role   `json:"role"`
}

// Sound tells whether a person can have written into a record.
func (p Person) Sound() bool {
	return say.CheckReadable("", p.Login, p.Name) == nil && slices.Contains([]Role{Reader, Mechanic, Lead}, p.Role)
}

// MayWrite: readers look on.
func MayWrite(by Person) error {
	if by.Role != Mechanic && by.Role != Lead {
		return say.Refuse(say.Forbidden, say.ReadersLook)
	}
	return nil
}
