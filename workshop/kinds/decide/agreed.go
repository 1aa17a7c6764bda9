package decide

import (
	"fmt"
	"slices"
	"strings"
	"time"

	"handwerk/core/input"
	"handwerk/core/quantity"
	"handwerk/workshop/acts"
	"handwerk/workshop/record"
	"handwerk/workshop/say"
)

// The customer's yes stands beside the way that was decided: who said it, and
// up to which sum. A decision that changes afterwards asks again.

// AgreedView is the customer's approval as the step shows it.
type AgreedView struct {
	Entry string         `json:"entry"`
	Name  string         `json:"name"` // who said it
	Sum   quantity.Money `json:"sum"`  // up to which it may cost, in the shop's currency
	By    string         `json:"by"`   // who took it down
	At    time.Time      `json:"at"`
	// Stale: what was decided has changed since.
	Stale bool `json:"stale,omitempty"`
}

// Agrees: a step where ways are weighed by what they cost is one where the
// customer says yes.
func Agrees(s *record.Step) bool {
	return slices.ContainsFunc(s.Weighings, record.Weighing.OfWays)
}

// yesAt is the customer's approval at a step; nil where nobody said it.
func yesAt(s *record.State, step *record.Step) *AgreedView {
	b, e := record.FindAct[acts.Agreed](s, step, record.Place{})
	if b == nil {
		return nil
	}
	v := &AgreedView{Entry: e.ID, Name: b.Who, Sum: b.Sum, By: e.By.Name, At: e.At}
	if d, ok := s.At(step).Has(acts.Decision{}, record.Place{}); ok {
		v.Stale = d.Seq > e.Seq || waysSaidAfter(s, e.Seq)
	}
	return v
}

func acceptAgreed(p *record.Attempt) error {
	said := record.Saying[acts.Agreed](p)
	p.Draft.Item = record.Place{}
	if _, decided := p.State.At(p.Step).Has(acts.Decision{}, record.Place{}); !Agrees(p.Step) || !decided {
		return input.At("act", "approval, once an option has been chosen",
			"there is nothing to approve yet")
	}
	var faults input.Fields
	if said.Who = strings.TrimSpace(said.Who); said.Who == "" {
		faults.Add("name", "the name of who approved", "no name given")
	}
	if said.Sum <= 0 || said.Sum > quantity.MostMoney {
		faults.Add("sum", "an amount above 0, at most two decimals", "%s is not such an amount", said.Sum)
	}
	return faults.Err()
}

func sayAgreed(s *record.State, _ *record.Step, e *record.Entry) string {
	said := record.As[acts.Agreed](e)
	return agreedWords(s, said.Who, said.Sum)
}

func agreedWords(s *record.State, who string, sum quantity.Money) string {
	return fmt.Sprintf("%s approved up to %s", who, say.Money(sum, s.Currency))
}

// LastAgreed is the customer's last yes along the route.
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
