package driveline

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"handwerk/core/metrology"
	"handwerk/core/quantity"
)

// Two millimetres in two metres is a tenth of a per cent, whatever the unit (arithmetic);
// one per cent is the most where no sheet says (common practice).
func TestTyresAreComparedInPerCent(t *testing.T) {
	t.Parallel()
	m := func(metres float64) Length { return quantity.Say(quantity.Length(metres), quantity.Named("mm")) }
	in := TyresIn{m(2.002), m(2.002), m(2), m(2), nil}
	out, err := Tyres(in)
	require.NoError(t, err)
	assert.InDelta(t, 0.1, out.Axles, 1e-9)
	assert.Equal(t, metrology.In, out.Verdict)

	in.FrontLeft = m(2.05)
	out, err = Tyres(in)
	require.NoError(t, err)
	assert.InDelta(t, 2.5, out.Widest, 1e-9)
	assert.Equal(t, metrology.Out, out.Verdict)
	most := 3.0
	in.Most = &most
	out, err = Tyres(in)
	require.NoError(t, err)
	assert.Equal(t, metrology.In, out.Verdict, "the sheet has the last word")

	turned := TyresIn{in.RearLeft, in.RearRight, in.FrontLeft, in.FrontRight, in.Most}
	other, err := Tyres(turned)
	require.NoError(t, err)
	assert.InDelta(t, (1+out.Axles/100)*(1+other.Axles/100), 1, 1e-4, "front for rear is the other way round")

	in.RearRight = m(0.001)
	_, err = Tyres(in)
	require.ErrorContains(t, err, "rear_right", "a millimetre is no tyre")
}
