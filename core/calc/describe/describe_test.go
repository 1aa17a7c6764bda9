package describe

import (
	"encoding/json"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"handwerk/core/calc"
)

func TestSchemaNamesTheContractFields(t *testing.T) {
	t.Parallel()
	c, ok := calc.All().Named("end-float")
	require.True(t, ok)
	raw, err := Schema(c)
	require.NoError(t, err)
	var schema struct {
		Input struct {
			Required   []string       `json:"required"`
			Properties map[string]any `json:"properties"`
		} `json:"input"`
	}
	require.NoError(t, json.Unmarshal(raw, &schema))
	assert.ElementsMatch(t, []string{"readings", "trial_pack", "target_min", "target_max", "sense", "stock"},
		schema.Input.Required)
	assert.Contains(t, schema.Input.Properties, "washers")
}

// The page for people names every calculator with its fields and sources.
func TestThePageNamesEveryCalculator(t *testing.T) {
	t.Parallel()
	page := Page(calc.All())
	for _, c := range calc.All().List() {
		assert.Contains(t, page, "\n## "+c.Name+"\n", c.Name)
		assert.Contains(t, page, c.Example, c.Name)
		assert.NotEmpty(t, c.Formula, c.Name)
		assert.NotEmpty(t, c.Assumes, c.Name)
		for _, source := range c.Sources {
			assert.Contains(t, page, source, c.Name)
		}
	}
	assert.Contains(t, page, "(`trial_shim` length)", "optional fields stand in parentheses")
}
