package shaft

import (
	"math"
	"slices"
	"sort"

	"handwerk/core/input"
	"handwerk/core/quantity"
)

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
	walkSteps = 30
	reachTo   = 1e-6
	extremeTo = 1e-6
)

// walk follows the linkage from ride height both ways.
func (l *line) walk() error {
	ride := pose{at: l.axle}
	l.travels, l.poses = append(make([]float64, 0, 2*walkSteps+1), 0), append(make([]pose, 0, 2*walkSteps+1), ride)
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
	m := moment{travel: z, clearance: math.Inf(1), axle: p.at, places: [3]xy{l.output}, joints: 2}
	if l.centre != nil {
		m.places[1], m.joints = *l.centre, 3
	}
	m.places[m.joints-1] = p.at.plus(l.pinion.turned(p.turn))
	pinion := l.slope[1] + p.turn
	m.pinion = pinion * 180 / math.Pi
	slope := l.slope[0]
	for k := range m.joints {
		next := pinion
		if k < m.joints-1 {
			from, to := m.places[k], m.places[k+1]
			next, m.length = slopeOf(from, to), to.minus(from).size()
			if l.in.Plane != nil {
				m.clearance = min(m.clearance, apart(from, to, l.plane[0], l.plane[1])-l.radius)
			}
		}
		m.angles[k] = math.Abs(next-slope) * 180 / math.Pi
		slope = next
	}
	return m
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
