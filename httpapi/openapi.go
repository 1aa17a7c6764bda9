package httpapi

import (
	"encoding/json"
	"net/http"
	"reflect"
	"regexp"
	"strings"

	"github.com/swaggest/jsonschema-go"
	"github.com/swaggest/openapi-go"
	"github.com/swaggest/openapi-go/openapi31"

	"handwerk/core/calc/describe"
)

var pathParameter = regexp.MustCompile(`:(\w+)`)

// Document is the OpenAPI 3.1 document of all endpoints.
func Document() ([]byte, error) { return openAPI((&api{}).endpoints()) }

// endpoints lists every operation of the API.
func (a *api) endpoints() []endpoint {
	var all []endpoint
	for _, group := range [][]endpoint{a.sessionEndpoints(), a.rebuildEndpoints(), a.photoEndpoints(), a.recordEndpoints(), a.calcEndpoints()} {
		all = append(all, group...)
	}
	return all
}

func openAPI(list []endpoint) ([]byte, error) {
	r := openapi31.NewReflector()
	r.Spec.Info.WithTitle("Handwerk").WithVersion("1").WithDescription(
		"The record of a drivetrain workshop. Writes carry an Idempotency-Key and the session's X-CSRF-Token. A quantity may also be written as a text like \"7 thou\".")
	r.DefaultOptions = append(r.DefaultOptions, describe.MarkRequired(), describe.QuantitySchema(jsonschema.Object), jsonschema.InterceptNullability(notNull))
	r.DefaultOptions = append(r.DefaultOptions, jsonschema.InterceptDefName(func(_ reflect.Type, name string) string {
		return strings.Replace(name, "HandwerkCoreQuantity", "", 1)
	}))
	for _, e := range list {
		if err := addOperation(r, e); err != nil {
			return nil, err
		}
	}
	return json.MarshalIndent(r.Spec, "", " ")
}

func addOperation(r *openapi31.Reflector, e endpoint) error {
	op, err := r.NewOperationContext(e.method, prefix+pathParameter.ReplaceAllString(e.path, "{$1}"))
	if err != nil {
		return err
	}
	op.SetID(e.id)
	op.SetSummary(e.summary)
	if e.in != nil {
		op.AddReqStructure(e.in)
	}
	answer := func(u *openapi.ContentUnit) {
		u.HTTPStatus = e.status
		if e.contentType != "" {
			u.ContentType = e.contentType
		}
	}
	if e.status == http.StatusNoContent {
		op.AddRespStructure(nil, answer)
	} else {
		op.AddRespStructure(e.out, answer)
	}
	op.AddRespStructure(Problem{}, func(u *openapi.ContentUnit) {
		u.IsDefault = true
		u.ContentType = "application/problem+json"
	})
	return r.AddOperation(op)
}

// notNull: lists and maps are written empty, never null.
func notNull(p jsonschema.InterceptNullabilityParams) {
	if p.NullAdded && p.Type != nil && (p.Type.Kind() == reflect.Slice || p.Type.Kind() == reflect.Map) {
		p.Schema.RemoveType(jsonschema.Null)
	}
}
