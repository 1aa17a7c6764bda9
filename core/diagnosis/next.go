package diagnosis

import (
	"math"
	"slices"
	"sort"
	"strings"
)

// next ranks the tests that can be done now and are not done yet, and tells
// whether any can change the order, or make it sure.
func (w *world) next(post []float64, action string) (list []NextTest, decisive, settles bool) {
	done := map[string]bool{}
	for _, s := range w.in.Seen {
		done[s.Test] = true
	}
	list = []NextTest{}
	for i := range w.in.Tests {
		t := &w.in.Tests[i]
		if done[t.ID] || t.Minutes <= 0 || slices.ContainsFunc(t.Needs,
			func(n string) bool { return slices.Contains(w.in.Lacks, n) }) {
			continue
		}
		x := w.worth(t, post, action)
		decisive, settles = decisive || x.decisive, settles || x.settles != ""
		minutes := math.Max(t.Minutes, leastMinutes)
		list = append(list, NextTest{t.ID, t.Says, x.bits, t.Minutes, x.bits / minutes, x.promise, t.Tools, t.Needs,
			x.decisive, x.settles, nil})
	}
	sort.SliceStable(list, func(i, j int) bool {
		a, b := list[i], list[j]
		if x, y := a.perMinute(), b.perMinute(); x != y {
			return x > y
		}
		return a.PerMin > b.PerMin
	})
	list = list[:min(shownTests, len(list))]
	for i := range list {
		list[i].After = w.foresee(w.tests[list[i].ID], post)
	}
	return list, decisive, settles
}

// perMinute is what a test promises for its time.
func (n NextTest) perMinute() float64 { return n.Promise / math.Max(n.Minutes, leastMinutes) }

// foresee is the posterior after each outcome that a test may have: Bayes.
func (w *world) foresee(t *Test, post []float64) (list []Foreseen) {
	table := w.tableOf(t)
	after := make([]float64, len(post))
	for o, id := range t.Outcomes {
		f := Foreseen{Outcome: id, Causes: []CauseThen{}}
		for i, l := range table.of[o] {
			after[i] = post[i] * l
			f.Chance += after[i]
		}
		if f.Chance > impossible {
			for i := range after {
				after[i] /= f.Chance
			}
			f.Action, f.ActionP = w.action(after)
			for i, p := range w.marginals(after) {
				f.Causes = append(f.Causes, CauseThen{w.in.Causes[i].ID, p})
			}
			sort.SliceStable(f.Causes, func(a, b int) bool { return f.Causes[a].P > f.Causes[b].P })
			f.Causes = f.Causes[:min(foreseenCauses, len(f.Causes))]
		}
		list = append(list, f)
	}
	return list
}

// worth of a test.
type worth struct {
	bits     float64
	promise  float64 // that its answer changes what is ordered, or makes it sure
	decisive bool    // one of its outcomes would change what is ordered
	settles  string  // the outcome that would make an order sure, in words
}

// decidedThere stands behind what is taken off whichever of its causes it is: what is
// ordered is decided once it is open.
const decidedThere = ": the rest is decided there"

// opens is what comes off for an action, "Gearbox off" of "Gearbox off: clutch kit";
// empty where nothing does.
func opens(action string) string {
	opening, _, is := strings.Cut(action, ": ")
	if !is {
		return ""
	}
	return opening
}

// opening is how likely it is that this has to come off.
func (w *world) opening(post []float64, opening string) (p float64) {
	for i, h := range w.hyps {
		if opens(w.actions[w.actionOf[h[0]]]) == opening ||
			(h[1] >= 0 && opens(w.actions[w.actionOf[h[1]]]) == opening) {
			p += post[i]
		}
	}
	return p
}

// SameOrder tells that two actions are one: alike, or one of them leaves the rest to be
// decided where the other opens too.
func SameOrder(a, b string) bool {
	left := strings.HasSuffix(a, decidedThere) || strings.HasSuffix(b, decidedThere)
	return a == b || (left && opens(a) == opens(b))
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
	if opening := opens(w.actions[best]); opening != "" && mass[best] < sure {
		if all := w.opening(post, opening); all >= sure {
			return opening + decidedThere, all
		}
	}
	return w.actions[best], mass[best]
}
