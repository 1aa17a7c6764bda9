package postgres_test

import (
	"context"
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"handwerk/core/quantity"
	"handwerk/postgres/pgtest"
	"handwerk/workshop"
	"handwerk/workshop/acts"
	"handwerk/workshop/kinds/measure"
	"handwerk/workshop/record"
)

// How well a gauge repeats is learned from its repeat readings over all rebuilds, not
// from corrected ones, and counts where one reading stands alone.
func TestAGaugeIsLearned(t *testing.T) {
	t.Parallel()
	ctx := context.Background()
	s := newShop(t)
	read := func(r record.Rebuild, n int, value string) {
		v, err := quantity.ParseAs[quantity.Length](value)
		require.NoError(t, err)
		_, _, err = s.Append(ctx, workshop.Asking{}, r.ID, "end-float", record.Draft{Says: &acts.Reading{
			Measured: acts.Measured{Value: v.Any}, Read: acts.Read{Instrument: "indicator-4"},
		}}, lead, fmt.Sprintf("read %s %d", r.ID, n))
		require.NoError(t, err)
	}
	var last record.Rebuild
	for k := range 6 {
		last = s.open(t)
		s.walk(t, last.ID, "end-float")
		for n := range 3 { // ±0.01 mm round a shaft of its own
			read(last, n, fmt.Sprintf("%.2f mm", 0.15+0.02*float64(k)+0.01*float64(n)))
		}
	}
	other := pgtest.Open(t, s.url) // another process, that has not looked yet
	pools, err := other.Pools(ctx)
	require.NoError(t, err)
	assert.Equal(t, 12, pools["indicator-4"].DOF)
	assert.Equal(t, "0.01 mm", pools["indicator-4"].Deviation(quantity.Named("mm")).String())

	fresh := s.open(t)
	s.walk(t, fresh.ID, "end-float")
	b, err := demoBook()
	require.NoError(t, err)
	view, err := workshop.New(other, b, s.tick).Step(ctx, fresh.ID, "end-float", lead)
	require.NoError(t, err)
	step, ok := view.(*measure.MeasureStep)
	require.True(t, ok)
	for _, g := range step.Instruments {
		if g.ID == "indicator-4" {
			assert.Equal(t, "0.01 mm", g.Repeatability.String(), "0.004 mm was said of it")
		}
	}
}
