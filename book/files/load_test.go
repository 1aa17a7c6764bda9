package files

import (
	"errors"
	"strings"
	"testing"
	"testing/fstest"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"handwerk/book/demo"
	"handwerk/book/shop"
	"handwerk/workshop/kinds"
)

func TestTheShippedBookIsSound(t *testing.T) {
	t.Parallel()
	_, err := Load(kinds.Natures(), shop.Files)
	require.NoError(t, err, "what ships stands on its own")
	b, err := Load(kinds.Natures(), shop.Files, demo.Files)
	require.NoError(t, err)
	c, err := b.Copy("transfer-case-dog", "brakka-t2")
	require.NoError(t, err)
	assert.Len(t, c.Route.Stations, 11)
	assert.Equal(t, "Measure and set", c.Route.Stations[5].Title)
	assert.Len(t, c.Instruments, len(b.Instruments), "parts are looked at: any gauge may be in the hand")
	figures, err := c.Sheet.AllFigures()
	require.NoError(t, err)
	assert.JSONEq(t, `{"value": 0.15, "unit": "mm"}`, string(figures["limits.output-end-float.max"]))
}

// route is the smallest route; the tests below break one line each.
const route = `id: r
title: R
unit_kind: transfer case
stations:
  - id: intake
    steps:
      - id: a
        kind: check
        title: A
        say: Look.
        items:
          - {id: one, text: One}
  - id: measure
    steps:
      - id: m
        kind: measure
        title: M
        say: Measure.
        after: [a]
        measure:
          calc: reading-set
          min_readings: 2
          unit: mm
          gauge: dial indicator
          bind: {readings: entries.readings, lower: sheet.limits.x.min}
`

const sheet = `id: s
family: S
version: 1
limits:
  x:
    min: 0.1 mm
    max: 0.2 mm
`

func TestBadBooksAreRefusedWithFileAndLine(t *testing.T) {
	t.Parallel()
	tests := []struct {
		name, old, new string
		place, says    string
	}{
		{"unknown key", "        title: A\n", "        title: A\n        colour: red\n", "routes/r.yaml:10:",
			"unknown field"},
		{"unknown kind", "kind: check", "kind: wish", "routes/r.yaml:8:", "is not a kind of step"},
		{"unknown station", "id: measure", "id: polish", "routes/r.yaml:13:", "is not a station"},
		{"step without station", "stations:\n", "steps: []\nstations:\n", "routes/r.yaml:4:", "steps: unknown field"},
		{"station without a name", "  - id: measure\n    steps:", "  - steps:", "routes/r.yaml:13:", "id: missing"},
		{"gate to nowhere", "after: [a]", "after: [z]", "routes/r.yaml:19:", "would never open"},
		{"gate on itself", "after: [a]", "after: [m]", "routes/r.yaml:19:", "waits for it in turn"},
		{"no such calculator", "calc: reading-set", "calc: reading-sat", "routes/r.yaml:21:", "there is no calculator"},
		{"bound to nothing", "readings: entries.readings", "readings: somewhere", "routes/r.yaml:25:",
			"comes from nowhere"},
		{"no unit", "unit: mm", "unit: furlong", "routes/r.yaml:23:", "is not one"},
		{"not YAML", "title: R", "title: [R", "routes/r.yaml:", "YAML"},
		{"limits crossed", "min: 0.1 mm", "min: 0.3 mm", "sheets/s.yaml:6:", "0.3 mm lies above 0.2 mm"},
		{"figure without unit", "min: 0.1 mm", "min: 0.1", "sheets/s.yaml:6:", "number and unit are needed"},
		{"wrong unit", "max: 0.2 mm", "max: 0.2 L", "sheets/s.yaml:7:", "cannot be compared"},
	}
	for _, tt := range tests {
		t.Run(tt.name, func(t *testing.T) {
			files := fstest.MapFS{
				"routes/r.yaml": {Data: []byte(strings.Replace(route, tt.old, tt.new, 1))},
				"sheets/s.yaml": {Data: []byte(strings.Replace(sheet, tt.old, tt.new, 1))},
			}
			_, err := Load(kinds.Natures(), files)
			var problems Problems
			require.True(t, errors.As(err, &problems), "%v", err)
			assert.Contains(t, err.Error(), tt.place)
			assert.Contains(t, err.Error(), tt.says)
		})
	}
}

func TestAShopsOwnLayerAddsAndOverridesById(t *testing.T) {
	t.Parallel()
	own := fstest.MapFS{
		"sheets/s.yaml": {Data: []byte(sheet)},
		"sheets/b.yaml": {Data: []byte(strings.Replace(sheet, "id: s\nfamily: S",
			"id: brakka-t2\nfamily: our own figures", 1))},
		"cautions.yaml":   {Data: []byte("cautions:\n  - {id: road, title: Test drive, text: Only with the lead.}\n")},
		"routes/own.yaml": {Data: []byte(strings.Replace(route, "id: r", "id: own", 1))},
	}
	b, err := Load(kinds.Natures(), shop.Files, demo.Files, own)
	require.NoError(t, err)
	overridden, ok := b.Sheet("brakka-t2")
	require.True(t, ok)
	assert.Equal(t, "our own figures", overridden.Family)
	_, ok = b.Route("own")
	assert.True(t, ok)
	_, ok = b.Route("transfer-case-dog")
	assert.True(t, ok, "what ships stays")
	roads := 0
	for _, c := range b.Cautions {
		if c.ID == "road" {
			roads++
			assert.Equal(t, "Only with the lead.", c.Text)
		}
	}
	assert.Equal(t, 1, roads)
}

func TestCopyNamesWhatTheSheetLacks(t *testing.T) {
	t.Parallel()
	files := fstest.MapFS{
		"routes/r.yaml": {Data: []byte(route)},
		"sheets/s.yaml": {Data: []byte(strings.Replace(sheet, "  x:", "  y:", 1))},
	}
	b, err := Load(kinds.Natures(), files)
	require.NoError(t, err)
	_, err = b.Copy("r", "s")
	assert.ErrorContains(t, err, "sheet.limits.x.min")
	_, err = b.Copy("nope", "s")
	assert.ErrorContains(t, err, "route:")
	_, err = b.Copy("r", "nope")
	assert.ErrorContains(t, err, "unit:")
}

func FuzzLoad(f *testing.F) {
	f.Add(route)
	f.Add(sheet)
	f.Add(used)
	f.Add(fragments)
	f.Add("a: &a [*a]")
	f.Add("fragments: [{id: look, steps: [{id: look, after: [{x: 1}], items: 3}]}]")
	f.Add("causes: [{id: a, says: A, units: [clutch], weight: 1e999, action: x}]\ntests: []")
	f.Fuzz(func(t *testing.T, text string) {
		_, err := Load(kinds.Natures(), fstest.MapFS{
			"routes/r.yaml": {Data: []byte(text)}, "routes/used.yaml": {Data: []byte(used)},
			"sheets/s.yaml":    {Data: []byte(text)},
			"fragments/f.yaml": {Data: []byte(text)}, "diagnosis/d.yaml": {Data: []byte(text)},
			"figures.yaml": {Data: []byte(text)},
		})
		var problems Problems
		if err != nil && !errors.As(err, &problems) {
			t.Fatalf("%v is not a list of problems", err)
		}
	})
}
