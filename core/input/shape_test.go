package input

import (
	"encoding/json"
	"reflect"
	"testing"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"
)

// nested has every kind of field.
type nested struct {
	Name string         `json:"name"`
	N    int            `json:"n,omitempty"`
	Sub  *nested        `json:"sub,omitempty"`
	List []nested       `json:"list,omitempty"`
	By   map[string]int `json:"by,omitempty"`
}

// Whatever the quick way accepts, the slow way accepts with the same value,
// and what it does not accept the slow way refuses.
func TestTheQuickWayAgreesWithTheSlowOne(t *testing.T) {
	t.Parallel()
	var draw func(t *rapid.T, depth int) any
	draw = func(t *rapid.T, depth int) any {
		if depth == 0 || rapid.IntRange(0, 3).Draw(t, "leaf") == 0 {
			return rapid.SampledFrom([]any{nil, "x", 1.0, 1.5, true, []any{}, map[string]any{}}).Draw(t, "value")
		}
		object := map[string]any{"name": "a"}
		for _, k := range []string{"name", "n", "sub", "list", "by", "Name", "other"} {
			switch rapid.IntRange(0, 7).Draw(t, k) {
			case 0:
				object[k] = draw(t, depth-1)
			case 1:
				object[k] = []any{draw(t, depth-1)}
			case 2:
				object[k] = map[string]any{"k": draw(t, 0)}
			}
		}
		return object
	}
	rapid.Check(t, func(t *rapid.T) {
		raw, err := json.Marshal(draw(t, 3))
		if err != nil {
			t.Fatal(err)
		}
		var got, slow nested
		gotErr := Decode(raw, &got)
		var faults Fields
		decode("", raw, reflect.ValueOf(&slow).Elem(), &faults)
		assert.Equal(t, faults.Err(), gotErr, string(raw))
		if gotErr == nil {
			assert.Equal(t, slow, got, string(raw))
		}
	})
}
