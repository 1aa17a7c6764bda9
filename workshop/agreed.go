package workshop

import (
	"fmt"
	"math"
	"slices"
	"strings"
	"time"

	"handwerk/core/input"
)

// The customer's yes stands beside the way that was decided: who said it, and
// up to which sum. A decision that changes afterwards asks again.

// AgreedView is the customer's yes as the bench shows it.
type AgreedView struct {
	Entry string    `json:"entry"`
	Name  string    `json:"name"` // who said it
	Sum   float64   `json:"sum"`  // up to which it may cost, in the shop's currency
	By    string    `json:"by"`   // who took it down
	At    time.Time `json:"at"`
	// Stale: what was decided has changed since.
	Stale bool `json:"stale,omitempty"`
}

// mostMoney bounds a sum; more is a slip.
const mostMoney = 1e7

// agrees: a step where ways are weighed by what they cost is one where the
// customer says yes.
func (s *Step) agrees() bool {
	return slices.ContainsFunc(s.weighs, weighing.ofWays)
}

// agreed is the customer's yes at a step; nil where nobody said it.
func (s *State) agreed(step *Step) *AgreedView {
	e, ok := s.of(step).has(ActAgreed, Place{})
	if !ok {
		return nil
	}
	b := e.Said()
	v := &AgreedView{Entry: e.ID, Name: b.Name, Sum: b.Sum, By: e.By.Name, At: e.At}
	if d, ok := s.of(step).has(ActDecision, Place{}); ok {
		v.Stale = d.Seq > e.Seq || s.waysSaidAfter(e.Seq)
	}
	return v
}

func (p *proposal) acceptAgreed() error {
	p.draft.Item = Place{}
	if _, decided := p.state.of(p.step).has(ActDecision, Place{}); !p.step.agrees() || !decided {
		return input.At("act", "agreed, once a way is decided where ways are weighed", "nothing is decided here that a customer could agree to")
	}
	var faults input.Fields
	if p.draft.Name = strings.TrimSpace(p.draft.Name); p.draft.Name == "" {
		faults.Add("name", "who said yes", "nobody is named")
	}
	if !(p.draft.Sum > 0) || p.draft.Sum > mostMoney || math.Abs(p.draft.Sum*100-math.Round(p.draft.Sum*100)) > 1e-6 {
		faults.Add("sum", "a sum of money above nothing, to the cent", "%g is none", p.draft.Sum)
	}
	return faults.Err()
}

func agreedWords(b Body) string {
	return fmt.Sprintf("%s said yes, up to %s", b.Name, input.Plain(b.Sum))
}
