package calc

import (
	"encoding/json"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"handwerk/core/calculator"
	"handwerk/core/input"
)

func TestEveryExampleComputesAndCarriesItsMethod(t *testing.T) {
	t.Parallel()
	for _, c := range All().List() {
		t.Run(c.Name, func(t *testing.T) {
			raw, err := c.Run([]byte(c.Example))
			require.NoError(t, err)
			var result struct {
				Method string   `json:"method"`
				Source []string `json:"source"`
			}
			require.NoError(t, json.Unmarshal(raw, &result))
			assert.Equal(t, c.Method(), result.Method)
			assert.NotEmpty(t, result.Source)
			assert.NotEmpty(t, c.Purpose)
		})
	}
}

func TestTheVerdictIsTheResults(t *testing.T) {
	t.Parallel()
	for _, c := range All().List() {
		raw, verdict, err := c.Judge([]byte(c.Example))
		require.NoError(t, err, c.Name)
		var said struct {
			Verdict string `json:"verdict"`
		}
		require.NoError(t, json.Unmarshal(raw, &said))
		assert.Equal(t, said.Verdict, verdict, c.Name)
	}
}

func TestRunRefusesWithPaths(t *testing.T) {
	t.Parallel()
	c, _ := All().Named("end-float")
	_, err := c.Run([]byte(`{"readings": ["6o mm", "24"], "trial_pak": "0 mm"}`))
	var faults input.Fields
	require.ErrorAs(t, err, &faults)
	text := faults.Error()
	for _, path := range []string{"readings[0]:", "readings[1]:", "trial_pack: missing", "trial_pak: unknown field"} {
		assert.Contains(t, text, path)
	}
	_, err = c.Run([]byte(strings.Repeat(" ", calculator.MaxInput+1)))
	assert.ErrorContains(t, err, "1 MB")
}

func FuzzCalculators(f *testing.F) {
	for _, c := range All().List() {
		f.Add(c.Name, c.Example)
	}
	f.Add("shim-pack", `{"required":"1e3 mm","tolerance":"-0 mm","stock":[{"thickness":"50 mm"}],"max_shims":10}`)
	all := All()
	f.Fuzz(func(t *testing.T, name, text string) {
		c, ok := all.Named(name)
		if !ok {
			return
		}
		raw, err := c.Run([]byte(text))
		if err != nil {
			var faults input.Fields
			if !assert.ErrorAs(t, err, &faults) {
				t.Fatalf("%q: %v is not a list of field errors", text, err)
			}
			return
		}
		if !json.Valid(raw) {
			t.Fatalf("%q gives unreadable %q", text, raw)
		}
	})
}
