package book

import (
	"fmt"
	"slices"
	"strings"

	"handwerk/core/diagnosis"
	"handwerk/core/input"
)

// Cause is something that may be wrong with some kinds of unit, with its
// weight before any test and what would be ordered or taken out for it.
type Cause struct {
	ID     string   `json:"id"`
	Says   string   `json:"says"`
	Units  []string `json:"units"`
	Weight float64  `json:"weight"`
	Action string   `json:"action"`
}

// BookTest is a test, or with no minutes the complaint itself. The first of
// its outcomes is the normal one; Otherwise and Given list the probability of
// each, in their order: our judgement, shifted by the shop's own cases.
type BookTest struct {
	ID      string   `json:"id"`
	Says    string   `json:"says"`
	Units   []string `json:"units"`
	Minutes float64  `json:"minutes,omitempty"`
	Tools   []string `json:"tools,omitempty"`
	// Needs is what the vehicle must be able to for it: see Conditions.
	Needs     []string             `json:"needs,omitempty"`
	Cautions  []string             `json:"cautions,omitempty"` // read before it is done
	Outcomes  []Outcome            `json:"outcomes"`
	Otherwise []float64            `json:"otherwise"`
	Given     map[string][]float64 `json:"given"`
}

// Conditions a test may need, and an outcome may say are not given: the vehicle
// drives, stands raised with its wheels free, its engine runs, a gear or a lock
// can be engaged.
var Conditions = []string{"driveable", "raised", "engine_runs", "gear_engages", "lock_engages"}

// checkConditions refuses a word that no test and no outcome could share.
func (c *Checker) checkConditions(at string, said []string) {
	for i, x := range said {
		if !slices.Contains(Conditions, x) {
			c.Add(input.Index(at, i), strings.Join(Conditions, ", "), "%q is no condition", x)
		}
	}
}

// Words FromBook may hold.
const (
	FromComplaint = "complaint"
	FromTests     = "tests"
	FromCauses    = "causes"
)

// OtherCause ends every list of causes to choose from.
const OtherCause = "other"

// CouldNot ends the outcomes of every test on the vehicle: it was tried and
// could not be done. It says nothing of the cause, and is not proposed again.
const CouldNot = "could-not"

// A customer may complain of two things. The second is a report of its own,
// told by the same chances as the first; that there is none says nothing.
const (
	secondly       = "-besides"
	NothingBesides = "nothing-besides"
)

// withSeconds are the tests, with a second report of what the customer says.
func withSeconds(tests []BookTest) []BookTest {
	for _, t := range tests {
		if t.Minutes == 0 {
			t.ID, t.Says = t.ID+secondly, t.Says+": also"
			tests = append(tests, t)
		}
	}
	return tests
}

// Reason asks the diagnosis with what was seen and the shop's confirmed causes.
func (c Copy) Reason(seen []diagnosis.Seen, confirmed map[string]int, lacks ...string) diagnosis.In {
	in := diagnosis.In{Causes: []diagnosis.Cause{}, Tests: []diagnosis.Test{}, Seen: seen, Lacks: lacks}
	known := map[string]bool{}
	for _, x := range c.Causes {
		known[x.ID] = true
		in.Causes = append(in.Causes, diagnosis.Cause{ID: x.ID, Says: x.Says, Weight: x.Weight, Action: x.Action,
			Confirmed: confirmed[x.ID]})
	}
	for _, s := range seen {
		in.Lacks = append(in.Lacks, c.lackedBy(s)...)
	}
	for _, x := range c.Tests {
		t := diagnosis.Test{
			ID: x.ID, Says: x.Says, Minutes: x.Minutes, Tools: x.Tools, Needs: x.Needs, Normal: x.Outcomes[0].ID,
			Otherwise: x.byOutcome(x.Otherwise), Given: map[string]map[string]float64{}, Words: map[string]string{},
		}
		for _, o := range x.Outcomes {
			t.Outcomes = append(t.Outcomes, o.ID)
			t.Words[o.ID] = o.Text
		}
		for cause, p := range x.Given {
			if known[cause] {
				t.Given[cause] = x.byOutcome(p)
			}
		}
		in.Tests = append(in.Tests, t)
	}
	return in
}

// lackedBy is what the vehicle cannot do when a test turned out so.
func (c Copy) lackedBy(s diagnosis.Seen) []string {
	for _, t := range c.Tests {
		for _, o := range t.Outcomes {
			if t.ID == s.Test && o.ID == s.Outcome {
				return o.Lacks
			}
		}
	}
	return nil
}

func (t BookTest) byOutcome(p []float64) map[string]float64 {
	named := map[string]float64{}
	for i, o := range t.Outcomes {
		named[o.ID] = p[i]
	}
	return named
}

// Has tells whether the test can turn out so.
func (t BookTest) Has(outcome string) bool {
	return slices.ContainsFunc(t.Outcomes, func(o Outcome) bool { return o.ID == outcome })
}

// Check finds what would make the diagnosis lie: probabilities that do not
// sum, causes that are not in the book.
func (t BookTest) Check(causes, cautions map[string]bool) input.Fields {
	c := Checker{}
	c.ID("id", t.ID)
	c.Text("says", t.Says)
	if len(t.Units) == 0 {
		c.Add("units", "kinds of unit", "the test is for no unit")
	}
	Unique(&c, "outcomes", t.Outcomes, func(o Outcome) string { return o.ID })
	if len(t.Outcomes) < 2 || len(t.Outcomes) > diagnosis.MaxOutcomes {
		c.Add("outcomes", fmt.Sprintf("2 to %d, the normal one first", diagnosis.MaxOutcomes), "%d outcomes",
			len(t.Outcomes))
	}
	for i, x := range t.Cautions {
		if !cautions[x] {
			c.Add(input.Index("cautions", i), "a caution of the book", "%q is not in the cautions", x)
		}
	}
	c.checkConditions("needs", t.Needs)
	for i, o := range t.Outcomes {
		c.checkConditions(input.Join(input.Index("outcomes", i), "lacks"), o.Lacks)
	}
	if t.Minutes < 0 || t.Minutes > 600 {
		c.Add("minutes", "0 (the complaint) to 600", "%g minutes", t.Minutes)
	}
	c.sums("otherwise", t.Otherwise, len(t.Outcomes))
	for cause, p := range t.Given {
		if !causes[cause] {
			c.Add("given."+cause, "a cause of the book", "%q is not one", cause)
		}
		c.sums("given."+cause, p, len(t.Outcomes))
	}
	return c.Fields
}

// sums checks one probability for each outcome, one in sum.
func (c *Checker) sums(at string, p []float64, n int) {
	sum := 0.0
	for _, x := range p {
		if !(x >= 0 && x <= 1) {
			c.Add(at, "probabilities from 0 to 1", "%g is not a probability", x)
			return
		}
		sum += x
	}
	if len(p) != n || sum < 1-1e-6 || sum > 1+1e-6 {
		c.Add(at, "one probability for each outcome, 1 in sum", "%d of %d, %.4g in sum", len(p), n, sum)
	}
}

// Check finds a cause that could never be thought of.
func (x Cause) Check() input.Fields {
	c := Checker{}
	c.ID("id", x.ID)
	c.Text("says", x.Says)
	c.Text("action", x.Action)
	if len(x.Units) == 0 {
		c.Add("units", "kinds of unit", "the cause is for no unit")
	}
	if !(x.Weight > 0 && x.Weight < 1e6) {
		c.Add("weight", "more than zero", "%g is no weight", x.Weight)
	}
	return c.Fields
}

// fill takes a step's items or choices from the book.
func (b Book) fill(s *Step, r Route) {
	for i := range s.Items {
		item := &s.Items[i]
		if item.Answers != "" {
			j := slices.IndexFunc(b.Answers, func(a Answers) bool { return a.ID == item.Answers })
			item.Outcomes = b.Answers[j].Outcomes
		}
		if item.Test != "" && item.Text == "" {
			j := slices.IndexFunc(b.Tests, func(t BookTest) bool { return t.ID == item.Test })
			item.Text, item.Outcomes = b.Tests[j].Says, b.Tests[j].outcomes()
			item.Cautions, item.Needs = b.Tests[j].Cautions, b.Tests[j].Needs
		}
	}
	switch s.FromBook {
	case FromComplaint, FromTests:
		for _, t := range b.testsOf(r) {
			if (t.Minutes == 0) == (s.FromBook == FromComplaint) {
				s.Items = append(s.Items, t.lines(s.FromBook)...)
			}
		}
	case FromCauses:
		for _, x := range b.causesOf(r) {
			s.Choices = append(s.Choices, Choice{ID: x.ID, Text: x.Says})
		}
		s.Choices = append(s.Choices, Choice{ID: OtherCause, Text: "Something else"})
	}
}

// lines are how a test is asked: what the customer tells may be two things.
func (t BookTest) lines(from string) []Item {
	item := Item{ID: t.ID, Text: t.Says, Outcomes: markNormal(t.Outcomes), Test: t.ID, Cautions: t.Cautions,
		Needs: t.Needs}
	if from == FromTests {
		item.Optional, item.Outcomes = true, t.outcomes()
		return []Item{item}
	}
	besides := append([]Outcome{{ID: NothingBesides, Text: "Nothing else", Good: true}}, t.Outcomes[1:]...)
	return []Item{item, {ID: t.ID + secondly, Text: "Anything else?", Outcomes: besides, Test: t.ID + secondly,
		Optional: true}}
}

// outcomes are how a test on the vehicle can turn out; it may be that it could not be done.
func (t BookTest) outcomes() []Outcome {
	return append(markNormal(t.Outcomes), Outcome{ID: CouldNot, Text: "Could not be done, because", Reason: true})
}

// markNormal marks the first outcome as needing no attention.
func markNormal(outcomes []Outcome) []Outcome {
	list := slices.Clone(outcomes)
	list[0].Good = true
	return list
}

// CheckDiagnosis finds what would leave a mechanic stuck where tests are done: a
// route that takes them from the book for a unit the book says too little of,
// or more than the diagnosis can weigh.
func (b Book) CheckDiagnosis(r Route) input.Fields {
	var faults input.Fields
	reasons := func(s Step) bool {
		return s.FromBook != "" || (s.Measure != nil && diagnosis.DiagnoseMethod.Is(s.Measure.Calc))
	}
	if !slices.ContainsFunc(r.Steps(), reasons) {
		return nil
	}
	if n := len(b.causesOf(r)); n < 2 || n > diagnosis.MaxCauses {
		faults.Add(
			"unit_kind", fmt.Sprintf("a kind with 2 to %d causes in the book", diagnosis.MaxCauses),
			"the route diagnoses, and the book has %d causes for a %q", n, r.UnitKind,
		)
	}
	tests := b.testsOf(r)
	complaints := only(tests, func(t BookTest) bool { return t.Minutes == 0 })
	if len(tests) > diagnosis.MaxTests || len(complaints) == 0 || len(complaints) == len(tests) {
		faults.Add(
			"unit_kind", fmt.Sprintf("a kind with a complaint and 1 to %d tests in the book", diagnosis.MaxTests),
			"the book has %d complaints and %d tests for a %q", len(complaints), len(tests)-len(complaints), r.UnitKind,
		)
	}
	return faults
}

// concerns tells whether a cause or test is one for the route's unit.
func (r Route) concerns(id string, units []string) bool {
	return slices.Contains(units, r.UnitKind) && !slices.Contains(r.LeavesOut, id)
}

func (b Book) causesOf(r Route) []Cause {
	return only(b.Causes, func(x Cause) bool { return r.concerns(x.ID, x.Units) })
}

func (b Book) testsOf(r Route) []BookTest {
	return only(b.Tests, func(t BookTest) bool { return r.concerns(t.ID, t.Units) })
}

func only[T any](list []T, keep func(T) bool) []T {
	return slices.DeleteFunc(slices.Clone(list), func(x T) bool { return !keep(x) })
}
