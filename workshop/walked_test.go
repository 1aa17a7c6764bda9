package workshop_test

import (
	"encoding/json"
	"maps"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"handwerk/book"
	"handwerk/workshop/acts"
	"handwerk/workshop/kinds/decide"
	"handwerk/workshop/record"
)

// onSheet is a family of the demo for each route.
var onSheet = map[string]string{
	"axle-exchange": "tarn-a5", "axle-limited-slip": "brakka-a9s", "axle-power-divider": "norrel-td",
	"axle-ring-pinion": "brakka-a9", "axle-torque-biasing": "holm-a7", "clutch-cable": "tarn-180",
	"clutch-hydraulic": "skerry-c228", "clutch-single-mass": "oyle-dm", "clutch-twin-disc": "skerry-w2",
	"gearbox-auto-to-manual": "oyle-am", "gearbox-longitudinal": "brakka-g5", "gearbox-oil-service": "tarn-g4",
	"pedal-hydraulics": "skerry-h19", "shift-linkage": "holm-l5", "transaxle": "holm-x4",
	"transfer-case-dog": "brakka-t2", "transfer-case-motor": "holm-em", "transfer-case-two-outputs": "norrel-r2",
	"transfer-case-viscous": "oyle-vc", "transfer-case-wet-pack": "norrel-p3",
}

// half leaves every second figure away, by its name.
func half[T any](all map[string]T) map[string]T {
	some := map[string]T{}
	for i, name := range slices.Sorted(maps.Keys(all)) {
		if i%2 == 0 {
			some[name] = all[name]
		}
	}
	return some
}

// keepRead keeps what is not known from a sheet but read off the part: a thread, an arm.
func keepRead(c *book.Copy, full map[string]json.RawMessage) {
	figures := maps.Clone(c.Sheet.Figures)
	if figures == nil {
		figures = map[string]json.RawMessage{}
	}
	for _, step := range c.Route.Steps() {
		if step.Measure == nil || !slices.Contains([]string{"wrench-adapter", "tap-drill", "bolt", "shaft-speed"},
			step.Measure.Calc) {
			continue
		}
		for _, ask := range step.Measure.Asks {
			path, _ := ask.OnSheet()
			name := strings.TrimPrefix(path, "figures.")
			if raw, ok := full[name]; ok {
				figures[name] = raw
			}
		}
	}
	c.Sheet.Figures = figures
}

// Every route is walked to the signature with a full sheet, with half of one and with
// none: nothing is left undone on any, and what was undone is listed with how it came back.
func TestEveryRouteComesHome(t *testing.T) {
	t.Parallel()
	known, err := demoBook()
	require.NoError(t, err)
	require.Len(t, onSheet, len(known.Routes))
	for _, route := range known.Routes {
		for _, share := range []string{"full", "half", "empty"} {
			t.Run(route.ID+" on a sheet that is "+share, func(t *testing.T) {
				t.Parallel()
				c, err := known.Copy(route.ID, onSheet[route.ID])
				require.NoError(t, err)
				full := c.Sheet.Figures
				switch s := &c.Sheet; share {
				case "half":
					s.Limits, s.Torques, s.Fills, s.Figures = half(
						s.Limits,
					), half(
						s.Torques,
					), half(
						s.Fills,
					), half(
						s.Figures,
					)
				case "empty":
					s.Limits, s.Torques, s.Fills, s.Figures, s.Washers, s.Ways = nil, nil, nil, nil, nil, nil
				}
				keepRead(&c, full)
				b := benchWith(t, c)
				b.walkUntil("sign-off")
				undone := viewAt[*decide.DecideStep](b, "sign-off").Undone
				assert.NotEmpty(t, undone)
				for _, u := range undone {
					assert.NotEmpty(t, u.Back, "%s %s", u.Name, u.Left)
				}
				b.walkUntil("")
				assert.True(t, b.ledger.Rebuild.Place.Closed)
				assert.Empty(t, record.NotBack(b.ledger.State()))
				if share == "full" {
					everyCalculatorAnswered(t, b)
				}
			})
		}
	}
}

// everyCalculatorAnswered: no binding starves on a full sheet, and nothing had to be
// accepted as it is.
func everyCalculatorAnswered(t *testing.T, b *bench) {
	answered := map[string]string{}
	for _, e := range b.ledger.Entries {
		assert.NotEqual(t, acts.Accept{}.Name(), e.Act, e.Step)
		if e.Method != "" {
			answered[e.Step] = e.Method
		}
	}
	for _, step := range b.ledger.Plan.Steps {
		if step.Kind == book.Measure && !b.ledger.State().IsSkipped(step) {
			assert.True(t, strings.HasPrefix(answered[step.ID], step.Measure.Calc+"/"), "%s: no answer of %s",
				step.ID, step.Measure.Calc)
		}
	}
}
