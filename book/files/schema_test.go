package files

import (
	"bytes"
	"encoding/json"
	"io/fs"
	"path"
	"strings"
	"testing"

	validator "github.com/santhosh-tekuri/jsonschema/v6"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"go.yaml.in/yaml/v3"

	"handwerk/book/demo"
	"handwerk/book/shop"
)

// Every file that ships holds against the published schema, judged by a
// validator that knows nothing of our loader; a missing key does not.
func TestTheSchemaDescribesTheFiles(t *testing.T) {
	t.Parallel()
	raw, err := Schema()
	require.NoError(t, err)
	doc, err := validator.UnmarshalJSON(bytes.NewReader(raw))
	require.NoError(t, err)
	c := validator.NewCompiler()
	require.NoError(t, c.AddResource("book.json", doc))
	judge := func(kind string, text []byte) error {
		schema, err := c.Compile("book.json#/$defs/" + kind)
		require.NoError(t, err)
		var loose any
		require.NoError(t, yaml.Unmarshal(text, &loose))
		asJSON, err := json.Marshal(loose)
		require.NoError(t, err)
		value, err := validator.UnmarshalJSON(bytes.NewReader(asJSON))
		require.NoError(t, err)
		return schema.Validate(value)
	}
	seen := map[string]bool{}
	for _, layer := range []fs.FS{shop.Files, demo.Files} {
		files, err := yamlFiles(layer)
		require.NoError(t, err)
		for _, f := range files {
			kind := path.Dir(f.name)
			if kind == "." {
				kind = strings.TrimSuffix(f.name, ".yaml")
			}
			if f.name == scenarioFile {
				continue
			}
			seen[kind] = true
			assert.NoError(t, judge(kind, f.raw), f.name)
		}
	}
	assert.Len(t, seen, 11, "every kind of file was judged")
	assert.Error(t, judge("routes", []byte("id: r\ntitle: R\nstations: []\n")), "unit_kind is missing")
	assert.Error(t, judge("cautions", []byte("cautions: [{id: x, title: X}]\n")), "text is missing")
}
