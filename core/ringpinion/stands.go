package ringpinion

import (
	"fmt"
	"math"
	"slices"

	"handwerk/core/metrology"
)

// same tells that nothing was moved between two trials.
func (t sensed) same(o sensed) bool { return t.shim == o.shim && t.sum == o.sum && t.place == o.place }

// readAgain tells that the last assembly was read before, just as it is.
func readAgain(trials []sensed) bool {
	n := len(trials)
	return n > 1 && trials[n-1].same(trials[n-2])
}

// together is the last assembly by the mean of all its readings.
func together(trials []sensed) sensed {
	mean := trials[len(trials)-1]
	n := 1.0
	for i := len(trials) - 2; i >= 0 && trials[i].same(mean) && trials[i].hasDepth == mean.hasDepth; i-- {
		t := trials[i]
		n++
		mean.backlash += (t.backlash - mean.backlash) / n
		mean.play += (t.play - mean.play) / n
		mean.depth += (t.depth - mean.depth) / n
	}
	return mean
}

// judge holds an assembly against its limits, with what single readings scatter.
func (in TogetherIn) judge(t sensed) metrology.Verdict {
	all := []metrology.Verdict{
		atEdge(t.backlash, backlashSigma, float64(in.BacklashMin.SI()), float64(in.BacklashMax.SI())),
		atEdge(t.play, depthSigma, float64(in.PlayMin.SI()), float64(in.PlayMax.SI())),
	}
	if required, tol := float64(in.Required.SI()), float64(in.DepthTol.SI()); t.hasDepth {
		all = append(all, atEdge(t.depth, depthSigma, required-tol, required+tol))
	} else if math.Abs(t.pinionError) > centred {
		return metrology.Out
	}
	switch {
	case slices.Contains(all, metrology.Out):
		return metrology.Out
	case slices.Contains(all, metrology.Undecided):
		return metrology.Undecided
	}
	return metrology.In
}

// atEdge judges a reading with twice its scatter; never with more than an eighth
// of what it may lie between, for no gauge is bought that says less (the old
// rule of ten to one, and of four to one at least: common practice).
func atEdge(value, sigma, low, high float64) metrology.Verdict {
	return metrology.Judge(value, math.Min(2*sigma, (high-low)/8), metrology.Limits{Lower: low, Upper: high})
}

// findings compare each refit with the move that was made.
func (in TogetherIn) findings(trials []sensed) []string {
	out := []string{}
	if last := trials[len(trials)-1]; !last.hasDepth {
		out = append(
			out,
			fmt.Sprintf(
				"trial %d has no measured depth: its forecast comes from the pattern and is rough",
				len(trials),
			),
		)
	}
	if last := trials[len(trials)-1]; last.backlash <= jammed {
		out = append(
			out,
			"no backlash: the flanks touch, and how far they are pressed is not known; the next assembly takes the ring away and may need one more",
		)
	}
	for i := 1; i < len(trials); i++ {
		moved, grew := trials[i].place-trials[i-1].place, trials[i].backlash-trials[i-1].backlash
		sameShim := math.Abs(trials[i].shim-trials[i-1].shim) < 20e-6
		if sameShim && math.Abs(moved) > 50e-6 && moved*grew < 0 {
			out = append(
				out,
				fmt.Sprintf(
					"from trial %d to %d the backlash went the wrong way: check the side of the ring, and that the packs were not swapped",
					i,
					i+1,
				),
			)
		}
	}
	return out
}
