package shaft

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"handwerk/core/calculator"
	"handwerk/core/input"
	"handwerk/core/metrology"
	"handwerk/core/quantity"
)

// LineJoint is a joint in side view with the slope of what it is on: positive when it rises
// to the rear.
type LineJoint struct {
	Point
	Angle float64 `json:"angle_deg"`
}

// Tube is the shaft that takes up the travel: pushed together, joint to joint, and how
// far it may be pulled.
type Tube struct {
	Length Length `json:"length"`
	Slip   Length `json:"slip_travel"` // by which it may be pulled out
}

// Plane is what the shaft must clear, such as a skid plate.
type Plane struct {
	From   Point  `json:"from"`
	To     Point  `json:"to"`
	Radius Length `json:"tube_radius"` // of the shaft
}

// TravelIn asks what a propshaft does through the stroke of its axle, in side view.
type TravelIn struct {
	Output  LineJoint `json:"output"`                 // the first joint
	Axle    Point     `json:"axle"`                   // its centre at ride height
	Pinion  LineJoint `json:"pinion"`                 // the last joint at ride height, rigid with the axle
	Linkage Linkage   `json:"linkage"`                // what guides the axle
	Bump    Length    `json:"bump"`                   // of the axle's centre, up
	Droop   Length    `json:"droop"`                  // and down
	Centre  *Point    `json:"centre_joint,omitempty"` // behind the centre bearing, fixed
	Shaft   *Tube     `json:"shaft,omitempty"`
	Limit   *float64  `json:"angle_limit_deg,omitempty"` // of every joint
	Plane   *Plane    `json:"plane,omitempty"`           // what the tube must clear
}

// Drawn is a place to draw, in bare millimetres.
type Drawn struct {
	X float64 `json:"x"` // to the rear
	Y float64 `json:"y"` // up
}

// Position is the line at one travel.
type Position struct {
	Travel    Length    `json:"travel"`           // of the axle, bump above zero
	Angles    []float64 `json:"angles_deg"`       // of the joints, from the front
	Length    Length    `json:"length"`           // of the shaft that slips
	Slip      Length    `json:"slip"`             // against ride height
	Pinion    float64   `json:"pinion_angle_deg"` // its slope there
	Clearance Length    `json:"clearance,omitzero"`
	Last      Drawn     `json:"last_joint_mm"` // where it is
	Axle      Drawn     `json:"axle_mm"`       // where its centre is
}

// WorstAngle is the largest angle of any joint.
type WorstAngle struct {
	Joint  int     `json:"joint"`  // from 1 at the front
	Deg    float64 `json:"deg"`    // the angle
	Travel Length  `json:"travel"` // at which it is so
}

// WorstClearance is the least distance to the plane.
type WorstClearance struct {
	Value  Length `json:"value"`
	Travel Length `json:"travel"` // at which it is so
}

// Worst is what the stroke asks at its worst.
type Worst struct {
	Angle     WorstAngle      `json:"angle"`    // the largest of any joint
	Shortest  Length          `json:"shortest"` // the shaft gets
	Longest   Length          `json:"longest"`  // the shaft gets
	Clearance *WorstClearance `json:"clearance,omitempty"`
}

// Needs is what a shaft for this line must be.
type Needs struct {
	Pushed Length `json:"pushed_together_at_most"` // joint to joint
	Slip   Length `json:"slip_at_least"`           // longest less shortest
}

// TravelOut is the answer; droop comes first.
type TravelOut struct {
	Positions []Position        `json:"positions"` // from droop to bump
	Worst     Worst             `json:"worst"`
	Needs     Needs             `json:"needs"`
	Verdict   metrology.Verdict `json:"verdict"`
	AtFault   []string          `json:"at_fault"` // angle, too_long, too_short, clearance
	Says      string            `json:"says"`
}

const (
	shownSteps = 40   // between the positions that are answered
	mostSlope  = 60.0 // degrees
	mostStroke = 1000 * quantity.Millimetre
)

// Travel moves the axle through its stroke and follows joints, length and clearance; the
// extremes are looked for between the positions as well. Source: plane kinematics; the
// leaf by its second order.
func Travel(in TravelIn) (TravelOut, error) {
	var c input.Checks
	l := in.read(&c)
	if err := c.Err(); err != nil {
		return TravelOut{}, err
	}
	if err := l.walk(); err != nil {
		return TravelOut{}, err
	}
	out := TravelOut{Worst: l.worst(), AtFault: []string{}, Verdict: metrology.None}
	ride := l.at(0).length
	shown := l.shown()
	out.Positions = make([]Position, 0, len(shown))
	for _, z := range shown {
		out.Positions = append(out.Positions, l.position(l.at(z), ride))
	}
	out.Needs = Needs{
		out.Worst.Shortest,
		quantity.SayDifference(
			quantity.Length(out.Worst.Longest.DifferenceSI()-out.Worst.Shortest.DifferenceSI()),
			l.unit,
		),
	}
	in.judge(&out)
	return out, nil
}

// TravelMethod is Travel as the catalogue lists it.
var TravelMethod = calculator.Define(examples, calculator.About{
	Name:    "propshaft-travel",
	Version: 1,
	Purpose: "a propshaft through the suspension's stroke: joint angles, slip, length, clearance, and what the shaft must be",
	Formula: "axle on leaf, arm or links; angles as differences of slopes; slip = length − length at ride height",
	Assumes: "side view, rigid joints; a leaf carries its end along an arc of ¾ of its length and does not wind up",
	Sources: []string{"plane kinematics", "¾ of the leaf: derived; " + calculator.Practice},
}, Travel)

// shown are the travels that are answered: even steps from droop to bump, and ride height.
func (l *line) shown() []float64 {
	list := make([]float64, 0, shownSteps+2)
	for i := range shownSteps + 1 {
		list = append(list, -l.droop+(l.bump+l.droop)*float64(i)/shownSteps)
	}
	for i, z := range list {
		if math.Abs(z) < 1e-12 {
			list[i] = 0
			return list
		}
	}
	i, _ := slices.BinarySearch(list, 0)
	return slices.Insert(list, i, 0)
}

func (l *line) position(m moment, ride float64) Position {
	p := Position{
		Travel: l.say(m.travel), Angles: slices.Clone(m.angles[:m.joints]), Length: l.say(m.length),
		Slip: l.say(m.length - ride), Pinion: m.pinion, Last: m.places[m.joints-1].mm(), Axle: m.axle.mm(),
	}
	if l.in.Plane != nil {
		p.Clearance = l.say(m.clearance)
	}
	return p
}

func (l *line) say(v float64) Length { return quantity.SayDifference(quantity.Length(v), l.unit) }

// worst looks for the extremes over the whole stroke.
func (l *line) worst() Worst {
	moments := make([]moment, len(l.travels))
	for i, z := range l.travels {
		moments[i] = l.at(z)
	}
	var w Worst
	for k := range moments[0].joints {
		z, deg := l.most(moments, func(m moment) float64 { return m.angles[k] })
		if k == 0 || deg > w.Angle.Deg {
			w.Angle = WorstAngle{k + 1, deg, l.say(z)}
		}
	}
	_, long := l.most(moments, func(m moment) float64 { return m.length })
	_, short := l.most(moments, func(m moment) float64 { return -m.length })
	w.Longest, w.Shortest = l.say(long), l.say(-short)
	if l.in.Plane != nil {
		z, near := l.most(moments, func(m moment) float64 { return -m.clearance })
		w.Clearance = &WorstClearance{l.say(-near), l.say(z)}
	}
	return w
}

// refined is how often an extreme is looked for between what was walked.
const refined = 4

// most is the largest of a figure along the stroke and where: the largest that was
// walked, then the top of the parabola through it and its neighbours, again and again.
func (l *line) most(moments []moment, of func(moment) float64) (z, v float64) {
	best := 0
	for i, m := range moments {
		if of(m) > of(moments[best]) {
			best = i
		}
	}
	z, v = l.travels[best], of(moments[best])
	if best == 0 || best == len(moments)-1 {
		return z, v
	}
	low, high := l.travels[best-1], l.travels[best+1]
	atLow, atHigh := of(moments[best-1]), of(moments[best+1])
	for range refined {
		top := parabolaTop(low, atLow, z, v, high, atHigh)
		if math.Abs(top-z) < extremeTo {
			break
		}
		switch x := of(l.at(top)); {
		case x > v && top < z:
			high, atHigh, z, v = z, v, top, x
		case x > v:
			low, atLow, z, v = z, v, top, x
		case top < z:
			low, atLow = top, x
		default:
			high, atHigh = top, x
		}
	}
	return z, v
}

// parabolaTop is where the parabola through three points turns.
func parabolaTop(a, atA, b, atB, c, atC float64) float64 {
	left, right := (b-a)*(atB-atC), (b-c)*(atB-atA)
	if left == right {
		return b
	}
	return b - ((b-a)*left-(b-c)*right)/(2*(left-right))
}

// judge holds the extremes against the joints' limit, the shaft and the plane.
func (in TravelIn) judge(out *TravelOut) {
	w := out.Worst
	var says []string
	fault := func(is bool, name, text string, args ...any) {
		if out.Verdict != metrology.Out {
			out.Verdict = metrology.In
		}
		if is {
			out.Verdict, out.AtFault, says = metrology.Out, append(
				out.AtFault,
				name,
			), append(
				says,
				fmt.Sprintf(text, args...),
			)
		}
	}
	if in.Limit != nil {
		fault(
			input.Over(w.Angle.Deg, *in.Limit),
			"angle",
			"joint %d is bent %.1f° at a travel of %s, %.1f° at most",
			w.Angle.Joint,
			w.Angle.Deg,
			short(w.Angle.Travel),
			*in.Limit,
		)
	}
	if s := in.Shaft; s != nil {
		fault(input.Over(s.Length.DifferenceSI(), w.Shortest.DifferenceSI()), "too_long",
			"the shaft is too long: pushed together it may be %s", short(w.Shortest))
		fault(input.Under(s.Length.DifferenceSI()+s.Slip.DifferenceSI(), w.Longest.DifferenceSI()), "too_short",
			"the slip comes apart: the line gets as long as %s", short(w.Longest))
	}
	if w.Clearance != nil {
		fault(w.Clearance.Value.DifferenceSI() < 0, "clearance", "the tube strikes at a travel of %s",
			short(w.Clearance.Travel))
	}
	out.Says = strings.Join(says, "; ")
	if out.Says == "" {
		out.Says = fmt.Sprintf("the shaft may be %s pushed together and must slip %s; its joints bend up to %.1f°",
			short(out.Needs.Pushed), short(out.Needs.Slip), w.Angle.Deg)
	}
}

func short(l Length) string { return fmt.Sprintf("%.*f %s", l.Unit.Decimals, l.Value, l.Unit.Symbol) }
