package workshop

import "github.com/google/uuid"

// newID is a time-ordered UUID, so that entries sort as they were made.
func newID() string { return uuid.Must(uuid.NewV7()).String() }
