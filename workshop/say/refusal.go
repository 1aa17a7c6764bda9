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
	LeadGauges         Why = "only a lead says how it is with a gauge"
	NoSuchGauge        Why = "there is no such gauge"
	GaugeMeanwhile     Why = "somebody said something else of %s meanwhile; look at it first"
	LeadRoutes         Why = "only a lead says how the shop goes a route"
	NoSuchRoute        Why = "the book has no route %q"
	RouteMovedOn       Why = "somebody changed this route meanwhile; look at it first"
	RouteUnfit         Why = "what the shop does otherwise on %q does not fit the book any more: %s; a lead mends it at Shop, Routes"
	LeadSheets         Why = "only a lead may write in a spec sheet"
	StillOpen          Why = "%s is still open: hand it over first, then the customer can be erased"
	KnownCustomer      Why = "another customer is called %s with that telephone number"
	SerialTaken        Why = "%s, %s, is here already, in %s"
	RegistrationTaken  Why = "%s is the registration of %s, which is here already"
	SheetMovedOn       Why = "somebody wrote version %d of this sheet meanwhile; look at it first"
	CountedMeanwhile   Why = "of %s there are %d by now; look again before you count"
	NoSuchStep         Why = "the route has no step %q"
	NoSuchRebuild      Why = "there is no such rebuild"
	NoSuchPlan         Why = "there is no such plan"
	NoSuchPicture      Why = "there is no such picture"
	SessionRanOut      Why = "the session has run out"
	KeyOfAnotherEntry  Why = "this idempotency key was used for another entry; a new entry needs a new key"
	KeyOfAnotherOrder  Why = "this idempotency key was used for another order; a new order needs a new key"
	AlreadyHere        Why = "rebuild %s, or an entry or picture of it, is already in this database"
	ReadersLook        Why = "readers can look at the record but not write in it"
	ReadersOpen        Why = "readers cannot open a rebuild"
	ReadersPicture     Why = "readers cannot add pictures"
	OthersTime         Why = "only a lead says how long others were at a step"
	LeadOnly           Why = "%s: only the lead may do this"
	SayAgain           Why = "%s: say once more who you are, then it is signed"
	AlreadyCorrected   Why = "%s has already corrected this; look at the newer entry"
	SignedOff          Why = "the rebuild is signed off; the lead can strike the sign-off to open it again"
	NoGateClosed       Why = "no gate is closed here"
	HasToWait          Why = "%s has to wait: %s first"
	NothingCameOff     Why = "nothing has come off here yet"
	SheetIsNewest      Why = "the rebuild works to version %d of the spec sheet; there is none newer"
	SheetSays          Why = "the spec sheet says %s; a lead changes it there"
	FiguresFirst       Why = "the spec sheet does not say: %s; answer that first, or say that it is not known"
	ReadFirst          Why = "read and acknowledge first: %s"
	PlaceTaken         Why = "%s entered this at %s; correct that entry to change it"
	FirstHeldAgainst   Why = "first: %s; this line is held against it"
	FirstTakesFrom     Why = "first: %s; this step takes a figure from there"
	GoesInBefore       Why = "%s goes in before %s"
	MeasureFirst       Why = "measure before you accept: %s"
	TrialStruck        Why = "this reading belongs to a trial that was struck"
	TrialNotCorrected  Why = "a trial is not corrected: strike it, or begin another"
	TrialNotMeasured   Why = "this trial is not measured yet: %s"
	PackMeasured       Why = "this pack has been measured; strike its readings first, or fit another"
	PackNotCorrected   Why = "a fitted pack that was measured is not corrected: fit another"
	StepNotNeeded      Why = "%q is not needed here; strike that first"
	StepIsNeeded       Why = "%q cannot be left away"
	StepIsDone         Why = "%q is done already"
	BoltBeforeRound    Why = "bolt %d in pass %d comes before the check round"
	BoltOffBeforeRound Why = "bolt %d in pass %d is off its setting: put it right before the check round"
	BoltComesNext      Why = "bolt %d comes next in pass %d, not bolt %d"
	NotAllDone         Why = "not everything is done yet: %s"
	NotAllAnswered     Why = "say first what was done about it: %s"
	ClockNotStarted    Why = "the clock has not been started"
	ClockRuns          Why = "%s to go; to go on sooner, give a reason"
)

func (w Why) words(about []any) string { return fmt.Sprintf(string(w), about...) }
