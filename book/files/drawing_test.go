package files

import (
	"encoding/json"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"handwerk/core/driveline"
	"handwerk/core/driveline/drivelinetest"
)

// Every driveline that ships, on a sheet or to begin one with, can be drawn:
// each member stands somewhere, at an end or joined to what it drives.
func TestEveryDrivelineThatShipsIsDrawn(t *testing.T) {
	t.Parallel()
	b := shippedBook(t)
	lines := map[string]json.RawMessage{}
	for _, s := range b.Sheets {
		if raw, ok := s.Figures["driveline"]; ok {
			lines[s.ID] = raw
		}
	}
	for _, f := range b.Glossary {
		if f.Path != "figures.driveline" {
			continue
		}
		for _, start := range f.Starts {
			lines[start.Title] = start.Value
		}
	}
	require.GreaterOrEqual(t, len(lines), 5)
	for name, raw := range lines {
		var members []driveline.Member
		require.NoError(t, json.Unmarshal(raw, &members), name)
		d, err := driveline.Draw(driveline.DrawIn{Members: members})
		require.NoError(t, err, name)
		drawn := 0
		for _, p := range d.Places {
			if p.What == "member" {
				drawn++
			}
		}
		assert.Equal(t, len(members), drawn, name)
		assert.GreaterOrEqual(t, len(d.Lines), 2*len(members), name)
		t.Run(name, func(t *testing.T) {
			drivelinetest.Apart(t, d)
			drivelinetest.Uncrossed(t, d)
		})
	}
}
