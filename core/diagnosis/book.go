package diagnosis

import (
	"fmt"
	"math"
	"slices"

	"handwerk/core/input"
)

// Cause is something that may be wrong, with its weight before any test and
// what would be ordered or taken out for it.
type Cause struct {
	ID     string  `json:"id"`
	Says   string  `json:"says"`
	Weight float64 `json:"weight"`
	Action string  `json:"action"`
	// Confirmed counts the shop's own cases.
	Confirmed int `json:"confirmed,omitempty"`
}

// Test has outcomes, one of them normal, and for each cause it speaks to the
// probability of each outcome; other causes have those of Otherwise.
type Test struct {
	ID        string                        `json:"id"`
	Says      string                        `json:"says"`
	Minutes   float64                       `json:"minutes"`
	Tools     []string                      `json:"tools,omitempty"`
	Outcomes  []string                      `json:"outcomes"`
	Words     map[string]string             `json:"words,omitempty"` // outcomes as people say them
	Needs     []string                      `json:"needs,omitempty"` // what the vehicle must be able to: driveable, raised, engine_runs
	Normal    string                        `json:"normal"`
	Otherwise map[string]float64            `json:"otherwise"`
	Given     map[string]map[string]float64 `json:"given"`
}

// Seen is an outcome that was observed. A complaint is a test of no minutes,
// unless the shop itself looked.
type Seen struct {
	Test    string `json:"test"`
	Outcome string `json:"outcome"`
	Own     bool   `json:"own,omitempty"` // the shop's own look, though it takes no minutes
}

// In asks what the outcomes mean.
type In struct {
	Causes    []Cause  `json:"causes"`
	Tests     []Test   `json:"tests"`
	Seen      []Seen   `json:"seen"`
	Lacks     []string `json:"lacks,omitempty"`      // what the vehicle cannot now: tests that need it are not proposed
	PairShare *float64 `json:"pair_share,omitempty"` // weight of all pairs against singles, default 0.1
	Strength  *float64 `json:"strength,omitempty"`   // how many cases the book's weights count for, default 20
}

// Bounds of a book.
const (
	MaxCauses   = 80
	MaxTests    = 100
	MaxOutcomes = 10
	pairShare   = 0.1
	strength    = 20
	// mostPairs leaves something for the single causes.
	mostPairs = 0.9
	// shown next tests; impossible is where nothing fits.
	shownTests = 5
	impossible = 1e-9
)

func (in In) world() (*world, error) {
	w := &world{in: in, index: map[string]int{}, tests: map[string]*Test{}, tables: map[string]table{}}
	var c input.Checks
	in.checkCauses(&c, w)
	in.checkTests(&c, w)
	share := input.Number(&c, "pair_share", input.OrNumber(in.PairShare, pairShare), 0, mostPairs)
	force := input.Number(&c, "strength", input.OrNumber(in.Strength, strength), 0.1, 1e6)
	first := map[string]string{}
	for i, s := range in.Seen {
		at := input.Index("seen", i)
		t, ok := w.tests[s.Test]
		before, twice := first[s.Test]
		first[s.Test] = s.Outcome
		switch {
		case twice && before != s.Outcome:
			c.Add(at+".test", "one outcome a test: leave out the one that was a slip", "%q was seen as %q and as %q",
				s.Test, before, s.Outcome)
		case !ok:
			c.Add(at+".test", "a test of the book", "%q is not one", s.Test)
		case !slices.Contains(t.Outcomes, s.Outcome):
			c.Add(at+".outcome", fmt.Sprint(t.Outcomes), "%q is not an outcome of %q", s.Outcome, t.Says)
		}
	}
	if len(in.Lacks) > MaxTests {
		c.Add("lacks", fmt.Sprintf("up to %d", MaxTests), "%d conditions", len(in.Lacks))
	}
	if len(in.Seen) > MaxTests {
		c.Add("seen", fmt.Sprintf("up to %d", MaxTests), "%d outcomes", len(in.Seen))
	}
	if err := c.Err(); err != nil {
		return nil, err
	}
	w.weigh(share, force)
	return w, nil
}

func (in In) checkCauses(c *input.Checks, w *world) {
	if len(in.Causes) < 2 || len(in.Causes) > MaxCauses {
		c.Add("causes", fmt.Sprintf("2 to %d causes", MaxCauses), "%d causes", len(in.Causes))
		return
	}
	for i, cause := range in.Causes {
		at := input.Index("causes", i)
		if _, twice := w.index[cause.ID]; twice || cause.ID == "" {
			c.Add(at+".id", "an id of its own", "%q is there twice, or empty", cause.ID)
		}
		w.index[cause.ID] = i
		if !(cause.Weight > 0 && cause.Weight < 1e6) {
			c.Add(at+".weight", "more than zero", "%g is no weight", cause.Weight)
		}
		input.Number(c, at+".confirmed", float64(cause.Confirmed), 0, 1e6)
	}
}

func (in In) checkTests(c *input.Checks, w *world) {
	if len(in.Tests) > MaxTests {
		c.Add("tests", fmt.Sprintf("up to %d tests", MaxTests), "%d tests", len(in.Tests))
		return
	}
	for i := range in.Tests {
		t := &in.Tests[i]
		at := input.Index("tests", i)
		if _, twice := w.tests[t.ID]; twice || t.ID == "" {
			c.Add(at+".id", "an id of its own", "%q is there twice, or empty", t.ID)
		}
		w.tests[t.ID] = t
		input.Number(c, at+".minutes", t.Minutes, 0, 10000)
		if len(t.Outcomes) < 2 || len(t.Outcomes) > MaxOutcomes || !slices.Contains(t.Outcomes, t.Normal) {
			c.Add(
				at+".outcomes", fmt.Sprintf("2 to %d outcomes, the normal one among them", MaxOutcomes),
				"%d outcomes, normal %q", len(t.Outcomes), t.Normal,
			)
			continue
		}
		sums(c, at+".otherwise", t.Otherwise, t.Outcomes)
		for id, p := range t.Given {
			if _, ok := w.index[id]; !ok {
				c.Add(at+".given."+id, "a cause of the book", "%q is not one", id)
			}
			sums(c, at+".given."+id, p, t.Outcomes)
		}
	}
}

// sums checks that probabilities name the outcomes and sum to one.
func sums(c *input.Checks, at string, p map[string]float64, outcomes []string) {
	sum := 0.0
	for o, x := range p {
		if !slices.Contains(outcomes, o) || !(x >= 0 && x <= 1) {
			c.Add(at+"."+o, "an outcome with a probability from 0 to 1", "%g cannot be", x)
		}
		sum += x
	}
	if math.Abs(sum-1) > 1e-6 {
		c.Add(at, "probabilities that sum to 1", "they sum to %g", sum)
	}
}
