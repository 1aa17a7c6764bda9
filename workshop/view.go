package workshop

import (
	"encoding/json"
	"slices"
	"time"

	"handwerk/book"
	"handwerk/core/diagnosis"
	"handwerk/core/fastener"
)

// Sheet is a rebuild at one glance: the order, and where every step stands.
// It is folded from the whole record but does not carry it; every open screen
// reads it again with each entry. Step and MakeRecord give the entries.
type Sheet struct {
	Rebuild Rebuild      `json:"rebuild"`
	Steps   []StepStatus `json:"steps"`
}

// StepStatus is one graduation of the rule.
type StepStatus struct {
	ID     string `json:"id"`
	Status Status `json:"status"`
	Needs  string `json:"needs,omitempty"`
}

// EntryView is an entry with what became of it.
type EntryView struct {
	Entry
	SupersededBy string `json:"superseded_by,omitempty"`
}

// StepView is one step as the bench shows it.
type StepView struct {
	Step     book.Step       `json:"step"`
	Station  book.StationID  `json:"station"`
	Status   Status          `json:"status"`
	Needs    string          `json:"needs,omitempty"`
	Gate     []string        `json:"gate"` // titles of what must be done before
	Cautions []CautionView   `json:"cautions"`
	Entries  []EntryView     `json:"entries"`
	Beside   []EntryView     `json:"beside,omitempty"`
	Stack    []StackPart     `json:"stack,omitempty"`
	Measure  *MeasureView    `json:"measure,omitempty"`
	Torque   *TorqueView     `json:"torque,omitempty"`
	Wait     *WaitView       `json:"wait,omitempty"`
	Fill     *book.FillLimit `json:"fill,omitempty"`
	Chosen   string          `json:"chosen,omitempty"` // fill: the fluid chosen at the step this one follows
	// Diagnosis is what all tests on record mean so far, at a step of tests.
	Diagnosis *diagnosis.Out  `json:"diagnosis,omitempty"`
	Materials []book.Material `json:"materials,omitempty"`
}

// CautionView is a caution and who acknowledged it.
type CautionView struct {
	book.Caution
	By string     `json:"by,omitempty"`
	At *time.Time `json:"at,omitempty"`
}

// MeasureView is a measuring bench: trials, instruments, drawer.
type MeasureView struct {
	Trials      []Trial           `json:"trials"`
	Instruments []book.Instrument `json:"instruments"`
	Stock       Drawer            `json:"stock"`
	Limits      json.RawMessage   `json:"limits,omitempty"`
	// Sheet is what the spec sheet says of each ask: a limit or a figure.
	Sheet map[string]json.RawMessage `json:"sheet"`
}

// TorqueView is a bolt group with what the wrench showed.
type TorqueView struct {
	Group book.TorqueGroup `json:"group"`
	Plan  fastener.PlanOut `json:"plan"`
	Cells []TorqueCell     `json:"cells"`
	Next  *TorqueCell      `json:"next,omitempty"`
}

// WaitView is the clock.
type WaitView struct {
	School  string     `json:"school,omitempty"`
	Started *time.Time `json:"started,omitempty"`
	Due     *time.Time `json:"due,omitempty"`
	Now     time.Time  `json:"now"`
}

// MakeSheet folds a record into its sheet.
func MakeSheet(l Ledger) Sheet {
	s := l.State()
	sheet := Sheet{Rebuild: l.Rebuild, Steps: make([]StepStatus, 0, len(l.Plan.steps))}
	for _, step := range l.Plan.steps {
		status, needs := s.Status(step.ID)
		sheet.Steps = append(sheet.Steps, StepStatus{step.ID, status, needs})
	}
	return sheet
}

// MakeStep is the bench of one step.
func MakeStep(l Ledger, id string, now time.Time) (StepView, error) {
	step, ok := l.Plan.Step(id)
	if !ok {
		return StepView{}, refuse(NotFound, "the route has no step %q", id)
	}
	s := l.State()
	v := StepView{Step: step, Station: l.Plan.places[l.Plan.at[id]], Gate: s.blockedBy(step), Cautions: []CautionView{}}
	v.Status, v.Needs = s.Status(id)
	if v.Gate == nil {
		v.Gate = []string{}
	}
	v.Entries = viewsAt(s, id)
	if step.Beside != "" {
		v.Beside = viewsAt(s, step.Beside)
	}
	for _, c := range step.Cautions {
		caution, _ := l.Plan.Caution(c)
		cv := CautionView{Caution: caution}
		if e, ok := s.of(id).has(ActAcknowledge, c); ok {
			cv.By, cv.At = e.By.Name, &e.At
		}
		v.Cautions = append(v.Cautions, cv)
	}
	return v, v.addKind(s, l, now)
}

// addKind joins what only this kind of step shows.
func (v *StepView) addKind(s *State, l Ledger, now time.Time) error {
	for _, x := range l.Plan.Materials {
		if slices.Contains(v.Step.Materials, x.ID) {
			v.Materials = append(v.Materials, x)
		}
	}
	switch v.Step.Kind {
	case book.Test:
		return v.addDiagnosis(s, l)
	case book.Stack:
		v.Stack = s.Stack(v.Step)
	case book.Measure:
		return v.addMeasure(s, l)
	case book.Torque:
		work := l.Plan.groups[v.Step.ID]
		v.Torque = &TorqueView{Group: work.group, Plan: work.plan, Cells: work.cells}
		if next, ok := work.next(s.of(v.Step.ID)); ok {
			v.Torque.Next = &next
		}
	case book.Fill:
		limit := l.Plan.Sheet.Fills[v.Step.Fill.Of]
		v.Fill = &limit
		if like := v.Step.Fill.Like; like != "" {
			e, _ := s.of(like).has(ActFilled, "")
			v.Chosen = e.Said().Outcome
		}
	case book.Wait:
		v.Wait = &WaitView{Now: now.UTC()}
		if start, ok := s.of(v.Step.ID).has(ActStart, ""); ok {
			due := dueAt(v.Step, start)
			v.Wait.School, v.Wait.Started, v.Wait.Due = start.Said().Outcome, &start.At, &due
		}
	}
	return nil
}

// addDiagnosis reasons with what is on record, where tests of the book are done.
func (v *StepView) addDiagnosis(s *State, l Ledger) error {
	if v.Step.FromBook == "" || len(l.Plan.Causes) < 2 {
		return nil
	}
	in, err := l.reason(s)
	if err != nil {
		return err
	}
	out, err := diagnosis.Diagnose(in)
	v.Diagnosis = &out
	return err
}

func (v *StepView) addMeasure(s *State, l Ledger) error {
	m := &MeasureView{Sheet: map[string]json.RawMessage{}, Trials: s.Trials(v.Step), Instruments: l.Plan.Gauges(v.Step)}
	p := proposal{ledger: l, step: v.Step}
	stock, err := p.stock(Trial{})
	if err != nil {
		return err
	}
	m.Stock = stock
	if limit := limitOf(*v.Step.Measure); limit != "" {
		m.Limits, _ = l.Plan.Sheet.Lookup("limits." + limit)
	}
	for _, a := range v.Step.Measure.Asks {
		if raw, ok := l.Plan.Sheet.Lookup(a.Sheet); ok && a.Sheet != "" {
			m.Sheet[a.ID] = raw
		}
	}
	v.Measure = m
	return nil
}

func viewsAt(s *State, step string) []EntryView {
	views := []EntryView{}
	for _, i := range s.of(step).all {
		by, _ := s.supersededBy(i)
		views = append(views, EntryView{s.entries[i], by.ID})
	}
	return views
}

// limitOf is the sheet's limit that the readings lie between. Copies of the
// book made before steps named it have it in the upper bound they bind.
func limitOf(m book.MeasureSpec) string {
	if m.Limit != "" {
		return m.Limit
	}
	for _, name := range []string{"target_max", "upper"} {
		sources, _ := m.Bind[name].Sources()
		for _, s := range sources {
			if len(s.Path) == 3 && s.Path[0] == "limits" && s.Path[2] == "max" {
				return s.Path[1]
			}
		}
	}
	return ""
}
