package contract

import (
	_ "embed"
	"encoding/json"
	"reflect"
	"strings"
	"sync"

	"handwerk/workshop/acts"

	"github.com/swaggest/jsonschema-go"
)

// commentsJSON is what the comments in the code say of types and fields.
//
//go:embed comments.gen.json
var commentsJSON []byte

var comments = sync.OnceValue(func() map[string]string { return compiledIn[map[string]string](commentsJSON) })

// compiledIn reads JSON that is part of the program.
func compiledIn[T any](raw []byte) (v T) {
	if err := json.Unmarshal(raw, &v); err != nil {
		panic(err)
	}
	return v
}

// Words puts into a schema which words a type may hold, and what the code says of
// it and its fields.
func Words() []func(*jsonschema.ReflectContext) {
	return []func(*jsonschema.ReflectContext){
		jsonschema.InterceptSchema(enums), jsonschema.InterceptSchema(described),
	}
}

// described writes into the schema of a struct what the code says of it and its
// fields; of a field with no comment, what the word means in the whole house.
func described(p jsonschema.InterceptSchemaParams) (bool, error) {
	t := p.Value.Type()
	for t.Kind() == reflect.Pointer {
		t = t.Elem()
	}
	if !p.Processed || t.Name() == "" || t.Kind() == reflect.String {
		return false, nil
	}
	if says := comments()[nameOf(t)]; says != "" && p.Schema.Description == nil {
		p.Schema.WithDescription(says)
	}
	if t.Kind() == reflect.Struct {
		describeFields(t, p.Schema.Properties)
	}
	return false, nil
}

func describeFields(t reflect.Type, properties map[string]jsonschema.SchemaOrBool) {
	for i := range t.NumField() {
		f := t.Field(i)
		if f.Anonymous {
			for f.Type.Kind() == reflect.Pointer {
				f.Type = f.Type.Elem()
			}
			if f.Type.Kind() == reflect.Struct {
				describeFields(f.Type, properties)
			}
			continue
		}
		name, _, _ := strings.Cut(f.Tag.Get("json"), ",")
		property := properties[name].TypeObject
		if property == nil || property.Description != nil {
			continue
		}
		says := comments()[nameOf(t)+"."+f.Name]
		if says == "" {
			says = meaning()[name]
		}
		if says != "" {
			property.WithDescription(says)
		}
	}
}

// nameOf is a type as comments name it.
func nameOf(t reflect.Type) string {
	name, _, _ := strings.Cut(t.Name(), "[")
	return t.PkgPath() + "." + name
}

// meaningText is what a field's name means wherever no comment says otherwise, a
// line each.
//
//go:embed meaning.txt
var meaningText string

var meaning = sync.OnceValue(func() map[string]string { return keyed(meaningText) })

// keyed reads lines of a key, a colon, and words.
func keyed(text string) map[string]string {
	says := map[string]string{}
	for line := range strings.Lines(text) {
		name, words, _ := strings.Cut(strings.TrimSpace(line), ": ")
		says[name] = words
	}
	return says
}

// detailsText is what an operation's summary and types leave open, a line each, by
// its id.
//
//go:embed details.txt
var detailsText string

var details = sync.OnceValue(func() map[string]string { return keyed(detailsText) })

// details say what an operation does and who may call it.
func (o Operation) details() string {
	words := []string{upperFirst(o.Summary) + ".", o.May}
	if more := details()[o.ID]; more != "" {
		words = append(words, more)
	}
	return strings.Join(words, " ")
}

// actWords say which fields of a body each act takes.
func actWords() string {
	words := []string{"The act, with the fields it takes:"}
	for _, a := range acts.All() {
		fields := strings.Join(acts.Fields(a), ", ")
		if fields == "" {
			fields = "nothing more"
		}
		words = append(words, string(a.Name())+": "+fields+".")
	}
	return strings.Join(words, " ")
}

//go:embed examples.json
var examplesJSON []byte

//go:embed acts.json
var actsJSON []byte

// examples are a body for each operation that wants one, by its id.
var examples = sync.OnceValue(func() map[string]any { return compiledIn[map[string]any](examplesJSON) })

// actExamples are a body for each act, as OpenAPI names examples.
func actExamples() object {
	all := object{}
	for act, body := range compiledIn[map[string]any](actsJSON) {
		all[act] = object{"value": body}
	}
	return all
}
