package measure

import (
	"slices"
	"strings"

	"handwerk/book"
	"handwerk/core/input"
)

func checkMeasure(c *book.Checker, at string, s book.Step) {
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
		c.Text(input.Join(at, "gauge"), m.Gauge)
	}
	if m.Unit != "" || m.MinReadings > 0 {
		c.Unit(input.Join(at, "unit"), m.Unit, "")
	}
	checkAsks(c, input.Join(at, "asks"), m.Asks)
	if m.Found != "" {
		if earlier, ok := c.Earlier(m.Found); !ok || earlier.Kind != book.Measure {
			c.Add(input.Join(at, "found"), "an earlier step that measures", "%q is not one", m.Found)
		}
	}
	before, bindings := len(c.Fields), book.Bind(m.Bind)
	for name := range m.Bind {
		checkSources(c, input.Join(input.Join(at, "bind"), name), *m, bindings.Sources[name], bindings.Bad[name])
	}
	calculator, ok := calculators.Named(m.Calc)
	if !ok {
		c.Add(input.Join(at, "calc"), "a calculator of the catalogue", "there is no calculator %q", m.Calc)
		return
	}
	if len(c.Fields) == before {
		known := sample{m: *m, kinds: c.Known().Kinds, step: c.Earlier}
		c.Fields = append(c.Fields, input.Below(input.Join(at, "bind"), known.fits(calculator, bindings))...)
	}
}

func checkAsks(c *book.Checker, at string, asks []book.Ask) {
	book.Unique(c, at, asks, func(a book.Ask) string { return a.ID })
	for i, a := range asks {
		path := input.Index(at, i)
		c.Text(input.Join(path, "text"), a.Text)
		if a.ID != "" && (a.ID[0] < 'a' || a.ID == "readings" || a.ID == "pack") {
			c.Add(input.Join(path, "id"), "a word of its own that begins with a letter",
				"%q cannot be told from a reading", a.ID)
		}
		book.Unique(c, input.Join(path, "choices"), a.Choices, func(x book.AskChoice) string { return x.ID })
		if len(a.Choices) > 0 {
			continue
		}
		c.Unit(input.Join(path, "unit"), a.Unit, "")
		if room, _, _ := strings.Cut(a.Sheet, "."); room != "limits" && room != "figures" {
			c.Add(input.Join(path, "sheet"), "limits.x or figures.x: what the sheet says of it", "%q says nothing",
				a.Sheet)
		}
	}
}

// checkSources checks that every source of a template can give something.
func checkSources(c *book.Checker, at string, m book.MeasureSpec, sources []book.Source, bad []string) {
	const accepted = `entries.readings, entries.pack, entries.<ask>, steps.<step>.<what>, sheet.<path>, instrument, ` +
		`drawer, learned.lash, book.causes, refit.before.<path>, refit.plan.<path>, "= literal"`
	for _, text := range bad {
		c.Add(at, accepted, "%q comes from nowhere", text)
	}
	for _, s := range sources {
		if s.Room == book.FromDrawer && m.Drawer == "" {
			c.Add(at, "drawer: the drawer to take from", "the step takes from a drawer but names none")
		}
		if s.Room == book.FromEntries && !slices.Contains([]string{"readings", "pack"}, s.Path[0]) &&
			!slices.ContainsFunc(
				m.Asks, func(a book.Ask) bool { return a.ID == s.Path[0] },
			) {
			c.Add(at, accepted, "the step asks for no %q", s.Path[0])
		}
		if s.Room == book.FromLearned && s.Path[0] != book.LearnedLash {
			c.Add(at, accepted, "nobody learns %q", s)
		}
		if s.Room == book.FromSteps && !c.Gives(s) {
			c.Add(at, "an earlier step and what it gives: an item, an answer, or result.<path> of a measurement",
				"%q gives nothing", s)
		}
	}
}

// measureSample: later steps take answers and parts of the result.
func measureSample(s book.Step, what []string) (any, bool) {
	if what[0] == "result" {
		return Blank, len(what) > 1
	}
	return sampleAnswer(s.Measure.Asks, what[0])
}

// measureWants is what a measuring step takes from the sheet.
func measureWants(s book.Step) []string {
	m := s.Measure
	var want []string
	if m.Limit != "" {
		want = append(want, "limits."+m.Limit)
	}
	for _, s := range book.Bind(m.Bind).All() {
		if s.Room == book.FromSheet && !s.Optional {
			want = append(want, s.Key())
		}
	}
	return want
}

// measureShows is what stands beside the questions.
func measureShows(s book.Step) (shown []string) {
	for _, a := range s.Measure.Asks {
		if path, must := a.OnSheet(); must {
			shown = append(shown, path)
		}
	}
	return shown
}

// measureMisfits tries the figures on the calculator.
func measureMisfits(s book.Step, on book.Ground) (faults input.Fields) {
	m, bindings := *s.Measure, book.Bind(s.Measure.Bind)
	calculator, _ := calculators.Named(m.Calc)
	known := sample{m: m, kinds: on.Kinds, step: on.Step, figures: on.Figures}
	for _, f := range input.Below("", known.fits(calculator, bindings)) {
		faults.Add("figures", f.Accepted, "%s asks for %s: %s", m.Calc, f.Path, f.Problem)
	}
	return faults
}
