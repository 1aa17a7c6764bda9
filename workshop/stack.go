package workshop

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
)

// stackKind: the parts of a unit come off, are looked at, and go back in reverse.
var stackKind = kind{
	name:   book.Stack,
	Nature: book.Nature{Check: checkStack, TakesApart: takesApart},
	takes:  []Act{ActRemoved, ActVerdict, ActFitted},
	needs:  needsParts,
	open: func(_ *State, step *Step, _ time.Time) []OpenAct {
		return []OpenAct{{Act: workActs[step.Work]}}
	},
	accept: acceptPart,
	view: func(v viewer, f StepFrame) (StepView, error) {
		parts := v.state.stackOpen(v.step)
		view := &StackStep{StepFrame: f, Kind: book.Stack, Work: v.step.Work, Stack: parts, Wears: v.state.wears(parts), Works: works}
		if v.step.Work == book.Remove {
			sheet := v.state.plan.Sheet
			view.Usual = strings.HasPrefix(sheet.ID, ownSheet) && len(sheet.Stacks[v.step.ID]) == 0
		}
		if v.step.Work != book.Inspect {
			return view, nil
		}
		var err error
		view.Gauges, err = v.gauges()
		return view, err
	},
	usual: usualPart,
	says:  partWords,
	leans: packsBefore,
	buys:  buysParts,
	sums:  sumsParts,
	empty: func() StepView { return &StackStep{} },
}

// workActs is what is done to each part.
var workActs = map[book.StackWork]Act{book.Remove: ActRemoved, book.Inspect: ActVerdict, book.Fit: ActFitted}

// StackStep is a stack as the bench shows it.
type StackStep struct {
	StepFrame
	Kind  book.Kind      `json:"kind" const:"stack"`
	Work  book.StackWork `json:"work"`
	Stack []StackPart    `json:"stack"`
	// Usual: the parts are those that this kind of unit usually has; nobody here
	// took one of the family apart yet.
	Usual bool `json:"usual,omitempty"`
	// Gauges are what a part may be measured with, where parts are looked at.
	Gauges []GaugeView `json:"gauges,omitempty"`
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
		c.Add(input.Join(at, "work"), "remove, inspect, fit", "%q is not work on a stack", s.Work)
	}
}

// The words for a part.
const (
	partRemoved  = "removed"
	partNotFound = "not-found" // it must be there
	partNone     = "none"      // this unit has none
	partReuse    = "reuse"
	partRework   = "rework"
	partReplace  = "replace"
	partFitted   = "fitted"
	partLeftOut  = "left-out"
)

// foundPrefix begins the ids of parts that the plan does not list.
const foundPrefix = "found-"

// isFound tells that a part was found in the unit and stands on no plan.
func isFound(at Place) bool { return strings.HasPrefix(at.Name, foundPrefix) }

// stackOpen is the stack with what can be said of each part at this step.
func (s *State) stackOpen(step *Step) []StackPart {
	parts := s.withPacks(step, s.Stack(step))
	for i := range parts {
		parts[i].Says = parts[i].words()
		parts[i].Answers = partAnswers(step.Work, parts[i])
		if step.Work == book.Inspect && (parts[i].Once || parts[i].NotFound) {
			parts[i].Usual = partReplace
		}
	}
	return parts
}

// partAnswers are what is said of a part, in the same order for each, so that
// a figure on the keyboard is one verdict: one that is renewed by rule is not
// used again, and one that was not there cannot be.
func partAnswers(work book.StackWork, p StackPart) []Answer {
	switch work {
	case book.Remove:
		return []Answer{
			{ID: partRemoved, Text: "Off"}, {ID: partNotFound, Text: "Missing: it must be there"},
			{ID: partNone, Text: "This one has none"},
		}
	case book.Fit:
		return []Answer{{ID: partFitted, Text: "In", Good: true}, {ID: partLeftOut, Text: "Left out", Reason: true}}
	}
	not := ""
	switch {
	case p.NotFound:
		not = "it was not there"
	case p.Once:
		not = "always renewed"
	}
	return []Answer{
		{ID: partReuse, Text: "Reuse", Good: true, Not: not}, {ID: partRework, Text: "Rework", Reason: true},
		{ID: partReplace, Text: "Replace", Reason: !p.Once}, {ID: partNotFound, Text: "Missing", Reason: true},
		{ID: partNone, Text: "This one has none"},
	}
}

// removal is the step at which the stack of a step was taken apart.
func (s *State) removal(step *Step) *Step {
	if step.Of == "" {
		return step
	}
	removal, _ := s.plan.Step(step.Of)
	return removal
}

// needsParts counts by place alone; it runs for every sheet and reads no bodies.
func needsParts(s *State, step *Step) Need {
	removal, act := s.removal(step), workActs[step.Work]
	st, left := s.of(step), 0
	count := func(at Place) {
		if _, ok := st.has(act, at); !ok && !s.hasNone(removal, at) {
			left++
		}
	}
	for _, p := range removal.Parts {
		count(ReadPlace(p.ID))
	}
	off := s.of(removal)
	for e := range off.each(off.live) {
		if e.Act == ActRemoved && isFound(e.Item) {
			count(e.Item)
		}
	}
	if step.Work == book.Fit && !s.isSigned() {
		for _, x := range s.packsFor(step) {
			if _, ok := st.has(act, ReadPlace(packPrefix+x.ID)); !ok {
				left++
			}
		}
	}
	return countedNeed(Parts, left)
}

// hasNone tells that this unit has no such part, as somebody saw when it came
// apart or was looked at. Bodies are only read where the words may stand.
func (s *State) hasNone(removal *Step, at Place) bool {
	for _, step := range s.plan.Steps {
		if step != removal && step.Of != removal.ID {
			continue
		}
		for _, act := range []Act{ActRemoved, ActVerdict} {
			if e, ok := s.of(step).has(act, at); ok && bytes.Contains(e.Body, []byte(partNone)) && e.Said().Outcome == partNone {
				return true
			}
		}
	}
	return false
}

func acceptPart(p *proposal) error {
	if want := workActs[p.step.Work]; p.draft.Act != want {
		return input.At("act", string(want), "%q is not done at this step", p.draft.Act)
	}
	parts := p.state.withPacks(p.step, p.state.Stack(p.step))
	if p.step.Work == book.Remove {
		return p.acceptRemoved(parts)
	}
	i := slices.IndexFunc(parts, func(x StackPart) bool { return ReadPlace(x.ID) == p.draft.Item })
	if i < 0 {
		return input.At("item", idsOf(parts, func(x StackPart) string { return x.ID }), "%q is not a part of this stack", p.draft.Item.String())
	}
	if p.step.Work == book.Inspect {
		return p.acceptVerdict(parts[i])
	}
	return p.acceptFitted(parts, i)
}

func (p *proposal) acceptRemoved(parts []StackPart) error {
	if err := p.outcomeAmong(partRemoved, partNotFound, partNone); err != nil {
		return err
	}
	if p.draft.Value.IsSaid() {
		if err := p.valueOf(quantity.DimLength); err != nil {
			return err
		}
	}
	known := slices.ContainsFunc(parts, func(x StackPart) bool { return x.ID == p.draft.Behind && ReadPlace(x.ID) != p.draft.Item })
	if p.draft.Behind != "" && p.draft.Behind != atFront && !known {
		return input.At("behind", "another part of the stack, or -", "%q is none", p.draft.Behind)
	}
	if slices.ContainsFunc(parts, func(x StackPart) bool { return ReadPlace(x.ID) == p.draft.Item }) {
		if p.draft.Name != "" && !isFound(p.draft.Item) {
			return input.At("name", "only for parts the plan does not list", "the plan names this part already")
		}
		return nil
	}
	if strings.TrimSpace(p.draft.Name) == "" {
		return input.At("name", "what the part is", "a part the plan does not list needs a name")
	}
	p.draft.Item = Place{Name: foundPrefix + itoa(len(parts)+1)}
	return nil
}

func (p *proposal) acceptVerdict(part StackPart) error {
	if err := p.outcomeAmong(partReuse, partRework, partReplace, partNotFound, partNone); err != nil {
		return err
	}
	switch {
	case p.draft.Outcome == partReuse && part.Once:
		return input.At("outcome", "replace", "%s is always replaced once disturbed", part.Name)
	case p.draft.Outcome == partReuse && part.NotFound:
		return input.At("outcome", "replace, not-found", "%s was not there when the unit was taken apart", part.Name)
	}
	if err := p.workedOn(); err != nil {
		return err
	}
	if err := p.worn(part); err != nil {
		return err
	}
	said := p.draft.Outcome
	if said == partReuse || said == partNone || (said == partReplace && (part.Once || p.draft.Wear != nil)) {
		return nil
	}
	return p.reason("what was seen on the part")
}

func (p *proposal) acceptFitted(parts []StackPart, i int) error {
	if err := p.outcomeAmong(partFitted, partLeftOut); err != nil {
		return err
	}
	if p.draft.Outcome == partLeftOut {
		if err := p.reason("why the part stays out"); err != nil {
			return err
		}
	}
	if p.old != nil {
		return nil
	}
	for j := len(parts) - 1; j > i; j-- {
		if parts[j].Fitted == "" && !parts[j].None {
			return refuse(GateClosed, goesInBefore, parts[j].Name, parts[i].Name)
		}
	}
	return nil
}

// usualPart takes the next part in the order of the work.
func usualPart(v StepView) Draft {
	x := v.(*StackStep)
	for i, p := range x.Stack {
		at := ReadPlace(p.ID)
		switch {
		case p.None:
			continue
		case x.Work == book.Remove && p.Removed == "":
			return Draft{Act: ActRemoved, Item: at, Body: Body{Outcome: partRemoved, Faces: p.Faces, Tray: "tray " + strconv.Itoa(i/4+1)}}
		case x.Work == book.Inspect && p.Verdict == "" && p.Usual != "":
			return Draft{Act: ActVerdict, Item: at, Body: Body{Outcome: p.Usual, Reason: cmp.Or(p.Rule, "was not there")}}
		case x.Work == book.Inspect && p.Verdict == "":
			return Draft{Act: ActVerdict, Item: at, Body: Body{Outcome: partReuse}}
		}
	}
	for _, p := range slices.Backward(x.Stack) {
		if p.Fitted == "" && !p.None {
			return Draft{Act: ActFitted, Item: ReadPlace(p.ID), Body: Body{Outcome: partFitted}}
		}
	}
	return Draft{}
}

func partWords(s *State, step *Step, e *Entry) string {
	name, b := s.partName(step, e.Item), e.Said()
	switch {
	case e.Act == ActVerdict:
		return withReason(name+": "+verdictWords(b), b)
	case e.Act == ActFitted && b.Outcome == partLeftOut:
		return withReason(name+" left out", b)
	case e.Act == ActFitted:
		return name + " in"
	case b.Outcome == partNotFound:
		return name + ": missing, it must be there"
	case b.Outcome == partNone:
		return name + ": this one has none"
	}
	words := name + " off"
	if b.Faces != "" {
		words += ", " + b.Faces
	}
	if b.Tray != "" {
		words += ", " + b.Tray
	}
	if b.Mark != "" {
		words += ", marked " + b.Mark
	}
	if b.Value.IsSaid() {
		words += ", " + b.valueWords()
	}
	if b.Bolts != "" {
		words += ", held by " + b.Bolts
	}
	if b.Damage != "" {
		words += ", damaged: " + b.Damage
	}
	return words
}

// partName is what a part is called, without folding the stack it lies in: a
// long record asks for as many names as it has entries.
func (s *State) partName(step *Step, at Place) string {
	removal, id := s.removal(step), at.String()
	if i := slices.IndexFunc(removal.Parts, func(p book.Part) bool { return p.ID == id }); i >= 0 {
		return removal.Parts[i].Name
	}
	if e, ok := s.of(removal).has(ActRemoved, at); ok {
		return e.Said().Name
	}
	if of, ok := s.plan.named[strings.TrimPrefix(id, packPrefix)]; ok && of.Measure != nil && strings.HasPrefix(id, packPrefix) {
		trials := s.Trials(of)
		return "Pack " + trials[len(trials)-1].Sum.String()
	}
	return id
}

func takesApart(s book.Step) bool { return s.Kind == book.Stack && s.Work == book.Remove }

// removals are the steps at which parts come off.
func removals(steps []*Step) []*Step {
	return slices.DeleteFunc(slices.Clone(steps), func(x *Step) bool { return !takesApart(x.Step) })
}
