// Package decide is the step at which one of several ways is taken, agreed with
// the customer where it costs, and signed by the lead at the end.
package decide

import (
	"cmp"
	"encoding/json"
	"slices"
	"strings"
	"time"

	"handwerk/book"
	"handwerk/core/decision"
	"handwerk/core/diagnosis"
	"handwerk/core/input"
	"handwerk/core/supply"
	"handwerk/workshop/acts"
	"handwerk/workshop/kinds/items"
	"handwerk/workshop/kinds/measure"
	"handwerk/workshop/people"
	"handwerk/workshop/record"
	"handwerk/workshop/say"
)

// Kind: one of several ways is taken; some keep the rebuild waiting, and
// the lead's is the signature.
var Kind = record.Kind{
	Name: book.Decide,
	Nature: book.Nature{
		Check:   checkChoices,
		Wants:   measure.WeighsWant,
		Misfits: measure.WeighsMisfit,
		Sample:  func(_ book.Step, what []string) (any, bool) { return measure.Blank, what[0] == "choice" },
	},
	Takes: []*record.Act{
		{Act: acts.Decision{}, Accept: acceptDecision, Says: decisionWords},
		{Act: acts.Agreed{}, Accept: acceptAgreed, Says: sayAgreed, Remark: true},
		{Act: acts.Ways{}, Accept: acceptWays, Says: waysWords, Paper: record.OnNoPaper, Many: true, Ground: true},
		{Act: acts.Outcome{}, Accept: acceptAnswer, Says: answerWords},
	},
	Needs: needsDecision,
	Open: func(s *record.State, step *record.Step, _ time.Time) []record.OpenAct {
		open := []record.OpenAct{record.MayDo(acts.Decision{})}
		if _, decided := s.At(step).Has(acts.Decision{}, record.Place{}); decided && Agrees(step) {
			open = append(open, record.MayDo(acts.Agreed{}))
		}
		if Agrees(step) {
			open = append(open, record.MayDo(acts.Ways{}))
		}
		if step.Role == string(people.Lead) {
			open = append(open, record.MayDo(acts.Outcome{}), record.MayDoWhy(acts.Stands{}))
		}
		return open
	},
	Hours: hoursOfWay,
	Buys:  buysDecided,
	Sums:  sumsDecision,
	View: func(v record.Viewer, f record.StepFrame) (_ record.StepView, err error) {
		if f.Weighed, err = measure.WeighFor(v); err != nil {
			return nil, err
		}
		view := &DecideStep{StepFrame: f, Kind: book.Decide, Choices: []ChoiceView{}, Agreed: yesAt(v.State, v.Step)}
		if v.Step.Role == string(people.Lead) {
			view.Points, view.Undone = record.Points(v.State), record.AllUndone(v.State)
		}
		view.Estimates = estimates(v.Step, f.Weighed)
		for _, c := range Choices(v.State, v.Step) {
			view.Choices = append(view.Choices, ChoiceView{Choice: c, Reason: wantsReason(v.Step, c)})
		}
		if err := likeliestFirst(v, view.Choices); err != nil {
			return nil, err
		}
		if v.Step.FromBook == book.FromCauses {
			view.Parts = chainParts(v.State, v.Step)
			if said, _ := record.FindAct[acts.Decision](v.State, v.Step, record.Place{}); said != nil {
				view.Chain = said.Chain
			}
		}
		return view, nil
	},
	Gives: func(s *record.State, step *record.Step, _ []string) (any, bool, error) {
		return items.ReadAt(s, step, record.Place{}, func(said *acts.Decision) any { return said.Outcome })
	},
	Usual: func(v record.StepView) record.Draft {
		x := v.(*DecideStep)
		for _, point := range x.Points {
			if point.Item != "" && point.Answer == "" {
				return record.Draft{
					Item: record.ReadPlace(point.Item),
					Says: &acts.Outcome{Outcome: answered, Note: "looked over once more"},
				}
			}
		}
		for _, u := range x.Undone {
			if u.Back == "" && u.Key != "" {
				return record.Draft{
					Item: record.ReadPlace(u.Key),
					Says: &acts.Stands{Outcome: "as it goes home", Reason: "looked over once more"},
				}
			}
		}
		taken := &acts.Decision{Outcome: x.Choices[0].ID}
		if x.Choices[0].Reason {
			taken.Reason = "as it lay on the bench"
		}
		return record.Draft{Says: taken}
	},
	Empty: func() record.StepView { return &DecideStep{} },
}

// DecideStep is a decision as the bench shows it.
type DecideStep struct {
	record.StepFrame
	Kind    book.Kind    `json:"kind" const:"decide"`
	Choices []ChoiceView `json:"choices"`
	Agreed  *AgreedView  `json:"agreed,omitempty"` // the customer's approval
	// Estimates are what the ways come to on the bill, as they were weighed.
	Estimates []decision.Estimate `json:"estimates,omitempty"`
	// Parts are those a chain may name, at the root cause; Chain is the one told.
	Parts []ChainPart      `json:"parts,omitempty"`
	Chain []acts.ChainLink `json:"chain,omitempty"`
	// Points are what the lead looks at before he signs.
	Points []record.Point `json:"points,omitempty"`
	// Undone is what was undone along the way, and how it was put back.
	Undone []record.Undone `json:"undone,omitempty"`
}

// ChoiceView is one way to decide, and whether it wants a reason.
type ChoiceView struct {
	book.Choice
	Reason bool `json:"reason,omitempty"`
	// Likely is how probable a cause is after all that was tested; 0 where nothing says.
	Likely float64 `json:"likely,omitempty"`
}

// estimates are what the ways come to, where they could be weighed.
func estimates(step *record.Step, weighed []record.WeighedView) []decision.Estimate {
	for i, w := range step.Weighings {
		if i >= len(weighed) || !w.OfWays() || weighed[i].Result == nil {
			continue
		}
		var in decision.In
		var out decision.Out
		raw, err := json.Marshal(weighed[i].Input)
		if err == nil && json.Unmarshal(raw, &in) == nil && json.Unmarshal(weighed[i].Result, &out) == nil {
			return decision.Estimates(in, out)
		}
	}
	return nil
}

// likeliestFirst orders causes by what the tests came to, the one the book does
// not list last.
func likeliestFirst(v record.Viewer, choices []ChoiceView) error {
	if v.Step.FromBook != book.FromCauses || len(v.Ledger.Plan.Causes) < 2 {
		return nil
	}
	in, err := measure.Reasoning(v.Ledger, v.State)
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
		return cmp.Or(rankUnlisted(a)-rankUnlisted(b), cmp.Compare(b.Likely, a.Likely))
	})
	return nil
}

// rankUnlisted is 1 for the cause that the book does not list.
func rankUnlisted(c ChoiceView) int {
	if c.ID == book.OtherCause {
		return 1
	}
	return 0
}

func checkChoices(c *book.Checker, at string, s book.Step) {
	if s.FromBook != "" && s.FromBook != book.FromCauses {
		c.Add(input.Join(at, "from_book"), book.FromCauses, "%q is not one of the choices", s.FromBook)
	}
	measure.CheckWeighs(c, at, s)
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
func wantsReason(s *record.Step, c book.Choice) bool {
	return c.Holds || ((s.FromBook != "" || s.Offers != "") && c.ID == book.OtherCause)
}

func needsDecision(s *record.State, step *record.Step) record.Need {
	said, _ := record.FindAct[acts.Decision](s, step, record.Place{})
	if said == nil {
		return record.Need{What: record.Decided}
	}
	choices := Choices(s, step)
	i := slices.IndexFunc(choices, func(c book.Choice) bool { return c.ID == said.Outcome })
	switch {
	case i < 0: // a way of one's own that was struck
		return record.Need{What: record.Decided}
	case choices[i].Holds:
		return record.Need{What: record.WhatItWaitsFor, Names: []string{choices[i].Text, said.Reason}}
	}
	if yes := yesAt(s, step); yes != nil && yes.Stale {
		return record.Need{What: record.AgreedAgain}
	}
	return record.Need{}
}

func decisionWords(s *record.State, step *record.Step, e *record.Entry) string {
	said := record.As[acts.Decision](e)
	words := record.WithReason(say.NameOf(Choices(s, step), said.Outcome,
		func(x book.Choice) (string, string) { return x.ID, x.Text }), said)
	if len(said.Chain) > 0 {
		words += "; " + chainWords(said.Chain)
	}
	return words
}

func acceptDecision(p *record.Attempt) error {
	if err := choose(p, record.Saying[acts.Decision](p)); err != nil {
		return err
	}
	return measure.KeepWeighed(p)
}

// choose takes one of the ways, and asks what goes with it.
func choose(p *record.Attempt, said *acts.Decision) error {
	p.Draft.Item = record.Place{}
	choices := Choices(p.State, p.Step)
	if err := p.WantOutcome(say.IDs(choices, func(x book.Choice) string { return x.ID })...); err != nil {
		return err
	}
	if err := checkChain(p, said); err != nil {
		return err
	}
	i := slices.IndexFunc(choices, func(x book.Choice) bool { return x.ID == said.Outcome })
	if now := record.Against(p.State, choices[i].Wants); now != "" && p.Old == nil {
		return say.Refuse(say.Conflict, say.StandsNow, choices[i].Text, now)
	}
	switch choice := choices[i]; {
	case choice.Holds:
		return p.WantReason("what it is waiting for")
	case wantsReason(p.Step, choice):
		return p.WantReason("what it turned out to be")
	case p.Step.Role == string(people.Lead):
		if err := allElseDone(p); err != nil {
			return err
		}
		if open := record.NotBack(p.State); len(open) > 0 {
			return say.Refuse(say.GateClosed, say.NotAllBack, strings.Join(open, "; "))
		}
		return allAnswered(p)
	}
	return nil
}

// allElseDone guards a signature: every other step of the route is done.
func allElseDone(p *record.Attempt) error {
	var open []string
	for _, step := range p.Ledger.Plan.Steps {
		if status, _ := p.State.Status(step); step != p.Step && status != record.Done {
			open = append(open, step.ID)
		}
	}
	if len(open) > 0 {
		return say.Refuse(say.GateClosed, say.NotAllDone, record.Titles(p.State, open))
	}
	return nil
}

// buysDecided is what was chosen to go in, unless the sheet sells it as a kit.
func buysDecided(s *record.State, step *record.Step) (list []record.ToBuy, all bool) {
	b, _ := record.FindAct[acts.Decision](s, step, record.Place{})
	if b == nil || step.Offers == "" ||
		(b.Outcome != book.OtherCause && slices.ContainsFunc(step.Choices, func(c book.Choice) bool { return c.ID == b.Outcome })) {
		return nil, true
	}
	name := b.Outcome
	if name == book.OtherCause {
		name = b.Reason
	}
	if slices.ContainsFunc(s.On.Sheet.Kits, func(k supply.Kit) bool { return strings.EqualFold(k.Name, name) }) {
		return nil, true
	}
	return []record.ToBuy{{
		Line: step.ID + ".decided", Name: say.Raise(name), Pieces: 1, Why: "decided: " + say.Lower(step.Title),
		Asked: true,
	}}, true
}

func sumsDecision(s *record.State, step *record.Step, sum *record.Summary) {
	e, ok := s.At(step).Has(acts.Decision{}, record.Place{})
	switch {
	case !ok || step.Role == string(people.Lead):
	case step.FromBook == book.FromCauses:
		sum.Found = append(sum.Found, "Cause: "+record.Words(s, step, &e))
	case Agrees(step):
		says := say.Of(step.Title, record.Words(s, step, &e))
		if yes := yesAt(s, step); yes != nil && !yes.Stale {
			says += ". " + agreedWords(s, yes.Name, yes.Sum) + ", " + say.Moment(yes.At, s.Zone)
		}
		sum.Agreed = append(sum.Agreed, says)
	}
}

// wayAt is the way that was decided at a step, as the sheet has it.
func wayAt(s *record.State, step *record.Step) (way decision.Option, ok bool) {
	said, _ := record.FindAct[acts.Decision](s, step, record.Place{})
	if said == nil || !Agrees(step) {
		return way, false
	}
	i := slices.IndexFunc(s.On.Sheet.Ways, func(w decision.Option) bool { return w.ID == said.Outcome })
	if i < 0 {
		return way, false
	}
	return s.On.Sheet.Ways[i], true
}

func hoursOfWay(s *record.State, step *record.Step) (decision.Range, bool) {
	way, ok := wayAt(s, step)
	return way.Hours, ok
}

// WayTaken is the way that was decided last, as the sheet has it.
func WayTaken(s *record.State) (way decision.Option, ok bool) {
	for _, step := range s.Plan.Steps {
		if w, taken := wayAt(s, step); taken {
			way, ok = w, true
		}
	}
	return way, ok
}
