package files

import (
	"encoding/json"

	"github.com/swaggest/jsonschema-go"

	"handwerk/book"
	"handwerk/core/calc/describe"
)

// The files of a route, as they are written: steps and uses of fragments mixed.
type (
	routeFile struct {
		ID        string        `json:"id"`
		Title     string        `json:"title"`
		UnitKind  string        `json:"unit_kind"`
		LeavesOut []string      `json:"leaves_out,omitempty"`
		Stations  []stationFile `json:"stations"`
	}
	stationFile struct {
		ID    book.StationID `json:"id"`
		Steps []stepLine     `json:"steps"`
	}
	stepLine      struct{}
	fragmentsFile struct {
		Fragments []Fragment `json:"fragments"`
	}
	// useLine is a Use with what it adds to the fragment's step.
	useLine struct {
		Use

		After     []string    `json:"after,omitempty"`
		Cautions  []string    `json:"cautions,omitempty"`
		Materials []string    `json:"materials,omitempty"`
		Items     []book.Item `json:"items,omitempty"`
		Wants     book.States `json:"wants,omitempty"`
		Leaves    book.States `json:"leaves,omitempty"`
	}
)

// JSONSchemaAnyOf says to the reflector that a line is a step or a use.
func (stepLine) JSONSchemaAnyOf() []any { return []any{book.Step{}, useLine{}} }

// Schema describes every file of the book as JSON Schema, one definition for
// each kind, made from the Go types that read them.
func Schema() ([]byte, error) {
	kinds := []struct {
		name string
		of   any
	}{
		{"routes", routeFile{}}, {"fragments", fragmentsFile{}}, {"sheets", book.SpecSheet{}},
		{"conditions", conditionsFile{}}, {"cautions", cautionsFile{}},
		{"materials", materialsFile{}}, {"answers", answersFile{}}, {
			"instruments", instrumentsFile{},
		}, {"figures", figuresFile{}}, {"glossary", glossaryFile{}}, {"diagnosis", diagnosisFile{}},
	}
	defs := map[string]jsonschema.Schema{}
	for _, k := range kinds {
		var r jsonschema.Reflector
		schema, err := r.Reflect(k.of, jsonschema.InlineRefs, describe.MarkRequired(),
			describe.QuantitySchema(jsonschema.Object, jsonschema.String))
		if err != nil {
			return nil, err
		}
		defs[k.name] = schema
	}
	return json.MarshalIndent(map[string]any{
		"$schema":     "https://json-schema.org/draft/2020-12/schema",
		"title":       "The files of a workshop's book",
		"description": "One definition for each file or directory of the book; generated from the Go types.",
		"$defs":       defs,
	}, "", "  ")
}
