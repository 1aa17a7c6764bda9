package say

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
	Unproved   Reason = "unproved" // it is signed by who said just now who he is
)

// Refusal is a rule of the record saying no: which rule, and about what. Words
// are made of it in words.go.
type Refusal struct {
	Reason Reason
	Why    Why
	About  []any
}

// Error is the sentence of the rule.
func (r Refusal) Error() string { return r.Why.words(r.About) }

// Refuse says no by a rule, about something.
func Refuse(reason Reason, why Why, about ...any) error { return Refusal{reason, why, about} }

// Itoa writes a number.
func Itoa(n int) string { return strconv.Itoa(n) }

// Why is the rule that said no, as a sentence with gaps for what it is about.
type Why string

// OwnerErased stands for a customer who asked to be forgotten.
const OwnerErased = "name erased"

// The refusals.
const (
	NoSuchCustomer     Why = "there is no such customer"
	NoSuchVehicle      Why = "there is no such vehicle"
	NoSuchUnit         Why = "there is no such unit"
	NoSuchSheet        Why = "there is no spec sheet %q"
	LeadErases         Why = "only a lead may erase a customer"
	LeadGauges         Why = "only a lead can change a gauge"
	LeadPractice       Why = "only a lead can set a practice"
	NoSuchGauge        Why = "there is no such gauge"
	GaugeMeanwhile     Why = "someone else has just changed %s; look at it first"
	LeadRoutes         Why = "only a lead can change a route"
	NoSuchRoute        Why = "the book has no route %q"
	RouteMovedOn       Why = "someone else has just changed this route; look at it first"
	RouteUnfit         Why = "your version of route %q no longer fits the book: %s; a lead fixes it under Shop, Routes"
	LeadSheets         Why = "only a lead can change a spec sheet"
	StillOpen          Why = "%s is still open; hand it over, then erase the customer"
	KnownCustomer      Why = "there is already a customer %s with that telephone number"
	SerialTaken        Why = "%s, %s, is already here, in %s"
	RegistrationTaken  Why = "registration %s already belongs to %s"
	SheetMovedOn       Why = "someone else has just saved version %d of this sheet; look at it first"
	CountedMeanwhile   Why = "the count of %s is now %d; check before you change it"
	NoSuchStep         Why = "the route has no step %q"
	NoSuchRebuild      Why = "there is no such rebuild"
	NoSuchPlan         Why = "there is no such plan"
	NoSuchPicture      Why = "there is no such picture"
	SessionRanOut      Why = "you have been signed out"
	KeyOfAnotherEntry  Why = "this was already recorded; try again"
	KeyOfAnotherOrder  Why = "this rebuild was already opened; try again"
	AlreadyHere        Why = "rebuild %s, or an entry or picture of it, is already in this database"
	ReadersLook        Why = "a view-only account cannot record anything"
	ReadersOpen        Why = "a view-only account cannot take in a job"
	ReadersPicture     Why = "a view-only account cannot add pictures"
	OthersTime         Why = "only a lead can change someone else's time"
	LeadOnly           Why = "only a lead can do this: %s"
	SayAgain           Why = "%s: say once more who you are, then it is signed"
	AlreadyCorrected   Why = "%s has already corrected this; see the newer entry"
	SignedOff          Why = "this rebuild is signed off; a lead can strike out the sign-off to reopen it"
	NoGateClosed       Why = "this step is not locked"
	StandsOtherwise    Why = "first this has to be so: %s"
	StandsNow          Why = "%q cannot be: by the record, %s"
	NotAllBack         Why = "not put back yet: %s"
	HasToWait          Why = "do this before %s: %s"
	NothingCameOff     Why = "no part has come off here yet"
	SheetIsNewest      Why = "this rebuild already uses version %d, the newest spec sheet"
	SheetSays          Why = "the spec sheet already has %s; a lead can change it there"
	FiguresFirst       Why = "answer this first, or choose \"not known\": %s"
	ReadFirst          Why = "read and confirm first: %s"
	PlaceTaken         Why = "%s recorded this at %s; correct that entry instead"
	FirstHeldAgainst   Why = "do this first, to compare with it: %s"
	FirstTakesFrom     Why = "do this first, its figure is needed here: %s"
	GoesInBefore       Why = "fit %s before %s"
	MeasureFirst       Why = "measure first: %s"
	TrialStruck        Why = "that trial has been struck out"
	TrialNotCorrected  Why = "a trial cannot be corrected; strike it out or start another"
	TrialNotMeasured   Why = "measure this trial first: %s"
	PackMeasured       Why = "this pack has readings; strike them out first, or fit another pack"
	PackNotCorrected   Why = "a pack that was measured cannot be corrected; fit another"
	StepNotNeeded      Why = "%q is not needed here; strike that first"
	StepIsNeeded       Why = "%q cannot be left away"
	StepIsDone         Why = "%q is done already"
	BoltBeforeRound    Why = "tighten bolt %d in pass %d before the check round"
	BoltOffBeforeRound Why = "bolt %d in pass %d is off its setting: put it right before the check round"
	BoltComesNext      Why = "next in pass %[2]d is bolt %[1]d, not bolt %[3]d"
	NotAllDone         Why = "still to do: %s"
	NotAllAnswered     Why = "say first what was done about it: %s"
	ClockNotStarted    Why = "the clock has not been started"
	ClockRuns          Why = "%s left; give a reason to go on early"
)

func (w Why) words(about []any) string { return fmt.Sprintf(string(w), about...) }
