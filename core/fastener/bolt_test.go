package fastener

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"handwerk/core/quantity"
	"handwerk/core/quantity/quantitytest"
)

// The table, entered from memory, against the formula of ISO 898-1 and a
// second derivation: the mean of pitch and minor diameter of ISO 724,
// d2 = d - 0.6495 P and d3 = d - 1.2269 P.
func TestStressAreasOfTheTable(t *testing.T) {
	t.Parallel()
	second := func(d, p float64) float64 { return math.Pi / 4 * math.Pow((d-0.6495*p+d-1.2269*p)/2, 2) }
	for _, size := range threads {
		assert.InEpsilon(t, size.areaCoarse, stressArea(size.d, size.coarse), 0.006, "M%g", size.d)
		assert.InEpsilon(t, stressArea(size.d, size.coarse), second(size.d, size.coarse), 1e-4)
		if len(size.fine) > 0 {
			assert.InEpsilon(t, size.areaFine, stressArea(size.d, size.fine[0]), 0.006, "M%g fine", size.d)
		}
	}
}

// ISO 898-1 table 5 prints proof loads: M10 class 8.8 33 700 N, M12 10.9
// 70 000 N, M20 8.8 147 000 N (from memory).
func TestProofLoads(t *testing.T) {
	t.Parallel()
	for _, tt := range []struct {
		d, class string
		load     float64
	}{{"10 mm", "8.8", 33700}, {"12 mm", "10.9", 70000}, {"20 mm", "8.8", 147000}, {"8 mm", "12.9", 35500}} {
		out, err := BoltTorque(BoltIn{Diameter: quantitytest.Said[quantity.Length](t, tt.d), Class: tt.class})
		require.NoError(t, err)
		assert.InEpsilon(t, tt.load, out.Proof.Value, 0.005, tt.d)
	}
}

// T = K·d·F by hand: M10 8.8 at 75 % of 33 631 N, K 0.20: 50.4 N·m.
func TestTorqueByHand(t *testing.T) {
	t.Parallel()
	out, err := BoltTorque(BoltIn{Diameter: quantitytest.Said[quantity.Length](t, "10 mm"), Class: "8.8"})
	require.NoError(t, err)
	assert.InDelta(t, 50.45, out.Torque.Value, 0.1)
	back, err := BoltTorque(BoltIn{Diameter: quantitytest.Said[quantity.Length](t, "10 mm"), Class: "8.8",
		Torque: out.Torque})
	require.NoError(t, err)
	assert.InDelta(t, 0.75, back.Share, 0.001)
	over, err := BoltTorque(
		BoltIn{
			Diameter: quantitytest.Said[quantity.Length](t, "10 mm"), Class: "8.8",
			Torque: quantitytest.Said[quantity.Torque](t, "90 N·m"), Lubrication: "anti_seize",
		},
	)
	require.NoError(t, err)
	assert.NotEmpty(t, over.Findings)
}

// By hand: 25 223 N over 40 mm of M10 (58.0 mm²) stretch 0.0845 mm, 20.3° of a
// pitch of 1.5 mm; and the strain energy's derivative gives the same stretch.
func TestTurnFromSnug(t *testing.T) {
	t.Parallel()
	out, err := BoltTorque(
		BoltIn{
			Diameter: quantitytest.Said[quantity.Length](t, "10 mm"), Class: "8.8",
			Grip: quantitytest.Said[quantity.Length](t, "40 mm"),
		},
	)
	require.NoError(t, err)
	assert.InDelta(t, 20.3, out.TurnDeg, 0.1)
	energy := func(f float64) float64 { return f * f * 40 / (2 * 58 * boltSteel) }
	stretch := (energy(25224) - energy(25222)) / 2
	assert.InDelta(t, stretch/1.5*360, out.TurnDeg, 0.05)
}

// M14 x 1.5 is tapped in a 12.5 mm hole (common practice).
func TestTapDrill(t *testing.T) {
	t.Parallel()
	out, err := TapDrill(TapIn{quantitytest.Said[quantity.Length](t, "14 mm"),
		quantitytest.Said[quantity.Length](t, "1.5 mm")})
	require.NoError(t, err)
	assert.Equal(t, "12.5 mm", out.Drill.String())
	coarse, err := TapDrill(TapIn{Diameter: quantitytest.Said[quantity.Length](t, "8 mm")})
	require.NoError(t, err)
	assert.Equal(t, "6.75 mm", coarse.Drill.String())
}

func TestWrenchAdapterLaws(t *testing.T) {
	t.Parallel()
	rapid.Check(t, func(t *rapid.T) {
		in := AdapterIn{
			quantitytest.Said[quantity.Torque](t, "100 N·m"), quantitytest.Said[quantity.Length](t, "500 mm"),
			quantitytest.Said[quantity.Length](t, "80 mm"), rapid.Float64Range(0, 180).Draw(t, "angle"),
		}
		out, err := WrenchAdapter(in)
		require.NoError(t, err)
		// Statics, apart from the solver: force at the grip times the lever to the bolt.
		force := out.Setting.Value / 0.5
		assert.InDelta(t, 100, force*(0.5+0.08*math.Cos(in.AngleDeg*math.Pi/180)), 1e-6)
	})
	square, err := WrenchAdapter(
		AdapterIn{
			quantitytest.Said[quantity.Torque](t, "100 N·m"), quantitytest.Said[quantity.Length](t, "500 mm"),
			quantitytest.Said[quantity.Length](t, "80 mm"), 90,
		},
	)
	require.NoError(t, err)
	assert.InDelta(t, 100, square.Setting.Value, 1e-6)
}

func TestBoltsNameTheBadField(t *testing.T) {
	t.Parallel()
	for says, in := range map[string]BoltIn{
		"is not a bolt class": {Diameter: quantitytest.Said[quantity.Length](t, "10 mm"), Class: "9.9"},
		"diameter:":           {Diameter: quantitytest.Said[quantity.Length](t, "1000 mm"), Class: "8.8"},
		"pitch: missing":      {Diameter: quantitytest.Said[quantity.Length](t, "11 mm"), Class: "8.8"},
		"does not fit": {
			Diameter: quantitytest.Said[quantity.Length](t, "5 mm"),
			Pitch:    quantitytest.Said[quantity.Length](t, "3 mm"),
			Class:    "8.8",
		},
		"lubrication:": {Diameter: quantitytest.Said[quantity.Length](t, "10 mm"), Class: "8.8", Lubrication: "honey"},
		"k:":           {Diameter: quantitytest.Said[quantity.Length](t, "10 mm"), Class: "8.8", K: 3},
	} {
		_, err := BoltTorque(in)
		require.ErrorContains(t, err, says)
	}
	_, err := WrenchAdapter(
		AdapterIn{
			quantitytest.Said[quantity.Torque](t, "100 N·m"), quantitytest.Said[quantity.Length](t, "100 mm"),
			quantitytest.Said[quantity.Length](t, "90 mm"), 180,
		},
	)
	require.ErrorContains(t, err, "under your hand")
	_, err = TapDrill(TapIn{quantitytest.Said[quantity.Length](t, "8 mm"),
		quantitytest.Said[quantity.Length](t, "5 mm")})
	require.ErrorContains(t, err, "pitch")
}
