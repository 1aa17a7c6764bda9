package workshop

import (
	"fmt"
	"strings"
	"time"

	"handwerk/book"
	"handwerk/core/decision"
)

// kind is everything the house knows of a kind of step. Each has one file; to
// add one, write its value there and name it in the table below.
type kind struct {
	name book.Kind
	// Nature is what the book asks: whether a step is written well, what it
	// gives to later ones, what it misses on the sheet.
	book.Nature
	// takes lists its acts, besides those of every step.
	takes []Act
	// needs tells what is still missing.
	needs func(*State, *Step) Need
	// open lists the acts that can be done now, once gate and cautions are.
	open func(*State, *Step, time.Time) []OpenAct
	// accept judges a draft and works out what it means; nil where no act of
	// its own is taken.
	accept func(*proposal) error
	// strike works out what is left when an entry goes; nil when nothing hangs on it.
	strike func(*proposal) error
	// view is the step as the bench shows it; empty is one to read into.
	view  func(viewer, StepFrame) (StepView, error)
	empty func() StepView
	// gives is what a later step takes under a name: errNotYet before it is
	// there, false when it was left away; nil when there is nothing to take.
	gives func(s *State, step *Step, what []string) (any, bool, error)
	// usual is an entry that is often made next, as the sheet has it.
	usual func(StepView) Draft
	// says puts an entry into words; see words.go for those of every step.
	says func(s *State, step *Step, e *Entry) string

	// lists: the parts list of the rebuild stands here.
	lists bool
	// prepare makes ready, once for a sheet, what a step works on.
	prepare func(book.Step, book.SpecSheet) (any, error)
	// leans lists earlier steps that what it needs rests on, besides the one it
	// is of and those it takes figures from.
	leans func(p *Plan, step *Step) []*Step
	// hours is the work of a way that was taken here; false where none was.
	hours func(*State, *Step) (decision.Range, bool)
	// bad lists answers that are not as they should be; left is what was left as
	// it is, with a reason.
	bad, left func(*State, *Step) []Point
	// buys lists what has to be bought for it, and tells whether that is all.
	buys func(*State, *Step) (list []ToBuy, all bool)
	// sums adds what the step has to say to the first page of a record.
	sums func(*State, *Step, *Summary)
}

// kindTable are the kinds that a plan may be made of.
type kindTable []*kind

// natures is what the book has to know of them.
func (t kindTable) natures() book.Kinds {
	all := book.Kinds{}
	for _, k := range t {
		all[k.name] = k.Nature
	}
	return all
}

// named finds a kind; nil when there is none.
func (t kindTable) named(name book.Kind) *kind {
	for _, k := range t {
		if k.name == name {
			return k
		}
	}
	return nil
}

// Step is a step of a plan with what follows from it.
type Step struct {
	book.Step
	Station book.StationID

	kind     *kind
	at       int
	bindings book.Bindings // measure: where each input comes from
	weighs   []weighing
	takes    []string // ids of the earlier steps whose figures it takes
	wants    []string // paths of what it asks the spec sheet for
	waits    []string // of their answers: those without which it cannot begin
	// resultsOf are the earlier steps whose result it takes.
	resultsOf []string
	// hangsOn are those it takes something from that it cannot do without.
	hangsOn []string
}

func newStep(kinds kindTable, s book.Step, station book.StationID, at int) (*Step, error) {
	k := kinds.named(s.Kind)
	if k == nil {
		return nil, fmt.Errorf("step %q is of a kind %q that this program does not know", s.ID, s.Kind)
	}
	// A plan from elsewhere may leave out what its kind is made of.
	if !k.IsWhole(s) {
		return nil, fmt.Errorf("step %q is of kind %q and does not say %s", s.ID, s.Kind, s.Kind)
	}
	step := &Step{Step: s, Station: station, kind: k, at: at, takes: s.BoundTo(), weighs: newWeighings(s.Weighs)}
	if s.Measure != nil {
		step.bindings = book.Bind(s.Measure.Bind)
	}
	if k.Wants != nil {
		step.wants = k.Wants(s)
	}
	step.waits = k.Waits(s, step.wants)
	for _, x := range step.bindings.All() {
		if x.Room != book.FromSteps || len(x.Path) < 2 || x.Optional {
			continue
		}
		step.hangsOn = append(step.hangsOn, x.Path[0])
		if x.Path[1] == "result" {
			step.resultsOf = append(step.resultsOf, x.Path[0])
		}
	}
	return step, nil
}

// idsOf lists what is accepted, as a refusal says it.
func idsOf[T any](list []T, id func(T) string) string { return strings.Join(idList(list, id), ", ") }

func idList[T any](list []T, id func(T) string) []string {
	ids := make([]string, len(list))
	for i, x := range list {
		ids[i] = id(x)
	}
	return ids
}
