// Package stack is the step on the parts of a unit: they come off, are looked at,
// and go back in reverse.
package stack

import (
	"bytes"
	"cmp"
	"slices"
	"strconv"
	"strings"
	"time"

	"handwerk/book"
	"handwerk/core/input"
	"handwerk/core/quantity"
	"handwerk/workshop/acts"
	"handwerk/workshop/record"
	"handwerk/workshop/say"
	"handwerk/workshop/shop"
)

// Kind: the parts of a unit come off, are looked at, and go back in reverse.
var Kind = record.Kind{
	Name:   book.Stack,
	Nature: book.Nature{Check: checkStack, TakesApart: TakesApart},
	Takes: []*record.Act{
		{Act: acts.Removed{}, Accept: acceptRemoved, Says: removedWords},
		{Act: acts.Verdict{}, Accept: acceptVerdict, Says: verdictSaid},
		{Act: acts.Fitted{}, Accept: acceptFitted, Says: fittedWords},
	},
	Needs: needsParts,
	Open: func(_ *record.State, step *record.Step, _ time.Time) []record.OpenAct {
		return []record.OpenAct{record.MayDo(workActs[step.Work])}
	},
	View: func(v record.Viewer, f record.StepFrame) (record.StepView, error) {
		parts := stackOpen(v.State, v.Step)
		view := &StackStep{StepFrame: f, Kind: book.Stack, Work: v.Step.Work, Stack: parts,
			Wears: wearsOf(v.State, parts), Works: works}
		if v.Step.Work == book.Remove {
			sheet := v.State.Plan.Sheet
			view.Usual = strings.HasPrefix(sheet.ID, shop.OwnSheet) && len(sheet.Stacks[v.Step.ID]) == 0
		}
		if v.Step.Work != book.Inspect {
			return view, nil
		}
		var err error
		view.Gauges, err = v.Gauges()
		return view, err
	},
	Usual: usualPart,
	Leans: packsBefore,
	Buys:  buysParts,
	Sums:  sumsParts,
	Empty: func() record.StepView { return &StackStep{} },
}

// workActs is what is done to each part.
var workActs = map[book.StackWork]acts.Act{
	book.Remove: acts.Removed{}, book.Inspect: acts.Verdict{}, book.Fit: acts.Fitted{},
}

// StackStep is a stack as the bench shows it.
type StackStep struct {
	record.StepFrame
	Kind  book.Kind      `json:"kind" const:"stack"`
	Work  book.StackWork `json:"work"`
	Stack []StackPart    `json:"stack"`
	// Usual: the parts are those that this kind of unit usually has; nobody here
	// took one of the family apart yet.
	Usual bool `json:"usual,omitempty"`
	// Gauges are what a part may be measured with, where parts are looked at.
	Gauges []shop.GaugeView `json:"gauges,omitempty"`
	// Wears are what the sheet says of its parts; Works are the ways to rework one.
	Wears map[string]book.Wear `json:"wears"`
	Works []string             `json:"works"`
}

func checkStack(c *book.Checker, at string, s book.Step) {
	switch s.Work {
	case book.Remove:
		c.Parts(input.Join(at, "parts"), s.Parts)
	case book.Inspect, book.Fit:
		if of, ok := c.Earlier(s.Of); !ok || of.Kind != book.Stack || of.Work != book.Remove {
			c.Add(input.Join(at, "of"), "an earlier stack that is taken apart", "%q is not one", s.Of)
		}
		if len(s.Parts) > 0 {
			c.Add(input.Join(at, "parts"), "of", "the parts come from the stack taken apart; leave them out here")
		}
	default:
		c.Add(input.Join(at, "work"), "remove, inspect, fit", "%q is not a kind of work on parts", s.Work)
	}
}

// The words for a part.
const (
	PartRemoved  = "removed"
	partNotFound = "not-found" // it must be there
	partNone     = "none"      // this unit has none
	PartReuse    = "reuse"
	PartRework   = "rework"
	PartReplace  = "replace"
	partFitted   = "fitted"
	partLeftOut  = "left-out"
)

// foundPrefix begins the ids of parts that the plan does not list.
const foundPrefix = "found-"

// isFound tells that a part was found in the unit and stands on no plan.
func isFound(at record.Place) bool { return strings.HasPrefix(at.Name, foundPrefix) }

// stackOpen is the stack with what can be said of each part at this step.
func stackOpen(s *record.State, step *record.Step) []StackPart {
	parts := withPacks(s, step, Stack(s, step))
	for i := range parts {
		parts[i].Says = parts[i].Words()
		parts[i].Answers = partAnswers(step.Work, parts[i])
		if step.Work == book.Inspect && (parts[i].Once || parts[i].NotFound) {
			parts[i].Usual = PartReplace
		}
	}
	return parts
}

// partAnswers are what is said of a part, in the same order for each, so that
// a figure on the keyboard is one verdict: one that is renewed by rule is not
// used again, and one that was not there cannot be.
func partAnswers(work book.StackWork, p StackPart) []record.Answer {
	switch work {
	case book.Remove:
		return []record.Answer{
			{ID: PartRemoved, Text: "Off"}, {ID: partNotFound, Text: "Missing: it must be there"},
			{ID: partNone, Text: "This one has none"},
		}
	case book.Fit:
		return []record.Answer{{ID: partFitted, Text: "In", Good: true},
			{ID: partLeftOut, Text: "Left out", Reason: true}}
	}
	not := ""
	switch {
	case p.NotFound:
		not = "it was missing"
	case p.Once:
		not = "always replaced"
	}
	return []record.Answer{
		{ID: PartReuse, Text: "Reuse", Good: true, Not: not}, {ID: PartRework, Text: "Rework", Reason: true},
		{ID: PartReplace, Text: "Replace", Reason: !p.Once}, {ID: partNotFound, Text: "Missing", Reason: true},
		{ID: partNone, Text: "This one has none"},
	}
}

// removalOf is the step at which the stack of a step was taken apart.
func removalOf(s *record.State, step *record.Step) *record.Step {
	if step.Of == "" {
		return step
	}
	removal, _ := s.Plan.Step(step.Of)
	return removal
}

// needsParts counts by place alone; it runs for every sheet and reads no bodies.
func needsParts(s *record.State, step *record.Step) record.Need {
	removal, act := removalOf(s, step), workActs[step.Work]
	st, left := s.At(step), 0
	count := func(at record.Place) {
		if _, ok := st.Has(act, at); !ok && !hasNone(s, removal, at) {
			left++
		}
	}
	for _, p := range removal.Parts {
		count(record.ReadPlace(p.ID))
	}
	off := s.At(removal)
	for e := range off.Each(off.Live) {
		if e.Is(acts.Removed{}) && isFound(e.Item) {
			count(e.Item)
		}
	}
	if step.Work == book.Fit && !record.IsSigned(s) {
		for _, x := range packsFor(s, step) {
			if _, ok := st.Has(act, record.ReadPlace(packPrefix+x.ID)); !ok {
				left++
			}
		}
	}
	return record.CountNeed(record.Parts, left)
}

// hasNone tells that this unit has no such part, as somebody saw when it came
// apart or was looked at. Bodies are only read where the words may stand.
func hasNone(s *record.State, removal *record.Step, at record.Place) bool {
	for _, step := range s.Plan.Steps {
		if step != removal && step.Of != removal.ID {
			continue
		}
		for _, act := range []acts.Act{acts.Removed{}, acts.Verdict{}} {
			if e, ok := s.At(step).Has(act, at); ok && bytes.Contains(e.Body, []byte(partNone)) &&
				acts.OutcomeOf(e.ReadAct()) == partNone {
				return true
			}
		}
	}
	return false
}

// partsFor lists the parts of the stack, where a step does this to them.
func partsFor(p *record.Attempt) ([]StackPart, error) {
	if want := workActs[p.Step.Work]; !p.Is(want) {
		return nil, input.At("act", string(want.Name()), "%q is not done at this step", p.Draft.Says.Name())
	}
	return withPacks(p.State, p.Step, Stack(p.State, p.Step)), nil
}

// partAt is the part that a draft is about, among those of its stack.
func partAt(p *record.Attempt) ([]StackPart, int, error) {
	parts, err := partsFor(p)
	if err != nil {
		return nil, 0, err
	}
	i := slices.IndexFunc(parts, func(x StackPart) bool { return record.ReadPlace(x.ID) == p.Draft.Item })
	if i < 0 {
		return nil, 0, input.At("item", say.ListOf(parts, func(x StackPart) string { return x.ID }),
			"%q is not a part of this stack", p.Draft.Item.String())
	}
	return parts, i, nil
}

func acceptRemoved(p *record.Attempt) error {
	parts, err := partsFor(p)
	if err != nil {
		return err
	}
	said := record.Saying[acts.Removed](p)
	if err := p.WantOutcome(PartRemoved, partNotFound, partNone); err != nil {
		return err
	}
	if said.Value.IsSaid() {
		if err := p.WantValue(quantity.DimLength); err != nil {
			return err
		}
	}
	known := slices.ContainsFunc(parts, func(x StackPart) bool {
		return x.ID == said.Behind &&
			record.ReadPlace(x.ID) != p.Draft.Item
	})
	if said.Behind != "" && said.Behind != atFront && !known {
		return input.At("behind", "another part of the stack, or -", "%q is not another part", said.Behind)
	}
	if slices.ContainsFunc(parts, func(x StackPart) bool { return record.ReadPlace(x.ID) == p.Draft.Item }) {
		if said.PartName != "" && !isFound(p.Draft.Item) {
			return input.At("name", "only for parts the plan does not list", "the plan names this part already")
		}
		return nil
	}
	if strings.TrimSpace(said.PartName) == "" {
		return input.At("name", "the name of the part", "a part the plan does not list needs a name")
	}
	p.Draft.Item = record.Place{Name: foundPrefix + say.Itoa(len(parts)+1)}
	return nil
}

func acceptVerdict(p *record.Attempt) error {
	parts, i, err := partAt(p)
	if err != nil {
		return err
	}
	part, said := parts[i], record.Saying[acts.Verdict](p)
	if err := p.WantOutcome(PartReuse, PartRework, PartReplace, partNotFound, partNone); err != nil {
		return err
	}
	switch {
	case said.Outcome == PartReuse && part.Once:
		return input.At("outcome", "replace", "%s is always replaced once removed", part.Name)
	case said.Outcome == PartReuse && part.NotFound:
		return input.At("outcome", "replace, not-found", "%s was missing when the unit was taken apart", part.Name)
	}
	if err := checkWork(said); err != nil {
		return err
	}
	if err := checkWear(p, said, part); err != nil {
		return err
	}
	if said.Outcome == PartReuse || said.Outcome == partNone ||
		(said.Outcome == PartReplace && (part.Once || said.Wear != nil)) {
		return nil
	}
	return p.WantReason("what you see on the part")
}

func acceptFitted(p *record.Attempt) error {
	parts, i, err := partAt(p)
	if err != nil {
		return err
	}
	if err := p.WantOutcome(partFitted, partLeftOut); err != nil {
		return err
	}
	if acts.OutcomeOf(p.Draft.Says) == partLeftOut {
		if err := p.WantReason("why the part is left out"); err != nil {
			return err
		}
	}
	if p.Old != nil {
		return nil
	}
	for j := len(parts) - 1; j > i; j-- {
		if parts[j].Fitted == "" && !parts[j].None {
			return say.Refuse(say.GateClosed, say.GoesInBefore, parts[j].Name, parts[i].Name)
		}
	}
	return nil
}

// usualPart takes the next part in the order of the work.
func usualPart(v record.StepView) record.Draft {
	x := v.(*StackStep)
	for i, p := range x.Stack {
		at := record.ReadPlace(p.ID)
		switch {
		case p.None:
			continue
		case x.Work == book.Remove && p.Removed == "":
			return record.Draft{
				Item: at,
				Says: &acts.Removed{Outcome: PartRemoved, Faces: p.Faces, Tray: "tray " + strconv.Itoa(i/4+1)},
			}
		case x.Work == book.Inspect && p.Verdict == "" && p.Usual != "":
			return record.Draft{
				Item: at,
				Says: &acts.Verdict{Outcome: p.Usual, Reason: cmp.Or(p.Rule, "was missing")},
			}
		case x.Work == book.Inspect && p.Verdict == "":
			return record.Draft{Item: at, Says: &acts.Verdict{Outcome: PartReuse}}
		}
	}
	for _, p := range slices.Backward(x.Stack) {
		if p.Fitted == "" && !p.None {
			return record.Draft{Item: record.ReadPlace(p.ID), Says: &acts.Fitted{Outcome: partFitted}}
		}
	}
	return record.Draft{}
}

// TakesApart tells a step at which parts come off.
func TakesApart(s book.Step) bool { return s.Kind == book.Stack && s.Work == book.Remove }

// Removals are the steps at which parts come off.
func Removals(steps []*record.Step) []*record.Step {
	return slices.DeleteFunc(slices.Clone(steps), func(x *record.Step) bool { return !TakesApart(x.Step) })
}
