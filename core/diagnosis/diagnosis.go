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

	"handwerk/core/fault"
	"handwerk/core/need"
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
	Normal    string                        `json:"normal"`
	Otherwise map[string]float64            `json:"otherwise"`
	Given     map[string]map[string]float64 `json:"given"`
}

// Seen is an outcome that was observed. A complaint is a test of no minutes.
type Seen struct {
	Test    string `json:"test"`
	Outcome string `json:"outcome"`
}

// In asks what the outcomes mean.
type In struct {
	Causes    []Cause `json:"causes"`
	Tests     []Test  `json:"tests"`
	Seen      []Seen  `json:"seen"`
	PairShare float64 `json:"pair_share,omitempty"` // weight of all pairs against singles, default 0.1
	Strength  float64 `json:"strength,omitempty"`   // how many cases the book's weights count for, default 20
}

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
	Tools    []string `json:"tools,omitempty"`
	Decisive bool     `json:"can_change_the_order"`
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

// Bounds of a book.
const (
	maxCauses   = 80
	maxTests    = 100
	maxOutcomes = 6
	pairShare   = 0.1
	strength    = 20
	// shown next tests; impossible is where nothing fits.
	shownTests = 5
	impossible = 1e-9
)

// world is a checked book with the prior of every hypothesis.
type world struct {
	in    In
	index map[string]int // cause -> index
	tests map[string]*Test
	hyps  [][2]int // second is -1 for a single
	// actions lists what can be ordered; actionOf gives it for each cause.
	actions  []string
	actionOf []int
	prior    []float64
	// table[test][outcome][hypothesis] is the likelihood, made once.
	table map[string][][]float64
}

// Diagnose gives the exact posterior over single causes and pairs:
//
//	P(h | seen) ∝ P(h)·Π P(outcome | h)
//
// Singles weigh as the book says, shifted by the shop's confirmed cases
// (Dirichlet: strength·weight + count); pairs weigh as products. Under a pair
// a test is normal only if it would be for both; what is left is shared among
// the other outcomes by noisy-or. The next test is the one with most
// information (Shannon) per minute; enough is known when no remaining test can
// change what would be ordered or removed.
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
	out.Next, out.Enough = w.next(post, out.Action)
	out.Says = fmt.Sprintf("%s first, %.0f %%", out.Causes[0].Says, 100*out.Causes[0].P)
	switch {
	case out.Enough:
		out.Says += "; enough is known: " + out.Action
	case len(out.Next) > 0:
		out.Says += "; next: " + out.Next[0].Says
	}
	return out, nil
}

// likelihoods of an outcome under every hypothesis.
func (w *world) likelihoods(t *Test, outcome string) []float64 {
	table, made := w.table[t.ID]
	if !made {
		table = w.tabulate(t)
		w.table[t.ID] = table
	}
	return table[slices.Index(t.Outcomes, outcome)]
}

// tabulate fills a test's likelihoods for every outcome and hypothesis.
func (w *world) tabulate(t *Test) [][]float64 {
	n, normal := len(t.Outcomes), slices.Index(t.Outcomes, t.Normal)
	alone := make([][]float64, len(w.in.Causes))
	for i := range alone {
		given := w.given(t, i)
		for _, o := range t.Outcomes {
			alone[i] = append(alone[i], given[o])
		}
	}
	table := make([][]float64, n)
	for o := range table {
		table[o] = make([]float64, len(w.hyps))
	}
	for i, h := range w.hyps {
		for o, p := range joint(alone[h[0]], alone, h[1], normal) {
			table[o][i] = p
		}
	}
	return table
}

// joint is the distribution of outcomes under one cause or a pair.
func joint(a []float64, alone [][]float64, second, normal int) []float64 {
	if second < 0 {
		return a
	}
	b := alone[second]
	both, sum := a[normal]*b[normal], 0.0
	p := make([]float64, len(a))
	for o := range a {
		if o != normal {
			p[o] = 1 - (1-a[o])*(1-b[o])
			sum += p[o]
		}
	}
	for o := range p {
		if o != normal && sum > 0 {
			p[o] *= (1 - both) / sum
		}
	}
	p[normal] = both
	return p
}

func (w *world) given(t *Test, cause int) map[string]float64 {
	if p, ok := t.Given[w.in.Causes[cause].ID]; ok {
		return p
	}
	return t.Otherwise
}

// posterior of every hypothesis, normalised, with the total before that.
func (w *world) posterior(seen []Seen) ([]float64, float64) {
	post := slices.Clone(w.prior)
	for _, s := range seen {
		for i, p := range w.likelihoods(w.tests[s.Test], s.Outcome) {
			post[i] *= p
		}
	}
	total := 0.0
	for _, p := range post {
		total += p
	}
	if total > 0 {
		for i := range post {
			post[i] /= total
		}
	}
	return post, total
}

func entropy(p []float64) float64 {
	h := 0.0
	for _, x := range p {
		if x > 0 {
			h -= x * math.Log2(x)
		}
	}
	return h
}

// next ranks the tests not done yet and tells whether any can change the order.
func (w *world) next(post []float64, action string) ([]NextTest, bool) {
	now := entropy(post)
	done := map[string]bool{}
	for _, s := range w.in.Seen {
		done[s.Test] = true
	}
	list, enough := []NextTest{}, true
	for i := range w.in.Tests {
		t := &w.in.Tests[i]
		if done[t.ID] || t.Minutes <= 0 {
			continue
		}
		bits, decisive := w.worth(t, post, now, action)
		enough = enough && !decisive
		list = append(list, NextTest{t.ID, t.Says, bits, t.Minutes, bits / t.Minutes, t.Tools, decisive})
	}
	sort.SliceStable(list, func(i, j int) bool {
		if list[i].Decisive != list[j].Decisive {
			return list[i].Decisive
		}
		return list[i].PerMin > list[j].PerMin
	})
	return list[:min(shownTests, len(list))], enough
}

// worth is the information a test is expected to give, and whether one of its
// outcomes (of at least one per cent) would change what is ordered.
func (w *world) worth(t *Test, post []float64, now float64, action string) (bits float64, decisive bool) {
	after := make([]float64, len(post))
	for _, o := range t.Outcomes {
		p := 0.0
		for i, l := range w.likelihoods(t, o) {
			after[i] = post[i] * l
			p += after[i]
		}
		if p <= 0 {
			continue
		}
		for i := range after {
			after[i] /= p
		}
		bits += p * (now - entropy(after))
		if p >= 0.01 {
			if other, _ := w.action(after); other != action {
				decisive = true
			}
		}
	}
	return math.Max(0, bits), decisive
}

// action with the most probability behind it; a pair stands for both of its.
func (w *world) action(post []float64) (string, float64) {
	mass := make([]float64, len(w.actions))
	for i, h := range w.hyps {
		first := w.actionOf[h[0]]
		mass[first] += post[i]
		if h[1] >= 0 && w.actionOf[h[1]] != first {
			mass[w.actionOf[h[1]]] += post[i]
		}
	}
	best := 0
	for a := range mass {
		if mass[a] > mass[best] {
			best = a
		}
	}
	return w.actions[best], mass[best]
}

func (w *world) causes(post []float64) []CauseOut {
	p := make([]float64, len(w.in.Causes))
	for i, h := range w.hyps {
		p[h[0]] += post[i]
		if h[1] >= 0 {
			p[h[1]] += post[i]
		}
	}
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
	words := t.Says + ": " + s.Outcome
	switch {
	case ratio >= 1.5:
		o.For = append(o.For, words)
	case ratio <= 2.0/3:
		o.Against = append(o.Against, words)
	}
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
	c := &Clash{Outcomes: w.in.Seen, Says: "nothing in the book fits these outcomes together: look again at each"}
	best := impossible
	for i, s := range w.in.Seen {
		rest := slices.Delete(slices.Clone(w.in.Seen), i, i+1)
		if _, total := w.posterior(rest); total > best {
			best = total
			c.Misread = &w.in.Seen[i]
			c.Says = fmt.Sprintf("nothing in the book fits these outcomes together; if %q was misread (%s), the others fit: do that test again", w.tests[s.Test].Says, s.Outcome)
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
	return own / (own + need.OrNumber(w.in.Strength, strength))
}

func (in In) world() (*world, error) {
	w := &world{in: in, index: map[string]int{}, tests: map[string]*Test{}, table: map[string][][]float64{}}
	var c need.Checks
	in.checkCauses(&c, w)
	in.checkTests(&c, w)
	share := need.Number(&c, "pair_share", need.OrNumber(in.PairShare, pairShare), 0, 1)
	force := need.Number(&c, "strength", need.OrNumber(in.Strength, strength), 0.1, 1e6)
	for i, s := range in.Seen {
		at := fault.Index("seen", i)
		t, ok := w.tests[s.Test]
		switch {
		case !ok:
			c.Add(at+".test", "a test of the book", "%q is not one", s.Test)
		case !slices.Contains(t.Outcomes, s.Outcome):
			c.Add(at+".outcome", fmt.Sprint(t.Outcomes), "%q is not an outcome of %q", s.Outcome, t.Says)
		}
	}
	if len(in.Seen) > maxTests {
		c.Add("seen", fmt.Sprintf("up to %d", maxTests), "%d outcomes", len(in.Seen))
	}
	if err := c.Err(); err != nil {
		return nil, err
	}
	w.weigh(share, force)
	return w, nil
}

// weigh makes the priors: singles, then pairs as products, in the given share.
func (w *world) weigh(share, force float64) {
	sum := 0.0
	for _, c := range w.in.Causes {
		sum += c.Weight
		at := slices.Index(w.actions, c.Action)
		if at < 0 {
			at = len(w.actions)
			w.actions = append(w.actions, c.Action)
		}
		w.actionOf = append(w.actionOf, at)
	}
	single := make([]float64, len(w.in.Causes))
	total := 0.0
	for i, c := range w.in.Causes {
		single[i] = force*c.Weight/sum + float64(c.Confirmed)
		total += single[i]
	}
	pairs := 0.0
	for i := range single {
		single[i] /= total
		w.hyps, w.prior = append(w.hyps, [2]int{i, -1}), append(w.prior, single[i])
	}
	first := len(w.hyps)
	for i := range single {
		for j := i + 1; j < len(single); j++ {
			w.hyps, w.prior = append(w.hyps, [2]int{i, j}), append(w.prior, single[i]*single[j])
			pairs += single[i] * single[j]
		}
	}
	for i := range w.prior {
		if i < first {
			w.prior[i] *= 1 - share
		} else if pairs > 0 {
			w.prior[i] *= share / pairs
		}
	}
}

func (in In) checkCauses(c *need.Checks, w *world) {
	if len(in.Causes) < 2 || len(in.Causes) > maxCauses {
		c.Add("causes", fmt.Sprintf("2 to %d causes", maxCauses), "%d causes", len(in.Causes))
		return
	}
	for i, cause := range in.Causes {
		at := fault.Index("causes", i)
		if _, twice := w.index[cause.ID]; twice || cause.ID == "" {
			c.Add(at+".id", "an id of its own", "%q is there twice, or empty", cause.ID)
		}
		w.index[cause.ID] = i
		if !(cause.Weight > 0 && cause.Weight < 1e6) {
			c.Add(at+".weight", "more than zero", "%g is no weight", cause.Weight)
		}
		need.Number(c, at+".confirmed", float64(cause.Confirmed), 0, 1e6)
	}
}

func (in In) checkTests(c *need.Checks, w *world) {
	if len(in.Tests) > maxTests {
		c.Add("tests", fmt.Sprintf("up to %d tests", maxTests), "%d tests", len(in.Tests))
		return
	}
	for i := range in.Tests {
		t := &in.Tests[i]
		at := fault.Index("tests", i)
		if _, twice := w.tests[t.ID]; twice || t.ID == "" {
			c.Add(at+".id", "an id of its own", "%q is there twice, or empty", t.ID)
		}
		w.tests[t.ID] = t
		need.Number(c, at+".minutes", t.Minutes, 0, 10000)
		if len(t.Outcomes) < 2 || len(t.Outcomes) > maxOutcomes || !slices.Contains(t.Outcomes, t.Normal) {
			c.Add(at+".outcomes", fmt.Sprintf("2 to %d outcomes, the normal one among them", maxOutcomes), "%d outcomes, normal %q", len(t.Outcomes), t.Normal)
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
func sums(c *need.Checks, at string, p map[string]float64, outcomes []string) {
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
