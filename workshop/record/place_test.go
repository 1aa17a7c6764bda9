package record

import (
	"encoding/json"
	"os"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

// The cases stand in one file for both languages; see web/src/model/place.test.ts.
func TestPlacesHaveOneTextForm(t *testing.T) {
	t.Parallel()
	raw, err := os.ReadFile("../../web/src/model/places.json")
	require.NoError(t, err)
	var cases []struct {
		Text string `json:"text"`
		Is   struct {
			Trial, Reading, Pass, Bolt int
			Name                       string
		} `json:"is"`
	}
	require.NoError(t, json.Unmarshal(raw, &cases))
	require.NotEmpty(t, cases)
	for _, c := range cases {
		assert.Equal(t, Place(c.Is), ReadPlace(c.Text), c.Text)
		assert.Equal(t, c.Text, ReadPlace(c.Text).String())
	}
	rapid.Check(t, func(t *rapid.T) {
		text := rapid.OneOf(rapid.String(), rapid.StringMatching(`[0-9pb.]{0,6}[a-z.]{0,3}`)).Draw(t, "text")
		assert.Equal(t, text, ReadPlace(text).String(), "every text is some place's and comes back as it was")
	})
}
