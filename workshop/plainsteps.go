package workshop

import (
	"encoding/json"
	"fmt"
	"slices"
	"strings"
	"time"

	"handwerk/book"
	"handwerk/core/input"
	"handwerk/core/metrology"
	"handwerk/core/quantity"
)

// heldMark begins the needs of a step that a decision keeps waiting.
const heldMark = "held: "

// plainOutcomes are those of a check whose items list none.
var plainOutcomes = []book.Outcome{{ID: "done", Text: "Done", Good: true}, {ID: "not-done", Text: "Not as it should be"}}

// OutcomesOf an item, the plain ones filled in.
func OutcomesOf(i book.Item) []book.Outcome {
	if len(i.Outcomes) == 0 && i.Value == "" {
		return plainOutcomes
	}
	return i.Outcomes
}

// check and test

func needsItems(s *State, step book.Step) string {
	left, done := 0, 0
	for _, item := range step.Items {
		e, ok := s.of(step.ID).has(ActOutcome, item.ID)
		switch {
		case ok && e.Verdict == metrology.Out:
			return item.Text + ": not the same as before"
		case ok:
			done++
		case !item.Optional:
			left++
		}
	}
	if left == 0 && done == 0 && len(step.Items) > 0 {
		return "one line at least"
	}
	return countOf(left, "line", "lines")
}

func acceptOutcome(p *proposal) error {
	i := slices.IndexFunc(p.step.Items, func(x book.Item) bool { return x.ID == p.draft.Item })
	if i < 0 {
		return input.At("item", idsOf(p.step.Items, func(x book.Item) string { return x.ID }), "%q is not a line of this step", p.draft.Item)
	}
	item := p.step.Items[i]
	if item.Value != "" {
		if err := p.valueOf(item.Value); err != nil || item.Same == "" {
			return err
		}
		return p.sameAs(item.Same)
	}
	return p.outcomeAmong(idsOf(OutcomesOf(item), func(x book.Outcome) string { return x.ID }))
}

// sameAs judges a value by an earlier one: connectors tagged and plugged.
func (p *proposal) sameAs(same string) error {
	step, item, _ := strings.Cut(same, ".")
	earlier, ok := p.state.of(step).has(ActOutcome, item)
	if !ok {
		before, _ := p.ledger.Plan.Step(step)
		return refuse(GateClosed, "first: %s; this line is held against it", before.Title)
	}
	p.verdict = metrology.In
	if p.draft.Value.SI() != earlier.Said().Value.SI() {
		p.verdict = metrology.Out
	}
	return nil
}

func (p *proposal) valueOf(want quantity.Dimension) error {
	if !p.draft.Value.IsSaid() {
		return input.At("value", "a "+string(want), "missing")
	}
	if p.draft.Value.Dimension() != want {
		return input.At("value", "a "+string(want), "%s is a %s", p.draft.Value, p.draft.Value.Dimension())
	}
	return nil
}

func (p *proposal) outcomeAmong(ids string) error {
	if !slices.Contains(strings.Split(ids, ", "), p.draft.Outcome) {
		return input.At("outcome", ids, "%q is not one of the outcomes", p.draft.Outcome)
	}
	return nil
}

// caution

func needsCare(s *State, step book.Step) string {
	if open := s.unacknowledged(step, false); len(open) > 0 {
		return "acknowledge: " + strings.Join(open, ", ")
	}
	return ""
}

// photo

func needsPhoto(s *State, step book.Step) string {
	if _, ok := s.of(step.ID).has(ActPhoto, ""); ok {
		return ""
	}
	return "a picture"
}

func acceptPhoto(p *proposal) error {
	p.draft.Item = ""
	if p.draft.Photo == "" {
		return p.reason("a picture, or why there is none")
	}
	return nil
}

// decide

func needsDecision(s *State, step book.Step) string {
	e, ok := s.of(step.ID).has(ActDecision, "")
	if !ok {
		return "a decision"
	}
	said := e.Said()
	for _, c := range step.Choices {
		if c.ID == said.Outcome && c.Holds {
			return heldMark + strings.TrimSpace(c.Text+": "+said.Reason)
		}
	}
	return ""
}

func acceptDecision(p *proposal) error {
	p.draft.Item = ""
	if err := p.outcomeAmong(idsOf(p.step.Choices, func(x book.Choice) string { return x.ID })); err != nil {
		return err
	}
	i := slices.IndexFunc(p.step.Choices, func(x book.Choice) bool { return x.ID == p.draft.Outcome })
	if p.step.Choices[i].Holds {
		return p.reason("what it waits for")
	}
	if p.step.FromBook != "" && p.step.Choices[i].ID == "other" {
		return p.reason("what it was")
	}
	if p.step.Role == string(Lead) {
		return p.allElseDone()
	}
	return nil
}

// allElseDone guards a signature: every other step of the route is done.
func (p *proposal) allElseDone() error {
	var open []string
	for _, step := range p.ledger.Plan.steps {
		if status, _ := p.state.Status(step.ID); step.ID != p.step.ID && status != Done {
			open = append(open, step.Title)
		}
	}
	if len(open) > 0 {
		return refuse(GateClosed, "not everything is done yet: %s", strings.Join(open, ", "))
	}
	return nil
}

// wait

func needsWait(s *State, step book.Step) string {
	start, ok := s.of(step.ID).has(ActStart, "")
	if !ok {
		return "start the clock"
	}
	if _, ended := s.of(step.ID).has(ActEnd, ""); ended {
		return ""
	}
	return "the clock, until " + Moment(dueAt(step, start), s.zone)
}

func acceptWait(p *proposal) error {
	p.draft.Item = ""
	if p.draft.Act == ActStart {
		return p.outcomeAmong(idsOf(p.step.Schools, func(x book.School) string { return x.ID }))
	}
	start, ok := p.state.of(p.step.ID).has(ActStart, "")
	if !ok {
		return refuse(Conflict, "the clock has not been started")
	}
	if left := dueAt(p.step, start).Sub(p.now); left > 0 && p.draft.Reason == "" {
		return refuse(GateClosed, "%s to go; to go on sooner, give a reason", left.Round(time.Second))
	}
	return nil
}

// fill

// FillResult is a filled quantity in the units of three shops.
type FillResult struct {
	Litre    quantity.Said[quantity.Volume] `json:"litre"`
	USQuart  quantity.Said[quantity.Volume] `json:"us_quart"`
	ImpPint  quantity.Said[quantity.Volume] `json:"imp_pint"`
	Min      quantity.Said[quantity.Volume] `json:"min"`
	Max      quantity.Said[quantity.Volume] `json:"max"`
	Verdict  metrology.Verdict              `json:"verdict"`
	FluidIs  string                         `json:"fluid"`
	FluidWhy string                         `json:"why"`
}

func needsFill(s *State, step book.Step) string {
	e, ok := s.of(step.ID).has(ActFilled, "")
	switch {
	case !ok:
		return "fluid and quantity"
	case e.Verdict != metrology.In:
		return "the quantity is outside the spec sheet"
	}
	return ""
}

func acceptFill(p *proposal) error {
	p.draft.Item = ""
	if err := p.outcomeAmong(idsOf(p.step.Fill.Fluids, func(x book.Fluid) string { return x.ID })); err != nil {
		return err
	}
	i := slices.IndexFunc(p.step.Fill.Fluids, func(x book.Fluid) bool { return x.ID == p.draft.Outcome })
	fluid := p.step.Fill.Fluids[i]
	if fluid.Forbids != "" {
		return input.At("outcome", "another fluid", "%s", fluid.Forbids)
	}
	if err := p.asChosen(); err != nil {
		return err
	}
	if err := p.valueOf(quantity.DimVolume); err != nil {
		return err
	}
	limit := p.ledger.Plan.Sheet.Fills[p.step.Fill.Of]
	volume := quantity.Volume(p.draft.Value.SI())
	in := func(symbol string) quantity.Said[quantity.Volume] {
		u, _ := quantity.UnitNamed(symbol)
		return quantity.Say(volume, u)
	}
	p.verdict = metrology.Judge(float64(volume), 0, metrology.Limits{Lower: float64(limit.Min.SI()), Upper: float64(limit.Max.SI())})
	return p.computed("quantity/1", FillResult{
		in("L"), in("US qt"), in("imp pt"), limit.Min, limit.Max, p.verdict, fluid.Class, fluid.Why,
	})
}

// asChosen: what goes in is what was chosen before.
func (p *proposal) asChosen() error {
	if p.step.Fill.Like == "" {
		return nil
	}
	before, ok := p.state.of(p.step.Fill.Like).has(ActFilled, "")
	if chosen := before.Said().Outcome; ok && chosen != p.draft.Outcome {
		step, _ := p.ledger.Plan.Step(p.step.Fill.Like)
		return input.At("outcome", fluidClass(step, chosen), "at %q another class was chosen; correct it there first", step.Title)
	}
	return nil
}

// computed keeps a result with its method.
func (p *proposal) computed(method string, result any) error {
	raw, err := json.Marshal(result)
	if err != nil {
		return fmt.Errorf("%s: result cannot be written: %w", method, err)
	}
	p.result, p.method = raw, method
	return nil
}

func idsOf[T any](list []T, id func(T) string) string {
	words := make([]string, len(list))
	for i, x := range list {
		words[i] = id(x)
	}
	return strings.Join(words, ", ")
}

// countOf says "3 lines to go", empty when nothing is left.
func countOf(n int, one, many string) string {
	switch n {
	case 0:
		return ""
	case 1:
		return "1 " + one + " to go"
	}
	return fmt.Sprintf("%d %s to go", n, many)
}
