package report_test

import (
	"bytes"
	"encoding/json"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"handwerk/report"
)

// What an archive brought in goes out to the byte, a bare < too: its hash says so.
func TestAnArchiveGoesOutAsItCameIn(t *testing.T) {
	t.Parallel()
	l := finished(t)
	l.Entries = slices.Clone(l.Entries)
	l.Entries[0].Body = json.RawMessage(`{"outcome":"done","note":"bore < 40 & \u003c 41"}`)
	before := l.Rebuild.Seal()
	for i := range l.Entries {
		l.Entries[i].Hash = l.Entries[i].Chain(before)
		before = l.Entries[i].Hash
	}
	l.Rebuild.Head.Hash = before
	var first, second bytes.Buffer
	require.NoError(t, report.WriteArchive(&first, l, none))
	back, _, err := read(bytes.NewReader(first.Bytes()))
	require.NoError(t, err)
	require.NoError(t, report.WriteArchive(&second, back, none))
	assert.Equal(t, first.String(), second.String())
	assert.Contains(t, second.String(), `bore < 40 & \u003c 41`)
}
