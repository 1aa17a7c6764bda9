package workshop

import "github.com/google/uuid"

// NewID is a time-ordered UUID, so that entries sort as they were made.
func NewID() string { return uuid.Must(uuid.NewV7()).String() }
