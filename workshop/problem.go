package workshop

import "strconv"

// Reason classifies a refusal, so that the API can answer with the right status.
type Reason string

// The refusals of the record.
const (
	NotFound   Reason = "not_found"
	Forbidden  Reason = "forbidden"
	GateClosed Reason = "gate_closed"
	Conflict   Reason = "conflict"
	SignedOut  Reason = "signed_out"
	Unproved   Reason = "unproved" // it is signed by who said just now who he is
)

// Refusal is a rule of the record saying no: which rule, and about what. Words
// are made of it in words.go.
type Refusal struct {
	Reason Reason
	Why    Why
	About  []any
}

func (r Refusal) Error() string { return r.Why.words(r.About) }

func refuse(reason Reason, why Why, about ...any) error { return Refusal{reason, why, about} }

func itoa(n int) string { return strconv.Itoa(n) }
