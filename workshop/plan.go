package workshop

import (
	"encoding/json"
	"fmt"

	"handwerk/book"
)

// Plan is a rebuild's copy of the book with what follows from it, computed
// once per copy.
type Plan struct {
	book.Copy
	Hash string
	Raw  json.RawMessage

	kinds  kindTable
	Steps  []*Step // in the order of the route
	named  map[string]*Step
	ground *grounds // its sheet alone
	// leaning lists, for each step, those whose needs rest on its entries: itself,
	// the other work on its stack, what takes a figure from it, and the parts list.
	leaning [][]int
}

// readPlan prepares a stored copy, made of steps of these kinds.
func readPlan(raw []byte, kinds kindTable) (*Plan, error) {
	p := &Plan{kinds: kinds, Raw: raw, Hash: HashOf(raw), named: map[string]*Step{}}
	err := json.Unmarshal(raw, &p.Copy)
	if err != nil {
		return nil, fmt.Errorf("the copy of the book cannot be read: %w", err)
	}
	for _, st := range p.Route.Stations {
		for _, s := range st.Steps {
			step, err := newStep(kinds, s, st.ID, len(p.Steps))
			if err != nil {
				return nil, err
			}
			p.Steps, p.named[s.ID] = append(p.Steps, step), step
		}
	}
	p.lean()
	if p.ground, err = p.grounds(p.Sheet, nil, nil); err != nil {
		return nil, err
	}
	return p, nil
}

func (p *Plan) lean() {
	p.leaning = make([][]int, len(p.Steps))
	for _, step := range p.Steps {
		for _, on := range append([]string{step.ID, step.Of}, step.takes...) {
			if other, ok := p.named[on]; ok {
				p.leaning[other.at] = append(p.leaning[other.at], step.at)
			}
		}
		if step.kind.leans == nil {
			continue
		}
		for _, other := range step.kind.leans(p, step) {
			p.leaning[other.at] = append(p.leaning[other.at], step.at)
		}
	}
}

// Step finds a step of the plan. Where there is none it gives one without a
// name, so that a record put together by hand is shown as far as it goes.
func (p *Plan) Step(id string) (*Step, bool) {
	if step, ok := p.named[id]; ok {
		return step, true
	}
	return &Step{}, false
}
