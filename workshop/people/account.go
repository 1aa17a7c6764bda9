package people

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
	PINAsleep    bool // too many wrong ones; it wakes when the password is said
}

// WrongPINs since the right one or the password: one more and it sleeps.
const WrongPINs = 20

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
	Lasting bool // a program's: it ends when a lead ends it
	Board   bool // it opens the board and nothing else

	Tablet      string // id of the tablet at the bench that it was opened at, by PIN
	IdleMinutes int    // rest after which it ends; 0: SessionIdle
}

// Tablet is a screen at the bench that belongs to nobody.
type Tablet struct {
	ID    string     `json:"id"`
	Name  string     `json:"name"`
	Since time.Time  `json:"since"`
	Ended *time.Time `json:"ended,omitempty"`
}

// Program is another program that works here by a token.
type Program struct {
	Person Person     `json:"person"`
	Board  bool       `json:"board,omitempty"` // it reads the board and nothing else
	Since  *time.Time `json:"since,omitempty"`
	Used   *time.Time `json:"used,omitempty"` // the last time, within two minutes
	Ended  *time.Time `json:"ended,omitempty"`
}

// Expires is when the session ends if it is not used again.
func (s Session) Expires() time.Time {
	if s.Lasting {
		return s.Started.AddDate(100, 0, 0)
	}
	rest := SessionIdle
	if s.IdleMinutes > 0 {
		rest = time.Duration(s.IdleMinutes) * time.Minute
	}
	idle, end := s.Used.Add(rest), s.Started.Add(SessionLife)
	if end.Before(idle) {
		return end
	}
	return idle
}
