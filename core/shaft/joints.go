package shaft

import (
	"fmt"
	"math"
	"math/cmplx"
	"slices"

	"handwerk/core/calculator"
	"handwerk/core/input"
	"handwerk/core/metrology"
	"handwerk/core/quantity"
)

// Joint is one cross joint of a chain: its angle, and whether the forks of the
// shaft that drives it stand in line, as the trade says in phase: then two
// equal angles cancel. What drives the first joint has no other fork to be in
// line with; there it says nothing. The angle is the true one, or as it is
// read from the side and from above: tan²β = tan²side + tan²plan, and the plane
// it lies in leans by atan2(tan plan, tan side).
type Joint struct {
	AngleDeg float64  `json:"angle_deg,omitempty"`
	SideDeg  *float64 `json:"side_deg,omitempty"` // up and down; both of these or angle_deg
	PlanDeg  *float64 `json:"plan_deg,omitempty"` // left and right
	Phased   bool     `json:"phased"`
}

// bend is a joint's angle and the plane it lies in.
type bend struct {
	beta, plane quantity.Angle
	phased      bool
}

// read takes either way of saying the angle.
func (j Joint) read(c *input.Checks, at string) bend {
	if j.SideDeg == nil && j.PlanDeg == nil {
		if !(j.AngleDeg >= 0 && j.AngleDeg <= steepest) {
			c.Add(at+".angle_deg", "0 to 45", "a joint at %g degrees does not turn", j.AngleDeg)
		}
		return bend{quantity.Angle(j.AngleDeg) * quantity.Degree, 0, j.Phased}
	}
	if j.SideDeg == nil || j.PlanDeg == nil || j.AngleDeg != 0 {
		c.Add(at+".side_deg", "side and plan angle together, or one total angle",
			"give both angles, or one total, not a mix")
		return bend{}
	}
	tangent := func(deg float64) float64 { return math.Tan(float64(quantity.Angle(deg) * quantity.Degree)) }
	side := tangent(input.Number(c, at+".side_deg", *j.SideDeg, -steepest, steepest))
	plan := tangent(input.Number(c, at+".plan_deg", *j.PlanDeg, -steepest, steepest))
	b := bend{quantity.Angle(math.Atan(math.Hypot(side, plan))), quantity.Angle(math.Atan2(plan, side)), j.Phased}
	if b.beta.Degrees() > steepest {
		c.Add(at+".plan_deg", "up to 45 degrees with the side angle", "a joint at %.0f degrees does not turn",
			b.beta.Degrees())
	}
	return b
}

// steepest angle, in degrees, at which a cross joint still turns.
const steepest = 45.0

// JointsIn asks how unevenly a chain of joints turns.
type JointsIn struct {
	Joints   []Joint  `json:"joints"`
	LimitDeg *float64 `json:"limit_deg,omitempty"` // of the equivalent angle, default 3
}

// JointsOut is the answer. Shares are of the input speed.
type JointsOut struct {
	Each          []JointRipple     `json:"joints"`
	EquivalentDeg float64           `json:"equivalent_deg"`
	PeakToPeak    float64           `json:"peak_to_peak"`
	Verdict       metrology.Verdict `json:"verdict"`
	Says          string            `json:"says"`
}

// JointRipple is one joint alone.
type JointRipple struct {
	PeakToPeak float64 `json:"peak_to_peak"` // sin β·tan β
	Fastest    float64 `json:"fastest"`      // 1/cos β
	Slowest    float64 `json:"slowest"`      // cos β
}

// usualLimit of the equivalent angle. Common practice.
const usualLimit = 3.0

// ratio is ω2/ω1 = cos β/(1 - sin²β·cos²θ). Source: Shigley, universal joint
// kinematics; exact for a cross joint.
func ratio(beta, theta quantity.Angle) float64 {
	s, c := math.Sin(float64(beta)), math.Cos(float64(theta))
	return math.Cos(float64(beta)) / (1 - s*s*c*c)
}

// rippleOf a joint at an angle: sin β·tan β from peak to peak, between 1/cos β and cos β.
func rippleOf(beta quantity.Angle) JointRipple {
	b := float64(beta)
	return JointRipple{math.Sin(b) * math.Tan(b), 1 / math.Cos(b), math.Cos(b)}
}

// angleOf the one joint with a ripple p: sin β·tan β = p, a square in cos β.
func angleOf(p float64) quantity.Angle {
	return quantity.Angle(math.Acos((math.Sqrt(p*p+4) - p) / 2))
}

// Joints gives each joint's ripple and the equivalent angle of the chain,
// β_R² = |Σ ±β²·e^(2iφ)| with φ the plane of each joint; the sign changes from
// joint to joint where the forks between them stand in line. With all joints in
// one plane that is the sum of the trade. A chain is smooth when it is small.
// Beyond 12 degrees, at a joint or in the sum, the chain is turned through
// exactly instead, and the equivalent angle is that of the one joint that turns
// as unevenly. Source: VDI 2722 (idea of the equivalent angle); exact joint
// kinematics as Shigley has them; 3° common practice.
func Joints(in JointsIn) (JointsOut, error) {
	var c input.Checks
	if len(in.Joints) < 1 || len(in.Joints) > 12 {
		return JointsOut{}, input.At("joints", "1 to 12 joints", "%d joints", len(in.Joints))
	}
	limit := input.Number(&c, "limit_deg", input.OrNumber(in.LimitDeg, usualLimit), 0.1, 45)
	var bends []bend
	for i, j := range in.Joints {
		bends = append(bends, j.read(&c, input.Index("joints", i)))
	}
	if err := c.Err(); err != nil {
		return JointsOut{}, err
	}
	out := JointsOut{}
	sum, sign, most := complex(0, 0), 1.0, quantity.Angle(0)
	for i, b := range bends {
		out.Each = append(out.Each, rippleOf(b.beta))
		if i > 0 && b.phased {
			sign = -sign
		}
		sum += cmplx.Rect(sign*float64(b.beta*b.beta), 2*float64(b.plane))
		most = max(most, b.beta)
	}
	r := quantity.Angle(math.Sqrt(cmplx.Abs(sum)))
	out.PeakToPeak = rippleOf(r).PeakToPeak
	if smallAngle := 12*quantity.Degree + 1e-12; most > smallAngle || r > smallAngle {
		out.PeakToPeak = turnThrough(bends)
		r = angleOf(out.PeakToPeak)
	}
	out.EquivalentDeg = r.Degrees()
	out.Verdict, out.Says = metrology.In, fmt.Sprintf("together the joints act like one at %.1f degrees: smooth enough",
		out.EquivalentDeg)
	if input.Over(out.EquivalentDeg, limit) {
		out.Verdict = metrology.Out
	}
	switch {
	case out.Verdict == metrology.In:
	case !inPhase(bends) && !input.Over(math.Abs((bends[0].beta-bends[len(bends)-1].beta).Degrees()), limit):
		out.Says = fmt.Sprintf("together the joints act like one at %.1f degrees: forks out of phase, "+
			"draw the slip joint and turn it a quarter", out.EquivalentDeg)
	default:
		out.Says = fmt.Sprintf(
			"together the joints act like one at %.1f degrees: make the angles equal and check that the yokes are in phase",
			out.EquivalentDeg,
		)
	}
	return out, nil
}

// inPhase tells that the forks of each piece stand in line.
func inPhase(bends []bend) bool {
	return !slices.ContainsFunc(bends[1:], func(b bend) bool { return !b.phased })
}

// JointsMethod is Joints as the catalogue lists it.
var JointsMethod = calculator.Define(examples, calculator.About{
	Name: "joints", Version: 3,
	Purpose: "how unevenly a chain of cross joints turns",
	Formula: "ω2/ω1 = cos β/(1 − sin²β·cos²θ); peak to peak sin β·tan β; tan²β = tan² side + tan² plan, " +
		"leaning by φ = atan2(tan plan, tan side); chain β_R² = |Σ ±β²·e^(2iφ)|",
	Assumes: "to 45° at a joint: as angle_deg, all in one plane, or as side_deg and plan_deg, read from " +
		"the side and from above, whose planes may lean against each other; forks in phase or a " +
		"quarter turn off",
	Sources: []string{"kinematics of the cross joint", "3° equivalent: " + calculator.Practice},
}, Joints)

// turnThrough turns the chain half round and gives the difference between its
// fastest and slowest speed. With θ the place of a driving fork, zero where it
// is fastest, the driven one is at tan θ' = tan θ/cos β; forks in line set the
// next joint's own place a quarter turn off, and a plane that leans against the
// one before by as much. After half a turn all repeats.
func turnThrough(bends []bend) float64 {
	const steps = 7200
	low, high := math.Inf(1), 0.0
	for k := range steps {
		theta, speed := math.Pi*float64(k)/steps, 1.0
		for i, b := range bends {
			if i > 0 {
				theta += float64(bends[i-1].plane - b.plane)
				if b.phased {
					theta += math.Pi / 2
				}
			}
			speed *= ratio(b.beta, quantity.Angle(theta))
			theta = math.Atan2(math.Sin(theta), math.Cos(theta)*math.Cos(float64(b.beta)))
		}
		low, high = math.Min(low, speed), math.Max(high, speed)
	}
	return high - low
}
