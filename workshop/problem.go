package workshop

import (
	"fmt"
	"strconv"
)

// Reason classifies a refusal, so that the API can answer with the right status.
type Reason string

// The refusals of the record.
const (
	NotFound   Reason = "not_found"
	Forbidden  Reason = "forbidden"
	GateClosed Reason = "gate_closed"
	Conflict   Reason = "conflict"
	SignedOut  Reason = "signed_out"
)

// Refusal is a rule of the record saying no. Text is for the person at the bench.
type Refusal struct {
	Reason Reason
	Text   string
}

func (r Refusal) Error() string { return r.Text }

func refuse(reason Reason, text string, args ...any) error {
	return Refusal{reason, fmt.Sprintf(text, args...)}
}

func itoa(n int) string { return strconv.Itoa(n) }
