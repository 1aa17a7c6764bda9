package workshop

import (
	"encoding/json"
	"fmt"
	"slices"
	"strings"
	"time"
	"unicode"
	"unicode/utf8"
)

// This file is where state becomes words, for screen, record and PDF alike:
// what is needed, what was refused, what an entry did. The words of a kind's
// own acts stand beside its rules.

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
	leadErases         Why = "only a lead may erase a customer"
	leadGauges         Why = "only a lead says how it is with a gauge"
	noSuchGauge        Why = "there is no such gauge"
	GaugeMeanwhile     Why = "somebody said something else of %s meanwhile; look at it first"
	leadRoutes         Why = "only a lead says how the shop goes a route"
	noSuchRoute        Why = "the book has no route %q"
	routeMovedOn       Why = "somebody changed this route meanwhile; look at it first"
	routeUnfit         Why = "what the shop does otherwise on %q does not fit the book any more: %s; a lead mends it at Shop, Routes"
	leadSheets         Why = "only a lead may write in a spec sheet"
	StillOpen          Why = "%s is still open: hand it over first, then the customer can be erased"
	KnownCustomer      Why = "another customer is called %s with that telephone number"
	SerialTaken        Why = "%s, %s, is here already, in %s"
	RegistrationTaken  Why = "%s is the registration of %s, which is here already"
	SheetMovedOn       Why = "somebody wrote version %d of this sheet meanwhile; look at it first"
	CountedMeanwhile   Why = "of %s there are %d by now; look again before you count"
	noSuchStep         Why = "the route has no step %q"
	NoSuchRebuild      Why = "there is no such rebuild"
	NoSuchPlan         Why = "there is no such plan"
	NoSuchPicture      Why = "there is no such picture"
	SessionRanOut      Why = "the session has run out"
	KeyOfAnotherEntry  Why = "this idempotency key was used for another entry; a new entry needs a new key"
	KeyOfAnotherOrder  Why = "this idempotency key was used for another order; a new order needs a new key"
	AlreadyHere        Why = "rebuild %s, or an entry or picture of it, is already in this database"
	ReadersLook        Why = "readers can look at the record but not write in it"
	readersOpen        Why = "readers cannot open a rebuild"
	readersPicture     Why = "readers cannot add pictures"
	othersTime         Why = "only a lead says how long others were at a step"
	leadOnly           Why = "%s: only the lead may do this"
	sayAgain           Why = "%s: say once more who you are, then it is signed"
	alreadyCorrected   Why = "%s has already corrected this; look at the newer entry"
	signedOff          Why = "the rebuild is signed off; the lead can strike the sign-off to open it again"
	noGateClosed       Why = "no gate is closed here"
	hasToWait          Why = "%s has to wait: %s first"
	nothingCameOff     Why = "nothing has come off here yet"
	sheetIsNewest      Why = "the rebuild works to version %d of the spec sheet; there is none newer"
	sheetSays          Why = "the spec sheet says %s; a lead changes it there"
	figuresFirst       Why = "the spec sheet does not say: %s; answer that first, or say that it is not known"
	readFirst          Why = "read and acknowledge first: %s"
	placeTaken         Why = "%s entered this at %s; correct that entry to change it"
	firstHeldAgainst   Why = "first: %s; this line is held against it"
	firstTakesFrom     Why = "first: %s; this step takes a figure from there"
	goesInBefore       Why = "%s goes in before %s"
	measureFirst       Why = "measure before you accept: %s"
	trialStruck        Why = "this reading belongs to a trial that was struck"
	trialNotCorrected  Why = "a trial is not corrected: strike it, or begin another"
	trialNotMeasured   Why = "this trial is not measured yet: %s"
	packMeasured       Why = "this pack has been measured; strike its readings first, or fit another"
	packNotCorrected   Why = "a fitted pack that was measured is not corrected: fit another"
	stepNotNeeded      Why = "%q is not needed here; strike that first"
	stepIsNeeded       Why = "%q cannot be left away"
	stepIsDone         Why = "%q is done already"
	boltBeforeRound    Why = "bolt %d in pass %d comes before the check round"
	boltOffBeforeRound Why = "bolt %d in pass %d is off its setting: put it right before the check round"
	boltComesNext      Why = "bolt %d comes next in pass %d, not bolt %d"
	notAllDone         Why = "not everything is done yet: %s"
	notAllAnswered     Why = "say first what was done about it: %s"
	clockNotStarted    Why = "the clock has not been started"
	clockRuns          Why = "%s to go; to go on sooner, give a reason"
)

func (w Why) words(about []any) string { return fmt.Sprintf(string(w), about...) }

// needWords says what a step still asks for; nothing when it is done.
func (s *State) needWords(step *Step, n Need) string {
	if says, ok := plainNeeds[n.What]; ok {
		return says
	}
	switch n.What {
	case Steps:
		return "first: " + s.titles(n.Names)
	case Acknowledged:
		return "acknowledge: " + s.cautionTitles(n.Names)
	case Lines:
		return countOf(n.Count, "line", "lines")
	case Parts:
		return countOf(n.Count, "part", "parts")
	case Figures:
		return countOf(n.Count, "figure", "figures")
	case SheetFigures:
		return "the spec sheet does not say: " + idsOf(n.Names, func(path string) string { return s.plan.figureCalled(path, step) })
	case Readings:
		return countOf(n.Count, "reading", "readings")
	case BoltReadings:
		return countOf(n.Count, "bolt reading", "bolt readings")
	case Differs:
		return step.lineText(n.Place) + ": not the same as before"
	case BadAnswer:
		return n.Names[0] + ". Mend it and answer again, or say where and why it may stay"
	case MeasuredAgain:
		return s.titles(n.Names) + " was changed since: measure again"
	case BoltOnSetting:
		return fmt.Sprintf("bolt %d in pass %d is off its setting", n.Place.Bolt, n.Place.Pass)
	case ClockOver:
		return "the clock, until " + Moment(n.Until, s.zone)
	case PartsToOrder:
		return several(n.Count, "part", "parts") + " to order"
	case PartsAwaited:
		return awaitedWords(n)
	case PartsLooked:
		return "first: " + s.titles(n.Names)
	case WhatItWaitsFor:
		return strings.TrimSpace(strings.Join(n.Names, ": "))
	}
	return ""
}

// plainNeeds are those that are the same everywhere.
var plainNeeds = map[Missing]string{
	Nothing: "", OneLine: "one line at least", Reckoning: "work it out", Decisive: "undecided: read again or finer",
	AnotherPack: "out: fit a pack and measure again", Mended: "out: mend it and measure again", CheckRound: "the check round",
	FluidIn: "fluid and quantity", RightQuantity: "the quantity is outside the spec sheet", ClockStarted: "start the clock",
	Decided: "a decision", AgreedAgain: "the customer's yes to what is decided now", Pictured: "a picture", PartsSaid: "what has to come, or that nothing has to",
}

// titles names steps.
func (s *State) titles(ids []string) string { return strings.Join(s.titleList(ids), ", ") }

func (s *State) titleList(ids []string) []string {
	titles := make([]string, 0, len(ids))
	for _, id := range ids {
		step, _ := s.plan.Step(id)
		titles = append(titles, step.Title)
	}
	return titles
}

func (s *State) cautionTitles(ids []string) string {
	return idsOf(ids, func(id string) string {
		c, _ := s.plan.Caution(id)
		return c.Title
	})
}

// words says what an entry did.
func (s *State) words(step *Step, e *Entry) string {
	b, says := e.Said(), ""
	switch e.Act {
	case ActAcknowledge:
		says = "caution read: " + s.cautionTitles([]string{e.Item.String()})
	case ActOverride:
		says = withReason("gate opened", b)
	case ActFigure:
		says = s.figureWords(e)
	case ActSheet:
		says = s.sheetWords(e)
	case ActStrike:
		return withReason("entry struck", b)
	case ActSkip:
		return withReason("not needed", e.Said())
	case ActFound:
		says = foundWords(b)
	case ActTime:
		says = several(b.Minutes, "minute", "minutes") + " at this step: " + e.Item.String()
	case ActPromised:
		says = withReason("promised for "+dayWords(b.Due), b)
	case ActNote:
		says = "picture"
		if b.Note != "" {
			says = b.Note
		}
	default:
		if says = string(e.Act); slices.Contains(step.kind.takes, e.Act) {
			says = step.kind.says(s, step, e)
		}
	}
	if e.Supersedes != "" {
		says += " (corrected)"
	}
	if b.Note != "" && e.Act != ActNote {
		says += ": " + b.Note
	}
	return says
}

// saysOf is what a result says of itself.
func saysOf(result json.RawMessage) string {
	var x struct {
		Says string `json:"says"`
	}
	_ = json.Unmarshal(result, &x) // no result says nothing
	return x.Says
}

// named finds the text of an id; an imported record may hold one that the
// list does not, and then the id itself must do.
func named[T any](list []T, id string, of func(T) (id, text string)) string {
	for _, x := range list {
		if i, text := of(x); i == id {
			return text
		}
	}
	return id
}

// valueWords says a value as it was written.
func (b Body) valueWords() string {
	if b.Typed != "" {
		return b.Typed
	}
	return b.Value.String()
}

// PackWords says a pack: "1 × 0.52 mm + 2 × 0.1 mm".
func PackWords(pack []Piece) string {
	if len(pack) == 0 {
		return "no shim"
	}
	var words []string
	for i, p := range pack {
		if i > 0 && pack[i-1].Thickness.String() == p.Thickness.String() {
			continue
		}
		n := 0
		for _, same := range pack[i:] {
			if same.Thickness.String() == p.Thickness.String() {
				n += same.Count
			}
		}
		words = append(words, fmt.Sprintf("%d × %s", n, p.Thickness))
	}
	return strings.Join(words, " + ")
}

func withReason(words string, b Body) string {
	if b.Reason == "" {
		return words
	}
	return words + ": " + b.Reason
}

// countOf says "3 lines to go".
func countOf(n int, one, many string) string {
	return several(n, one, many) + " to go"
}

// several says "3 lines".
func several(n int, one, many string) string {
	if n == 1 {
		return "1 " + one
	}
	return fmt.Sprintf("%d %s", n, many)
}

func lowered(s string) string { return begun(s, unicode.ToLower) }

// raised begins like a sentence.
func raised(s string) string { return begun(s, unicode.ToUpper) }

// begun changes the first letter, whatever the script.
func begun(s string, with func(rune) rune) string {
	first, size := utf8.DecodeRuneInString(s)
	if size == 0 || first == utf8.RuneError {
		return s
	}
	return string(with(first)) + s[size:]
}

// Moment says a time the one way in which screens, prints and the log say it,
// in the shop's time zone: 2026-11-26 11:36.
func Moment(t time.Time, zone *time.Location) string {
	if zone == nil {
		zone = time.UTC
	}
	return t.In(zone).Format("2006-01-02 15:04")
}
