package clutch

import (
	"encoding/json"
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

func heatOf(t require.TestingT) HeatIn {
	raw, err := examples.ReadFile("examples/clutch-heat.json")
	require.NoError(t, err)
	var in HeatIn
	require.NoError(t, json.Unmarshal(raw, &in))
	return in
}

// The energy against the start played through in small steps of time: what the engine
// puts in at its speed, less what arrives behind the clutch at its own.
func TestHeatAgainstAStartPlayedThrough(t *testing.T) {
	t.Parallel()
	in := heatOf(t)
	out, err := Heat(in)
	require.NoError(t, err)
	mass, radius, ratio := 7500.0, 0.45, 24.0
	engine, torque := 1500*2*math.Pi/60, 420.0
	angle := math.Atan(0.18)
	force := mass * 9.80665 * (math.Sin(angle) + 0.015*math.Cos(angle))
	v, energy, time := 0.0, 0.0, 0.0
	const dt = 1e-5
	for v/radius*ratio < engine {
		energy += torque * (engine - v/radius*ratio) * dt
		v += (torque*ratio/radius - force) / mass * dt
		time += dt
	}
	assert.InDelta(t, time, out.Slip.Value, 1e-4)
	assert.InDelta(t, energy/1e3, out.Energy, 0.01)
	assert.InDelta(t, 0.5*energy/(5*460), out.Rise, 0.01)
	assert.InDelta(t, out.Energy/out.Slip.Value, out.Mean, 1e-9)
	assert.InDelta(t, torque*engine/1e3, out.Peak, 1e-9)
}

// Heat grows with the gradient, and each start is hotter than the one before while the
// room is cooler than the plate.
func TestHeatGrowsWithTheGradient(t *testing.T) {
	t.Parallel()
	rapid.Check(t, func(t *rapid.T) {
		in := heatOf(t)
		low := rapid.Float64Range(-20, 15).Draw(t, "gradient")
		steep := low + rapid.Float64Range(0.1, 8).Draw(t, "more")
		in.Gradient = low
		a, err := Heat(in)
		if err != nil {
			t.Fatal(err)
		}
		in.Gradient = steep
		b, err := Heat(in)
		if err != nil {
			t.Fatal(err)
		}
		if b.Energy <= a.Energy || b.Rise <= a.Rise || *b.InARow > *a.InARow {
			t.Fatalf("steeper is cooler: %v, %v", a, b)
		}
		for i := 1; i < len(b.After); i++ {
			if b.After[i].Value <= b.After[i-1].Value {
				t.Fatalf("start %d is cooler than the one before", i+1)
			}
		}
	})
}

// As many in a row as are said stay within the limit, and one more does not.
func TestHowManyInARow(t *testing.T) {
	t.Parallel()
	in := heatOf(t)
	out, err := Heat(in)
	require.NoError(t, err)
	in.Starts = *out.InARow
	out, err = Heat(in)
	require.NoError(t, err)
	assert.EqualValues(t, "in", out.Verdict)
	in.Starts++
	out, err = Heat(in)
	require.NoError(t, err)
	assert.EqualValues(t, "out", out.Verdict)
	in.Cooling = Time{}
	out, err = Heat(in)
	require.NoError(t, err)
	assert.InDelta(t, 40+float64(in.Starts)*out.Rise, out.Hottest.Value, 1e-6, "nothing cools")
	for field, change := range map[string]func(*HeatIn){
		"it will not start": func(in *HeatIn) { in.Gradient = 90 },
		"gradient_percent":  func(in *HeatIn) { in.Gradient = 101 },
		"ratio":             func(in *HeatIn) { in.Ratio = 0 },
		"starts":            func(in *HeatIn) { in.Starts = -1 },
		"plate_mass":        func(in *HeatIn) { in.Plate = Mass{} },
		"share_to_plate":    func(in *HeatIn) { in.Share = new(1.5) },
	} {
		bad := heatOf(t)
		change(&bad)
		_, err := Heat(bad)
		require.ErrorContains(t, err, field)
	}
}
