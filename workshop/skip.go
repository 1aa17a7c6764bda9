package workshop

import (
	"slices"
)

// A step that a job does not need is left away whole, with a reason: an oil
// service is no rebuild. What later steps would take from it they do without, and
// the sign-off lists it.

// maySkip: a caution is always read, and a lead's signature is never left away.
func (s *Step) maySkip() bool { return !s.kind.Hazards && s.Role != string(Lead) }

// isSkipped tells that a step is not needed.
func (s *State) isSkipped(step *Step) bool {
	_, is := s.of(step).has(ActSkip, Place{})
	return is
}

// skipped: nothing is done at a step that is not needed, until that is taken back.
func (p *proposal) skipped() error {
	if p.draft.Act == ActStrike || p.draft.Act == ActSkip || saidAnywhere(p.draft.Act) || !p.state.isSkipped(p.step) {
		return nil
	}
	return refuse(Conflict, stepNotNeeded, p.step.Title)
}

func (p *proposal) acceptSkip() error {
	p.draft.Item = Place{}
	switch {
	case !p.step.maySkip():
		return refuse(Conflict, stepIsNeeded, p.step.Title)
	case p.old == nil && p.state.needs(p.step).IsMet():
		return refuse(Conflict, stepIsDone, p.step.Title)
	}
	return p.reason("why the step is not needed")
}

// takenFrom are the titles of the steps that take a figure from one before them.
func (p *Plan) takenFrom(step *Step) (titles []string) {
	for _, other := range p.Steps {
		if other.at > step.at && slices.Contains(other.takes, step.ID) {
			titles = append(titles, other.Title)
		}
	}
	return titles
}
