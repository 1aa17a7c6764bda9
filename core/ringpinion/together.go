package ringpinion

import (
	"fmt"
	"math"

	"handwerk/core/calculator"
	"handwerk/core/input"
	"handwerk/core/metrology"
	"handwerk/core/quantity"
	"handwerk/core/shim"
)

// Trial is one assembly with what was read of it. The side play is the
// carrier's end play (negative: preload), as measured or from its torque; play
// below zero cannot be read, so instead the sum of both packs may be given at
// which it just goes: what the packs are more than that is the preload.
type Trial struct {
	PinionShim Length `json:"pinion_shim"`
	Left       Length `json:"left"`
	Right      Length `json:"right"`
	Depth      Length `json:"depth,omitzero"` // axis to head, by the tool
	Gauge      Length `json:"gauge,omitzero"` // or the tool's reading: depth = gauge + depth_constant
	Backlash   Length `json:"backlash"`       // mean round the ring
	SidePlay   Length `json:"side_play,omitzero"`
	ZeroPlay   Length `json:"zero_play_packs,omitzero"` // left and right together where the play just goes
	Drive      *Dab   `json:"drive,omitempty"`
	Coast      *Dab   `json:"coast,omitempty"`
}

// TogetherIn asks for the single next assembly.
type TogetherIn struct {
	Trials []Trial `json:"trials"`
	// AsFound is what was in it when it came apart: with it the first assembly may be
	// asked for, before there is any trial.
	AsFound     *Packs    `json:"as_found,omitempty"`
	Learned     *Learned  `json:"learned,omitempty"` // by earlier axles of the family
	Required    Length    `json:"required_depth"`
	Constant    Length    `json:"depth_constant,omitzero"` // disc and arbor of the tool, as pinion-depth has it
	DepthTol    Length    `json:"depth_tolerance"`
	BacklashMin Length    `json:"backlash_min"`
	BacklashMax Length    `json:"backlash_max"`
	PlayMin     Length    `json:"side_play_min"`
	PlayMax     Length    `json:"side_play_max"`
	Direction   Direction `json:"direction" enum:"tangential,square"`
	Geometry    *Geometry `json:"geometry,omitempty"`
	RingSide    string    `json:"ring_side" enum:"left,right"`
	ShimSide    ShimSide  `json:"shim_side" enum:"head,flange"`
	ShimStep    Length    `json:"shim_step,omitzero"` // what the drawer can make; default 0.01 mm
	// Stock is what lies in the drawer: with it each pack is made up of it.
	Stock []shim.StockItem `json:"stock,omitempty"`
}

// TogetherOut is the answer.
type TogetherOut struct {
	Done bool `json:"done"`
	// Stands is how the last assembly stands, by the mean of all its readings: at the edge
	// of a limit it is undecided and read again, once, before anything is moved.
	Stands     metrology.Verdict `json:"stands"`
	PinionShim Length            `json:"pinion_shim"`
	Left       Length            `json:"left"`
	Right      Length            `json:"right"`
	Depth      Length            `json:"expected_depth,omitzero"` // what is expected stays away before any trial
	Backlash   Length            `json:"expected_backlash,omitzero"`
	BacklashU  Length            `json:"expected_backlash_spread,omitzero"`
	SidePlay   Length            `json:"expected_side_play,omitzero"`
	Packs      []PackMade        `json:"packs,omitempty"`
	Chance     float64           `json:"chance"` // of depth, backlash and play all within limits
	K          Factor            `json:"k"`
	Gives      *Factor           `json:"gives,omitempty"` // how far the ring is let go for each unit of preload
	Findings   []string          `json:"findings"`
	Says       string            `json:"says"`
}

// sensed is a trial in metres.
type sensed struct {
	shim, sum, place       float64 // place of the ring, away from the pinion
	depth, backlash, play  float64
	hasDepth               bool
	pinionError, ringError float64 // from the pattern
	hasPattern             bool
}

// Noise of single readings, and how far one unit of pattern error is.
const (
	depthSigma    = 12e-6
	backlashSigma = 8e-6
	patternScale  = 120e-6
)

// Flanks that touch read no backlash, however far the ring is pushed into the
// pinion: such a reading says that some is missing, not how much. Found by trials
// on simulated axles.
const (
	jammed      = 15e-6
	jammedBy    = 50e-6
	jammedSigma = 40e-6
)

// RingPinion joins depth, side preload, backlash and pattern: from all trials
// so far it answers with the single next assembly and what every reading
// should then be. Each trial says which pinion shim (by the tool, or failing
// that by its pattern) and which sum of packs would have been right; they are
// averaged. Backlash follows b = b0 + k·place + m·shim, fitted to all trials
// by least squares with k and m of the geometry as a first guess.
// Source: linearised bevel gear geometry; common practice for the order.
func RingPinion(in TogetherIn) (TogetherOut, error) {
	var c input.Checks
	trials, sides := in.read(&c)
	if err := c.Err(); err != nil {
		return TogetherOut{}, err
	}
	step := float64(input.Or(in.ShimStep, 10*quantity.Micrometre))
	grid := func(v float64) float64 { return math.Round(v/step) * step }
	if len(trials) == 0 {
		return in.first(sides, grid)
	}
	unit := in.Trials[0].PinionShim.Unit
	say := func(v float64) Length { return quantity.SayDifference(quantity.Length(v), unit) }
	last := trials[len(trials)-1]
	out := TogetherOut{Findings: in.findings(trials)}
	b, err := in.backlashModel(trials, sides.shim)
	if err != nil {
		return out, err
	}
	out.K, out.Gives = Factor{b.k, b.spread, in.guess().From}, b.gives()
	out.Stands = in.judge(together(trials))
	if out.Stands == metrology.Undecided && readAgain(trials) {
		out.Stands = metrology.Out // read again and still at the edge: the middle is sure
	}
	if out.Done = out.Stands == metrology.In; out.Done || out.Stands == metrology.Undecided {
		out.PinionShim, out.Left, out.Right = in.Trials[len(trials)-1].PinionShim, in.Trials[len(trials)-1].Left, in.Trials[len(trials)-1].Right
		out.Depth, out.Backlash, out.SidePlay = say(in.depthAt(last.shim, trials,
			sides.shim)), say(last.backlash), say(last.play)
		out.Says = "all within limits: check the pattern once more and go on"
		if !out.Done {
			out.Says = "too close to a limit to tell: leave the assembly as it is and read it again"
		}
		return out, nil
	}
	best, depthSpread := bestShim(trials, in, sides.shim)
	shim := grid(best)
	sum := bestSum(trials, (float64(in.PlayMin.SI())+float64(in.PlayMax.SI()))/2)
	target := (float64(in.BacklashMin.SI()) + float64(in.BacklashMax.SI())) / 2
	preload := max(0, -(float64(in.PlayMin.SI())+float64(in.PlayMax.SI()))/2)
	place := (target - b.at(0, shim, preload)) / b.k
	// place = ring-side sign times (right - left)/2, see read.
	left, right := grid(sum/2-sides.ring*place), grid(sum/2+sides.ring*place)
	if left < 0 || right < 0 || shim < 0 {
		return out, input.At(
			"trials", "readings that a shim above zero can answer",
			"a pack would come out below zero: check the signs and which side the ring is on",
		)
	}
	newPlace := sides.ring * (right - left) / 2
	out.PinionShim, out.Left, out.Right = say(shim), say(left), say(right)
	out.Depth = say(in.depthAt(shim, trials, sides.shim))
	out.Backlash = say(b.at(newPlace, shim, preload))
	out.BacklashU = say(math.Hypot(math.Abs(newPlace-last.place)*b.spread, backlashSigma))
	out.SidePlay = say(last.play - (left + right - last.sum))
	out.Chance = in.chance(out, len(trials), depthSpread)
	out.Packs = in.made(out)
	out.Says = fmt.Sprintf("build it with pinion shim %s, left %s, right %s; expect backlash %s",
		short(out.PinionShim), short(out.Left), short(out.Right), short(out.Backlash))
	return out, nil
}

// RingPinionMethod is RingPinion as the catalogue lists it.
var RingPinionMethod = calculator.Define(examples, calculator.About{
	Name: "ring-pinion", Version: 5,
	Purpose: "from all trials so far, the single next assembly of a ring and pinion and what it should read",
	Formula: "depth and sum of packs averaged over the trials; backlash = b0 + k·place + m·shim by least " +
		"squares with the geometry as a first guess",
	Assumes: "small errors, linear near the right place; each trial has a depth or a pattern",
	Sources: []string{agma, calculator.Practice},
}, RingPinion)

func (in TogetherIn) guess() Factor {
	return BacklashIn{Direction: in.Direction, Geometry: in.Geometry, Learned: in.Learned}.guess()
}

// depthAt is the depth to expect with a pinion shim: moved on from the last
// trial where that was measured; otherwise from what all trials together say
// of the right shim, for a pattern alone measures no depth.
func (in TogetherIn) depthAt(shim float64, trials []sensed, sign float64) float64 {
	if last := trials[len(trials)-1]; last.hasDepth {
		return last.depth - sign*(shim-last.shim)
	}
	best, _ := bestShim(trials, in, sign)
	return float64(in.Required.SI()) + sign*(best-shim)
}

// chance that all three land within limits, taken as independent.
func (in TogetherIn) chance(out TogetherOut, trials int, depthSpread float64) float64 {
	averaged := 1 / math.Sqrt(float64(trials))
	band := func(low, high Length) metrology.Limits {
		return metrology.Limits{Lower: low.DifferenceSI(), Upper: high.DifferenceSI()}
	}
	required, tol := float64(in.Required.SI()), float64(in.DepthTol.SI())
	return metrology.Chance(out.Depth.DifferenceSI(), depthSpread,
		metrology.Limits{Lower: required - tol, Upper: required + tol}) *
		metrology.Chance(out.Backlash.DifferenceSI(), out.BacklashU.DifferenceSI(),
			band(in.BacklashMin, in.BacklashMax)) *
		metrology.Chance(out.SidePlay.DifferenceSI(), depthSigma*averaged, band(in.PlayMin, in.PlayMax))
}

// sides are the signs of the two shim places.
type sides struct{ ring, shim float64 }

func (in TogetherIn) read(c *input.Checks) ([]sensed, sides) {
	var s sides
	s.ring = map[string]float64{"left": 1, "right": -1}[in.RingSide]
	if s.ring == 0 {
		c.Add("ring_side", "left, right", "%q does not say at which pack the ring sits", in.RingSide)
	}
	s.shim = DepthIn{ShimSide: in.ShimSide}.side(c)
	in.Learned.check(c)
	if in.AsFound != nil {
		in.AsFound.check(c)
	}
	if n := len(in.Trials); n > 30 || (n < 1 && in.AsFound == nil) {
		c.Add("trials", "1 to 30 assemblies, or for the first what was in it", "%d trials", n)
	}
	if in.Direction != Tangential && in.Direction != Square {
		c.Add("direction", string(Tangential)+", "+string(Square), "%q: say which way the dial points", in.Direction)
	}
	if g := in.Geometry; g != nil {
		input.Number(c, "geometry.pressure_deg", g.PressureDeg, 10, 30)
		input.Number(c, "geometry.spiral_deg", g.SpiralDeg, 0, 60)
		input.Number(c, "geometry.pitch_deg", g.PitchDeg, 30, 89)
	}
	input.Positive(c, "required_depth", in.Required, largest)
	input.Positive(c, "depth_tolerance", in.DepthTol, quantity.Millimetre)
	if low, high := input.NotNegative(
		c, "backlash_min", in.BacklashMin, 5*quantity.Millimetre,
	), input.Positive(c, "backlash_max", in.BacklashMax, 5*quantity.Millimetre); low > high {
		c.Add("backlash_min", "not above the upper limit", "%s lies above %s", in.BacklashMin, in.BacklashMax)
	}
	low, high := input.Within(
		c, "side_play_min", in.PlayMin, -2*quantity.Millimetre, 2*quantity.Millimetre, true,
	), input.Within(c, "side_play_max", in.PlayMax, -2*quantity.Millimetre, 2*quantity.Millimetre, true)
	if input.Over(low, high) {
		c.Add("side_play_min", "not above the upper limit", "%s lies above %s", in.PlayMin, in.PlayMax)
	}
	shim.CheckStock(c, "stock", in.Stock)
	if in.ShimStep.IsSaid() {
		input.Within(c, "shim_step", in.ShimStep, quantity.Micrometre, quantity.Millimetre, true)
	}
	var out []sensed
	for i, t := range in.Trials {
		out = append(out, t.read(c, input.Index("trials", i), s, in.Constant.SI()))
	}
	return out, s
}

func (t Trial) read(c *input.Checks, at string, s sides, constant quantity.Length) sensed {
	left := float64(input.NotNegative(c, at+".left", t.Left, 50*quantity.Millimetre))
	right := float64(input.NotNegative(c, at+".right", t.Right, 50*quantity.Millimetre))
	out := sensed{
		shim:     float64(input.NotNegative(c, at+".pinion_shim", t.PinionShim, 50*quantity.Millimetre)),
		backlash: float64(input.NotNegative(c, at+".backlash", t.Backlash, 10*quantity.Millimetre)),
		play:     t.play(c, at, quantity.Length(left+right)),
		sum:      left + right, place: s.ring * (right - left) / 2,
	}
	switch {
	case t.Depth.IsSaid() && t.Gauge.IsSaid():
		c.Add(at+".gauge", "depth or gauge", "both are given, and they may differ")
	case t.Depth.IsSaid():
		out.depth, out.hasDepth = float64(input.Positive(c, at+".depth", t.Depth, largest)), true
	case t.Gauge.IsSaid():
		out.depth, out.hasDepth = float64(input.NotNegative(c, at+".gauge", t.Gauge, largest)+constant), true
	}
	if t.Drive != nil && t.Coast != nil {
		p, err := Pattern(PatternIn{Drive: *t.Drive, Coast: *t.Coast})
		if err != nil {
			c.Fields = append(c.Fields, input.Below(at, err)...)
		} else if !p.Crossed {
			out.pinionError, out.ringError, out.hasPattern = p.PinionOut, p.RingOut, true
		}
	}
	if !out.hasDepth && !out.hasPattern {
		c.Add(at+".depth", "a depth by the tool, or a pattern of both flanks", "the pinion's depth is not known")
	}
	return out
}

// play is the carrier's end play with these packs, below zero a preload.
func (t Trial) play(c *input.Checks, at string, packs quantity.Length) float64 {
	switch {
	case t.SidePlay.IsSaid() && t.ZeroPlay.IsSaid():
		c.Add(at+".zero_play_packs", "the side play, or the packs of zero play", "both are given, and they may differ")
	case t.ZeroPlay.IsSaid():
		zero := input.NotNegative(c, at+".zero_play_packs", t.ZeroPlay, 100*quantity.Millimetre)
		if play := zero - packs; input.Under(play, -5*quantity.Millimetre) || input.Over(play, 10*quantity.Millimetre) {
			c.Add(
				at+".zero_play_packs", "near the sum of both packs", "%s is %s away from the packs fitted", t.ZeroPlay,
				quantity.SayDifference(play, t.ZeroPlay.Unit),
			)
		}
		return float64(zero - packs)
	}
	return float64(input.Within(c, at+".side_play", t.SidePlay, -5*quantity.Millimetre, 10*quantity.Millimetre, true))
}

// bestShim averages what every trial says the pinion shim should be, the tool
// counting by its noise, a pattern by its coarseness; and its spread.
func bestShim(trials []sensed, in TogetherIn, sign float64) (shim, spread float64) {
	sum, weight := 0.0, 0.0
	for _, t := range trials {
		if t.hasDepth {
			w := 1 / (depthSigma * depthSigma)
			sum += w * (t.shim + sign*(t.depth-float64(in.Required.SI())))
			weight += w
			continue
		}
		w := 1 / (patternScale * patternScale / 16)
		sum += w * (t.shim + sign*t.pinionError*patternScale)
		weight += w
	}
	return sum / weight, 1 / math.Sqrt(weight)
}

// bestSum averages the sum of side packs that gives the wanted play.
func bestSum(trials []sensed, play float64) float64 {
	sum := 0.0
	for _, t := range trials {
		sum += t.sum + t.play - play
	}
	return sum / float64(len(trials))
}
