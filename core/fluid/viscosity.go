// Package fluid chooses what goes into a unit and how much: viscosity and
// grade, classes with their schools, fills and cans.
package fluid

import (
	"fmt"
	"math"
	"slices"

	"handwerk/core/calculator"
	"handwerk/core/input"
	"handwerk/core/quantity"
)

// Temperature, Viscosity, Volume are said quantities.
type (
	Temperature = quantity.Said[quantity.Temperature]
	Viscosity   = quantity.Said[quantity.Viscosity]
	Volume      = quantity.Said[quantity.Volume]
)

// Point of a data sheet.
type Point struct {
	At        Temperature `json:"at"`
	Viscosity Viscosity   `json:"viscosity"`
}

// ViscosityIn asks how thick an oil is at some temperatures.
type ViscosityIn struct {
	Points []Point       `json:"points"` // two, usually 40 and 100 °C
	At     []Temperature `json:"at,omitempty"`
	Others []Oil         `json:"others,omitempty"` // to hold beside it
}

// Oil is another oil by its data sheet.
type Oil struct {
	Name   string  `json:"name"`
	Points []Point `json:"points"` // two, usually 40 and 100 °C
}

// OilOut is how thick another oil is.
type OilOut struct {
	Name   string  `json:"name"`
	A      float64 `json:"a"`
	B      float64 `json:"b"`
	At100  float64 `json:"at_100_mm2_s"`
	Values []Point `json:"values"` // where it flows
	Grade  string  `json:"sae_j306_grade"`
}

// ViscosityOut is the answer.
type ViscosityOut struct {
	A        float64  `json:"a"`
	B        float64  `json:"b"`
	At100    float64  `json:"at_100_mm2_s"`
	Values   []Point  `json:"values"`
	Grade    string   `json:"sae_j306_grade"`
	Engine   string   `json:"as_engine_oil,omitempty"`
	Others   []OilOut `json:"others,omitempty"` // in the order of the oils asked
	Findings []string `json:"findings"`
}

// grade of gear oil by kinematic viscosity at 100 °C, mm²/s, lower limit
// counted in. Source: SAE J306-2005 (from memory).
type grade struct {
	name      string
	low, high float64
}

var gearGrades = []grade{
	{"80", 7.0, 11.0}, {"85", 11.0, 13.5}, {"90", 13.5, 18.5}, {"110", 18.5, 24.0}, {"140", 24.0, 32.5},
	{"190", 32.5, 41.0}, {"250", 41.0, math.Inf(1)},
}

// engineGrades of SAE J300 at 100 °C (from memory), to compare the two scales.
var engineGrades = []grade{{"20", 6.9, 9.3}, {"30", 9.3, 12.5}, {"40", 12.5, 16.3}, {"50", 16.3, 21.9},
	{"60", 21.9, 26.1}}

// gradeOf counts the lower limit in, as the data sheet says it: what a value
// loses on its way through two logarithms is given back.
func gradeOf(list []grade, v float64) string {
	v *= 1 + 1e-9
	for _, g := range list {
		if v >= g.low && v < g.high {
			return g.name
		}
	}
	return ""
}

// walther is the double logarithm of ASTM D341, w = log10(log10(ν + 0.7)).
func walther(v float64) float64 { return math.Log10(math.Log10(v + 0.7)) }

func unwalther(w float64) float64 { return math.Pow(10, math.Pow(10, w)) - 0.7 }

// ViscosityAt goes through two points by ASTM D341, w = A - B·log10 T, T in
// kelvin; usable from 2 mm²/s and between -40 and 150 °C. Gear and engine
// grades are different scales: a 10W-30 engine oil, 9.3 to 12.5 mm²/s at
// 100 °C, stands beside an 80 or 85 gear oil.
// Source: ASTM D341-17 (simplified form); SAE J306, SAE J300.
func ViscosityAt(in ViscosityIn) (ViscosityOut, error) {
	var c input.Checks
	oil, err := lineThrough("points", in.Points)
	c.Fields = append(c.Fields, input.Below("", err)...)
	if len(in.At) > 50 {
		c.Add("at", "up to 50", "%d temperatures", len(in.At))
	}
	others := in.others(&c)
	if err := c.Err(); err != nil {
		return ViscosityOut{}, err
	}
	out := ViscosityOut{A: oil.a, B: oil.b, At100: oil.at100(), Values: []Point{}, Findings: []string{}}
	for i, ask := range in.At {
		v := oil.at(kelvin(&c, input.Index("at", i), ask))
		if !(v < thickest) {
			c.Add(input.Index("at", i), "a temperature at which it still flows", "far below its pour point")
			continue
		}
		out.Values = append(out.Values, pointAt(ask, v))
		if v < 2 {
			out.Findings = append(out.Findings, fmt.Sprintf("at %s it is too thin for the formula to be trusted", ask))
		}
	}
	out.Grade, out.Engine = gradeOf(gearGrades, out.At100), gradeOf(engineGrades, out.At100)
	for i, x := range others {
		out.Others = append(out.Others, x.told(in.Others[i].Name, in.At))
	}
	return out, c.Err()
}

// thickest that is still called flowing, mm²/s.
const thickest = 1e7

// line is an oil on the paper of ASTM D341: w = a − b·log10 T.
type line struct{ a, b float64 }

func (l line) at(kelvin float64) float64 { return unwalther(l.a - l.b*math.Log10(kelvin)) }

func (l line) at100() float64 { return math.Round(l.at(373.15)*1e7) / 1e7 }

func pointAt(t Temperature, v float64) Point {
	return Point{t, quantity.Say(quantity.Viscosity(v*1e-6), quantity.Named("mm²/s"))}
}

// lineThrough two points of a data sheet.
func lineThrough(at string, points []Point) (line, error) {
	var c input.Checks
	if len(points) != 2 {
		return line{}, input.At(at, "two points, usually at 40 and 100 °C", "%d points", len(points))
	}
	var t, w [2]float64
	for i, p := range points {
		at := input.Index(at, i)
		t[i] = kelvin(&c, at+".at", p.At)
		v := float64(input.Within(&c, at+".viscosity", p.Viscosity, 1.5e-6, 0.1, true)) * 1e6
		w[i] = walther(v)
	}
	if input.Under(math.Abs(t[0]-t[1]), 5) {
		c.Add(at, "temperatures at least 5 K apart", "two points too close together")
	}
	if err := c.Err(); err != nil {
		return line{}, err
	}
	b := (w[0] - w[1]) / (math.Log10(t[1]) - math.Log10(t[0]))
	if b <= 0 {
		return line{}, input.At(at, "an oil that thins when warm",
			"it would thicken with heat: the points are swapped")
	}
	return line{w[0] + b*math.Log10(t[0]), b}, nil
}

// others are the oils held beside it, checked.
func (in ViscosityIn) others(c *input.Checks) []line {
	if len(in.Others) > 6 {
		c.Add("others", "up to 6 oils", "%d oils", len(in.Others))
	}
	var lines []line
	for i, o := range in.Others {
		at := input.Index("others", i)
		if o.Name == "" || slices.ContainsFunc(in.Others[:i], func(x Oil) bool { return x.Name == o.Name }) {
			c.Add(at+".name", "a name of its own", "%q does not tell it from the others", o.Name)
		}
		l, err := lineThrough(at+".points", o.Points)
		c.Fields = append(c.Fields, input.Below("", err)...)
		lines = append(lines, l)
	}
	return lines
}

// told is an oil at the temperatures at which it flows.
func (l line) told(name string, at []Temperature) OilOut {
	out := OilOut{Name: name, A: l.a, B: l.b, At100: l.at100(), Values: []Point{}}
	for _, t := range at {
		if v := l.at(float64(t.SI())); v < thickest {
			out.Values = append(out.Values, pointAt(t, v))
		}
	}
	out.Grade = gradeOf(gearGrades, out.At100)
	return out
}

// ViscosityAtMethod is ViscosityAt as the catalogue lists it.
var ViscosityAtMethod = calculator.Define(examples, calculator.About{
	Name: "viscosity", Version: 1,
	Purpose: "how thick an oil is at a temperature, and which grade that makes it",
	Formula: "log log(ν + 0.7) = A − B·log T through two points",
	Assumes: "from 2 mm²/s up; −60 to 200 °C; gear and engine grades are different scales",
	Sources: []string{"ASTM D341-17, simplified form", "SAE J306-2005 and J300 (from memory)"},
}, ViscosityAt)

func kelvin(c *input.Checks, path string, t Temperature) float64 {
	return float64(input.Within(c, path, t, 213.15, 473.15, true))
}
