package shaft

import (
	"fmt"
	"math"
	"slices"
	"sort"
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
	Slip   Length `json:"slip_travel"`
}

// Plane is what the shaft must clear, such as a skid plate.
type Plane struct {
	From   Point  `json:"from"`
	To     Point  `json:"to"`
	Radius Length `json:"tube_radius"`
}

// TravelIn asks what a propshaft does through the stroke of its axle, in side view.
type TravelIn struct {
	Output  LineJoint `json:"output"` // the first joint
	Axle    Point     `json:"axle"`   // its centre at ride height
	Pinion  LineJoint `json:"pinion"` // the last joint at ride height, rigid with the axle
	Linkage Linkage   `json:"linkage"`
	Bump    Length    `json:"bump"`                   // of the axle's centre, up
	Droop   Length    `json:"droop"`                  // and down
	Centre  *Point    `json:"centre_joint,omitempty"` // behind the centre bearing, fixed
	Shaft   *Tube     `json:"shaft,omitempty"`
	Limit   *float64  `json:"angle_limit_deg,omitempty"`
	Plane   *Plane    `json:"plane,omitempty"`
}

// Position is the line at one travel.
type Position struct {
	Travel    Length    `json:"travel"`
	Angles    []float64 `json:"angles_deg"` // of the joints, from the front
	Length    Length    `json:"length"`     // of the shaft that slips
	Slip      Length    `json:"slip"`       // against ride height
	Pinion    float64   `json:"pinion_angle_deg"`
	Clearance Length    `json:"clearance,omitzero"`
	Joints    []Point   `json:"joints"` // where they stand, from the front
	Axle      Point     `json:"axle"`   // and the axle's centre
}

// WorstAngle is the largest angle of any joint.
type WorstAngle struct {
	Joint  int     `json:"joint"` // from 1 at the front
	Deg    float64 `json:"deg"`
	Travel Length  `json:"travel"`
}

// WorstClearance is the least distance to the plane.
type WorstClearance struct {
	Value  Length `json:"value"`
	Travel Length `json:"travel"`
}

// Worst is what the stroke asks at its worst.
type Worst struct {
	Angle     WorstAngle      `json:"angle"`
	Shortest  Length          `json:"shortest"`
	Longest   Length          `json:"longest"`
	Clearance *WorstClearance `json:"clearance,omitempty"`
}

// Needs is what a shaft for this line must be.
type Needs struct {
	Pushed Length `json:"pushed_together_at_most"`
	Slip   Length `json:"slip_at_least"`
}

// TravelOut is the answer; droop comes first.
type TravelOut struct {
	Positions []Position        `json:"positions"`
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
	for _, z := range l.shown() {
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

// line is what was asked, in metres and radians, with poses along the stroke.
type line struct {
	in           TravelIn
	output       xy
	slope        [2]float64 // of output and pinion
	axle, pinion xy         // the pinion from the axle's centre
	centre       *xy
	plane        [2]xy
	radius       float64
	bump, droop  float64
	guide        guide
	unit         *quantity.Unit
	travels      []float64 // rising
	poses        []pose
}

func (in TravelIn) read(c *input.Checks) *line {
	l := &line{in: in, unit: in.Bump.Unit}
	l.output, l.axle = in.Output.read(c, "output"), in.Axle.read(c, "axle")
	l.pinion = in.Pinion.read(c, "pinion").minus(l.axle)
	for i, j := range []struct {
		path  string
		angle float64
	}{{"output", in.Output.Angle}, {"pinion", in.Pinion.Angle}} {
		l.slope[i] = input.Number(c, j.path+".angle_deg", j.angle, -mostSlope, mostSlope) * math.Pi / 180
	}
	l.bump = float64(input.NotNegative(c, "bump", in.Bump, mostStroke))
	l.droop = float64(input.NotNegative(c, "droop", in.Droop, mostStroke))
	from := l.output
	if in.Centre != nil {
		centre := in.Centre.read(c, "centre_joint")
		l.centre, from = &centre, centre
		if len(c.Fields) == 0 && !input.Over(centre.minus(l.output).size(), 0) {
			c.Add("centre_joint", "a place behind the first joint", "both are one place")
		}
	}
	if len(c.Fields) == 0 && !input.Over(l.axle.plus(l.pinion).minus(from).size(), 0) {
		c.Add("pinion", "a place behind the joint before it", "both are one place")
	}
	in.limits(c, l)
	l.guide = in.Linkage.read(c, l.axle)
	return l
}

func (in TravelIn) limits(c *input.Checks, l *line) {
	if in.Shaft != nil {
		input.Positive(c, "shaft.length", in.Shaft.Length, room)
		input.NotNegative(c, "shaft.slip_travel", in.Shaft.Slip, mostStroke)
	}
	if in.Limit != nil {
		input.Number(c, "angle_limit_deg", *in.Limit, 0.1, 90)
	}
	if p := in.Plane; p != nil {
		l.plane = [2]xy{p.From.read(c, "plane.from"), p.To.read(c, "plane.to")}
		l.radius = float64(input.NotNegative(c, "plane.tube_radius", p.Radius, 500*quantity.Millimetre))
	}
}

// How finely the stroke is walked, each way.
const (
	walkSteps = 40
	reachTo   = 1e-6
	extremeTo = 1e-5
)

// walk follows the linkage from ride height both ways.
func (l *line) walk() error {
	ride := pose{at: l.axle}
	l.travels, l.poses = []float64{0}, []pose{ride}
	for _, way := range []struct {
		field string
		said  Length
		to    float64
	}{{"droop", l.in.Droop, -l.droop}, {"bump", l.in.Bump, l.bump}} {
		p := ride
		for i := 1; i <= walkSteps && way.to != 0; i++ {
			z := way.to * float64(i) / walkSteps
			next, ok := l.guide.pose(z, p)
			if !ok {
				reached := l.reach(way.to*float64(i-1)/walkSteps, z, p)
				return input.At(
					way.field,
					"up to "+quantity.SayDifference(quantity.Length(math.Abs(reached)), way.said.Unit).String(),
					"the linkage does not reach %s",
					way.said,
				)
			}
			p = next
			l.travels, l.poses = append(l.travels, z), append(l.poses, p)
		}
	}
	sort.Sort(byTravel{l})
	return nil
}

// byTravel sorts the poses that were walked.
type byTravel struct{ l *line }

func (b byTravel) Len() int           { return len(b.l.travels) }
func (b byTravel) Less(i, j int) bool { return b.l.travels[i] < b.l.travels[j] }
func (b byTravel) Swap(i, j int) {
	b.l.travels[i], b.l.travels[j] = b.l.travels[j], b.l.travels[i]
	b.l.poses[i], b.l.poses[j] = b.l.poses[j], b.l.poses[i]
}

// reach is the last travel that the linkage makes between one it does and one it does not.
func (l *line) reach(does, not float64, p pose) float64 {
	for math.Abs(not-does) > reachTo {
		middle := (does + not) / 2
		if next, ok := l.guide.pose(middle, p); ok {
			does, p = middle, next
		} else {
			not = middle
		}
	}
	return does
}

// moment is the line at one travel, in metres and degrees.
type moment struct {
	travel    float64
	angles    [3]float64
	joints    int
	length    float64
	pinion    float64
	clearance float64
	places    [3]xy
	axle      xy
}

// at is the line at a travel, from the nearest pose that was walked.
func (l *line) at(z float64) moment {
	i, exact := slices.BinarySearch(l.travels, z)
	if i == len(l.travels) || (i > 0 && !exact && z-l.travels[i-1] < l.travels[i]-z) {
		i--
	}
	p := l.poses[i]
	if !exact {
		if next, ok := l.guide.pose(z, p); ok {
			p = next
		}
	}
	m := moment{travel: z, clearance: math.Inf(1), axle: p.at, places: [3]xy{l.output}}
	last := p.at.plus(l.pinion.turned(p.turn))
	pinion := l.slope[1] + p.turn
	m.pinion = pinion * 180 / math.Pi
	slopes := []float64{l.slope[0]}
	from := l.output
	for k, to := range l.corners(last) {
		m.places[k+1] = to
		slopes = append(slopes, slopeOf(from, to))
		m.length = to.minus(from).size()
		if l.in.Plane != nil {
			m.clearance = min(m.clearance, apart(from, to, l.plane[0], l.plane[1])-l.radius)
		}
		from = to
	}
	slopes = append(slopes, pinion)
	for k := 1; k < len(slopes); k++ {
		m.angles[k-1] = math.Abs(slopes[k]-slopes[k-1]) * 180 / math.Pi
	}
	m.joints = len(slopes) - 1
	return m
}

// corners are the joints behind the first.
func (l *line) corners(last xy) []xy {
	if l.centre != nil {
		return []xy{*l.centre, last}
	}
	return []xy{last}
}

// slopeOf a line: positive when it rises to the rear, whichever end is asked first.
func slopeOf(a, b xy) float64 {
	d := b.minus(a)
	if d.x < 0 {
		d = xy{-d.x, -d.y}
	}
	return math.Atan2(d.y, d.x)
}

// apart is the least distance of two stretches.
func apart(a, b, c, d xy) float64 {
	if crosses(a, b, c, d) {
		return 0
	}
	return min(toStretch(a, c, d), toStretch(b, c, d), toStretch(c, a, b), toStretch(d, a, b))
}

func side(a, b, p xy) float64 { return (b.x-a.x)*(p.y-a.y) - (b.y-a.y)*(p.x-a.x) }

func crosses(a, b, c, d xy) bool {
	return side(a, b, c)*side(a, b, d) < 0 && side(c, d, a)*side(c, d, b) < 0
}

// toStretch is the distance of a point from a stretch.
func toStretch(p, a, b xy) float64 {
	along := b.minus(a)
	t := 0.0
	if size := along.dot(along); size > 0 {
		t = max(0, min(1, p.minus(a).dot(along)/size))
	}
	return p.minus(xy{a.x + t*along.x, a.y + t*along.y}).size()
}

// shown are the travels that are answered: even steps from droop to bump, and ride height.
func (l *line) shown() []float64 {
	var list []float64
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
		Travel: l.say(
			m.travel,
		),
		Angles: slices.Clone(m.angles[:m.joints]),
		Length: l.say(m.length),
		Slip:   l.say(m.length - ride),
		Pinion: m.pinion,
		Axle:   l.point(m.axle),
	}
	if l.in.Plane != nil {
		p.Clearance = l.say(m.clearance)
	}
	for _, at := range m.places[:m.joints] {
		p.Joints = append(p.Joints, l.point(at))
	}
	return p
}

func (l *line) point(at xy) Point { return Point{l.say(at.x), l.say(at.y)} }

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

// golden is the ratio by which a search narrows.
var golden = (math.Sqrt(5) - 1) / 2

// most is the largest of a figure along the stroke and where: the largest that was
// walked, then golden section between its neighbours.
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
	value := func(z float64) float64 { return of(l.at(z)) }
	a, b := high-golden*(high-low), low+golden*(high-low)
	atA, atB := value(a), value(b)
	for high-low > extremeTo {
		if atA > atB {
			high, b, atB = b, a, atA
			a = high - golden*(high-low)
			atA = value(a)
		} else {
			low, a, atA = a, b, atB
			b = low + golden*(high-low)
			atB = value(b)
		}
	}
	if x := value((low + high) / 2); x > v {
		return (low + high) / 2, x
	}
	return z, v
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
