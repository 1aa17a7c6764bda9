package gearing

import (
	"encoding/json"
	"fmt"
	"math"
	"math/rand/v2"
	"testing"

	"handwerk/core/input"
	"handwerk/core/quantity"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func mm(v float64) Length {
	return quantity.SayDifference(quantity.Length(v*1e-3), quantity.Named("mm"))
}

func matrixOf(t *testing.T, raw string) (GearMatrixOut, error) {
	t.Helper()
	var in GearMatrixIn
	require.NoError(t, input.Decode([]byte(raw), &in), raw)
	return GearMatrix(in)
}

// What a figure asks for, by where it stands: rules of common practice; the
// shares of life are worked out by hand beside them.
func TestAFigureAsksForItsPart(t *testing.T) {
	t.Parallel()
	const sheet = `"limits": {"synchro_gap": {"new": "1.1 mm", "lower": "0.5 mm", "upper": "1.4 mm"},
		"float": {"new": "0.15 mm", "lower": "0.05 mm", "upper": "0.35 mm"},
		"fork_clearance": {"upper": "0.6 mm"}, "detent": {"new": "65 N", "lower": "45 N"}},
		"uncertainty": {"synchro_gap": "0.03 mm", "float": "0.01 mm", "fork_clearance": "0.03 mm", "detent": "3 N"}`
	for name, tt := range map[string]struct {
		measured, verdict, asks string
		life                    float64 // negative: none
	}{
		"half worn":                      {`"synchro_gap": "0.8 mm"`, "in", "", 50},
		"past the worn limit":            {`"synchro_gap": "0.46 mm"`, "out", "ring", 0},
		"at the worn limit, by a gauge":  {`"synchro_gap": "0.5 mm"`, "undecided", "", 0},
		"past the other limit":           {`"synchro_gap": "1.44 mm"`, "out", "wrong_part", 100},
		"better than new":                {`"synchro_gap": "1.14 mm"`, "in", "read_again", 100},
		"better than new by the gauge":   {`"synchro_gap": "1.12 mm"`, "in", "", 100},
		"float grows":                    {`"float": "0.25 mm"`, "in", "", 50},
		"float past its limit":           {`"float": "0.37 mm"`, "out", "thrust_washer", 0},
		"less float than the least":      {`"float": "0.03 mm"`, "out", "wrong_part", 100},
		"less float than new":            {`"float": "0.12 mm"`, "in", "read_again", 100},
		"a clearance without a new one":  {`"fork_clearance": "0.5 mm"`, "in", "", -1},
		"a clearance past its limit":     {`"fork_clearance": "0.7 mm"`, "out", "fork_pad", -1},
		"a weak detent":                  {`"detent": "40 N"`, "out", "detent_spring", 0},
		"a detent that a new spring has": {`"detent": "65 N"`, "in", "", 100},
	} {
		out, err := matrixOf(t, `{"gears": [{"gear": "1", `+tt.measured+`}], `+sheet+`}`)
		require.NoError(t, err, name)
		cell := out.Cells[0]
		assert.Equal(t, tt.verdict, cell.Verdict, name)
		assert.Equal(t, tt.asks, cell.Asks, name)
		if tt.life < 0 {
			assert.Nil(t, cell.Life, name)
		} else if assert.NotNil(t, cell.Life, name) {
			assert.InDelta(t, tt.life, *cell.Life, 1e-9, name)
		}
		assert.Len(t, out.Cells, 4, name)
		assert.Equal(t, "not_measured", out.Cells[3].Verdict, name)
	}
}

// The worst stands first, by how far it is beyond; then what is undecided, then by life.
func TestTheWorstStandsFirst(t *testing.T) {
	t.Parallel()
	out, err := matrixOf(t, `{"gears": [
		{"gear": "1", "synchro_gap": "0.9 mm", "float": "0.36 mm", "detent": "50 N"},
		{"gear": "2", "synchro_gap": "0.4 mm", "float": "0.2 mm"},
		{"gear": "3", "synchro_gap": "0.7 mm", "fork_clearance": "0.3 mm"}],
		"limits": {"synchro_gap": {"new": "1.1 mm", "lower": "0.5 mm"}, "float": {"new": "0.15 mm", "upper": "0.35 mm"},
		"detent": {"lower": "45 N"}}, "uncertainty": {"float": "0.02 mm", "synchro_gap": "0.02 mm"}}`)
	require.NoError(t, err)
	var order []string
	for _, c := range out.Cells {
		order = append(order, c.Gear+" "+c.What+" "+c.Verdict)
	}
	assert.Equal(t, []string{
		"2 synchro_gap out",
		"1 float undecided",
		"3 synchro_gap in",
		"1 synchro_gap in",
		"2 float in",
		"1 detent in",
		"3 fork_clearance ",
		"1 fork_clearance not_measured",
		"2 fork_clearance not_measured",
		"2 detent not_measured",
		"3 float not_measured",
		"3 detent not_measured",
	}, order)
	assert.Equal(t, []GearAsk{{"ring", []string{"2"}}}, out.Asks)
	assert.Equal(
		t,
		"replace the synchroniser ring of 2; judged as if the gauge were exact for fork clearance and detent",
		out.Says,
	)
	assert.Equal(t, "limit", out.Cells[6].Asks)
}

// A box in inches is judged as the same box in millimetres, and more wear never leaves more life.
func TestAGearMatrixKeepsItsLaws(t *testing.T) {
	t.Parallel()
	r := rand.New(rand.NewPCG(1, 2))
	for range 300 {
		worn, fresh := 0.2+r.Float64(), 0.0
		fresh = worn + 0.1 + r.Float64()
		gap, u := 2*r.Float64(), 0.05*r.Float64()
		ask := func(unit string, per, gap float64) GearCell {
			out, err := matrixOf(t, fmt.Sprintf(`{"gears": [{"gear": "1", "synchro_gap": {"value": %v, "unit": %q}}],
				"limits": {"synchro_gap": {"new": {"value": %v, "unit": %q}, "lower": {"value": %v, "unit": %q}}},
				"uncertainty": {"synchro_gap": {"value": %v, "unit": %q}}}`, gap/per, unit, fresh/per, unit, worn/per, unit,
				u/per, unit))
			require.NoError(t, err)
			return out.Cells[0]
		}
		metric, inches, less := ask("mm", 1, gap), ask("in", 25.4, gap), ask("mm", 1, gap*0.9)
		assert.Equal(t, metric.Verdict, inches.Verdict)
		assert.Equal(t, metric.Asks, inches.Asks)
		assert.InDelta(t, *metric.Life, *inches.Life, 1e-6)
		assert.LessOrEqual(t, *less.Life, *metric.Life)
		want := 100 * math.Max(0, math.Min(1, (gap-worn)/(fresh-worn)))
		assert.InDelta(t, want, *metric.Life, 1e-6)
	}
}

func TestAGearMatrixNamesTheBadField(t *testing.T) {
	t.Parallel()
	for in, says := range map[string]string{
		`{"gears": []}`:              "gears:",
		`{"gears": [{"gear": "1"}]}`: "gears[0]: nothing was measured",
		`{"gears": [{"gear": "1", "float": "0.1 mm"}, {"gear": "1"}]}`:                                                   "gears[1].gear:",
		`{"gears": [{"gear": "1", "float": "-0.1 mm"}]}`:                                                                 "gears[0].float:",
		`{"gears": [{"gear": "1", "float": "0.1 mm"}], "limits": {"synchro_gap": {"new": "0.4 mm", "lower": "0.5 mm"}}}`: "limits.synchro_gap.new:",
		`{"gears": [{"gear": "1", "float": "0.1 mm"}], "limits": {"float": {"new": "0.5 mm", "upper": "0.5 mm"}}}`:       "limits.float.new:",
		`{"gears": [{"gear": "1", "float": "0.1 mm"}], "limits": {"float": {"lower": "0.5 mm", "upper": "0.4 mm"}}}`:     "limits.float.upper:",
		`{"gears": [{"gear": "1", "float": "0.1 mm"}], "uncertainty": {"detent": "9000 N"}}`:                             "uncertainty.detent:",
	} {
		_, err := matrixOf(t, in)
		require.ErrorContains(t, err, says, in)
	}
}

func gateOf(t *testing.T, raw string) (GateOut, error) {
	t.Helper()
	var in GateIn
	require.NoError(t, input.Decode([]byte(raw), &in), raw)
	return Gate(in)
}

// Brute force: no move on a fine grid leaves the gaps more even, in the sum of
// squares about their mean, than the one that was worked out.
func TestNoMoveEvensTheGateBetter(t *testing.T) {
	t.Parallel()
	r := rand.New(rand.NewPCG(3, 4))
	for range 60 {
		in := GateIn{
			Lever: GateLever{Above: mm(100 + 200*r.Float64()), Below: mm(40 + 40*r.Float64())},
			Arm:   mm(20 + 40*r.Float64()),
		}
		for i := range 2 + r.IntN(5) {
			in.Gears = append(in.Gears, GateGear{Gear: fmt.Sprint(i), End: []string{"front", "rear"}[i%2],
				Side: []string{"left", "right"}[(i/2)%2], Along: mm(1 + 9*r.Float64()), Across: mm(1 + 9*r.Float64())})
		}
		out, err := Gate(in)
		require.NoError(t, err)
		uneven := func(move float64) float64 {
			var sum, squares, n float64
			for _, g := range in.Gears {
				gap := g.Along.Value
				if g.End == "front" {
					gap -= move
				} else {
					gap += move
				}
				sum, squares, n = sum+gap, squares+gap*gap, n+1
			}
			return squares - sum*sum/n
		}
		ratio := in.Lever.Above.Value / in.Lever.Below.Value
		best := uneven(out.Shift.Value * ratio)
		for move := -10.0; move <= 10; move += 0.01 {
			require.LessOrEqual(t, best, uneven(move)+1e-9)
		}
		// What is predicted needs no second move.
		again := in
		for i, p := range out.Predicted {
			again.Gears[i].Along, again.Gears[i].Across = p.Along, p.Across
		}
		second, err := Gate(again)
		require.NoError(t, err)
		assert.InDelta(t, 0, second.Shift.Value, 1e-9)
		if out.Turn != nil {
			assert.InDelta(t, 0, *second.Turn, 1e-9)
		}
	}
}

// Worked by hand: the lever of 4 to 1 has to go 2 mm forward and 1 mm to the left.
func TestAGateByHand(t *testing.T) {
	t.Parallel()
	const gears = `"gears": [{"gear": "1", "end": "front", "side": "left", "along": "6 mm", "across": "4 mm"},
		{"gear": "2", "end": "rear", "side": "right", "along": "2 mm", "across": "2 mm"}]`
	out, err := gateOf(
		t,
		`{`+gears+`, "lever": {"above": "240 mm", "below": "60 mm"}, "arm": "45 mm", "min_gap": "3 mm"}`,
	)
	require.NoError(t, err)
	assert.InDelta(t, 0.5, out.Shift.Value, 1e-9)
	assert.InDelta(t, -1/(math.Pi/180*45*4), *out.Turn, 1e-9)
	assert.InDelta(t, 4, out.Predicted[0].Along.Value, 1e-9)
	assert.InDelta(t, 3, out.Predicted[1].Across.Value, 1e-9)
	assert.EqualValues(t, "in", out.Verdict)
	assert.InDelta(t, 4, out.SpreadBefore.Along.Value, 1e-9)
	assert.InDelta(t, 0, out.SpreadAfter.Along.Value, 1e-9)

	out, err = gateOf(
		t,
		`{`+gears+`, "per_shift": 4, "per_turn_deg": "2 mm", "shift_step": "0.4 mm", "turn_step_deg": 1}`,
	)
	require.NoError(t, err)
	assert.InDelta(t, 0.4, out.Shift.Value, 1e-9, "the nearest multiple")
	assert.Zero(t, *out.Turn, "half a step: the smaller of two that are equal")

	out, err = gateOf(t, `{"gears": [{"gear": "1", "end": "front", "along": "1 mm"}], "per_shift": 4}`)
	require.NoError(t, err)
	assert.False(t, out.Shift.IsSaid())
	assert.Contains(t, out.Says, "read the gap in a rear gear too")

	out, err = gateOf(t, `{"gears": [{"gear": "1", "end": "front", "along": "-2 mm"},
		{"gear": "2", "end": "rear", "along": "1 mm"}], "per_shift": 4}`)
	require.NoError(t, err)
	assert.Contains(t, out.Says, "the lever strikes before the gear is in")
	assert.EqualValues(t, "out", out.Verdict)
	for in, says := range map[string]string{
		`{"gears": [{"gear": "1", "end": "up", "along": "1 mm"}], "per_shift": 4}`:                      "gears[0].end:",
		`{"gears": [{"gear": "1", "end": "front", "along": "1 mm"}]}`:                                   "lever.above:",
		`{"gears": [{"gear": "1", "end": "front", "along": "1 mm", "across": "1 mm"}], "per_shift": 4}`: "gears[0].side:",
		`{"gears": [{"gear": "1", "end": "front", "along": "1 mm"}], "per_shift": 4, "arm": "40 mm"}`:   "per_turn_deg:",
	} {
		_, err := gateOf(t, in)
		require.ErrorContains(t, err, says, in)
	}
}

// A gate seen from the other side: front and rear, left and right change places, and so does the move.
func TestAMirroredGateMovesTheOtherWay(t *testing.T) {
	t.Parallel()
	var in GateIn
	example, err := examples.ReadFile("examples/gate.json")
	require.NoError(t, err)
	require.NoError(t, json.Unmarshal(example, &in))
	one, err := Gate(in)
	require.NoError(t, err)
	other := map[string]string{"front": "rear", "rear": "front", "left": "right", "right": "left"}
	for i, g := range in.Gears {
		in.Gears[i].End, in.Gears[i].Side = other[g.End], other[g.Side]
	}
	two, err := Gate(in)
	require.NoError(t, err)
	assert.InDelta(t, one.Shift.Value, -two.Shift.Value, 1e-12)
	assert.InDelta(t, *one.Turn, -*two.Turn, 1e-12)
	assert.Equal(t, one.Smallest, two.Smallest)
}
