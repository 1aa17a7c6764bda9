package quantity

import (
	"bytes"
	"encoding/json"
	"math"
	"strconv"
	"strings"

	"handwerk/core/input"
)

// ParseAs reads a quantity that must have the dimension of T.
func ParseAs[T Kind](text string) (Said[T], error) {
	var t T
	a, err := parse(text, t.Dimension())
	return Said[T]{a}, err
}

// parse reads a quantity as a mechanic writes it: "0.62 mm", "24 thou",
// ".024 in", "1/16 in", "1 1/2 in", "26 lb-ft", "3.75 US qt", "0,62 mm".
// The unit is never guessed: a bare number, an unknown unit or one that means
// two things ("quart") is an error that says what is accepted.
func parse(text string, want Dimension) (Any, error) {
	rest := strings.TrimSpace(text)
	if rest == "" {
		return Any{}, input.At("", example(want), "nothing typed")
	}
	if len(rest) > 60 {
		return Any{}, input.At("", example(want), "too long for a quantity (%d characters)", len(rest))
	}
	rest = strings.Replace(rest, "−", "-", 1)
	value, rest, err := input.TakeNumber(rest, text)
	if err != nil {
		return Any{}, err
	}
	a, err := withUnit(value, strings.TrimSpace(rest), text, want)
	if err == nil {
		a.Typed = strings.TrimSpace(text)
	}
	return a, err
}

// withUnit joins a number with the word after it.
func withUnit(value float64, word, whole string, want Dimension) (Any, error) {
	if word == "" {
		return Any{}, input.At("", accepted(want), "%q has no unit", strings.TrimSpace(whole))
	}
	u, ok := UnitNamed(word)
	if choice, both := ambiguous[strings.ToLower(word)]; both && (!ok || (want != "" && u.Dimension != want)) {
		return Any{}, input.At("", choice, "%q means more than one unit", word)
	}
	if !ok {
		return Any{}, input.At("", accepted(want), "%q is not a unit known here", word)
	}
	if want != "" && u.Dimension != want {
		return Any{}, input.At("", accepted(want), "%q is a unit of %s; a %s is needed", u.Symbol, u.Dimension, want)
	}
	if math.IsNaN(value) || math.Abs(value) > input.MostSaid {
		return Any{}, input.At("", "up to 1 000 000 000", "the number is too large to be right")
	}
	return Any{Value: value, Unit: u}, nil
}

func example(d Dimension) string {
	switch d {
	case DimTorque:
		return "like 26 lb-ft or 35 N·m"
	case DimVolume:
		return "like 2.4 L, 3.75 US qt or 1 imp pt"
	case DimTemperature:
		return "like 62 °C or 144 °F"
	}
	return "like 0.62 mm, 24 thou or .024 in"
}

// UnmarshalJSON accepts {"value": 7, "unit": "thou"} or "7 thou".
func (a *Any) UnmarshalJSON(raw []byte) error { return a.fromJSON(raw, "") }

// UnmarshalText accepts "7 thou" (YAML, flags).
func (a *Any) UnmarshalText(text []byte) (err error) { *a, err = parse(string(text), ""); return err }

// UnmarshalJSON accepts {"value": 7, "unit": "thou"} or "7 thou".
func (s *Said[T]) UnmarshalJSON(raw []byte) error {
	var t T
	return s.fromJSON(raw, t.Dimension())
}

// UnmarshalText accepts "7 thou" (YAML, flags).
func (s *Said[T]) UnmarshalText(text []byte) (err error) {
	var t T
	s.Any, err = parse(string(text), t.Dimension())
	return err
}

func (a *Any) fromJSON(raw []byte, want Dimension) (err error) {
	raw = bytes.TrimSpace(raw)
	switch {
	case len(raw) > 0 && raw[0] == '"':
		var text string
		if err := json.Unmarshal(raw, &text); err != nil {
			return input.At("", example(want), "not a readable text")
		}
		*a, err = parse(text, want)
		return err
	case len(raw) > 0 && raw[0] == '{':
		return a.fromObject(raw, want)
	}
	return input.At("", `{"value": 7, "unit": "thou"} or "7 thou"`,
		"%.40s is not a quantity: number and unit are needed", raw)
}

// asWritten reads the one way in which MarshalJSON writes a quantity, without
// looking for any other.
func asWritten(raw []byte) (value float64, unit string, ok bool) {
	rest, ok1 := bytes.CutPrefix(raw, []byte(`{"value":`))
	number, rest, ok2 := bytes.Cut(rest, []byte(`,"unit":"`))
	name, ok3 := bytes.CutSuffix(rest, []byte(`"}`))
	if !ok1 || !ok2 || !ok3 || bytes.ContainsAny(name, `"\\`) || len(number) == 0 ||
		bytes.Trim(number, "0123456789.-") != nil {
		return 0, "", false
	}
	value, err := strconv.ParseFloat(string(number), 64)
	return value, string(name), err == nil && json.Valid(number)
}

func (a *Any) fromObject(raw []byte, want Dimension) error {
	if value, unit, ok := asWritten(raw); ok {
		return a.join(value, unit, want)
	}
	var parts map[string]json.RawMessage
	if err := json.Unmarshal(raw, &parts); err != nil {
		return input.At("", `{"value": 7, "unit": "thou"}`, "not a readable object")
	}
	var faults input.Fields
	for name := range parts {
		if name != "value" && name != "unit" {
			faults.Add(name, "value, unit", "unknown field")
		}
	}
	var value float64
	if raw, ok := parts["value"]; !ok || json.Unmarshal(raw, &value) != nil || string(raw) == "null" {
		faults.Add("value", "a number", "missing or not a number")
	}
	var word string
	if raw, ok := parts["unit"]; !ok || json.Unmarshal(raw, &word) != nil {
		faults.Add("unit", accepted(want), "missing or not a text")
	}
	if len(faults) > 0 {
		return faults
	}
	return a.join(value, word, want)
}

func (a *Any) join(value float64, word string, want Dimension) error {
	value += 0 // minus nought is nought
	said, err := withUnit(value, word, strconv.FormatFloat(value, 'f', -1, 64), want)
	if err == nil {
		*a = said
	}
	return err
}
