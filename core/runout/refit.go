package runout

import (
	"fmt"
	"math"

	"handwerk/core/quantity"
)

// What a dowel that was not turned home can explain. Our judgement.
const (
	mostShort  = 60.0                // degrees; beyond it the hand would have noticed
	leastShort = 2 * setDeg          // degrees; less is how well an eye turns it
	unlike     = 0.5 * quantity.Thou // what is left unexplained at most, or the readings' own uncertainty
)

// standsShort finds the one dowel whose being turned too little or too far explains
// where the bore went at the last refit; none where the refit did what it should, or
// no dowel alone explains it. The angle that leaves least, to a degree.
func (h housing) standsShort(in HousingIn) string {
	b := in.Before
	if b == nil || len(b.Dowels) != 2 || len(in.Dowels) != 2 {
		return ""
	}
	sure := math.Max(float64(unlike), nanAsNought(h.expanded))
	missed := vec{h.x, h.y}.minus(vec{float64(b.ExpectedRight.SI()), float64(b.ExpectedUp.SI())})
	if math.Sqrt(missed.dot(missed)) <= sure {
		return ""
	}
	best, which, by := math.Inf(1), 0, 0.0
	for i := range b.Dowels {
		for deg := -mostShort; deg <= mostShort; deg++ {
			left := missed.minus(h.turnedBy(b.Dowels, i, deg))
			if d := math.Sqrt(left.dot(left)); d < best-1e-12 {
				best, which, by = d, i, deg
			}
		}
	}
	if best > sure || math.Abs(by) < leastShort {
		return ""
	}
	way := "short of"
	if by > 0 {
		way = "past"
	}
	return fmt.Sprintf("the %s dowel stands %.0f degrees %s %s", h.dowelNamed(which), math.Abs(by), way,
		clockWords(b.Dowels[which].Clock))
}

// turnedBy is how the bore moves when one dowel is turned on by some degrees.
func (h housing) turnedBy(dowels []Dowel, which int, deg float64) vec {
	at := func(i int, more float64) vec {
		return toward(float64(dowels[i].Size.SI()), dowels[i].Clock*30+more)
	}
	was, _, _ := h.move(at(0, 0), at(1, 0))
	more := [2]float64{}
	more[which] = deg
	now, _, _ := h.move(at(0, more[0]), at(1, more[1]))
	return now.minus(was)
}

// dowelNamed is how one says which of the two.
func (h housing) dowelNamed(i int) string {
	p, other := h.p1, h.p2
	if i == 1 {
		p, other = other, p
	}
	switch {
	case p.y-other.y > 5e-3:
		return "upper"
	case other.y-p.y > 5e-3:
		return "lower"
	case p.x < other.x:
		return "left"
	}
	return "right"
}

func nanAsNought(x float64) float64 {
	if math.IsNaN(x) {
		return 0
	}
	return x
}
