package runout

import (
	"math"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

// refitted is a housing whose bore went where two dowels brought it, one of them turned
// on by some degrees. A bore moves by the mean of both dowels less what the twist between
// them turns it: plane kinematics, worked out here with a rotation of the two holes.
func refitted(short [2]float64) HousingIn {
	places := [2][2]float64{{-5000, 4000}, {5000, -4000}} // thou
	set := [2]Dowel{{thou(14), 4}, {thou(14), 7}}
	moved := func(extra [2]float64) (x, y float64) {
		var ox, oy [2]float64
		for i, d := range set {
			s, c := math.Sincos((d.Clock*30 + extra[i]) * math.Pi / 180)
			ox[i], oy[i] = 14*s, 14*c
		}
		// The line through both holes before and after: its turn, and where its middle went.
		before := math.Atan2(places[1][1]-places[0][1], places[1][0]-places[0][0])
		after := math.Atan2(places[1][1]+oy[1]-places[0][1]-oy[0], places[1][0]+ox[1]-places[0][0]-ox[0])
		mx, my := (places[0][0]+places[1][0])/2, (places[0][1]+places[1][1])/2
		turn := after - before
		return (ox[0]+ox[1])/2 + turn*my, (oy[0]+oy[1])/2 - turn*mx
	}
	wantX, wantY := moved([2]float64{})
	x, y := moved(short)
	in := HousingIn{
		Dowels:     []Point{{thou(-5000), thou(4000)}, {thou(5000), thou(-4000)}},
		DowelSizes: []Length{thou(14)},
		Before: &Before{
			Right:         thou(0),
			Up:            thou(0),
			ExpectedRight: thou(wantX),
			ExpectedUp:    thou(wantY),
			Dowels:        set[:],
		},
	}
	in.Positive = PlungerIn
	for _, clock := range []float64{12, 3, 6, 9, 12} {
		s, c := math.Sincos(clock * 30 * math.Pi / 180)
		in.Readings = append(in.Readings, Reading{clock, thou(y - x*s - y*c)})
	}
	return in
}

// A dowel that was not turned home is named with how far it stands off; two that are, or
// a refit that did what it should, are not explained away.
func TestADowelThatStandsShort(t *testing.T) {
	t.Parallel()
	found := func(short [2]float64) string {
		out, err := Bellhousing(refitted(short))
		require.NoError(t, err)
		return strings.Join(out.Findings, "; ")
	}
	assert.Contains(t, found([2]float64{-20, 0}), "the upper dowel stands 20 degrees short of 4 o'clock")
	assert.Contains(t, found([2]float64{0, 15}), "the lower dowel stands 15 degrees past 7 o'clock")
	assert.NotContains(t, found([2]float64{0, 0}), "dowel stands")
	assert.NotContains(t, found([2]float64{-40, 40}), "dowel stands")
}

func TestAnyDowelThatStandsShortIsFound(t *testing.T) {
	t.Parallel()
	rapid.Check(t, func(t *rapid.T) {
		deg := rapid.Float64Range(8, 50).Draw(t, "deg")
		if rapid.Bool().Draw(t, "short") {
			deg = -deg
		}
		which := rapid.IntRange(0, 1).Draw(t, "which")
		var short [2]float64
		short[which] = deg
		out, err := Bellhousing(refitted(short))
		require.NoError(t, err)
		assert.Contains(t, strings.Join(out.Findings, "; "), []string{"the upper", "the lower"}[which]+" dowel stands")
	})
}
