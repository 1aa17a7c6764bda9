// Package solve holds the two ideas that many chapters share: fitting by
// least squares, and keeping the best few of many candidates.
package solve

import (
	"errors"
	"math"

	"gonum.org/v1/gonum/mat"
)

// Fit is the solution of an overdetermined linear system.
type Fit struct {
	Params    []float64
	Residuals []float64
	RMS       float64 // root mean square of the residuals
	Sigma     float64 // residual standard deviation, sqrt(Σr²/(n-p)); NaN when n = p
	DOF       int     // n - p
	// Spread is (AᵀA)⁻¹: times Sigma² it is the covariance of Params.
	Spread [][]float64
}

// ErrSingular: the rows do not determine the parameters.
var ErrSingular = errors.New("the readings do not determine the answer")

// LeastSquares minimises |A·x - b| by QR factorisation. rows must not be fewer
// than the columns. Source: Golub & Van Loan, Matrix Computations, ch. 5.
func LeastSquares(rows [][]float64, b []float64) (Fit, error) {
	n := len(rows)
	if n == 0 || n < len(rows[0]) || n != len(b) {
		return Fit{}, ErrSingular
	}
	p := len(rows[0])
	a := mat.NewDense(n, p, nil)
	for i, row := range rows {
		a.SetRow(i, row)
	}
	var qr mat.QR
	qr.Factorize(a)
	if qr.Cond() > 1e10 {
		return Fit{}, ErrSingular
	}
	var x mat.VecDense
	if err := qr.SolveVecTo(&x, false, mat.NewVecDense(n, b)); err != nil {
		return Fit{}, ErrSingular
	}
	fit := Fit{Params: x.RawVector().Data, DOF: n - p, Sigma: math.NaN()}
	sum := 0.0
	for i, row := range rows {
		r := b[i]
		for j, v := range row {
			r -= v * fit.Params[j]
		}
		fit.Residuals = append(fit.Residuals, r)
		sum += r * r
	}
	fit.RMS = math.Sqrt(sum / float64(n))
	if fit.DOF > 0 {
		fit.Sigma = math.Sqrt(sum / float64(fit.DOF))
	}
	return fit.withSpread(a)
}

func (f Fit) withSpread(a *mat.Dense) (Fit, error) {
	var normal, inverse mat.Dense
	normal.Mul(a.T(), a)
	if err := inverse.Inverse(&normal); err != nil {
		return f, ErrSingular
	}
	_, p := a.Dims()
	for i := range p {
		f.Spread = append(f.Spread, mat.Row(nil, i, &inverse))
	}
	return f, nil
}

// Weighted scales a row and its value, so that it counts by its weight.
func Weighted(row []float64, b, weight float64) ([]float64, float64) {
	out := make([]float64, len(row))
	for i, v := range row {
		out[i] = v * weight
	}
	return out, b * weight
}
