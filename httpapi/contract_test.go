package httpapi_test

import (
	"bytes"
	"encoding/json"
	"maps"
	"net/http"
	"slices"
	"testing"

	"github.com/santhosh-tekuri/jsonschema/v6"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"handwerk/httpapi"
	"handwerk/workshop/acts"
	"handwerk/workshop/shop"
)

// described is the part of the OpenAPI document that the tests read.
type described struct {
	Paths      map[string]map[string]operation
	Components struct {
		Schemas map[string]struct {
			Description string
			Properties  map[string]struct{ Description string }
		}
	}
}

type operation struct {
	Description string
	RequestBody struct {
		Content map[string]struct {
			Example  any
			Examples map[string]struct{ Value map[string]any }
		}
	}
}

func theDocument(t *testing.T) (d described, raw []byte) {
	t.Helper()
	raw, err := httpapi.Document()
	require.NoError(t, err)
	require.NoError(t, json.Unmarshal(raw, &d))
	return d, raw
}

// Every operation, schema and field says what it is, and every body is shown.
func TestTheDescriptionDescribesAll(t *testing.T) {
	t.Parallel()
	d, _ := theDocument(t)
	for name, s := range d.Components.Schemas {
		assert.NotEmpty(t, s.Description, name)
		for field, p := range s.Properties {
			assert.NotEmpty(t, p.Description, "%s.%s", name, field)
		}
	}
	for path, ops := range d.Paths {
		for method, op := range ops {
			assert.NotEmpty(t, op.Description, "%s %s", method, path)
			body := op.RequestBody.Content["application/json"]
			if len(op.RequestBody.Content) == 1 {
				assert.True(t, body.Example != nil || len(body.Examples) > 0, "%s %s shows no body", method, path)
			}
		}
	}
}

// Each act is shown with fields it takes and no other.
func TestEveryActIsShown(t *testing.T) {
	t.Parallel()
	d, _ := theDocument(t)
	shown := d.Paths["/api/v1/rebuilds/{id}/steps/{step}/entries"]["post"].RequestBody.Content["application/json"].Examples
	var names []string
	for _, a := range acts.All() {
		names = append(names, string(a.Name()))
		fields := slices.Collect(maps.Keys(shown[string(a.Name())].Value))
		assert.Subset(t, append(acts.Fields(a), "act", "item", "supersedes"), fields, a.Name())
	}
	assert.ElementsMatch(t, names, slices.Collect(maps.Keys(shown)))
	assert.Contains(t, d.Components.Schemas["Act"].Description, "fit: note, pack.")
}

// What the description shows is taken as it stands.
func TestTheExamplesAreTaken(t *testing.T) {
	t.Parallel()
	d, _ := theDocument(t)
	p, _ := opened(t)
	u := p.signIn("ilva")
	take := func(path, shown string) string {
		body, err := json.Marshal(d.Paths[shown]["post"].RequestBody.Content["application/json"].Example)
		require.NoError(t, err)
		res, said := u.send(http.MethodPost, path, string(body), key())
		assert.Less(t, res.StatusCode, 300, "%s: %s", shown, said)
		return said
	}
	for _, path := range []string{"/parts/read", "/customers", "/gauges"} {
		take("/api/v1"+path, "/api/v1"+path)
	}
	for _, more := range []string{"", "/import"} {
		take("/api/v1/drawers/washers"+more, "/api/v1/drawers/{id}"+more)
	}
	for _, more := range []string{"/figures", "/import"} {
		var page shop.SheetPage
		require.NoError(t, json.Unmarshal([]byte(take("/api/v1/sheets", "/api/v1/sheets")), &page))
		take("/api/v1/sheets/"+page.Sheet.ID+more, "/api/v1/sheets/{id}"+more)
	}
}

// An archive is as the description says.
func TestAnArchiveIsAsDescribed(t *testing.T) {
	t.Parallel()
	p, _ := opened(t)
	odo := p.signIn("odo")
	r := odo.order(t, odo.takeIn(t, "Nora Quill", "QX 77", "GR-1"), "")
	base := "/api/v1/rebuilds/" + r.ID
	odo.walkUntil(t, base, "ring-runout")
	res, body := odo.send(http.MethodGet, base+"/archive.json", "", nil)
	require.Equal(t, http.StatusOK, res.StatusCode, body)

	_, raw := theDocument(t)
	doc, err := jsonschema.UnmarshalJSON(bytes.NewReader(raw))
	require.NoError(t, err)
	c := jsonschema.NewCompiler()
	require.NoError(t, c.AddResource("handwerk.json", doc))
	schema, err := c.Compile("handwerk.json#/components/schemas/Archive")
	require.NoError(t, err)
	archive, err := jsonschema.UnmarshalJSON(bytes.NewReader([]byte(body)))
	require.NoError(t, err)
	require.NoError(t, schema.Validate(archive))
	archive.(map[string]any)["entries"] = "none"
	assert.Error(t, schema.Validate(archive), "the schema asks for something")
}
