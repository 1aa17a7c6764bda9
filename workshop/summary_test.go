package workshop_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"handwerk/core/quantity"
	"handwerk/workshop/paper"
)

// A record on one page, and forty readings of a wrench as a line a pass.
func TestARecordInShort(t *testing.T) {
	t.Parallel()
	b := newBench(t)
	b.walkUntil("")
	rec := paper.MakeRecord(b.ledger)
	sum := rec.Summary
	assert.Contains(t, sum.Agreed[0], "Repair, rebuild or replace? ")
	assert.Contains(t, sum.Found[len(sum.Found)-1], "Cause: ")
	require.Len(t, sum.Results, 3)
	assert.Regexp(t, `^Measured: .* mean [0-9.]+ mm ± [0-9.]+ mm, in`, sum.Results[0])
	assert.Contains(t, sum.Results[1], "cover bolts 26 lb-ft")
	metric := unfolded(b.ledger)
	metric.Units = quantity.Metric
	assert.Contains(t, paper.MakeRecord(metric).Summary.Results[1], "cover bolts 35.3 N·m", "as the shop reads")
	assert.Regexp(t, `^Proved: \d+ points, all as they should be$`, sum.Results[2])
	assert.Empty(t, sum.Open)

	bolts := recordStep(t, rec, "cover-bolts")
	require.NotNil(t, bolts.Wrench)
	assert.Equal(t, []int{1, 5, 3, 7, 2, 6, 4, 8}, bolts.Wrench.Bolts)
	assert.Len(t, bolts.Wrench.Rows, 2)
	cells := 0
	for _, line := range bolts.Lines {
		if line.Wrench {
			cells++
		}
	}
	assert.Equal(t, 16, cells)
	assert.NotEmpty(t, bolts.Wrench.Rows[1].Cells[7].Says)
	assert.Nil(t, recordStep(t, rec, "end-float").Wrench)
}

func recordStep(t *testing.T, rec paper.Record, id string) paper.RecordStep {
	for _, st := range rec.Stations {
		for _, step := range st.Steps {
			if step.ID == id {
				return step
			}
		}
	}
	require.Fail(t, "no such step", id)
	return paper.RecordStep{}
}
