package workshop_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"handwerk/book"
	"handwerk/core/metrology"
	"handwerk/workshop/acts"
	"handwerk/workshop/kinds/torque"
	"handwerk/workshop/record"
)

// A group that is turned on by an angle has a stage of its own, read in degrees.
func TestAnAngleStageIsReadInDegrees(t *testing.T) {
	t.Parallel()
	b, err := demoBook()
	require.NoError(t, err)
	c, err := b.Copy("transfer-case-dog", "brakka-t2")
	require.NoError(t, err)
	group := c.Sheet.Torques["cover"]
	require.Positive(t, group.Bolts)
	group.Passes, group.AngleDeg = []float64{1}, 90
	torques := map[string]book.TorqueGroup{}
	for k, v := range c.Sheet.Torques {
		torques[k] = v
	}
	torques["cover"] = group
	c.Sheet.Torques = torques
	x := benchWith(t, c)
	x.walkUntil("cover-bolts")
	turn := func(pass, bolt int, value string) (record.Entry, error) {
		return x.try(
			"cover-bolts",
			record.Draft{Says: &acts.Torqued{Pass: pass, Bolt: bolt, Measured: acts.Measured{Value: reads(value)}}},
			lead,
		)
	}
	view := func() torque.TorqueView { return viewAt[*torque.TorqueStep](x, "cover-bolts").Torque }
	order := view().Plan.Order
	for _, bolt := range order {
		_, err := turn(1, bolt, group.Torque.String())
		require.NoError(t, err)
	}
	require.NotNil(t, view().Next)
	assert.Equal(t, []any{2, order[0], 90.0}, []any{view().Next.Pass, view().Next.Bolt, view().Next.AngleDeg})
	_, err = turn(2, order[0], "30 N·m")
	require.ErrorContains(t, err, "value")
	_, err = turn(2, order[0], "0°")
	require.ErrorContains(t, err, "value")
	short, err := turn(2, order[0], "60°")
	require.NoError(t, err)
	assert.Equal(t, metrology.Out, short.Verdict)
	assert.Contains(t, view().Off[0], "under its setting")
	right := record.Draft{
		Supersedes: short.ID,
		Says:       &acts.Torqued{Pass: 2, Bolt: order[0], Measured: acts.Measured{Value: reads("90 deg")}},
	}
	assert.Equal(t, metrology.In, x.must("cover-bolts", right).Verdict)
	x.walkUntil("flange-nut")
	status, _ := x.status("cover-bolts")
	assert.Equal(t, record.Done, status, "the walk turns the rest on by itself")
}
