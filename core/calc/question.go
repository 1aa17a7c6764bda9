package calc

import (
	"bytes"
	"encoding/json"
	"regexp"
	"slices"
	"strings"

	"handwerk/core/calculator"
	"handwerk/core/quantity"
)

// A question's figures: a number with a unit, a metric thread, a class of bolt.
var (
	figureSaid = regexp.MustCompile(`(\d+(?:[.,]\d+)?)\s*([\p{L}µ°"·/²³-]+)`)
	threadSaid = regexp.MustCompile(`(?i)\bM(\d+(?:[.,]\d+)?)(?:\s*[x×]\s*(\d+(?:[.,]\d+)?))?`)
	classSaid  = regexp.MustCompile(`\b(\d{1,2}\.\d)\b`)
)

// MostQuestion is the longest question that anybody looks through, in bytes.
const MostQuestion = 200

// FillIn gives a calculator's worked example with the figures of a question in place of
// its own: each goes to the first field of its dimension that is still as it was, a
// metric thread to its diameter and pitch. What the question does not say stays.
func FillIn(c calculator.Calculator, question string) json.RawMessage {
	fields, order := topFields(c.Example)
	put := map[string]bool{}
	set := func(key, text string) {
		raw, err := json.Marshal(text)
		if _, known := fields[key]; known && !put[key] && err == nil {
			fields[key], put[key] = raw, true
		}
	}
	question = threadSaid.ReplaceAllStringFunc(question, func(said string) string {
		m := threadSaid.FindStringSubmatch(said)
		set("diameter", m[1]+" mm")
		if m[2] != "" {
			set("pitch", m[2]+" mm")
		}
		return " "
	})
	if m := classSaid.FindString(question); m != "" {
		set("class", m)
	}
	for _, m := range figureSaid.FindAllStringSubmatch(question, -1) {
		unit, known := quantity.UnitNamed(m[2])
		if !known {
			continue
		}
		i := slices.IndexFunc(order, func(key string) bool { return !put[key] && isOf(fields[key], unit.Dimension) })
		if i >= 0 {
			set(order[i], m[1]+" "+unit.Symbol)
		}
	}
	return together(fields, order)
}

// isOf tells that a field of an example is a quantity of a dimension.
func isOf(raw json.RawMessage, d quantity.Dimension) bool {
	var text string
	if json.Unmarshal(raw, &text) != nil {
		return false
	}
	m := figureSaid.FindStringSubmatch(text)
	if m == nil {
		return false
	}
	unit, known := quantity.UnitNamed(strings.TrimSpace(m[2]))
	return known && unit.Dimension == d
}

// topFields parts an object into its fields, in their order.
func topFields(object string) (fields map[string]json.RawMessage, order []string) {
	fields = map[string]json.RawMessage{}
	d := json.NewDecoder(strings.NewReader(object))
	if _, err := d.Token(); err != nil {
		return fields, nil
	}
	for d.More() {
		key, err := d.Token()
		name, is := key.(string)
		var value json.RawMessage
		if err != nil || !is || d.Decode(&value) != nil {
			break
		}
		fields[name], order = value, append(order, name)
	}
	return fields, order
}

func together(fields map[string]json.RawMessage, order []string) json.RawMessage {
	var b bytes.Buffer
	b.WriteByte('{')
	for i, key := range order {
		if i > 0 {
			b.WriteByte(',')
		}
		name, _ := json.Marshal(key) // a string, cannot fail
		b.Write(name)
		b.WriteByte(':')
		b.Write(fields[key])
	}
	b.WriteByte('}')
	return b.Bytes()
}
