package gearing

import (
	"fmt"
	"math"
	"sort"

	"handwerk/core/calculator"
	"handwerk/core/input"
	"handwerk/core/quantity"
)

// Bearing by its geometry.
type Bearing struct {
	Name       string  `json:"name"`
	Elements   int     `json:"elements"`
	ElementD   Length  `json:"element_diameter"`
	PitchD     Length  `json:"pitch_diameter"`
	ContactDeg float64 `json:"contact_deg,omitempty"`
}

// Shaft that turns at a ratio to the wheel, with what meshes and rolls on it.
type Shaft struct {
	Name     string    `json:"name"`
	Ratio    float64   `json:"ratio"` // turns of the shaft per turn of the wheel
	Teeth    []int     `json:"teeth,omitempty"`
	Bearings []Bearing `json:"bearings,omitempty"`
}

// NoiseIn asks which parts could make a tone at a road speed.
type NoiseIn struct {
	Speed   Speed    `json:"road_speed"`
	Tyre    Tyre     `json:"tyre"`
	Shafts  []Shaft  `json:"shafts"`
	HeardHz float64  `json:"heard_hz,omitempty"`
	Within  *float64 `json:"within_percent,omitempty"` // default 3
}

// Tone is one frequency with what makes it.
type Tone struct {
	Hz    float64 `json:"hz"`
	Of    string  `json:"of"`
	Kind  string  `json:"kind"`            // turn, mesh, BPFO, BPFI, BSF, FTF
	Times int     `json:"times,omitempty"` // harmonic that fits
	OffP  float64 `json:"off_percent,omitempty"`
}

// NoiseOut is the answer.
type NoiseOut struct {
	WheelHz float64 `json:"wheel_hz"`
	Tones   []Tone  `json:"tones"`
	Fits    []Tone  `json:"fits"` // nearest first
	Says    string  `json:"says"`
}

// bearingOrders are the defect frequencies per turn of the inner ring, outer
// ring standing: n/2·(1 ∓ (d/D)·cos φ) for outer and inner race, D/(2d)·(1 -
// (d/D·cos φ)²) for an element's spin, half of (1 - d/D·cos φ) for the cage.
// Source: rolling kinematics without slip, e.g. Harris, Rolling Bearing Analysis.
func (b Bearing) orders() (bpfo, bpfi, bsf, ftf float64) {
	g := float64(
		b.ElementD.SI(),
	) / float64(
		b.PitchD.SI(),
	) * math.Cos(
		float64(quantity.Angle(b.ContactDeg)*quantity.Degree),
	)
	n := float64(b.Elements)
	ratio := float64(b.PitchD.SI()) / float64(b.ElementD.SI())
	return n / 2 * (1 - g), n / 2 * (1 + g), ratio / 2 * (1 - g*g), (1 - g) / 2
}

// NoiseOrders lists shaft, mesh and bearing frequencies at a road speed and
// those that a heard frequency fits, up to the third harmonic. A tone that
// fits is a suspicion, not a proof.
func NoiseOrders(in NoiseIn) (NoiseOut, error) {
	var c input.Checks
	v := input.Positive(&c, "road_speed", in.Speed, 120)
	turn, _ := in.Tyre.rolling(&c, "tyre")
	within := input.Number(&c, "within_percent", input.OrNumber(in.Within, 3), 0.1, 20)
	input.Number(&c, "heard_hz", in.HeardHz, 0, 20000)
	if len(in.Shafts) < 1 || len(in.Shafts) > 30 {
		c.Add("shafts", "1 to 30 shafts", "%d shafts", len(in.Shafts))
	}
	for i, s := range in.Shafts {
		s.check(&c, input.Index("shafts", i))
	}
	if err := c.Err(); err != nil {
		return NoiseOut{}, err
	}
	out := NoiseOut{WheelHz: float64(v) / float64(turn), Fits: []Tone{}}
	for _, s := range in.Shafts {
		out.Tones = append(out.Tones, s.tones(out.WheelHz*s.Ratio)...)
	}
	sort.SliceStable(out.Tones, func(i, j int) bool { return out.Tones[i].Hz < out.Tones[j].Hz })
	if in.HeardHz > 0 {
		out.fit(in.HeardHz, within)
	}
	return out, nil
}

// NoiseOrdersMethod is NoiseOrders as the catalogue lists it.
var NoiseOrdersMethod = calculator.Define(examples, calculator.About{
	Name: "noise-orders", Version: 1,
	Purpose: "which shaft, mesh or bearing could make a tone heard at a road speed",
	Formula: "mesh = teeth·turns; BPFO, BPFI = n/2·(1 ∓ d/D·cos φ), BSF = D/2d·(1 − (d/D·cos φ)²), FTF = " +
		"½(1 − d/D·cos φ)",
	Assumes: "no slip; a fit is a suspicion, not a proof; up to the third harmonic",
	Sources: []string{"rolling kinematics, Harris, Rolling Bearing Analysis (from memory)"},
}, NoiseOrders)

func (s Shaft) check(c *input.Checks, at string) {
	input.Number(c, at+".ratio", s.Ratio, 0.01, 500)
	for i, n := range s.Teeth {
		if n < 5 || n > 400 {
			c.Add(fmt.Sprintf("%s.teeth[%d]", at, i), "5 to 400", "%d teeth cannot mesh", n)
		}
	}
	for i, b := range s.Bearings {
		path := fmt.Sprintf("%s.bearings[%d]", at, i)
		d := input.Positive(c, path+".element_diameter", b.ElementD, quantity.Length(1))
		p := input.Positive(c, path+".pitch_diameter", b.PitchD, quantity.Length(2))
		if !input.Under(d, p) {
			c.Add(path+".element_diameter", "less than the pitch diameter", "%s on %s", b.ElementD, b.PitchD)
		}
		if b.Elements < 3 || b.Elements > 200 {
			c.Add(path+".elements", "3 to 200", "%d rolling elements", b.Elements)
		}
		input.Number(c, path+".contact_deg", b.ContactDeg, 0, 60)
	}
	if len(s.Teeth)+len(s.Bearings) > 40 {
		c.Add(at, "up to 40 gears and bearings", "too many on one shaft")
	}
}

func (s Shaft) tones(hz float64) []Tone {
	out := []Tone{{Hz: hz, Of: s.Name, Kind: "turn"}}
	for _, n := range s.Teeth {
		out = append(out, Tone{Hz: hz * float64(n), Of: fmt.Sprintf("%s, %d teeth", s.Name, n), Kind: "mesh"})
	}
	for _, b := range s.Bearings {
		bpfo, bpfi, bsf, ftf := b.orders()
		name := s.Name + ", " + b.Name
		out = append(
			out, Tone{Hz: hz * bpfo, Of: name, Kind: "BPFO"}, Tone{Hz: hz * bpfi, Of: name, Kind: "BPFI"},
			Tone{Hz: hz * bsf, Of: name, Kind: "BSF"}, Tone{Hz: hz * ftf, Of: name, Kind: "FTF"},
		)
	}
	return out
}

func (out *NoiseOut) fit(heard, within float64) {
	for _, t := range out.Tones {
		for times := 1; times <= 3; times++ {
			off := 100 * (t.Hz*float64(times)/heard - 1)
			if math.Abs(off) <= within {
				t.Times, t.OffP = times, off
				out.Fits = append(out.Fits, t)
			}
		}
	}
	sort.SliceStable(out.Fits, func(i, j int) bool {
		a, b := out.Fits[i], out.Fits[j]
		return math.Abs(a.OffP)+float64(a.Times-1)*0.5 < math.Abs(b.OffP)+float64(b.Times-1)*0.5
	})
	out.Says = "nothing listed makes that tone: check speed, tyre, and what else turns"
	if len(out.Fits) > 0 {
		out.Says = fmt.Sprintf("%s (%s) fits best; change speed and listen whether the tone follows", out.Fits[0].Of,
			out.Fits[0].Kind)
	}
}
