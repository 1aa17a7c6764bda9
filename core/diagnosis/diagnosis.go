// Package diagnosis reasons from a complaint and the outcomes of tests to
// causes: which are likely, what spoke for and against, which next test is
// worth its minutes, and when enough is known.
//
// A hypothesis is one cause or a pair of them. Probabilities are judgement and
// say so; a shop's own confirmed causes shift them.
package diagnosis

import (
	"fmt"
	"math"
	"slices"
	"sort"

	"handwerk/core/calculator"
	"handwerk/core/input"
)

// Hypothesis with its probability.
type Hypothesis struct {
	Causes []string `json:"causes"`
	P      float64  `json:"p"`
}

// CauseOut is one cause, alone and in pairs together.
type CauseOut struct {
	ID      string   `json:"id"`
	Says    string   `json:"says"`
	P       float64  `json:"p"`
	For     []string `json:"for"`
	Against []string `json:"against"`
}

// NextTest is a test worth doing.
type NextTest struct {
	ID       string   `json:"id"`
	Says     string   `json:"says"`
	Bits     float64  `json:"bits"`
	Minutes  float64  `json:"minutes"`
	PerMin   float64  `json:"bits_per_minute"`
	Promise  float64  `json:"promise"` // the chance that its answer changes the order or makes it sure
	Tools    []string `json:"tools,omitempty"`
	Needs    []string `json:"needs,omitempty"`
	Decisive bool     `json:"can_change_the_order"`
	// Settles is the outcome after which enough would be known, if there is one.
	Settles string `json:"would_settle,omitempty"`
	// After is what each outcome would make of the causes, before it is known.
	After []Foreseen `json:"after"`
}

// Foreseen is what would be believed after an outcome.
type Foreseen struct {
	Outcome string      `json:"outcome"`
	Chance  float64     `json:"chance"` // that it turns out so
	Causes  []CauseThen `json:"causes"` // the likeliest then
	Action  string      `json:"action"`
	ActionP float64     `json:"action_p"`
}

// CauseThen is a cause with its probability after an outcome.
type CauseThen struct {
	ID string  `json:"id"`
	P  float64 `json:"p"`
}

// Clash says that nothing fits, and what would resolve it.
type Clash struct {
	Outcomes []Seen `json:"outcomes"`
	Misread  *Seen  `json:"if_misread,omitempty"`
	Says     string `json:"says"`
}

// Out is the answer.
type Out struct {
	Causes   []CauseOut   `json:"causes"`
	Leading  []Hypothesis `json:"hypotheses"` // the five likeliest
	Action   string       `json:"action,omitempty"`
	ActionP  float64      `json:"action_p"`
	Next     []NextTest   `json:"next"`
	Enough   bool         `json:"enough_is_known"`
	OwnShare float64      `json:"share_of_own_experience"`
	Clash    *Clash       `json:"clash,omitempty"`
	Says     string       `json:"says"`
}

// Diagnose gives the exact posterior over single causes and pairs:
//
//	P(h | seen) ∝ P(h)·Π P(outcome | h)
//
// Singles weigh as the book says, shifted by the shop's confirmed cases
// (Dirichlet: strength·weight + count); pairs weigh as products. Under a pair
// a test is normal only if it would be for both; what is left is shared among
// the other outcomes by noisy-or. The next test is the one with
// the best chance, per minute, to change what would be ordered or to make it
// sure, then the one with most information (Shannon) per minute, among those the
// vehicle can do now. Enough is known when the shop has done a test of its own,
// the leading order stands at 0.9, and no remaining test can change what would
// be ordered or removed.
// Source: Bayes; Shannon; noisy-or after Pearl (1988).
func Diagnose(in In) (Out, error) {
	w, err := in.world()
	if err != nil {
		return Out{}, err
	}
	post, total := w.posterior(in.Seen)
	out := Out{Causes: []CauseOut{}, Leading: []Hypothesis{}, Next: []NextTest{}, OwnShare: w.ownShare()}
	if total < impossible {
		out.Clash = w.clash()
		out.Says = out.Clash.Says
		return out, nil
	}
	out.Causes = w.causes(post)
	out.Leading = w.leading(post)
	out.Action, out.ActionP = w.action(post)
	var decisive, settles bool
	out.Next, decisive, settles = w.next(post, out.Action)
	own := w.ownTests()
	out.Enough = own > 0 && out.ActionP >= sure && !decisive
	if !out.Enough && own > 0 && !decisive && !settles {
		out.Next = []NextTest{} // none is worth its minutes: the unit has to be opened
	}
	out.Says = fmt.Sprintf(
		"most likely: %s, %d %%",
		out.Causes[0].Says,
		percent(out.Causes[0].P),
	) + out.goesOn(
		own,
		decisive,
	)
	return out, nil
}

// DiagnoseMethod is Diagnose as the catalogue lists it.
var DiagnoseMethod = calculator.Define(examples, calculator.About{
	Name: "diagnose", Version: 3,
	Purpose: "what a complaint and the outcomes of tests mean: likely causes, the next test worth its " +
		"minutes, and when enough is known",
	Formula: "P(h | seen) ∝ P(h)·Π P(outcome | h) over single causes and pairs; next = the best chance per " +
		"minute to change the order or make it sure, then most bits per minute; enough = a test of the " +
		"shop's own, the order at 0.9, and no remaining test changes it; orders that open the same unit count as one",
	Assumes: "outcomes independent given the cause; up to 80 causes and 100 tests; probabilities are " +
		"judgement, shifted by the shop's confirmed cases",
	Sources: []string{"Bayes", "Shannon (1948)", "noisy-or, Pearl (1988)", calculator.Practice},
}, Diagnose)

// sure is how likely the leading order must be before it is placed. Our judgement.
const sure = 0.9

// percent never rounds up: 0.899 is not yet the nine in ten that are enough.
func percent(p float64) int { return int(math.Floor(100*p + 1e-9)) }

// ownTests counts what the shop has tested itself, not what the customer said.
func (w *world) ownTests() int {
	n := 0
	for _, s := range w.in.Seen {
		if s.Own || w.tests[s.Test].Minutes > 0 {
			n++
		}
	}
	return n
}

// goesOn says whether enough is known, or what would make it so.
func (out Out) goesOn(own int, decisive bool) string {
	if out.Enough {
		return "; you know enough: " + out.Action
	}
	settles := slices.IndexFunc(out.Next, func(n NextTest) bool { return n.Settles != "" })
	switch {
	case len(out.Next) == 0:
		return fmt.Sprintf(
			"; no test you can do now would decide it (%d %% sure): open the unit and look before you order",
			percent(out.ActionP),
		)
	case own == 0:
		return "; no tests yet; next: " + out.Next[0].Says
	case decisive:
		return "; next: " + out.Next[0].Says
	case settles >= 0:
		return fmt.Sprintf("; %d %% sure; this would decide it: %s: %s", percent(out.ActionP),
			out.Next[settles].Says, out.Next[settles].Settles)
	}
	return "; next: " + out.Next[0].Says
}

// leastMinutes of a test: even a look takes one.
const leastMinutes = 1

// foreseenCauses is how many causes the preview of an outcome lists.
const foreseenCauses = 12

// marginals are the probabilities of the causes, alone and in pairs together.
func (w *world) marginals(post []float64) []float64 {
	p := make([]float64, len(w.in.Causes))
	for i, h := range w.hyps {
		p[h[0]] += post[i]
		if h[1] >= 0 {
			p[h[1]] += post[i]
		}
	}
	return p
}

// worth is the information a test is expected to give, and what its outcomes
// (of at least one per cent) would do to the order. What an outcome tells of
// the causes is what the causes tell of it:
//
//	I = H(outcome) − Σ P(h)·H(outcome | h)
func (w *world) worth(t *Test, post []float64, action string) (x worth) {
	table := w.tableOf(t)
	after, chances := make([]float64, len(post)), make([]float64, len(t.Outcomes))
	most := 0.0
	_, before := w.action(post)
	for o, id := range t.Outcomes {
		for i, l := range table.of[o] {
			after[i] = post[i] * l
			chances[o] += after[i]
		}
		if chances[o] < 0.01 {
			continue
		}
		for i := range after {
			after[i] /= chances[o]
		}
		other, mass := w.action(after)
		if !SameOrder(other, action) || (mass >= sure && before < sure) {
			x.promise += chances[o]
		}
		x.decisive = x.decisive || !SameOrder(other, action)
		if mass >= sure && chances[o] > most {
			most, x.settles = chances[o], t.word(id)
		}
	}
	x.bits = entropy(chances)
	for i, p := range post {
		x.bits -= p * table.noise[i]
	}
	x.bits = math.Max(0, x.bits)
	return x
}

func (w *world) causes(post []float64) []CauseOut {
	p := w.marginals(post)
	var out []CauseOut
	for i, c := range w.in.Causes {
		o := CauseOut{ID: c.ID, Says: c.Says, P: p[i], For: []string{}, Against: []string{}}
		for _, s := range w.in.Seen {
			w.speak(&o, s, i)
		}
		out = append(out, o)
	}
	sort.SliceStable(out, func(i, j int) bool { return out[i].P > out[j].P })
	return out
}

// speak says whether an outcome is for or against a cause: half as likely
// again under it as on average, or a third less.
func (w *world) speak(o *CauseOut, s Seen, cause int) {
	t := w.tests[s.Test]
	average := 0.0
	for i, l := range w.likelihoods(t, s.Outcome) {
		average += w.prior[i] * l
	}
	ratio := w.given(t, cause)[s.Outcome] / math.Max(average, 1e-12)
	words := t.Says + ": " + t.word(s.Outcome)
	switch {
	case ratio >= 1.5:
		o.For = append(o.For, words)
	case ratio <= 2.0/3:
		o.Against = append(o.Against, words)
	}
}

// word is an outcome as people say it.
func (t *Test) word(outcome string) string {
	if said, ok := t.Words[outcome]; ok {
		return said
	}
	return outcome
}

func (w *world) leading(post []float64) []Hypothesis {
	order := make([]int, len(post))
	for i := range order {
		order[i] = i
	}
	sort.SliceStable(order, func(a, b int) bool { return post[order[a]] > post[order[b]] })
	var out []Hypothesis
	for _, i := range order[:min(5, len(order))] {
		h := Hypothesis{Causes: []string{w.in.Causes[w.hyps[i][0]].ID}, P: post[i]}
		if w.hyps[i][1] >= 0 {
			h.Causes = append(h.Causes, w.in.Causes[w.hyps[i][1]].ID)
		}
		out = append(out, h)
	}
	return out
}

// clash finds the one outcome that, if misread, lets the others fit best.
func (w *world) clash() *Clash {
	c := &Clash{Outcomes: w.in.Seen, Says: "these results contradict each other: check each one again"}
	best := impossible
	for i, s := range w.in.Seen {
		rest := slices.Delete(slices.Clone(w.in.Seen), i, i+1)
		if _, total := w.posterior(rest); total > best {
			best = total
			c.Misread = &w.in.Seen[i]
			c.Says = fmt.Sprintf(
				"these results contradict each other; without %q (%s) they fit: do that test again",
				w.tests[s.Test].Says,
				w.tests[s.Test].word(s.Outcome),
			)
		}
	}
	return c
}

// ownShare is how much of the weights is the shop's own experience.
func (w *world) ownShare() float64 {
	own := 0.0
	for _, c := range w.in.Causes {
		own += float64(c.Confirmed)
	}
	return own / (own + input.OrNumber(w.in.Strength, strength))
}
