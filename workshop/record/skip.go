package record

import (
	"slices"

	"handwerk/workshop/acts"
	"handwerk/workshop/people"
	"handwerk/workshop/say"
)

// A step that a job does not need is left away whole, with a reason: an oil
// service is no rebuild. What later steps would take from it they do without, and
// the sign-off lists it.

// maySkip: a caution is always read, and a lead's signature is never left away.
func (s *Step) maySkip() bool { return !s.Rules.Hazards && s.Role != string(people.Lead) }

// IsSkipped tells that a step is not needed: somebody said so, of it or of the one
// it goes with. Parts that did not come off are not looked at, and not put back.
func (s *State) IsSkipped(step *Step) bool {
	if _, is := s.At(step).Has(acts.Skip{}, Place{}); is {
		return true
	}
	for _, with := range []string{step.OnlyWith, step.Of} {
		if other, there := s.Plan.ByID[with]; there && s.IsSkipped(other) {
			return true
		}
	}
	for _, by := range s.Plan.without[step.ID] {
		if said, _ := FindAct[acts.Decision](s, by.step, Place{}); said != nil && said.Outcome == by.choice {
			return true
		}
	}
	return false
}

// decided is a choice that leaves a step away.
type decided struct {
	step   *Step
	choice string
}

// notSkipped: nothing is done at a step that is not needed, until that is taken back.
func (p *Attempt) notSkipped() error {
	if p.strikes() || p.Is(acts.Skip{}) || p.act.Early || !p.State.IsSkipped(p.Step) {
		return nil
	}
	return say.Refuse(say.Conflict, say.StepNotNeeded, p.Step.Title)
}

func acceptSkip(p *Attempt) error {
	p.Draft.Item = Place{}
	switch {
	case !p.Step.maySkip():
		return say.Refuse(say.Conflict, say.StepIsNeeded, p.Step.Title)
	case p.Old == nil && Needs(p.State, p.Step).IsMet():
		return say.Refuse(say.Conflict, say.StepIsDone, p.Step.Title)
	}
	return p.WantReason("why the step is not needed")
}

// listTaken are the titles of the steps that take a figure from one before them.
func (p *Plan) listTaken(step *Step) (titles []string) {
	for _, other := range p.Steps {
		if other.At > step.At && slices.Contains(other.Takes, step.ID) {
			titles = append(titles, other.Title)
		}
	}
	return titles
}
