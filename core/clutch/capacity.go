// Package clutch computes friction clutches: what they hold, what lifts them
// off, what is left of them; and the plate stacks of limited slips.
package clutch

import (
	"fmt"
	"math"

	"handwerk/core/calculator"
	"handwerk/core/input"
	"handwerk/core/metrology"
	"handwerk/core/quantity"
)

// Length, Torque, Force are said quantities.
type (
	Length = quantity.Said[quantity.Length]
	Torque = quantity.Said[quantity.Torque]
	Force  = quantity.Said[quantity.Force]
)

// Lining is one choice of disc.
type Lining struct {
	Name   string  `json:"name"`
	Faces  int     `json:"faces"` // 2 per disc
	Mu     float64 `json:"mu"`
	Outer  Length  `json:"outer_diameter"`
	Inner  Length  `json:"inner_diameter"`
	Clamp  Force   `json:"clamp"`
	Harsh  string  `json:"engagement,omitempty"` // said with the choice
	Spring *Spring `json:"spring,omitempty"`     // diaphragm as a disc spring, for a worn disc
	Wear   Length  `json:"wear,omitzero"`        // both faces together, with spring
}

// CapacityIn asks which of several clutches holds the engine.
type CapacityIn struct {
	Engine  Torque   `json:"engine_torque"`
	Service *float64 `json:"service_factor,omitempty"` // wanted, default 1.3
	Options []Lining `json:"options"`
}

// Held is what one choice holds, by both models of wear.
type Held struct {
	Name            string            `json:"name"`
	UniformWear     Torque            `json:"uniform_wear"`
	UniformPressure Torque            `json:"uniform_pressure"`
	Clamp           Force             `json:"clamp"`
	Factor          float64           `json:"factor"` // uniform wear over engine
	Verdict         metrology.Verdict `json:"verdict"`
	Engagement      string            `json:"engagement,omitempty"`
}

// CapacityOut is the answer, in the order of the options.
type CapacityOut struct {
	Options []Held `json:"options"`
	Choice  string `json:"choice"`
	Says    string `json:"says"`
}

// usualService factor against engine torque. Common practice.
const usualService = 1.3

// meanRadius by both theories. Source: Shigley ch. 16: uniform wear (ro+ri)/2,
// uniform pressure 2/3·(ro³-ri³)/(ro²-ri²).
func meanRadius(ro, ri float64) (wear, pressure float64) {
	return (ro + ri) / 2, 2.0 / 3 * (ro*ro*ro - ri*ri*ri) / (ro*ro - ri*ri)
}

// frictionTorque is T = N·μ·F·r in N·m: N faces, friction μ (0.02 to 1), clamp F
// in N, mean radius r in m. Source: Shigley ch. 16.
func frictionTorque(faces int, mu, clamp, radius float64) quantity.Torque {
	return quantity.Torque(float64(faces) * mu * clamp * radius)
}

// Capacity is T = N·μ·F·r_m. Judged is the uniform-wear torque, which is the
// smaller and that of a run-in disc; the choice is the mildest that holds.
func Capacity(in CapacityIn) (CapacityOut, error) {
	var c input.Checks
	engine := float64(input.Positive(&c, "engine_torque", in.Engine, 1e5))
	service := input.Number(&c, "service_factor", input.OrNumber(in.Service, usualService), 0.5, 10)
	if len(in.Options) < 1 || len(in.Options) > 20 {
		c.Add("options", "1 to 20 clutches", "%d options", len(in.Options))
	}
	out := CapacityOut{Options: []Held{}}
	for i, o := range in.Options {
		held := o.hold(&c, input.Index("options", i), in.Engine.Unit)
		held.Factor = held.UniformWear.DifferenceSI() / engine
		held.Verdict = metrology.In
		if input.Under(held.Factor, service) {
			held.Verdict = metrology.Out
		}
		out.Options = append(out.Options, held)
	}
	if err := c.Err(); err != nil {
		return CapacityOut{}, err
	}
	best := -1
	for i, h := range out.Options {
		if h.Verdict == metrology.In && (best < 0 || h.Factor < out.Options[best].Factor) {
			best = i
		}
	}
	out.Says = "none of these clutches holds the engine with that service factor"
	if best >= 0 {
		out.Choice = out.Options[best].Name
		out.Says = fmt.Sprintf("%s holds %.1f times the engine; more would only engage harder", out.Choice,
			out.Options[best].Factor)
	}
	return out, nil
}

// CapacityMethod is Capacity as the catalogue lists it.
var CapacityMethod = calculator.Define(examples, calculator.About{
	Name: "clutch-capacity", Version: 1,
	Purpose: "which of several clutches holds the engine, and which is the mildest that does",
	Formula: "T = N·μ·F·r_m; uniform wear (ro+ri)/2, uniform pressure ⅔(ro³−ri³)/(ro²−ri²); a worn disc " +
		"by the disc spring's curve",
	Assumes: "judged by uniform wear, that of a run-in disc; service factor 1.3 unless said",
	Schools: "organic +25 %, puck +40 %, twin disc x2 over stock are paid with harshness",
	Sources: []string{calculator.Shigley + ", ch. 16", "EN 16984 / DIN 2092 disc spring", calculator.Practice},
}, Capacity)

func (o Lining) hold(c *input.Checks, at string, unit *quantity.Unit) Held {
	ro := float64(input.Within(c, at+".outer_diameter", o.Outer, 20*quantity.Millimetre, quantity.Length(1), true)) / 2
	ri := float64(input.Within(c, at+".inner_diameter", o.Inner, 5*quantity.Millimetre, quantity.Length(1), true)) / 2
	mu := input.Number(c, at+".mu", o.Mu, 0.02, 1)
	clamp := float64(input.Positive(c, at+".clamp", o.Clamp, 1e6))
	if ri >= ro {
		c.Add(at+".inner_diameter", "less than the outer", "%s inside %s", o.Inner, o.Outer)
		return Held{}
	}
	if o.Faces < 1 || o.Faces > 40 {
		c.Add(at+".faces", "1 to 40; two per disc", "%d faces", o.Faces)
	}
	if o.Spring == nil && o.Wear.IsSaid() {
		c.Add(at+".wear", "together with the spring, whose curve tells what wear does",
			"wear without a spring says nothing")
	}
	if o.Spring != nil && !o.Wear.IsSaid() {
		c.Add(at+".wear", "how much of both faces is gone; zero for a new disc", "a spring without wear says nothing")
	}
	if o.Spring != nil && o.Wear.IsSaid() {
		clamp = o.Spring.worn(c, at+".spring", clamp,
			float64(input.NotNegative(c, at+".wear", o.Wear, 20*quantity.Millimetre)))
	}
	wear, pressure := meanRadius(ro, ri)
	say := func(r float64) Torque {
		return quantity.Say(frictionTorque(o.Faces, mu, clamp, r), unit)
	}
	return Held{
		Name: o.Name, UniformWear: say(wear), UniformPressure: say(pressure),
		Clamp: quantity.In(quantity.Force(clamp), quantity.Family(o.Outer.Unit)), Engagement: o.Harsh,
	}
}

// Spring is a disc spring: outer and inner diameter, thickness, free cone
// height, and the deflection when fitted on a new disc.
type Spring struct {
	De     Length `json:"de"`
	Di     Length `json:"di"`
	T      Length `json:"t"`
	H0     Length `json:"h0"`
	Fitted Length `json:"fitted_deflection,omitzero"`
}

// Steel of springs. Source: EN 16984 uses E = 206 000 MPa, ν = 0.3.
const (
	springE  = 206e9
	springNu = 0.3
)

// force of a disc spring at a deflection, Almen and Laszlo:
//
//	F = 4E/(1-ν²) · t⁴/(K1·De²) · s/t · ((h0/t - s/t)(h0/t - s/2t) + 1)
//	K1 = 1/π · ((δ-1)/δ)² / ((δ+1)/(δ-1) - 2/ln δ),  δ = De/Di
//
// Source: EN 16984 / DIN 2092, springs without flats.
func springForce(de, di, t, h0, s float64) float64 {
	d := de / di
	k1 := 1 / math.Pi * math.Pow((d-1)/d, 2) / ((d+1)/(d-1) - 2/math.Log(d))
	return 4 * springE / (1 - springNu*springNu) * math.Pow(t,
		4) / (k1 * de * de) * s / t * ((h0/t-s/t)*(h0/t-s/(2*t)) + 1)
}

func (s Spring) check(c *input.Checks, at string) (de, di, t, h0 float64) {
	de = float64(input.Positive(c, at+".de", s.De, quantity.Length(1)))
	di = float64(input.Positive(c, at+".di", s.Di, quantity.Length(1)))
	t = float64(input.Positive(c, at+".t", s.T, 50*quantity.Millimetre))
	h0 = float64(input.Positive(c, at+".h0", s.H0, 100*quantity.Millimetre))
	if di >= de*0.95 {
		c.Add(at+".di", "less than de", "%s inside %s", s.Di, s.De)
	}
	return de, di, t, h0
}

// worn scales the clamp by the spring's own curve: as the disc wears, a
// diaphragm that was fitted past flat comes back over its hump.
func (s Spring) worn(c *input.Checks, at string, clamp, wear float64) float64 {
	de, di, t, h0 := s.check(c, at)
	fitted := float64(input.Positive(c, at+".fitted_deflection", s.Fitted, 100*quantity.Millimetre))
	if len(c.Fields) > 0 {
		return clamp
	}
	if wear >= fitted {
		return 0
	}
	fresh, now := springForce(de, di, t, h0, fitted), springForce(de, di, t, h0, fitted-wear)
	if fresh <= 0 || now < 0 {
		c.Add(at+".fitted_deflection", "a place on the spring's curve where it presses",
			"so far past its hump this spring pulls instead of pressing")
		return clamp
	}
	return clamp * now / fresh
}
