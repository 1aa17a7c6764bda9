package workshop_test

import (
	"encoding/json"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"handwerk/workshop/acts"
	"handwerk/workshop/kinds/decide"
	"handwerk/workshop/kinds/fill"
	"handwerk/workshop/kinds/items"
	"handwerk/workshop/record"
)

// What speaks for each way is worked out from sheet and record where the choice
// is made, and kept with it.
func TestAChoiceIsWeighedFromTheRecord(t *testing.T) {
	t.Parallel()
	b := benchOn(t, "clutch-hydraulic", "skerry-c228")
	b.walkUntil("complaint")
	b.must(
		"complaint",
		record.Draft{Item: record.ReadPlace("complaint-clutch"), Says: &acts.Outcome{Outcome: "no-release"}},
	)
	_, needs := b.status("tests")
	assert.Equal(t, "acknowledge: Crushing", needs)
	b.must("tests", record.Draft{Item: record.ReadPlace("under-vehicle"), Says: &acts.Acknowledge{}})
	_, needs = b.status("tests")
	assert.Equal(t, "at least one line", needs)
	b.must("tests", record.Draft{Item: record.ReadPlace("fork-travel"), Says: &acts.Outcome{Outcome: "little"}})

	v := viewAt[*items.TestStep](b, "tests")
	require.NotNil(t, v.Diagnosis)
	assert.Equal(t, "master-cylinder", v.Diagnosis.Causes[0].ID, "the margin reasons with what is on record")
	for _, c := range v.Diagnosis.Causes {
		assert.NotEqual(t, "cable-worn", c.ID, "the release is hydraulic")
	}

	weighed := viewAt[*decide.DecideStep](b, "way").Weighed
	require.Len(t, weighed, 2)
	assert.Equal(t, "diagnose", weighed[0].Calc)
	assert.Contains(t, string(weighed[0].Result), "most likely: Master cylinder lets fluid past its seal")
	assert.Contains(t, string(weighed[1].Result), "Clutch kit fitted here")
	e := b.must("way", record.Draft{Says: &acts.Decision{Outcome: "repair"}})
	assert.Equal(t, "diagnose/3, decide/1", e.Method)
	var kept struct {
		Diagnose struct {
			Action string `json:"action"`
		} `json:"diagnose"`
	}
	require.NoError(t, json.Unmarshal(e.Result, &kept))
	assert.Equal(t, "Replace master and slave cylinder together", kept.Diagnose.Action)
}

// A grave hazard of one test is read before that test is answered, and holds
// none of the others.
func TestAHazardIsReadAtItsTest(t *testing.T) {
	t.Parallel()
	b := benchOn(t, "clutch-hydraulic", "skerry-c228")
	b.walkUntil("complaint")
	b.must("complaint", record.Draft{Item: record.ReadPlace("complaint-clutch"), Says: &acts.Outcome{Outcome: "slips"}})
	b.must("tests", record.Draft{Item: record.ReadPlace("under-vehicle"), Says: &acts.Acknowledge{}})
	stall := record.Draft{Item: record.ReadPlace("stall-hold"), Says: &acts.Outcome{Outcome: "slips"}}
	_, err := b.try("tests", stall, lead)
	require.ErrorContains(t, err, "read and confirm first: The vehicle lurches")
	b.must("tests", record.Draft{Item: record.ReadPlace("free-play"), Says: &acts.Outcome{Outcome: "right"}})
	b.must("tests", record.Draft{Item: record.ReadPlace("lurch"), Says: &acts.Acknowledge{}})
	b.must("tests", stall)
	for _, item := range viewAt[*items.TestStep](b, "tests").Items {
		if item.ID == "stall-hold" {
			require.Len(t, item.Cautions, 1)
			assert.NotEmpty(t, item.Cautions[0].By)
		}
	}
}

// The class that suits what is inside stands first; what it stops cannot be
// put down, and says why.
func TestFluidsStandAsTheUnitWantsThem(t *testing.T) {
	t.Parallel()
	for _, tt := range []struct{ route, sheet, first, stopped string }{
		{"transfer-case-wet-pack", "norrel-p3", "atf", ""},
		{"transfer-case-dog", "brakka-t2", "gl4-80", "gl5-80"},
		{"axle-limited-slip", "brakka-a9s", "gl5-ls", "gl4"},
		{"axle-ring-pinion", "brakka-a9", "gl5-90", "gl4"},
	} {
		b := benchOn(t, tt.route, tt.sheet)
		b.walkUntil("fluid")
		v := viewAt[*fill.FillStep](b, "fluid")
		assert.Equal(t, tt.first, v.Fluids[0].ID, tt.route)
		assert.Empty(t, v.Fluids[0].Forbids)
		for _, f := range v.Fluids {
			if f.ID == tt.stopped {
				assert.NotEmpty(t, f.Forbids, tt.route)
				_, err := b.try(
					"fluid",
					record.Draft{Says: &acts.Filled{Outcome: f.ID, Measured: acts.Measured{Value: count(t, "2.3 L")}}},
					lead,
				)
				require.ErrorContains(t, err, f.Forbids)
			}
		}
	}
}

// The shop's confirmed causes come from the store and shift the answer.
func TestConfirmedCausesShiftTheDiagnosis(t *testing.T) {
	t.Parallel()
	b := benchOn(t, "clutch-hydraulic", "skerry-c228")
	b.walkUntil("complaint")
	b.must(
		"complaint",
		record.Draft{Item: record.ReadPlace("complaint-clutch"), Says: &acts.Outcome{Outcome: "no-release"}},
	)
	b.ledger.Confirmed = func() (map[string]int, error) { return map[string]int{"air-in-line": 40}, nil }
	v := viewAt[*items.TestStep](b, "complaint")
	assert.Equal(t, "air-in-line", v.Diagnosis.Causes[0].ID)
	assert.InDelta(t, 40.0/60, v.Diagnosis.OwnShare, 1e-9)
}

func TestTheRootCauseIsOneOfTheBookOrInWords(t *testing.T) {
	t.Parallel()
	b := benchOn(t, "clutch-hydraulic", "skerry-c228")
	b.walkUntil("cause")
	_, err := b.try("cause", record.Draft{Says: &acts.Decision{Outcome: "gremlins"}}, lead)
	assert.ErrorContains(t, err, "accepted: master-cylinder")
	_, err = b.try("cause", record.Draft{Says: &acts.Decision{Outcome: "other"}}, lead)
	assert.ErrorContains(t, err, "reason: a reason is needed; accepted: what it turned out to be")
	b.must("cause", record.Draft{Says: &acts.Decision{Outcome: "other", Reason: "a mouse in the bell housing"}})
}
