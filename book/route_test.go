package book_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	. "handwerk/book"
	"handwerk/core/input"
	"handwerk/core/quantity"
	"handwerk/core/quantity/quantitytest"
	"handwerk/workshop/kinds"
)

func step(id string, after ...string) Step {
	return Step{ID: id, Kind: Check, Title: id, Say: "Look.", After: after, Items: []Item{{ID: "x", Text: "X"}}}
}

func route(steps ...Step) Route {
	return Route{ID: "r", Title: "R", UnitKind: "u", Stations: []Station{{ID: "intake", Steps: steps}}}
}

func paths(fs input.Fields) []string {
	var out []string
	for _, f := range fs {
		out = append(out, f.Path)
	}
	return out
}

func TestAGateMayNameALaterStepButNotWaitForItself(t *testing.T) {
	t.Parallel()
	assert.Empty(t, route(step("a", "c"), step("b"), step("c", "b")).Check(Known{Kinds: kinds.Natures()}))
	assert.Equal(
		t, []string{"stations[0].steps[0].after[0]", "stations[0].steps[1].after[0]"},
		paths(route(step("a", "b"), step("b", "a")).Check(Known{Kinds: kinds.Natures()})),
	)
	assert.Equal(t, []string{"stations[0].steps[0].after[0]"},
		paths(route(step("a", "a")).Check(Known{Kinds: kinds.Natures()})))
}

func TestCheckFindsWhatWouldLeaveAMechanicStuck(t *testing.T) {
	t.Parallel()
	bare := func(kind Kind) Step { return Step{ID: "s", Kind: kind, Title: "S", Say: "Do."} }
	tests := []struct {
		name string
		step Step
		path string
	}{
		{"same id twice is found on the second", step("first"), ""},
		{"no title", Step{ID: "s", Kind: Photo, Say: "x"}, "title"},
		{"stack without work", bare(Stack), "work"},
		{"stack of nothing", Step{ID: "s", Kind: Stack, Title: "S", Say: "x", Work: Fit, Of: "z"}, "of"},
		{"measure without binding", bare(Measure), "measure"},
		{"torque without group", bare(Torque), "group"},
		{"fill without fluids", bare(Fill), "fill"},
		{"wait without schools", bare(Wait), "schools"},
		{"decide without choices", bare(Decide), "choices"},
		{"caution without caution", bare(Care), "cautions"},
		{"unknown role", Step{ID: "s", Kind: Photo, Title: "S", Say: "x", Role: "king"}, "role"},
		{"test without outcomes", Step{ID: "s", Kind: Test, Title: "S", Say: "x",
			Items: []Item{{ID: "i", Text: "I"}}}, "items[0].outcomes"},
		{
			"value of no dimension",
			Step{ID: "s", Kind: Test, Title: "S", Say: "x", Items: []Item{{ID: "i", Text: "I", Value: "colour"}}},
			"items[0].value",
		},
	}
	for _, tt := range tests {
		t.Run(tt.name, func(t *testing.T) {
			got := paths(route(tt.step).Check(Known{Kinds: kinds.Natures()}))
			if tt.path == "" {
				assert.Empty(t, got)
				return
			}
			assert.Contains(t, got, "stations[0].steps[0]."+tt.path)
		})
	}
	assert.Contains(t, paths(route(step("a"), step("a")).Check(Known{Kinds: kinds.Natures()})),
		"stations[0].steps[1].id")
}

func TestASheetWithImpossibleFigures(t *testing.T) {
	t.Parallel()
	mm := func(text string) quantity.Any { return quantitytest.Any(t, text) }
	s := SpecSheet{
		ID: "s", Family: "S", Limits: map[string]Limit{"x": {Min: mm("2 mm"), Max: mm("1 mm")}, "y": {}},
		Torques: map[string]TorqueGroup{"g": {}}, Fills: map[string]FillLimit{"f": {}},
	}
	assert.ElementsMatch(t, []string{"limits.x.min", "limits.y", "torques.g", "fills.f.min"}, paths(s.Check()))
}

func TestStationsStandInTheOrderOfTheWork(t *testing.T) {
	t.Parallel()
	names := StationNames()
	require.Len(t, names, 11)
	assert.Equal(t, StationID("intake"), names[0])
	assert.Equal(t, StationID("hand-over"), names[10])
	r := Route{ID: "r", Title: "R", UnitKind: "u", Stations: []Station{{ID: "prove"}, {ID: "intake"}}}
	assert.Contains(t, paths(r.Check(Known{Kinds: kinds.Natures()})), "stations[1].id")
}

// A route names a kind of gauge; which ones there are is the shop's.
func TestGaugesAreTheShopsOfThatKind(t *testing.T) {
	t.Parallel()
	measuring := Step{
		ID: "m", Kind: Measure, Title: "M", Say: "x",
		Measure: &MeasureSpec{
			Calc: "reading-set", Gauge: "dial indicator", MinReadings: 1, Unit: "mm",
			Bind: map[string]Template{"readings": Template(`"entries.readings"`)},
		},
	}
	b := Book{
		Routes: []Route{route(step("a"), measuring)}, Sheets: []SpecSheet{{ID: "s", Family: "S"}},
		Instruments: []Instrument{{ID: "d1", Kind: "dial indicator"}, {ID: "w", Kind: "beam wrench"},
			{ID: "d2", Kind: "dial indicator"}},
	}
	c, err := b.Copy("r", "s")
	require.NoError(t, err)
	var ids []string
	for _, i := range c.Gauges(measuring) {
		ids = append(ids, i.ID)
	}
	assert.Equal(t, []string{"d1", "d2"}, ids, "the wrench stays in the book")
	_, known := c.Instrument("w")
	assert.False(t, known)
	assert.Empty(t, c.Gauges(step("a")))

	look := Step{ID: "look", Kind: Stack, Title: "Look", Say: "x", Of: "a", Work: Inspect}
	b.Routes[0].Stations[0].Steps = append(b.Routes[0].Stations[0].Steps, look)
	c, err = b.Copy("r", "s")
	require.NoError(t, err)
	assert.Len(t, c.Instruments, 3, "a part that is looked at may be measured with any")
}

// A test that repeats an earlier one without items takes those.
func TestACardIsWrittenOnce(t *testing.T) {
	t.Parallel()
	again := Step{ID: "after", Kind: Test, Title: "After", Say: "x", Beside: "before"}
	r := route(Step{ID: "before", Kind: Test, Title: "Before", Say: "x", Items: []Item{{ID: "leak", Text: "Leak"}}},
		again)
	Book{}.Complete(&r)
	repeated, station, ok := r.Step("after")
	require.True(t, ok)
	assert.Equal(t, StationID("intake"), station)
	assert.Equal(t, "leak", repeated.Items[0].ID)
	assert.Equal(t, "Intake", r.Stations[0].Title)
}

// Seals are renewed by rule, whether or not the plan says so.
func TestSealsAreRenewedByRule(t *testing.T) {
	t.Parallel()
	r := route(
		Step{
			ID: "strip", Kind: Stack, Work: Remove, Title: "Strip", Say: "x",
			Parts: []Part{{ID: "lip", Name: "Lip seal", Shape: "seal"}, {ID: "gear", Name: "Gear", Shape: "gear"}},
		},
	)
	Book{}.Complete(&r)
	strip, _, _ := r.Step("strip")
	assert.True(t, strip.Parts[0].Once)
	assert.False(t, strip.Parts[1].Once)
}

func TestOneSchoolIsTheShopsOwn(t *testing.T) {
	t.Parallel()
	both := Step{
		ID: "d", Kind: Decide, Title: "D", Say: "x",
		Choices: []Choice{{ID: "a", Text: "A", Default: true}, {ID: "b", Text: "B", Default: true}},
	}
	assert.Equal(t, []string{"stations[0].steps[0].choices"}, paths(route(both).Check(Known{Kinds: kinds.Natures()})))
}

func TestAPartFacesAWayThatThereIs(t *testing.T) {
	t.Parallel()
	strip := func(p Part) []string {
		p.ID, p.Name = "nut", "Nut"
		return paths(
			route(
				Step{ID: "strip", Kind: Stack, Work: Remove, Title: "Strip", Say: "x", Parts: []Part{p}},
				Step{
					ID:    "build",
					Kind:  Stack,
					Work:  Fit,
					Title: "Build",
					Say:   "x",
					Of:    "strip",
					After: []string{"strip"},
				},
				step("end", "build"),
			).Check(Known{Kinds: kinds.Natures()}),
		)
	}
	const part = "stations[0].steps[0].parts[0]"
	assert.Empty(t, strip(Part{Faces: "collar to the flange", Facing: "rear"}))
	assert.Empty(t, strip(Part{Faces: "steel first, friction last"}))
	assert.Equal(t, []string{part + ".facing"}, strip(Part{Faces: "collar to the flange", Facing: "backwards"}))
	assert.Equal(t, []string{part + ".faces"}, strip(Part{Facing: "rear"}), "words stand beside it")
}
