package kinds

import (
	"encoding/json"
	"reflect"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"handwerk/book"
)

// Every kind says all that is asked of kinds; what it may leave out is named.
func TestEveryKindIsWhole(t *testing.T) {
	t.Parallel()
	may := map[string]bool{"Gives": true, "Takes": true, "Usual": true}
	for _, answer := range []string{"Lists", "Prepare", "Leans", "Hours", "Bad", "Left", "Buys", "Sums"} {
		may[answer] = true // what others ask it, and most have nothing to say to
	}
	seen := map[book.Kind]bool{}
	for _, k := range All {
		assert.False(t, seen[k.Name], "%s is there twice", k.Name)
		seen[k.Name] = true
		v := reflect.ValueOf(*k)
		for i := range v.NumField() {
			if name := v.Type().Field(i).Name; !may[name] {
				assert.False(t, v.Field(i).IsZero(), "%s lacks %s", k.Name, name)
			}
		}
		assert.NotNil(t, k.Check, "%s: the book cannot check it", k.Name)
		assert.Equal(t, len(k.Takes) > 0, k.Usual != nil, "%s: an act wants a usual entry", k.Name)
		for _, a := range k.Takes {
			assert.True(t, a.Accept != nil && a.Says != nil, "%s: %s wants rules and words", k.Name, a.Name())
		}
		assert.Equal(t, k.Gives != nil, k.Sample != nil, "%s: what it gives has a sample", k.Name)
		field, ok := reflect.TypeOf(k.Empty()).Elem().FieldByName("Kind")
		require.True(t, ok)
		assert.Equal(t, string(k.Name), field.Tag.Get("const"), "its view is told apart")
		raw, err := json.Marshal(map[string]any{"kind": k.Name})
		require.NoError(t, err)
		view, err := ReadStepView(raw)
		require.NoError(t, err)
		assert.IsType(t, k.Empty(), view)
	}
	assert.NotEmpty(t, seen)
}
