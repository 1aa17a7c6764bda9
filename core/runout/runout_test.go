package runout

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"handwerk/core/quantity"
)

func thou(v float64) Length {
	u, _ := quantity.UnitNamed("thou")
	return quantity.Say(quantity.Length(v)*quantity.Thou, u)
}

func inch(v float64) Length {
	u, _ := quantity.UnitNamed("in")
	return quantity.Say(quantity.Length(v)*quantity.Inch, u)
}

// readings of a bore standing (x, y) thou off, forward from geometry: the
// distance from the crank's axis to the wall of a displaced circle of 3 in
// radius, not its linearised form.
func readings(x, y float64, clocks ...float64) []Reading {
	const radius = 3000.0
	var out []Reading
	zero := 0.0
	for i, clock := range clocks {
		s, c := math.Sincos(angle(clock))
		along := x*s + y*c
		wall := along + math.Sqrt(radius*radius-(x*x+y*y)+along*along)
		if i == 0 {
			zero = wall
		}
		out = append(out, Reading{clock, thou(zero - wall)}) // plunger in: nearer wall, larger reading
	}
	return out
}

var round2 = []float64{12, 3, 6, 9, 12, 3, 6, 9, 12}

func TestAFitRecoversAnyCircle(t *testing.T) {
	t.Parallel()
	rapid.Check(t, func(t *rapid.T) {
		x, y := rapid.Float64Range(-30, 30).Draw(t, "x"), rapid.Float64Range(-30, 30).Draw(t, "y")
		n := rapid.IntRange(3, 24).Draw(t, "places")
		var clocks []float64
		for i := range n {
			clocks = append(clocks, 12*float64(i)/float64(n))
		}
		out, err := Runout(In{Readings: readings(x, y, clocks...), Positive: PlungerIn})
		require.NoError(t, err)
		// The linear form errs by about |offset|²/(2·radius): 0.15 thou at 30 in 3000.
		assert.InDelta(t, x, out.Offset.Right.Value, 0.35)
		assert.InDelta(t, y, out.Offset.Up.Value, 0.35)
	})
}

// Total reading is twice the offset, and the offset is half of the opposite
// difference (common practice).
func TestTotalReadingIsTwiceTheOffset(t *testing.T) {
	t.Parallel()
	out, err := Runout(In{Readings: readings(0, 6, round2...), Positive: PlungerIn})
	require.NoError(t, err)
	assert.InDelta(t, 12, out.TIR.Value, 0.02)
	assert.InDelta(t, 6, out.Offset.Magnitude.Value, 0.02)
	assert.InDelta(t, 12, out.Offset.Clock, 1e-9, "the bore stands up, where the readings are smaller")
	assert.InDelta(t, 0, out.Closure.Value, 1e-9)
	assert.InDelta(t, 0, out.Opposites.Value, 0.05)
}

func TestSenseSagAndSurface(t *testing.T) {
	t.Parallel()
	base, err := Runout(In{Readings: readings(4, -3, round2...), Positive: PlungerIn})
	require.NoError(t, err)
	// A dial that counts the other way.
	var flipped []Reading
	for _, r := range readings(4, -3, round2...) {
		flipped = append(flipped, Reading{r.Clock, thou(-r.Reading.Value)})
	}
	other, err := Runout(In{Readings: flipped, Positive: PlungerOut})
	require.NoError(t, err)
	assert.InDelta(t, base.Offset.Right.Value, other.Offset.Right.Value, 1e-9)
	assert.InDelta(t, base.Offset.Up.Value, other.Offset.Up.Value, 1e-9)
	// An arm that sags 2 thou adds 2·(1-cos t)/2 inside; taken off, nothing is left of it.
	var sagging []Reading
	for _, r := range readings(4, -3, round2...) {
		sagging = append(sagging, Reading{r.Clock, thou(r.Reading.Value + (1 - math.Cos(angle(r.Clock))))})
	}
	sagged, err := Runout(In{Readings: sagging, Positive: PlungerIn, Sag: thou(2)})
	require.NoError(t, err)
	assert.InDelta(t, base.Offset.Up.Value, sagged.Offset.Up.Value, 1e-9)
	outside, err := Runout(In{Readings: readings(4, -3, round2...), Positive: PlungerIn, Surface: Outside})
	require.NoError(t, err)
	assert.InDelta(t, -base.Offset.Right.Value, outside.Offset.Right.Value, 1e-9)
}

func TestShiftAndMirrorLaws(t *testing.T) {
	t.Parallel()
	rapid.Check(t, func(t *rapid.T) {
		x, y, shift := rapid.Float64Range(-20, 20).Draw(t, "x"), rapid.Float64Range(-20, 20).Draw(t,
			"y"), rapid.Float64Range(-50, 50).Draw(t, "shift")
		plain, err := Runout(In{Readings: readings(x, y, round2...), Positive: PlungerIn})
		require.NoError(t, err)
		var shifted, mirrored []Reading
		for _, r := range readings(x, y, round2...) {
			shifted = append(shifted, Reading{r.Clock, thou(r.Reading.Value + shift)})
			mirrored = append(mirrored, Reading{math.Mod(12-r.Clock, 12), r.Reading})
		}
		a, err := Runout(In{Readings: shifted, Positive: PlungerIn})
		require.NoError(t, err)
		assert.InDelta(t, plain.Offset.Right.Value, a.Offset.Right.Value, 1e-6)
		b, err := Runout(In{Readings: mirrored, Positive: PlungerIn})
		require.NoError(t, err)
		assert.InDelta(t, -plain.Offset.Right.Value, b.Offset.Right.Value, 1e-6)
		assert.InDelta(t, plain.Offset.Up.Value, b.Offset.Up.Value, 1e-6)
	})
}

func TestWhatIsNoCircleIsFlagged(t *testing.T) {
	t.Parallel()
	bad := readings(2, 1, round2...)
	bad[2].Reading = thou(bad[2].Reading.Value + 15)
	out, err := Runout(In{Readings: bad, Positive: PlungerIn})
	require.NoError(t, err)
	require.NotEmpty(t, out.Findings)
	three, err := Runout(In{Readings: readings(2, 1, 12, 4, 8), Positive: PlungerIn})
	require.NoError(t, err)
	assert.Contains(t, three.Findings[0], "three readings prove nothing")
	assert.False(t, three.Uncertainty.IsSaid())
}

func TestRunoutNamesTheBadField(t *testing.T) {
	t.Parallel()
	good := In{Readings: readings(2, 1, round2...), Positive: PlungerIn}
	for says, change := range map[string]func(*In){
		"readings: 2 readings":         func(in *In) { in.Readings = in.Readings[:2] },
		"all readings are at 2 places": func(in *In) { in.Readings = readings(1, 1, 12, 6, 12, 6) },
		"stand too close":              func(in *In) { in.Readings = readings(1, 1, 12, 0.000001, 0.000002) },
		"positive:":                    func(in *In) { in.Positive = "" },
		"surface:":                     func(in *In) { in.Surface = "edge" },
		"readings[1].clock: 13":        func(in *In) { in.Readings[1].Clock = 13 },
		"readings[1].reading":          func(in *In) { in.Readings[1].Reading = inch(2) },
		"sag:":                         func(in *In) { in.Sag = inch(3) },
	} {
		in := good
		in.Readings = append([]Reading(nil), good.Readings...)
		change(&in)
		_, err := Runout(in)
		require.ErrorContains(t, err, says)
	}
}

func BenchmarkRunout(b *testing.B) {
	in := In{Readings: readings(-6.5, 7, round2...), Positive: PlungerIn}
	for b.Loop() {
		if _, err := Runout(in); err != nil {
			b.Fatal(err)
		}
	}
}

// The worst direction of the centre, found by looking every way: readings all
// on one side know one direction well and the other badly.
func TestTheUncertaintyIsThatOfTheWorstDirection(t *testing.T) {
	t.Parallel()
	in := In{Positive: PlungerIn}
	for i, clock := range []float64{10, 10.5, 11, 11.5, 12, 0.7, 1.9, 3.2} {
		in.Readings = append(in.Readings, Reading{clock, thou(3*math.Sin(float64(i)) + 0.3*float64(i%3))})
	}
	c, err := in.fit()
	require.NoError(t, err)
	worst := 0.0
	for deg := 0.0; deg < 180; deg += 0.05 {
		s, k := math.Sincos(deg * math.Pi / 180)
		worst = math.Max(worst, s*s*c.fit.Spread[1][1]+k*k*c.fit.Spread[2][2]+2*s*k*c.fit.Spread[1][2])
	}
	// Student's t for 5 degrees of freedom at 95 %, two-sided: 2.571 (any table).
	assert.InEpsilon(t, 2.571*math.Sqrt(worst)*c.fit.Sigma, c.expanded, 1e-3)
	assert.Greater(t, worst, 1.05*math.Max(c.fit.Spread[1][1], c.fit.Spread[2][2]),
		"neither axis is the worst direction here")
}
