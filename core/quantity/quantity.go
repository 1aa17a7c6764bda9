// Package quantity holds physical quantities the way a shop says them.
//
// Computation works on SI values of distinct types (Length, Torque, ...), in
// the manner of time.Duration: 7 * quantity.Thou is a Length. What a person
// typed is kept as Said[Length] or Any: the number and unit as typed, so that
// it goes back to paper to the last digit.
package quantity

import (
	"encoding/json"
	"math"
	"strconv"
)

// SI values. A bare float64 in an exported signature is dimensionless.
type (
	Length      float64 // metre
	Torque      float64 // newton metre
	Volume      float64 // cubic metre
	Temperature float64 // kelvin
	Time        float64 // second
	Angle       float64 // radian; see Degree
	Force       float64 // newton
	Pressure    float64 // pascal
	Mass        float64 // kilogram
	Speed       float64 // metre per second
	Rotation    float64 // radian per second
	Viscosity   float64 // square metre per second
)

// The units most used in code; the whole table is in units.go.
const (
	Millimetre  Length = 1e-3
	Micrometre  Length = 1e-6
	Inch        Length = inch
	Thou        Length = inch / 1000
	NewtonMetre Torque = 1
	PoundFoot   Torque = poundForce * 12 * inch
	Litre       Volume = 1e-3
	USQuart     Volume = usGallon / 4
	ImpPint     Volume = impGallon / 8
)

// Dimension tells the dimension of the type, whatever its value.
func (Length) Dimension() Dimension      { return DimLength }
func (Torque) Dimension() Dimension      { return DimTorque }
func (Volume) Dimension() Dimension      { return DimVolume }
func (Temperature) Dimension() Dimension { return DimTemperature }
func (Time) Dimension() Dimension        { return DimTime }
func (Force) Dimension() Dimension       { return DimForce }
func (Pressure) Dimension() Dimension    { return DimPressure }
func (Mass) Dimension() Dimension        { return DimMass }
func (Speed) Dimension() Dimension       { return DimSpeed }
func (Rotation) Dimension() Dimension    { return DimRotation }
func (Viscosity) Dimension() Dimension   { return DimViscosity }

// Least is the smallest of its kind that occurs in a workshop, in SI units: a
// micrometre, a tenth of a newton millimetre, a thousandth of a litre's thousandth.
func (Length) Least() float64    { return 1e-6 }
func (Torque) Least() float64    { return 1e-4 }
func (Volume) Least() float64    { return 1e-9 }
func (Time) Least() float64      { return 1e-3 }
func (Force) Least() float64     { return 1e-3 }
func (Pressure) Least() float64  { return 1 }
func (Mass) Least() float64      { return 1e-6 }
func (Speed) Least() float64     { return 1e-3 }
func (Rotation) Least() float64  { return 1e-3 }
func (Viscosity) Least() float64 { return 1e-9 }

// Kind is any of the SI types above.
type Kind interface {
	~float64
	Dimension() Dimension
}

// Any is a quantity as said, of whatever dimension its unit has.
// The zero value is "not said".
type Any struct {
	Value float64
	Unit  *Unit
	// Typed is the text a person wrote, when it came as one: "0.50 mm" says
	// more about the reading than 0.5.
	Typed string
}

// Said is a quantity as said that must have the dimension of T.
type Said[T Kind] struct{ Any }

// Say expresses an SI value in a unit of the same dimension, rounded to 12
// significant digits: far below any instrument, above floating-point noise.
func Say[T Kind](si T, u *Unit) Said[T] {
	return Said[T]{Any{Value: tidy(float64(si)/u.Factor - u.Offset), Unit: u}}
}

// SayDifference expresses a difference (a spread, an uncertainty, a shift):
// the unit's scale without its zero point.
func SayDifference[T Kind](si T, u *Unit) Said[T] {
	return Said[T]{Any{Value: tidy(float64(si) / u.Factor), Unit: u}}
}

// Asks is the dimension that must be said, whether or not it was.
func (Said[T]) Asks() Dimension {
	var t T
	return t.Dimension()
}

// Asks: any dimension will do.
func (Any) Asks() Dimension { return "" }

// SI is the value in SI units.
func (s Said[T]) SI() T { return T(s.Any.SI()) }

// SI is the value in SI units of its dimension.
func (a Any) SI() float64 {
	if a.Unit == nil {
		return 0
	}
	return (a.Value + a.Unit.Offset) * a.Unit.Factor
}

// DifferenceSI is the SI value of a difference said in the unit.
func (a Any) DifferenceSI() float64 {
	if a.Unit == nil {
		return 0
	}
	return a.Value * a.Unit.Factor
}

// IsSaid tells a quantity that was given from one that was left out.
func (a Any) IsSaid() bool { return a.Unit != nil }

// IsZero lets encoding/json leave out what was not said.
func (a Any) IsZero() bool { return a.Unit == nil }

// Dimension of the quantity; empty when not said.
func (a Any) Dimension() Dimension {
	if a.Unit == nil {
		return ""
	}
	return a.Unit.Dimension
}

// String writes number and unit: "24 thou".
func (a Any) String() string {
	if a.Unit == nil {
		return ""
	}
	return strconv.FormatFloat(a.Value, 'f', -1, 64) + " " + a.Unit.Symbol
}

type wire struct {
	Value float64 `json:"value"`
	Unit  string  `json:"unit"`
}

// MarshalJSON writes {"value": 24, "unit": "thou"}.
func (a Any) MarshalJSON() ([]byte, error) {
	if a.Unit == nil {
		return []byte("null"), nil
	}
	return json.Marshal(wire{a.Value, a.Unit.Symbol})
}

// MarshalText writes "24 thou" (for YAML and paper).
func (a Any) MarshalText() ([]byte, error) { return []byte(a.String()), nil }

// nothing is what no instrument shows in any unit a shop uses.
const nothing = 1e-10

// tidy rounds to 12 significant digits.
func tidy(v float64) float64 {
	if math.Abs(v) < nothing {
		return 0 // not minus nought, and not what subtraction left
	}
	if math.IsNaN(v) || math.IsInf(v, 0) {
		return v
	}
	t, err := strconv.ParseFloat(strconv.FormatFloat(v, 'g', 12, 64), 64)
	if err != nil {
		return v
	}
	return t
}

// WithUncertainty says a value and how sure it is, both to the place that the two
// leading figures of the uncertainty reach: 0.733 mm ± 0.016 mm. Not said is not
// known: then the value alone, a place finer than the unit is usually read.
// Source: JCGM 100:2008 (GUM) 7.2.6.
func (a Any) WithUncertainty(u Any) string {
	if !a.IsSaid() {
		return ""
	}
	size := math.Abs(u.DifferenceSI() / a.Unit.Factor)
	if !u.IsSaid() || size == 0 || math.IsNaN(size) || math.IsInf(size, 0) {
		return strconv.FormatFloat(
			tidy(math.Round(a.Value*math.Pow10(a.Unit.Decimals+1))/math.Pow10(a.Unit.Decimals+1)), 'f', -1, 64,
		) + " " + a.Unit.Symbol
	}
	places := max(0, 1-int(math.Floor(math.Log10(size))))
	say := func(v float64) string { return strconv.FormatFloat(v, 'f', places, 64) + " " + a.Unit.Symbol }
	return say(a.Value) + " ± " + say(size)
}

// Magnitude is an SI value whose dimension is known only when it is read:
// a set of readings may be lengths as well as torques.
type Magnitude float64

// Dimension of a Magnitude is open.
func (Magnitude) Dimension() Dimension { return "" }

// Degree is an angle of one.
const Degree Angle = math.Pi / 180

// Degrees of an angle.
func (a Angle) Degrees() float64 { return float64(a / Degree) }

// Like says another value in the same unit.
func (s Said[T]) Like(si T) string { return Say(si, s.Unit).String() }

// In says an SI value in the usual unit of its dimension and family.
func In[T Kind](si T, system System) Said[T] {
	return Say(si, Named(DefaultUnit(si.Dimension())).For(system))
}
