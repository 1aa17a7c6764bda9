package workshop

import (
	"fmt"

	"handwerk/book"
	"handwerk/core/fastener"
	"handwerk/core/input"
	"handwerk/core/metrology"
	"handwerk/core/quantity"
)

// torqueWork is a torque group prepared for a step.
type torqueWork struct {
	plan  fastener.PlanOut
	cells []TorqueCell // in the order to be done; the check round apart
	group book.TorqueGroup
}

// TorqueCell is one bolt in one pass.
type TorqueCell struct {
	Pass    int                            `json:"pass"` // from 1
	Bolt    int                            `json:"bolt"` // from 1
	Setting quantity.Said[quantity.Torque] `json:"setting"`
}

func (c TorqueCell) item() string { return fmt.Sprintf("p%d.b%d", c.Pass, c.Bolt) }

// checkRound is the item of the last look over all bolts.
const checkRound = "check-round"

const torqueMethod = "torque-plan/1"

func planTorque(step book.Step, group book.TorqueGroup) (torqueWork, error) {
	in := fastener.PlanIn{Bolts: group.Bolts, Torque: group.Torque, Passes: group.Passes}
	if step.Wrench != nil {
		in.Wrench = &fastener.Wrench{Unit: step.Wrench.Unit, Step: step.Wrench.Step}
	}
	out, err := fastener.TorquePlan(in)
	if err != nil {
		return torqueWork{}, fmt.Errorf("step %s: %w", step.ID, err)
	}
	work := torqueWork{plan: out, group: group}
	for i, pass := range out.Passes {
		if pass.Check {
			continue
		}
		for _, bolt := range pass.Order {
			work.cells = append(work.cells, TorqueCell{i + 1, bolt, pass.Setting})
		}
	}
	return work, nil
}

// next is the first cell without an entry.
func (w torqueWork) next(st stepLog) (TorqueCell, bool) {
	for _, c := range w.cells {
		if _, done := st.has(ActTorqued, c.item()); !done {
			return c, true
		}
	}
	return TorqueCell{}, false
}

func needsTorque(s *State, step book.Step) string {
	work, st := s.plan.groups[step.ID], s.of(step.ID)
	left := 0
	for _, c := range work.cells {
		e, done := st.has(ActTorqued, c.item())
		if !done {
			left++
		} else if e.Verdict == metrology.Out {
			return fmt.Sprintf("bolt %d in pass %d is off its setting", c.Bolt, c.Pass)
		}
	}
	if left > 0 {
		return countOf(left, "bolt reading", "bolt readings")
	}
	if _, ok := st.has(ActOutcome, checkRound); !ok {
		return "the check round"
	}
	return ""
}

// TorqueResult is what a wrench reading means.
type TorqueResult struct {
	Setting quantity.Said[quantity.Torque] `json:"setting"`
	Other   quantity.Said[quantity.Torque] `json:"reading_other_unit"`
	Verdict metrology.Verdict              `json:"verdict"`
}

func acceptTorque(p *proposal) error {
	work, st := p.ledger.Plan.groups[p.step.ID], p.state.of(p.step.ID)
	next, more := work.next(st)
	if p.draft.Act == ActOutcome {
		p.draft.Item = checkRound
		if more {
			return refuse(GateClosed, "bolt %d in pass %d comes before the check round", next.Bolt, next.Pass)
		}
		return p.outcomeAmong("held")
	}
	cell := TorqueCell{Pass: p.draft.Pass, Bolt: p.draft.Bolt}
	found := false
	for _, c := range work.cells {
		if c.item() == cell.item() {
			cell, found = c, true
		}
	}
	if !found {
		return input.At("bolt", fmt.Sprintf("1 to %d", work.group.Bolts), "there is no bolt %d in pass %d", p.draft.Bolt, p.draft.Pass)
	}
	if _, done := st.has(ActTorqued, cell.item()); !done && p.old == nil && cell.item() != next.item() {
		return refuse(GateClosed, "bolt %d comes next in pass %d, not bolt %d", next.Bolt, next.Pass, cell.Bolt)
	}
	if p.old != nil && p.old.Item != cell.item() {
		return input.At("bolt", p.old.Item, "a correction stays at its bolt")
	}
	p.draft.Item = cell.item()
	if err := p.valueOf(quantity.DimTorque); err != nil {
		return err
	}
	read := quantity.Torque(p.draft.Value.SI())
	if read <= 0 || read > fastener.MaxTorque {
		return input.At("value", "what the wrench shows, above zero", "%s is no wrench reading", p.draft.Value)
	}
	p.verdict = fastener.Judge(read, cell.Setting.SI(), work.group.Tolerance)
	paired, _ := quantity.UnitNamed(p.draft.Value.Unit.Paired)
	return p.computed(torqueMethod, TorqueResult{cell.Setting, quantity.Say(read, paired), p.verdict})
}
