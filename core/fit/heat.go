// Package fit computes what heat does for a press fit.
package fit

import (
	"fmt"

	"handwerk/core/calculator"
	"handwerk/core/input"
	"handwerk/core/metrology"
	"handwerk/core/quantity"
)

// Length is a length as said.
type Length = quantity.Said[quantity.Length]

// Temperature is a temperature as said.
type Temperature = quantity.Said[quantity.Temperature]

// HeatIn asks how warm a part must be to drop on. A missing alpha is steel's.
type HeatIn struct {
	Diameter     Length      `json:"diameter"`
	Interference Length      `json:"interference"`
	Clearance    Length      `json:"clearance,omitzero"` // to drop on freely; default 1/1000 of the diameter
	Alpha        *float64    `json:"alpha_per_k,omitempty"`
	Room         Temperature `json:"room,omitzero"`
	Limit        Temperature `json:"limit,omitzero"`
}

// HeatOut is the answer.
type HeatOut struct {
	Rise    float64           `json:"rise_k"`
	To      Temperature       `json:"to"`
	Limit   Temperature       `json:"limit"`
	Verdict metrology.Verdict `json:"verdict"`
	Says    string            `json:"says"`
}

// Steel expands by about 11.5 millionths per kelvin (handbooks give 11 to 12).
const steelAlpha = 11.5e-6

// bearingLimit: above 110 to 120 °C a bearing's steel and cage suffer. Common practice.
const bearingLimit = quantity.Temperature(273.15 + 110)

// mostRise in kelvin: beyond it steel glows, and nobody warms a part so far.
const mostRise = 600

// rise is the warming that opens a bore: ΔT = (interference + clearance)/(α·d) in
// kelvin, lengths in metres, α per kelvin. Source: linear expansion.
func rise(interference, clearance, diameter quantity.Length, alpha float64) float64 {
	return float64(interference+clearance) / (alpha * float64(diameter))
}

// HeatFit is ΔT = (interference + clearance)/(α·d).
// Source: linear expansion; limit 110 to 120 °C for bearings common practice.
func HeatFit(in HeatIn) (HeatOut, error) {
	var c input.Checks
	d := input.Within(&c, "diameter", in.Diameter, 1*quantity.Millimetre, quantity.Length(2), true)
	press := input.NotNegative(&c, "interference", in.Interference, 5*quantity.Millimetre)
	gap := input.Or(in.Clearance, d/1000)
	alpha := input.Number(&c, "alpha_per_k", input.OrNumber(in.Alpha, steelAlpha), 1e-6, 1e-4)
	room, limit := quantity.Temperature(293.15), bearingLimit
	if in.Room.IsSaid() {
		room = input.Within(&c, "room", in.Room, 213.15, 333.15, true)
	}
	if in.Limit.IsSaid() {
		limit = input.Within(&c, "limit", in.Limit, 273.15, 773.15, true)
	}
	if in.Clearance.IsSaid() {
		input.NotNegative(&c, "clearance", in.Clearance, 5*quantity.Millimetre)
	}
	if input.Over(press, d/20) {
		c.Add("interference", "up to a twentieth of the diameter", "%s cannot be pressed on %s", in.Interference,
			in.Diameter)
	}
	if input.Under(limit, room) {
		c.Add("limit", "not below the room", "%s is colder than the part is already", in.Limit)
	}
	if err := c.Err(); err != nil {
		return HeatOut{}, err
	}
	warmer := rise(press, gap, d, alpha)
	if warmer > mostRise {
		return HeatOut{}, input.At(
			"interference", "what warming can open: a thousandth or two of the diameter", "%s on %s would have to glow",
			in.Interference, in.Diameter,
		)
	}
	unit := quantity.Named("°C")
	if in.Room.IsSaid() {
		unit = in.Room.Unit
	}
	to := room + quantity.Temperature(warmer)
	out := HeatOut{Rise: warmer, To: quantity.Say(to, unit), Limit: quantity.Say(limit, unit), Verdict: metrology.In}
	out.Says = fmt.Sprintf("warm it to %.0f %s and it drops on; gloves, and tap the inner ring only", out.To.Value,
		unit.Symbol)
	if input.Over(float64(to), float64(limit)) {
		out.Verdict = metrology.Out
		out.Says = fmt.Sprintf("it would need %.0f %s, above the limit: cool the shaft too, or press it on",
			out.To.Value, unit.Symbol)
	}
	return out, nil
}

// HeatFitMethod is HeatFit as the catalogue lists it.
var HeatFitMethod = calculator.Define(examples, calculator.About{
	Name: "heat-fit", Version: 1,
	Purpose: "how warm a bearing or gear must be to drop on",
	Formula: "ΔT = (interference + clearance)/(α·d)",
	Assumes: "steel unless said; a thousandth of the diameter to drop on freely; 110 °C limit for bearings",
	Sources: []string{"linear expansion", "110 to 120 °C: " + calculator.Practice},
}, HeatFit)
