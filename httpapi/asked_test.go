package httpapi_test

import (
	"encoding/json"
	"net/http"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"handwerk/workshop/kinds/measure"
	"handwerk/workshop/paper"
	"handwerk/workshop/record"
	"handwerk/workshop/shop"
)

// What a choice is weighed by is offered, and once said it is worked out; the choice
// does not wait for it. A fluid waits for what it has to suit.
func TestNoStepWaitsForWhatItCanDoWithout(t *testing.T) {
	t.Parallel()
	p, _ := opened(t)
	odo := p.signIn("odo")
	j := odo.takeIn(t, "Nora Quill", "QX 77", "GR-1")
	odo.do(t, "/api/v1/vehicles/"+j.vehicle.ID+"/units",
		`{"name":"Own box","serial":"","route":"gearbox-longitudinal"}`, &j.unit)
	base := "/api/v1/rebuilds/" + odo.order(t, j, "").ID
	may := func(step, path string) bool {
		figures := odo.step(base + "/steps/" + step).Frame().Figures
		i := slices.IndexFunc(figures, func(f record.FigureView) bool { return f.Path == path })
		require.GreaterOrEqual(t, i, 0, "%s asks for %s", step, path)
		return figures[i].May
	}
	odo.walkUntil(t, base, "way")
	assert.True(t, may("way", "ways"))
	weighed := odo.step(base + "/steps/way").Frame().Weighed
	assert.Contains(t, weighed[len(weighed)-1].Problem, "what each option usually takes")
	odo.walkUntil(t, base, "fluid")
	assert.False(t, may("fluid", "figures.yellow-metals"))
}

// How many gears there are is said at intake, or later of a unit that is known: what
// tries them one by one asks for no more; nobody counts the gears of an axle.
func TestOnlyTheGearsThereAreAreTried(t *testing.T) {
	t.Parallel()
	p, _ := opened(t)
	odo := p.signIn("odo")
	j := odo.takeIn(t, "Nora Quill", "QX 77", "GR-1")
	at := "/api/v1/vehicles/" + j.vehicle.ID + "/units"
	for body, status := range map[string]int{
		`{"name":"Own box","serial":"7","route":"gearbox-longitudinal","gears":7}`: http.StatusUnprocessableEntity,
		`{"name":"Own axle","serial":"8","route":"axle-ring-pinion","gears":4}`:    http.StatusUnprocessableEntity,
	} {
		res, said := odo.send(http.MethodPost, at, body, key())
		assert.Equal(t, status, res.StatusCode, said)
	}
	res, said := odo.send(http.MethodPost, "/api/v1/units/"+j.unit.ID, `{"gears":4}`, key())
	assert.Equal(t, http.StatusUnprocessableEntity, res.StatusCode, "an axle later: %s", said)
	tried := func() (gears []string) {
		var r = odo.order(t, j, "")
		step := odo.step("/api/v1/rebuilds/" + r.ID + "/steps/shift-before").(*measure.MeasureStep)
		for _, a := range step.Asks {
			if strings.HasSuffix(a.ID, "-standing") {
				gears = append(gears, a.ID)
			}
		}
		input, err := json.Marshal(step.Input)
		require.NoError(t, err)
		assert.Equal(t, len(gears), strings.Count(strings.SplitN(string(input)[strings.Index(string(input),
			`"gears":[`):], "]", 2)[0], `"`)/2-1)
		return gears
	}
	j.unit = shop.Unit{}
	odo.do(t, at, `{"name":"Own box","serial":"7","route":"gearbox-longitudinal","gears":4}`, &j.unit)
	assert.Equal(t, []string{"gear-1-standing", "gear-2-standing", "gear-3-standing", "gear-4-standing",
		"gear-r-standing"}, tried())
	j.unit = shop.Unit{}
	odo.do(t, at, `{"name":"Other box","serial":"9","route":"gearbox-longitudinal"}`, &j.unit)
	assert.Len(t, tried(), 7, "nobody counted")
	var page paper.UnitPage
	odo.do(t, "/api/v1/units/"+j.unit.ID, `{"gears":5}`, &page)
	assert.Equal(t, 5, page.Unit.Gears)
	assert.Len(t, tried(), 6)
}
