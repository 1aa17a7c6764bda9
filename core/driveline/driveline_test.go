package driveline

import (
	"fmt"
	"math"
	"math/rand/v2"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"gonum.org/v1/gonum/mat"
	"gonum.org/v1/gonum/optimize/convex/lp"
)

// axle is a driven axle: prop, pinion and ring, differential, two shafts.
func axle(name string, limited bool) []Member {
	n := func(s string) string { return name + "-" + s }
	return []Member{
		{ID: n("ring-pinion"), Kind: gear, A: n("prop"), B: n("carrier"), Ratio: 4},
		{ID: n("diff"), Kind: differential, Carrier: n("carrier"), A: n("left-side"), B: n("right-side"),
			Limited: limited},
		{ID: n("left-shaft"), Kind: shaft, A: n("left-side"), B: n("left")},
		{ID: n("right-shaft"), Kind: shaft, A: n("right-side"), B: n("right")},
	}
}

// fourByFour joins two axles by a lockable centre differential.
func fourByFour() []Member {
	return slices.Concat([]Member{
		{ID: "gearbox", Kind: gear, A: "engine", B: "case", Ratio: 3},
		{ID: "centre", Kind: differential, Carrier: "case", A: "front-out", B: "rear-out", EngagedBy: "centre-lock"},
		{ID: "front-propshaft", Kind: joint, A: "front-out", B: "front-prop"},
		{ID: "rear-propshaft", Kind: joint, A: "rear-out", B: "rear-prop"},
	}, axle("front", false), axle("rear", false))
}

// partTime drives the rear axle, the front one through a clutch.
func partTime(engagedBy string) []Member {
	return slices.Concat([]Member{
		{ID: "gearbox", Kind: gear, A: "engine", B: "rear-out", Ratio: 3},
		{ID: "pack", Kind: clutch, A: "rear-out", B: "front-out", EngagedBy: engagedBy},
		{ID: "front-propshaft", Kind: joint, A: "front-out", B: "front-prop"},
		{ID: "rear-propshaft", Kind: joint, A: "rear-out", B: "rear-prop"},
	}, axle("front", false), axle("rear", false))
}

func wheels(way string, list ...string) []Motion {
	var out []Motion
	for _, w := range list {
		out = append(out, Motion{w, way})
	}
	return out
}

func answers(list []Failure) []string {
	out := []string{}
	for _, f := range list {
		out = append(out, f.Member+" "+f.Mode)
	}
	return out
}

var allWheels = []string{"front-left", "front-right", "rear-left", "rear-right"}

// Speed equations of the bevel differential, ω_c = (ω_a + ω_b)/2: Norton, Design
// of Machinery, chapter on gear trains (from memory); worked here by hand.
func TestSpeedsFollowTheEquations(t *testing.T) {
	t.Parallel()
	tests := []struct {
		name   string
		turned string
		held   []string
		locks  []string
		want   map[string]float64
	}{
		{
			"carrier stands: the other wheel turns back as fast", "front-left", []string{"front-prop"}, nil,
			map[string]float64{"front-right": -1, "front-prop": 0},
		},
		{
			"other wheel stands: carrier at half, propshaft at twice", "front-left", []string{"front-right"}, nil,
			map[string]float64{"front-carrier": 0.5, "front-prop": 2},
		},
		{
			"one output of the centre stands: the other at twice", "case", []string{"rear-prop"}, nil,
			map[string]float64{"front-prop": 2, "engine": 3},
		},
		{
			"locked: both outputs with the case", "case", nil, []string{"centre-lock"},
			map[string]float64{"front-prop": 1, "rear-prop": 1, "rear-carrier": 0.25},
		},
	}
	for _, tt := range tests {
		t.Run(tt.name, func(t *testing.T) {
			m, err := In{
				Members: fourByFour(), Observations: []Observation{{Turned: tt.turned, Held: tt.held, Locks: tt.locks}},
			}.model()
			require.NoError(t, err)
			require.NotEqual(t, stands, m.turn(&m.observed[0], nil))
			for name, want := range tt.want {
				assert.InDelta(t, want, m.work.speed[m.shafts[name]], 1e-9, name)
			}
		})
	}
}

// The motion against the same minimum as a linear programme, all shafts as
// unknowns, by gonum's simplex, over drivelines drawn at random. The draws are
// seeded: among tens of thousands the reference meets one it cannot solve.
func TestMotionIsTheLeastDissipation(t *testing.T) {
	t.Parallel()
	r := rand.New(rand.NewPCG(7, 11))
	for range 2000 {
		m, err := In{Members: draw(r), Observations: []Observation{{Turned: "s0", By: "engine"}}}.model()
		require.NoError(t, err)
		effort, ok := m.solve(&m.observed[0], nil)
		require.True(t, ok)
		want, err := simplex(m)
		require.NoError(t, err)
		require.InDelta(t, want, effort, 1e-4*(1+want), "%+v", m.in.Members)
	}
}

// Where several motions cost the same any may be seen: a wheel of a raised axle
// driven by its propshaft turns, or stands while the other turns at twice.
func TestAnyOfTheMotionsOfTheSameEffortFits(t *testing.T) {
	t.Parallel()
	raised := func(moved ...Motion) Out {
		out, err := Driveline(In{Members: axle("rear", false),
			Observations: []Observation{{Turned: "rear-prop", Moved: moved}}})
		require.NoError(t, err)
		return out
	}
	for _, way := range []string{"same", "still", "moves"} {
		out := raised(Motion{"rear-left", way})
		assert.True(t, out.Sound, way)
		assert.True(t, out.Nominal[0].Fits)
	}
	assert.True(t, raised(Motion{"rear-left", "same"}, Motion{"rear-right", "same"}).Sound)
	assert.True(t, raised(Motion{"rear-left", "moves"}, Motion{"rear-right", "still"}).Sound)
	assert.False(t, raised(Motion{"rear-left", "opposite"}).Sound, "turning one back costs more")
	assert.False(t, raised(Motion{"rear-left", "still"}, Motion{"rear-right", "still"}).Sound)
}

// draw grows a tree of up to nine members from shaft s0.
func draw(r *rand.Rand) []Member {
	var members []Member
	shafts := []string{"s0"}
	fresh := func() string {
		shafts = append(shafts, fmt.Sprintf("s%d", len(shafts)))
		return shafts[len(shafts)-1]
	}
	for i := range 1 + r.IntN(9) {
		from := shafts[r.IntN(len(shafts))]
		x := Member{ID: fmt.Sprintf("m%d", i), Kind: []string{gear, differential, viscous}[r.IntN(3)], A: from,
			B: fresh()}
		switch x.Kind {
		case gear:
			x.Ratio = 0.3 + 4.7*r.Float64()
		case differential:
			x.Carrier, x.Split, x.Limited = fresh(), 0.3+0.4*r.Float64(), r.IntN(2) == 0
		}
		members = append(members, x)
	}
	return members
}

// nudge is small against the tolerance of the comparison.
const nudge = 1e-7

// simplex solves min Σ R·|ω| with every member's equation and the turned
// speed: each speed is p − q with p, q ≥ 0, each slip likewise.
func simplex(m *model) (float64, error) {
	n := len(m.shafts)
	var equations []map[int]float64
	cost := make([]float64, n)
	for i := range cost {
		cost[i] = freeDrag
	}
	slip := func(a, b int, r float64) {
		cost = append(cost, r)
		equations = append(equations, map[int]float64{a: 1, b: -1, len(cost) - 1: -1})
	}
	for _, x := range m.members {
		switch x.kind {
		case gear:
			equations = append(equations, map[int]float64{x.a: 1, x.b: -x.ratio})
		case viscous:
			slip(x.a, x.b, viscousDrag)
		case differential:
			equations = append(equations, map[int]float64{x.c: -1, x.a: x.split, x.b: 1 - x.split})
			if x.limited {
				slip(x.a, x.b, plateDrag)
			}
		}
	}
	equations = append(equations, map[int]float64{m.observed[0].turned: 1})
	k := len(cost)
	a, right := mat.NewDense(len(equations), 2*k, nil), make([]float64, len(equations))
	right[len(right)-1] = 1
	for i, e := range equations {
		// Nearly all right sides are nought, on which Bland's rule may stall: a
		// nudge of each, different for each, keeps the corners apart.
		right[i] += nudge * (1 + math.Sqrt(float64(i+2)))
		for j, v := range e {
			a.Set(i, j, v)
			a.Set(i, k+j, -v)
		}
	}
	least, _, err := lp.Simplex(append(slices.Clone(cost), cost...), a, right, 0, nil)
	return least, err
}

func TestDoubleFailuresAndClash(t *testing.T) {
	t.Parallel()
	// Neither rear wheel nor the propshaft answers: only two failures do it.
	members := axle("rear", false)
	both := []Observation{
		{
			Says: "left turned", Turned: "rear-left", Held: []string{"rear-prop"}, Felt: light,
			Moved: []Motion{{"rear-right", "still"}},
		},
		{
			Says: "right turned", Turned: "rear-right", Held: []string{"rear-prop"}, Felt: light,
			Moved: []Motion{{"rear-left", "still"}},
		},
		{
			Says: "left turned, right held", Turned: "rear-left", Held: []string{"rear-right"},
			Moved: []Motion{{"rear-prop", "still"}},
		},
		{
			Says: "right turned, left held", Turned: "rear-right", Held: []string{"rear-left"},
			Moved: []Motion{{"rear-prop", "still"}},
		},
	}
	out, err := Driveline(In{Members: members, Whole: []string{"rear-diff"}, Observations: both})
	require.NoError(t, err)
	for _, d := range out.Doubles {
		assert.NotEqual(t, d[0].Member, d[1].Member)
	}
	assert.Contains(t, answers(out.Singles), "rear-left-shaft broken")

	// A wheel that moves while its own shaft is the one held cannot be.
	out, err = Driveline(In{Members: members, Observations: []Observation{
		{Says: "right wheel watched", Turned: "rear-left", Moved: []Motion{{"rear-right", "opposite"}}},
		{Says: "impossible", Turned: "rear-left", Held: []string{"rear-right"},
			Moved: []Motion{{"rear-right", "same"}}},
	}})
	require.NoError(t, err)
	assert.Empty(t, out.Singles)
	assert.Empty(t, out.Doubles)
	assert.Contains(t, out.Clash, `without "impossible"`)
}

// Two independent branches broken: no single explains it, the pair does.
func TestTwoBranchesBroken(t *testing.T) {
	t.Parallel()
	drive := Observation{
		Says: "engine drives, lock in", Turned: "engine", By: "engine", Engine: "on", Locks: []string{"centre-lock"},
		Ground: allWheels, Moved: append(wheels("still", allWheels...), Motion{"front-out", "same"}),
	}
	out, err := Driveline(In{Members: fourByFour(), Observations: []Observation{drive}})
	require.NoError(t, err)
	assert.Empty(t, out.Singles)
	pairs := map[string]bool{}
	for _, d := range out.Doubles {
		pairs[d[0].Member+" + "+d[1].Member] = true
	}
	assert.True(t, pairs["front-propshaft + rear-propshaft"], "%v", pairs)
	assert.NotContains(t, out.Says, "gearbox", "the gearbox carries: its output turned")
	assert.Contains(t, out.Cleared, "gearbox")
}

func TestBadFieldsAreNamed(t *testing.T) {
	t.Parallel()
	good := func() In {
		return In{Members: axle("rear", false), Observations: []Observation{{Turned: "rear-left", Moved: []Motion{}}}}
	}
	tests := []struct {
		path string
		bend func(*In)
	}{
		{"members", func(in *In) { in.Members = nil }},
		{"observations", func(in *In) { in.Observations = nil }},
		{"members", func(in *In) {
			for i := range 13 {
				in.Members = append(
					in.Members,
					Member{ID: fmt.Sprint("v", i), Kind: viscous, A: fmt.Sprint("a", i), B: fmt.Sprint("b", i)},
				)
			}
		}},
		{"members[1].id", func(in *In) { in.Members[1].ID = in.Members[0].ID }},
		{"members[0].kind", func(in *In) { in.Members[0].Kind = "belt" }},
		{"members[0].ratio", func(in *In) { in.Members[0].Ratio = -4 }},
		{"members[2].ratio", func(in *In) { in.Members[2].Ratio = 2 }},
		{"members[1].carrier", func(in *In) { in.Members[1].Carrier = "" }},
		{"members[1].carrier", func(in *In) { in.Members[1].Carrier = "rear-left-side" }},
		{"members[1].split", func(in *In) { in.Members[1].Split = 2 }},
		{"members[2].b", func(in *In) { in.Members[2].B = in.Members[2].A }},
		{"members[2].engaged_by", func(in *In) { in.Members[2].EngagedBy = "x" }},
		{"members[2]", func(in *In) { in.Members[2].Limited = true }},
		{"whole[0]", func(in *In) { in.Whole = []string{"moon"} }},
		{"observations[0].turned", func(in *In) { in.Observations[0].Turned = "moon" }},
		{"observations[0].way", func(in *In) { in.Observations[0].Way = "up" }},
		{"observations[0].by", func(in *In) { in.Observations[0].By = "magic" }},
		{"observations[0].felt", func(in *In) { in.Observations[0].Felt = "odd" }},
		{"observations[0].locks[0]", func(in *In) { in.Observations[0].Locks = []string{"moon"} }},
		{"observations[0].with[0]", func(in *In) { in.Observations[0].With = []string{"moon"} }},
		{"observations[0].held[0]", func(in *In) { in.Observations[0].Held = []string{"moon"} }},
		{"observations[0].moved[0].way", func(in *In) { in.Observations[0].Moved = []Motion{{Shaft: "rear-right"}} }},
	}
	for _, tt := range tests {
		in := good()
		tt.bend(&in)
		_, err := Driveline(in)
		assert.ErrorContains(t, err, tt.path+":", tt.path)
	}
}
