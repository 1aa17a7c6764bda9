package ringpinion

import (
	"math"
	"slices"

	"handwerk/core/input"
	"handwerk/core/quantity"
	"handwerk/core/solve"
)

// answer is how backlash answers an assembly: b0 + k·place + m·shim + h·preload, for
// under preload the housing gives and lets the ring go. In metres.
type answer struct {
	b0, k, m, h       float64
	spread, givesBack float64 // of k, and of h
}

func (b answer) at(place, shim, preload float64) float64 {
	return b.b0 + b.k*place + b.m*shim + b.h*preload
}

// gives is how far the ring goes for each unit of preload.
func (b answer) gives() *Factor {
	return &Factor{b.h / b.k, b.givesBack / b.k, "this axle's assemblies"}
}

// What a housing gives before anything is known of it, as a share of its preload.
// Found by trials on simulated axles.
const (
	usualGives  = 0.05
	givesSpread = 0.03
)

func (l *Learned) gives() (value, spread float64) {
	if l == nil || l.Gives == nil {
		return usualGives, givesSpread
	}
	return l.Gives.Value, l.Gives.Spread
}

// backlashModel fits the answer to all trials by least squares. The first guesses are
// rows of their own, weighted by how well they are known; deeper is less: m is about
// -k/tan Γ.
func (in TogetherIn) backlashModel(trials []sensed, shimSign float64) (answer, error) {
	guess := in.guess()
	pitch := 75.0
	if in.Geometry != nil {
		pitch = in.Geometry.PitchDeg
	}
	m0 := -shimSign * guess.Value / math.Tan(float64(quantity.Angle(pitch)*quantity.Degree))
	mSpread := math.Max(0.1, math.Abs(m0)*0.3)
	gives, givesSpread := in.Learned.gives()
	var rows [][]float64
	var values []float64
	add := func(row []float64, value, weight float64) {
		r, v := solve.Weighted(row, value, weight)
		rows, values = append(rows, r), append(values, v)
	}
	readable := slices.ContainsFunc(trials, func(t sensed) bool { return t.backlash > jammed })
	for _, t := range trials {
		row := []float64{1, t.place, t.shim, max(0, -t.play)}
		switch {
		case t.backlash > jammed:
			add(row, t.backlash, 1/backlashSigma)
		case !readable:
			add(row, -jammedBy, 1/jammedSigma)
		}
	}
	add([]float64{0, 1, 0, 0}, guess.Value, 1/guess.Spread)
	add([]float64{0, 0, 1, 0}, m0, 1/mSpread)
	add([]float64{0, 0, 0, 1}, gives*guess.Value, 1/(givesSpread*guess.Value))
	// Columns of very different size are scaled to metres over sigma above;
	// b0 itself is free, held only loosely.
	add([]float64{1, 0, 0, 0}, 0, 1)
	fit, err := solve.LeastSquares(rows, values)
	if err != nil {
		return answer{}, input.At("trials", "trials that differ", "these trials are too alike to work out the backlash")
	}
	b := answer{fit.Params[0], fit.Params[1], fit.Params[2], fit.Params[3],
		math.Sqrt(fit.Spread[1][1]), math.Sqrt(fit.Spread[3][3])}
	if b.k < guess.Value/4 { // a wrong sign somewhere; findings say so
		last := trials[len(trials)-1]
		b.k, b.m, b.h, b.spread = guess.Value, m0, 0, guess.Spread
		b.b0 = last.backlash - b.k*last.place - b.m*last.shim
	}
	return b, nil
}
