package measure

import (
	"encoding/json"
	"slices"

	"handwerk/book"
	"handwerk/core/calculator"
	"handwerk/core/input"
)

// sample is a Filler that answers with values of the right shape: what a
// binding is tried on before there is a record.
type sample struct {
	m       book.MeasureSpec
	kinds   book.Kinds
	step    func(id string) (book.Step, bool)
	figures book.Figures // nil while no sheet is chosen
}

// Sparse keeps what is not known before the work.
func (x sample) Sparse() bool { return false }

// Blank stands where a value is not known before the work; faults there are
// no fault of the book.
const Blank = "\ue000" // of the private use area: nobody types it

// fits fills a binding with what is known and asks the calculator whether it
// has the right shape: nothing missing, nothing unknown; with a sheet chosen
// and nothing left to ask, whether it can answer.
func (x sample) fits(c calculator.Calculator, bindings book.Bindings) error {
	in, err := bindings.Fill(x)
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
	sheetOnly := x.m.Reckons() && !slices.ContainsFunc(bindings.All(),
		func(s book.Source) bool { return s.Room != book.FromSheet })
	if len(faults) == 0 && len(blanks) == 0 && x.figures != nil && sheetOnly {
		_, err = c.Run(raw)
		return err
	}
	return faults.Err()
}

func findBlanks(at string, v any, blanks map[string]bool) {
	switch v := v.(type) {
	case string:
		if v == Blank {
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

// Trials is how many there are.
func (sample) Trials() int { return 1 }

// Value of a source, as far as it is known.
func (x sample) Value(s book.Source, _ int) (any, bool, error) {
	switch s.Room {
	case book.FromEntries:
		return x.entry(s.Path[0]), true, nil
	case book.FromSteps:
		v, ok := x.kinds.Sample(x.step, s)
		return v, ok, nil
	case book.FromInstrument:
		return map[string]any{}, true, nil
	case book.FromDrawer:
		return []any{}, true, nil
	case book.FromLearned, book.FromRefit:
		return nil, false, nil
	case book.FromSheet:
		if x.figures == nil {
			return Blank, true, nil
		}
		raw, ok := x.figures[s.Key()]
		if !ok && s.Optional {
			return nil, false, nil
		}
		if !ok {
			return nil, false, input.At("", "", "missing from the spec sheet: %s", s.Key())
		}
		return raw, true, nil
	}
	return Blank, true, nil
}

func (x sample) entry(what string) any {
	switch what {
	case "readings":
		return []any{One(x.m.Unit)}
	case "pack":
		return One(packUnit(x.m))
	}
	v, _ := sampleAnswer(x.m.Asks, what)
	return v
}

func sampleAnswer(asks []book.Ask, id string) (any, bool) {
	i := slices.IndexFunc(asks, func(a book.Ask) bool { return a.ID == id })
	switch {
	case i < 0:
		return nil, false
	case len(asks[i].Choices) > 0:
		return asks[i].Choices[0].Binds(), true
	case asks[i].Bare:
		return 1, true
	}
	return One(asks[i].Unit), true
}

// One is a quantity of its unit.
func One(unit string) any { return map[string]any{"value": 1, "unit": unit} }
