// Package contract writes the OpenAPI document of the program: schemas from the types, words from the comments
// in the code, and what a client must send and may get beyond them.
package contract

import (
	"maps"
	"net/http"
	"path"
	"reflect"
	"regexp"
	"slices"
	"strings"

	"github.com/swaggest/jsonschema-go"
	"github.com/swaggest/openapi-go"
	"github.com/swaggest/openapi-go/openapi31"

	"handwerk/book"
	"handwerk/core/calc"
	"handwerk/core/calc/describe"
	"handwerk/core/input"
	"handwerk/core/metrology"
	"handwerk/core/quantity"
	"handwerk/report"
	"handwerk/workshop/acts"
	"handwerk/workshop/kinds"
	"handwerk/workshop/kinds/fill"
	"handwerk/workshop/kinds/torque"
	"handwerk/workshop/people"
	"handwerk/workshop/record"
)

var pathParameter = regexp.MustCompile(`:(\w+)`)

// API is what the document says beside the types: names on the wire, and the
// operations by their groups.
type API struct {
	Prefix   string       // of all paths
	Cookie   string       // of a session
	Token    string       // header of every write in a session
	Prefer   string       // what asks for the state with an answer
	Problem  any          // the answer that says no
	StepView reflect.Type // what a step answers, one of as many as there are kinds
	Groups   []Group
}

// Group is operations of one kind, as readers look for them.
type Group struct {
	Tag, Says  string
	Operations []Operation
}

// Operation is one endpoint.
type Operation struct {
	Method, Path, ID, Summary string
	May                       string // who may call it
	Open                      bool   // without signing in
	In, Out                   any
	Status                    int
	Keyed                     bool     // it carries an idempotency key
	Takes                     []string // media types of the body, when it is not JSON
	ContentType               string   // of the answer, when it is not JSON
}

// Document is the OpenAPI 3.1 document.
func (a API) Document() ([]byte, error) {
	r := openapi31.NewReflector()
	r.Spec.Info.WithTitle("Handwerk").WithVersion("1").WithDescription(
		"The record of a drivetrain workshop. Who signs in gets a cookie and a token; every write carries both.")
	r.DefaultOptions = append(
		r.DefaultOptions, describe.MarkRequired(), describe.QuantitySchema(jsonschema.Object),
		jsonschema.InterceptNullability(notNull), jsonschema.InterceptSchema(enums), describe.TypedSchema(),
		jsonschema.InterceptSchema(described),
	)
	r.DefaultOptions = append(r.DefaultOptions, jsonschema.InterceptDefName(a.schemaNames()))
	for _, g := range a.Groups {
		for _, o := range g.Operations {
			if err := a.add(r, o); err != nil {
				return nil, err
			}
		}
	}
	if err := finish(r); err != nil {
		return nil, err
	}
	return a.complete(r.Spec)
}

// untold are types that stand in the record as they were written, so that no
// operation names them.
var untold = map[string]any{"FillResult": fill.FillResult{},
	"TorqueResult": torque.TorqueResult{}}

// finish adds what types alone do not say: what stands in the body of an
// entry, what every result carries, and which field tells the views of a step
// apart.
func finish(r *openapi31.Reflector) error {
	schemas := r.Spec.Components.Schemas
	for name, of := range untold {
		schema, err := reflected(r, of)
		if err != nil {
			return err
		}
		schemas[name] = schema
	}
	if err := describeActs(r); err != nil {
		return err
	}
	for _, name := range []string{"Entry", "EntryView", "Written"} {
		properties(schemas[name])["body"] = object{"$ref": "#/components/schemas/Body",
			"description": meaning()["body"]}
	}
	weighed := object{}
	results := []any{object{"$ref": "#/components/schemas/FillResult"},
		object{"$ref": "#/components/schemas/TorqueResult"}}
	for _, c := range calc.All().List() {
		results = append(results, object{"$ref": "#/components/schemas/" + camel(c.Name) + "Out"})
		weighed[c.Name] = object{"$ref": "#/components/schemas/" + camel(c.Name) + "Out", "description": c.Purpose}
		out := schemas[camel(c.Name)+"Out"]
		properties(out)["method"] = object{"type": "string", "description": "calculator and version"}
		properties(out)["source"] = object{"type": "array", "items": object{"type": "string"},
			"description": meaning()["source"]}
		required, _ := out["required"].([]any)
		out["required"] = append(required, "method", "source")
	}
	schemas["WeighedResult"] = object{
		"type": "object", "properties": weighed, "additionalProperties": false, "minProperties": 1,
		"description": "what the calculators give that a decision was weighed by, each by its name",
	}
	results = append(results, object{"$ref": "#/components/schemas/WeighedResult"})
	schemas["Result"] = object{"anyOf": results, "description": "what the method of the entry gives"}
	for _, name := range []string{"Entry", "EntryView", "Written", "Trial"} {
		properties(schemas[name])["result"] = object{"$ref": "#/components/schemas/Result",
			"description": meaning()["result"]}
	}
	for _, schema := range schemas {
		if unit, ok := properties(schema)["unit"].(object); ok && properties(schema)["value"] != nil {
			delete(unit, "enum") // new ones are no change of the contract
			unit["description"] = "a symbol that /units lists"
			if schema["description"] == nil {
				schema["description"] = "a number and the unit it is in"
			}
			if value, ok := properties(schema)["value"].(object); ok {
				value["description"] = "the number"
			}
		}
	}
	mapping := object{}
	for _, v := range kinds.StepViews() {
		t := reflect.TypeOf(v).Elem()
		field, _ := t.FieldByName("Kind")
		mapping[field.Tag.Get("const")] = "#/components/schemas/" + t.Name()
	}
	schemas["StepView"]["discriminator"] = object{"propertyName": "kind", "mapping": mapping}
	return nil
}

func properties(schema object) object {
	p, _ := schema["properties"].(object)
	return p
}

func (a API) add(r *openapi31.Reflector, o Operation) error {
	op, err := r.NewOperationContext(o.Method, a.pathOf(o))
	if err != nil {
		return err
	}
	op.SetID(o.ID)
	op.SetSummary(o.Summary)
	if o.In != nil {
		op.AddReqStructure(o.In)
	}
	answer := func(u *openapi.ContentUnit) {
		u.HTTPStatus = o.Status
		if o.ContentType != "" {
			u.ContentType = o.ContentType
		}
	}
	if o.Status == http.StatusNoContent {
		op.AddRespStructure(nil, answer)
	} else {
		op.AddRespStructure(o.Out, answer)
	}
	op.AddRespStructure(a.Problem, func(u *openapi.ContentUnit) {
		u.IsDefault = true
		u.ContentType = "application/problem+json"
	})
	return r.AddOperation(op)
}

// pathOf is an operation's path as OpenAPI writes it.
func (a API) pathOf(o Operation) string {
	return a.Prefix + pathParameter.ReplaceAllString(o.Path, "{$1}")
}

// notNull: lists and maps are written empty, never null.
func notNull(p jsonschema.InterceptNullabilityParams) {
	if p.NullAdded && p.Type != nil && (p.Type.Kind() == reflect.Slice || p.Type.Kind() == reflect.Map) {
		p.Schema.RemoveType(jsonschema.Null)
	}
}

// schemaNames gives types the names a reader expects: what a calculator takes
// and gives is named after it (EndFloatIn), what the house speaks of by its own
// word (Rebuild), what lies deeper in core by chapter and word (ShimPack).
func (a API) schemaNames() func(reflect.Type, string) string {
	calculators := map[reflect.Type]string{}
	for _, c := range calc.All().List() {
		calculators[reflect.TypeOf(c.In())] = camel(c.Name) + "In"
		calculators[reflect.TypeOf(c.Out())] = camel(c.Name) + "Out"
	}
	named := map[reflect.Type]string{
		reflect.TypeFor[quantity.Any]():      "Quantity",
		reflect.TypeFor[quantity.Unit]():     "UnitOfMeasure",
		a.StepView:                           "StepView",
		reflect.TypeFor[metrology.Verdict](): "Verdict",
		reflect.TypeFor[input.Field]():       "BadField",
		reflect.TypeFor[report.Layout]():     "Archive",
		reflect.TypeFor[acts.Name]():         "Act",
		reflect.TypeFor[acts.Wear]():         "Worn",
	}
	maps.Copy(named, calculators)
	return func(t reflect.Type, name string) string {
		for t.Kind() == reflect.Pointer {
			t = t.Elem()
		}
		if own, ok := named[t]; ok {
			return own
		}
		if q, ok := reflect.Zero(t).Interface().(interface{ Asks() quantity.Dimension }); ok && q.Asks() != "" {
			return camel(string(q.Asks()))
		}
		if short, ok := strings.CutPrefix(name, upperFirst(path.Base(t.PkgPath()))); ok && short != "" &&
			speaksOf(t.PkgPath()) {
			return upperFirst(short)
		}
		return name
	}
}

// speaksOf tells the rooms whose words are those of the house.
func speaksOf(room string) bool {
	return slices.ContainsFunc(
		[]string{"handwerk/httpapi", "handwerk/workshop", "handwerk/book", "handwerk/core/quantity"},
		func(house string) bool { return room == house || strings.HasPrefix(room, house+"/") },
	)
}

// camel writes end-float as EndFloat.
func camel(name string) string {
	var b strings.Builder
	for word := range strings.FieldsFuncSeq(name, func(r rune) bool { return r == '-' || r == ' ' }) {
		b.WriteString(upperFirst(word))
	}
	return b.String()
}

func upperFirst(s string) string { return strings.ToUpper(s[:1]) + s[1:] }

// enums says which words a type may hold.
func enums(p jsonschema.InterceptSchemaParams) (bool, error) {
	if words, ok := wordsOf[p.Value.Type()]; ok && !p.Processed {
		p.Schema.WithType(jsonschema.String.Type()).
			WithEnum(words...).
			WithDescription(comments()[nameOf(p.Value.Type())])
		return true, nil
	}
	return false, nil
}

var wordsOf = map[reflect.Type][]any{
	reflect.TypeFor[metrology.Verdict](): {metrology.In, metrology.Out, metrology.Undecided, metrology.None},
	reflect.TypeFor[people.Role]():       {people.Reader, people.Mechanic, people.Lead},
	reflect.TypeFor[record.Status]():     {record.Locked, record.Open, record.Held, record.Done},
	reflect.TypeFor[book.StackWork]():    {book.Remove, book.Inspect, book.Fit},
	reflect.TypeFor[acts.Name]():         actNames(),
}
