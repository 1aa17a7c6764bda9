package contract

import (
	"maps"
	"reflect"
	"slices"
	"strings"

	"github.com/swaggest/jsonschema-go"
	"github.com/swaggest/openapi-go/openapi31"

	"handwerk/workshop/acts"
)

// Acts in the contract: what is sent is one of as many objects as there are acts,
// told apart by the field act; what stands in an entry has the fields of its act,
// and what we set.

// describeActs writes the schemas of all acts.
func describeActs(r *openapi31.Reflector) error {
	schemas := r.Spec.Components.Schemas
	head := properties(schemas["DraftIn"])
	var sent []any
	mapping, said := object{}, object{}
	for _, a := range acts.All() {
		schema, err := reflected(r, a)
		if err != nil {
			return err
		}
		name := reflect.TypeOf(a).Name()
		about := strings.TrimPrefix(comments()[nameOf(reflect.TypeOf(a))], name+": ")
		fields := maps.Clone(properties(schema))
		maps.Copy(said, fields)
		for _, ours := range acts.Ours(a) {
			delete(fields, ours)
		}
		fields["act"] = object{"const": string(a.Name()), "type": "string", "description": "the word of the act"}
		fields["item"], fields["supersedes"] = head["item"], head["supersedes"]
		schemas[name+"Draft"] = object{
			"type": "object", "properties": fields, "required": []any{"act"}, "description": about,
			"additionalProperties": false,
		}
		ref := "#/components/schemas/" + name + "Draft"
		sent, mapping[string(a.Name())] = append(sent, object{"$ref": ref}), ref
	}
	schemas["DraftIn"] = object{
		"description": "an entry as it is sent: one of the acts", "oneOf": sent,
		"discriminator": object{"propertyName": "act", "mapping": mapping},
	}
	schemas["Body"] = object{
		"type": "object", "description": "the fields of the entry, by its act", "properties": said,
	}
	return nil
}

// reflected is the schema of a type that no operation names by itself.
func reflected(r *openapi31.Reflector, of any) (object, error) {
	schema, err := r.JSONSchemaReflector().Reflect(of, jsonschema.DefinitionsPrefix("#/components/schemas/"),
		jsonschema.CollectDefinitions(func(name string, s jsonschema.Schema) {
			if _, there := r.Spec.Components.Schemas[name]; !there {
				if whole, err := s.ToSchemaOrBool().ToSimpleMap(); err == nil {
					r.Spec.Components.Schemas[name] = whole
				}
			}
		}))
	if err != nil {
		return nil, err
	}
	return schema.ToSchemaOrBool().ToSimpleMap()
}

// actNames are all acts, for whoever describes them.
func actNames() []any {
	var names []any
	for _, a := range acts.All() {
		names = append(names, string(a.Name()))
	}
	slices.SortFunc(names, func(a, b any) int { return strings.Compare(a.(string), b.(string)) })
	return names
}
