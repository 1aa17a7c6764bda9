package workshop_test

import (
	"encoding/json"
	"maps"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"handwerk/workshop/acts"
	"handwerk/workshop/kinds/decide"
	"handwerk/workshop/kinds/items"
	"handwerk/workshop/kinds/measure"
	"handwerk/workshop/kinds/order"
	"handwerk/workshop/kinds/stack"
	"handwerk/workshop/record"
)

func outcomeAt(line, outcome, note string) record.Draft {
	return record.Draft{Item: record.ReadPlace(line), Says: &acts.Outcome{Outcome: outcome, Note: note}}
}

// It binds at the dry run: that holds until it is answered again or left with a
// reason, is said on the board, and stands before the lead's eyes at the sign-off.
func TestABadAnswerHolds(t *testing.T) {
	t.Parallel()
	b := newBench(t)
	b.walkUntil("dry-run")
	line := viewAt[*items.TestStep](b, "dry-run").Items[0]
	bad := b.must("dry-run", outcomeAt(line.ID, "binds", ""))
	status, needs := b.status("dry-run")
	assert.Equal(t, record.Held, status)
	assert.Contains(t, needs, "binds. Put it right and answer again")
	assert.Contains(t, b.ledger.Rebuild.Place.WaitsFor, "binds")
	assert.True(t, b.ledger.Rebuild.Place.Held)
	assert.True(t, viewAt[*items.TestStep](b, "dry-run").Items[0].Unsettled, "the bench asks where, and what next")

	free := outcomeAt(line.ID, "free", "")
	free.Supersedes = bad.ID
	good := b.must("dry-run", free)
	status, _ = b.status("dry-run")
	assert.NotEqual(t, record.Held, status, "answered again")
	again := outcomeAt(line.ID, "binds", "a burr on the fork, eases when warm; the customer knows")
	again.Supersedes = good.ID
	b.must("dry-run", again)
	status, _ = b.status("dry-run")
	assert.NotEqual(t, record.Held, status, "left with a reason")
	b.walkUntil("sign-off")
	points := viewAt[*decide.DecideStep](b, "sign-off").Points
	require.Len(t, points, 1)
	assert.Contains(t, points[0].Says, "binds")
	assert.Contains(t, points[0].Left, "a burr on the fork")
	b.walkUntil("")
	assert.True(t, b.ledger.Rebuild.Place.Closed)
}

// What was found before the work is what the work is for: it holds nothing.
func TestAComplaintHoldsNothing(t *testing.T) {
	t.Parallel()
	b := newBench(t)
	b.walkUntil("drive-before")
	b.must("drive-before", outcomeAt("leak", "drips", ""))
	status, _ := b.status("drive-before")
	assert.NotEqual(t, record.Held, status)
	b.walkUntil("")
	assert.True(t, b.ledger.Rebuild.Place.Closed)
}

// A wheel nut's torque that nobody knows is answered by the lead before he signs.
func TestAnUnknownWheelTorqueIsAnsweredByTheLead(t *testing.T) {
	t.Parallel()
	known, err := demoBook()
	require.NoError(t, err)
	c, err := known.Copy("axle-exchange", "tarn-a5")
	require.NoError(t, err)
	c.Sheet.Torques = maps.Clone(c.Sheet.Torques)
	delete(c.Sheet.Torques, "wheels")
	b := benchWith(t, c)
	b.walkUntil("sign-off")
	var wheel *record.Point
	for _, p := range viewAt[*decide.DecideStep](b, "sign-off").Points {
		if p.Item == "torques.wheels" {
			wheel = &p
		}
	}
	require.NotNil(t, wheel, "it is listed")
	_, err = b.try("sign-off", record.Draft{Says: &acts.Decision{Outcome: "release"}}, lead)
	require.ErrorContains(t, err, "say first what was done about it")
	_, err = b.try("sign-off", outcomeAt(wheel.Item, "answered", ""), lead)
	require.ErrorContains(t, err, "wants words")
	_, err = b.try("sign-off", outcomeAt("torques.cover-bolts", "answered", "never mind"), lead)
	require.ErrorContains(t, err, "nothing at")
	for _, p := range viewAt[*decide.DecideStep](b, "sign-off").Points {
		if p.Item != "" {
			b.must("sign-off", outcomeAt(p.Item, "answered",
				"110 lb-ft by the plate on the door, after the drive again"))
		}
	}
	b.must("sign-off", record.Draft{Says: &acts.Decision{Outcome: "release"}})
	assert.True(t, b.ledger.Rebuild.Place.Closed)
	assert.Contains(t, b.lines("sign-off")[0], "by the plate on the door")
}

// This one has none: the part is out of the rebuild for good; missing is another
// answer, and a new one is ordered.
func TestThisOneHasNone(t *testing.T) {
	t.Parallel()
	b := newBench(t)
	b.walkUntil("strip")
	b.must("strip", record.Draft{Item: record.ReadPlace("washer"), Says: &acts.Removed{Outcome: "none"}})
	b.walkUntil("parts")
	b.must("cover-parts", record.Draft{Item: record.ReadPlace("seal"), Says: &acts.Verdict{Outcome: "none"}})
	b.must(
		"parts",
		record.Draft{
			Item: record.ReadPlace("bearing"),
			Says: &acts.Verdict{Outcome: "not-found", Reason: "left out before"},
		},
	)
	b.walkUntil("parts-here")
	raw, err := json.Marshal(viewAt[*order.OrderStep](b, "parts-here").Groups)
	require.NoError(t, err)
	for part, listed := range map[string]bool{"strip.washer": false, "strip-cover.seal": false, "strip.bearing": true} {
		assert.Equal(t, listed, strings.Contains(string(raw), `"line":"`+part+`"`), part)
	}
	b.walkUntil("")
	assert.True(t, b.ledger.Rebuild.Place.Closed, "nobody was asked to put it back")
	assert.Contains(t, b.lines("strip"), "Thrust washer: this one has none")
}

// What was fitted at the trial assembly is in place when the float is read as it
// will run, and is a line of the build with its size.
func TestASecondBenchBeginsFromWhatIsFitted(t *testing.T) {
	t.Parallel()
	b := newBench(t)
	b.walkUntil("end-float")
	b.must("end-float", reading(t, "0.62 mm"))
	b.must("end-float", reading(t, "0.62 mm"))
	b.must("end-float", record.Draft{Says: &acts.Fit{Pack: []acts.Piece{piece(t, "0.6 mm", 1)}}})
	b.walkUntil("build")
	stack := viewAt[*stack.StackStep](b, "build").Stack
	require.Equal(t, "pack-end-float", stack[0].ID)
	assert.Contains(t, stack[0].Name, "Pack 0.6 mm")
	b.walkUntil("float-again")
	assert.Contains(t, b.lines("build"), "Pack 0.6 mm in")
	v := viewAt[*measure.MeasureStep](b, "float-again")
	assert.Equal(t, "0.6 mm", v.Trials[0].Sum.String(), "in place now")
	b.must("float-again", reading(t, "0.30 mm"))
	b.must("float-again", reading(t, "0.30 mm"))
	var out struct {
		Required struct {
			Aim struct{ Value float64 } `json:"aim"`
		} `json:"required_pack"`
	}
	trials := viewAt[*measure.MeasureStep](b, "float-again").Trials
	require.NoError(t, json.Unmarshal(trials[len(trials)-1].Result, &out))
	assert.InDelta(t, 0.6+0.30-0.09, out.Required.Aim.Value, 0.02, "what is in, and what it floats too much")
}
