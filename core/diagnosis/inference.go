package diagnosis

import (
	"math"
	"slices"
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
	// tables are made once for each test that is asked about.
	tables map[string]table
}

// table holds for one test the likelihood of each outcome under every
// hypothesis, and how uncertain the outcome stays under it, in bits.
type table struct {
	of    [][]float64 // [outcome][hypothesis]
	noise []float64
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

// likelihoods of an outcome under every hypothesis.
func (w *world) likelihoods(t *Test, outcome string) []float64 {
	return w.tableOf(t).of[slices.Index(t.Outcomes, outcome)]
}

func (w *world) tableOf(t *Test) table {
	made, ok := w.tables[t.ID]
	if !ok {
		made = w.tabulate(t)
		w.tables[t.ID] = made
	}
	return made
}

// tabulate fills a test's table. Most pairs have two causes that the test says
// nothing of; their row is worked out once.
func (w *world) tabulate(t *Test) table {
	n, normal := len(t.Outcomes), slices.Index(t.Outcomes, t.Normal)
	row := func(p map[string]float64) []float64 {
		list := make([]float64, n)
		for o, name := range t.Outcomes {
			list[o] = p[name]
		}
		return list
	}
	silent := row(t.Otherwise)
	silentPair := joint(make([]float64, n), silent, silent, normal)
	alone, speaks := make([][]float64, len(w.in.Causes)), make([]bool, len(w.in.Causes))
	for i, c := range w.in.Causes {
		alone[i] = silent
		if p, ok := t.Given[c.ID]; ok {
			alone[i], speaks[i] = row(p), true
		}
	}
	out := table{of: make([][]float64, n), noise: make([]float64, len(w.hyps))}
	for o := range out.of {
		out.of[o] = make([]float64, len(w.hyps))
	}
	pair, silentNoise := make([]float64, n), entropy(silentPair)
	for i, h := range w.hyps {
		p := silentPair
		switch {
		case h[1] < 0:
			p = alone[h[0]]
			out.noise[i] = entropy(p)
		case speaks[h[0]] || speaks[h[1]]:
			p = joint(pair, alone[h[0]], alone[h[1]], normal)
			out.noise[i] = entropy(p)
		default:
			out.noise[i] = silentNoise
		}
		for o := range p {
			out.of[o][i] = p[o]
		}
	}
	return out
}

// joint fills p with the distribution of outcomes under a pair of causes.
func joint(p, a, b []float64, normal int) []float64 {
	both, sum := a[normal]*b[normal], 0.0
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
