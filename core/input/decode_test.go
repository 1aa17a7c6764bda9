package input_test

import (
	"errors"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"handwerk/core/input"
	"handwerk/core/quantity"
)

type part struct {
	Name  string                         `json:"name"`
	Thick quantity.Said[quantity.Length] `json:"thickness"`
	Count *int                           `json:"count,omitempty"`
}

type sheet struct {
	part
	Parts []part `json:"parts,omitempty"`
	Note  string `json:"note,omitempty"`
}

func TestDecodeReportsEveryBadFieldWithItsPath(t *testing.T) {
	t.Parallel()
	var s sheet
	err := input.Decode(
		[]byte(
			`{"name": 3, "thickness": "7", "parts": [{"name": "a", "thickness": "1 mm"}, {"name": "b", "colour": "red"}]}`,
		),
		&s,
	)
	var faults input.Fields
	require.True(t, errors.As(err, &faults))
	var paths []string
	for _, f := range faults {
		paths = append(paths, f.Path)
	}
	assert.Equal(t, []string{"name", "thickness", "parts[1].thickness", "parts[1].colour"}, paths)
	assert.Contains(t, faults[1].Error(), "mm")
}

func TestDecodeFillsWhatIsThere(t *testing.T) {
	t.Parallel()
	var s sheet
	require.NoError(t, input.Decode([]byte(`{"name": "washer", "thickness": "0.56 mm", "count": 2, "note": null}`), &s))
	assert.Equal(t, "washer", s.Name)
	assert.Equal(t, 2, *s.Count)
	assert.InDelta(t, 0.56e-3, float64(s.Thick.SI()), 1e-12)
}

func TestDecodeRefusesWrongShapes(t *testing.T) {
	t.Parallel()
	for raw, says := range map[string]string{
		`[`:                    "not readable",
		`[]`:                   "not an object",
		`null`:                 "not an object",
		`{"parts": 3}`:         "parts: 3 is not a list",
		`{"Name": "washer"}`:   "Name: unknown field",
		`{"name": null}`:       "name: null does not fit",
		`{"parts": ["seven"]}`: `parts[0]: "seven" is not an object`,
	} {
		var s sheet
		err := input.Decode([]byte(raw), &s)
		require.Error(t, err, raw)
		assert.Contains(t, err.Error(), says, raw)
	}
}

func TestAFieldTwiceIsRefusedByName(t *testing.T) {
	t.Parallel()
	for raw, says := range map[string]string{
		`{"name": "a", "thickness": "1 mm", "name": "b"}`:                                 "name: it is there twice",
		`{"name": "a", "thickness": {"value": 1, "unit": "mm", "unit": "in"}}`:            "thickness.unit: it is there twice",
		`{"name": "a\"b:", "thickness": "1 mm", "parts": [{"name" : "x", "name"	: "y"}]}`: "parts[0].name: it is there twice",
	} {
		var s sheet
		require.ErrorContains(t, input.Decode([]byte(raw), &s), says, raw)
	}
	var s sheet
	require.NoError(
		t,
		input.Decode(
			[]byte(
				`{"name": "\"name\": twice, \\", "thickness": "1 mm", "parts": [{"name": "x", "thickness": "1 mm"}, {"name": "x", "thickness": "1 mm"}]}`,
			),
			&s,
		),
	)
}

// A seed may be typed too, as every number may; below 0 there is none.
func TestASeedIsReadFromText(t *testing.T) {
	t.Parallel()
	var s struct {
		Seed uint64 `json:"seed"`
	}
	require.NoError(t, input.Decode([]byte(`{"seed": "12 000"}`), &s))
	assert.EqualValues(t, 12000, s.Seed)
	require.ErrorContains(t, input.Decode([]byte(`{"seed": "-1"}`), &s), "seed:")
	require.ErrorContains(t, input.Decode([]byte(`{"seed": "1.5"}`), &s), "seed:")
	require.ErrorContains(t, input.Decode([]byte(`{"seed": -1}`), &s), "seed:")
}

// A pair is two numbers, typed or not; one of another length is refused.
func TestAPairIsTwo(t *testing.T) {
	t.Parallel()
	var in struct {
		Teeth [][2]int `json:"teeth"`
	}
	require.NoError(t, input.Decode([]byte(`{"teeth": [["10", 41]]}`), &in))
	assert.Equal(t, [][2]int{{10, 41}}, in.Teeth)
	for _, bad := range []string{`[[10]]`, `[[10,41,3]]`, `[null]`, `[["ten",41]]`} {
		require.ErrorContains(t, input.Decode([]byte(`{"teeth": `+bad+`}`), &in), "teeth[0]", bad)
	}
}
