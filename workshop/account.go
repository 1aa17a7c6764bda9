package workshop

import "time"

// Account is a person who may sign in.
type Account struct {
	Person
	PasswordHash string
}

// Session is a signed-in browser. Only the digest of its token is kept.
type Session struct {
	Person  Person
	CSRF    string
	Expires time.Time
}
