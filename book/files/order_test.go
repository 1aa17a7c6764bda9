package files

import (
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"handwerk/book"
)

// routeOf the shipped book with the place of every step.
func routeOf(t *testing.T, id string) (book.Route, func(string) int) {
	t.Helper()
	r, ok := shippedBook(t).Route(id)
	require.True(t, ok, id)
	return r, func(step string) int {
		i := slices.IndexFunc(r.Steps(), func(s book.Step) bool { return s.ID == step })
		require.GreaterOrEqual(t, i, 0, "%s has no step %s", id, step)
		return i
	}
}

// waits tells whether a step waits for another, over any number of gates.
func waits(r book.Route, step, target string) bool {
	s, _, _ := r.Step(step)
	return slices.ContainsFunc(s.After, func(g string) bool { return g == target || waits(r, g, target) })
}

// The order of the work, all common practice: what must be done before what,
// held by a gate and not by the list alone.
func TestTheOrderOfTheWork(t *testing.T) {
	t.Parallel()
	for _, tt := range []struct{ route, first, then string }{
		// A clutch: what lies behind the disc is torqued and measured before it is hidden.
		{"clutch-hydraulic", "flywheel-bolts", "build"}, {
			"clutch-hydraulic", "flywheel-runout", "build",
		}, {"clutch-hydraulic", "housing", "build"},
		{
			"clutch-single-mass", "flywheel-bolts", "flywheel-runout",
		}, {"clutch-single-mass", "housing", "build"}, {"clutch-twin-disc", "flywheel-bolts", "build"},
		{"clutch-twin-disc", "floater-clearance", "build"}, {"clutch-twin-disc", "lift", "lift-in"},
		// Ring and pinion: set up without the new sleeve, bolts at their torque before backlash, sleeve last, measured again.
		{"axle-ring-pinion", "set-up", "depth"}, {
			"axle-ring-pinion", "ring-bolts", "backlash",
		}, {"axle-ring-pinion", "cap-bolts", "backlash"},
		{"axle-ring-pinion", "pattern", "apart"}, {"axle-ring-pinion", "apart", "build-pinion"},
		{"axle-ring-pinion", "build-pinion", "preload"}, {"axle-ring-pinion", "preload", "build"},
		{"axle-ring-pinion", "preload", "total-torque"}, {"axle-ring-pinion", "total-torque", "build-shafts"},
		{"axle-ring-pinion", "total-torque", "final-backlash"}, {
			"axle-ring-pinion", "final-backlash", "final-pattern",
		}, {"axle-ring-pinion", "final-pattern", "cover-bolts"},
		// Oil: the fill plug gets its torque when the level stands, and a flush is drained again.
		{"gearbox-oil-service", "fill-in", "fill-plug-torque"}, {"gearbox-oil-service", "flushed", "fill-in"},
		{"gearbox-oil-service", "drain-plug-torque", "flushed"},
		// Limited slip: as found before, on the bench after; bolts before backlash.
		{
			"axle-limited-slip", "build", "breakaway-after",
		}, {"axle-limited-slip", "breakaway-after", "build-ring"}, {"axle-limited-slip", "ring-bolts", "build-carrier"},
		{"axle-limited-slip", "pattern", "build-shafts"}, {
			"axle-limited-slip", "ring-bolts", "backlash",
		}, {"axle-limited-slip", "cap-bolts", "backlash"}, {"axle-limited-slip", "stack", "build"},
		// Shims are measured when they are out; floats on a trial assembly, and as they will run.
		{"transaxle", "strip", "side-shims"}, {"transaxle", "trial-build", "side-preload"}, {
			"axle-power-divider", "trial-build", "lock-gap",
		}, {
			"axle-power-divider", "input-nut", "float-again",
		},
		{"gearbox-longitudinal", "trial-build", "end-float"}, {
			"gearbox-longitudinal", "flange-nut", "float-again",
		}, {"transfer-case-dog", "flange-nut", "float-again"},
		{"transfer-case-motor", "connect", "teach-in"}, {
			"transfer-case-wet-pack", "released-clearance", "dry-run",
		}, {"shift-linkage", "clamp-bolt", "gate-again"},
	} {
		r, _ := routeOf(t, tt.route)
		assert.True(t, waits(r, tt.then, tt.first), "%s: %s waits for %s", tt.route, tt.then, tt.first)
	}
	for route, order := range map[string][2]string{
		"axle-limited-slip": {"breakaway-before", "strip"}, "transfer-case-viscous": {"creep", "creep-hot"},
	} {
		_, at := routeOf(t, route)
		assert.Less(t, at(order[0]), at(order[1]), route)
	}
}

// What is drained is filled, and what was filled on the bench is looked at
// again in the vehicle.
func TestWhatIsDrainedIsFilled(t *testing.T) {
	t.Parallel()
	for _, r := range shippedBook(t).Routes {
		has := map[string]bool{}
		for _, s := range r.Steps() {
			has[s.ID] = true
		}
		if has["drain"] || has["oil-kept"] {
			assert.True(t, has["fill-in"] || has["fill-before"] || has["level"], "%s drains and never fills", r.ID)
		}
		if has["fill-before"] || has["oil-kept"] {
			assert.True(t, has["level"], "%s: the level in the vehicle", r.ID)
		}
		drain, _, ok := r.Step("drain")
		if ok {
			assert.Equal(t, "plug", drain.Items[0].ID, "%s: the fill plug opens first", r.ID)
		}
	}
}

// Wherever a shaft or a wheel was off, its bolts are a torque group; wheels are
// tightened again after 50 km, and the customer's sheet says so.
func TestWhatWasOffIsTorqued(t *testing.T) {
	t.Parallel()
	for _, r := range shippedBook(t).Routes {
		var groups []string
		handover := ""
		for _, s := range r.Steps() {
			groups = append(groups, s.Group)
			handover += strings.Join(s.Handover, "\n")
		}
		if slices.Contains(groups, "wheels") {
			assert.Contains(t, handover, "after 50 km", r.ID)
		}
		if slices.ContainsFunc(r.Steps(), func(s book.Step) bool { return s.Leaves["torque.wheels"] == book.Loose }) {
			assert.Contains(t, groups, "wheels", r.ID)
		}
		if _, _, lifted := r.Step("lift-in"); lifted {
			assert.True(t, slices.Contains(groups, "propshaft") || slices.Contains(groups, "flange"), r.ID)
		}
		if static, _, ok := r.Step("static"); ok {
			assert.True(
				t, slices.ContainsFunc(static.Items, func(i book.Item) bool { return i.ID == "battery" }),
				"%s: battery back on", r.ID,
			)
		}
		if card, _, ok := r.Step("drive-before"); ok && card.Items[0].ID == "driven" {
			assert.True(
				t, card.Items[0].Outcomes[1].Ends && card.Items[0].Outcomes[1].Reason,
				"%s: it may not have been driven", r.ID,
			)
		}
	}
}

// A part with a lip-sealed bearing shows its seal to the gearbox.
func TestThePilotBearingShowsItsSealToTheGearbox(t *testing.T) {
	t.Parallel()
	found := 0
	for _, r := range shippedBook(t).Routes {
		for _, s := range r.Steps() {
			for _, p := range s.Parts {
				if p.Name == "Pilot bearing" {
					found++
					assert.Equal(t, book.Facing("rear"), p.Facing, r.ID)
					assert.Contains(t, p.Faces, "seal to the gearbox", r.ID)
				}
			}
		}
	}
	assert.GreaterOrEqual(t, found, 4)
}

// Nothing is a step that only says "work it out": what is reckoned stands with
// the choice it serves.
func TestNoStepOnlyReckons(t *testing.T) {
	t.Parallel()
	weighed := map[string]bool{}
	for _, r := range shippedBook(t).Routes {
		for _, s := range r.Steps() {
			assert.False(t, s.Measure != nil && s.Measure.Reckons() && len(s.Measure.Asks) == 0, "%s %s", r.ID, s.ID)
			for _, w := range s.Weighs {
				weighed[w.Calc] = true
			}
		}
	}
	for _, calc := range []string{
		"diagnose", "decide", "clutch-capacity", "gearing", "fluid", "fill", "running-in", "weakest-link",
	} {
		assert.True(t, weighed[calc], calc)
	}
}

// Hazards where the hand is: grave ones, and what is read at a test is what can
// happen at that test.
func TestCautionsAtTheHand(t *testing.T) {
	t.Parallel()
	b := shippedBook(t)
	for _, c := range b.Cautions {
		if slices.Contains([]string{"disc-springs", "shaft-brake", "spring-brakes", "lurch", "pack-pressure",
			"rotating"}, c.ID) {
			assert.True(t, c.Grave, c.ID)
		}
	}
	at := map[string]string{
		"one-wheel": "shaft-brake", "stall-heat": "lurch", "stall-hold": "lurch", "fork-travel": "fingers",
		"engine-off-lock": "rotating", "creep-torque": "shaft-brake", "oil-look": "hot-oil",
	}
	for _, x := range b.Tests {
		if hazard := at[x.ID]; hazard != "" {
			assert.Contains(t, x.Cautions, hazard, x.ID)
		}
		if slices.Contains(x.Tools, "test drive") {
			assert.Contains(t, x.Cautions, "road", x.ID)
			assert.True(t, slices.Contains(x.Needs, "driveable") || slices.Contains(x.Needs, "engine_runs"), x.ID)
		}
	}
	for route, step := range map[string]string{
		"transfer-case-wet-pack": "leak-down", "clutch-hydraulic": "bleed",
	} {
		r, _ := routeOf(t, route)
		s, _, _ := r.Step(step)
		want := map[string]string{"leak-down": "pack-pressure", "bleed": "fingers"}[step]
		assert.Contains(t, s.Cautions, want, route)
	}
}
