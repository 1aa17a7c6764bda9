package workshop

import (
	"encoding/json"
	"os"
	"reflect"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"handwerk/book"
)

// Every kind says all that is asked of kinds; what it may leave out is named.
func TestEveryKindIsWhole(t *testing.T) {
	may := map[string]bool{"strike": true, "gives": true, "takes": true, "accept": true, "usual": true, "says": true}
	for _, answer := range []string{"lists", "prepare", "leans", "hours", "bad", "left", "buys", "sums"} {
		may[answer] = true // what others ask it, and most have nothing to say to
	}
	seen := map[book.Kind]bool{}
	for _, k := range kinds {
		assert.False(t, seen[k.name], "%s is there twice", k.name)
		seen[k.name] = true
		v := reflect.ValueOf(*k)
		for i := range v.NumField() {
			if name := v.Type().Field(i).Name; !may[name] {
				assert.False(t, v.Field(i).IsZero(), "%s lacks %s", k.name, name)
			}
		}
		assert.NotNil(t, k.Check, "%s: the book cannot check it", k.name)
		assert.Equal(
			t, len(k.takes) > 0, k.accept != nil && k.usual != nil && k.says != nil,
			"%s: an act wants rules, a usual entry and words", k.name,
		)
		assert.Equal(t, k.gives != nil, k.Sample != nil, "%s: what it gives has a sample", k.name)
		for _, act := range k.takes {
			assert.Contains(t, fieldsOf, act, "%s: what it takes is written nowhere", act)
		}
		field, ok := reflect.TypeOf(k.empty()).Elem().FieldByName("Kind")
		require.True(t, ok)
		assert.Equal(t, string(k.name), field.Tag.Get("const"), "its view is told apart")
		raw, err := json.Marshal(map[string]any{"kind": k.name})
		require.NoError(t, err)
		view, err := ReadStepView(raw)
		require.NoError(t, err)
		assert.IsType(t, k.empty(), view)
	}
	assert.Len(t, seen, 11)
}

// The cases stand in one file for both languages; see web/src/model/place.test.ts.
func TestPlacesHaveOneTextForm(t *testing.T) {
	raw, err := os.ReadFile("../web/src/model/places.json")
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
