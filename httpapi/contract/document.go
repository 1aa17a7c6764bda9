package contract

import (
	"encoding/json"
	"net/http"
	"slices"
	"strconv"
	"strings"

	"github.com/swaggest/openapi-go/openapi31"

	"handwerk/core/calc"
	"handwerk/core/calc/describe"
)

// object is a part of the OpenAPI document.
type object = map[string]any

// complete adds to the document what a client must send and may get beyond the
// types: security, headers, bodies, problems, examples, and quantities as texts.
func (a API) complete(spec *openapi31.Spec) ([]byte, error) {
	raw, err := json.Marshal(spec)
	if err != nil {
		return nil, err
	}
	var doc object
	if err := json.Unmarshal(raw, &doc); err != nil {
		return nil, err
	}
	schemas := doc["components"].(object)["schemas"].(object)
	doc["components"] = object{
		"schemas": schemas, "securitySchemes": a.securitySchemes(), "responses": problemResponses,
		"parameters": object{"IdempotencyKey": object{
			"name": "Idempotency-Key", "in": "header", "required": true, "schema": object{
				"type": "string", "minLength": 8, "maxLength": 100,
			},
			"description": "new for each write; the same request twice is one write",
		}},
	}
	schemas["Act"].(object)["description"] = actWords()
	doc["servers"] = []any{object{"url": "/"}}
	doc["security"] = []any{object{"session": []any{}}, object{"program": []any{}}}
	doc["tags"] = a.tags()
	doc["info"].(object)["license"] = object{"name": "proprietary", "identifier": "LicenseRef-Handwerk"}
	for _, g := range a.Groups {
		for _, o := range g.Operations {
			op := doc["paths"].(object)[a.pathOf(o)].(object)[strings.ToLower(o.Method)].(object)
			op["tags"] = []any{g.Tag}
			a.operation(op, o)
		}
	}
	textQuantities(doc, schemas)
	return json.MarshalIndent(doc, "", " ")
}

func (a API) securitySchemes() object {
	return object{
		"session": object{"type": "apiKey", "in": "cookie", "name": a.Cookie,
			"description": "set by signing in; __Host-" + a.Cookie + " under TLS"},
		"token": object{
			"type": "apiKey", "in": "header", "name": a.Token, "description": "csrf of the session, on every write",
		},
		"program": object{"type": "http", "scheme": "bearer",
			"description": "a token that a lead made for a program, with its role; no cookie and no csrf go along"},
	}
}

// problems are the answers that say no, by status.
var problems = map[int]string{
	http.StatusUnauthorized:          "nobody is signed in, or you have been signed out",
	http.StatusForbidden:             "this person may not do this",
	http.StatusNotFound:              "there is none",
	http.StatusConflict:              "a rule of the record says no: look at what is there now",
	http.StatusRequestEntityTooLarge: "the body is too large",
	http.StatusUnsupportedMediaType:  "the body is of another kind, or packed",
	http.StatusUnprocessableEntity:   "fields that do not fit, each by its name",
	http.StatusTooManyRequests:       "too many tries; Retry-After says when",
}

var problemResponses = func() object {
	all := object{}
	for status, says := range problems {
		all["Problem"+strconv.Itoa(status)] = object{
			"description": says,
			"content": object{
				"application/problem+json": object{"schema": object{"$ref": "#/components/schemas/Problem"}},
			},
		}
	}
	return all
}()

// operation completes one operation.
func (a API) operation(op object, o Operation) {
	op["description"] = o.details()
	refused := []int{}
	if o.Open {
		op["security"] = []any{}
		refused = append(refused, http.StatusTooManyRequests)
	} else {
		refused = append(refused, http.StatusUnauthorized)
	}
	if strings.Contains(o.Path, ":") {
		refused = append(refused, http.StatusNotFound)
	}
	if o.Method == http.MethodPost {
		refused = append(refused, http.StatusForbidden)
		if !o.Open {
			op["security"] = []any{object{"session": []any{}, "token": []any{}}, object{"program": []any{}}}
		}
	}
	if o.Keyed {
		refused = append(refused, http.StatusConflict)
		parameters, _ := op["parameters"].([]any)
		op["parameters"] = append(parameters, object{"$ref": "#/components/parameters/IdempotencyKey"})
	}
	if o.ID == "append" {
		op["parameters"] = append(op["parameters"].([]any), object{
			"name": "Prefer", "in": "header", "schema": object{"type": "string", "enum": []any{a.Prefer}},
			"description": "asks for how rebuild and step stand once the entry is kept (RFC 7240)",
		})
	}
	if o.takesBody(op) {
		refused = append(refused, http.StatusRequestEntityTooLarge, http.StatusUnsupportedMediaType)
	}
	if op["parameters"] != nil || op["requestBody"] != nil {
		refused = append(refused, http.StatusUnprocessableEntity)
	}
	responses := op["responses"].(object)
	responses["default"].(object)["description"] = "anything else that went wrong"
	for _, status := range refused {
		responses[strconv.Itoa(status)] = object{"$ref": "#/components/responses/Problem" + strconv.Itoa(status)}
	}
	if o.ContentType != "" && !strings.Contains(o.ContentType, "json") {
		if o.Out != nil && strings.HasSuffix(o.ContentType, "event-stream") {
			return // the schema is that of each event
		}
		responses["200"].(object)["content"] = object{
			o.ContentType: object{"schema": object{"type": "string", "format": "binary"}},
		}
	}
}

// takesBody completes the body of an operation, with an example where the
// catalogue has one; false when there is none.
func (o Operation) takesBody(op object) bool {
	if len(o.Takes) > 0 {
		content := object{}
		for _, media := range o.Takes {
			content[media] = object{"schema": object{"type": "string", "format": "binary"}}
		}
		op["requestBody"] = object{"required": true, "content": content}
		return true
	}
	body, ok := op["requestBody"].(object)
	if !ok {
		return false
	}
	body["required"] = true
	media := body["content"].(object)["application/json"].(object)
	if c, ok := calc.All().Named(strings.TrimPrefix(o.Path, "/calc/")); ok {
		media["example"] = json.RawMessage(c.Example)
	} else if o.ID == "append" {
		media["examples"] = actExamples()
	} else {
		media["example"] = examples()[o.ID]
	}
	return true
}

// textQuantities lets a quantity, or a plain figure a hand types, be written as a
// text wherever it is sent; answers always have object and number. A schema with
// quantities that goes both ways gets a twin for the way in.
func textQuantities(doc, schemas object) {
	sent, answered := map[string]bool{}, map[string]bool{}
	bodies := []object{}
	for _, path := range doc["paths"].(object) {
		for _, op := range path.(object) {
			reach(op.(object)["requestBody"], schemas, sent)
			reach(op.(object)["responses"], schemas, answered)
			bodies = append(bodies, op.(object))
		}
	}
	twins := map[string]bool{}
	for name := range sent {
		twins[name] = answered[name] && !isQuantity(schemas[name]) && holdsQuantity(name, schemas)
	}
	way := wayIn{schemas, twins}
	for name := range sent {
		switch {
		case twins[name]:
			schemas[name+sentTwin] = way.texts(schemas[name])
		case !answered[name] && !isQuantity(schemas[name]):
			schemas[name] = way.texts(schemas[name])
		}
	}
	for _, op := range bodies {
		if op["requestBody"] != nil {
			op["requestBody"] = way.texts(op["requestBody"])
		}
	}
}

// sentTwin ends the name of a schema that is only sent, beside one that is answered.
const sentTwin = "Sent"

func holdsQuantity(name string, schemas object) bool {
	within := map[string]bool{}
	reach(schemas[name], schemas, within)
	for n := range within {
		if isQuantity(schemas[n]) || holdsTyped(schemas[n]) {
			return true
		}
	}
	return holdsTyped(schemas[name])
}

// holdsTyped finds a plain figure that a hand types.
func holdsTyped(v any) bool {
	switch v := v.(type) {
	case []any:
		return slices.ContainsFunc(v, holdsTyped)
	case object:
		if describe.IsTyped(v["format"]) {
			return true
		}
		for _, x := range v {
			if holdsTyped(x) {
				return true
			}
		}
	}
	return false
}

// reach notes every schema that a part of the document leads to.
func reach(v any, schemas object, seen map[string]bool) {
	switch v := v.(type) {
	case []any:
		for _, x := range v {
			reach(x, schemas, seen)
		}
	case object:
		if name, ok := schemaNamed(v); ok && !seen[name] {
			seen[name] = true
			reach(schemas[name], schemas, seen)
		}
		for _, x := range v {
			reach(x, schemas, seen)
		}
	}
}

func schemaNamed(v object) (string, bool) {
	ref, _ := v["$ref"].(string)
	return strings.CutPrefix(ref, "#/components/schemas/")
}

func isQuantity(schema any) bool {
	s, _ := schema.(object)
	p := properties(s)
	return len(p) == 2 && p["value"] != nil && p["unit"] != nil
}

// wayIn is how schemas read on the way in.
type wayIn struct {
	schemas object
	twins   map[string]bool
}

// texts is a schema whose quantities may be texts too.
func (w wayIn) texts(v any) any {
	switch v := v.(type) {
	case []any:
		out := make([]any, len(v))
		for i, x := range v {
			out[i] = w.texts(x)
		}
		return out
	case object:
		name, ok := schemaNamed(v)
		switch {
		case ok && isQuantity(w.schemas[name]):
			return explained(v, object{
				"anyOf": []any{
					object{"$ref": v["$ref"]},
					object{
						"type": "string", "examples": []any{"7 thou"},
						"description": "number and unit as people write them",
					},
				},
			})
		case ok && w.twins[name]:
			return explained(v, object{"$ref": "#/components/schemas/" + name + sentTwin})
		}
		out := object{}
		for k, x := range v {
			out[k] = w.texts(x)
		}
		if describe.IsTyped(v["format"]) {
			types, several := v["type"].([]any)
			if !several {
				types = []any{v["type"]}
			}
			out["type"] = append(slices.Clone(types), "string")
		}
		return out
	}
	return v
}

// explained is a schema in another's place, which says what that said.
func explained(was, is object) object {
	if says, ok := was["description"]; ok {
		is["description"] = says
	}
	return is
}

// tags are the groups of operations, for readers.
func (a API) tags() (all []any) {
	for _, g := range a.Groups {
		all = append(all, object{"name": g.Tag, "description": g.Says})
	}
	return all
}
