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
	// table[test][outcome][hypothesis] is the likelihood, made once.
	table map[string][][]float64
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
