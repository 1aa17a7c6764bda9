package workshop

// Statuses says where every step stands, for comparing states.
func (s *State) Statuses() map[string]string {
	all := map[string]string{}
	for _, step := range s.plan.Steps {
		status, needs := s.Status(step)
		all[step.ID] = string(status) + " " + s.needWords(step, needs)
	}
	return all
}

// Unfolded is the ledger as it comes from anywhere.
func (l Ledger) Unfolded() Ledger {
	l.state = nil
	return l
}

// CorrectedBy tells for each entry which one took its place.
func (s *State) CorrectedBy() []int32 { return s.by }

// PromiseFor is the day that can be promised with this in the same hands.
var PromiseFor = promise

// Judged is how costs stand that come to a sum.
func Judged(agreed *AgreedView, sum CostLine) (verdict, says string) {
	c := Cost{Agreed: agreed}
	if agreed != nil {
		c.Over = cents(max(0, sum.SoFar-agreed.Sum))
	}
	return c.judged(sum)
}

// Raised begins like a sentence.
var Raised = raised

// PartWords says what was done with a part.
func PartWords(p StackPart) string { return p.words() }
