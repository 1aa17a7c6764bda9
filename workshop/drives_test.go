package workshop_test

import (
	"encoding/json"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"handwerk/core/metrology"
	"handwerk/core/quantity"
	"handwerk/core/quantity/quantitytest"
	"handwerk/workshop/acts"
	"handwerk/workshop/kinds/items"
	"handwerk/workshop/record"
)

// A vehicle that could not be driven has no drive card, and says why.
func TestADriveCardMayStayEmptyWithAReason(t *testing.T) {
	t.Parallel()
	b := newBench(t)
	b.walkUntil("drive-before")
	b.must("drive-before", record.Draft{Item: record.ReadPlace("road"), Says: &acts.Acknowledge{}})
	d := record.Draft{Item: record.ReadPlace("driven"), Says: &acts.Outcome{Outcome: "not-driven"}}
	_, err := b.try("drive-before", d, lead)
	require.ErrorContains(t, err, "note: \"Not driven, because\" needs a reason")
	d.Says.(*acts.Outcome).Note = "towed in, no drive at all"
	b.must("drive-before", d)
	assert.Equal(t, record.Done, first(b.status("drive-before")))
	assert.Contains(t, b.lines("drive-before"), "Could it be driven? Not driven, because: towed in, no drive at all")
	v := viewAt[*items.TestStep](b, "tests")
	for _, n := range v.Diagnosis.Next {
		assert.NotContains(t, n.Needs, "driveable", n.Says)
	}
}

// As many connectors as were pulled; what goes in is what was chosen.
func TestLaterStepsAreHeldAgainstEarlierOnes(t *testing.T) {
	t.Parallel()
	b := newBench(t)
	b.walkUntil("marks")
	b.must("marks", record.Draft{Item: record.ReadPlace("flanges"), Says: &acts.Outcome{Outcome: "done"}})
	b.must(
		"marks",
		record.Draft{
			Item: record.ReadPlace("connectors"),
			Says: &acts.Outcome{Measured: acts.Measured{Value: count(t, "4 pcs")}},
		},
	)
	b.must("marks", record.Draft{Item: record.ReadPlace("ways"), Says: &acts.Outcome{Outcome: "done"}})
	b.walkUntil("fill-in")
	_, err := b.try(
		"fill-in",
		record.Draft{Says: &acts.Filled{Outcome: "mineral-90", Measured: acts.Measured{Value: count(t, "2.4 L")}}},
		lead,
	)
	assert.ErrorContains(t, err, "a different class was chosen")
	b.walkUntil("connect")
	few := b.must(
		"connect",
		record.Draft{
			Item: record.ReadPlace("plugged"),
			Says: &acts.Outcome{Measured: acts.Measured{Value: count(t, "3 pcs")}},
		},
	)
	assert.Equal(t, metrology.Out, few.Verdict)
	_, needs := b.status("connect")
	assert.Equal(t, "Connectors plugged, counted: different from before", needs)
	b.must(
		"connect",
		record.Draft{
			Item:       record.ReadPlace("plugged"),
			Supersedes: few.ID,
			Says:       &acts.Outcome{Measured: acts.Measured{Value: count(t, "4 pcs")}},
		},
	)
	_, needs = b.status("connect")
	assert.Equal(t, "2 more lines", needs)
}

func count(t require.TestingT, text string) quantity.Any {
	return quantitytest.Any(t, text)
}

// All answers of the wheel-turn test, on an open axle with a gear in and on one
// with plates in neutral: what the other wheel does, and what the hand feels
// (common practice). What a sound axle shows accuses nobody, dragging clashes
// with nothing, and only a wheel that stands can be anybody's.
func TestWhatTurnsWhenOneWheelIsTurned(t *testing.T) {
	t.Parallel()
	type answered struct {
		Sound   bool                            `json:"sound"`
		Singles []struct{ Member, Mode string } `json:"singles"`
		Clash   string                          `json:"clash"`
	}
	for _, tt := range []struct{ route, sheet, sound string }{
		{"axle-ring-pinion", "brakka-a9", "opposite"}, {"axle-limited-slip", "brakka-a9s", "same"},
	} {
		start := benchOn(t, tt.route, tt.sheet)
		start.walkUntil("which-turned")
		start.acknowledge("which-turned", "under-vehicle")
		start.acknowledge("which-turned", "rotating")
		start.acknowledge("which-turned", "shaft-brake")
		for _, way := range []string{"same", "opposite", "still"} {
			for _, felt := range []string{"light", "drags", "stands"} {
				b := *start
				b.must(
					"which-turned",
					record.Draft{Item: record.ReadPlace("other-wheel"), Says: &acts.Reading{Outcome: way}},
				)
				e := b.must(
					"which-turned",
					record.Draft{Item: record.ReadPlace("felt"), Says: &acts.Reading{Outcome: felt}},
				)
				var out answered
				require.NoError(t, json.Unmarshal(e.Result, &out))
				says := tt.route + ", " + way + ", " + felt
				if way == tt.sound && felt != "stands" {
					assert.True(t, out.Sound, says)
				}
				if felt != "stands" {
					assert.Empty(t, out.Clash, says)
				}
				accused := map[string]bool{}
				for _, s := range out.Singles {
					accused[s.Member] = true
				}
				if way == "still" {
					assert.False(t, out.Sound, says)
				} else {
					assert.Less(t, len(accused), 4, says)
				}
				if tt.route == "axle-limited-slip" && way == "opposite" && felt != "stands" {
					assert.Equal(t, "differential", out.Singles[0].Member, says)
					assert.Equal(t, "worn", out.Singles[0].Mode, says)
				}
			}
		}
	}
}
