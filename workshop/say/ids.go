package say

import (
	"fmt"
	"time"

	"github.com/google/uuid"

	"handwerk/core/text"
)

// NewID is a time-ordered UUID, so that entries sort as they were made.
func NewID() string { return uuid.Must(uuid.NewV7()).String() }

// CanonicalID tells whether an id has the one form in which the database gives
// it back.
func CanonicalID(id string) bool {
	u, err := uuid.Parse(id)
	return err == nil && u.String() == id
}

// CanonicalTime tells whether a time comes back from the database as it is.
func CanonicalTime(t time.Time) bool {
	return t.Year() >= 2000 && t.Year() < 2200 && t.Equal(t.Truncate(time.Microsecond)) && t.Location() == time.UTC
}

// CheckReadable refuses texts that no screen can show.
func CheckReadable(what string, texts ...string) error {
	for _, s := range texts {
		if problem := text.Bad(s); problem != "" {
			return fmt.Errorf("%s: %s", what, problem)
		}
		if text.Length(s) > MaxText {
			return fmt.Errorf("%s: a text is too long", what)
		}
	}
	return nil
}
