package decide

import (
	"fmt"
	"math"
	"slices"
	"strings"
	"time"

	"handwerk/core/input"
	"handwerk/workshop/record"
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
const MostMoney = 1e7

// agrees: a step where ways are weighed by what they cost is one where the
// customer says yes.
func Agrees(s *record.Step) bool {
	return slices.ContainsFunc(s.Weighings, record.Weighing.OfWays)
}

// agreed is the customer's yes at a step; nil where nobody said it.
func yesAt(s *record.State, step *record.Step) *AgreedView {
	e, ok := s.At(step).Has(record.ActAgreed, record.Place{})
	if !ok {
		return nil
	}
	b := e.Said()
	v := &AgreedView{Entry: e.ID, Name: b.Name, Sum: b.Sum, By: e.By.Name, At: e.At}
	if d, ok := s.At(step).Has(record.ActDecision, record.Place{}); ok {
		v.Stale = d.Seq > e.Seq || waysSaidAfter(s, e.Seq)
	}
	return v
}

func acceptAgreed(p *record.Attempt) error {
	p.Draft.Item = record.Place{}
	if _, decided := p.State.At(p.Step).Has(record.ActDecision, record.Place{}); !Agrees(p.Step) || !decided {
		return input.At("act", "agreed, once a way is decided where ways are weighed",
			"nothing is decided here that a customer could agree to")
	}
	var faults input.Fields
	if p.Draft.Name = strings.TrimSpace(p.Draft.Name); p.Draft.Name == "" {
		faults.Add("name", "who said yes", "nobody is named")
	}
	if !(p.Draft.Sum > 0) || p.Draft.Sum > MostMoney || math.Abs(p.Draft.Sum*100-math.Round(p.Draft.Sum*100)) > 1e-6 {
		faults.Add("sum", "a sum of money above nothing, to the cent", "%g is none", p.Draft.Sum)
	}
	return faults.Err()
}

func agreedWords(b record.Body) string {
	return fmt.Sprintf("%s said yes, up to %s", b.Name, input.Plain(b.Sum))
}

// lastAgreed is the customer's last yes along the route.
func LastAgreed(s *record.State) (last *AgreedView) {
	for _, step := range s.Plan.Steps {
		if Agrees(step) {
			if v := yesAt(s, step); v != nil {
				last = v
			}
		}
	}
	return last
}
