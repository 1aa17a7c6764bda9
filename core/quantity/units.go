package quantity

import (
	"slices"
	"strings"
)

// Dimension names what a quantity measures.
type Dimension string

// The dimensions the shop measures in.
const (
	DimLength      Dimension = "length"
	DimTorque      Dimension = "torque"
	DimVolume      Dimension = "volume"
	DimTemperature Dimension = "temperature"
	DimTime        Dimension = "time"
	DimAngle       Dimension = "angle"
	DimForce       Dimension = "force"
	DimPressure    Dimension = "pressure"
	DimMass        Dimension = "mass"
	DimSpeed       Dimension = "speed"
	DimRotation    Dimension = "rotational speed"
	DimViscosity   Dimension = "kinematic viscosity"
	DimCount       Dimension = "count"
)

// System is the family a unit belongs to; results answer in the family of the input.
type System string

// Metric units, inch units, and those that both use.
const (
	Metric     System = "metric"
	InchFamily System = "inch"
	Both       System = "both"
)

// Unit is one row of the table below: Factor SI units make one of it, after
// Offset (in the unit) has been added. Only temperatures have an offset.
type Unit struct {
	Symbol    string    `json:"symbol"`
	Dimension Dimension `json:"dimension"`
	System    System    `json:"system"`
	Factor    float64   `json:"factor"`
	Offset    float64   `json:"offset,omitempty"`
	// Decimals that a shop instrument in this unit usually shows.
	Decimals int `json:"decimals"`
	// Paired is the unit shown beside it, from the other family.
	Paired  string `json:"paired"`
	aliases []string
}

// Factors are exact where the definition is: inch, foot, mile, pound-force
// (0.45359237 kg x 9.80665 m/s2), US gallon (231 in3), imperial gallon
// (4.54609 L). Source: NIST SP 811 (2008), appendix B.
const (
	inch       = 0.0254
	poundForce = 0.45359237 * 9.80665
	pound      = 0.45359237
	usGallon   = 231 * inch * inch * inch
	impGallon  = 4.54609e-3
)

var units = []Unit{
	{"mm", DimLength, Metric, 1e-3, 0, 2, "thou", []string{"millimetre", "millimeter", "millimetres"}},
	{"µm", DimLength, Metric, 1e-6, 0, 0, "thou", []string{"um", "μm", "micron", "microns"}},
	{"cm", DimLength, Metric, 1e-2, 0, 1, "in", nil},
	{"m", DimLength, Metric, 1, 0, 3, "ft", []string{"metre", "meter"}},
	{"km", DimLength, Metric, 1e3, 0, 0, "mi", nil},
	{"thou", DimLength, InchFamily, inch / 1000, 0, 1, "mm", []string{"mil", "mils", "thous"}},
	{"in", DimLength, InchFamily, inch, 0, 4, "mm", []string{"inch", "inches", `"`, "″"}},
	{"ft", DimLength, InchFamily, 12 * inch, 0, 2, "m", []string{"feet", "foot"}},
	{"mi", DimLength, InchFamily, 63360 * inch, 0, 0, "km", []string{"mile", "miles"}},

	{"N·m", DimTorque, Metric, 1, 0, 1, "lb-ft", []string{"nm", "n.m", "n-m", "n m", "newton metre"}},
	{
		"lb-ft", DimTorque, InchFamily, poundForce * 12 * inch, 0, 1, "N·m",
		[]string{"ft-lb", "lbf-ft", "ft-lbf", "lb ft", "ft lb", "lbf·ft", "lbf ft", "lbs-ft", "ft-lbs"},
	},
	{"lb-in", DimTorque, InchFamily, poundForce * inch, 0, 1, "N·m",
		[]string{"in-lb", "lbf-in", "in-lbf", "lb in", "in lb", "lbf·in", "lbf in"}},

	{"L", DimVolume, Metric, 1e-3, 0, 2, "US qt", []string{"l", "litre", "liter", "litres", "liters"}},
	{"mL", DimVolume, Metric, 1e-6, 0, 0, "US qt", []string{"ml", "cc"}},
	{"US qt", DimVolume, InchFamily, usGallon / 4, 0, 2, "L", []string{"us quart", "us quarts"}},
	{"US pt", DimVolume, InchFamily, usGallon / 8, 0, 2, "L", []string{"us pint", "us pints"}},
	{"US gal", DimVolume, InchFamily, usGallon, 0, 2, "L", []string{"us gallon", "us gallons"}},
	{"imp pt", DimVolume, InchFamily, impGallon / 8, 0, 2, "L",
		[]string{"imperial pint", "imperial pints", "imp pint", "imp pints"}},
	{"imp qt", DimVolume, InchFamily, impGallon / 4, 0, 2, "L", []string{"imperial quart", "imperial quarts"}},
	{"imp gal", DimVolume, InchFamily, impGallon, 0, 2, "L", []string{"imperial gallon", "imperial gallons"}},

	{"°C", DimTemperature, Metric, 1, 273.15, 0, "°F", []string{"c", "degc", "celsius"}},
	{"°F", DimTemperature, InchFamily, 5.0 / 9, 459.67, 0, "°C", []string{"f", "degf", "fahrenheit"}},
	{"K", DimTemperature, Metric, 1, 0, 0, "°F", []string{"kelvin"}},

	{"s", DimTime, Both, 1, 0, 0, "min", []string{"sec", "second", "seconds"}},
	{"min", DimTime, Both, 60, 0, 0, "h", []string{"minute", "minutes"}},
	{"h", DimTime, Both, 3600, 0, 1, "min", []string{"hr", "hour", "hours"}},

	{"N", DimForce, Metric, 1, 0, 0, "lbf", []string{"newton", "newtons"}},
	{"kN", DimForce, Metric, 1e3, 0, 2, "lbf", nil},
	{"kgf", DimForce, Metric, 9.80665, 0, 1, "lbf", []string{"kp"}},
	{"lbf", DimForce, InchFamily, poundForce, 0, 1, "N", []string{"pound-force"}},

	{"MPa", DimPressure, Metric, 1e6, 0, 1, "psi", []string{"n/mm2", "n/mm²"}},
	{"GPa", DimPressure, Metric, 1e9, 0, 1, "psi", nil},
	{"bar", DimPressure, Metric, 1e5, 0, 1, "psi", nil},
	{"psi", DimPressure, InchFamily, poundForce / (inch * inch), 0, 0, "bar", []string{"lbf/in2"}},

	{"kg", DimMass, Metric, 1, 0, 1, "lb", []string{"kilogram", "kilograms"}},
	{"lb", DimMass, InchFamily, pound, 0, 1, "kg", []string{"lbs", "pound", "pounds"}},

	{"km/h", DimSpeed, Metric, 1 / 3.6, 0, 0, "mph", []string{"kmh", "kph"}},
	{"m/s", DimSpeed, Metric, 1, 0, 1, "mph", nil},
	{"mph", DimSpeed, InchFamily, 63360 * inch / 3600, 0, 0, "km/h", []string{"mi/h"}},

	{"rpm", DimRotation, Both, 2 * 3.141592653589793 / 60, 0, 0, "rpm", []string{"1/min", "r/min"}},

	{"mm²/s", DimViscosity, Both, 1e-6, 0, 1, "mm²/s", []string{"mm2/s", "cst"}},

	{"pcs", DimCount, Both, 1, 0, 0, "pcs", []string{"pc", "piece", "pieces"}},
	{"°", DimAngle, Both, 3.141592653589793 / 180, 0, 1, "°", []string{"deg", "degree", "degrees"}},
}

// ambiguous words name more than one unit; asking beats guessing.
var ambiguous = map[string]string{
	"qt": "US qt, imp qt", "quart": "US qt, imp qt", "quarts": "US qt, imp qt",
	"pt": "US pt, imp pt", "pint": "US pt, imp pt", "pints": "US pt, imp pt",
	"gal": "US gal, imp gal", "gallon": "US gal, imp gal", "gallons": "US gal, imp gal",
	"lb": "lb-ft or lb-in for a torque, lbf for a force, lb for a mass",
}

// unitByWord is read-only after the program starts: symbol and alias to unit.
var unitByWord = func() map[string]*Unit {
	words := map[string]*Unit{}
	for i := range units {
		u := &units[i]
		words[u.Symbol] = u
		for _, a := range u.aliases {
			words[a] = u
		}
	}
	// Lower-case spellings of symbols, where no other unit claims them.
	for i := range units {
		lower := strings.ToLower(units[i].Symbol)
		if _, taken := words[lower]; !taken {
			words[lower] = &units[i]
		}
	}
	return words
}()

// Units lists every unit, for screens that convert what they show.
func Units() []Unit { return append([]Unit(nil), units...) }

// UnitNamed finds a unit by symbol or common spelling.
func UnitNamed(word string) (*Unit, bool) {
	word = strings.Join(strings.Fields(word), " ")
	if u, ok := unitByWord[word]; ok {
		return u, true
	}
	u, ok := unitByWord[strings.ToLower(word)]
	return u, ok
}

// accepted lists the symbols of a dimension for error texts.
func accepted(d Dimension) string {
	var names []string
	for _, u := range units {
		if u.Dimension == d || d == "" {
			names = append(names, u.Symbol)
		}
	}
	return strings.Join(names, ", ")
}

// natural is the unit a result is given in when a system is forced.
var natural = map[Dimension]map[System]string{
	DimLength:      {Metric: "mm", InchFamily: "in"},
	DimTorque:      {Metric: "N·m", InchFamily: "lb-ft"},
	DimVolume:      {Metric: "L", InchFamily: "US qt"},
	DimTemperature: {Metric: "°C", InchFamily: "°F"},
	DimForce:       {Metric: "N", InchFamily: "lbf"},
	DimPressure:    {Metric: "MPa", InchFamily: "psi"},
	DimMass:        {Metric: "kg", InchFamily: "lb"},
	DimSpeed:       {Metric: "km/h", InchFamily: "mph"},
	DimRotation:    {Metric: "rpm", InchFamily: "rpm"},
	DimViscosity:   {Metric: "mm²/s", InchFamily: "mm²/s"},
}

// For gives the unit to answer in: the one of the input, unless system asks
// for the other family.
func (u *Unit) For(system System) *Unit {
	if system == "" || u.System == Both || u.System == system {
		return u
	}
	if name, ok := natural[u.Dimension][system]; ok {
		return unitByWord[name]
	}
	return u
}

// DefaultUnit is the metric unit of a dimension; empty when none is known.
func DefaultUnit(d Dimension) string {
	switch d {
	case DimTime:
		return "min"
	case DimCount:
		return "pcs"
	case DimAngle:
		return "°"
	}
	return natural[d][Metric]
}

// Named finds a unit that is known to exist.
func Named(symbol string) *Unit {
	u, _ := UnitNamed(symbol)
	return u
}

// Family is the system of a unit, to answer other dimensions in kind.
func Family(u *Unit) System {
	if u == nil || u.System == Both {
		return Metric
	}
	return u.System
}

// shopUnits are those a shop types a dimension in, the first one first.
var shopUnits = map[Dimension][]string{
	DimLength: {"mm", "thou", "in"}, DimTorque: {"N·m", "lb-ft"}, DimVolume: {"L", "US qt", "imp pt"},
	DimTemperature: {"°C", "°F"},
	DimTime:        {"min", "h"}, DimPressure: {"bar", "psi"}, DimForce: {"N", "lbf"}, DimMass: {"kg", "lb"},
	DimSpeed: {"km/h", "mph"},
}

// ChoicesIn puts the units of a family first, in their order, where a shop reads
// in it; without one the usual unit is first.
func ChoicesIn(family System, usual string) []string {
	choices := Choices(usual)
	rank := func(symbol string) int {
		if u, _ := UnitNamed(symbol); family == "" || u.System == family || u.System == Both {
			return 0
		}
		return 1
	}
	slices.SortStableFunc(choices, func(a, b string) int { return rank(a) - rank(b) })
	return choices
}

// Choices are the units to type in where one is usual: that one first, then
// the others of its dimension in which shops work.
func Choices(usual string) []string {
	u, ok := UnitNamed(usual)
	if !ok {
		return []string{}
	}
	choices := []string{u.Symbol}
	for _, symbol := range shopUnits[u.Dimension] {
		if symbol != u.Symbol {
			choices = append(choices, symbol)
		}
	}
	return choices
}
