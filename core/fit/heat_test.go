package fit

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"handwerk/core/quantity"
	"handwerk/core/quantity/quantitytest"
)

// By hand: 40 mm, 20 µm press, 40 µm to drop on: 0.06/(11.5e-6·40) = 130 K.
func TestHeatFitByHand(t *testing.T) {
	t.Parallel()
	out, err := HeatFit(
		HeatIn{
			Diameter:     quantitytest.Said[quantity.Length](t, "40 mm"),
			Interference: quantitytest.Said[quantity.Length](t, "0.02 mm"),
		},
	)
	require.NoError(t, err)
	assert.InDelta(t, 130.4, out.Rise, 0.1)
	assert.EqualValues(t, "out", out.Verdict)
	easy, err := HeatFit(
		HeatIn{
			Diameter:     quantitytest.Said[quantity.Length](t, "40 mm"),
			Interference: quantitytest.Said[quantity.Length](t, "0.01 mm"),
			Clearance:    quantitytest.Said[quantity.Length](t, "0.02 mm"),
		},
	)
	require.NoError(t, err)
	assert.EqualValues(t, "in", easy.Verdict)
}

// The forward model: a ring warmed by the answer has grown by press and gap.
func TestTheWarmRingHasGrownEnough(t *testing.T) {
	t.Parallel()
	rapid.Check(t, func(t *rapid.T) {
		d := rapid.Float64Range(10, 300).Draw(t, "d")
		press := rapid.Float64Range(0, 0.003).Draw(t, "press") * d
		u, _ := quantity.UnitNamed("mm")
		in := HeatIn{Diameter: quantity.Say(quantity.Length(d/1000), u),
			Interference: quantity.Say(quantity.Length(press/1000), u)}
		out, err := HeatFit(in)
		require.NoError(t, err)
		assert.InDelta(t, press+d/1000, d*steelAlpha*out.Rise, 1e-9)
	})
}

func TestHeatFitNamesTheBadField(t *testing.T) {
	t.Parallel()
	_, err := HeatFit(HeatIn{Diameter: quantitytest.Said[quantity.Length](t, "40 mm"),
		Interference: quantitytest.Said[quantity.Length](t, "-1 mm")})
	require.ErrorContains(t, err, "interference:")
	cold, err := quantity.ParseAs[quantity.Temperature]("-400 °C")
	require.NoError(t, err)
	_, err = HeatFit(
		HeatIn{
			Diameter:     quantitytest.Said[quantity.Length](t, "40 mm"),
			Interference: quantitytest.Said[quantity.Length](t, "0.02 mm"), Room: cold,
		},
	)
	require.ErrorContains(t, err, "room: -400 °C cannot be; accepted: from -60 °C")
	hot, err := quantity.ParseAs[quantity.Temperature]("1000000000 °C")
	require.NoError(t, err)
	_, err = HeatFit(
		HeatIn{
			Diameter:     quantitytest.Said[quantity.Length](t, "40 mm"),
			Interference: quantitytest.Said[quantity.Length](t, "0.02 mm"), Room: hot,
		},
	)
	require.ErrorContains(t, err, "room:")
	_, err = HeatFit(HeatIn{Interference: quantitytest.Said[quantity.Length](t, "0.02 mm")})
	require.ErrorContains(t, err, "diameter: missing")
}

// More than a twentieth of the diameter is a slip, not a press fit.
func TestAPressIsAtMostATwentiethOfTheDiameter(t *testing.T) {
	t.Parallel()
	in := HeatIn{Diameter: quantitytest.Said[quantity.Length](t, "40 mm"),
		Interference: quantitytest.Said[quantity.Length](t, "2 mm")}
	_, err := HeatFit(in)
	require.ErrorContains(t, err, "would have to glow", "a press, but none that warming opens")
	in.Interference = quantitytest.Said[quantity.Length](t, "2.01 mm")
	_, err = HeatFit(in)
	require.ErrorContains(t, err, "interference: 2.01 mm cannot be pressed on 40 mm")
}
