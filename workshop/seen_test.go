package workshop_test

import (
	"encoding/json"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"handwerk/core/driveline"
	"handwerk/workshop/acts"
	"handwerk/workshop/kinds/measure"
	"handwerk/workshop/record"
)

func freely(o driveline.Observation) record.Draft {
	raw, _ := json.Marshal(o)
	return record.Draft{Item: record.ReadPlace("seen"), Says: &acts.Reading{Figure: raw}}
}

// raised is an axle whose wheels can be turned: its cautions are read.
func raised(t *testing.T) *bench {
	b := benchOn(t, "axle-ring-pinion", "brakka-a9")
	b.walkUntil("which-turned")
	for _, caution := range []string{"under-vehicle", "rotating", "shaft-brake"} {
		b.must("which-turned", record.Draft{Item: record.ReadPlace(caution), Says: &acts.Acknowledge{}})
	}
	return b
}

func TestAFreeObservationCountsWithTheOthers(t *testing.T) {
	t.Parallel()
	b := raised(t)
	first := b.must("which-turned", freely(driveline.Observation{
		Says: "propshaft turned by hand: left and right stand", Turned: "propshaft",
		Moved: []driveline.Motion{{Shaft: "left", Way: "still"}, {Shaft: "right", Way: "still"}},
	}))
	assert.Equal(t, "1.seen-1", first.Item.String())
	assert.Empty(t, first.Result, "the step's own questions are not answered yet")
	b.must("which-turned", record.Draft{Item: record.ReadPlace("other-wheel"), Says: &acts.Reading{Outcome: "still"}})
	asked := b.must("which-turned", record.Draft{Item: record.ReadPlace("felt"), Says: &acts.Reading{Outcome: "light"}})
	var out driveline.Out
	require.NoError(t, json.Unmarshal(asked.Result, &out))
	assert.Len(t, out.Nominal, 2, "both are explained together")
	assert.False(t, out.Sound)
	second := b.must("which-turned", freely(driveline.Observation{
		Says: "right turned, propshaft held: left goes along", Turned: "right", Held: []string{"propshaft"},
		Moved: []driveline.Motion{{Shaft: "left", Way: "same"}},
	}))
	require.NoError(t, json.Unmarshal(second.Result, &out))
	assert.Len(t, out.Nominal, 3)
	assert.NotEmpty(t, out.Clash+out.Says)
	v, err := record.MakeStep(b.ledger, "which-turned", mechanic, b.now)
	require.NoError(t, err)
	raw, err := json.Marshal(v.(*measure.MeasureStep).Input["observations"])
	require.NoError(t, err)
	var shown []driveline.Observation
	require.NoError(t, json.Unmarshal(raw, &shown))
	assert.Len(t, shown, 3)
	assert.Contains(t, says(t, b, "which-turned", first.ID), "also seen: propshaft turned by hand")

	_, err = b.try(
		"which-turned",
		record.Draft{Supersedes: second.ID, Says: &acts.Strike{Reason: "looked at the wrong wheel"}},
		mechanic,
	)
	require.NoError(t, err)
	v, err = record.MakeStep(b.ledger, "which-turned", mechanic, b.now)
	require.NoError(t, err)
	trials := v.(*measure.MeasureStep).Trials
	require.NoError(t, json.Unmarshal(trials[len(trials)-1].Result, &out))
	assert.Len(t, out.Nominal, 2, "what was struck counts no more")
}

func TestWhatNoFreeObservationIs(t *testing.T) {
	t.Parallel()
	b := raised(t)
	for name, c := range map[string]struct {
		d     record.Draft
		names string
	}{
		"a shaft that is none": {freely(driveline.Observation{Says: "x", Turned: "flywheel", Felt: "light"}),
			"figure.turned"},
		"a way that is none": {
			freely(
				driveline.Observation{Says: "x", Turned: "left",
					Moved: []driveline.Motion{{Shaft: "right", Way: "sideways"}}},
			),
			"figure.moved",
		},
		"no words":       {freely(driveline.Observation{Turned: "left"}), "figure.says"},
		"no observation": {record.Draft{Item: record.ReadPlace("seen"), Says: &acts.Reading{Figure: json.RawMessage(`"x"`)}}, "figure"},
		"an unknown field": {
			record.Draft{Item: record.ReadPlace("seen"), Says: &acts.Reading{Figure: json.RawMessage(`{"says":"x","turned":"left","colour":"red"}`)}},
			"figure.colour",
		},
		"at a question": {
			record.Draft{Item: record.ReadPlace("felt"), Says: &acts.Reading{Outcome: "light", Figure: json.RawMessage(`{}`)}},
			"figure",
		},
		"a number taken": {record.Draft{Item: record.ReadPlace("seen-4"), Says: &acts.Reading{Figure: json.RawMessage(`{}`)}}, "item"},
	} {
		_, err := b.try("which-turned", c.d, mechanic)
		require.ErrorContains(t, err, c.names, name)
	}
}
