// Package fastener plans how a group of bolts is tightened.
package fastener

import (
	"fmt"
	"math"
	"slices"
	"sort"

	"handwerk/core/calculator"
	"handwerk/core/input"
	"handwerk/core/metrology"
	"handwerk/core/quantity"
)

// Torque is a torque as said.
type Torque = quantity.Said[quantity.Torque]

// Pattern names the order rule.
type Pattern string

// Star crosses over the group; Spiral works outward ring by ring.
const (
	Star   Pattern = "star"
	Spiral Pattern = "spiral"
)

// Point is a bolt's place on the flange, in any one unit: right and up.
type Point struct {
	X float64 `json:"x"`
	Y float64 `json:"y"`
}

// Circle is a ring of bolts; the first stands at the top, the others follow clockwise.
type Circle struct {
	Bolts  int     `json:"bolts"`
	Radius float64 `json:"radius"`
}

// Wrench is what the setting is made on.
type Wrench struct {
	Unit string  `json:"unit"`
	Step float64 `json:"step,omitempty"`
}

// PlanIn asks for order and settings: bolts on one circle, on several, or at points.
type PlanIn struct {
	Bolts   int       `json:"bolts,omitempty"`
	Circles []Circle  `json:"circles,omitempty"`
	Points  []Point   `json:"points,omitempty"`
	Torque  Torque    `json:"torque"`
	Pattern Pattern   `json:"pattern,omitempty" enum:"star,spiral"`
	Passes  []float64 `json:"passes,omitempty"`
	Wrench  *Wrench   `json:"wrench,omitempty"`
	// AngleDeg is how far each bolt is turned on after the last pass; none, 0.
	AngleDeg float64 `json:"angle_deg,omitempty"`
}

// Bolt is one fastener, numbered from 1.
type Bolt struct {
	Number int `json:"number"`
	Point
}

// Pass is one round over the group.
type Pass struct {
	Name    string  `json:"name"`
	Share   float64 `json:"share"`
	Setting Torque  `json:"setting"`
	Order   []int   `json:"order"`
	Check   bool    `json:"check,omitempty"`
	// AngleDeg tells a round that turns every bolt on by an angle from its setting.
	AngleDeg float64 `json:"angle_deg,omitempty"`
}

// PlanOut is the plan.
type PlanOut struct {
	Pattern Pattern `json:"pattern"`
	Bolts   []Bolt  `json:"bolts"`
	Order   []int   `json:"order"`
	Passes  []Pass  `json:"passes"`
}

// Bounds of a plan.
const (
	MaxBolts  = 100
	MaxPasses = 6
	MaxTorque = 10000 * quantity.NewtonMetre
	MaxAngle  = 360 // degrees of one stage
	// AngleTolerance is how far from its angle a bolt may stop, in degrees (common
	// practice: what the scale of an angle gauge can be held to).
	AngleTolerance = 5
)

// TorquePlan orders the bolts so that each next one is as far as possible from
// those just tightened: first a bolt and the one farthest from it, then the
// bolt farthest from both, and so on; every bolt once per pass. Passes are
// shares of the torque (default 0.5 and 1), then the angle stage where there is
// one, and end with a check round at the full setting: a bolt that was turned on by
// an angle holds more, and must not move. Source: common practice (cross pattern in at least two passes).
func TorquePlan(in PlanIn) (PlanOut, error) {
	var faults input.Fields
	points := in.points(&faults)
	unit := in.settingUnit(&faults)
	passes := in.shares(&faults)
	if in.AngleDeg < 0 || in.AngleDeg > MaxAngle || math.IsNaN(in.AngleDeg) {
		faults.Add("angle_deg", fmt.Sprintf("0 to %d", MaxAngle), "%s is no angle of a stage", input.Plain(in.AngleDeg))
	}
	if t := in.Torque.SI(); t <= 0 || t > MaxTorque {
		faults.Add("torque", "more than zero, up to 10 000 N·m", "%s cannot be set on a wrench", in.Torque)
	}
	if len(faults) == 0 && in.Wrench != nil && in.Wrench.Step > 0 {
		if least := quantity.Say(in.Torque.SI()*quantity.Torque(passes[0]), unit); least.Value < in.Wrench.Step {
			faults.Add(
				"wrench.step", "a step no larger than the first pass",
				"the wrench scale goes in steps of %s %s, more than the first pass of %s: use a finer wrench",
				input.Plain(in.Wrench.Step), unit.Symbol, least,
			)
		}
	}
	if len(faults) > 0 {
		return PlanOut{}, faults
	}
	out := PlanOut{Pattern: in.Pattern}
	if out.Pattern == "" {
		out.Pattern = Star
		if len(in.Circles) > 1 {
			out.Pattern = Spiral
		}
	}
	for i, p := range points {
		out.Bolts = append(out.Bolts, Bolt{i + 1, p})
	}
	out.Order = order(points, out.Pattern)
	step := 0.0
	if in.Wrench != nil {
		step = in.Wrench.Step
	}
	for i, share := range passes {
		name := fmt.Sprintf("pass %d, %.0f %%", i+1, share*100)
		out.Passes = append(out.Passes, Pass{Name: name, Share: share, Setting: setting(in.Torque, share, unit, step),
			Order: out.Order})
	}
	full := setting(in.Torque, 1, unit, step)
	if in.AngleDeg > 0 {
		name := fmt.Sprintf("pass %d, on by %s°", len(passes)+1, input.Plain(in.AngleDeg))
		out.Passes = append(out.Passes, Pass{Name: name, Share: 1, Setting: full, Order: out.Order,
			AngleDeg: in.AngleDeg})
	}
	out.Passes = append(out.Passes, Pass{Name: "check round", Share: 1, Setting: full, Order: out.Order, Check: true})
	return out, nil
}

// TorquePlanMethod is TorquePlan as the catalogue lists it.
var TorquePlanMethod = calculator.Define(examples, calculator.About{
	Name: "torque-plan", Version: 1,
	Purpose: "order, passes and wrench settings for a group of bolts",
	Formula: "each next bolt as far as possible from those just tightened",
	Assumes: "up to 100 bolts; 50 % and 100 %, then a check round, unless said",
	Sources: []string{"cross pattern in at least two passes: " + calculator.Practice},
}, TorquePlan)

func setting(t Torque, share float64, unit *quantity.Unit, step float64) Torque {
	said := quantity.Say(t.SI()*quantity.Torque(share), unit)
	if step > 0 {
		said.Value = quantity.Say(quantity.Torque(math.Round(said.Value/step)*step*unit.Factor), unit).Value
	}
	return said
}

func order(points []Point, pattern Pattern) []int {
	all := make([]int, len(points))
	for i := range all {
		all[i] = i
	}
	if pattern == Star {
		return star(points, all)
	}
	var out []int
	for _, ring := range rings(points) {
		out = append(out, star(points, ring)...)
	}
	return out
}

// star orders the given bolts by the rule of TorquePlan; ties go to the lower number.
func star(points []Point, members []int) []int {
	left := append([]int(nil), members...)
	var done []int // indices
	for len(left) > 0 {
		// Completing a pair looks at its first bolt only; a new pair keeps
		// away from both bolts of the last one.
		window := 1
		if len(done)%2 == 0 {
			window = 2
		}
		best, farthest := 0, math.Inf(-1)
		for i, candidate := range left {
			near := math.Inf(1)
			for _, d := range done[max(0, len(done)-window):] {
				near = math.Min(near, distance(points[candidate], points[d]))
			}
			if near > farthest+1e-9 {
				best, farthest = i, near
			}
		}
		done = append(done, left[best])
		left = append(left[:best], left[best+1:]...)
	}
	numbers := make([]int, len(done))
	for i, d := range done {
		numbers[i] = d + 1
	}
	return numbers
}

// rings groups bolts by their distance from the middle of the group, inner
// ring first; a ring is 5 % of the largest distance wide.
func rings(points []Point) [][]int {
	var c Point
	for _, p := range points {
		c.X += p.X / float64(len(points))
		c.Y += p.Y / float64(len(points))
	}
	idx := make([]int, len(points))
	far := 0.0
	for i := range idx {
		idx[i] = i
		far = math.Max(far, distance(points[i], c))
	}
	sort.SliceStable(idx, func(a, b int) bool { return distance(points[idx[a]], c) < distance(points[idx[b]], c)-1e-9 })
	var out [][]int
	start := math.Inf(-1)
	for _, i := range idx {
		if d := distance(points[i], c); d > start+0.05*far {
			out, start = append(out, nil), d
		}
		last := len(out) - 1
		out[last] = append(out[last], i)
	}
	for _, ring := range out {
		sort.Ints(ring)
	}
	return out
}

func distance(a, b Point) float64 { return math.Hypot(a.X-b.X, a.Y-b.Y) }

// points places the bolts, whichever way they were described.
func (in PlanIn) points(faults *input.Fields) []Point {
	ways := 0
	for _, given := range []bool{in.Bolts != 0, len(in.Circles) > 0, len(in.Points) > 0} {
		if given {
			ways++
		}
	}
	if ways != 1 {
		faults.Add("bolts", "one of bolts, circles, points", "%d of them were given", ways)
		return nil
	}
	points := slices.Concat(in.Points, in.onCircles(faults))
	if len(points) > MaxBolts {
		faults.Add("bolts", fmt.Sprintf("up to %d", MaxBolts), "%d bolts in one group", len(points))
		return nil
	}
	if len(in.Points) > 0 {
		apart(points, faults)
	}
	return points
}

// onCircles places the bolts of circles; a bare number of bolts is one circle.
func (in PlanIn) onCircles(faults *input.Fields) []Point {
	circles, at := in.Circles, func(i int) string { return input.Index("circles", i) }
	if in.Bolts != 0 {
		circles, at = []Circle{{in.Bolts, 1}}, func(int) string { return "bolts" }
	}
	var points []Point
	for i, c := range circles {
		if c.Bolts < 1 || c.Bolts > MaxBolts || !(c.Radius > 0 && c.Radius < 1e6) {
			faults.Add(at(i), fmt.Sprintf("1 to %d bolts on a radius above zero", MaxBolts), "%d bolts on radius %s",
				c.Bolts, input.Plain(c.Radius))
			return nil
		}
		points = append(points, c.place()...)
	}
	return points
}

// apart checks that given points are places of their own.
func apart(points []Point, faults *input.Fields) {
	for i, p := range points {
		if math.Abs(p.X) > 1e6 || math.Abs(p.Y) > 1e6 {
			faults.Add(input.Index("points", i), "up to 1 000 000", "that point is too far away to be right")
		}
		for j, q := range points[:i] {
			if distance(p, q) == 0 {
				faults.Add(input.Index("points", i), "a place of its own for every bolt",
					"it is in the same place as bolt %d", j+1)
				break
			}
		}
	}
}

func (c Circle) place() []Point {
	points := make([]Point, c.Bolts)
	for i := range points {
		t := 2 * math.Pi * float64(i) / float64(c.Bolts)
		points[i] = Point{c.Radius * math.Sin(t), c.Radius * math.Cos(t)}
	}
	return points
}

func (in PlanIn) settingUnit(faults *input.Fields) *quantity.Unit {
	if in.Pattern != "" && in.Pattern != Star && in.Pattern != Spiral {
		faults.Add("pattern", "star, spiral", "%q is not a tightening pattern", in.Pattern)
	}
	if in.Wrench == nil {
		return in.Torque.Unit
	}
	u, ok := quantity.UnitNamed(in.Wrench.Unit)
	if !ok || u.Dimension != quantity.DimTorque {
		faults.Add("wrench.unit", "N·m, lb-ft, lb-in", "%q is not a unit of torque", in.Wrench.Unit)
		return in.Torque.Unit
	}
	if in.Wrench.Step < 0 || in.Wrench.Step > 1000 {
		faults.Add("wrench.step", "0 to 1000", "%s is not a step of a scale", input.Plain(in.Wrench.Step))
	}
	return u
}

func (in PlanIn) shares(faults *input.Fields) []float64 {
	if len(in.Passes) == 0 {
		return []float64{0.5, 1}
	}
	if len(in.Passes) > MaxPasses {
		faults.Add("passes", fmt.Sprintf("up to %d", MaxPasses), "%d passes", len(in.Passes))
	}
	last := 0.0
	for i, p := range in.Passes {
		if p <= last || p > 1 {
			faults.Add(input.Index("passes", i), "rising shares, the last one 1", "%s after %s", input.Plain(p),
				input.Plain(last))
		}
		last = p
	}
	if last != 1 {
		faults.Add("passes", "rising shares, the last one 1", "the last pass stops at %s", input.Plain(last))
	}
	return in.Passes
}

// Judge tells whether a wrench reading meets a setting: within tolerance
// (a share of it, 0.06 = ±6 %), no uncertainty beyond that.
func Judge(read, setting quantity.Torque, tolerance float64) metrology.Verdict {
	band := float64(setting) * tolerance
	return metrology.Judge(float64(read), 0, metrology.Limits{Lower: float64(setting) - band,
		Upper: float64(setting) + band})
}

// JudgeAngle tells whether a bolt was turned on by its angle, in degrees.
func JudgeAngle(turned, wanted float64) metrology.Verdict {
	return metrology.Judge(turned, 0, metrology.Limits{Lower: wanted - AngleTolerance, Upper: wanted + AngleTolerance})
}
