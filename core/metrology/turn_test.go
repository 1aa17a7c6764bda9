package metrology

import (
	"math"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

// circleAt is what a dial shows on a bore that is off, by the law of an eccentric
// circle: r0 - (x sin t + y cos t). It shares no code with the follower.
func circleAt(x, y, part float64) float64 {
	return y - x*math.Sin(2*math.Pi*part) - y*math.Cos(2*math.Pi*part)
}

// A turn that a hand makes in its own time, with noise, gives the circle back.
func TestATurnIsFollowed(t *testing.T) {
	t.Parallel()
	rapid.Check(t, func(t *rapid.T) {
		x, y := rapid.Float64Range(-0.3, 0.3).Draw(t, "x"), rapid.Float64Range(-0.3, 0.3).Draw(t, "y")
		rng := rand.New(rand.NewPCG(rapid.Uint64().Draw(t, "seed"), 1))
		var f TurnFollower
		var got []TurnPoint
		for n, part := 0, 0.9; got == nil && n < 2000; n++ {
			part += 0.003 + 0.004*rng.Float64()
			wrapped := math.Mod(part, 1)
			turn, is := f.Take(float64(n)/50, circleAt(x, y, wrapped)+0.001*rng.NormFloat64(), wrapped)
			if is {
				got = turn
			}
		}
		require.Len(t, got, 25)
		for _, p := range got {
			assert.InDelta(t, circleAt(x, y, p.Part), p.Value, 0.004, "at %v", p.Part)
		}
	})
}

// With marks alone an even turn does the same; the start and the way back agree
// unless the base slipped.
func TestATurnBetweenMarks(t *testing.T) {
	t.Parallel()
	follow := func(slip float64) []TurnPoint {
		var f TurnFollower
		f.Mark(1)
		for n := range 200 {
			part := float64(n) / 200
			v := circleAt(0.1, -0.05, part)
			if part > 0.6 {
				v += slip
			}
			_, ended := f.Take(1+4*part, v, math.NaN())
			require.False(t, ended)
		}
		turn, is := f.Mark(5)
		require.True(t, is)
		return turn
	}
	for _, p := range follow(0) {
		assert.InDelta(t, circleAt(0.1, -0.05, p.Part), p.Value, 0.002)
	}
	slipped := follow(0.15)
	assert.InDelta(t, 0.15, slipped[24].Value-slipped[0].Value, 0.004)
}

// A turn with a hole, a few readings or a break in it is none.
func TestATurnThatIsNone(t *testing.T) {
	t.Parallel()
	for name, play := range map[string]func(f *TurnFollower){
		"few": func(f *TurnFollower) {
			for n := range 20 {
				f.Take(float64(n), 0, float64(n)/20)
			}
		},
		"hole": func(f *TurnFollower) {
			for n := range 100 {
				if n < 30 || n > 50 {
					f.Take(float64(n), 0, float64(n)/100)
				}
			}
		},
		"broken": func(f *TurnFollower) {
			for n := range 100 {
				f.Take(float64(n), 0, float64(n)/100)
			}
			f.Break()
		},
	} {
		var f TurnFollower
		f.Mark(0)
		play(&f)
		_, is := f.Mark(200)
		assert.False(t, is, name)
	}
}
