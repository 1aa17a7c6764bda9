// Package torque is the step on a group of bolts, pass by pass in their order.
package torque

import (
	"fmt"
	"time"

	"handwerk/book"
	"handwerk/core/fastener"
	"handwerk/core/input"
	"handwerk/core/metrology"
	"handwerk/core/quantity"
	"handwerk/workshop/acts"
	"handwerk/workshop/record"
	"handwerk/workshop/say"
)

// Kind: a group of bolts, pass by pass in their order, then a check round.
var Kind = record.Kind{
	Name: book.Torque,
	Nature: book.Nature{
		Check: func(c *book.Checker, at string, s book.Step) {
			c.Text(input.Join(at, "group"), s.Group)
			if s.Wrench != nil {
				c.Unit(input.Join(at, "wrench.unit"), s.Wrench.Unit, quantity.DimTorque)
			}
		},
		Wants: func(s book.Step) []string { return []string{"torques." + s.Group} },
	},
	Takes: []*record.Act{
		{
			Act: acts.Torqued{}, Accept: acceptTorqued,
			Says: func(_ *record.State, _ *record.Step, e *record.Entry) string {
				said := record.As[acts.Torqued](e)
				return fmt.Sprintf("pass %d, bolt %d: %s", said.Pass, said.Bolt, said.Words())
			},
		},
		{
			Act: acts.Outcome{}, Accept: acceptRound,
			Says: func(*record.State, *record.Step, *record.Entry) string { return "check round: all bolts held" },
		},
	},
	Needs: needsTorque,
	Open:  openTorque,
	View:  viewTorque,
	Usual: func(v record.StepView) record.Draft {
		next := v.(*TorqueStep).Torque.Next
		if next == nil {
			d := record.Draft{Item: record.Place{Name: checkRound}, Says: &acts.Outcome{Outcome: "held"}}
			for _, e := range v.Frame().Entries {
				if e.Item == d.Item && e.SupersededBy == "" {
					d.Supersedes = e.ID // a bolt was turned after it
				}
			}
			return d
		}
		shows := next.Setting.Any
		if next.AngleDeg > 0 {
			shows = quantity.Any{Value: next.AngleDeg, Unit: quantity.Named("°")}
		}
		return record.Draft{
			Says: &acts.Torqued{Pass: next.Pass, Bolt: next.Bolt, Measured: acts.Measured{Value: shows}},
		}
	},
	Empty:   func() record.StepView { return &TorqueStep{} },
	Prepare: prepareTorque,
	Sums:    sumsTightened,
}

// TorqueStep is a bolt group as the bench shows it.
type TorqueStep struct {
	record.StepFrame
	Kind   book.Kind  `json:"kind" const:"torque"`
	Units  []string   `json:"units"` // to type in; that of the wrench at hand first
	Torque TorqueView `json:"torque"`
}

// TorqueView is a bolt group with what comes next.
type TorqueView struct {
	// NotHere is who said that this vehicle has no such bolts.
	NotHere string `json:"not_here,omitempty"`
	// Group and Plan stay away where nobody knows the torque: tightened by
	// practice, and looked over.
	Group *book.TorqueGroup `json:"group,omitempty"`
	Plan  *fastener.PlanOut `json:"plan,omitempty"`
	Cells []TorqueCell      `json:"cells"`
	Next  *TorqueCell       `json:"next,omitempty"`
	Held  bool              `json:"held,omitempty"` // the check round is done, and no bolt was turned since
	Off   []string          `json:"off,omitempty"`  // what to do with each bolt that is off its setting
}

// torqueWork is a torque group prepared for a step.
type torqueWork struct {
	sequence fastener.PlanOut
	cells    []TorqueCell // in the order to be done; the check round apart
	group    book.TorqueGroup
}

// TorqueCell is one bolt in one pass.
type TorqueCell struct {
	Pass    int                            `json:"pass"` // from 1
	Bolt    int                            `json:"bolt"` // from 1
	Setting quantity.Said[quantity.Torque] `json:"setting"`
	// AngleDeg is how far the bolt is turned on from there; none, 0.
	AngleDeg float64 `json:"angle_deg,omitempty"`
}

func (c TorqueCell) at() record.Place { return record.Place{Pass: c.Pass, Bolt: c.Bolt} }

// checkRound is the item of the last look over all bolts.
const checkRound = "check-round"

const torqueMethod = "torque-plan/1"

// prepareTorque plans the passes of a group; nothing where the sheet has none.
func prepareTorque(step book.Step, sheet book.SpecSheet) (any, error) {
	group, ok := sheet.Torques[step.Group]
	if !ok {
		return torqueWork{}, nil
	}
	in := fastener.PlanIn{
		Bolts:    int(group.Bolts),
		Torque:   group.Torque,
		Passes:   group.Passes,
		AngleDeg: float64(group.AngleDeg),
	}
	if step.Wrench != nil {
		in.Wrench = &fastener.Wrench{Unit: step.Wrench.Unit, Step: step.Wrench.Step}
	}
	out, err := fastener.TorquePlan(in)
	if err != nil {
		return torqueWork{}, fmt.Errorf("step %s: %w", step.ID, err)
	}
	work := torqueWork{sequence: out, group: group}
	for i, pass := range out.Passes {
		if pass.Check {
			continue
		}
		for _, bolt := range pass.Order {
			work.cells = append(work.cells, TorqueCell{i + 1, bolt, pass.Setting, pass.AngleDeg})
		}
	}
	return work, nil
}

// next is the first cell without an entry.
func (w torqueWork) next(st record.StepLog) (TorqueCell, bool) {
	for _, c := range w.cells {
		if _, done := st.Has(acts.Torqued{}, c.at()); !done {
			return c, true
		}
	}
	return TorqueCell{}, false
}

func needsTorque(s *record.State, step *record.Step) record.Need {
	st, left := s.At(step), 0
	for _, c := range torqueAt(s, step).cells {
		e, done := st.Has(acts.Torqued{}, c.at())
		if !done {
			left++
		} else if e.Verdict == metrology.Out {
			return record.Need{What: record.BoltOnSetting, Place: c.at()}
		}
	}
	if left > 0 {
		return record.Need{What: record.BoltReadings, Count: left}
	}
	if record.NotHere(s, step.Group) != "" {
		return record.Need{}
	}
	if !roundHeld(st) {
		return record.Need{What: record.CheckRound}
	}
	return record.Need{}
}

// roundHeld tells whether every bolt held after the last of them was turned.
func roundHeld(st record.StepLog) (held bool) {
	for e := range st.Each(st.Live) {
		if e.Is(acts.Torqued{}) || e.Item.Name == checkRound {
			held = e.Is(acts.Outcome{})
		}
	}
	return held
}

// offSetting lists the bolts that are not on their setting.
func (w torqueWork) offSetting(st record.StepLog) (off []TorqueCell) {
	for _, c := range w.cells {
		if e, done := st.Has(acts.Torqued{}, c.at()); done && e.Verdict == metrology.Out {
			off = append(off, c)
		}
	}
	return off
}

// offWords say what to do with them. A bolt turned past its setting may have
// yielded; one that is used once by rule has (common practice).
func (w torqueWork) offWords(st record.StepLog) (words []string) {
	for _, c := range w.offSetting(st) {
		e, _ := st.Has(acts.Torqued{}, c.at())
		said := fmt.Sprintf(
			"Bolt %d in pass %d is under its setting. Set the wrench again, turn it, and type what it shows.", c.Bolt,
			c.Pass,
		)
		if c.isOver(acts.ValueOf(e.ReadAct()).Value) {
			said = fmt.Sprintf(
				"Bolt %d in pass %d is over its setting. Back it off and tighten it again. Is it used once only? Fit a new bolt.",
				c.Bolt,
				c.Pass,
			)
		}
		words = append(words, said)
	}
	return words
}

// isOver tells a reading beyond what was to be set or turned.
func (c TorqueCell) isOver(read quantity.Any) bool {
	if c.AngleDeg > 0 {
		return degrees(read) > c.AngleDeg
	}
	return read.SI() > float64(c.Setting.SI())
}

func degrees(a quantity.Any) float64 { return a.SI() / float64(quantity.Degree) }

func openTorque(s *record.State, step *record.Step, _ time.Time) []record.OpenAct {
	if record.NotHere(s, step.Group) != "" {
		return nil
	}
	open := []record.OpenAct{record.MayDo(acts.Torqued{})}
	if _, more := torqueAt(s, step).next(s.At(step)); !more {
		open = append(open, record.MayDo(acts.Outcome{}))
	}
	return open
}

func viewTorque(v record.Viewer, f record.StepFrame) (record.StepView, error) {
	work, st := torqueAt(v.State, v.Step), v.State.At(v.Step)
	view := &TorqueStep{StepFrame: f, Kind: book.Torque, Torque: TorqueView{Cells: []TorqueCell{}}}
	if work.cells != nil {
		view.Torque = TorqueView{Group: &work.group, Plan: &work.sequence, Cells: work.cells}
	}
	view.Units = quantity.ChoicesIn(v.State.Units, quantity.DefaultUnit(quantity.DimTorque))
	if v.Step.Wrench != nil {
		view.Units = quantity.ChoicesIn(v.State.Units, v.Step.Wrench.Unit)
	}
	if next, ok := work.next(st); ok {
		view.Torque.Next = &next
	}
	view.Torque.NotHere = record.NotHere(v.State, v.Step.Group)
	view.Torque.Held, view.Torque.Off = roundHeld(st), work.offWords(st)
	return view, nil
}

// TorqueResult is what a wrench reading means.
type TorqueResult struct {
	Setting quantity.Said[quantity.Torque] `json:"setting"`
	Other   quantity.Said[quantity.Torque] `json:"reading_other_unit"`
	Verdict metrology.Verdict              `json:"verdict"`
}

func acceptRound(p *record.Attempt) error {
	work, st := torqueAt(p.State, p.Step), p.State.At(p.Step)
	p.Draft.Item = record.Place{Name: checkRound}
	if next, more := work.next(st); more {
		return say.Refuse(say.GateClosed, say.BoltBeforeRound, next.Bolt, next.Pass)
	}
	if off := work.offSetting(st); len(off) > 0 {
		return say.Refuse(say.GateClosed, say.BoltOffBeforeRound, off[0].Bolt, off[0].Pass)
	}
	return p.WantOutcome("held")
}

func acceptTorqued(p *record.Attempt) error {
	work, st, said := torqueAt(p.State, p.Step), p.State.At(p.Step), record.Saying[acts.Torqued](p)
	next, _ := work.next(st)
	cell := TorqueCell{Pass: said.Pass, Bolt: said.Bolt}
	found := false
	for _, c := range work.cells {
		if c.at() == cell.at() {
			cell, found = c, true
		}
	}
	if !found {
		return input.At("bolt", fmt.Sprintf("1 to %d", work.group.Bolts), "there is no bolt %d in pass %d",
			said.Bolt, said.Pass)
	}
	if _, done := st.Has(acts.Torqued{}, cell.at()); !done && p.Old == nil && cell.at() != next.at() {
		return say.Refuse(say.GateClosed, say.BoltComesNext, next.Bolt, next.Pass, cell.Bolt)
	}
	if p.Old != nil && p.Old.Item != cell.at() {
		return input.At("bolt", p.Old.Item.String(), "a correction must be for the same bolt")
	}
	p.Draft.Item = cell.at()
	if cell.AngleDeg > 0 {
		return checkTurn(p, said, cell)
	}
	if err := p.WantValue(quantity.DimTorque); err != nil {
		return err
	}
	read := quantity.Torque(said.Value.SI())
	if read <= 0 || read > fastener.MaxTorque {
		return input.At("value", "what the wrench shows, above zero", "%s is no wrench reading", said.Value)
	}
	p.Verdict = fastener.Judge(read, cell.Setting.SI(), float64(work.group.Tolerance))
	paired, _ := quantity.UnitNamed(said.Value.Unit.Paired)
	return p.KeepResult(torqueMethod, TorqueResult{cell.Setting, quantity.Say(read, paired), p.Verdict})
}

// TurnResult is what an angle means that a bolt was turned on by.
type TurnResult struct {
	AngleDeg float64           `json:"angle_deg"` // wanted
	Within   float64           `json:"within"`    // degrees
	Verdict  metrology.Verdict `json:"verdict"`
}

// checkTurn takes the angle that a bolt was turned on by.
func checkTurn(p *record.Attempt, said *acts.Torqued, cell TorqueCell) error {
	if err := p.WantValue(quantity.DimAngle); err != nil {
		return err
	}
	turned := degrees(said.Value)
	if turned <= 0 || turned > fastener.MaxAngle {
		return input.At("value", fmt.Sprintf("above 0°, up to %d°", fastener.MaxAngle), "%s is no turn of a bolt",
			said.Value)
	}
	p.Verdict = fastener.JudgeAngle(turned, cell.AngleDeg)
	return p.KeepResult(torqueMethod, TurnResult{cell.AngleDeg, fastener.AngleTolerance, p.Verdict})
}

// torqueAt is the torque group of a step as it is known.
func torqueAt(s *record.State, step *record.Step) torqueWork {
	work, _ := s.Ready(step).(torqueWork) // none of another kind has any
	return work
}

// sumsTightened says how tight the bolts of a group are in the end.
func sumsTightened(s *record.State, step *record.Step, sum *record.Summary) {
	status, _ := s.Status(step)
	work := torqueAt(s, step)
	if status != record.Done || len(work.cells) == 0 {
		return
	}
	last := work.cells[len(work.cells)-1]
	says := fmt.Sprintf("%s %s", say.Lower(step.Title), inShop(s, last.Setting.Any))
	if last.AngleDeg > 0 {
		says += fmt.Sprintf(" and on by %s°", input.Plain(last.AngleDeg))
	}
	sum.Tightened = append(sum.Tightened, says)
}

// inShop says a figure of the sheet in the unit the shop reads, to its usual places.
func inShop(s *record.State, q quantity.Any) string {
	u := q.Unit.For(s.Units)
	if u == q.Unit {
		return q.String()
	}
	return fmt.Sprintf("%.*f %s", u.Decimals, quantity.Say(quantity.Magnitude(q.SI()), u).Value, u.Symbol)
}
