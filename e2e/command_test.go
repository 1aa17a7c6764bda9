package e2e

import (
	"encoding/json"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestASecondStartIsQuickAndKeepsTheData(t *testing.T) {
	t.Parallel()
	p := demo(t)
	require.NoError(t, p.Stop())
	assert.Contains(t, p.ReadAct(), "Closing.")
	require.NoError(t, p.Again())
	said, err := Run(bin, p.Dir, nil, "verify")
	require.NoError(t, err)
	assert.Contains(t, said, "16 rebuilds", "the demo was loaded once")
}

func TestATakenPortIsSaidPlainly(t *testing.T) {
	p := demo(t)
	other := &Program{Base: p.Base, Dir: t.TempDir(), bin: bin, addr: p.addr}
	t.Setenv("HANDWERK_ADDR", p.addr)
	_, err := Run(bin, other.Dir, nil, "demo")
	require.ErrorContains(t, err, "is taken by another program; choose another with HANDWERK_ADDR")
}

func TestCalcOnTheCommandLine(t *testing.T) {
	t.Parallel()
	dir := t.TempDir()
	said, err := Run(bin, dir, nil, "calc")
	require.NoError(t, err)
	assert.Contains(t, said, "end-float")
	example, err := Run(bin, dir, nil, "calc", "end-float", "--example")
	require.NoError(t, err)
	said, err = Run(bin, dir, []byte(example), "calc", "end-float")
	require.NoError(t, err)
	var result struct {
		Method string `json:"method"`
	}
	require.NoError(t, json.Unmarshal([]byte(said), &result))
	assert.Equal(t, "end-float/2", result.Method)
	schema, err := Run(bin, dir, nil, "calc", "end-float", "--schema")
	require.NoError(t, err)
	assert.Contains(t, schema, "trial_pack")
	_, err = Run(bin, dir, []byte(`{"required":"-1 mm"}`), "calc", "shim-pack")
	require.ErrorContains(t, err, "tolerance: missing")
}
