package files

import (
	"encoding/json"
	"reflect"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"handwerk/book"
)

// What a mechanic once missed on a route stands there now, in its words.
func TestWhatAMechanicMissedIsThere(t *testing.T) {
	t.Parallel()
	b := shippedBook(t)
	for route, all := range map[string][]string{
		"clutch-hydraulic": {
			"step height", "thickness left after refacing",
			"self-adjusting one with its tool", "push rod with the cylinder",
		},
		"clutch-cable":         {"free play checked after 50 km"},
		"clutch-single-mass":   {"dual-mass"},
		"clutch-twin-disc":     {"clutch brake", "floater"},
		"gearbox-longitudinal": {"input shaft", "speedometer", "vent"},
		"transaxle": {
			"side gears", "circlip felt home", "backlash",
			"pinion depth", "synchroniser gap", "interlock",
		},
		"gearbox-oil-service":    {"switch"},
		"gearbox-auto-to-manual": {"converter", "pedal stop", "cooler"},
		"pedal-hydraulics":       {"vent in its cap", "clevis with pin and bush"},
		"shift-linkage":          {"lock pin"},
		"axle-ring-pinion": {
			"bores under the caps", "no groove where the seal runs",
			"wheel bearings", "hub seals", "vent open",
		},
		"axle-limited-slip":         {"side gears"},
		"axle-torque-biasing":       {"nuts of the centre section", "hub seals"},
		"axle-power-divider":        {"oil pump", "lamp switch"},
		"axle-exchange":             {"hub seals"},
		"transfer-case-dog":         {"planet", "brake on its output"},
		"transfer-case-wet-pack":    {"filter", "chain", "ratio"},
		"transfer-case-motor":       {"sensor", "crimp"},
		"transfer-case-viscous":     {"ratio", "chain", "roll"},
		"transfer-case-two-outputs": {"brake on the output", "interlock", "speedometer"},
	} {
		r, ok := b.Route(route)
		require.True(t, ok, route)
		words := strings.ToLower(wordsOf(reflect.ValueOf(r)))
		for _, w := range all {
			assert.Contains(t, words, w, route)
		}
	}
}

// No wheel comes off for a clutch or a case, so none is tightened there; a second pair of
// eyes looks before each heavy unit goes in.
func TestNothingSuperfluousStandsInTheWay(t *testing.T) {
	t.Parallel()
	b := shippedBook(t)
	for _, r := range b.Routes {
		steps := r.Steps()
		in := slices.IndexFunc(steps, func(s book.Step) bool { return s.ID == "lift-in" })
		looked := slices.IndexFunc(steps, func(s book.Step) bool { return s.ID == "looked-over" })
		if in >= 0 {
			assert.True(t, looked >= 0 && looked < in, "%s is lifted in unseen", r.ID)
		}
		if strings.HasPrefix(r.ID, "clutch-") || strings.HasPrefix(r.ID, "transfer-case-") {
			assert.False(t, slices.ContainsFunc(steps, func(s book.Step) bool { return s.Group == "wheels" }), r.ID)
		}
		assert.NotContains(t, wordsOf(reflect.ValueOf(r)), "is met", r.ID)
	}
}

// Figures of the demo's sheets that could not be: springs that go flat before the pack
// frees, wheel nuts of a truck on a light axle, a kit with a part that no stack has.
func TestTheDemosSheetsCanBe(t *testing.T) {
	t.Parallel()
	b := shippedBook(t)
	sheet := func(id string) book.SpecSheet {
		i := slices.IndexFunc(b.Sheets, func(s book.SpecSheet) bool { return s.ID == id })
		require.GreaterOrEqual(t, i, 0, id)
		return b.Sheets[i]
	}
	figure := func(s book.SpecSheet, name string, into any) {
		require.NoError(t, json.Unmarshal(s.Figures[name], into), name)
	}
	pack := sheet("norrel-p3")
	var spring struct {
		H0 string `json:"h0"`
	}
	figure(pack, "spring", &spring)
	assert.Equal(t, "2.2 mm", spring.H0, "two of them, 2.0 mm taken up: 2.4 mm are left to lift 1.6 mm")
	for _, s := range b.Sheets {
		wheels, ok := s.Torques["wheels"]
		if propshaft, light := s.Torques["propshaft"]; ok && light && float64(propshaft.Torque.SI()) < 100 {
			assert.Less(t, float64(wheels.Torque.SI()), 200.0, s.ID)
		}
	}
}

// What one step of the pedal and the clutch found out, the tests take over: the same test
// of the book stands behind both.
func TestNobodyIsAskedTwice(t *testing.T) {
	t.Parallel()
	o := opened{shippedBook(t), t}
	for route, tests := range map[string][]string{
		"pedal-hydraulics": {"box-watched", "hose-felt", "port-return"},
		"clutch-hydraulic": {"noise-with-pedal"},
		"clutch-cable":     {"noise-with-pedal"},
	} {
		items := o.step(route, "drive-before").Items
		for _, test := range tests {
			assert.True(
				t,
				slices.ContainsFunc(items, func(i book.Item) bool { return i.Test == test && len(i.Outcomes) > 1 }),
				"%s: %s",
				route,
				test,
			)
		}
	}
}
