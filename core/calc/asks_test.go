package calc

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
)

// Every calculator stands in one group, and nobody asks for one that there is not.
func TestTheCatalogueIsGrouped(t *testing.T) {
	t.Parallel()
	all := All()
	count := 0
	for _, g := range all.Groups() {
		assert.NotEmpty(t, g.Title)
		count += len(g.Calculators)
	}
	assert.Len(t, all.List(), count)
	for name, ways := range asks {
		c, known := all.Named(name)
		assert.True(t, known, name)
		assert.True(t, slices.Equal(ways, Asks(c)))
	}
}
