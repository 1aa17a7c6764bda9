package book

import (
	"encoding/json"
	"slices"
	"strings"

	"handwerk/core/calc"
	"handwerk/core/input"
	"handwerk/core/quantity"
)

// calculators is the catalogue that steps bind to.
var calculators = calc.All()

func (c *checker) measure(at string, s Step) {
	at = input.Join(at, "measure")
	m := s.Measure
	if m == nil {
		c.Add(at, "calc, bind", "nothing is bound")
		return
	}
	if m.MinReadings < 0 || m.MinReadings > 100 {
		c.Add(input.Join(at, "min_readings"), "0 to 100", "%d readings", m.MinReadings)
	}
	if m.MinReadings > 0 {
		c.text(input.Join(at, "gauge"), m.Gauge)
	}
	if m.Unit != "" || m.MinReadings > 0 {
		c.unit(input.Join(at, "unit"), m.Unit, "")
	}
	c.asks(input.Join(at, "asks"), m.Asks)
	before := len(c.Fields)
	for name, t := range m.Bind {
		c.sources(input.Join(input.Join(at, "bind"), name), *m, t)
	}
	calculator, ok := calculators.Named(m.Calc)
	if !ok {
		c.Add(input.Join(at, "calc"), "a calculator of the catalogue", "there is no calculator %q", m.Calc)
		return
	}
	if len(c.Fields) == before {
		c.Fields = append(c.Fields, input.Below(input.Join(at, "bind"), fits(calculator, *m, c.seen, nil))...)
	}
}

func (c *checker) asks(at string, asks []Ask) {
	unique(c, at, asks, func(a Ask) string { return a.ID })
	for i, a := range asks {
		path := input.Index(at, i)
		c.text(input.Join(path, "text"), a.Text)
		if a.ID != "" && (a.ID[0] < 'a' || a.ID == "readings" || a.ID == "pack") {
			c.Add(input.Join(path, "id"), "a word of its own that begins with a letter", "%q cannot be told from a reading", a.ID)
		}
		unique(c, input.Join(path, "choices"), a.Choices, func(x AskChoice) string { return x.ID })
		if len(a.Choices) > 0 {
			continue
		}
		c.unit(input.Join(path, "unit"), a.Unit, "")
		if room, _, _ := strings.Cut(a.Sheet, "."); room != "limits" && room != "figures" {
			c.Add(input.Join(path, "sheet"), "limits.x or figures.x: what the sheet says of it", "%q says nothing", a.Sheet)
		}
	}
}

// sources checks that every source of a template can give something.
func (c *checker) sources(at string, m MeasureSpec, t Template) {
	const accepted = `entries.readings, entries.pack, entries.<ask>, steps.<step>.<what>, sheet.<path>, instrument, drawer, book.causes, "= literal"`
	sources, bad := t.Sources()
	for _, text := range bad {
		c.Add(at, accepted, "%q comes from nowhere", text)
	}
	for _, s := range sources {
		if s.Room == FromDrawer && m.Drawer == "" {
			c.Add(at, "drawer: the drawer to take from", "the step takes from a drawer but names none")
		}
		if s.Room == FromEntries && !slices.Contains([]string{"readings", "pack"}, s.Path[0]) && !slices.ContainsFunc(m.Asks, func(a Ask) bool { return a.ID == s.Path[0] }) {
			c.Add(at, accepted, "the step asks for no %q", s.Path[0])
		}
		if s.Room == FromSteps && !c.gives(s) {
			c.Add(at, "an earlier step and what it gives: an item, an answer, or result.<path> of a measurement", "%q gives nothing", s)
		}
	}
}

// gives tells whether an earlier step gives what a source names.
func (c *checker) gives(s Source) bool {
	step, ok := c.seen[s.Path[0]]
	if !ok {
		return false
	}
	what := s.Path[1]
	switch step.Kind {
	case Measure:
		return (what == "result" && len(s.Path) > 2) || slices.ContainsFunc(step.Measure.Asks, func(a Ask) bool { return a.ID == what })
	case Check, Test:
		return slices.ContainsFunc(step.Items, func(i Item) bool { return i.ID == what && i.Value != "" })
	case Fill:
		return what == "value"
	case Decide:
		return what == "choice"
	}
	return false
}

// blank stands where a value is not known before the work; faults there are
// no fault of the book.
const blank = "\ue000" // of the private use area: nobody types it

// fits fills a binding with what is known and asks the calculator whether it
// has the right shape: nothing missing, nothing unknown; with a sheet chosen
// and nothing left to ask, whether it can answer.
func fits(c calc.Calculator, m MeasureSpec, seen map[string]Step, sheet *SpecSheet) error {
	in, err := FillAll(m.Bind, sample{m, seen, sheet})
	if err != nil {
		return err
	}
	raw, err := json.Marshal(in)
	if err != nil {
		return err
	}
	blanks := map[string]bool{}
	findBlanks("", in, blanks)
	var faults input.Fields
	for _, f := range input.Below("", c.Reads(raw)) {
		if !blanks[f.Path] {
			if f.Problem == "missing" {
				f.Problem = "nobody supplies this input of " + c.Name
			}
			faults = append(faults, f)
		}
	}
	// What rests on the sheet alone is worked out now: a figure that cannot be
	// is named when the rebuild is opened, not when somebody stands at the step.
	if len(faults) == 0 && len(blanks) == 0 && sheet != nil && m.sheetOnly() {
		_, err = c.Run(raw)
		return err
	}
	return faults.Err()
}

// sheetOnly tells a measurement whose every input comes from the spec sheet.
func (m MeasureSpec) sheetOnly() bool {
	for _, t := range m.Bind {
		sources, _ := t.Sources()
		if slices.ContainsFunc(sources, func(s Source) bool { return s.Room != FromSheet }) {
			return false
		}
	}
	return m.Reckons()
}

func findBlanks(at string, v any, blanks map[string]bool) {
	switch v := v.(type) {
	case string:
		if v == blank {
			blanks[at] = true
		}
	case []any:
		for i, x := range v {
			findBlanks(input.Index(at, i), x, blanks)
		}
	case map[string]any:
		for k, x := range v {
			findBlanks(input.Join(at, k), x, blanks)
		}
	}
}

// sample is a Filler that answers with values of the right kind.
type sample struct {
	m     MeasureSpec
	seen  map[string]Step
	sheet *SpecSheet // nil while no sheet is chosen
}

func (sample) Trials() int { return 1 }

func (x sample) Value(s Source, _ int) (any, bool, error) {
	switch s.Room {
	case FromEntries:
		return x.entry(s.Path[0]), true, nil
	case FromSteps:
		return x.step(s), true, nil
	case FromInstrument:
		return map[string]any{}, true, nil
	case FromDrawer:
		return []any{}, true, nil
	case FromSheet:
		if x.sheet == nil {
			return blank, true, nil
		}
		raw, ok := x.sheet.Lookup(strings.Join(s.Path, "."))
		if !ok {
			return nil, false, input.At("", "", "the spec sheet %q lacks %s", x.sheet.ID, strings.Join(s.Path, "."))
		}
		return raw, true, nil
	}
	return blank, true, nil
}

func (x sample) entry(what string) any {
	switch what {
	case "readings":
		return []any{one(x.m.Unit)}
	case "pack":
		return one(x.m.Unit)
	}
	return answer(x.m.Asks, what)
}

func (x sample) step(s Source) any {
	step := x.seen[s.Path[0]]
	switch {
	case step.Kind == Measure && s.Path[1] != "result":
		return answer(step.Measure.Asks, s.Path[1])
	case step.Kind == Check || step.Kind == Test:
		i := slices.IndexFunc(step.Items, func(i Item) bool { return i.ID == s.Path[1] })
		return one(quantity.DefaultUnit(step.Items[i].Value))
	case step.Kind == Fill:
		return one("L")
	}
	return blank
}

func answer(asks []Ask, id string) any {
	a := asks[slices.IndexFunc(asks, func(a Ask) bool { return a.ID == id })]
	switch {
	case len(a.Choices) > 0:
		return a.Choices[0].Binds()
	case a.Bare:
		return 1
	}
	return one(a.Unit)
}

func one(unit string) any { return map[string]any{"value": 1, "unit": unit} }

// Binds is what a chosen answer gives to the calculator.
func (x AskChoice) Binds() any {
	if len(x.Value) > 0 {
		return x.Value
	}
	return x.ID
}
