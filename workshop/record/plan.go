package record

import (
	"encoding/json"
	"fmt"

	"handwerk/book"
	"handwerk/workshop/seal"
)

// Plan is a rebuild's copy of the book with what follows from it, computed
// once per copy.
type Plan struct {
	book.Copy
	Hash string
	Raw  json.RawMessage

	kinds  Table
	Steps  []*Step // in the order of the route
	ByID   map[string]*Step
	ground *grounds // its sheet alone
	// leaning lists, for each step, those whose needs rest on its entries: itself,
	// the other work on its stack, what takes a figure from it, and the parts list.
	leaning [][]int
	// without are, for each step, the choices that leave it away.
	without map[string][]decided
	// stands are the conditions of the route; none in plans from before there were any.
	stands []book.Standing
}

// ReadPlan prepares a stored copy, made of steps of these kinds.
func ReadPlan(raw []byte, kinds Table) (*Plan, error) {
	p := &Plan{kinds: kinds, Raw: raw, Hash: seal.HashOf(raw), ByID: map[string]*Step{}}
	err := json.Unmarshal(raw, &p.Copy)
	if err != nil {
		return nil, fmt.Errorf("the copy of the book cannot be read: %w", err)
	}
	common := commonActs()
	for _, st := range p.Route.Stations {
		for _, s := range st.Steps {
			step, err := newStep(kinds, common, s, st.ID, len(p.Steps))
			if err != nil {
				return nil, err
			}
			p.Steps, p.ByID[s.ID] = append(p.Steps, step), step
		}
	}
	p.lean()
	for _, c := range p.Conditions {
		if len(c.States) == 0 {
			return nil, fmt.Errorf("the copy of the book says no state of condition %q", c.ID)
		}
	}
	if len(p.Conditions) > 0 {
		p.stands = p.Route.Standings(p.Conditions)
	}
	if p.ground, err = p.grounds(p.Sheet, nil, nil); err != nil {
		return nil, err
	}
	return p, nil
}

func (p *Plan) lean() {
	p.leaning, p.without = make([][]int, len(p.Steps)), map[string][]decided{}
	for _, step := range p.Steps {
		for _, x := range step.Choices {
			for _, id := range x.Without {
				p.without[id] = append(p.without[id], decided{step, x.ID})
				if other, ok := p.ByID[id]; ok {
					p.leaning[step.At] = append(p.leaning[step.At], other.At)
				}
			}
		}
	}
	for _, step := range p.Steps {
		for _, on := range append([]string{step.ID, step.Of, step.OnlyWith}, step.Takes...) {
			if other, ok := p.ByID[on]; ok {
				p.leaning[other.At] = append(p.leaning[other.At], step.At)
			}
		}
		if step.Rules.Leans == nil {
			continue
		}
		for _, other := range step.Rules.Leans(p, step) {
			p.leaning[other.At] = append(p.leaning[other.At], step.At)
		}
	}
}

// Step finds a step of the plan. Where there is none it gives one without a
// name, so that a record put together by hand is shown as far as it goes.
func (p *Plan) Step(id string) (*Step, bool) {
	if step, ok := p.ByID[id]; ok {
		return step, true
	}
	return &Step{}, false
}

// actOf is what the rules know of an entry's act; nil where it is not taken.
func (p *Plan) actOf(e Entry) *Act {
	step, ok := p.ByID[e.Step]
	if !ok {
		return nil
	}
	return step.act(e.Act)
}
