package workshop

import (
	"encoding/json"
	"fmt"
	"slices"
	"strings"

	"handwerk/core/calc"
	"handwerk/core/fault"
	"handwerk/core/metrology"
	"handwerk/core/plan"
	"handwerk/core/quantity"
	"handwerk/core/shim"
)

// calculators is the catalogue the steps bind to.
var calculators = calc.All()

// Drawer is what one drawer holds.
type Drawer []shim.StockItem

// Move takes shims from a drawer (negative: puts them back).
type Move struct {
	Drawer    string
	Thickness string // as the drawer writes it
	Count     int
}

// Trial is one assembly that was measured: the pack in place, what was
// expected of it, and the readings.
type Trial struct {
	Number   int               `json:"number"`
	Pack     []Piece           `json:"pack"`
	Sum      quantity.Any      `json:"sum"`
	Expected json.RawMessage   `json:"expected,omitempty"`
	Readings []Entry           `json:"readings"`
	Result   json.RawMessage   `json:"result,omitempty"`
	Verdict  metrology.Verdict `json:"verdict,omitempty"`
	Accepted string            `json:"accepted,omitempty"`
}

// Trials reads the trials of a measuring step, the last one being the present.
// An item is "<trial>.<n>" for a reading, "<trial>" for the fit that began it.
func (s *State) Trials(step plan.Step) []Trial {
	st := s.of(step.ID)
	trials := []Trial{{Number: 1, Pack: []Piece{}, Sum: step.Measure.StartPack, Readings: []Entry{}}}
	for _, e := range st.live {
		if e.Act == ActFit {
			said := e.Said()
			trials = append(trials, Trial{Number: len(trials) + 1, Pack: said.Pack, Sum: sumOf(said.Pack, step.Measure.StartPack), Expected: e.Result, Readings: []Entry{}})
		}
	}
	for i := range trials {
		t := &trials[i]
		for _, e := range st.live {
			if e.Act == ActReading && trialOf(e.Item) == t.Number {
				t.Readings = append(t.Readings, e)
			}
			if e.Act == ActAccept && e.Item == itoa(t.Number) {
				t.Accepted = e.Said().Reason
			}
		}
		slices.SortFunc(t.Readings, func(a, b Entry) int { return readingOf(a.Item) - readingOf(b.Item) })
		for _, e := range st.computed {
			if e.Act != ActFit && trialOf(e.Item) == t.Number && len(t.Readings) > 0 {
				t.Result, t.Verdict = e.Result, e.Verdict
			}
		}
	}
	return trials
}

func trialOf(item string) int {
	n := 0
	_, _ = fmt.Sscanf(item, "%d", &n)
	return n
}

func readingOf(item string) int {
	trial, n := 0, 0
	_, _ = fmt.Sscanf(item, "%d.%d", &trial, &n)
	return n
}

// sumOf adds a pack up, in the unit of its first piece.
func sumOf(pack []Piece, none quantity.Any) quantity.Any {
	if len(pack) == 0 {
		return none
	}
	var sum quantity.Length
	for _, p := range pack {
		sum += quantity.Length(p.Count) * p.Thickness.SI()
	}
	return quantity.Say(sum, pack[0].Thickness.Unit).Any
}

func needsMeasure(s *State, step plan.Step) string {
	trials := s.Trials(step)
	t := trials[len(trials)-1]
	switch left := step.Measure.MinReadings - len(t.Readings); {
	case t.Accepted != "":
		return ""
	case left > 0:
		return countOf(left, "reading", "readings")
	case t.Verdict == metrology.Undecided:
		return "undecided: read again or finer"
	case t.Verdict == metrology.Out:
		return "out: fit a pack and measure again"
	}
	return ""
}

func acceptMeasure(p *proposal) error {
	trials := p.state.Trials(p.step)
	t := trials[len(trials)-1]
	switch p.draft.Act {
	case ActFit:
		return p.acceptFit(trials)
	case ActAccept:
		p.draft.Item = itoa(t.Number)
		if len(t.Readings) < p.step.Measure.MinReadings {
			return refuse(Conflict, "measure before you accept: %s", countOf(p.step.Measure.MinReadings-len(t.Readings), "reading", "readings"))
		}
		return p.reason("why it may stay as it is")
	}
	if !p.draft.Value.IsSaid() {
		return fault.At("value", "a reading with its unit", "missing")
	}
	gauges := p.ledger.Plan.Gauges(p.step)
	if p.draft.Instrument != "" && !slices.ContainsFunc(gauges, func(i plan.Instrument) bool { return i.ID == p.draft.Instrument }) {
		return fault.At("instrument", idsOf(gauges, func(i plan.Instrument) string { return i.ID }), "%q is no %s of this shop", p.draft.Instrument, p.step.Measure.Gauge)
	}
	if p.old != nil {
		return p.correctReading(trials)
	}
	n := 1
	for _, e := range t.Readings {
		n = max(n, readingOf(e.Item)+1)
	}
	p.draft.Item = fmt.Sprintf("%d.%d", t.Number, n)
	return p.compute(t, &p.draft.Body)
}

// correctReading computes the trial anew with the new value in the old place.
func (p *proposal) correctReading(trials []Trial) error {
	t, err := trialHolding(trials, p.old)
	if err != nil {
		return err
	}
	return p.compute(t, &p.draft.Body)
}

// trialHolding is the trial an entry was read in, without that reading.
func trialHolding(trials []Trial, e *Entry) (Trial, error) {
	n := trialOf(e.Item)
	if n < 1 || n > len(trials) {
		return Trial{}, refuse(Conflict, "this reading belongs to a pack that was struck")
	}
	t := trials[n-1]
	t.Readings = slices.DeleteFunc(slices.Clone(t.Readings), func(x Entry) bool { return x.ID == e.ID })
	return t, nil
}

// strikeMeasure withdraws a reading or a fit and computes what is left.
func strikeMeasure(p *proposal) error {
	trials := p.state.Trials(p.step)
	switch p.old.Act {
	case ActReading:
		t, err := trialHolding(trials, p.old)
		if err != nil || len(t.Readings) == 0 {
			return err
		}
		return p.compute(t, nil)
	case ActFit:
		last := trials[len(trials)-1]
		if itoa(last.Number) != p.old.Item || len(last.Readings) > 0 || len(trials) < 2 {
			return refuse(Conflict, "this pack has been measured; strike its readings first, or fit another")
		}
		p.move(last.Pack, trials[len(trials)-2].Pack)
	}
	return nil
}

// acceptFit begins a new trial with a pack from the drawer.
func (p *proposal) acceptFit(trials []Trial) error {
	t := trials[len(trials)-1]
	if p.step.Measure.Drawer == "" {
		return fault.At("act", "reading, accept", "no pack is fitted at this step")
	}
	if p.old != nil {
		return refuse(Conflict, "a fitted pack is not corrected: strike it, or fit another")
	}
	stock, err := p.stock(t)
	if err != nil {
		return err
	}
	var faults fault.Fields
	for i, piece := range p.draft.Pack {
		at := fault.Index("pack", i)
		j := slices.IndexFunc(stock, func(s shim.StockItem) bool { return s.Thickness.String() == piece.Thickness.String() })
		switch {
		case piece.Count < 1:
			faults.Add(at+".count", "one or more", "%d shims", piece.Count)
		case j < 0:
			faults.Add(at+".thickness", "a size of the drawer", "the drawer has no %s", piece.Thickness)
		case stock[j].Count != nil && *stock[j].Count < piece.Count:
			faults.Add(at+".count", fmt.Sprintf("up to %d", *stock[j].Count), "the drawer does not hold %d of %s", piece.Count, piece.Thickness)
		}
	}
	if len(faults) > 0 {
		return faults
	}
	p.draft.Item = itoa(t.Number + 1)
	p.move(t.Pack, p.draft.Pack)
	return p.expect(t)
}

// expect keeps with the fit what the last result promised for this pack.
func (p *proposal) expect(t Trial) error {
	var last struct {
		Method string `json:"method"`
		Packs  []struct {
			Pieces []Piece         `json:"pieces"`
			Float  json.RawMessage `json:"float"`
		} `json:"packs"`
	}
	if t.Result == nil || json.Unmarshal(t.Result, &last) != nil {
		return nil
	}
	for _, pack := range last.Packs {
		if samePack(pack.Pieces, p.draft.Pack) {
			return p.computed(last.Method, map[string]json.RawMessage{"float": pack.Float})
		}
	}
	return nil
}

func samePack(a, b []Piece) bool {
	count := map[string]int{}
	for _, p := range a {
		count[p.Thickness.String()] += p.Count
	}
	for _, p := range b {
		count[p.Thickness.String()] -= p.Count
	}
	for _, n := range count {
		if n != 0 {
			return false
		}
	}
	return true
}

// move books the pieces of the old pack back and those of the new one out.
func (p *proposal) move(before, after []Piece) {
	change := map[string]int{}
	for _, x := range before {
		change[x.Thickness.String()] -= x.Count
	}
	for _, x := range after {
		change[x.Thickness.String()] += x.Count
	}
	for thickness, n := range change {
		if n != 0 {
			p.moves = append(p.moves, Move{p.step.Measure.Drawer, thickness, n})
		}
	}
	// A fixed order keeps two writers from locking each other out.
	slices.SortFunc(p.moves, func(a, b Move) int { return strings.Compare(a.Thickness, b.Thickness) })
}

// stock is what could be fitted: the drawer, and what is in place now.
func (p *proposal) stock(t Trial) (Drawer, error) {
	if p.step.Measure.Drawer == "" {
		return Drawer{}, nil
	}
	held, err := p.ledger.Drawer(p.step.Measure.Drawer)
	if err != nil {
		return nil, err
	}
	stock := slices.Clone(held)
	for _, piece := range t.Pack {
		for i := range stock {
			if stock[i].Thickness.String() == piece.Thickness.String() && stock[i].Count != nil {
				n := *stock[i].Count + piece.Count
				stock[i].Count = &n
			}
		}
	}
	return stock, nil
}

// compute binds the calculator's inputs and runs it on the trial's readings
// and one more, if given.
func (p *proposal) compute(t Trial, more *Body) error {
	c, ok := calculators.Named(p.step.Measure.Calc)
	if !ok {
		return fmt.Errorf("step %s binds calculator %q, which this program does not have", p.step.ID, p.step.Measure.Calc)
	}
	in, err := p.bind(t, more)
	if err != nil {
		return err
	}
	raw, err := json.Marshal(in)
	if err != nil {
		return err
	}
	result, err := c.Run(raw)
	if err != nil {
		return p.atTheReading(err, len(t.Readings), more != nil)
	}
	var judged struct {
		Verdict metrology.Verdict `json:"verdict"`
	}
	if err := json.Unmarshal(result, &judged); err != nil {
		return err
	}
	p.result, p.method, p.verdict = result, c.Method(), judged.Verdict
	return nil
}

// atTheReading moves a fault of the reading being typed to the field the
// person sees.
func (p *proposal) atTheReading(err error, typed int, isTyped bool) error {
	faults := fault.Below("", err)
	for i, f := range faults {
		if isTyped && f.Path == fault.Index("readings", typed) {
			faults[i].Path = "value"
		}
	}
	return faults
}

// bind collects a calculator's inputs from where the step says they come from.
func (p *proposal) bind(t Trial, more *Body) (map[string]any, error) {
	var readings []quantity.Any
	instrument := ""
	for _, e := range t.Readings {
		said := e.Said()
		readings = append(readings, said.Value)
		instrument = said.Instrument
	}
	if more != nil {
		readings = append(readings, more.Value)
		instrument = more.Instrument
	}
	in := map[string]any{}
	for name, from := range p.step.Measure.Bind {
		switch {
		case from == "entries.readings":
			in[name] = readings
		case from == "entries.pack":
			in[name] = t.Sum
		case from == "instrument":
			if i, ok := p.ledger.Plan.Instrument(instrument); ok {
				in[name] = metrology.Instrument{Name: i.Name, Resolution: i.Resolution, MPE: i.MPE, Repeatability: i.Repeatability}
			}
		case from == "drawer":
			stock, err := p.stock(t)
			if err != nil {
				return nil, err
			}
			in[name] = stock
		case strings.HasPrefix(from, "= "):
			in[name] = strings.TrimPrefix(from, "= ")
		default:
			raw, ok := p.ledger.Plan.Sheet.Lookup(strings.TrimPrefix(from, "sheet."))
			if !ok {
				return nil, fmt.Errorf("step %s: the spec sheet has no %s", p.step.ID, from)
			}
			in[name] = raw
		}
	}
	return in, nil
}
