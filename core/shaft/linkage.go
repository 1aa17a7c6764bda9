package shaft

import (
	"math"

	"handwerk/core/input"
	"handwerk/core/quantity"
)

// Point is a place in side view: x to the rear, y up.
type Point struct {
	X Length `json:"x"`
	Y Length `json:"y"`
}

// Link joins the body to the axle at ride height.
type Link struct {
	Body Point `json:"body"`
	Axle Point `json:"axle"` // its place on the axle, at ride height
}

// Linkage is what guides the axle; which fields it has depends on its kind.
type Linkage struct {
	Kind   string `json:"kind" enum:"leaf,arm,links"`
	Eye    *Point `json:"eye,omitempty"`   // leaf: the front eye
	Length Length `json:"length,omitzero"` // leaf: from the eye to the seat along the main leaf
	Pivot  *Point `json:"pivot,omitempty"` // arm: the axle is rigid with it
	Lower  *Link  `json:"lower,omitempty"` // links
	Upper  *Link  `json:"upper,omitempty"`
}

// xy is a point in metres.
type xy struct{ x, y float64 }

func (a xy) minus(b xy) xy    { return xy{a.x - b.x, a.y - b.y} }
func (a xy) plus(b xy) xy     { return xy{a.x + b.x, a.y + b.y} }
func (a xy) dot(b xy) float64 { return a.x*b.x + a.y*b.y }
func (a xy) mm() Drawn        { return Drawn{1e3 * a.x, 1e3 * a.y} }
func (a xy) size() float64    { return math.Hypot(a.x, a.y) }
func (a xy) turned(by float64) xy {
	sin, cos := math.Sincos(by)
	return xy{a.x*cos - a.y*sin, a.x*sin + a.y*cos}
}

// pose is where the axle's centre is, and by how much it has turned since ride height.
type pose struct {
	at   xy
	turn float64
}

// guide moves the axle: at a travel of its centre from ride height the pose it has.
type guide interface {
	// pose gives false where the linkage does not reach; from is one near by.
	pose(travel float64, from pose) (pose, bool)
}

// room is how large such a vehicle may be.
const room = 20 * quantity.Length(1)

func (p Point) read(c *input.Checks, path string) xy {
	return xy{float64(input.Within(c, path+".x", p.X, -room, room, true)),
		float64(input.Within(c, path+".y", p.Y, -room, room, true))}
}

func pointOf(c *input.Checks, path string, p *Point) xy {
	if p == nil {
		c.Add(path, "x and y", "missing")
		return xy{}
	}
	return p.read(c, path)
}

// read makes the guide of a linkage; nil where something is wrong with it.
func (l Linkage) read(c *input.Checks, axle xy) guide {
	before := len(c.Fields)
	var g guide
	switch l.Kind {
	case "leaf":
		g = l.leaf(c, axle)
	case "arm":
		pivot := pointOf(c, "linkage.pivot", l.Pivot)
		if len(c.Fields) == before && !input.Over(axle.minus(pivot).size(), 0) {
			c.Add("linkage.pivot", "a place away from the axle", "it is the axle's centre")
		}
		g = arc{pivot, axle, true}
	case "links":
		g = l.links(c, axle)
	default:
		c.Add("linkage.kind", "leaf, arm, links", "%q is none", l.Kind)
	}
	if len(c.Fields) > before {
		return nil
	}
	return g
}

// leafShare: a leaf that bends evenly carries its end along an arc of three quarters of
// its length: x = l·sin θ/θ, y = l·(1 − cos θ)/θ to the second order. Derived; also
// common practice.
const leafShare = 0.75

func (l Linkage) leaf(c *input.Checks, axle xy) guide {
	eye := pointOf(c, "linkage.eye", l.Eye)
	length := float64(input.Positive(c, "linkage.length", l.Length, 5*quantity.Length(1)))
	if len(c.Fields) > 0 {
		return nil
	}
	apart := axle.minus(eye).size()
	if input.Under(length, apart) || input.Over(length, 1.2*apart) {
		c.Add(
			"linkage.length",
			"from the distance of eye and axle to 1.2 times it",
			"%s over a distance of %s",
			l.Length,
			quantity.SayDifference(quantity.Length(apart), l.Length.Unit),
		)
		return nil
	}
	radius, high := leafShare*length, axle.y-eye.y
	if math.Abs(high) >= radius {
		c.Add("linkage.eye", "an eye about as high as the axle", "it is too far above or below")
		return nil
	}
	away := math.Copysign(math.Sqrt(radius*radius-high*high), axle.x-eye.x)
	return arc{xy{axle.x - away, eye.y}, axle, false}
}

// arc is an axle on a circle, rigid with its radius or not turning at all.
type arc struct {
	centre, ride xy
	turns        bool
}

func (a arc) pose(travel float64, _ pose) (pose, bool) {
	arm := a.ride.minus(a.centre)
	y := arm.y + travel
	rest := arm.dot(arm) - y*y
	if rest < 0 {
		return pose{}, false
	}
	now := xy{math.Copysign(math.Sqrt(rest), arm.x), y}
	p := pose{at: a.centre.plus(now)}
	if a.turns {
		p.turn = math.Atan2(arm.x*now.y-arm.y*now.x, arm.dot(now))
	}
	return p, true
}

// fourBar is an axle between two links.
type fourBar struct {
	ride      xy
	body, arm [2]xy // of each link: on the body, and on the axle from its centre
	squared   [2]float64
	sign      float64 // of the determinant at ride height
}

func (l Linkage) links(c *input.Checks, axle xy) guide {
	f := fourBar{ride: axle}
	for i, link := range []*Link{l.Lower, l.Upper} {
		at := "linkage." + []string{"lower", "upper"}[i]
		if link == nil {
			c.Add(at, "body and axle", "missing")
			continue
		}
		f.body[i] = link.Body.read(c, at+".body")
		f.arm[i] = link.Axle.read(c, at+".axle").minus(axle)
		reach := axle.plus(f.arm[i]).minus(f.body[i])
		if f.squared[i] = reach.dot(reach); !input.Over(f.squared[i], 0) {
			c.Add(at, "two places apart", "body and axle are one place")
		}
	}
	if len(c.Fields) > 0 {
		return nil
	}
	_, det := f.step(pose{at: axle}, axle.y)
	if f.sign = math.Copysign(1, det); math.Abs(det) < 1e-9 {
		c.Add("linkage", "links that let the axle move up and down", "at ride height they stand at a dead point")
		return nil
	}
	return f
}

// step is one step of Newton's method toward the pose at a height: what is left of each
// link's length is taken out by x and turn. det is that of the two equations.
func (f fourBar) step(p pose, y float64) (next pose, det float64) {
	p.at.y = y
	var left, byX, byTurn [2]float64
	for i := range f.arm {
		arm := f.arm[i].turned(p.turn)
		reach := p.at.plus(arm).minus(f.body[i])
		left[i] = reach.dot(reach) - f.squared[i]
		byX[i] = 2 * reach.x
		byTurn[i] = 2 * (reach.y*arm.x - reach.x*arm.y)
	}
	det = byX[0]*byTurn[1] - byX[1]*byTurn[0]
	next = p
	next.at.x -= (left[0]*byTurn[1] - left[1]*byTurn[0]) / det
	next.turn -= (byX[0]*left[1] - byX[1]*left[0]) / det
	return next, det
}

// Newton is taken as settled within these, and as lost after so many steps.
const (
	settledTo  = 1e-9
	newtonMost = 12
	farthest   = 0.1 // in metres and radians, from one pose to the next
)

func (f fourBar) pose(travel float64, from pose) (pose, bool) {
	p := from
	for range newtonMost {
		next, det := f.step(p, f.ride.y+travel)
		if det*f.sign <= 0 || math.IsNaN(next.at.x) {
			return p, false
		}
		moved := math.Abs(next.at.x-p.at.x) + math.Abs(next.turn-p.turn)
		p = next
		if math.Abs(p.at.x-from.at.x) > farthest || math.Abs(p.turn-from.turn) > farthest {
			return p, false
		}
		if moved < settledTo { // the next step would be its square
			return p, true
		}
	}
	return p, false
}
