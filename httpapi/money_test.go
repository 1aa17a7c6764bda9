package httpapi_test

import (
	"encoding/json"
	"fmt"
	"net/http"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"handwerk/httpapi"
)

// moneyIn lists where a schema takes money, or a figure that may be some: bodies
// with "1,250" there and nowhere else, by the path of the field as a problem names it.
func moneyIn(schemas map[string]any, schema any, deep int, put func(path string, body any)) {
	s, _ := schema.(map[string]any)
	if ref, ok := s["$ref"].(string); ok {
		name := strings.TrimPrefix(ref, "#/components/schemas/")
		if typed, _ := schemas[name].(map[string]any); typed["format"] == "typed" {
			put("", "1,250")
			return
		}
		if deep < 8 {
			moneyIn(schemas, schemas[name], deep+1, put)
		}
		return
	}
	if items, ok := s["items"]; ok {
		moneyIn(schemas, items, deep, func(path string, body any) {
			put("[0]"+dotted(path), []any{body})
		})
	}
	properties, _ := s["properties"].(map[string]any)
	act, _ := properties["act"].(map[string]any)
	for name, p := range properties {
		moneyIn(schemas, p, deep, func(path string, body any) {
			whole := map[string]any{name: body}
			if act["const"] != nil {
				whole["act"] = act["const"]
			}
			put(name+dotted(path), whole)
		})
	}
	for _, way := range []string{"oneOf", "anyOf", "allOf"} {
		list, _ := s[way].([]any)
		for _, one := range list {
			moneyIn(schemas, one, deep, put)
		}
	}
}

func dotted(path string) string {
	if path == "" || path[0] == '[' {
		return path
	}
	return "." + path
}

// A price of "1,250" could mean two things: wherever money is taken it is refused
// by its field, and never kept as 1.25.
func TestMoneyThatReadsTwoWaysIsTakenNowhere(t *testing.T) {
	t.Parallel()
	raw, err := httpapi.Document()
	require.NoError(t, err)
	var d struct {
		Paths      map[string]map[string]struct{ RequestBody map[string]any }
		Components struct{ Schemas map[string]any }
	}
	require.NoError(t, json.Unmarshal(raw, &d))
	p, _ := opened(t)
	lead := p.signIn("ilva")
	places := 0
	refuses := func(method, path, field string, body any) {
		t.Helper()
		places++
		raw, err := json.Marshal(body)
		require.NoError(t, err)
		path = strings.NewReplacer("{id}", "26-014", "{step}", "parts-here").Replace(path)
		res, said := lead.send(method, path, string(raw), key())
		at := fmt.Sprintf("%s %s %s: %s", method, path, raw, said)
		require.Equal(t, http.StatusUnprocessableEntity, res.StatusCode, at)
		problem := problemOf(t, res, said)
		for _, f := range problem.Fields {
			if f.Path == field && strings.Contains(f.Problem, "two things") {
				return
			}
		}
		assert.Fail(t, field+" is not refused", at)
	}
	for path, operations := range d.Paths {
		for method, op := range operations {
			content, _ := op.RequestBody["content"].(map[string]any)
			body, _ := content["application/json"].(map[string]any)
			moneyIn(d.Components.Schemas, body["schema"], 0, func(field string, body any) {
				refuses(strings.ToUpper(method), path, field, body)
			})
		}
	}
	// Figures of a sheet have the shape the book says, and no schema.
	for figure, field := range map[string]string{
		`{"path":"singles","figure":[{"part":"seal","supplier":"x","price":"1,250","lead_days":"1"}]}`:          "[0].price",
		`{"path":"kits","figure":[{"name":"x","supplier":"x","price":"1,250","lead_days":"1","holds":"seal"}]}`: "[0].price",
		`{"path":"figures.cans","figure":[{"name":"x","size":"1 L","price":"1,250"}]}`:                          "[0].price",
		`{"path":"ways","figure":[{"id":"a","says":"a","parts":{"low":"1,250","high":"2000"}}]}`:                "[0].parts.low",
		`{"path":"figures.hourly-rate","figure":"1,250"}`:                                                       "",
	} {
		refuses(http.MethodPost, "/api/v1/sheets/brakka-a9/figures", "lines[0]"+field,
			map[string]any{"version": 1, "why": "x", "lines": []json.RawMessage{json.RawMessage(figure)}})
	}
	assert.GreaterOrEqual(t, places, 12)
	t.Log(places, "places")
}
