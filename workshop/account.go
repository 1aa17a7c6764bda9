package workshop

import (
	"errors"
	"time"
)

// ErrLastLead: somebody has to lead a workshop.
var ErrLastLead = errors.New("the last lead stays one")

// Account is a person who may sign in. It is closed, never deleted.
type Account struct {
	Person
	PasswordHash string
	ClosedAt     *time.Time
}

// A session ends when nobody used it for SessionIdle, and SessionLife after it
// began in any case.
const (
	SessionIdle = 12 * time.Hour
	SessionLife = 30 * 24 * time.Hour
)

// Session is a signed-in browser. Only the digest of its token is kept.
type Session struct {
	ID      string
	Digest  string
	Person  Person
	CSRF    string
	Started time.Time
	Used    time.Time
	Browser string
	Address string
}

// Expires is when the session ends if it is not used again.
func (s Session) Expires() time.Time {
	idle, end := s.Used.Add(SessionIdle), s.Started.Add(SessionLife)
	if end.Before(idle) {
		return end
	}
	return idle
}
