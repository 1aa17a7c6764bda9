// Package describe says in JSON Schema and in Markdown what the catalogue's
// calculators take and give, for people and for programs.
package describe

import (
	"encoding/json"
	"reflect"
	"strings"

	"github.com/swaggest/jsonschema-go"

	"handwerk/core/calculator"
	"handwerk/core/input"
	"handwerk/core/quantity"
)

// Schema describes a calculator's input and output as JSON Schema; x-order has the
// fields of an object as a form asks for them.
func Schema(c calculator.Calculator, more ...func(*jsonschema.ReflectContext)) (json.RawMessage, error) {
	in, err := reflectSchema(c.In(), more...)
	if err != nil {
		return nil, err
	}
	out, err := reflectSchema(c.Out(), more...)
	if err != nil {
		return nil, err
	}
	return json.MarshalIndent(map[string]any{"name": c.Name, "method": c.Method(), "input": in, "output": out}, "",
		"  ")
}

func reflectSchema(v any, more ...func(*jsonschema.ReflectContext)) (jsonschema.Schema, error) {
	var r jsonschema.Reflector
	return r.Reflect(v, append(more, jsonschema.InlineRefs, MarkRequired(), ordered(),
		QuantitySchema(jsonschema.Object, jsonschema.String), TypedSchema(jsonschema.String))...)
}

// ordered says in which order the fields of a struct are asked for.
func ordered() func(*jsonschema.ReflectContext) {
	return jsonschema.InterceptSchema(func(p jsonschema.InterceptSchemaParams) (bool, error) {
		if t := bare(p.Value.Type()); p.Processed && t.Kind() == reflect.Struct && len(p.Schema.Properties) > 0 {
			p.Schema.WithExtraPropertiesItem("x-order", input.Names(t))
		}
		return false, nil
	})
}

// typedFormat marks the plain figures that may be sent as the text a hand typed.
const typedFormat = "typed"

// IsTyped tells whether a schema is of such a figure.
func IsTyped(format any) bool { return format == typedFormat }

// TypedSchema describes those figures as numbers, or as what else is allowed.
func TypedSchema(also ...jsonschema.SimpleType) func(*jsonschema.ReflectContext) {
	return jsonschema.InterceptSchema(func(p jsonschema.InterceptSchemaParams) (bool, error) {
		if p.Processed || !p.Value.IsValid() {
			return false, nil
		}
		typed, ok := reflect.Zero(bare(p.Value.Type())).Interface().(interface{ AsTyped() string })
		if !ok {
			return false, nil
		}
		all := append([]jsonschema.SimpleType{jsonschema.SimpleType(typed.AsTyped())}, also...)
		p.Schema.WithFormat(typedFormat).WithDescription("a number; sent, it may be the text a hand typed")
		if len(all) == 1 {
			p.Schema.WithType(all[0].Type())
		} else {
			p.Schema.WithType(jsonschema.Type{SliceOfSimpleTypeValues: all})
		}
		return true, nil
	})
}

// bare is a type without its pointers.
func bare(t reflect.Type) reflect.Type {
	for t.Kind() == reflect.Pointer {
		t = t.Elem()
	}
	return t
}

// MarkRequired marks in a schema what input.Decode requires.
func MarkRequired() func(*jsonschema.ReflectContext) {
	return jsonschema.InterceptProp(func(p jsonschema.InterceptPropParams) error {
		tag := p.Field.Tag.Get("json")
		if p.Processed && tag != "" && !strings.Contains(tag, "omit") && p.ParentSchema != nil {
			p.ParentSchema.Required = append(p.ParentSchema.Required, p.Name)
		}
		return nil
	})
}

// QuantitySchema describes a quantity as {value, unit} with the units of its
// dimension, allowing the given JSON types: an object, or a text as well.
func QuantitySchema(types ...jsonschema.SimpleType) func(*jsonschema.ReflectContext) {
	return jsonschema.InterceptSchema(func(p jsonschema.InterceptSchemaParams) (bool, error) {
		if p.Processed || !p.Value.IsValid() || !p.Value.CanInterface() {
			return false, nil
		}
		q, ok := p.Value.Interface().(interface{ Asks() quantity.Dimension })
		if !ok {
			return false, nil
		}
		var symbols []any
		for _, u := range quantity.Units() {
			if q.Asks() == "" || u.Dimension == q.Asks() {
				symbols = append(symbols, u.Symbol)
			}
		}
		number, text := jsonschema.Number, jsonschema.String
		p.Schema.WithRequired("value", "unit").
			WithPropertiesItem("value", (&jsonschema.Schema{}).WithType(number.Type()).ToSchemaOrBool()).
			WithPropertiesItem("unit", (&jsonschema.Schema{}).WithType(text.Type()).WithEnum(symbols...).ToSchemaOrBool())
		if len(types) == 1 {
			p.Schema.WithType(types[0].Type())
			return true, nil
		}
		p.Schema.WithDescription(`an object, or a text like "7 thou"`).
			WithType(jsonschema.Type{SliceOfSimpleTypeValues: types})
		return true, nil
	})
}
