package input

import (
	"errors"
	"fmt"
	"io"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestFaultsSayPlaceProblemAndWhatIsAccepted(t *testing.T) {
	t.Parallel()
	var fs Fields
	require.NoError(t, fs.Err())
	fs.Add("stock[0].thickness", "more than zero", "%s is negative", "-1 mm")
	fs.Add("", "", "nothing typed")
	require.Error(t, fs.Err())
	assert.Equal(t, "stock[0].thickness: -1 mm is negative; accepted: more than zero\nnothing typed", fs.Error())
}

func TestBelowSetsPathsUnderAPrefix(t *testing.T) {
	t.Parallel()
	assert.Nil(t, Below("x", nil))
	assert.Equal(t, "x.a", Below("x", At("a", "", "bad"))[0].Path)
	assert.Equal(t, "x[2]", Below("x", Field{Path: "[2]"})[0].Path)
	assert.Equal(t, "x", Below("x", errors.New("plain"))[0].Path)
	assert.Equal(t, "a", Below("", At("a", "", "bad"))[0].Path)
	assert.Equal(t, "list[3]", Index("list", 3))
}

// What was lost beneath a field is still known for what it is.
func TestAFaultKeepsItsCause(t *testing.T) {
	t.Parallel()
	err := error(Below("unit", fmt.Errorf("sheet: %w", io.ErrUnexpectedEOF)))
	assert.ErrorIs(t, err, io.ErrUnexpectedEOF)
	assert.EqualError(t, err, "unit: sheet: unexpected EOF")
	assert.NotErrorIs(t, error(At("unit", "a unit", "none")), io.ErrUnexpectedEOF)
}
