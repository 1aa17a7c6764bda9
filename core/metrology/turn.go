package metrology

import "math"

// TurnPoint is a reading at a part of a turn, 0 at its mark up to 1.
type TurnPoint struct {
	Part  float64 `json:"part"`
	Value float64 `json:"value"`
}

// What a followed turn needs and gives.
const (
	turnPlaces  = 24       // and the mark again, which tells whether the base held
	turnFewest  = 24       // readings of a turn; fewer are none
	turnHole    = 1.0 / 8  // the widest part of a turn without one
	turnMost    = 20_000   // readings of a turn that are held
	turnReaches = 1.0 / 40 // how far round a place its line is fitted
	turnWraps   = 1.0 / 2  // a part that falls by more has passed the mark
)

// TurnFollower gathers what an indicator reads while the crank goes round: from
// mark to mark, or by the part of the turn that stands at each reading. A whole
// turn becomes readings at 24 places and at the mark again, each the value of a
// least-squares line through the readings round it. The zero value is ready.
type TurnFollower struct {
	points []timedPart
	begun  bool    // a mark has been passed
	from   float64 // when
	last   float64 // the part that was read last
}

type timedPart struct{ at, part, value float64 }

// Take takes a reading; part is its part of the turn, NaN where the gauge says none.
// A part that goes back past the mark ends the turn.
func (f *TurnFollower) Take(at, value, part float64) ([]TurnPoint, bool) {
	var whole []TurnPoint
	ended := false
	if !math.IsNaN(part) {
		if f.last-part > turnWraps {
			whole, ended = f.end(at)
		}
		f.last = part
	}
	if f.begun && len(f.points) < turnMost {
		f.points = append(f.points, timedPart{at, part, value})
	}
	return whole, ended
}

// Mark is the mark of the turn going by.
func (f *TurnFollower) Mark(at float64) ([]TurnPoint, bool) { return f.end(at) }

// Break forgets the turn that was begun: the stream was lost.
func (f *TurnFollower) Break() { *f = TurnFollower{} }

// end closes a turn and begins the next; at is when the mark went by, by which
// readings without a part get theirs.
func (f *TurnFollower) end(at float64) ([]TurnPoint, bool) {
	points := f.points
	was, from := f.begun, f.from
	f.points, f.begun, f.from, f.last = nil, true, at, 0
	if !was || len(points) < turnFewest {
		return nil, false
	}
	for i := range points {
		if math.IsNaN(points[i].part) {
			if !(at > from) {
				return nil, false
			}
			points[i].part = (points[i].at - from) / (at - from)
		}
	}
	if widestHole(points) > turnHole {
		return nil, false
	}
	turn := make([]TurnPoint, 0, turnPlaces+1)
	for i := range turnPlaces + 1 {
		part := float64(i) / turnPlaces
		turn = append(turn, TurnPoint{part, valueAt(points, part)})
	}
	return turn, true
}

func widestHole(points []timedPart) float64 {
	widest, last := 0.0, 0.0
	for _, p := range points {
		widest, last = max(widest, math.Abs(p.part-last)), p.part
	}
	return max(widest, 1-last)
}

// valueAt is the least-squares line round a place, at the place; with too few
// readings round it, the line between its neighbours.
func valueAt(points []timedPart, part float64) float64 {
	var n, x, y, xx, xy float64
	for _, p := range points {
		d := p.part - part
		if math.Abs(d) > turnReaches {
			continue
		}
		n, x, y, xx, xy = n+1, x+d, y+p.value, xx+d*d, xy+d*p.value
	}
	if det := n*xx - x*x; n >= 3 && det > 1e-12 {
		return (y*xx - x*xy) / det
	}
	before, after := points[0], points[len(points)-1]
	for _, p := range points {
		if p.part <= part {
			before = p
		}
		if p.part >= part {
			after = p
			break
		}
	}
	if after.part <= before.part {
		return before.value
	}
	return before.value + (after.value-before.value)*(part-before.part)/(after.part-before.part)
}
