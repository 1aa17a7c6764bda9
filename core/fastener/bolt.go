package fastener

import (
	"fmt"
	"math"
	"strings"

	"handwerk/core/calculator"
	"handwerk/core/input"
	"handwerk/core/quantity"
)

// Length is a length as said.
type Length = quantity.Said[quantity.Length]

// thread is a row of the size table: diameter and pitches in millimetres.
type thread struct {
	d, coarse float64
	fine      []float64
	// area of the coarse and the first fine pitch in mm², as printed.
	areaCoarse, areaFine float64
}

// threads are ISO 724 / ISO 261 sizes with the nominal stress areas of ISO
// 898-1 (tables 4 and 6 of the 2013 edition), entered from memory; the tests
// derive every area a second time.
var threads = []thread{
	{5, 0.8, nil, 14.2, 0}, {6, 1, nil, 20.1, 0}, {7, 1, nil, 28.9, 0}, {8, 1.25, []float64{1}, 36.6, 39.2},
	{10, 1.5, []float64{1.25, 1}, 58.0, 61.2}, {12, 1.75, []float64{1.5, 1.25}, 84.3, 88.1},
	{14, 2, []float64{1.5}, 115, 125},
	{16, 2, []float64{1.5}, 157, 167}, {18, 2.5, []float64{1.5}, 192, 216}, {20, 2.5, []float64{1.5}, 245, 272},
	{22, 2.5, []float64{1.5}, 303, 333}, {24, 3, []float64{2}, 353, 384},
}

// class of a bolt: proof stress in MPa, below and above the size at which
// class 8.8 changes. Source: ISO 898-1:2013 table 3 (from memory).
type class struct {
	name              string
	proof, proofThick float64 // over 16 mm
}

var classes = []class{{"4.6", 225, 225}, {"4.8", 310, 310}, {"5.8", 380, 380}, {"8.8", 580, 600}, {"10.9", 830, 830},
	{"12.9", 970, 970}}

// nutFactor K by lubrication. Source: Shigley, Mechanical Engineering Design,
// table 8-15 (from memory): 0.30 non-plated, 0.20 as received, 0.18 lubricated,
// 0.12 with anti-seize.
var nutFactor = map[string]float64{"dry": 0.30, "as_received": 0.20, "oiled": 0.18, "anti_seize": 0.12}

// BoltIn asks what a bolt stands and how far to tighten it.
type BoltIn struct {
	Diameter    Length   `json:"diameter"`
	Pitch       Length   `json:"pitch,omitzero"` // missing: coarse
	Class       string   `json:"class"`
	Lubrication string   `json:"lubrication,omitempty" enum:"dry,as_received,oiled,anti_seize"`
	K           float64  `json:"k,omitempty"`
	Preload     *float64 `json:"preload_share,omitempty"` // of the proof load, default 0.75
	// Torque, if given, is turned round: the clamp it makes.
	Torque Torque `json:"torque,omitzero"`
	// Grip, if given, is the clamped length: the turn from snug follows.
	Grip Length `json:"grip,omitzero"`
}

// BoltOut is the answer.
type BoltOut struct {
	Size       string                           `json:"size"`
	StressArea float64                          `json:"stress_area_mm2"`
	Proof      quantity.Said[quantity.Force]    `json:"proof_load"`
	ProofMPa   quantity.Said[quantity.Pressure] `json:"proof_stress"`
	K          float64                          `json:"k"`
	Clamp      quantity.Said[quantity.Force]    `json:"clamp"`
	Torque     Torque                           `json:"torque"`
	Other      Torque                           `json:"torque_other_unit"`
	LeadDeg    float64                          `json:"lead_angle_deg"`               // of the thread
	TurnDeg    float64                          `json:"turn_from_snug_deg,omitempty"` // bolt's stretch alone; the joint gives a little more
	Share      float64                          `json:"share_of_proof"`
	Findings   []string                         `json:"findings"`
}

// stressArea is As = π/4·(d - 0.9382·P)². Source: ISO 898-1, 9.1.6.1.
func stressArea(d, pitch float64) float64 { return math.Pi / 4 * math.Pow(d-0.9382*pitch, 2) }

// tightening is T = K·d·F in N·m: torque factor K (0.05 to 0.5), diameter d in mm,
// clamp F in N. Source: Shigley ch. 8, eq. 8-27.
func tightening(k, d, clamp float64) float64 { return k * d / 1e3 * clamp }

// clampOf is the same the other way: the clamp in N that a torque in N·m gives.
func clampOf(k, d, torque float64) float64 { return torque / (k * d / 1e3) }

// lead is the angle of a thread at its pitch diameter, d - 0.6495·P, both in mm.
// Source: ISO 724 (pitch diameter).
func lead(d, pitch float64) quantity.Angle {
	return quantity.Angle(math.Atan(pitch / (math.Pi * (d - 0.6495*pitch))))
}

// BoltTorque gives proof load As·Sp, clamp as a share of it (0.75, reused
// joints; Shigley 8-11) and torque T = K·d·F.
// Source: ISO 898-1 proof stress by class; Shigley ch. 8, eq. 8-27.
func BoltTorque(in BoltIn) (BoltOut, error) {
	var c input.Checks
	d := float64(input.Within(&c, "diameter", in.Diameter, 3*quantity.Millimetre, 64*quantity.Millimetre, true)) * 1e3
	size, known := sizeOf(d)
	pitch := 0.0
	switch {
	case in.Pitch.IsSaid():
		pitch = float64(input.Within(&c, "pitch", in.Pitch, 0.2*quantity.Millimetre, 6*quantity.Millimetre, true)) * 1e3
		if !input.Under(pitch, d/2) {
			c.Add("pitch", "a pitch well below the diameter", "%s does not fit %s", in.Pitch, in.Diameter)
		}
	case known:
		pitch = size.coarse
	default:
		c.Add("pitch", "a pitch, since this diameter is not in the table M5 to M24", "missing")
	}
	cl := in.class(&c)
	k := in.factor(&c)
	share := input.Number(&c, "preload_share", input.OrNumber(in.Preload, 0.75), 0.1, 1)
	if in.Torque.IsSaid() {
		input.Positive(&c, "torque", in.Torque, MaxTorque)
	}
	if in.Grip.IsSaid() {
		input.Within(&c, "grip", in.Grip, quantity.Millimetre, quantity.Length(1), true)
	}
	if err := c.Err(); err != nil {
		return BoltOut{}, err
	}
	area := stressArea(d, pitch)
	proof := cl.proof
	if d > 16 {
		proof = cl.proofThick
	}
	load := area * proof // N, since mm² times MPa
	clamp := share * load
	if in.Torque.IsSaid() {
		clamp = clampOf(k, d, float64(in.Torque.SI()))
	}
	out := in.answer(d, pitch, area, proof, load, clamp, k)
	if in.Grip.IsSaid() {
		out.TurnDeg = round3(turnFromSnug(clamp, float64(in.Grip.SI())*1e3, area, pitch).Degrees())
	}
	return out, nil
}

// BoltTorqueMethod is BoltTorque as the catalogue lists it.
var BoltTorqueMethod = calculator.Define(examples, calculator.About{
	Name: "bolt", Version: 1,
	Purpose: "what a bolt holds, and the torque that clamps with a share of it",
	Formula: "As = π/4·(d − 0.9382·P)², proof = As·Sp, T = K·d·F, turn from snug = 360°·F·L/(As·E·P)",
	Assumes: "metric threads; K by lubrication scatters by a quarter and more",
	Sources: []string{"ISO 898-1:2013 (from memory)", calculator.Shigley + ", ch. 8"},
}, BoltTorque)

// boltSteel is the modulus of bolts in MPa.
const boltSteel = 206000

// turnFromSnug is the nut's turn that stretches the bolt to a clamp:
// 360°·(F·L/(As·E))/P. Source: Shigley ch. 8, turn of the nut, with a stiff joint.
func turnFromSnug(clamp, grip, area, pitch float64) quantity.Angle {
	return quantity.Angle(360*clamp*grip/(area*boltSteel)/pitch) * quantity.Degree
}

func (in BoltIn) answer(d, pitch, area, proof, load, clamp, k float64) BoltOut {
	family := quantity.Family(in.Diameter.Unit)
	torque := quantity.In(quantity.Torque(tightening(k, d, clamp)), family)
	out := BoltOut{
		Size: fmt.Sprintf("M%g x %g", d, pitch), StressArea: round3(area),
		Proof: quantity.In(quantity.Force(load), family), ProofMPa: quantity.In(quantity.Pressure(proof*1e6), family),
		K: k, Clamp: quantity.In(quantity.Force(clamp), family), Torque: torque,
		Other:   quantity.Say(torque.SI(), quantity.Named(torque.Unit.Paired)),
		LeadDeg: round3(lead(d, pitch).Degrees()), Share: round3(clamp / load), Findings: []string{},
	}
	if input.Over(clamp, load) {
		out.Findings = append(
			out.Findings,
			"this torque stretches the bolt past its proof load, for good: check lubrication, class and size",
		)
	}
	return out
}

func sizeOf(d float64) (thread, bool) {
	for _, t := range threads {
		if math.Abs(t.d-d) < 1e-6 {
			return t, true
		}
	}
	return thread{}, false
}

func (in BoltIn) class(c *input.Checks) class {
	var names []string
	for _, cl := range classes {
		if cl.name == in.Class {
			return cl
		}
		names = append(names, cl.name)
	}
	c.Add("class", strings.Join(names, ", "), "%q is not a bolt class; read it off the head", in.Class)
	return class{}
}

func (in BoltIn) factor(c *input.Checks) float64 {
	if in.K != 0 {
		return input.Number(c, "k", in.K, 0.05, 0.5)
	}
	k, ok := nutFactor[in.Lubrication]
	switch {
	case in.Lubrication == "":
		return nutFactor["as_received"]
	case !ok:
		c.Add("lubrication", "dry, as_received, oiled, anti_seize", "%q is not known", in.Lubrication)
	}
	return k
}

// TapIn asks for the drill before a tap.
type TapIn struct {
	Diameter Length `json:"diameter"`
	Pitch    Length `json:"pitch,omitzero"`
}

// TapOut is the answer.
type TapOut struct {
	Drill      Length `json:"drill"`
	Engagement string `json:"says"`
}

// tapDrill leaves about three quarters of the full thread: d - P, in metres.
func tapDrill(d, pitch quantity.Length) quantity.Length { return d - pitch }

// TapDrill is d - P, which leaves about three quarters of the full thread.
// Source: common practice; M14 x 1.5 is tapped in a 12.5 mm hole.
func TapDrill(in TapIn) (TapOut, error) {
	var c input.Checks
	d := input.Within(&c, "diameter", in.Diameter, 1*quantity.Millimetre, 100*quantity.Millimetre, true)
	var p quantity.Length
	if in.Pitch.IsSaid() {
		p = input.Within(&c, "pitch", in.Pitch, 0.2*quantity.Millimetre, 8*quantity.Millimetre, true)
	} else if size, ok := sizeOf(float64(d) * 1e3); ok {
		p = quantity.Length(size.coarse) * quantity.Millimetre
	} else {
		c.Add("pitch", "a pitch, since this diameter is not in the table M5 to M24", "missing")
	}
	if !input.Under(p, d/2) {
		c.Add("pitch", "a pitch well below the diameter", "%s does not fit %s", in.Pitch, in.Diameter)
	}
	if err := c.Err(); err != nil {
		return TapOut{}, err
	}
	drill := quantity.Say(tapDrill(d, p), in.Diameter.Unit)
	return TapOut{drill, fmt.Sprintf("drill %s, tap with oil, back it off every half turn", drill)}, nil
}

// TapDrillMethod is TapDrill as the catalogue lists it.
var TapDrillMethod = calculator.Define(examples, calculator.About{
	Name: "tap-drill", Version: 1,
	Purpose: "the drill before a tap",
	Formula: "d − P",
	Assumes: "about three quarters of the full thread",
	Sources: []string{"M14 x 1.5 in a 12.5 mm hole: " + calculator.Practice},
}, TapDrill)

// AdapterIn asks for the setting with an extension across the wrench.
type AdapterIn struct {
	Torque   Torque  `json:"torque"`
	Length   Length  `json:"length"`  // of the wrench, grip to square
	Adapter  Length  `json:"adapter"` // square to bolt
	AngleDeg float64 `json:"angle_deg,omitempty"`
}

// AdapterOut is the answer.
type AdapterOut struct {
	Setting Torque `json:"setting"`
	Other   Torque `json:"setting_other_unit"`
	Says    string `json:"says"`
}

// reach is the lever from the hand to the bolt, L + a·cos θ in metres: wrench L,
// adapter a, θ from straight ahead. Source: lever law.
func reach(wrench, adapter float64, angle quantity.Angle) float64 {
	return wrench + adapter*math.Cos(float64(angle))
}

// WrenchAdapter gives the setting T·L/(L + a·cos θ), θ from straight ahead.
// Source: lever law; the hand pulls at the grip, square to the wrench.
func WrenchAdapter(in AdapterIn) (AdapterOut, error) {
	var c input.Checks
	t := input.Positive(&c, "torque", in.Torque, MaxTorque)
	l := input.Within(&c, "length", in.Length, 50*quantity.Millimetre, 3000*quantity.Millimetre, true)
	a := input.NotNegative(&c, "adapter", in.Adapter, 1000*quantity.Millimetre)
	angle := input.Number(&c, "angle_deg", in.AngleDeg, 0, 180)
	lever := reach(float64(l), float64(a), quantity.Angle(angle)*quantity.Degree)
	if !input.Over(lever, float64(l)/4) {
		c.Add("adapter", "an adapter shorter than the wrench", "the adapter puts the bolt under your hand")
	}
	if err := c.Err(); err != nil {
		return AdapterOut{}, err
	}
	set := quantity.Say(t*quantity.Torque(float64(l)/lever), in.Torque.Unit)
	paired := quantity.Named(in.Torque.Unit.Paired)
	says := "pull at the middle of the grip; anywhere else changes the length"
	if angle > 80 && angle < 100 {
		says = "square to the wrench the adapter changes nothing"
	}
	return AdapterOut{set, quantity.Say(set.SI(), paired), says}, nil
}

// WrenchAdapterMethod is WrenchAdapter as the catalogue lists it.
var WrenchAdapterMethod = calculator.Define(examples, calculator.About{
	Name: "wrench-adapter", Version: 1,
	Purpose: "the wrench's setting with an extension across it",
	Formula: "setting = T·L/(L + a·cos θ)",
	Assumes: "the hand pulls at the middle of the grip, square to the wrench",
	Sources: []string{"lever law"},
}, WrenchAdapter)

func round3(v float64) float64 { return math.Round(v*1000) / 1000 }
