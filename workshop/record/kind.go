package record

import (
	"encoding/json"
	"fmt"
	"slices"
	"time"

	"handwerk/book"
	"handwerk/core/decision"
)

// Kind is everything the house knows of a kind of step. Each has one file; to
// add one, write its value there and name it in the table below.
type Kind struct {
	Name book.Kind
	// Nature is what the book asks: whether a step is written well, what it
	// gives to later ones, what it misses on the sheet.
	book.Nature
	// Takes lists its acts, besides those of every step.
	Takes []*Act
	// needs tells what is still missing.
	Needs func(*State, *Step) Need
	// open lists the acts that can be done now, once gate and cautions are.
	Open func(*State, *Step, time.Time) []OpenAct
	// view is the step as the bench shows it; empty is one to read into.
	View  func(Viewer, StepFrame) (StepView, error)
	Empty func() StepView
	// gives is what a later step takes under a name: errNotYet before it is
	// there, false when it was left away; nil when there is nothing to take.
	Gives func(s *State, step *Step, what []string) (any, bool, error)
	// usual is an entry that is often made next, as the sheet has it.
	Usual func(StepView) Draft
	// lists: the parts list of the rebuild stands here.
	Lists bool
	// prepare makes ready, once for a sheet, what a step works on.
	Prepare func(book.Step, book.SpecSheet) (any, error)
	// leans lists earlier steps that what it needs rests on, besides the one it
	// is of and those it takes figures from.
	Leans func(p *Plan, step *Step) []*Step
	// hours is the work of a way that was taken here; false where none was.
	Hours func(*State, *Step) (decision.Range, bool)
	// bad lists answers that are not as they should be; left is what was left as
	// it is, with a reason.
	Bad, Left func(*State, *Step) []Point
	// buys lists what has to be bought for it, and tells whether that is all.
	Buys func(*State, *Step) (list []ToBuy, all bool)
	// sums adds what the step has to say to the first page of a record.
	Sums func(*State, *Step, *Summary)
}

// Table are the kinds that a plan may be made of.
type Table []*Kind

// Natures is what the book has to know of them.
func (t Table) Natures() book.Kinds {
	all := book.Kinds{}
	for _, k := range t {
		all[k.Name] = k.Nature
	}
	return all
}

// Find finds a kind; nil when there is none.
func (t Table) Find(name book.Kind) *Kind {
	for _, k := range t {
		if k.Name == name {
			return k
		}
	}
	return nil
}

// Step is a step of a plan with what follows from it.
type Step struct {
	book.Step
	Station book.StationID

	acts      []*Act
	Rules     *Kind
	At        int
	Bindings  book.Bindings // measure: where each input comes from
	Weighings []Weighing
	Takes     []string // ids of the earlier steps whose figures it takes
	wants     []string // paths of what it asks the spec sheet for
	waits     []string // of their answers: those without which it cannot begin
	// resultsOf are the earlier steps whose result it takes.
	resultsOf []string
	// hangsOn are those it takes something from that it cannot do without.
	hangsOn []string
}

func newStep(kinds Table, common []*Act, s book.Step, station book.StationID, at int) (*Step, error) {
	k := kinds.Find(s.Kind)
	if k == nil {
		return nil, fmt.Errorf("step %q is of a kind %q that this program does not know", s.ID, s.Kind)
	}
	// A plan from elsewhere may leave out what its kind is made of.
	if !k.IsWhole(s) {
		return nil, fmt.Errorf("step %q is of kind %q and does not say %s", s.ID, s.Kind, s.Kind)
	}
	step := &Step{
		acts:      slices.Concat(k.Takes, common),
		Step:      s,
		Station:   station,
		Rules:     k,
		At:        at,
		Takes:     s.BoundTo(),
		Weighings: newWeighings(s.Weighs),
	}
	if s.Measure != nil {
		step.Bindings = book.Bind(s.Measure.Bind)
	}
	if k.Wants != nil {
		step.wants = k.Wants(s)
	}
	step.waits = k.Waits(s, step.wants)
	for _, x := range step.Bindings.All() {
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

// LimitOf is the sheet's limit that the readings lie between. Copies of the
// book made before steps named it have it in the upper bound they bind.
func LimitOf(step *Step) string {
	if step.Measure.Limit != "" {
		return step.Measure.Limit
	}
	for _, name := range []string{"target_max", "upper"} {
		for _, s := range step.Bindings.Sources[name] {
			if len(s.Path) == 3 && s.Path[0] == "limits" && s.Path[2] == "max" {
				return s.Path[1]
			}
		}
	}
	return ""
}

// The ways to go are weighed as the spec sheet has them. For the unit on the
// bench somebody may know better: other ranges, or a way of one's own. That is
// an entry, laid over the sheet for this rebuild alone.

// waysPath is where the ways stand on a sheet.
const waysPath = "ways"

// A choice may be weighed: calculators work out from sheet and record what
// speaks for each way. Their answers stand beside the choice while it is open
// and are kept with it when it is made; nobody has to ask for them.

// Weighing is one calculator of a step, its bindings made ready.
type Weighing struct {
	book.Weighing
	Bindings book.Bindings
}

// WeighedView is what one calculator says for a choice.
type WeighedView struct {
	Calc   string          `json:"calc"`
	Method string          `json:"method,omitempty"`
	Result json.RawMessage `json:"result,omitempty"`
	// Problem is why it cannot say anything; the choice is made without it.
	Problem string         `json:"problem,omitempty"`
	Input   map[string]any `json:"input"`
}

// OfWays: it weighs ways to go by what they cost; the customer says yes to one.
func (w Weighing) OfWays() bool { return decision.DecideMethod.Is(w.Calc) }

func newWeighings(list []book.Weighing) []Weighing {
	var all []Weighing
	for _, w := range list {
		all = append(all, Weighing{w, book.Bind(w.Bind)})
	}
	return all
}
