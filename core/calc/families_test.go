package calc

import (
	"encoding/json"
	"errors"
	"fmt"
	"maps"
	"math"
	"math/rand/v2"
	"slices"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"handwerk/core/calculator"
	"handwerk/core/input"
	"handwerk/core/quantity"
)

// quantitiesIn changes each quantity of a decoded input.
func quantitiesIn(v any, change func(value float64, u *quantity.Unit) any) any {
	switch x := v.(type) {
	case map[string]any:
		if value, unit, ok := asQuantity(x); ok {
			return change(value, unit)
		}
		out := map[string]any{}
		for _, name := range slices.Sorted(maps.Keys(x)) { // in one order: what fails once fails again
			if out[name] = x[name]; name != "text" { // a text as a gauge sent it stays
				out[name] = quantitiesIn(x[name], change)
			}
		}
		return out
	case []any:
		out := make([]any, len(x))
		for i, item := range x {
			out[i] = quantitiesIn(item, change)
		}
		return out
	case string:
		var q quantity.Any
		if strings.ContainsAny(x, "0123456789") && q.UnmarshalText([]byte(x)) == nil && q.IsSaid() {
			return change(q.Value, q.Unit)
		}
	}
	return v
}

func asQuantity(x map[string]any) (float64, *quantity.Unit, bool) {
	value, ok1 := x["value"].(float64)
	symbol, ok2 := x["unit"].(string)
	unit, known := quantity.UnitNamed(symbol)
	return value, unit, ok1 && ok2 && known && len(x) == 2
}

func say(value float64, u *quantity.Unit) any {
	return map[string]any{"value": value, "unit": u.Symbol}
}

func inPairedUnit(value float64, u *quantity.Unit) any {
	paired, ok := quantity.UnitNamed(u.Paired)
	if !ok {
		return say(value, u)
	}
	return say((value+u.Offset)*u.Factor/paired.Factor-paired.Offset, paired)
}

// alike holds two results against each other: quantities by their size, bare
// numbers by their value, verdicts as they are. Words may name either unit.
func alike(at string, a, b any) error {
	switch x := a.(type) {
	case map[string]any:
		y, ok := b.(map[string]any)
		if !ok {
			return fmt.Errorf("%s: %v, %v", at, a, b)
		}
		if value, unit, ok := asQuantity(x); ok {
			other, unit2, ok := asQuantity(y)
			if !ok || !near((value)*unit.Factor, (other)*unit2.Factor) &&
				!near((value+unit.Offset)*unit.Factor, (other+unit2.Offset)*unit2.Factor) {
				return fmt.Errorf("%s: %v %s, %v %s", at, value, unit.Symbol, y["value"], y["unit"])
			}
			return nil
		}
		for name, item := range x {
			if err := alike(at+"."+name, item, y[name]); err != nil {
				return err
			}
		}
	case []any:
		y, ok := b.([]any)
		if !ok || len(y) != len(x) {
			return fmt.Errorf("%s: %d and %d", at, len(x), len(y))
		}
		for i := range x {
			if err := alike(at+"["+strconv.Itoa(i)+"]", x[i], y[i]); err != nil {
				return err
			}
		}
	case float64:
		if y, ok := b.(float64); !ok || !near(x, y) {
			return fmt.Errorf("%s: %v, %v", at, a, b)
		}
	case string:
		if strings.HasSuffix(at, "verdict") && a != b {
			return fmt.Errorf("%s: %v, %v", at, a, b)
		}
	}
	return nil
}

func near(a, b float64) bool {
	return math.Abs(a-b) <= 2e-8*math.Max(math.Abs(a), math.Abs(b))+1e-12
}

func run(t *testing.T, c calculator.Calculator, in any) (any, error) {
	t.Helper()
	raw, err := json.Marshal(in)
	require.NoError(t, err)
	result, err := c.Run(raw)
	if err != nil {
		var fields input.Fields
		require.True(t, errors.As(err, &fields), "%s: %v is no fault of a field", c.Name, err)
		return nil, err
	}
	var out any
	require.NoError(t, json.Unmarshal(result, &out), c.Name)
	return out, nil
}

// What a shop says in metric and in inch units is the same: on every example,
// and on two hundred like them.
func TestMetricAndInchAgree(t *testing.T) {
	t.Parallel()
	rng := rand.New(rand.NewPCG(21, 7))
	for _, c := range All().List() {
		t.Run(c.Name, func(t *testing.T) {
			var example any
			require.NoError(t, json.Unmarshal([]byte(c.Example), &example))
			for n := range 201 {
				in := example
				if n > 0 {
					in = quantitiesIn(example, func(value float64, u *quantity.Unit) any {
						// Every other time so coarse that figures meet each other.
						scaled, _ := strconv.ParseFloat(strconv.FormatFloat(value*(0.8+0.4*rng.Float64()), 'g', 2+n%2,
							64), 64)
						return say(scaled, u)
					})
				}
				out, err := run(t, c, in)
				other, err2 := run(t, c, quantitiesIn(in, inPairedUnit))
				require.Equal(t, err == nil, err2 == nil, "%v; %v; %v", in, err, err2)
				if err == nil {
					require.NoError(t, alike(c.Name, out, other), "%v", in)
				}
			}
		})
	}
}

// Whatever stands in a field, the answer is an answer or names a field; nothing
// is minus nought, and no error of an encoder comes out.
func TestExtremesAreAnsweredOrRefused(t *testing.T) {
	t.Parallel()
	for _, c := range All().List() {
		var example any
		require.NoError(t, json.Unmarshal([]byte(c.Example), &example))
		count := 0
		quantitiesIn(example, func(v float64, u *quantity.Unit) any { count++; return say(v, u) })
		for at := range count {
			for _, extreme := range []float64{1e-300, 1e-9, 0, math.Copysign(0, -1), 1e9, 1e300, -1e300} {
				n := -1
				in := quantitiesIn(example, func(v float64, u *quantity.Unit) any {
					if n++; n == at {
						return say(extreme, u)
					}
					return say(v, u)
				})
				raw, err := json.Marshal(in)
				require.NoError(t, err)
				result, err := c.Run(raw)
				if err == nil {
					assert.NotContains(t, string(result), "-0,", "%s: %s", c.Name, raw)
					assert.NotContains(t, string(result), "-0}", "%s: %s", c.Name, raw)
					continue
				}
				assert.NotContains(t, err.Error(), "json:", "%s: %s", c.Name, raw)
				var fields input.Fields
				assert.True(t, errors.As(err, &fields), "%s: %v", c.Name, err)
			}
		}
	}
}
