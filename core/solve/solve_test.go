package solve

import (
	"math"
	"sort"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"gonum.org/v1/gonum/stat"
	"pgregory.net/rapid"
)

// A straight line against gonum's own regression, used independently.
func TestALineAgreesWithGonumRegression(t *testing.T) {
	t.Parallel()
	rapid.Check(t, func(t *rapid.T) {
		n := rapid.IntRange(3, 30).Draw(t, "n")
		var xs, ys []float64
		var rows [][]float64
		for i := range n {
			x := float64(i) + rapid.Float64Range(-0.4, 0.4).Draw(t, "x")
			xs, ys = append(xs, x), append(ys, rapid.Float64Range(-10, 10).Draw(t, "y"))
			rows = append(rows, []float64{1, x})
		}
		fit, err := LeastSquares(rows, ys)
		require.NoError(t, err)
		alpha, beta := stat.LinearRegression(xs, ys, nil, false)
		assert.InDelta(t, alpha, fit.Params[0], 1e-8)
		assert.InDelta(t, beta, fit.Params[1], 1e-8)
		// Spread of the slope: 1/Σ(x-x̄)².
		assert.InDelta(t, 1/(stat.Variance(xs, nil)*float64(n-1)), fit.Spread[1][1], 1e-9)
		sum := 0.0
		for _, r := range fit.Residuals {
			sum += r
		}
		assert.InDelta(t, 0, sum, 1e-7, "residuals of a fit with a constant sum to zero")
	})
}

func TestWhatDoesNotDetermineIsSaid(t *testing.T) {
	t.Parallel()
	for _, rows := range [][][]float64{nil, {{1, 2}}, {{1, 1}, {1, 1}, {1, 1}}} {
		_, err := LeastSquares(rows, make([]float64, len(rows)))
		assert.ErrorIs(t, err, ErrSingular)
	}
	exact, err := LeastSquares([][]float64{{1, 0}, {1, 1}}, []float64{2, 5})
	require.NoError(t, err)
	assert.InDelta(t, 3, exact.Params[1], 1e-12)
	assert.True(t, math.IsNaN(exact.Sigma), "two points say nothing of their noise")
}

func TestBestFewIsTheHeadOfTheSortedList(t *testing.T) {
	t.Parallel()
	rapid.Check(t, func(t *rapid.T) {
		values := rapid.SliceOf(rapid.IntRange(0, 50)).Draw(t, "values")
		few := BestFew(5, func(a, b int) bool { return a < b })
		for _, v := range values {
			few.Offer(v)
		}
		sort.Ints(values)
		assert.Equal(t, append([]int(nil), values[:min(5, len(values))]...), append([]int(nil), few.Best()...))
	})
}
