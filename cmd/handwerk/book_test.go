package main

import (
	"encoding/json"
	"os"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestBookCheckNamesFileAndLine(t *testing.T) {
	c := command{t, ""}
	said, err := c.run("", "book", "check")
	require.NoError(t, err)
	assert.Contains(t, said, "The book is sound")
	dir := t.TempDir()
	require.NoError(t, os.Mkdir(filepath.Join(dir, "sheets"), 0o755))
	require.NoError(
		t,
		os.WriteFile(
			filepath.Join(dir, "sheets", "x.yaml"),
			[]byte("id: x\nfamily: X\nversion: 1\nlimits:\n  f: {min: 2 mm, max: 1 mm}\n"), 0o600,
		),
	)
	_, err = c.run("", "book", "check", dir)
	require.ErrorContains(t, err, "sheets/x.yaml:5: limits.f.min: 2 mm lies above 1 mm")
	_, err = c.run("", "book", "check", "/nowhere/at/all")
	require.ErrorContains(t, err, "cannot be read")
}

// A shop that writes one of our routes anew is told which fragment is now
// without work.
func TestBookCheckNamesAnOrphanedFragment(t *testing.T) {
	c := command{t, ""}
	dir := t.TempDir()
	require.NoError(t, os.Mkdir(filepath.Join(dir, "routes"), 0o755))
	require.NoError(t, os.WriteFile(filepath.Join(dir, "routes", "ours.yaml"), []byte(`id: gearbox-longitudinal
title: Our own way
unit_kind: manual gearbox
stations:
  - id: intake
    steps:
      - {use: intake, with: {unit: gearbox}}
`), 0o600))
	said, err := c.run("", "book", "check", dir)
	require.NoError(t, err)
	assert.Contains(t, said, `Worth a look: fragments/assemble.yaml:`)
	assert.Contains(t, said, `no route uses fragment "warm-bearing"`)
	assert.Contains(t, said, "The book is sound: 20 routes")
}

// The book that ships, written out, is a sound book of one's own.
func TestBookExportIsABookOfOnesOwn(t *testing.T) {
	c := command{t, ""}
	dir := filepath.Join(t.TempDir(), "book")
	said, err := c.run("", "book", "export", dir)
	require.NoError(t, err)
	assert.Contains(t, said, "handwerk book check "+dir)
	said, err = c.run("", "book", "check", dir)
	require.NoError(t, err)
	assert.Contains(t, said, "20 routes")
	_, err = c.run("", "book", "export", dir)
	require.ErrorContains(t, err, "a new directory", "what is there is not written over")
}

func TestBookSchemaIsJSON(t *testing.T) {
	c := command{t, ""}
	said, err := c.run("", "book", "schema")
	require.NoError(t, err)
	var schema struct {
		Defs map[string]json.RawMessage `json:"$defs"`
	}
	require.NoError(t, json.Unmarshal([]byte(said), &schema))
	assert.Contains(t, schema.Defs, "routes")
}
