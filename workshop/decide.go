package workshop

import (
	"cmp"
	"slices"
	"strings"
	"time"

	"handwerk/book"
	"handwerk/core/decision"
	"handwerk/core/diagnosis"
	"handwerk/core/input"
	"handwerk/core/supply"
)

// decideKind: one of several ways is taken; some keep the rebuild waiting, and
// the lead's is the signature.
var decideKind = kind{
	name: book.Decide,
	Nature: book.Nature{
		Check:   checkChoices,
		Wants:   weighsWant,
		Misfits: weighsMisfit,
		Sample:  func(_ book.Step, what []string) (any, bool) { return blank, what[0] == "choice" },
	},
	takes: []Act{ActDecision, ActAgreed, ActWays, ActOutcome},
	needs: needsDecision,
	open: func(s *State, step *Step, _ time.Time) []OpenAct {
		open := []OpenAct{{Act: ActDecision}}
		if _, decided := s.of(step).has(ActDecision, Place{}); decided && step.agrees() {
			open = append(open, OpenAct{Act: ActAgreed})
		}
		if step.agrees() {
			open = append(open, OpenAct{Act: ActWays})
		}
		if step.Role == string(Lead) {
			open = append(open, OpenAct{Act: ActOutcome})
		}
		return open
	},
	accept: func(p *proposal) error {
		switch p.draft.Act {
		case ActAgreed:
			return p.acceptAgreed()
		case ActWays:
			return p.acceptWays()
		case ActOutcome:
			return p.acceptAnswer()
		}
		if err := acceptDecision(p); err != nil {
			return err
		}
		return p.keepWeighed()
	},
	hours: hoursOfWay,
	buys:  buysDecided,
	sums:  sumsDecision,
	view: func(v viewer, f StepFrame) (_ StepView, err error) {
		if f.Weighed, err = v.weighed(); err != nil {
			return nil, err
		}
		view := &DecideStep{StepFrame: f, Kind: book.Decide, Choices: []ChoiceView{}, Agreed: v.state.agreed(v.step)}
		if v.step.Role == string(Lead) {
			view.Points = v.state.points()
		}
		for _, c := range v.state.choices(v.step) {
			view.Choices = append(view.Choices, ChoiceView{Choice: c, Reason: v.step.wantsReason(c)})
		}
		if err := v.likeliestFirst(view.Choices); err != nil {
			return nil, err
		}
		if v.step.FromBook == book.FromCauses {
			view.Parts = v.state.chainParts(v.step)
			if e, ok := v.state.of(v.step).has(ActDecision, Place{}); ok {
				view.Chain = e.Said().Chain
			}
		}
		return view, nil
	},
	gives: func(s *State, step *Step, _ []string) (any, bool, error) {
		return saidAt(s, step, ActDecision, Place{}, func(b Body) any { return b.Outcome })
	},
	usual: func(v StepView) Draft {
		x := v.(*DecideStep)
		for _, point := range x.Points {
			if point.Item != "" && point.Answer == "" {
				return Draft{Act: ActOutcome, Item: ReadPlace(point.Item), Body: Body{Outcome: answered, Note: "looked at once more"}}
			}
		}
		d := Draft{Act: ActDecision, Body: Body{Outcome: x.Choices[0].ID}}
		if x.Choices[0].Reason {
			d.Reason = "as it lay on the bench"
		}
		return d
	},
	says: func(s *State, step *Step, e *Entry) string {
		b := e.Said()
		switch e.Act {
		case ActAgreed:
			return agreedWords(b)
		case ActWays:
			return waysWords(b)
		case ActOutcome:
			return raised(s.plan.figureCalled(e.Item.String(), step)) + ", not known"
		}
		words := withReason(named(s.choices(step), b.Outcome, func(x book.Choice) (string, string) { return x.ID, x.Text }), b)
		if len(b.Chain) > 0 {
			words += "; " + chainWords(b.Chain)
		}
		return words
	},
	empty: func() StepView { return &DecideStep{} },
}

// DecideStep is a decision as the bench shows it.
type DecideStep struct {
	StepFrame
	Kind    book.Kind    `json:"kind" const:"decide"`
	Choices []ChoiceView `json:"choices"`
	Agreed  *AgreedView  `json:"agreed,omitempty"` // the customer's yes
	// Parts are those a chain may name, at the root cause; Chain is the one told.
	Parts []ChainPart `json:"parts,omitempty"`
	Chain []ChainLink `json:"chain,omitempty"`
	// Points are what the lead looks at before he signs.
	Points []Point `json:"points,omitempty"`
}

// ChoiceView is one way to decide, and whether it wants a reason.
type ChoiceView struct {
	book.Choice
	Reason bool `json:"reason,omitempty"`
	// Likely is how probable a cause is after all that was tested; 0 where nothing says.
	Likely float64 `json:"likely,omitempty"`
}

// likeliestFirst orders causes by what the tests came to, the one the book does
// not list last.
func (v viewer) likeliestFirst(choices []ChoiceView) error {
	if v.step.FromBook != book.FromCauses || len(v.ledger.Plan.Causes) < 2 {
		return nil
	}
	in, err := v.ledger.reason(v.state)
	if err != nil {
		return err
	}
	out, err := diagnosis.Diagnose(in)
	if err != nil {
		return err
	}
	for i := range choices {
		for _, c := range out.Causes {
			if c.ID == choices[i].ID {
				choices[i].Likely = c.P
			}
		}
	}
	slices.SortStableFunc(choices, func(a, b ChoiceView) int {
		return cmp.Or(unlisted(a)-unlisted(b), cmp.Compare(b.Likely, a.Likely))
	})
	return nil
}

// unlisted is 1 for the cause that the book does not list.
func unlisted(c ChoiceView) int {
	if c.ID == book.OtherCause {
		return 1
	}
	return 0
}

func checkChoices(c *book.Checker, at string, s book.Step) {
	if s.FromBook != "" && s.FromBook != book.FromCauses {
		c.Add(input.Join(at, "from_book"), book.FromCauses, "%q cannot be chosen from", s.FromBook)
	}
	checkWeighs(c, at, s)
	if s.Offers != "" && !strings.HasPrefix(s.Offers, "figures.") {
		c.Add(input.Join(at, "offers"), "rows of the spec sheet, as figures.kits", "%q are none", s.Offers)
	}
	at = input.Join(at, "choices")
	if len(s.Choices) == 0 && s.FromBook == "" {
		c.Add(at, "at least one choice", "nothing to decide")
	}
	book.Unique(c, at, s.Choices, func(x book.Choice) string { return x.ID })
	defaults := 0
	for _, x := range s.Choices {
		if x.Default {
			defaults++
		}
	}
	if defaults > 1 {
		c.Add(at, "one choice marked default, or none", "%d are marked", defaults)
	}
}

// wantsReason: what a choice waits for, or what the cause was that the book
// does not list.
func (s *Step) wantsReason(c book.Choice) bool {
	return c.Holds || ((s.FromBook != "" || s.Offers != "") && c.ID == book.OtherCause)
}

func needsDecision(s *State, step *Step) Need {
	e, ok := s.of(step).has(ActDecision, Place{})
	if !ok {
		return Need{What: Decided}
	}
	said, choices := e.Said(), s.choices(step)
	i := slices.IndexFunc(choices, func(c book.Choice) bool { return c.ID == said.Outcome })
	switch {
	case i < 0: // a way of one's own that was struck
		return Need{What: Decided}
	case choices[i].Holds:
		return Need{What: WhatItWaitsFor, Names: []string{choices[i].Text, said.Reason}}
	}
	if yes := s.agreed(step); yes != nil && yes.Stale {
		return Need{What: AgreedAgain}
	}
	return Need{}
}

func acceptDecision(p *proposal) error {
	p.draft.Item = Place{}
	choices := p.state.choices(p.step)
	if err := p.outcomeAmong(idList(choices, func(x book.Choice) string { return x.ID })...); err != nil {
		return err
	}
	if err := p.linked(); err != nil {
		return err
	}
	i := slices.IndexFunc(choices, func(x book.Choice) bool { return x.ID == p.draft.Outcome })
	switch choice := choices[i]; {
	case choice.Holds:
		return p.reason("what it waits for")
	case p.step.wantsReason(choice):
		return p.reason("what it was")
	case p.step.Role == string(Lead):
		if err := p.allElseDone(); err != nil {
			return err
		}
		return p.allAnswered()
	}
	return nil
}

// allElseDone guards a signature: every other step of the route is done.
func (p *proposal) allElseDone() error {
	var open []string
	for _, step := range p.ledger.Plan.Steps {
		if status, _ := p.state.Status(step); step != p.step && status != Done {
			open = append(open, step.ID)
		}
	}
	if len(open) > 0 {
		return refuse(GateClosed, notAllDone, p.state.titles(open))
	}
	return nil
}

// buysDecided is what was chosen to go in, unless the sheet sells it as a kit.
func buysDecided(s *State, step *Step) (list []ToBuy, all bool) {
	e, ok := s.of(step).has(ActDecision, Place{})
	if !ok || step.Offers == "" {
		return nil, true
	}
	b := e.Said()
	name := b.Outcome
	if name == book.OtherCause {
		name = b.Reason
	}
	if slices.ContainsFunc(s.on.sheet.Kits, func(k supply.Kit) bool { return strings.EqualFold(k.Name, name) }) {
		return nil, true
	}
	return []ToBuy{{
		Line: step.ID + ".decided", Name: raised(name), Pieces: 1, Why: "decided: " + lowered(step.Title), Asked: true,
	}}, true
}

func sumsDecision(s *State, step *Step, sum *Summary) {
	e, ok := s.of(step).has(ActDecision, Place{})
	switch {
	case !ok || step.Role == string(Lead):
	case step.FromBook == book.FromCauses:
		sum.Found = append(sum.Found, "Cause: "+s.words(step, &e))
	case step.agrees():
		says := step.Title + ": " + s.words(step, &e)
		if yes := s.agreed(step); yes != nil && !yes.Stale {
			says += ". " + agreedWords(Body{Name: yes.Name, Sum: yes.Sum}) + ", " + Moment(yes.At, s.zone)
		}
		sum.Agreed = append(sum.Agreed, says)
	}
}

// wayAt is the way that was decided at a step, as the sheet has it.
func (s *State) wayAt(step *Step) (way decision.Option, ok bool) {
	e, decided := s.of(step).has(ActDecision, Place{})
	if !decided || !step.agrees() {
		return way, false
	}
	i := slices.IndexFunc(s.on.sheet.Ways, func(w decision.Option) bool { return w.ID == e.Said().Outcome })
	if i < 0 {
		return way, false
	}
	return s.on.sheet.Ways[i], true
}

func hoursOfWay(s *State, step *Step) (decision.Range, bool) {
	way, ok := s.wayAt(step)
	return way.Hours, ok
}

// wayTaken is the way that was decided last, as the sheet has it.
func (s *State) wayTaken() (way decision.Option, ok bool) {
	for _, step := range s.plan.Steps {
		if w, taken := s.wayAt(step); taken {
			way, ok = w, true
		}
	}
	return way, ok
}
