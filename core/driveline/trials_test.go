package driveline

import (
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// Common practice throughout: what each trial of section 2 of the trade says.
func TestTrialsOnTheVehicle(t *testing.T) {
	t.Parallel()
	raised := Observation{Says: "both rear wheels raised, one turned", Turned: "rear-left"}
	seen := func(o Observation, moved ...Motion) Observation {
		o.Moved = moved
		return o
	}
	stall := Observation{Says: "engine drives, lock out", Turned: "engine", By: "engine", Engine: "on",
		Ground: allWheels}
	locked := stall
	locked.Says, locked.Locks = "engine drives, lock in", []string{"centre-lock"}
	tests := []struct {
		name    string
		in      In
		sound   bool
		has     []string // single answers that must be there
		hasNot  []string
		cleared []string
	}{
		{
			"limited slip in order: the other wheel turns the same way",
			In{Members: axle("rear", true), Observations: []Observation{seen(raised, Motion{"rear-right", "same"})}},
			true, nil, []string{"rear-diff worn", "rear-right-shaft broken"},
			[]string{"rear-right-shaft", "rear-left-shaft"},
		},
		{
			"the other wheel turns back: plates worn out",
			In{Members: axle("rear", true), Observations: []Observation{seen(raised,
				Motion{"rear-right", "opposite"})}},
			false,
			[]string{"rear-diff worn"},
			[]string{"rear-right-shaft broken", "rear-diff broken"},
			[]string{"rear-right-shaft", "rear-left-shaft", "rear-ring-pinion"},
		},
		{
			"the other wheel stands: something broken",
			In{Members: axle("rear", false), Observations: []Observation{seen(raised, Motion{"rear-right", "still"})}},
			false, []string{"rear-diff broken", "rear-left-shaft broken", "rear-right-shaft broken"}, nil, nil,
		},
		{
			"no drive, drives with the lock in: one branch behind the centre is broken, nothing says which",
			In{Members: fourByFour(), Observations: []Observation{
				seen(stall, wheels("still", allWheels...)...), seen(locked, wheels("same", allWheels...)...)}},
			false,
			[]string{
				"front-propshaft broken", "front-diff broken", "front-left-shaft broken", "rear-propshaft broken",
				"rear-diff broken", "rear-right-shaft broken", "centre broken",
			},
			[]string{"gearbox broken"}, []string{"gearbox"},
		},
		{
			"the front propshaft spins meanwhile: the break lies behind it",
			In{Members: fourByFour(), Observations: []Observation{
				seen(stall, append(wheels("still", allWheels...),
					Motion{"front-prop", "same"}, Motion{"rear-prop", "still"})...),
				seen(locked, wheels("same", allWheels...)...)}},
			false, []string{"front-ring-pinion broken", "front-diff broken", "front-left-shaft broken"},
			[]string{"front-propshaft broken", "rear-propshaft broken", "rear-diff broken"},
			[]string{"gearbox", "front-propshaft", "rear-propshaft", "rear-diff", "centre"},
		},
		{
			"the same with the shafts seen whole: the failure is in the carrier",
			In{Members: fourByFour(), Whole: []string{"front-left-shaft", "front-right-shaft"},
				Observations: []Observation{
					seen(stall, append(wheels("still", allWheels...), Motion{"front-prop", "same"})...),
					seen(locked, wheels("same", allWheels...)...)}},
			false,
			[]string{"front-diff broken", "front-ring-pinion broken"},
			[]string{"front-left-shaft broken", "rear-diff broken"},
			[]string{"front-propshaft", "rear-propshaft"},
		},
		{
			"the reverse: the rear propshaft spins, the rear branch is broken",
			In{Members: fourByFour(), Observations: []Observation{
				seen(stall, append(wheels("still", allWheels...),
					Motion{"rear-prop", "same"}, Motion{"front-prop", "still"})...),
				seen(locked, wheels("same", allWheels...)...)}},
			false, []string{"rear-diff broken", "rear-left-shaft broken"},
			[]string{"front-diff broken"}, []string{"front-propshaft", "front-diff"},
		},
		{
			"drives with the lock out and in: both branches are whole",
			In{Members: fourByFour(), Observations: []Observation{
				seen(stall, wheels("same", allWheels...)...), seen(locked, wheels("same", allWheels...)...)}},
			true,
			nil,
			[]string{"front-propshaft broken", "rear-diff broken", "gearbox broken"},
			[]string{"gearbox", "front-propshaft", "rear-propshaft"},
		},
		{
			"spring-applied pack, engine off: both front wheels turn together and only the propshaft spins: it slips",
			In{Members: partTime("engine_off"), Observations: []Observation{{
				Says: "both front wheels turned by hand, engine off", Turned: "front-left",
				With: []string{"front-right"},
				Held: []string{"rear-out"}, Ground: []string{"rear-left", "rear-right"}, Felt: light, Moved: []Motion{
					{"front-out", "same"}, {"front-right", "same"},
				}}}},
			false,
			[]string{"pack slips"},
			[]string{"front-propshaft broken", "front-ring-pinion broken"},
			[]string{"front-propshaft", "front-ring-pinion", "front-left-shaft"},
		},
		{
			"one front wheel held, the other turned: the propshaft spins, the pack slips",
			In{Members: partTime("engine_off"), Observations: []Observation{{
				Says: "one front wheel turned by hand, the other held", Turned: "front-left",
				Held: []string{"rear-out", "front-right"}, Moved: []Motion{{"front-out", "moves"}}}}},
			false, []string{"pack slips"}, []string{"front-propshaft broken"},
			[]string{"front-propshaft", "front-diff"},
		},
		{
			"spring-applied pack in order: it stands",
			In{
				Members: partTime("engine_off"),
				Observations: []Observation{{Turned: "front-left", Held: []string{"rear-out", "front-right"},
					Felt: stands}},
			},
			true, nil, []string{"pack slips", "front-propshaft broken"},
			[]string{"front-propshaft", "front-left-shaft"},
		},
	}
	for _, tt := range tests {
		t.Run(tt.name, func(t *testing.T) {
			out, err := Driveline(tt.in)
			require.NoError(t, err)
			assert.Equal(t, tt.sound, out.Sound, out.Says)
			got := answers(out.Singles)
			for _, want := range tt.has {
				assert.Contains(t, got, want)
			}
			for _, not := range tt.hasNot {
				assert.NotContains(t, got, not)
			}
			for _, want := range tt.cleared {
				assert.Contains(t, out.Cleared, want)
			}
		})
	}
}

// Viscous coupling with a one-way clutch: equal drag both ways, or the one-way
// clutch has failed (common practice).
func TestViscousCouplingWithOneWayClutch(t *testing.T) {
	t.Parallel()
	members := []Member{
		{ID: "coupling", Kind: viscous, A: "prop", B: "housing"},
		{ID: "one-way", Kind: oneWay, A: "housing", B: "rear"},
	}
	turned := func(way, felt string) Observation {
		return Observation{Says: way, Turned: "prop", Way: way, Held: []string{"rear"}, Felt: felt, Moved: []Motion{}}
	}
	bothWays := func(forward, backward string) (Out, error) {
		return Driveline(In{
			Members: members, Observations: []Observation{turned("forward", forward), turned("backward", backward)},
		})
	}
	out, err := bothWays(drags, light)
	require.NoError(t, err)
	assert.True(t, out.Sound, "a one-way clutch carries one way: %s", out.Says)

	out, err = bothWays(drags, drags)
	require.NoError(t, err)
	assert.Equal(t, []string{"one-way stuck"}, answers(out.Singles))

	out, err = bothWays(light, light)
	require.NoError(t, err)
	assert.ElementsMatch(t, []string{"one-way slips", "coupling slips"}, answers(out.Singles))

	out, err = bothWays(stands, light)
	require.NoError(t, err)
	assert.Equal(t, []string{"coupling stuck"}, answers(out.Singles))
}

// A broken shaft on each branch is found from the trials that speak of it.
func TestABrokenShaftOnEachBranchIsFound(t *testing.T) {
	t.Parallel()
	for _, broken := range []string{
		"front-propshaft", "rear-propshaft", "front-left-shaft", "front-right-shaft", "rear-left-shaft",
		"rear-right-shaft",
	} {
		t.Run(broken, func(t *testing.T) {
			in := In{Members: fourByFour()}
			m, err := In{Members: in.Members, Observations: trials()}.model()
			require.NoError(t, err)
			at := slices.IndexFunc(in.Members, func(x Member) bool { return x.ID == broken })
			in.Observations = trials()
			for i := range in.Observations {
				in.Observations[i].Felt = m.turn(&m.observed[i], []failure{{at, 0}})
				for _, s := range append([]string{"front-prop", "rear-prop", "front-out", "rear-out"}, allWheels...) {
					speed := m.work.speed[m.shafts[s]] * m.observed[i].speed
					in.Observations[i].Moved = append(in.Observations[i].Moved, Motion{s, wayOf(speed)})
				}
			}
			out, err := Driveline(in)
			require.NoError(t, err)
			// From outside, one shaft of an axle broken looks like the other: the
			// wheel turned meets nothing either way.
			branch, _, _ := strings.Cut(broken, "-")
			got := answers(out.Singles)
			assert.Contains(t, got, broken+" broken")
			for _, x := range got {
				assert.True(t, strings.HasPrefix(x, branch), "%s stands under suspicion", x)
				assert.Equal(t, strings.Contains(broken, "prop"), strings.Contains(x, "prop"), x)
			}
			assert.Contains(t, out.Cleared, "gearbox")
		})
	}
}

// trials: each wheel raised and turned with its neighbour held, then the
// propshafts with both wheels held, lock in and out.
func trials() []Observation {
	var list []Observation
	for _, end := range []string{"front", "rear"} {
		list = append(list,
			Observation{
				Turned: end + "-left", Held: []string{end + "-right", "engine"},
				Locks: []string{"centre-lock"}, Moved: []Motion{},
			},
			Observation{Turned: end + "-left", Held: []string{end + "-right"}, Moved: []Motion{}},
			Observation{Turned: end + "-right", Held: []string{end + "-left"}, Moved: []Motion{}},
			Observation{Turned: end + "-prop", Held: []string{"engine"}, Moved: []Motion{}})
	}
	return list
}
