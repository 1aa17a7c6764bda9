// Package shaft computes what turns between the boxes: universal joints,
// the speed a tube may turn, and the member that should break first.
package shaft

import (
	"fmt"
	"math"

	"handwerk/core/calculator"
	"handwerk/core/input"
	"handwerk/core/metrology"
	"handwerk/core/quantity"
)

// Length, Torque are said quantities.
type (
	Length = quantity.Said[quantity.Length]
	Torque = quantity.Said[quantity.Torque]
)

// SpeedIn asks how fast a propshaft tube may turn.
type SpeedIn struct {
	Outer   Length                           `json:"outer_diameter"`
	Wall    Length                           `json:"wall"`
	Length  Length                           `json:"length"` // between the joints
	E       quantity.Said[quantity.Pressure] `json:"modulus,omitzero"`
	Density *float64                         `json:"density_kg_m3,omitempty"`
	Top     quantity.Said[quantity.Rotation] `json:"top_speed,omitzero"`
	Share   *float64                         `json:"share,omitempty"` // default 0.75
}

// SpeedOut is the answer.
type SpeedOut struct {
	Critical quantity.Said[quantity.Rotation] `json:"critical"`
	Allowed  quantity.Said[quantity.Rotation] `json:"allowed"`
	Verdict  metrology.Verdict                `json:"verdict,omitempty"`
	Longest  Length                           `json:"longest,omitzero"` // for the top speed
}

// Steel, where nothing else is said.
const (
	steelModulus = quantity.Pressure(210e9)
	steelDensity = 7850.0
)

// bendingSpeed is a tube's first, between simple supports: ω = π²/L²·√(E/ρ)·k in
// rad/s, with its radius of gyration k = √(D² + d²)/4; diameters D and d and
// length L in metres, modulus E in Pa, density ρ in kg/m³.
// Source: Rayleigh's beam, first mode.
func bendingSpeed(outer, inner, length, modulus, density float64) quantity.Rotation {
	gyration := math.Sqrt(outer*outer+inner*inner) / 4
	return quantity.Rotation(math.Pi * math.Pi / (length * length) * math.Sqrt(modulus/density) * gyration)
}

// ShaftSpeed is the first bending speed of a tube between simple supports,
// n = (30·π/L²)·√(E·I/(ρ·A)), and 75 % of it to run at.
// Source: Rayleigh's beam, first mode; 75 % common practice.
func ShaftSpeed(in SpeedIn) (SpeedOut, error) {
	var c input.Checks
	outer := float64(input.Within(&c, "outer_diameter", in.Outer, 10*quantity.Millimetre, 500*quantity.Millimetre,
		true))
	wall := float64(input.Positive(&c, "wall", in.Wall, 250*quantity.Millimetre))
	length := float64(input.Within(&c, "length", in.Length, 50*quantity.Millimetre, quantity.Length(5), true))
	e := float64(input.Or(in.E, steelModulus))
	density := input.Number(&c, "density_kg_m3", input.OrNumber(in.Density, steelDensity), 500, 20000)
	share := input.Number(&c, "share", input.OrNumber(in.Share, 0.75), 0.1, 1)
	if e < 1e9 || e > 1e12 {
		c.Add("modulus", "1 GPa to 1000 GPa; steel 210 GPa", "%s is not a shaft stiffness", in.E)
	}
	inner := outer - 2*wall
	if inner < 0 {
		c.Add("wall", "at most half the diameter", "the inner radius would lie below zero")
	}
	if in.Top.IsSaid() {
		input.Positive(&c, "top_speed", in.Top, quantity.Rotation(50000*2*math.Pi/60))
	}
	if err := c.Err(); err != nil {
		return SpeedOut{}, err
	}
	omega := float64(bendingSpeed(outer, inner, length, e, density))
	out := SpeedOut{
		Critical: quantity.In(quantity.Rotation(omega), quantity.Metric),
		Allowed:  quantity.In(quantity.Rotation(share*omega), quantity.Metric),
	}
	if in.Top.IsSaid() {
		out.Verdict = metrology.In
		top := float64(in.Top.SI())
		if input.Over(top, share*omega) {
			out.Verdict = metrology.Out
		}
		out.Longest = quantity.Say(quantity.Length(length*math.Sqrt(share*omega/top)), in.Length.Unit)
	}
	return out, nil
}

// ShaftSpeedMethod is ShaftSpeed as the catalogue lists it.
var ShaftSpeedMethod = calculator.Define(examples, calculator.About{
	Name: "shaft-speed", Version: 1,
	Purpose: "how fast a propshaft tube may turn, or how long it may be",
	Formula: "n = (30·π/L²)·√(E·I/(ρ·A)); run at 75 % of it",
	Assumes: "an even tube between simple supports; steel unless said",
	Sources: []string{"beam theory, first mode", "75 %: " + calculator.Practice},
}, ShaftSpeed)

// Member of a driveline: the ratio that the engine's torque has passed before
// it gets here, and what it stands.
type Member struct {
	Name   string   `json:"name"`
	Ratio  float64  `json:"ratio"`           // torque here over engine torque, before sharing
	Share  *float64 `json:"share,omitempty"` // of the torque that comes through here, default 1
	Rating Torque   `json:"rating"`
	// Wheel ratio: torque here over torque at one wheel; 0 for members the
	// tyres do not limit.
	WheelRatio float64 `json:"wheel_ratio,omitempty"`
	Wheels     int     `json:"wheels,omitempty"`
	Wanted     bool    `json:"wanted_fuse,omitempty"`
}

// LinkIn asks which member breaks first.
type LinkIn struct {
	Engine  Torque                       `json:"engine_torque"`
	Grip    *float64                     `json:"grip,omitempty"` // tyre on ground, default 1.0
	Wheel   quantity.Said[quantity.Mass] `json:"wheel_load,omitzero"`
	Radius  Length                       `json:"tyre_radius,omitzero"`
	Members []Member                     `json:"members"`
}

// LinkOut is the answer.
type LinkOut struct {
	Loads   []MemberLoad      `json:"members"`
	First   string            `json:"first_to_fail"`
	Wanted  bool              `json:"is_the_wanted_one"`
	Verdict metrology.Verdict `json:"verdict"`
	Says    string            `json:"says"`
}

// MemberLoad is a member with the torque it can see, the lesser of what the
// engine gives and what the tyres hold.
type MemberLoad struct {
	Name    string  `json:"name"`
	Torque  Torque  `json:"torque"`
	Limited string  `json:"limited_by"`
	Use     float64 `json:"use"` // torque over rating
}

// gravity of the earth, standard. Source: CGPM 1901.
const gravity = 9.80665

// gripTorque is what a wheel holds on the ground: m·g·μ·r in N·m, load m in kg,
// radius r in metres. Source: statics.
func gripTorque(load, grip, radius float64) float64 { return load * gravity * grip * radius }

// WeakestLink compares members by use. Source: statics; choosing the fuse on
// purpose, at the axle end where it is cheap, is common practice.
func WeakestLink(in LinkIn) (LinkOut, error) {
	var c input.Checks
	engine := float64(input.Positive(&c, "engine_torque", in.Engine, 1e5))
	grip := input.Number(&c, "grip", input.OrNumber(in.Grip, 1), 0.05, 3)
	if len(in.Members) < 2 || len(in.Members) > 60 {
		c.Add("members", "2 to 60 members", "%d members", len(in.Members))
	}
	hold := math.Inf(1)
	if in.Wheel.IsSaid() != in.Radius.IsSaid() {
		alone := map[bool]string{true: "tyre_radius", false: "wheel_load"}[in.Wheel.IsSaid()]
		c.Add(alone, "load and radius together, or neither", "tyre grip needs both load and radius")
	} else if in.Wheel.IsSaid() {
		load := input.Positive(&c, "wheel_load", in.Wheel, 50000)
		radius := input.Positive(&c, "tyre_radius", in.Radius, quantity.Length(2))
		hold = gripTorque(float64(load), grip, float64(radius))
	}
	for i, m := range in.Members {
		at := input.Index("members", i)
		input.Number(&c, at+".ratio", m.Ratio, 0.05, 1000)
		input.Number(&c, at+".share", input.OrNumber(m.Share, 1), 0.01, 1)
		input.Positive(&c, at+".rating", m.Rating, 1e7)
		input.Number(&c, at+".wheel_ratio", m.WheelRatio, 0, 1000)
	}
	if err := c.Err(); err != nil {
		return LinkOut{}, err
	}
	out := LinkOut{}
	worst := -1
	for i, m := range in.Members {
		t, by := engine*m.Ratio*input.OrNumber(m.Share, 1), "engine"
		if m.WheelRatio > 0 && hold*m.WheelRatio*float64(max(1, m.Wheels)) < t {
			t, by = hold*m.WheelRatio*float64(max(1, m.Wheels)), "tyre grip"
		}
		out.Loads = append(out.Loads, MemberLoad{m.Name, quantity.Say(quantity.Torque(t), in.Engine.Unit), by,
			t / float64(m.Rating.SI())})
		if worst < 0 || out.Loads[i].Use > out.Loads[worst].Use {
			worst = i
		}
	}
	out.First, out.Wanted = in.Members[worst].Name, in.Members[worst].Wanted
	out.Verdict = metrology.In
	if input.Over(out.Loads[worst].Use, 1) {
		out.Verdict = metrology.Out
	}
	out.Says = fmt.Sprintf("%s takes %.0f %% of its rating and breaks first", out.First, 100*out.Loads[worst].Use)
	if !out.Wanted {
		out.Says += "; that is not the part meant to break"
	}
	return out, nil
}

// WeakestLinkMethod is WeakestLink as the catalogue lists it.
var WeakestLinkMethod = calculator.Define(examples, calculator.About{
	Name: "weakest-link", Version: 1,
	Purpose: "which member breaks first, and whether it is the one wanted",
	Formula: "torque at a member = the lesser of engine·ratio·share and tyre grip, over its rating",
	Assumes: "steady pull, no shock",
	Schools: "a weak link on purpose, at the axle end, cheap and quick to change",
	Sources: []string{"statics", calculator.Practice},
}, WeakestLink)
